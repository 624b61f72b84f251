//! Tables other than those of lookups.

use super::Kept;
use super::writer::Writer;
use crate::font::table::{long, word};
use crate::font::tables::{GlyphLocations, GlyphMetrics};
use crate::font::{FontError, GlyphId};

/// `cmap` with these characters, in order (OpenType `cmap`, “Format 12: Segmented
/// coverage”).
pub(super) fn characters(characters: &[(char, GlyphId)]) -> Vec<u8> {
    let is_next = |(a, b): &(&(char, GlyphId), &(char, GlyphId))| {
        u32::from(a.0) + 1 == u32::from(b.0) && a.1.0.wrapping_add(1) == b.1.0
    };
    let groups: Vec<&[(char, GlyphId)]> = characters.chunk_by(|a, b| is_next(&(a, b))).collect();
    let mut table = Writer::default();
    for number in [0, 1, 3, 10, 0, 12, 12, 0] {
        table.word(number);
    }
    for number in [16 + 12 * groups.len(), 0, groups.len()] {
        table.long(number as u32);
    }
    for group in groups {
        let (first, last) = (group[0], group[group.len() - 1]);
        for number in [first.0.into(), last.0.into(), first.1.0.into()] {
            table.long(number);
        }
    }
    table.bytes
}

/// `head`, whose glyph locations are long.
pub(super) fn head(table: &[u8]) -> Vec<u8> {
    let mut table = table.to_vec();
    if let Some(format) = table.get_mut(50..52) {
        format.copy_from_slice(&[0, 1]);
    }
    table
}

/// A table whose word at a place is a number of glyphs.
pub(super) fn counted(table: &[u8], at: usize, count: u16) -> Vec<u8> {
    let mut table = table.to_vec();
    if let Some(number) = table.get_mut(at..at + 2) {
        number.copy_from_slice(&count.to_be_bytes());
    }
    table
}

/// The number of glyphs up to which advances are written: all that stay after the last of them
/// have the same one (OpenType `hhea`, `numberOfHMetrics`).
pub(super) fn long_metrics(metrics: &GlyphMetrics, bytes: &[u8], kept: &Kept) -> u16 {
    let advance = |glyph: &GlyphId| metrics.advance(bytes, *glyph);
    let last = kept.glyphs.last().map(advance);
    let other = kept
        .glyphs
        .iter()
        .rfind(|glyph| Some(advance(glyph)) != last);
    // The one after them stands for all that follow.
    other
        .map_or(1, |other| (other.0 + 2).min(kept.count))
        .max(1)
}

/// `hmtx` or `vmtx`, with both numbers for glyphs up to one, and side bearings for the others.
/// Glyphs that are gone have none.
pub(super) fn metrics(metrics: &GlyphMetrics, bytes: &[u8], kept: &Kept) -> Vec<u8> {
    let long = long_metrics(metrics, bytes, kept);
    let last = kept
        .glyphs
        .last()
        .map_or(0, |last| metrics.advance(bytes, *last));
    let mut table = Writer::default();
    for glyph in (0..kept.count).map(GlyphId) {
        let is_kept = kept.glyphs.contains(&glyph);
        if glyph.0 < long {
            table.word(match is_kept {
                true => metrics.advance(bytes, glyph),
                false if glyph.0 + 1 == long => last,
                false => 0,
            });
        }
        let bearing = metrics.side_bearing(bytes, glyph);
        table.word(if is_kept { bearing as u16 } else { 0 });
    }
    table.bytes
}

/// `post` without the names of glyphs (version 3).
pub(super) fn post(table: &[u8]) -> Vec<u8> {
    let mut table = table.get(..32).unwrap_or(table).to_vec();
    if let Some(version) = table.get_mut(..4) {
        version.copy_from_slice(&[0, 3, 0, 0]);
    }
    table
}

/// `glyf` and `loca`.
pub(super) fn outlines(
    locations: &GlyphLocations,
    bytes: &[u8],
    kept: &Kept,
) -> Result<(Vec<u8>, Vec<u8>), FontError> {
    let (mut outlines, mut places) = (Vec::new(), Writer::default());
    for glyph in (0..kept.count).map(GlyphId) {
        places.long(outlines.len() as u32);
        if kept.glyphs.contains(&glyph) {
            outlines.extend_from_slice(locations.data(bytes, glyph)?);
            outlines.resize(outlines.len().next_multiple_of(4), 0);
        }
    }
    places.long(outlines.len() as u32);
    Ok((outlines, places.bytes))
}

/// `kern` of version 0 with pairs only; none where it is of another form.
pub(super) fn kern(table: &[u8], kept: &Kept) -> Option<Vec<u8>> {
    if word(table, 0)? != 0 {
        return None;
    }
    let mut made = Writer::default();
    let count = word(table, 2)?;
    made.word(0);
    made.word(count);
    let mut at = 4;
    for _ in 0..count {
        let (coverage, pairs) = (word(table, at + 4)?, usize::from(word(table, at + 6)?));
        if coverage >> 8 != 0 {
            return None;
        }
        let records = table.get(at + 14..at + 14 + pairs * 6)?;
        let is_kept = |pair: &&[u8]| {
            let glyph = |at| word(pair, at).is_some_and(|glyph| kept.has(glyph));
            glyph(0) && glyph(2)
        };
        let records: Vec<&[u8]> = records.chunks_exact(6).filter(is_kept).collect();
        // The stated length of a large subtable is cut to 16 bits.
        let length = 14 + records.len() * 6;
        for number in [0, length as u16, coverage, records.len() as u16, 0, 0, 0] {
            made.word(number);
        }
        made.bytes.extend(records.into_iter().flatten());
        let stated = usize::from(word(table, at + 2)?);
        at += stated.max(14 + pairs * 6);
    }
    // There may be something after that counts on its place.
    (long(table, at).is_none() || count == 1).then_some(made.bytes)
}
