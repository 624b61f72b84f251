//! Pictures, ready for a page.

use std::borrow::Cow;

use super::pixels::Pixels;
use super::{AtlasError, PageKind, Sampling};
use crate::base::Edges;
#[cfg(feature = "png")]
use crate::base::Image;
use crate::font::GlyphPicture;
use crate::outline::{Outline, OutlinePoint};
#[cfg(feature = "png")]
use crate::raster::RasterError;
use crate::raster::{Coverage, GlyphRequest, Placement, Rasterizer};

/// A quarter of a circle as one cubic reaches so far: off by less than 1/3000 of the radius.
pub(super) const QUARTER: f32 = 0.551_915;

/// A picture that has no place yet.
pub(crate) struct DrawnPicture<'a> {
    pub(crate) kind: PageKind,
    pub(crate) width: u32,
    pub(crate) height: u32,
    pub(crate) left: i32,
    pub(crate) top: i32,
    /// Device pixels that a texel is wide; the lengths are in texels.
    pub(crate) reduction: u32,
    /// True if it is coarser than it would be.
    pub(crate) is_coarse: bool,
    /// Rows that are shown, where there is a veil below them.
    pub(crate) shown_height: Option<u32>,
    pub(crate) texels: Cow<'a, [u8]>,
}

impl<'a> DrawnPicture<'a> {
    /// A mask; nothing where there is no ink.
    pub(super) fn of_coverage(picture: &'a Coverage) -> Option<Self> {
        (!picture.is_empty()).then(|| Self {
            kind: match picture.channels {
                4 => PageKind::Color,
                _ => PageKind::Mask,
            },
            width: picture.width,
            height: picture.height,
            left: picture.left,
            top: picture.top,
            reduction: picture.reduction,
            is_coarse: picture.is_coarse,
            shown_height: None,
            texels: Cow::Borrowed(&picture.texels),
        })
    }
}

/// Draws a glyph; nothing for one without ink. Pictures larger than `most` a side are
/// refused.
pub(crate) fn draw_glyph<'a>(
    rasterizer: &'a mut Rasterizer,
    request: &GlyphRequest<'_>,
    most: u16,
) -> Result<Option<DrawnPicture<'a>>, AtlasError> {
    if let Some(picture) = request.face.picture(request.glyph) {
        // A picture has no outline to treat.
        return request
            .treatment
            .is_plain()
            .then(|| enlarged(request, picture, most))
            .transpose();
    }
    if request.face.has_strike_picture(request.glyph) {
        return draw_strike(rasterizer, request, most);
    }
    let picture = rasterizer.glyph(request)?;
    let Some(drawn) = DrawnPicture::of_coverage(picture) else {
        return Ok(None);
    };
    if request.veil.is_empty() {
        return Ok(Some(drawn));
    }
    let (shown, width) = (drawn.height, drawn.width.max(1));
    Ok(Some(DrawnPicture {
        height: drawn.texels.len() as u32 / width,
        shown_height: Some(shown),
        ..drawn
    }))
}

/// The picture of a glyph that the font has as a PNG, at the size asked for: in its colours, or
/// as a shape.
#[cfg(feature = "png")]
fn draw_strike<'a>(
    rasterizer: &'a mut Rasterizer,
    request: &GlyphRequest<'_>,
    most: u16,
) -> Result<Option<DrawnPicture<'a>>, AtlasError> {
    let GlyphRequest {
        face, glyph, size, ..
    } = *request;
    let found = face.strike_picture(glyph, size);
    let Some(strike) = found.map_err(RasterError::from)? else {
        return Ok(None);
    };
    let image = Image::from_png_with(strike.png, face.limits());
    let image = image.map_err(|source| AtlasError::GlyphPicture { glyph, source })?;
    let scale = size / f32::from(strike.size);
    let side = |length: u32| (length as f32 * scale).round().max(1.0) as u32;
    let (width, height) = (side(image.width()), side(image.height()));
    if width.max(height) > u32::from(most) {
        return Err(AtlasError::TooLarge {
            width,
            height,
            page: (most, most),
        });
    }
    let above = f32::from(strike.up)
        + if strike.is_top {
            0.0
        } else {
            image.height() as f32
        };
    let left = (f32::from(strike.left) * scale).round() as i32;
    let top = -(above * scale).round() as i32;
    let texels = Pixels::premultiplied(&image).resized(width, height, Sampling::Smooth);
    if request.treatment.is_in_color() {
        return Ok(Some(DrawnPicture {
            kind: PageKind::Color,
            width,
            height,
            left,
            top,
            reduction: 1,
            is_coarse: false,
            shown_height: None,
            texels: Cow::Owned(texels),
        }));
    }
    let alphas = texels.as_chunks::<4>().0.iter().map(|[.., alpha]| *alpha);
    let place = (left, top, width, height);
    let shape = rasterizer.treat_mask(place, alphas, &request.treatment)?;
    Ok(DrawnPicture::of_coverage(shape))
}

/// Without the feature `png` there are no such pictures.
#[cfg(not(feature = "png"))]
fn draw_strike<'a>(
    _: &'a mut Rasterizer,
    _: &GlyphRequest<'_>,
    _: u16,
) -> Result<Option<DrawnPicture<'a>>, AtlasError> {
    Ok(None)
}

/// Draws the top left quarter of a ring, by its radii in pixels, and a pixel more to the
/// right and down.
pub(super) fn draw_corner(
    rasterizer: &mut Rasterizer,
    outer: u16,
    inner: u16,
) -> Result<Option<DrawnPicture<'_>>, AtlasError> {
    let (outer, inner) = (f32::from(outer), f32::from(inner));
    let mut ring = Outline::new();
    // About the middle of the ring, y up: from the left end over the top one and back. Both
    // ends go on for a pixel, so that what is sampled there meets no edge.
    ring.move_to(-outer, -1.0);
    ring.line_to(-outer, 0.0);
    ring.curve_to(
        OutlinePoint::new(-outer, outer * QUARTER),
        OutlinePoint::new(-outer * QUARTER, outer),
        OutlinePoint::new(0.0, outer),
    );
    ring.line_to(1.0, outer);
    if inner > 0.0 {
        ring.line_to(1.0, inner);
        ring.line_to(0.0, inner);
        ring.curve_to(
            OutlinePoint::new(-inner * QUARTER, inner),
            OutlinePoint::new(-inner, inner * QUARTER),
            OutlinePoint::new(-inner, 0.0),
        );
        ring.line_to(-inner, -1.0);
    } else {
        ring.line_to(1.0, -1.0);
    }
    ring.close();
    let placement = Placement {
        scale: 1.0,
        x: outer,
        y: outer,
    };
    let picture = rasterizer.fill(&ring, placement, Edges::Smooth)?;
    Ok(DrawnPicture::of_coverage(picture))
}

/// The picture of a glyph that is one, at the nearest whole multiple of its size.
fn enlarged(
    request: &GlyphRequest<'_>,
    picture: &GlyphPicture,
    most: u16,
) -> Result<DrawnPicture<'static>, AtlasError> {
    let own = request.face.strike_size().map_or(request.size, f32::from);
    let times = (request.size / own).round().max(1.0) as u32;
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
    Ok(DrawnPicture {
        kind: PageKind::Color,
        width,
        height,
        left: picture.left * times as i32,
        top: picture.top * times as i32,
        reduction: 1,
        is_coarse: false,
        shown_height: None,
        texels: Cow::Owned(texels),
    })
}
