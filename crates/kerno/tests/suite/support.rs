//! The demo's fonts, and a builder of tiny ones.

use kerno::Face;
use kerno::base::Limits;
use kerno::font::{FontError, GlyphId};

pub(crate) static LATO: &[u8] = include_bytes!("../../demo/ferry/fonts/Lato-Medium.ttf");
pub(crate) static AVERIA: &[u8] = include_bytes!("../../demo/ferry/fonts/AveriaSerifGWF-Bold.ttf");
pub(crate) static MISAKI: &[u8] = include_bytes!("../../demo/ferry/fonts/misaki_gothic.ttf");

/// The folder of the demo world.
pub(crate) const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");

pub(crate) fn lato() -> Face {
    Face::from_bytes(LATO).expect("a font")
}

pub(crate) fn averia() -> Face {
    Face::from_bytes(AVERIA).expect("a font")
}

pub(crate) fn misaki() -> Face {
    Face::from_bytes(MISAKI).expect("a font")
}

/// Opens a font and does what that puts off.
pub(crate) fn prepared(bytes: Vec<u8>) -> Result<Face, FontError> {
    prepared_with(bytes, Limits::default())
}

pub(crate) fn prepared_with(bytes: Vec<u8>, limits: Limits) -> Result<Face, FontError> {
    let face = Face::from_bytes_with(bytes, 0, limits)?;
    face.prepare().map(|()| face)
}

pub(crate) fn glyph(face: &Face, character: char) -> GlyphId {
    face.glyph(character).expect("a character of the face")
}

/// Big-endian 16-bit words as bytes.
pub(crate) fn words(words: &[i32]) -> Vec<u8> {
    words
        .iter()
        .flat_map(|word| (*word as u16).to_be_bytes())
        .collect()
}

/// A font file put together table by table (OpenType, “Organization of an
/// OpenType Font”).
#[derive(Clone)]
pub(crate) struct FontBuilder(Vec<([u8; 4], Vec<u8>)>);

impl FontBuilder {
    /// A face of 1000 units per em with the given glyph data; glyph n is
    /// 500 + 10n units wide with a left side bearing of n. It has no `cmap`.
    pub(crate) fn new(glyphs: &[Vec<u8>]) -> Self {
        let count = glyphs.len() as i32;
        let mut head = vec![0; 54];
        head[18..20].copy_from_slice(&1000_u16.to_be_bytes());
        head[51] = 1; // 32-bit offsets in 'loca'
        let mut hhea = vec![0; 36];
        hhea[4..10].copy_from_slice(&words(&[800, -200, 100]));
        hhea[34..36].copy_from_slice(&words(&[count]));
        let hmtx: Vec<i32> = (0..count).flat_map(|n| [500 + 10 * n, n]).collect();
        let mut glyf = Vec::new();
        let mut loca = 0_u32.to_be_bytes().to_vec();
        for glyph in glyphs {
            glyf.extend(glyph);
            loca.extend((glyf.len() as u32).to_be_bytes());
        }
        let mut maxp = vec![0, 1, 0, 0];
        maxp.extend(words(&[count]));
        Self(Vec::new())
            .table(b"head", head)
            .table(b"hhea", hhea)
            .table(b"hmtx", words(&hmtx))
            .table(b"loca", loca)
            .table(b"glyf", glyf)
            .table(b"maxp", maxp)
    }

    /// Adds a table, or puts another in its place.
    pub(crate) fn table(mut self, tag: &[u8; 4], bytes: Vec<u8>) -> Self {
        self.0.retain(|(other, _)| other != tag);
        self.0.push((*tag, bytes));
        self
    }

    pub(crate) fn without(mut self, tag: &[u8; 4]) -> Self {
        self.0.retain(|(other, _)| other != tag);
        self
    }

    /// Changes bytes of a table.
    pub(crate) fn patch(mut self, tag: &[u8; 4], at: usize, bytes: &[u8]) -> Self {
        let (_, table) = self
            .0
            .iter_mut()
            .find(|(other, _)| other == tag)
            .expect("the table");
        table[at..at + bytes.len()].copy_from_slice(bytes);
        self
    }

    pub(crate) fn build(&self) -> Vec<u8> {
        let mut file = vec![0, 1, 0, 0];
        file.extend(words(&[self.0.len() as i32, 0, 0, 0]));
        let mut offset = 12 + 16 * self.0.len();
        for (tag, bytes) in &self.0 {
            file.extend(tag);
            for number in [0, offset as u32, bytes.len() as u32] {
                file.extend(number.to_be_bytes());
            }
            offset += bytes.len();
        }
        file.extend(self.0.iter().flat_map(|(_, bytes)| bytes));
        file
    }

    pub(crate) fn face(&self) -> Face {
        Face::from_bytes(self.build()).expect("a font")
    }
}

/// A simple glyph of straight lines: one contour, every point on the curve, all
/// coordinates as words.
pub(crate) fn polygon(points: &[(i32, i32)]) -> Vec<u8> {
    let on_curve = points
        .iter()
        .map(|&(x, y)| (x, y, true))
        .collect::<Vec<_>>();
    contour(&on_curve)
}

/// A simple glyph of one contour; each point says whether it is on the curve.
pub(crate) fn contour(points: &[(i32, i32, bool)]) -> Vec<u8> {
    let low = |axis: fn(&(i32, i32, bool)) -> i32| points.iter().map(axis).min().unwrap_or(0);
    let high = |axis: fn(&(i32, i32, bool)) -> i32| points.iter().map(axis).max().unwrap_or(0);
    let mut data = words(&[
        1,
        low(|p| p.0),
        low(|p| p.1),
        high(|p| p.0),
        high(|p| p.1),
        points.len() as i32 - 1,
        0,
    ]);
    data.extend(points.iter().map(|point| u8::from(point.2)));
    for axis in [|p: &(i32, i32, bool)| p.0, |p: &(i32, i32, bool)| p.1] {
        let mut last = 0;
        for point in points {
            data.extend(words(&[axis(point) - last]));
            last = axis(point);
        }
    }
    data
}

/// A composite glyph: bounds of 0, then the components' records.
pub(crate) fn composite(records: &[i32]) -> Vec<u8> {
    let mut data = words(&[-1, 0, 0, 0, 0]);
    data.extend(words(records));
    data
}

/// A `cmap` with one format 12 subtable of (first, last, first glyph) groups.
pub(crate) fn cmap12(groups: &[[u32; 3]]) -> Vec<u8> {
    let mut data = words(&[0, 1, 3, 10, 0, 12, 12, 0]);
    for number in [16 + 12 * groups.len() as u32, 0, groups.len() as u32] {
        data.extend(number.to_be_bytes());
    }
    data.extend(
        groups
            .iter()
            .flatten()
            .flat_map(|number| number.to_be_bytes()),
    );
    data
}

pub(crate) fn word(bytes: &[u8], at: usize) -> u16 {
    u16::from_be_bytes([bytes[at], bytes[at + 1]])
}

pub(crate) fn long(bytes: &[u8], at: usize) -> usize {
    (usize::from(word(bytes, at)) << 16) + usize::from(word(bytes, at + 2))
}

pub(crate) fn table<'a>(font: &'a [u8], tag: &[u8; 4]) -> &'a [u8] {
    let record = (0..usize::from(word(font, 4)))
        .map(|index| 12 + index * 16)
        .find(|at| font[*at..*at + 4] == *tag)
        .expect("the table");
    &font[long(font, record + 8)..][..long(font, record + 12)]
}
