//! `GDEF`: what kind of glyph each is.

use std::ops::Range;

use super::coverage::{class_of, covered};
use crate::font::GlyphId;
use crate::font::lazy_pages::LazyPages;
use crate::font::table::{long, word};

/// The places of the parts of `GDEF` in the file.
#[derive(Clone, Debug, Default)]
pub(in crate::font) struct Definitions {
    classes: Option<Range<usize>>,
    mark_classes: Option<Range<usize>>,
    mark_sets: Option<Range<usize>>,
}

impl Definitions {
    /// Finds the parts of a table that lies at `range` (OpenType `GDEF`, “GDEF
    /// Header”). What is damaged is as if it were not there.
    pub(in crate::font) fn read(bytes: &[u8], range: Option<Range<usize>>) -> Self {
        let find = || {
            let range = range?;
            let table = bytes.get(range.clone())?;
            let part = |at: usize| {
                let offset = usize::from(word(table, at)?);
                (offset > 0 && offset < table.len()).then(|| range.start + offset..range.end)
            };
            let has_sets = word(table, 0)? == 1 && word(table, 2)? >= 2;
            Some(Self {
                classes: part(4),
                mark_classes: part(10),
                mark_sets: if has_sets { part(12) } else { None },
            })
        };
        find().unwrap_or_default()
    }

    /// Returns whether glyphs have classes at all.
    pub(super) fn has_classes(&self) -> bool {
        self.classes.is_some()
    }

    /// 1 a base, 2 a ligature, 3 a mark, 4 a component; 0 unknown.
    fn class(&self, bytes: &[u8], glyph: GlyphId) -> u16 {
        let table = self.classes.clone().and_then(|range| bytes.get(range));
        table.map_or(0, |table| class_of(table, glyph))
    }

    /// The class of a mark that attaches, by the font's own numbers.
    fn mark_class(&self, bytes: &[u8], glyph: GlyphId) -> u16 {
        let table = self.mark_classes.clone().and_then(|range| bytes.get(range));
        table.map_or(0, |table| class_of(table, glyph))
    }

    /// Returns whether a mark is in one of the sets that lookups filter by.
    pub(super) fn is_in_set(&self, bytes: &[u8], set: u16, glyph: GlyphId) -> bool {
        let find = || {
            let table = bytes.get(self.mark_sets.clone()?)?;
            if set >= word(table, 2)? {
                return None;
            }
            let offset = long(table, 4 + usize::from(set) * 4)? as usize;
            covered(table.get(offset..)?, glyph)
        };
        find().is_some()
    }
}

/// Classes that were looked up before.
#[derive(Debug)]
pub(in crate::font) struct GlyphClasses(LazyPages);

impl Default for GlyphClasses {
    fn default() -> Self {
        Self(LazyPages::new(1 << 16))
    }
}

impl GlyphClasses {
    /// The class of a glyph, and which marks attach to it.
    pub(super) fn get(&self, from: &Definitions, bytes: &[u8], glyph: GlyphId) -> (u8, u8) {
        if !from.has_classes() {
            return (0, 0);
        }
        let both = |glyph: GlyphId| {
            // Both are small: the first is at most 4, the second fits a flag's byte.
            from.class(bytes, glyph) & 0xff | from.mark_class(bytes, glyph) << 8
        };
        let find = |first: usize| std::array::from_fn(|step| both(GlyphId((first + step) as u16)));
        let both = self.0.get(glyph.0.into(), find).unwrap_or(0);
        (both as u8, (both >> 8) as u8)
    }
}
