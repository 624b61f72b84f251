//! Kerning of two glyphs alone, for callers that ask without a text.

use super::chosen::{ChosenLookups, Feature, LayoutTables, TextKind};
use super::lookup::{Kind, Lookup};
use super::position::pair_advance;
use crate::font::table::{long, word};
use crate::font::{GlyphId, Tag};

impl LayoutTables {
    /// The lookups that kern Latin text, or text of no particular script; `None` where
    /// there are none.
    fn kerning(&self, bytes: &[u8]) -> Option<&ChosenLookups> {
        let find = || {
            let kern = Feature {
                tag: Tag::new(b"kern"),
                value: 1,
                mask: 0,
                stage: 0,
            };
            let kind = TextKind {
                scripts: [Tag::new(b"latn"), Tag::new(b"DFLT")],
                features: vec![kern],
                ..TextKind::default()
            };
            self.choose(bytes, &kind)
        };
        let chosen = self.kerning.get_or_init(find);
        chosen.has_kerning.then_some(chosen)
    }

    /// Its lookups of pairs with their table.
    fn pair_lookups<'a>(
        &'a self,
        bytes: &'a [u8],
    ) -> Option<(&'a [u8], impl Iterator<Item = &'a Lookup>)> {
        let chosen = self.kerning(bytes)?;
        let table = bytes.get(self.positioning.clone()?)?;
        let get = move |lookup| self.positions.get(table, Kind::Positioning, lookup);
        let all = chosen.positions.lookups.iter();
        let all = all.filter_map(move |chosen| get(chosen.lookup));
        Some((table, all.filter(|lookup| lookup.kind == 2)))
    }

    /// Returns whether `GPOS` kerns text of any script.
    pub(in crate::font) fn kerns(&self, bytes: &[u8]) -> bool {
        let find = || {
            let table = bytes.get(self.positioning.clone()?)?;
            let features = usize::from(word(table, 6)?);
            let count = usize::from(word(table, features)?);
            let mut records = (0..count).map(|index| features + 2 + index * 6);
            Some(records.any(|at| long(table, at) == Some(u32::from_be_bytes(*b"kern"))))
        };
        find().unwrap_or(false)
    }

    /// Returns whether pairs may be kerned that begin with a glyph; `None` where it is the table
    /// `kern` that counts.
    pub(in crate::font) fn kerns_after(&self, bytes: &[u8], left: GlyphId) -> Option<bool> {
        let (_, mut lookups) = self.pair_lookups(bytes)?;
        Some(lookups.any(|lookup| lookup.may_begin(left)))
    }

    /// The sum that lookups of pairs add to the advance of the first of two neighbours; `None`
    /// where it is the table `kern` that counts.
    pub(in crate::font) fn pair(&self, bytes: &[u8], left: GlyphId, right: GlyphId) -> Option<i32> {
        let (table, lookups) = self.pair_lookups(bytes)?;
        let varied = self.varied(bytes);
        let advances = lookups.map(|lookup| pair_advance(lookup, table, varied, left, right));
        Some(advances.sum())
    }
}
