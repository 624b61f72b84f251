//! Bitmap fonts: BDF, PCF, console fonts (PSF), and strikes inside OpenType fonts.
//!
//! In: the bytes of such a file. Out: an OpenType font whose
//! outlines are the pixels' squares, so that everything else works as with any
//! face: at the strike's own size, and at its whole multiples, the rasteriser
//! gives back the very pixels, and [`Face::crisp_size`](super::Face::crisp_size)
//! knows these sizes.

mod bdf;
mod build;
mod charset;
mod embedded;
mod making;
mod pcf;
mod psf;
mod strike;

pub(super) use build::{UNITS, open_type};
pub(super) use embedded::{ColorBitmaps, PlacedPng};
pub(super) use making::{
    Format, Packing, StrikeFont, check_header, embedded_sizes, empty_font, format_of, from_bitmap,
    from_embedded, packing_of, unpack,
};
pub(super) use strike::{Missing, Strike, StrikeGlyph};
