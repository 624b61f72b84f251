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
#[derive(Clone, Copy, Debug, Default)]
#[non_exhaustive]
pub struct Frame<'a> {
    /// Corners of quads.
    pub vertices: &'a [Vertex],
    /// Two triangles a quad, farthest quad first.
    pub indices: &'a [u32],
    /// The batches, each for one draw call, in their order; one, as long as both texture
    /// arrays stay bound and there is no [`Scope::group`](super::Scope::group), and none for
    /// an empty frame.
    pub batches: &'a [Batch],
}

impl Frame<'_> {
    /// The number of quads.
    pub fn quad_count(&self) -> usize {
        self.indices.len() / 6
    }

    /// Bytes of its vertices and indices, which a renderer uploads. What the pages cost is
    /// [`AtlasStatistics::changed_bytes`](crate::atlas::AtlasStatistics::changed_bytes).
    pub fn byte_count(&self) -> usize {
        size_of_val(self.vertices) + size_of_val(self.indices)
    }
}

/// A run of indices for one draw call.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Batch {
    /// Range of [`Frame::indices`]; empty where only the target changes.
    pub indices: Range<u32>,
    /// The target that it is drawn on.
    pub pass: Pass,
}

/// A change of the target before a batch is drawn.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum Pass {
    /// It stays the same.
    Same,
    /// A group begins: what follows is drawn on a clear target of its own.
    Begin,
    /// A group ends: its target is laid over the one before.
    End {
        /// Opacity that it is multiplied by, 0 to 255.
        opacity: u8,
    },
}
