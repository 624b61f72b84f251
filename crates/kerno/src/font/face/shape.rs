//! What shaping asks of a face.

use std::collections::BTreeSet;
use std::sync::Arc;

use super::Face;
use crate::font::{ChosenLookups, GlyphId, Row, TextKind};

impl Face {
    /// The lookups for a kind of text.
    pub(crate) fn chosen_lookups(&self, key: &TextKind) -> Arc<ChosenLookups> {
        self.0.layout.chosen(&self.0.bytes, key)
    }

    /// Adds the glyphs that text may turn some into (`GSUB`): ligatures, the forms of
    /// joined letters.
    pub(crate) fn close_glyphs(&self, glyphs: &mut BTreeSet<GlyphId>) {
        self.0.layout.close(&self.0.bytes, glyphs);
    }

    /// Puts a row of glyphs through the chosen substitutions (`GSUB`), then gives
    /// each its advance and puts it through the positions (`GPOS`, or the table
    /// `kern`). Marks take no room.
    pub(crate) fn shape(
        &self,
        chosen: &ChosenLookups,
        is_rtl: bool,
        row: &mut Row,
        is_mark: impl Fn(char) -> bool,
        kerns: bool,
    ) {
        let data = &*self.0;
        let (layout, bytes) = (&data.layout, &*data.bytes);
        row.start();
        layout.classify(bytes, row, is_mark);
        layout.substitute(bytes, chosen, is_rtl, row);
        let is_plain = data.variation.is_none() && data.synthesis.is_none();
        for glyph in &mut row.glyphs {
            glyph.stated = if is_plain {
                data.glyph_metrics.advance(bytes, glyph.glyph)
            } else {
                self.advance(glyph.glyph)
            };
            glyph.advance = i32::from(glyph.stated);
        }
        layout.position(bytes, chosen, is_rtl, row);
        if kerns && !chosen.has_kerning && !data.kern.is_empty() {
            self.kern_row(row);
        }
        layout.flatten_marks(row);
    }

    /// Kerns neighbours by the table `kern`.
    fn kern_row(&self, row: &mut Row) {
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
