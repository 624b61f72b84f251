//! Memory that laying out takes and gives back.

use super::prepared::Prepared;
use super::segments::{Ordered, Reshaped, Segment};
use crate::base::Rect;
use crate::font::Attachment;

/// Memory that laying out takes and gives back: what is laid out again and again
/// allocates nothing once it has grown.
#[derive(Debug, Default)]
pub(super) struct Workspace {
    /// The ends of lines, and others that are tried.
    pub(super) ends: Vec<usize>,
    pub(super) tried_ends: Vec<usize>,
    /// What each line covers.
    pub(super) inks: Vec<Rect>,
    /// What was shaped for the line at hand.
    pub(super) fresh: Reshaped,
    /// Its parts in reading order, and their order from left to right.
    pub(super) segments: Vec<Segment>,
    pub(super) order: Vec<Ordered>,
    /// What was known of the text before it changed.
    pub(super) old: Prepared,
    pub(super) old_missing: Vec<u32>,
    pub(super) levels: Vec<u8>,
    /// What of a part stands on what.
    pub(super) attachments: Vec<(usize, Attachment)>,
    /// How high letters stand, where the spaces of a line are.
    pub(super) numbers: Vec<f32>,
}

/// A copy of a layout begins with memory of its own.
impl Clone for Workspace {
    fn clone(&self) -> Self {
        Self::default()
    }
}
