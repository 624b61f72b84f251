//! Laid-out texts and sprites → quads, and quads → pixels.
//!
//! What goes in: layouts and sprites with places, from anywhere and in any
//! order of depth. What comes out: a [`Frame`], plain vertices and indices in
//! painter's order that one draw call shows; [`Canvas`] draws it on the CPU.

mod blend;
mod builder;
mod canvas;
mod frame;
mod panel;
mod vertex;

pub use builder::{FrameBuilder, Layer};
pub use canvas::Canvas;
pub use frame::{Batch, Frame};
pub use vertex::{Shade, ShadeKind, TEXEL_UNITS, Vertex};
