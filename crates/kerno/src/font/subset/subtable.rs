//! Subtables of lookups.

use super::Kept;
use crate::font::shaping::covered_glyphs;
use crate::font::table::word;

/// A subtable, and the kind of its lookup.
pub(super) struct Subtable<'a> {
    pub(super) table: &'a [u8],
    pub(super) kind: u16,
}

impl Subtable<'_> {
    /// The part at an offset.
    pub(super) fn part(&self, at: usize) -> Option<&[u8]> {
        self.table.get(usize::from(word(self.table, at)?)..)
    }

    /// The kept glyphs of a coverage, each with its number in it.
    pub(super) fn covered(&self, at: usize, kept: &Kept) -> Option<Vec<(usize, u16)>> {
        let all = covered_glyphs(self.part(at)?).into_iter().enumerate();
        let all = all.map(|(index, glyph)| (index, glyph.0));
        Some(all.filter(|(_, glyph)| kept.has(*glyph)).collect())
    }
}

/// Bytes of a value record without tables for devices, which are of no use without axes.
pub(super) fn value(table: &[u8], at: usize, format: u16) -> Option<&[u8]> {
    table.get(at..at + (format & 0xf).count_ones() as usize * 2)
}

/// Bytes of one with them.
pub(super) fn value_size(format: u16) -> usize {
    (format & 0xff).count_ones() as usize * 2
}
