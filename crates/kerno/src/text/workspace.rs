//! Memory that laying out takes and gives back.

use super::prepared::Prepared;
use super::segments::{Ordered, Segment};
use super::shape::{Shaped, Shaper};
use crate::base::Rect;

/// Memory that laying out takes and gives back: what is laid out again and again
/// allocates nothing once it has grown.
#[derive(Debug, Default)]
pub(super) struct Workspace {
    pub(super) shaper: Shaper,
    /// The ends of lines.
    pub(super) ends: Vec<usize>,
    /// What each line covers.
    pub(super) inks: Vec<Rect>,
    /// What was shaped for the line at hand.
    pub(super) fresh: Vec<Shaped>,
    /// Its parts in reading order, and their order from left to right.
    pub(super) segments: Vec<Segment>,
    pub(super) order: Vec<Ordered>,
    /// What was known of the text before it changed.
    pub(super) old: Prepared,
    pub(super) old_missing: Vec<u32>,
    pub(super) levels: Vec<u8>,
    /// Where the pen stands for each of its glyphs.
    pub(super) pens: Vec<f64>,
    /// Where the glyphs of a part are drawn.
    pub(super) origins: Vec<(f64, f64)>,
    /// How wide the clusters of a part are, and how high its letters stand.
    pub(super) numbers: Vec<f64>,
}

/// A copy of a layout begins with memory of its own.
impl Clone for Workspace {
    fn clone(&self) -> Self {
        Self::default()
    }
}
