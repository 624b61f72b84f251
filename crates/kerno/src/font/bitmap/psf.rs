//! PSF 1 and 2: the console fonts of Linux, with their Unicode tables.

use super::Strike;
use super::strike::{Missing, StrikeGlyph};
use crate::font::table::Table;
use crate::font::{FontError, Tag};

pub(super) const MAGIC_1: [u8; 2] = [0x36, 0x04];
pub(super) const MAGIC_2: [u8; 4] = [0x72, 0xb5, 0x4a, 0x86];

/// Mode bits of version 1.
const HAS_512: u8 = 0x01;
const HAS_TABLE: u8 = 0x02 | 0x04;

/// The fields that both headers have.
struct Header {
    /// The byte at which the bitmaps start.
    start: usize,
    count: usize,
    width: u16,
    height: u16,
    glyph_bytes: usize,
    has_table: bool,
    is_second: bool,
}

pub(super) fn read(bytes: &[u8]) -> Result<Strike, FontError> {
    let psf = Table::new(Tag::new(b"PSF "), bytes);
    let header = if bytes.starts_with(&MAGIC_1) {
        version_1(&psf)?
    } else {
        version_2(&psf)?
    };
    let bitmaps = psf.slice(
        header.start,
        header.count.saturating_mul(header.glyph_bytes),
    )?;
    let table = psf.from(header.start + bitmaps.len())?;
    let mut characters = if header.has_table {
        read_characters(table.bytes(), header.count, header.is_second)
    } else {
        // Without a table the order is that of the first 256 of Unicode.
        (0..header.count)
            .map(|code| char::from_u32(code as u32).into_iter().collect())
            .collect()
    };
    characters.resize(header.count, Vec::new());
    // There is no baseline in the file: a quarter of the height goes below it, as
    // in the fonts of the standard text modes.
    let descent = (header.height / 4) as i16;
    let glyphs = bitmaps
        .chunks_exact(header.glyph_bytes)
        .zip(characters)
        .map(|(bits, characters)| StrikeGlyph {
            characters,
            advance: header.width,
            left: 0,
            bottom: -descent,
            width: header.width,
            height: header.height,
            bits: bits.to_vec(),
            levels: Vec::new(),
        })
        .collect();
    Ok(Strike {
        family: "Console font".to_owned(),
        is_bold: false,
        is_private: false,
        pixels: header.height,
        ascent: header.height as i16 - descent,
        descent,
        glyphs,
        line_gap: 0,
        missing: Missing::Box,
    })
}

fn version_1(psf: &Table<'_>) -> Result<Header, FontError> {
    let (mode, height) = (psf.u8(2)?, psf.u8(3)?);
    if height == 0 {
        return Err(psf.bad(3, "charsize", 0, "it must be at least 1"));
    }
    Ok(Header {
        start: 4,
        count: if mode & HAS_512 != 0 { 512 } else { 256 },
        width: 8,
        height: height.into(),
        glyph_bytes: height.into(),
        has_table: mode & HAS_TABLE != 0,
        is_second: false,
    })
}

fn version_2(psf: &Table<'_>) -> Result<Header, FontError> {
    let number = |at: usize| psf.u32(at).map(u32::swap_bytes);
    let (start, flags, count) = (number(8)?, number(12)?, number(16)?);
    let (glyph_bytes, height, width) = (number(20)?, number(24)?, number(28)?);
    for (at, field, side) in [(24, "height", height), (28, "width", width)] {
        if !(1..=255).contains(&side) {
            return Err(psf.bad(at, field, side.into(), "it must be 1 to 255"));
        }
    }
    if count >= u32::from(u16::MAX) {
        return Err(psf.bad(16, "length", count.into(), "it must be below 65535"));
    }
    let row_bytes = StrikeGlyph::row_bytes(width as u16);
    if glyph_bytes as usize != row_bytes * height as usize {
        let expected = "it must be that of width and height";
        return Err(psf.bad(20, "charsize", glyph_bytes.into(), expected));
    }
    Ok(Header {
        start: start as usize,
        count: count as usize,
        width: width as u16,
        height: height as u16,
        glyph_bytes: glyph_bytes as usize,
        has_table: flags & 1 != 0,
        is_second: true,
    })
}

/// The characters of each glyph; sequences of several, which follow a mark of
/// their own, are left out.
fn read_characters(table: &[u8], count: usize, is_second: bool) -> Vec<Vec<char>> {
    if is_second {
        // UTF-8; 0xff ends a glyph, 0xfe starts a sequence.
        let entries = table.split(|byte| *byte == 0xff).take(count);
        return entries
            .map(|entry| {
                let single = entry.split(|byte| *byte == 0xfe).next().unwrap_or_default();
                String::from_utf8_lossy(single).chars().collect()
            })
            .collect();
    }
    // UTF-16, little-endian; 0xffff ends a glyph, 0xfffe starts a sequence.
    let units: Vec<u16> = table
        .as_chunks::<2>()
        .0
        .iter()
        .map(|u| u16::from_le_bytes(*u))
        .collect();
    units
        .split(|unit| *unit == 0xffff)
        .take(count)
        .map(|entry| {
            let single = entry
                .split(|unit| *unit == 0xfffe)
                .next()
                .unwrap_or_default();
            single
                .iter()
                .filter_map(|unit| char::from_u32((*unit).into()))
                .collect()
        })
        .collect()
}
