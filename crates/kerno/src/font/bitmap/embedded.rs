//! Bitmap strikes inside OpenType fonts: `EBLC` says where, `EBDT` holds them.

use super::Strike;
use super::strike::{Missing, StrikeGlyph};
use crate::base::Limits;
use crate::font::table::Table;
use crate::font::tables::Directory;
use crate::font::{FontError, GlyphId, TableFault};

/// Length of a record of a strike in `EBLC`.
const RECORD: usize = 48;

/// The strikes of a font.
pub(super) struct Strikes<'a> {
    places: Table<'a>,
    data: Table<'a>,
    count: usize,
}

/// The size and the place of a glyph's bitmap (OpenType `EBDT`,
/// its small glyph metrics; the big ones say the same about level text).
#[derive(Clone, Copy)]
struct Metrics {
    height: u8,
    width: u8,
    left: i8,
    top: i8,
    advance: u8,
}

/// The place of the bitmap of a glyph.
struct Place {
    image_format: u16,
    at: usize,
    end: usize,
    /// Those of the whole range of glyphs, where they share them.
    metrics: Option<Metrics>,
}

/// The number of bits a pixel has, and how much composites of a glyph may still nest
/// and hold.
struct Left {
    bits: usize,
    depth: u32,
    parts: u32,
}

impl Metrics {
    const SMALL: usize = 5;
    const BIG: usize = 8;

    fn read(table: &Table<'_>, at: usize) -> Result<Self, FontError> {
        Ok(Self {
            height: table.u8(at)?,
            width: table.u8(at + 1)?,
            left: table.u8(at + 2)? as i8,
            top: table.u8(at + 3)? as i8,
            advance: table.u8(at + 4)?,
        })
    }
}

impl<'a> Strikes<'a> {
    /// Finds the tables; `None` in a font without strikes.
    pub(super) fn find(directory: &Directory, bytes: &'a [u8]) -> Result<Option<Self>, FontError> {
        Self::in_tables(directory, bytes, [b"EBLC", b"EBDT"])
    }

