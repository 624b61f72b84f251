//! Pairs of `GPOS` (“Lookup Type 2: Pair Adjustment Positioning”).

use std::collections::BTreeMap;

use super::Kept;
use super::subtable::{Subtable, value, value_size};
use super::writer::{Writer, classes, coverage};
use crate::font::GlyphId;
use crate::font::shaping::class_of;
use crate::font::table::word;

/// Pairs of glyphs that stay; nothing where there are none.
pub(super) fn pairs(own: &Subtable<'_>, kept: &Kept) -> Option<Option<Vec<u8>>> {
    let covered = own.covered(2, kept)?;
    if covered.is_empty() {
        return Some(None);
    }
    match word(own.table, 0)? {
        1 => by_glyphs(own, &covered, kept),
        2 => by_classes(own, &covered, kept),
        _ => None,
    }
}

fn by_glyphs(own: &Subtable<'_>, covered: &[(usize, u16)], kept: &Kept) -> Option<Option<Vec<u8>>> {
    let formats = [word(own.table, 4)?, word(own.table, 6)?];
    let size = 2 + value_size(formats[0]) + value_size(formats[1]);
    let mut sets: Vec<(u16, Vec<u8>)> = Vec::new();
    for (index, glyph) in covered {
        let set = own.part(10 + index * 2)?;
        let mut made = Writer::default();
        let mut count = 0;
        made.word(0);
        for pair in 0..usize::from(word(set, 0)?) {
            let at = 2 + pair * size;
            let second = word(set, at)?;
            if !kept.has(second) {
                continue;
            }
            count += 1;
            made.word(second);
            made.bytes
                .extend_from_slice(value(set, at + 2, formats[0])?);
            let after = at + 2 + value_size(formats[0]);
            made.bytes.extend_from_slice(value(set, after, formats[1])?);
        }
        // A glyph without pairs still keeps later subtables from it.
        made.bytes[..2].copy_from_slice(&u16::to_be_bytes(count));
        sets.push((*glyph, made.bytes));
    }
    let glyphs: Vec<u16> = sets.iter().map(|(glyph, _)| *glyph).collect();
    let mut made = Writer::default();
    made.word(1);
    made.part(Some(coverage(&glyphs)));
    made.words(formats.map(|format| format & 0xf));
    made.word(glyphs.len() as u16);
    sets.into_iter().for_each(|(_, set)| made.part(Some(set)));
    made.finish().map(Some)
}

fn by_classes(
    own: &Subtable<'_>,
    covered: &[(usize, u16)],
    kept: &Kept,
) -> Option<Option<Vec<u8>>> {
    let table = own.table;
    let formats = [word(table, 4)?, word(table, 6)?];
    let size = value_size(formats[0]) + value_size(formats[1]);
    let (first, second) = (own.part(8)?, own.part(10)?);
    let counts = [word(table, 12)?, word(table, 14)?];
    // Classes that stay, each with its new number: 0 stays 0.
    let renumbered = |glyphs: &[u16], table: &[u8], count: u16| {
        let mut numbers = BTreeMap::from([(0, 0)]);
        let mut own = Vec::new();
        for glyph in glyphs {
            let class = class_of(table, GlyphId(*glyph));
            if class < count {
                let next = numbers.len() as u16;
                own.push((*glyph, *numbers.entry(class).or_insert(next)));
            }
        }
        let mut order: Vec<(u16, u16)> = numbers.into_iter().map(|(old, new)| (new, old)).collect();
        order.sort_unstable();
        (
            own,
            order.into_iter().map(|(_, old)| old).collect::<Vec<u16>>(),
        )
    };
    let firsts: Vec<u16> = covered.iter().map(|(_, glyph)| *glyph).collect();
    let seconds: Vec<u16> = kept.glyphs.iter().map(|glyph| glyph.0).collect();
    let (first_classes, rows) = renumbered(&firsts, first, counts[0]);
    let (second_classes, columns) = renumbered(&seconds, second, counts[1]);
    let mut made = Writer::default();
    made.word(2);
    made.part(Some(coverage(&firsts)));
    made.words(formats.map(|format| format & 0xf));
    made.part(Some(classes(&first_classes)));
    made.part(Some(classes(&second_classes)));
    made.words([rows.len() as u16, columns.len() as u16]);
    for row in &rows {
        for column in &columns {
            let at =
                16 + (usize::from(*row) * usize::from(counts[1]) + usize::from(*column)) * size;
            made.bytes.extend_from_slice(value(table, at, formats[0])?);
            let after = at + value_size(formats[0]);
            made.bytes
                .extend_from_slice(value(table, after, formats[1])?);
        }
    }
    made.finish().map(Some)
}
