//! Glyphs as pictures, ready for a page.

use std::borrow::Cow;

use super::pixels::Pixels;
use super::{AtlasError, GlyphSpec, PageKind, Sampling};
use crate::base::Edges;
use crate::font::{Face, GlyphId, GlyphPicture};
use crate::raster::{GlyphShape, Rasterizer};

/// A glyph's picture that has no place yet.
pub(crate) struct DrawnGlyph<'a> {
    pub(crate) kind: PageKind,
    pub(crate) width: u32,
    pub(crate) height: u32,
    pub(crate) left: i32,
    pub(crate) top: i32,
    pub(crate) texels: Cow<'a, [u8]>,
}

/// For how many places between two pixels a glyph is kept, of `most`. Hard edges
/// have one, and so has a face drawn on pixels at a crisp size: between two pixels it
/// would blur. Glyphs exactly one em wide, as those of Han and Kana are, all stand
/// alike, and in a row of them half a pixel is not seen: one picture does.
pub(crate) fn steps_of(face: &Face, glyph: GlyphId, size: f32, edges: Edges, most: u8) -> u8 {
    let is_full_width = face.advance(glyph) == face.metrics().units_per_em;
    let is_placed = edges == Edges::Smooth && !is_full_width;
    if is_placed && face.crisp_size(size) != Some(size) {
        most
    } else {
        1
    }
}

/// Draws a glyph whose pen stands on one of `steps` places in a pixel; nothing for
/// one without ink. Pictures larger than `most` a side are refused.
pub(crate) fn draw_glyph<'a>(
    rasterizer: &'a mut Rasterizer,
    spec: &GlyphSpec<'_>,
    steps: u8,
    most: u16,
) -> Result<Option<DrawnGlyph<'a>>, AtlasError> {
    if let Some(picture) = spec.face.picture(spec.glyph) {
        // A picture has no outline to grow.
        let is_plain = spec.treatment.grown == 0;
        return is_plain.then(|| enlarged(spec, picture, most)).transpose();
    }
    let shape = GlyphShape {
        size: spec.size,
        shift_x: f32::from(spec.step) / f32::from(steps),
        treatment: spec.treatment,
    };
    let picture = rasterizer.glyph(spec.face, spec.glyph, shape)?;
    Ok((!picture.is_empty()).then(|| DrawnGlyph {
        kind: PageKind::Mask,
        width: picture.width,
        height: picture.height,
        left: picture.left,
        top: picture.top,
        texels: Cow::Borrowed(&picture.texels),
    }))
}

/// The picture of a glyph that is one, at the nearest whole multiple of its size.
fn enlarged(
    spec: &GlyphSpec<'_>,
    picture: &GlyphPicture,
    most: u16,
) -> Result<DrawnGlyph<'static>, AtlasError> {
    let own = spec.face.strike_size().map_or(spec.size, f32::from);
    let times = (spec.size / own).round().max(1.0) as u32;
    let width = picture.image.width().saturating_mul(times);
    let height = picture.image.height().saturating_mul(times);
    if width.max(height) > u32::from(most) {
        return Err(AtlasError::TooLarge {
            width,
            height,
            page: (most, most),
        });
    }
    let texels = Pixels::premultiplied(&picture.image).resized(width, height, Sampling::Nearest);
    Ok(DrawnGlyph {
        kind: PageKind::Color,
        width,
        height,
        left: picture.left * times as i32,
        top: picture.top * times as i32,
        texels: Cow::Owned(texels),
    })
}
