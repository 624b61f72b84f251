//! From the file to the font.

use std::io::Read;

use super::directory::{Directory, Entry, FontRecord};
use super::glyphs::{Glyphs, rebuild};
use super::metrics::rebuild_metrics;
use super::{TAG, fault};
use crate::base::Limits;
use crate::font::table::Table;
use crate::font::tables::assemble;
use crate::font::{FontError, Tag};

/// Checks the directory of a file, without unpacking anything; returns the number of fonts.
pub(in crate::font) fn check_woff2(bytes: &[u8], limits: &Limits) -> Result<u32, FontError> {
    let directory = Directory::read(bytes, limits)?;
    Ok(directory.fonts.len() as u32)
}

/// The OpenType font in a file, or the collection.
pub(in crate::font) fn unpack_woff2(bytes: &[u8], limits: &Limits) -> Result<Vec<u8>, FontError> {
    let directory = Directory::read(bytes, limits)?;
    let packed = Table::new(TAG, bytes).slice(directory.start, directory.packed)?;
    let wanted: usize = directory.entries.iter().map(|entry| entry.packed).sum();
    let unpacked = inflate(packed, wanted)?;
    let mut tables: Vec<(Tag, Vec<u8>)> = Vec::new();
    let mut rest = &unpacked[..];
    let mut parts = Vec::new();
    for entry in &directory.entries {
        let (own, after) = rest.split_at(entry.packed);
        rest = after;
        parts.push(own);
        let kept = if entry.is_transformed { &[][..] } else { own };
        tables.push((entry.tag, kept.to_vec()));
    }
    for font in &directory.fonts {
        restore(font, &directory.entries, &parts, &mut tables, limits)?;
    }
    if !directory.is_collection {
        return Ok(assemble(directory.fonts[0].flavor, &tables));
    }
    Ok(collection(&directory.fonts, &tables))
}

/// Unpacks as many bytes as there are to be, never more.
#[cfg(feature = "compressed-fonts")]
fn inflate(packed: &[u8], wanted: usize) -> Result<Vec<u8>, FontError> {
    let mut unpacked = Vec::new();
    let reader = brotli_decompressor::Decompressor::new(packed, 4096);
    let read = reader.take(wanted as u64).read_to_end(&mut unpacked);
    match read.is_ok() && unpacked.len() == wanted {
        true => Ok(unpacked),
        false => Err(short(unpacked.len())),
    }
}

/// Without the feature nothing is unpacked.
#[cfg(not(feature = "compressed-fonts"))]
fn inflate(packed: &[u8], _: usize) -> Result<Vec<u8>, FontError> {
    let mut nothing = Vec::new();
    drop(packed.take(0).read_to_end(&mut nothing));
    Err(short(nothing.len()))
}

fn short(length: usize) -> FontError {
    let expected = "it does not unpack to the lengths that the directory states";
    fault("packed data", length, expected)
}

/// Puts the tables of a font together again that were rewritten.
fn restore(
    font: &FontRecord,
    entries: &[Entry],
    parts: &[&[u8]],
    tables: &mut [(Tag, Vec<u8>)],
    limits: &Limits,
) -> Result<(), FontError> {
    let find = |tag: &[u8; 4]| {
        let mut own = font.tables.iter().copied();
        own.find(|number| &entries[*number].tag.0 == tag)
    };
    let is_packed = |number: &usize| entries[*number].is_transformed;
    let mut glyphs = None;
    if let (Some(glyf), Some(loca)) = (find(b"glyf").filter(is_packed), find(b"loca")) {
        let built = rebuild(Table::new(Tag::new(b"glyf"), parts[glyf]), limits)?;
        tables[glyf].1.clone_from(&built.glyf);
        tables[loca].1 = built.loca();
        // Offsets are long from now on (`head.indexToLocFormat`).
        if let Some(format) = find(b"head").and_then(|head| tables[head].1.get_mut(50..52)) {
            format.copy_from_slice(&[0, 1]);
        }
        glyphs = Some(built);
    }
    if let Some(hmtx) = find(b"hmtx").filter(is_packed) {
        let count = |tag: &[u8; 4], at: usize| {
            let table = find(tag).map(|number| Table::new(Tag(*tag), parts[number]));
            let table = table.ok_or(FontError::MissingTable(Tag(*tag)));
            table.and_then(|table| table.u16(at))
        };
        let (long, all) = (count(b"hhea", 34)?, count(b"maxp", 4)?);
        let edges = glyphs.as_ref().map(Glyphs::left_edges).unwrap_or_default();
        let packed = Table::new(Tag::new(b"hmtx"), parts[hmtx]);
        tables[hmtx].1 = rebuild_metrics(packed, (long, all), &edges)?;
    }
    Ok(())
}

/// A collection of fonts that share their tables (OpenType, “Font Collections”).
fn collection(fonts: &[FontRecord], tables: &[(Tag, Vec<u8>)]) -> Vec<u8> {
    let directories: usize = fonts.iter().map(|font| 12 + 16 * font.tables.len()).sum();
    let head = 12 + 4 * fonts.len();
    let mut file = b"ttcf\0\x01\0\0".to_vec();
    file.extend((fonts.len() as u32).to_be_bytes());
    let mut at = head;
    for font in fonts {
        file.extend((at as u32).to_be_bytes());
        at += 12 + 16 * font.tables.len();
    }
    let mut places = Vec::new();
    let mut end = head + directories;
    for (_, table) in tables {
        places.push(end);
        end += table.len().next_multiple_of(4);
    }
    for font in fonts {
        file.extend(font.flavor);
        file.extend((font.tables.len() as u16).to_be_bytes());
        file.extend([0; 6]);
        for number in &font.tables {
            let (tag, table) = &tables[*number];
            file.extend(tag.0);
            for value in [0, places[*number], table.len()] {
                file.extend((value as u32).to_be_bytes());
            }
        }
    }
    for (_, table) in tables {
        file.extend(table);
        file.resize(file.len().next_multiple_of(4), 0);
    }
    file
}
