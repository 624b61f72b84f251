//! Outlines: closed contours of lines and curves.
//!
//! In: points and curves, in the units of whoever draws them, y up. Out:
//! an [`Outline`], to be walked along, filled, grown on all sides, or stroked. The room knows
//! nothing of fonts.

mod contours;
mod memory;
mod outset;
mod shape;
mod stroke;

pub use contours::OutlinePoint;
pub(crate) use contours::{Contour, Contours, PointKind};
pub(crate) use memory::{DeltaMemory, ReaderMemory};
pub use shape::{Outline, Segment};
pub(crate) use stroke::Stroke;
