//! A strike as an OpenType font: tables of the squares of its pixels.

use std::collections::BTreeMap;

use super::Strike;
use super::strike::{Missing, StrikeGlyph};
use crate::font::tables::assemble;
use crate::font::{FontError, NameId, Tag};

/// Font units in a pixel: a strike of one pixel is still an em of 64 units, one of
/// 255 still fits the largest em of 16384.
pub(in crate::font) const UNITS: i32 = 64;

/// The tables of the font file, but for its name and its character map if `known`
/// brings them along.
pub(in crate::font) fn open_type(
    strike: &Strike,
    known: Vec<(Tag, Vec<u8>)>,
) -> Result<Vec<u8>, FontError> {
    let notdef = match strike.missing {
        Missing::Box => Some(hollow_box(strike)),
        Missing::Same(glyph) => {
            let glyph = &strike.glyphs[glyph];
            Some(StrikeGlyph {
                characters: Vec::new(),
                bits: glyph.bits.clone(),
                levels: Vec::new(),
                ..*glyph
            })
        }
        Missing::First => None,
    };
    let glyphs: Vec<&StrikeGlyph> = notdef.iter().chain(&strike.glyphs).collect();
    let (mut glyf, mut loca, mut hmtx) = (Vec::new(), vec![0; 4], Vec::new());
    let mut characters: BTreeMap<char, u16> = BTreeMap::new();
    let mut extent: Option<[i32; 4]> = None;
    for (number, glyph) in glyphs.iter().enumerate() {
        for character in &glyph.characters {
            characters.entry(*character).or_insert(number as u16);
        }
        let bounds = outline(glyph, &mut glyf)?;
        let end = u32::try_from(glyf.len());
        let too_large = |_| FontError::NotAFont("the bitmaps come to more than 4 GiB of outlines");
        loca.extend(end.map_err(too_large)?.to_be_bytes());
        let left = bounds.map_or(0, |bounds| bounds[0]);
        words(&mut hmtx, &[i32::from(glyph.advance) * UNITS, left]);
        extent = bounds
            .map(|bounds| extent.map_or(bounds, |all| around(all, bounds)))
            .or(extent);
    }
    let count = glyphs.len() as i32;
    let mut maxp = vec![0, 1, 0, 0];
    words(&mut maxp, &[count]);
    let tables = [
        (b"OS/2", os2(strike)),
        (b"cmap", cmap(&characters)),
        (b"glyf", glyf),
        (b"head", head(strike, extent.unwrap_or_default())),
        (b"hhea", hhea(strike, count)),
        (b"hmtx", hmtx),
        (b"loca", loca),
        (b"maxp", maxp),
        (b"name", name(strike)),
    ];
    let mut all = known;
    for (tag, bytes) in tables {
        let tag: Tag = Tag::new(tag);
        if all.iter().all(|(known, _)| *known != tag) {
            all.push((tag, bytes));
        }
    }
    Ok(assemble([0, 1, 0, 0], &all))
}

/// A measure of a font with a number of units per em, in units of its strike.
pub(super) fn rescaled(measure: i16, units_per_em: u32, pixels: u16) -> [u8; 2] {
    let units = f32::from(pixels) * UNITS as f32;
    let value = f32::from(measure) * units / units_per_em as f32;
    (value.round() as i16).to_be_bytes()
}

/// The picture of a missing character where the font names no glyph for it.
fn hollow_box(strike: &Strike) -> StrikeGlyph {
    let (width, height) = (
        (strike.pixels / 2).clamp(1, 8),
        strike.ascent.clamp(1, 255) as u16,
    );
    let bits = (0..height).map(|row| {
        let full = 0xff_u8 << (8 - width);
        let sides = 0x80 | 0x80 >> (width - 1);
        if row == 0 || row + 1 == height {
            full
        } else {
            sides
        }
    });
    StrikeGlyph {
        characters: Vec::new(),
        advance: width + 1,
        left: 0,
        bottom: 0,
        width,
        height,
        bits: bits.collect(),
        levels: Vec::new(),
    }
}

#[inline]
fn words(table: &mut Vec<u8>, words: &[i32]) {
    for word in words {
        table.extend_from_slice(&(*word as u16).to_be_bytes());
    }
}

/// The smallest box (left, bottom, right, top) around two.
fn around(a: [i32; 4], b: [i32; 4]) -> [i32; 4] {
    [
        a[0].min(b[0]),
        a[1].min(b[1]),
        a[2].max(b[2]),
        a[3].max(b[3]),
    ]
}

