//! Sets and classes of glyphs (OpenType, “Common Table Formats”).

use std::sync::atomic::AtomicUsize;
use std::sync::atomic::Ordering::Relaxed;

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
pub(in crate::font) fn covered_glyphs(table: &[u8]) -> Vec<GlyphId> {
    let mut glyphs = Vec::new();
    let list = |glyphs: &mut Vec<GlyphId>| {
        let count = usize::from(word(table, 2)?);
        for index in 0..count {
            if word(table, 0)? == 1 {
                glyphs.push(GlyphId(word(table, 4 + index * 2)?));
            } else {
                let at = 4 + index * 6;
                let (first, last) = (word(table, at)?, word(table, at + 2)?);
                // Ranges are in order and apart; from the first that is not on, the
                // numbers in the table mean nothing.
                if first > last
                    || glyphs
                        .last()
                        .is_some_and(|before| *before >= GlyphId(first))
                {
                    break;
                }
                glyphs.extend((first..=last).map(GlyphId));
            }
        }
        Some(())
    };
    list(&mut glyphs);
    glyphs
}

/// OpenType, “Class Definition Table”; 0 for a glyph that it does not name.
pub(in crate::font) fn class_of(table: &[u8], glyph: GlyphId) -> u16 {
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

/// The index in an array of records, sorted by the glyph that each begins with, of the
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

/// The range record (first, last, value) that holds a glyph.
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

    /// The number of glyphs it has bits for.
    pub(super) fn len(&self) -> usize {
        self.0.len() * 64
    }

    /// The glyphs of a coverage table; none where `work` is
    /// used up: the table itself is to be asked then.
    pub(super) fn from_coverage(table: &[u8], work: &Work) -> Option<Self> {
        let mut set = Self::default();
        let count = word(table, 2).map_or(0, usize::from);
        if !work.take(count) {
            return None;
        }
        let size = match word(table, 0) {
            Some(1) => 2,
            Some(2) => 6,
            _ => return Some(set),
        };
        let rows = table.get(4..).unwrap_or_default();
        for row in rows.chunks_exact(size).take(count) {
            let first = word(row, 0).unwrap_or(0);
            let last = if size == 6 { word(row, 2)? } else { first };
            // Words that are filled are counted: ranges may lie on each other.
            if first <= last {
                if !work.take(usize::from(last / 64 - first / 64)) {
                    return None;
                }
                set.add(first, last);
            }
        }
        work.take(set.0.len()).then_some(set)
    }

    /// Adds the glyphs of another set; false where `work` is used up.
    pub(super) fn add_all(&mut self, other: &Self, work: &Work) -> bool {
        if !work.take(other.0.len()) {
            return false;
        }
        if self.0.len() < other.0.len() {
            self.0.resize(other.0.len(), 0);
        }
        for (own, other) in self.0.iter_mut().zip(&other.0) {
            *own |= other;
        }
        true
    }

    fn add(&mut self, first: u16, last: u16) {
        let (start, end) = (usize::from(first) / 64, usize::from(last) / 64);
        if self.0.len() <= end {
            self.0.resize(end + 1, 0);
        }
        let from_first = u64::MAX << (first % 64);
        let to_last = u64::MAX >> (63 - last % 64);
        if start == end {
            self.0[start] |= from_first & to_last;
            return;
        }
        self.0[start] |= from_first;
        self.0[start + 1..end].fill(u64::MAX);
        self.0[end] |= to_last;
    }
}

/// Work that may still be spent on finding out beforehand which glyphs the lookups of a
/// table begin with, in words of bits and records read. It goes with the size of the table,
/// not with what the table claims.
#[derive(Debug)]
pub(super) struct Work(AtomicUsize);

impl Work {
    /// Allowance of a table by its bytes: real ones take less than one for a byte.
    pub(super) fn for_table(bytes: usize) -> Self {
        Self(AtomicUsize::new(bytes.saturating_mul(16) + (1 << 16)))
    }

    /// Takes some of it; false where there is no more.
    fn take(&self, some: usize) -> bool {
        let less = |left: usize| left.checked_sub(some);
        let taken = self.0.fetch_update(Relaxed, Relaxed, less);
        taken.is_ok()
    }
}
