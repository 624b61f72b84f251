//! Colour glyphs: `COLR` and `CPAL` → what is painted, step by step; `CBDT` and `sbix` → a PNG.
//!
//! In: the tables and a glyph. Out: steps in font units (y up) with the
//! palette's colours in them (`paint`, `steps`), or the bytes of a picture at one of the sizes
//! that the font has (`strikes`). Nothing is drawn here.

mod colr;
mod line;
mod paint;
mod palette;
mod steps;
mod strikes;

pub(in crate::font) use colr::{ColorLayers, Paints};
pub(crate) use line::{ColorLine, Extend};
pub use palette::Palette;
pub(in crate::font) use palette::{PaletteChoice, Palettes};
pub(crate) use steps::{Brush, ColorGlyph, CompositeMode, OuterClip, PaintStep};
pub(in crate::font) use strikes::ColorStrikes;
pub(crate) use strikes::StrikePicture;