/// Appends a glyph of rectangles to `glyf`; returns the box around them.
fn outline(glyph: &StrikeGlyph, glyf: &mut Vec<u8>) -> Result<Option<[i32; 4]>, FontError> {
    let rectangles: Vec<[i32; 4]> = glyph
        .rectangles()
        .iter()
        .map(|[left, top, right, bottom]| {
            let x = |column: u16| (i32::from(glyph.left) + i32::from(column)) * UNITS;
            let y = |row: u16| {
                (i32::from(glyph.bottom) + i32::from(glyph.height) - i32::from(row)) * UNITS
            };
            [x(*left), y(*bottom), x(*right), y(*top)]
        })
        .collect();
    let Some(bounds) = rectangles.iter().copied().reduce(around) else {
        return Ok(None);
    };
    // Points are numbered in 16 bits.
    if rectangles.len() > usize::from(u16::MAX) / 4 {
        return Err(FontError::NotAFont(
            "a glyph of its bitmaps is too finely patterned",
        ));
    }
    words(glyf, &[rectangles.len() as i32]);
    words(glyf, &bounds);
    for number in 1..=rectangles.len() as i32 {
        words(glyf, &[number * 4 - 1]);
    }
    words(glyf, &[0]); // no instructions
    glyf.extend(std::iter::repeat_n(1, rectangles.len() * 4)); // on the curve
    // From corner to corner, as TrueType's outer contours turn.
    let mut last = 0;
    for [left, _, right, _] in &rectangles {
        words(glyf, &[left - last, 0, right - left, 0]);
        last = *right;
    }
    let mut last = 0;
    for [_, bottom, _, top] in &rectangles {
        words(glyf, &[bottom - last, top - bottom, 0, bottom - top]);
        last = *bottom;
    }
    Ok(Some(bounds))
}

fn head(strike: &Strike, extent: [i32; 4]) -> Vec<u8> {
    let mut table = vec![0; 18];
    words(&mut table, &[i32::from(strike.pixels) * UNITS]);
    table.resize(36, 0);
    words(&mut table, &extent);
    table.resize(50, 0);
    words(&mut table, &[1, 0]); // 32-bit offsets in 'loca'
    table
}

fn hhea(strike: &Strike, count: i32) -> Vec<u8> {
    let mut table = vec![0; 4];
    let (ascent, descent) = (i32::from(strike.ascent), i32::from(strike.descent));
    let gap = i32::from(strike.line_gap);
    words(&mut table, &[ascent * UNITS, -descent * UNITS, gap * UNITS]);
    table.resize(34, 0);
    words(&mut table, &[count]);
    table
}

fn os2(strike: &Strike) -> Vec<u8> {
    let mut table = vec![0; 78];
    let weight: u16 = if strike.is_bold { 700 } else { 400 };
    table[4..6].copy_from_slice(&weight.to_be_bytes());
    table[7] = 5; // width class: normal
    table
}

/// One format 12 subtable of one-character groups.
fn cmap(characters: &BTreeMap<char, u16>) -> Vec<u8> {
    let mut table = Vec::new();
    words(&mut table, &[0, 1, 3, 10, 0, 12, 12, 0]);
    let count = characters.len() as u32;
    for number in [16 + 12 * count, 0, count] {
        table.extend(number.to_be_bytes());
    }
    for (character, glyph) in characters {
        let code = u32::from(*character);
        for number in [code, code, u32::from(*glyph)] {
            table.extend(number.to_be_bytes());
        }
    }
    table
}

fn name(strike: &Strike) -> Vec<u8> {
    let style = if strike.is_bold { "Bold" } else { "Regular" };
    let full = format!("{} {}", strike.family, strike.pixels);
    let texts = [
        (NameId::FAMILY, strike.family.as_str()),
        (NameId::SUBFAMILY, style),
        (NameId::FULL, &full),
    ];
    let (mut table, mut strings) = (Vec::new(), Vec::new());
    words(&mut table, &[0, 3, 6 + 12 * 3]);
    for (id, text) in texts {
        let start = strings.len() as i32;
        // A name that is too long for the table is cut.
        strings.extend(text.encode_utf16().take(200).flat_map(u16::to_be_bytes));
        let length = strings.len() as i32 - start;
        words(&mut table, &[3, 1, 0x409, id.0.into(), length, start]);
    }
    table.extend(strings);
    table
}
