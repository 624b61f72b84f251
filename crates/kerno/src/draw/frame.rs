//! A frame, ready to draw.

use std::ops::Range;

use super::Vertex;

/// Everything to draw, in painter's order. Plain data, borrowed from the
/// [`FrameBuilder`](super::FrameBuilder) that made it.
///
/// Every quad is convex and has four vertices, in order around it, and six indices, of
/// two triangles that share its first and third vertex; they may go either way around, and
/// one of them may be empty. Draw without culling, blend with “one, one minus source
/// alpha”.
#[derive(Clone, Copy, Debug)]
#[non_exhaustive]
pub struct Frame<'a> {
    /// Corners of quads.
    pub vertices: &'a [Vertex],
    /// Two triangles a quad, farthest quad first.
    pub indices: &'a [u32],
    /// The batches, each for one draw call; one, as long as both texture arrays
    /// stay bound, and none for an empty frame.
    pub batches: &'a [Batch],
}

impl Frame<'_> {
    /// The number of quads.
    pub fn quad_count(&self) -> usize {
        self.indices.len() / 6
    }
}

/// A run of indices for one draw call.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Batch {
    /// Range of [`Frame::indices`].
    pub indices: Range<u32>,
}
