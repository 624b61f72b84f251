//! A row of glyphs on its way through the lookups.

use std::cell::Cell;

use crate::font::GlyphId;

/// The classes of glyphs, as `GDEF` gives them or as their characters do.
pub(super) mod class {
    pub(in super::super) const BASE: u8 = 1;
    pub(in super::super) const LIGATURE: u8 = 2;
    pub(in super::super) const MARK: u8 = 3;
}

/// A glyph of a row, with what lookups need to know of it.
#[derive(Clone, Copy, Debug)]
pub(crate) struct RowGlyph {
    pub(crate) glyph: GlyphId,
    /// The character that it came from, the first one of a ligature.
    pub(crate) character: char,
    /// The index of its cluster in the text.
    pub(crate) cluster: u32,
    /// The last one that it stands for: a ligature has several.
    pub(crate) last_cluster: u32,
    /// A mask of the features that touch it: a bit for each that not all glyphs have.
    pub(crate) mask: u32,
    /// A mask of the chosen lookups that may begin with it: a bit for each, set as well where
    /// that is not known.
    pub(super) touched: u64,
    /// See [`class`].
    pub(crate) class: u8,
    pub(super) mark_class: u8,
    /// The number of the ligature that it is, or is a mark on; 0 for none.
    pub(super) ligature: u16,
    /// For a mark on a ligature: on which component, from 1; for a ligature how many
    /// it has.
    pub(super) component: u8,
    /// Of the glyphs that one was taken apart into: 0 for the first, and for what was not
    /// taken apart.
    pub(super) part: u8,
    /// True if it can't be parted from the glyph before it: a line that breaks there
    /// is to be shaped anew.
    pub(crate) is_tied: bool,
    /// True if a substitution made it: a mark that was made of more than one.
    pub(super) is_ligated: bool,
    /// The distance the face says the pen moves, in font units.
    pub(crate) stated: u16,
    /// The distance that the pen moves, in font units.
    pub(crate) advance: i32,
    /// From the pen to where it is drawn: rightwards, upwards.
    pub(crate) x: i32,
    pub(crate) y: i32,
    /// The glyph that it is attached to.
    pub(crate) attachment: Option<Attachment>,
}

/// The attachment of a glyph to another one.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Attachment {
    /// A mark: its origin lies here from that of an earlier glyph of the row.
    Mark {
        /// The distance to it, in glyphs before this one.
        back: u32,
        x: i32,
        y: i32,
    },
    /// Cursive: only its height follows that of another glyph, by the distance to it in glyphs.
    Cursive { on: i32, y: i32 },
}

impl RowGlyph {
    /// A glyph of a character, before anything has touched it.
    pub(crate) fn new(glyph: GlyphId, character: char, cluster: u32) -> Self {
        Self {
            glyph,
            character,
            cluster,
            last_cluster: cluster,
            mask: 0,
            touched: u64::MAX,
            class: 0,
            mark_class: 0,
            ligature: 0,
            component: 0,
            part: 0,
            is_tied: false,
            is_ligated: false,
            stated: 0,
            advance: 0,
            x: 0,
            y: 0,
            attachment: None,
        }
    }

    pub(super) fn is_mark(&self) -> bool {
        self.class == class::MARK
    }

    /// Returns whether it may be one of the two below.
    pub(super) fn may_join(&self) -> bool {
        matches!(self.character, '\u{200c}' | '\u{200d}')
    }

    /// A zero width joiner asks for a joined form and is no glyph between others.
    pub(super) fn is_joiner(&self) -> bool {
        self.character == '\u{200d}' && !self.is_ligated
    }

    /// A zero width non-joiner stands between glyphs to part them.
    pub(super) fn is_non_joiner(&self) -> bool {
        self.character == '\u{200c}' && !self.is_ligated
    }
}

/// A row of glyphs, and how much may still be done to it.
#[derive(Debug, Default)]
pub(crate) struct GlyphRow {
    pub(crate) glyphs: Vec<RowGlyph>,
    /// Steps that lookups may still take: hostile ones are stopped.
    pub(super) steps: usize,
    /// The number of the last ligature.
    pub(super) ligatures: u16,
    /// True if lookups have looked for something before the first glyph, or after the last.
    past_start: Cell<bool>,
    past_end: Cell<bool>,
}

/// Steps a glyph: real fonts take some dozens.
const STEPS: usize = 1024;

/// The most growth of a row: a factor of its length, and a number of glyphs.
const GROWTH: usize = 32;

impl GlyphRow {
    /// Begins with the glyphs that are there.
    pub(crate) fn start(&mut self) {
        self.steps = (self.glyphs.len() + 64) * STEPS;
        self.ligatures = 0;
        self.past_start.set(false);
        self.past_end.set(false);
    }

    /// Returns whether lookups have looked for something before the first glyph, and after
    /// the last one. Where they have not, the row is shaped as it is in any text around it.
    pub(crate) fn looked_past(&self) -> (bool, bool) {
        (self.past_start.get(), self.past_end.get())
    }

    pub(super) fn look_past_start(&self) {
        self.past_start.set(true);
    }

    pub(super) fn look_past_end(&self) {
        self.past_end.set(true);
    }

    /// Takes a step; false when there are no more.
    pub(super) fn step(&mut self) -> bool {
        self.steps = self.steps.saturating_sub(1);
        self.steps > 0
    }

    /// Returns whether the row may grow by some glyphs.
    pub(super) fn may_grow(&mut self, by: usize) -> bool {
        let most = self.steps / STEPS + GROWTH;
        self.steps = self.steps.saturating_sub(by * STEPS / GROWTH);
        self.glyphs.len() + by <= most.saturating_mul(GROWTH)
    }

    /// Ties the glyphs of a range to one another.
    pub(super) fn tie(&mut self, first: usize, last: usize) {
        if last == first + 1 {
            self.glyphs[last].is_tied = true;
            return;
        }
        for glyph in self.glyphs.iter_mut().take(last + 1).skip(first + 1) {
            glyph.is_tied = true;
        }
    }
}
