//! PCF, the Portable Compiled Format of the X Window System, in every order of
//! bytes and bits and every padding.

use super::Strike;
use super::charset::Charset;
use super::strike::{Missing, StrikeGlyph};
use crate::font::table::Table;
use crate::font::{FontError, Tag};

pub(super) const MAGIC: [u8; 4] = [1, b'f', b'c', b'p'];

/// Types of tables.
mod kind {
    pub(super) const PROPERTIES: u32 = 1 << 0;
    pub(super) const ACCELERATORS: u32 = 1 << 1;
    pub(super) const METRICS: u32 = 1 << 2;
    pub(super) const BITMAPS: u32 = 1 << 3;
    pub(super) const ENCODINGS: u32 = 1 << 5;
}

/// Bits of a table's format.
mod format {
    /// Rows are padded to 1, 2, 4 or 8 bytes.
    pub(super) const PADDING: u32 = 3;
    /// The most significant byte comes first.
    pub(super) const BIG_BYTES: u32 = 1 << 2;
    /// The leftmost pixel is the most significant bit.
    pub(super) const BIG_BITS: u32 = 1 << 3;
    /// Bits are stored in units of 1, 2 or 4 bytes.
    pub(super) const UNIT_SHIFT: u32 = 4;
    pub(super) const SMALL_METRICS: u32 = 1 << 8;
}

/// The largest side of a glyph and of the em, in pixels.
const LARGEST: i32 = 255;

/// A table after its format word, in the byte order that it states.
struct PcfTable<'a> {
    table: Table<'a>,
    format: u32,
}

impl<'a> PcfTable<'a> {
    /// The table of a type; `None` where the file lacks it.
    fn find(pcf: &Table<'a>, wanted: u32) -> Result<Option<Self>, FontError> {
        let number = |at: usize| pcf.u32(at).map(u32::swap_bytes);
        for entry in 0..number(4)? as usize {
            let at = 8 + entry * 16;
            if number(at)? == wanted {
                let start = number(at + 12)? as usize;
                let format = number(start)?;
                return Ok(Some(Self {
                    table: pcf.from(start.saturating_add(4))?,
                    format,
                }));
            }
        }
        Ok(None)
    }

    fn required(pcf: &Table<'a>, wanted: u32, name: &'static [u8; 4]) -> Result<Self, FontError> {
        Self::find(pcf, wanted)?.ok_or(FontError::MissingTable(Tag::new(name)))
    }

    fn is(&self, flag: u32) -> bool {
        self.format & flag != 0
    }

    fn word(&self, at: usize) -> Result<u16, FontError> {
        let word = self.table.u16(at)?;
        Ok(if self.is(format::BIG_BYTES) {
            word
        } else {
            word.swap_bytes()
        })
    }

    fn long(&self, at: usize) -> Result<u32, FontError> {
        let long = self.table.u32(at)?;
        Ok(if self.is(format::BIG_BYTES) {
            long
        } else {
            long.swap_bytes()
        })
    }
}

/// Looks whether the tables are there that a font needs.
pub(super) fn check(bytes: &[u8]) -> Result<(), FontError> {
    let pcf = Table::new(Tag::new(b"PCF "), bytes);
    PcfTable::required(&pcf, kind::METRICS, b"metr")?;
    PcfTable::required(&pcf, kind::BITMAPS, b"bits").map(drop)
}

