//! The parts of a text that no box changes.

use std::ops::{Deref, Range};

use super::analysis::analyze::Analysis;
use super::measure::lines::LineMeasures;
use super::shape::ShapedGlyphs;

/// Everything about a text that does not change with its box.
#[derive(Clone, Debug, Default)]
pub(super) struct Prepared {
    pub(super) analysis: Analysis,
    /// All glyphs in reading order.
    pub(super) shaped: ShapedGlyphs,
    /// The glyphs of each run.
    pub(super) run_glyphs: Vec<Range<usize>>,
    pub(super) measures: LineMeasures,
}

impl Prepared {
    const NOTHING: Self = Self {
        analysis: Analysis::NOTHING,
        shaped: ShapedGlyphs::NOTHING,
        run_glyphs: Vec::new(),
        measures: LineMeasures::NOTHING,
    };
}

/// Prepared state of a text, as long as it is kept: long texts keep it, so that another box
/// or a small change takes a fraction of the time; short ones are made anew as quickly.
#[derive(Clone, Debug, Default)]
pub(super) struct KeptPrepared(pub(super) Option<Box<Prepared>>);

impl Deref for KeptPrepared {
    type Target = Prepared;

    #[inline]
    fn deref(&self) -> &Prepared {
        static NOTHING: Prepared = Prepared::NOTHING;
        self.0.as_deref().unwrap_or(&NOTHING)
    }
}
