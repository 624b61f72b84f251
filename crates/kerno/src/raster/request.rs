//! Requests for pictures of glyphs.

use super::SubpixelPositions;
use crate::base::{Color, Edges, Treatment};
use crate::font::{Face, GlyphId};

/// A request for the picture of a glyph: everything that tells one picture from another.
/// The same type asks the [`Rasterizer`](super::Rasterizer), the atlas and the bake.
///
/// ```no_run
/// use kerno::Face;
/// use kerno::raster::{GlyphRequest, Rasterizer, Subpixel};
/// let face = Face::from_file("fonts/Lato-Medium.ttf")?;
/// let glyph = face.glyph('A').expect("a Latin face");
/// let request = GlyphRequest::new(&face, glyph, 24.0).subpixel(Subpixel::new(1, 4));
/// let mut rasterizer = Rasterizer::new();
/// println!("{} pixels wide", rasterizer.glyph(&request)?.width);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct GlyphRequest<'a> {
    /// The face.
    pub face: &'a Face,
    /// The glyph.
    pub glyph: GlyphId,
    /// Device pixels in the side of the em square; above 0 and finite.
    pub size: f32,
    /// Position of the pen between two pixels. Default: on a pixel.
    pub subpixel: Subpixel,
    /// Treatment of its shape. Default: the letter itself, with smooth edges.
    pub treatment: Treatment,
    /// The colour of the text, for a colour glyph that has it among its own. Default: black.
    pub foreground: Color,
    /// The layers of the same letter that lie above this one, where the picture has to tell
    /// what they hide (`docs/drawing.md`, “veiled mask”): this layer's own place first, then
    /// theirs. Default: none.
    pub veil: &'a [VeilLayer],
}

/// A layer of a letter as it is placed about the letter's pen.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub struct VeilLayer {
    /// Treatment of its shape.
    pub treatment: Treatment,
    /// From the whole pixel of the letter's pen to that of the layer, rightwards, in 1/64
    /// device pixel.
    pub x: i32,
    /// The same downwards.
    pub y: i32,
    /// Alpha of its colour.
    pub alpha: u8,
}

impl VeilLayer {
    /// A layer at a place about the letter's pen, in device pixels: the nearest 1/64.
    pub fn new(treatment: Treatment, x: f32, y: f32, alpha: u8) -> Self {
        Self {
            treatment,
            x: (x * 64.0).round() as i32,
            y: (y * 64.0).round() as i32,
            alpha,
        }
    }
}

impl<'a> GlyphRequest<'a> {
    /// A request for a glyph with smooth edges whose pen is on a whole pixel.
    pub fn new(face: &'a Face, glyph: GlyphId, size: f32) -> Self {
        Self {
            face,
            glyph,
            size,
            subpixel: Subpixel::WHOLE,
            treatment: Treatment::default(),
            foreground: Color::BLACK,
            veil: &[],
        }
    }

    /// The same with the pen between two pixels.
    #[must_use]
    pub fn subpixel(self, subpixel: Subpixel) -> Self {
        Self { subpixel, ..self }
    }

    /// The same with another colour of the text, for a colour glyph.
    #[must_use]
    pub fn foreground(self, foreground: Color) -> Self {
        Self { foreground, ..self }
    }

    /// The same for a picture that tells what layers above hide of it.
    #[must_use]
    pub fn veil(self, veil: &'a [VeilLayer]) -> Self {
        Self { veil, ..self }
    }

    /// The same with another treatment of the shape.
    #[must_use]
    pub fn treatment(self, treatment: impl Into<Treatment>) -> Self {
        Self {
            treatment: treatment.into(),
            ..self
        }
    }
}

/// Position of a pen to the right of a whole pixel: one of some that are evenly spread
/// from one pixel to the next.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Subpixel {
    index: u8,
    count: u8,
}

impl Subpixel {
    /// On the pixel.
    pub const WHOLE: Self = Self::new(0, 1);

    /// Position `index` of `count`, counted from 0; the last one where there are not as
    /// many.
    pub const fn new(index: u8, count: u8) -> Self {
        let count = if count == 0 { 1 } else { count };
        let index = if index < count { index } else { count - 1 };
        Self { index, count }
    }

    /// The whole pixel left of a place, and the nearest of `count` positions from there.
    pub fn nearest(x: f32, count: u8) -> (f32, Self) {
        let count = count.max(1);
        let steps = f32::from(count);
        let nearest = (x * steps).round();
        let pixel = (nearest / steps).floor();
        let index = (nearest - pixel * steps) as u8;
        (pixel, Self::new(index, count))
    }

    /// The position as what tells it from others.
    pub(crate) fn key(self) -> (u8, u8) {
        (self.index, self.count)
    }

    /// Index of the position, from 0.
    pub fn index(self) -> u8 {
        self.index
    }

    /// The distance from the pixel, in device pixels: from 0 to less than 1.
    pub fn shift(self) -> f32 {
        f32::from(self.index) / f32::from(self.count)
    }

    /// The number of positions that a glyph is kept in, of those that are kept at its size. Hard edges have
    /// one, and so has a face drawn on pixels at a crisp size: between two pixels it would
    /// blur. Glyphs exactly one em wide, as those of Han and Kana are, all stand alike, and
    /// in a row of them half a pixel is not seen: one picture does. So it does where it is
    /// blurred: it may be drawn anywhere.
    pub fn positions(
        face: &Face,
        glyph: GlyphId,
        size: f32,
        treatment: impl Into<Treatment>,
        positions: impl Into<SubpixelPositions>,
    ) -> u8 {
        let treatment = treatment.into();
        let is_full_width = face.advance(glyph) == face.metrics().units_per_em;
        let is_between = matches!(treatment.edges, Edges::Smooth | Edges::GridFitted);
        let is_placed =
            is_between && !is_full_width && !treatment.glides() && !face.is_color_glyph(glyph);
        if is_placed && face.crisp_size(size) != Some(size) {
            positions.into().at(size)
        } else {
            1
        }
    }
}