    fn in_tables(
        directory: &Directory,
        bytes: &'a [u8],
        [places, data]: [&'static [u8; 4]; 2],
    ) -> Result<Option<Self>, FontError> {
        let (Some(places), Some(data)) =
            (directory.table(bytes, places), directory.table(bytes, data))
        else {
            return Ok(None);
        };
        let count = places.u32(4)? as usize;
        places.slice(8, count.saturating_mul(RECORD))?;
        Ok((count > 0).then_some(Self {
            places,
            data,
            count,
        }))
    }

    /// Pixels per em of every strike, in the order of the file.
    pub(super) fn sizes(&self) -> Result<Vec<u16>, FontError> {
        (0..self.count)
            .map(|strike| self.places.u8(8 + strike * RECORD + 45).map(u16::from))
            .collect()
    }

    /// Reads a strike, with the glyphs in the order of the font and without their
    /// characters. Glyphs that the strike lacks get an advance of `advances`.
    pub(super) fn read(
        &self,
        strike: usize,
        glyphs: u16,
        limits: &Limits,
        advance_of: impl Fn(GlyphId, u16) -> u16,
    ) -> Result<Strike, FontError> {
        let record = 8 + strike * RECORD;
        let (pixels, depth) = (self.places.u8(record + 45)?, self.places.u8(record + 46)?);
        if !matches!(depth, 1 | 2 | 4 | 8) {
            let expected = "only strikes of 1, 2, 4 or 8 bits a pixel are read";
            return Err(self
                .places
                .bad(record + 46, "bitDepth", depth.into(), expected));
        }
        let pixels = u16::from(pixels.max(1));
        let places = self.places(record, glyphs)?;
        let mut list = Vec::new();
        for glyph in 0..glyphs {
            let mut read = StrikeGlyph::blank(advance_of(GlyphId(glyph), pixels));
            if let Some(place) = &places[usize::from(glyph)] {
                let mut left = Left {
                    bits: depth.into(),
                    depth: limits.composite_depth,
                    parts: limits.composite_components,
                };
                self.glyph(&places, place, &mut left, &mut read)?;
            }
            list.push(read);
        }
        Ok(Strike {
            family: String::new(),
            is_bold: false,
            is_private: false,
            pixels,
            ascent: i16::from(self.places.u8(record + 16)? as i8),
            descent: -i16::from(self.places.u8(record + 17)? as i8),
            glyphs: list,
            line_gap: 0,
            missing: Missing::First,
        })
    }

    /// The places of the bitmaps of all glyphs, by the index subtables of a strike
    /// (OpenType `EBLC`). Where two speak of a glyph, the first one counts.
    fn places(&self, record: usize, glyphs: u16) -> Result<Vec<Option<Place>>, FontError> {
        let eblc = &self.places;
        let (array, count) = (eblc.u32(record)? as usize, eblc.u32(record + 8)? as usize);
        eblc.slice(array, count.saturating_mul(8))?;
        let mut places: Vec<Option<Place>> = std::iter::repeat_with(|| None)
            .take(glyphs.into())
            .collect();
        let mut spoken_of = 0;
        for range in 0..count {
            let at = array + range * 8;
            let (first, last) = (eblc.u16(at)?, eblc.u16(at + 2)?);
            spoken_of += usize::from(last.saturating_sub(first)) + 1;
            if spoken_of > 2 * usize::from(u16::MAX) {
                let expected = "the ranges of glyphs overlap";
                return Err(eblc.bad(at, "firstGlyphIndex", first.into(), expected));
            }
            let subtable = eblc.from(array.saturating_add(eblc.u32(at + 4)? as usize))?;
            each_place(&subtable, first, last, |glyph, place| {
                if let Some(slot) = places.get_mut(usize::from(glyph)) {
                    slot.get_or_insert(place);
                }
            })?;
        }
        Ok(places)
    }

    /// OpenType `EBDT`, “Glyph bitmap data”, formats 1, 2 and 5 to 9.
    fn glyph(
        &self,
        places: &[Option<Place>],
        place: &Place,
        left: &mut Left,
        into: &mut StrikeGlyph,
    ) -> Result<(), FontError> {
        let whole = self
            .data
            .slice(place.at, place.end.saturating_sub(place.at))?;
        let end = place.at + whole.len();
        let (metrics, start) = match place.image_format {
            1 | 2 | 8 => (Metrics::read(&self.data, place.at)?, Metrics::SMALL),
            6 | 7 | 9 => (Metrics::read(&self.data, place.at)?, Metrics::BIG),
            5 => match place.metrics {
                Some(metrics) => (metrics, 0),
                None => return Err(self.bad_format(place)),
            },
            _ => return Err(self.bad_format(place)),
        };
        // One of 0 is left to `hmtx`: marks take no room there either.
        if metrics.advance > 0 {
            into.advance = metrics.advance.into();
        }
        into.left = metrics.left.into();
        into.bottom = i16::from(metrics.top) - i16::from(metrics.height);
        (into.width, into.height) = (metrics.width.into(), metrics.height.into());
        let row = StrikeGlyph::row_bytes(into.width);
        into.bits = vec![0; row * usize::from(into.height)];
        let at = place.at + start;
        let (width, height) = (usize::from(into.width), usize::from(into.height));
        if left.bits > 1 {
            into.levels = vec![0; width * height];
        }
        match place.image_format {
            1 | 2 | 5 | 6 | 7 => {
                let row = match place.image_format {
                    1 | 6 => (width * left.bits).next_multiple_of(8),
                    _ => width * left.bits,
                };
                let data = self.data.slice(at, (row * height).div_ceil(8))?;
                for y in 0..height {
                    for x in 0..width {
                        let level = level(data, y * row + x * left.bits, left.bits);
                        into.add(x as i32, y as i32, level);
                    }
                }
            }
            // Format 8 has a byte of padding after its metrics.
            8 => self.parts(places, at + 1, end, left, into)?,
            _ => self.parts(places, at, end, left, into)?,
        }
        Ok(())
    }

    /// The components of a composite bitmap.
    fn parts(
        &self,
        places: &[Option<Place>],
        at: usize,
        end: usize,
        left: &mut Left,
        into: &mut StrikeGlyph,
    ) -> Result<(), FontError> {
        let count = self.data.u16(at)?;
        if left.depth == 0 || left.parts < u32::from(count) {
            let expected = "composite bitmaps nest too deep, or one contains itself";
            return Err(self.data.bad(at, "numComponents", count.into(), expected));
        }
        left.depth -= 1;
        left.parts -= u32::from(count);
        for part in 0..usize::from(count) {
            let at = at + 2 + part * 4;
            if at + 4 > end {
                return Err(self.data.error(at, TableFault::Truncated));
            }
            let (x, y) = (self.data.u8(at + 2)? as i8, self.data.u8(at + 3)? as i8);
            let glyph = usize::from(self.data.u16(at)?);
            let Some(Some(place)) = places.get(glyph) else {
                continue;
            };
            let mut child = StrikeGlyph::blank(0);
            self.glyph(places, place, left, &mut child)?;
            for row in 0..child.height {
                for column in 0..child.width {
                    into.add(
                        i32::from(column) + i32::from(x),
                        i32::from(row) + i32::from(y),
                        child.level(column, row),
                    );
                }
            }
        }
        left.depth += 1;
        Ok(())
    }

    fn bad_format(&self, place: &Place) -> FontError {
        let expected = "it must be 1, 2 or 5 to 9, and 5 with an index format of 2 or 5";
        let format = place.image_format.into();
        self.places.bad(0, "imageFormat", format, expected)
    }
}

/// The strikes of a font whose bitmaps are PNGs (`CBLC`, `CBDT`).
pub(in crate::font) struct ColorBitmaps<'a>(Strikes<'a>);

/// A glyph's PNG, and where it goes: from the pen to its left edge, from the baseline up to
/// its top, or to its lower edge in `sbix`.
pub(in crate::font) type PlacedPng<'a> = (i16, i16, &'a [u8]);

