//! Sets and classes of glyphs (OpenType, “Common Table Formats”).

use crate::font::GlyphId;
use crate::font::table::word;

/// OpenType, “Coverage Table”: the number of a glyph in it.
pub(in crate::font) fn covered(table: &[u8], glyph: GlyphId) -> Option<usize> {
    let count = usize::from(word(table, 2)?);
    match word(table, 0)? {
        1 => find_glyph(table, 4, count, 2, glyph).map(|at| (at - 4) / 2),
        2 => {
            let at = find_range(table, 4, count, glyph)?;
            let step = glyph.0 - word(table, at)?;
            Some(usize::from(word(table, at + 4)?) + usize::from(step))
        }
        _ => None,
    }
}

/// All glyphs of a coverage table, in the order of their numbers in it.
pub(super) fn covered_glyphs(table: &[u8]) -> Vec<GlyphId> {
    let mut glyphs = Vec::new();
    let list = |glyphs: &mut Vec<GlyphId>| {
        let count = usize::from(word(table, 2)?);
        for index in 0..count {
            if word(table, 0)? == 1 {
                glyphs.push(GlyphId(word(table, 4 + index * 2)?));
            } else {
                let at = 4 + index * 6;
                glyphs.extend((word(table, at)?..=word(table, at + 2)?).map(GlyphId));
            }
            if glyphs.len() > usize::from(u16::MAX) {
                break;
            }
        }
        Some(())
    };
    list(&mut glyphs);
    glyphs
}

/// OpenType, “Class Definition Table”; 0 for a glyph that it does not name.
pub(super) fn class_of(table: &[u8], glyph: GlyphId) -> u16 {
    let class = || match word(table, 0)? {
        1 => {
            let step = glyph.0.checked_sub(word(table, 2)?)?;
            (step < word(table, 4)?).then(|| word(table, 6 + usize::from(step) * 2))?
        }
        2 => {
            let count = usize::from(word(table, 2)?);
            word(table, find_range(table, 4, count, glyph)? + 4)
        }
        _ => None,
    };
    class().unwrap_or(0)
}

/// Where in an array of records, sorted by the glyph that each begins with, the
/// one for a glyph is.
pub(in crate::font) fn find_glyph(
    table: &[u8],
    start: usize,
    count: usize,
    size: usize,
    glyph: GlyphId,
) -> Option<usize> {
    let (mut low, mut high) = (0, count);
    while low < high {
        let middle = low.midpoint(high);
        let at = start + middle * size;
        match word(table, at)?.cmp(&glyph.0) {
            std::cmp::Ordering::Less => low = middle + 1,
            std::cmp::Ordering::Equal => return Some(at),
            std::cmp::Ordering::Greater => high = middle,
        }
    }
    None
}

/// Where the range record (first, last, value) that holds a glyph is.
fn find_range(table: &[u8], start: usize, count: usize, glyph: GlyphId) -> Option<usize> {
    let (mut low, mut high) = (0, count);
    while low < high {
        let middle = low.midpoint(high);
        let at = start + middle * 6;
        if word(table, at + 2)? < glyph.0 {
            low = middle + 1;
        } else {
            high = middle;
        }
    }
    let at = start + low * 6;
    (low < count && word(table, at)? <= glyph.0).then_some(at)
}

/// Glyphs as bits: whether a lookup may begin with one is asked for each of a text.
#[derive(Debug, Default)]
pub(super) struct GlyphSet(Vec<u64>);

impl GlyphSet {
    pub(super) fn has(&self, glyph: GlyphId) -> bool {
        let word = self.0.get(usize::from(glyph.0) / 64).copied().unwrap_or(0);
        word >> (glyph.0 % 64) & 1 == 1
    }

    /// How many glyphs it has bits for.
    pub(super) fn len(&self) -> usize {
        self.0.len() * 64
    }

    /// Adds all that a coverage table names.
    pub(super) fn add_coverage(&mut self, table: &[u8]) -> Option<()> {
        let count = usize::from(word(table, 2)?);
        match word(table, 0)? {
            1 => {
                for index in 0..count {
                    let glyph = word(table, 4 + index * 2)?;
                    self.add(glyph, glyph);
                }
            }
            2 => {
                for index in 0..count {
                    let at = 4 + index * 6;
                    self.add(word(table, at)?, word(table, at + 2)?);
                }
            }
            _ => {}
        }
        Some(())
    }

    fn add(&mut self, first: u16, last: u16) {
        let words = usize::from(last) / 64 + 1;
        if self.0.len() < words {
            self.0.resize(words, 0);
        }
        for glyph in first..=last {
            self.0[usize::from(glyph) / 64] |= 1 << (glyph % 64);
        }
    }
}
