//! From the size that a HUD was designed for to the window it is shown in.
//!
//! What goes in: a design size, a window size, and how the one fits the other.
//! What comes out: a [`Viewport`], which places things by anchors and hands
//! `draw` the [`Mapping`](crate::base::Mapping) to device pixels.

mod viewport;

pub use viewport::{Fit, Viewport, ViewportError};