impl<'a> ColorBitmaps<'a> {
    /// Finds the tables; `None` in a font without them.
    pub(in crate::font) fn find(
        directory: &Directory,
        bytes: &'a [u8],
    ) -> Result<Option<Self>, FontError> {
        Ok(Strikes::in_tables(directory, bytes, [b"CBLC", b"CBDT"])?.map(Self))
    }

    /// Pixels per em of every strike, in the order of the file.
    pub(in crate::font) fn sizes(&self) -> Result<Vec<u16>, FontError> {
        self.0.sizes()
    }

    /// The PNG of a glyph in a strike (OpenType `CBDT`, “Glyph bitmap data formats” 17 to 19).
    pub(in crate::font) fn png(
        &self,
        strike: usize,
        glyph: GlyphId,
    ) -> Result<Option<PlacedPng<'a>>, FontError> {
        let Strikes { places, data, .. } = &self.0;
        let record = 8 + strike * RECORD;
        let (array, count) = (
            places.u32(record)? as usize,
            places.u32(record + 8)? as usize,
        );
        places.slice(array, count.saturating_mul(8))?;
        let mut found = None;
        for range in 0..count {
            let at = array + range * 8;
            let (first, last) = (places.u16(at)?, places.u16(at + 2)?);
            if found.is_some() || !(first..=last).contains(&glyph.0) {
                continue;
            }
            let subtable = places.from(array.saturating_add(places.u32(at + 4)? as usize))?;
            each_place(&subtable, first, last, |own, place| {
                if own == glyph.0 {
                    found.get_or_insert(place);
                }
            })?;
        }
        let Some(place) = found else {
            return Ok(None);
        };
        let (metrics, length) = match place.image_format {
            17 => (Metrics::read(data, place.at)?, Metrics::SMALL),
            18 => (Metrics::read(data, place.at)?, Metrics::BIG),
            19 => match place.metrics {
                Some(metrics) => (metrics, 0),
                None => return Ok(None),
            },
            _ => return Ok(None),
        };
        let at = place.at.saturating_add(length);
        let png = data.slice(at.saturating_add(4), data.u32(at)? as usize)?;
        Ok(Some((metrics.left.into(), metrics.top.into(), png)))
    }
}

/// A pixel with a number of bits as a byte: as much of 255 as it is of its largest.
fn level(data: &[u8], bit: usize, bits: usize) -> u8 {
    let largest = (1_u16 << bits) - 1;
    let value = u16::from(data[bit / 8]) >> (8 - bits - bit % 8) & largest;
    (value * 255 / largest) as u8
}

/// Hands out where the bitmaps of a range of glyphs are, index formats 1 to 5.
fn each_place(
    subtable: &Table<'_>,
    first: u16,
    last: u16,
    mut found: impl FnMut(u16, Place),
) -> Result<(), FontError> {
    let (format, image_format) = (subtable.u16(0)?, subtable.u16(2)?);
    let base = subtable.u32(4)? as usize;
    let mut place = |glyph: u16, start: usize, end: usize, metrics| {
        if end > start {
            let place = Place {
                image_format,
                at: base.saturating_add(start),
                end: base.saturating_add(end),
                metrics,
            };
            found(glyph, place);
        }
    };
    // A list can't name more glyphs than there are in its range.
    let most = u32::from(last.saturating_sub(first)) + 1;
    let listed = |count: u32| count.min(most) as usize;
    // Formats 2 and 5: all of one size and shape.
    let shared = || Ok::<_, FontError>((subtable.u32(8)? as usize, Metrics::read(subtable, 12)?));
    match format {
        1 => {
            for (index, glyph) in (first..=last).enumerate() {
                let at = 8 + index * 4;
                let (start, end) = (subtable.u32(at)?, subtable.u32(at + 4)?);
                place(glyph, start as usize, end as usize, None);
            }
        }
        2 => {
            let (size, metrics) = shared()?;
            for (index, glyph) in (first..=last).enumerate() {
                let start = index.saturating_mul(size);
                place(glyph, start, start.saturating_add(size), Some(metrics));
            }
        }
        3 => {
            for (index, glyph) in (first..=last).enumerate() {
                let at = 8 + index * 2;
                let (start, end) = (subtable.u16(at)?, subtable.u16(at + 2)?);
                place(glyph, start.into(), end.into(), None);
            }
        }
        4 => {
            let count = listed(subtable.u32(8)?);
            for at in (12..).step_by(4).take(count) {
                let (start, end) = (subtable.u16(at + 2)?, subtable.u16(at + 6)?);
                place(subtable.u16(at)?, start.into(), end.into(), None);
            }
        }
        5 => {
            let (size, metrics) = shared()?;
            let count = listed(subtable.u32(20)?);
            for index in 0..count {
                let start = index.saturating_mul(size);
                let glyph = subtable.u16(24 + index * 2)?;
                place(glyph, start, start.saturating_add(size), Some(metrics));
            }
        }
        _ => return Err(subtable.bad(0, "indexFormat", format.into(), "it must be 1 to 5")),
    }
    Ok(())
}
