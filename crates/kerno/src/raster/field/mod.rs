//! Distance fields: outlines → the distance of each texel from the edge.
//!
//! In: contours, placed in texels, and a range. Out: a picture whose
//! texels say how far their centres lie from the edge of what is filled, inside above the
//! middle. Contours become lines (`lines`), of which those inside of the whole are left out
//! (`union`), then each line tells the texels that it is near to (`maker`, `strip`). For fields of
//! several channels, lines are given theirs (`channels`), and each channel has a distance of
//! its own (`several`).

mod channels;
mod lines;
mod maker;
mod several;
mod strip;
mod union;

pub(super) use maker::FieldMaker;
