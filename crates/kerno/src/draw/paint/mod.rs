//! Quads → pixels, on the CPU.
//!
//! In: the quads of a [`Frame`](super::Frame), the pages of their atlas, and rows
//! of a picture. Out: those rows with the quads over them. A quad is drawn row by
//! row: `texture` and `gradient` make what it shows, `rows` blends it.

mod curve;
mod field;
mod gradient;
mod linear;
mod quads;
mod target;
mod texture;
mod triangle;
mod veil;

pub(super) use linear::LinearLight;
pub(super) use quads::Painter;
pub(super) use target::Target;
