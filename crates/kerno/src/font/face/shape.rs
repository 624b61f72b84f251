//! Shaping: questions to a face.

use std::collections::BTreeSet;
use std::sync::Arc;

use super::Face;
use crate::font::{ChosenLookups, GlyphId, GlyphRow, Neighbours, Tag, TextKind};

impl Face {
    /// The lookups for a kind of text.
    pub(crate) fn chosen_lookups(&self, key: &TextKind) -> Arc<ChosenLookups> {
        self.0.layout.chosen(&self.0.bytes, key)
    }

    /// Adds the glyphs that text may turn some into by some features (`GSUB`): ligatures, the
    /// forms of joined letters.
    pub(crate) fn close_glyphs(&self, features: &BTreeSet<Tag>, glyphs: &mut BTreeSet<GlyphId>) {
        self.0.layout.close(&self.0.bytes, features, glyphs);
    }

    /// The features that replace glyphs by others (`GSUB`).
    pub(crate) fn substitution_features(&self) -> BTreeSet<Tag> {
        self.0.layout.substitution_features(&self.0.bytes)
    }

    /// Adds the glyphs that text may turn some into with any features (`GSUB`).
    pub(crate) fn close_all_glyphs(&self, glyphs: &mut BTreeSet<GlyphId>) {
        self.0.layout.close_all(&self.0.bytes, glyphs);
    }

    /// Puts a row of glyphs through the chosen substitutions (`GSUB`), then gives
    /// each its advance and puts it through the positions (`GPOS`, or the table
    /// `kern`). Marks take no room.
    pub(crate) fn shape(
        &self,
        chosen: &ChosenLookups,
        is_rtl: bool,
        row: &mut GlyphRow,
        is_mark: impl Fn(char) -> bool,
    ) {
        let data = &**self.0;
        let (layout, bytes) = (&data.layout, &*data.bytes);
        row.start();
        layout.classify(bytes, row, is_mark);
        layout.substitute(bytes, chosen, is_rtl, row);
        for glyph in &mut row.glyphs {
            glyph.stated = self.advance(glyph.glyph);
            glyph.advance = i32::from(glyph.stated);
        }
        layout.position(bytes, chosen, is_rtl, row);
        if chosen.uses_kern_table() {
            self.kern_row(row);
        }
        layout.flatten_marks(row);
    }

    /// The effect of shaping on a letter before another one, or at the end of a text: both
    /// glyphs of single characters that are no marks and join nothing.
    #[inline]
    pub(crate) fn neighbours(
        &self,
        chosen: &ChosenLookups,
        left: GlyphId,
        right: Option<GlyphId>,
    ) -> Neighbours {
        chosen.neighbours(left, right, || self.find_neighbours(chosen, left, right))
    }

    #[cold]
    fn find_neighbours(
        &self,
        chosen: &ChosenLookups,
        left: GlyphId,
        right: Option<GlyphId>,
    ) -> Neighbours {
        let (data, bytes) = (&**self.0, &*self.0.bytes);
        let found = data.layout.find_neighbours(bytes, chosen, left, right);
        match (found, right) {
            (Neighbours::Kerned(0), Some(right)) if chosen.uses_kern_table() => {
                let units = data.kern.pair(bytes, left, right);
                i16::try_from(units).map_or(Neighbours::Shaped, Neighbours::Kerned)
            }
            _ => found,
        }
    }

    /// Kerns neighbours by the table `kern`.
    fn kern_row(&self, row: &mut GlyphRow) {
        for at in 1..row.glyphs.len() {
            let (left, right) = (row.glyphs[at - 1].glyph, row.glyphs[at].glyph);
            let units = self.0.kern.pair(&self.0.bytes, left, right);
            if units != 0 {
                row.glyphs[at - 1].advance += units;
                row.glyphs[at].is_tied = true;
            }
        }
    }
}
