//! Outlines → pictures: how much of each pixel a glyph covers.
//!
//! In: an outline and a pixel size. Out: [`Coverage`], one
//! byte a pixel. Here, and only here, y turns from up to down.

mod accumulate;
mod blur;
mod budget;
mod color;
mod coverage;
mod cubics;
mod curves;
mod dropout;
mod error;
mod field;
mod filler;
mod flatten;
mod grid_fit;
mod lanes;
mod overlap;
mod placement;
mod positions;
mod rasterizer;
mod request;
mod sweep;
mod treated;
mod veiled;

pub use coverage::Coverage;
pub use error::RasterError;
pub use placement::Placement;
pub use positions::SubpixelPositions;
pub use rasterizer::Rasterizer;
pub use request::{GlyphRequest, Subpixel, VeilLayer};
pub(crate) use veiled::VEIL_ROWS;
