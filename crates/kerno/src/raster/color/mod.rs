//! Colour glyphs: the steps of a paint graph → a picture in colours; a picture → its shape.
//!
//! In: the steps that the font says (`font/color`), and a size. Out: four
//! bytes a pixel, multiplied by alpha (`painter`, `blend`), and for effects the outline of
//! what is seen of a picture (`trace`).

mod blend;
mod painter;
mod trace;

pub(super) use painter::ColorPainter;
pub(super) use trace::Trace;