pub(super) fn read(bytes: &[u8]) -> Result<Strike, FontError> {
    let pcf = Table::new(Tag::new(b"PCF "), bytes);
    let metrics = read_metrics(&PcfTable::required(&pcf, kind::METRICS, b"metr")?)?;
    let bitmaps = PcfTable::required(&pcf, kind::BITMAPS, b"bits")?;
    let mut glyphs = Vec::new();
    for (number, [left, right, advance, ascent, descent]) in metrics.into_iter().enumerate() {
        let (width, height) = (right - left, ascent + descent);
        let in_range = |side: i32| (0..=LARGEST).contains(&side);
        let is_near = |place: i32| place.abs() <= LARGEST;
        if !in_range(width)
            || !in_range(height)
            || !in_range(advance)
            || !is_near(left)
            || !is_near(descent)
        {
            let expected = "widths, heights and advances have to be 0 to 255";
            return Err(pcf.bad(0, "metrics of glyph", number as i64, expected));
        }
        glyphs.push(StrikeGlyph {
            characters: Vec::new(),
            advance: advance as u16,
            left: left as i16,
            bottom: -descent as i16,
            width: width as u16,
            height: height as u16,
            bits: read_rows(&bitmaps, number, width as u16, height as usize)?,
            levels: Vec::new(),
        });
    }
    let charset = read_charset(&pcf)?;
    let default = read_encodings(&pcf, charset, &mut glyphs)?;
    Ok(Strike {
        is_private: charset == Charset::Private,
        ..finish(&pcf, glyphs, default)?
    })
}

/// Left, right, advance, ascent and descent of every glyph.
fn read_metrics(metrics: &PcfTable<'_>) -> Result<Vec<[i32; 5]>, FontError> {
    let is_small = metrics.is(format::SMALL_METRICS);
    let (count, start, size) = if is_small {
        (usize::from(metrics.word(0)?), 2, 5)
    } else {
        (metrics.long(0)? as usize, 4, 12)
    };
    if count >= usize::from(u16::MAX) {
        return Err(metrics
            .table
            .bad(0, "glyphs", count as i64, "there may be 65534 at most"));
    }
    metrics.table.slice(start, count * size)?;
    let number = |at: usize, column: usize| {
        if is_small {
            metrics
                .table
                .u8(at + column)
                .map(|byte| i32::from(byte) - 0x80)
        } else {
            metrics
                .word(at + column * 2)
                .map(|word| i32::from(word as i16))
        }
    };
    let glyph = |index: usize| {
        let at = start + index * size;
        let mut five = [0; 5];
        for (column, slot) in five.iter_mut().enumerate() {
            *slot = number(at, column)?;
        }
        Ok(five)
    };
    (0..count).map(glyph).collect()
}

/// The rows of one glyph in our order: bytes from the left, the leftmost pixel in
/// the highest bit, no padding.
fn read_rows(
    bitmaps: &PcfTable<'_>,
    number: usize,
    width: u16,
    height: usize,
) -> Result<Vec<u8>, FontError> {
    let count = bitmaps.long(0)? as usize;
    if number >= count {
        let expected = "there should be one for every glyph";
        return Err(bitmaps.table.bad(0, "bitmaps", count as i64, expected));
    }
    let padding = 1_usize << (bitmaps.format & format::PADDING);
    let data = 4 + count * 4 + 16;
    let start = data.saturating_add(bitmaps.long(4 + number * 4)? as usize);
    let row_bytes = StrikeGlyph::row_bytes(width);
    let stride = row_bytes.next_multiple_of(padding);
    let mut rows = bitmaps.table.slice(start, stride * height)?.to_vec();
    if !bitmaps.is(format::BIG_BITS) {
        rows.iter_mut().for_each(|byte| *byte = byte.reverse_bits());
    }
    if bitmaps.is(format::BIG_BITS) != bitmaps.is(format::BIG_BYTES) {
        let unit = 1_usize << (bitmaps.format >> format::UNIT_SHIFT & 3);
        rows.chunks_mut(unit).for_each(<[u8]>::reverse);
    }
    Ok(rows
        .chunks(stride.max(1))
        .flat_map(|row| &row[..row_bytes])
        .copied()
        .collect())
}

/// Gives the glyphs their characters; returns the one for missing characters.
fn read_encodings(
    pcf: &Table<'_>,
    charset: Charset,
    glyphs: &mut [StrikeGlyph],
) -> Result<Option<usize>, FontError> {
    let encodings = PcfTable::required(pcf, kind::ENCODINGS, b"enco")?;
    let [low, high, first_row, last_row, default] =
        [0, 2, 4, 6, 8].map(|at| encodings.word(at).map(u32::from));
    let (low, high, first_row, last_row) = (low?, high?, first_row?, last_row?);
    let default = default?;
    if low > high || first_row > last_row || high > 0xff && last_row > 0 {
        let expected = "the ranges of codes are not in order";
        return Err(encodings.table.bad(0, "encodings", low.into(), expected));
    }
    let mut found = None;
    let codes =
        (first_row..=last_row).flat_map(|row| (low..=high).map(move |code| row << 8 | code));
    for (index, code) in codes.enumerate() {
        let glyph = usize::from(encodings.word(10 + index * 2)?);
        if let (Some(glyph_at), Some(character)) = (glyphs.get_mut(glyph), charset.character(code))
        {
            glyph_at.characters.push(character);
            if code == default {
                found = Some(glyph);
            }
        }
    }
    Ok(found)
}

