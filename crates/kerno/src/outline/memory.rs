//! Memory that readers of outlines keep in the buffer that they fill.

use super::OutlinePoint;

/// Working memory for the points of a glyph.
#[derive(Clone, Debug, Default)]
pub(crate) struct ReaderMemory {
    /// The flags of every point of a simple glyph.
    pub(crate) flags: Vec<u8>,
    pub(crate) deltas: DeltaMemory,
    /// The distance the components of every composite at hand move, innermost last.
    pub(crate) moves: Vec<OutlinePoint>,
}

/// Working memory for the variations of one glyph.
#[derive(Clone, Debug, Default)]
pub(crate) struct DeltaMemory {
    /// The distance each point moves, all tuples together.
    pub(crate) total: Vec<OutlinePoint>,
    /// The same for the tuple at hand, where it names the point.
    pub(crate) tuple: Vec<Option<OutlinePoint>>,
    pub(crate) points: Vec<u16>,
    pub(crate) shared: Vec<u16>,
    pub(crate) values: Vec<f32>,
}
