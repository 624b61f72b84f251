//! What a text is, whatever box it is in.

use std::ops::Range;

use super::analysis::Analysis;
use super::lines::LineMeasures;
use super::shape::ShapedGlyphs;

/// Everything about a text that does not change with its box.
#[derive(Clone, Debug, Default)]
pub(super) struct Prepared {
    pub(super) analysis: Analysis,
    /// All glyphs in reading order.
    pub(super) shaped: ShapedGlyphs,
    /// Which of them are of which run.
    pub(super) run_glyphs: Vec<Range<usize>>,
    pub(super) measures: LineMeasures,
}

impl Prepared {
    /// Returns whether it is all there: not after a change that failed.
    pub(super) fn is_whole(&self) -> bool {
        !self.measures.pens.is_empty()
    }
}