fn finish(
    pcf: &Table<'_>,
    glyphs: Vec<StrikeGlyph>,
    default: Option<usize>,
) -> Result<Strike, FontError> {
    let accelerators = PcfTable::required(pcf, kind::ACCELERATORS, b"acce")?;
    let (ascent, descent) = (accelerators.long(8)? as i32, accelerators.long(12)? as i32);
    let mut strike = Strike {
        is_private: false,
        family: "Bitmap font".to_owned(),
        is_bold: false,
        pixels: 0,
        ascent: ascent.clamp(-LARGEST, LARGEST) as i16,
        descent: descent.clamp(-LARGEST, LARGEST) as i16,
        glyphs,
        line_gap: 0,
        missing: default.map_or(Missing::Box, Missing::Same),
    };
    if let Some(properties) = PcfTable::find(pcf, kind::PROPERTIES)? {
        read_properties(&properties, &mut strike)?;
    }
    if strike.pixels == 0 {
        strike.pixels = (strike.ascent + strike.descent).clamp(1, LARGEST as i16) as u16;
    }
    Ok(strike)
}

fn read_properties(properties: &PcfTable<'_>, strike: &mut Strike) -> Result<(), FontError> {
    each_property(properties, |name, value, text| {
        match name {
            "FAMILY_NAME" => strike.family = text()?,
            "WEIGHT_NAME" => strike.is_bold = text()?.to_lowercase().contains("bold"),
            "PIXEL_SIZE" if (1..=LARGEST as u32).contains(&value) => strike.pixels = value as u16,
            _ => {}
        }
        Ok(())
    })
}

/// The font's charset.
fn read_charset(pcf: &Table<'_>) -> Result<Charset, FontError> {
    let (mut registry, mut encoding, mut font) = (None, None, None);
    if let Some(properties) = PcfTable::find(pcf, kind::PROPERTIES)? {
        each_property(&properties, |name, _, text| {
            match name {
                "CHARSET_REGISTRY" => registry = Some(text()?),
                "CHARSET_ENCODING" => encoding = Some(text()?),
                "FONT" => font = Some(text()?),
                _ => {}
            }
            Ok(())
        })?;
    }
    Ok(match (registry, font) {
        (Some(registry), _) => Charset::of(&registry, &encoding.unwrap_or_default()),
        (None, Some(font)) => Charset::of_name(&font),
        (None, None) => Charset::Unicode,
    })
}

/// Hands out the name and the value of every property, and what reads the value as the
/// place of a text.
fn each_property(
    properties: &PcfTable<'_>,
    mut found: impl FnMut(&str, u32, &dyn Fn() -> Result<String, FontError>) -> Result<(), FontError>,
) -> Result<(), FontError> {
    let count = properties.long(0)? as usize;
    let table = properties.table;
    table.slice(4, count.saturating_mul(9))?;
    // Nine bytes a property, padded to whole words; then the strings.
    let strings = 4 + (count * 9).next_multiple_of(4) + 4;
    let string = |offset: u32| -> Result<String, FontError> {
        let rest = table.from(strings.saturating_add(offset as usize))?;
        let text = rest
            .bytes()
            .split(|byte| *byte == 0)
            .next()
            .unwrap_or_default();
        Ok(String::from_utf8_lossy(text).into_owned())
    };
    for property in (4..).step_by(9).take(count) {
        let value = properties.long(property + 5)?;
        found(&string(properties.long(property)?)?, value, &|| {
            string(value)
        })?;
    }
    Ok(())
}
