//! From a placed glyph to the picture that it needs.

use super::space::Space;
use crate::atlas::AtlasOptions;
use crate::base::{DevicePoint, Treatment};
use crate::raster::{GlyphRequest, Subpixel, SubpixelPositions};
use crate::text::{EffectLayer, PlacedGlyph, Style, TextLayout};

/// Pictures of letters that lie between the pixels of the window: larger
/// than they are shown, in a few sizes that serve all scales, and blurred a little, so that
/// they look alike wherever they lie.
#[derive(Clone, Copy, Debug)]
pub(super) struct Detail {
    /// Device pixels per design pixel of text that stands still.
    pub(super) usual: f32,
    /// True if it is to keep its spacing from frame to frame.
    pub(super) is_moving: bool,
}

/// The size from which on letters are large, in device pixels per em: small ones gain more
/// from being drawn larger, and cost less.
const LARGE: f32 = 48.0;

/// The least factor by which small letters are drawn larger than they are shown.
const LEAST: f32 = 1.9;

impl Detail {
    /// Pixels of letters' pictures in a design pixel, for letters of a size in design pixels
    /// that are shown at a scale.
    pub(super) fn picture_scale(&self, size: f32, scale: f32) -> f32 {
        let times = if self.is_large(size) { 1.5 } else { 3.0 };
        // The next power of two, as long as letters are not tiny.
        let step = (scale / self.usual * LEAST / 3.0).log2().ceil();
        let step = if step.is_finite() { step } else { 0.0 };
        self.usual * times * step.clamp(-1.0, 8.0).exp2()
    }

    /// Standard deviation of the blur, in pixels of the picture. What moves needs more for
    /// the centres of its letters to stay where they are.
    fn blur(&self, size: f32) -> f32 {
        match (self.is_large(size), self.is_moving) {
            (true, _) => 0.3,
            (false, false) => 0.75,
            (false, true) => 1.05,
        }
    }

    fn is_large(&self, size: f32) -> bool {
        size * self.usual >= LARGE
    }
}

/// The distance fields of an atlas.
#[derive(Clone, Copy, Debug)]
pub(super) struct FieldOptions {
    /// Texels in an em.
    size: f32,
    /// In texels, from the lowest value to the highest one.
    range: u8,
}

/// The width of an edge that is softened as a Gaussian of a standard deviation of 1 does: the
/// slope 6t(1 - t) of t²(3 - 2t) has a variance of 1/20.
const SOFTNESS: f32 = 4.472;

impl FieldOptions {
    pub(super) fn of(options: &AtlasOptions) -> Self {
        Self {
            size: options.field_size.into(),
            range: options.field_range,
        }
    }

    /// Texels in a design pixel, for letters of a style.
    pub(super) fn picture_scale(&self, style: &Style) -> f32 {
        self.size / style.size
    }

    /// The width over which an edge is softened by the blur of a treatment.
    pub(super) fn softness(treatment: &Treatment) -> f32 {
        treatment.blur_px() * SOFTNESS
    }

    /// Returns whether a treatment, its lengths in texels, is within the range, where a pixel
    /// is a number of texels wide.
    pub(super) fn hold(&self, treatment: &Treatment, texels_per_pixel: f32) -> bool {
        let half = f32::from(self.range) * 0.5;
        let width = Self::softness(treatment).max(texels_per_pixel);
        texels_per_pixel <= half
            && treatment.band().is_none()
            && treatment.outset_px().abs() + width * 0.5 <= half
    }
}

/// A request for the picture of a placed glyph, and the whole pixel that it is about.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct PlacedRequest<'a> {
    /// The picture.
    pub request: GlyphRequest<'a>,
    /// The pixel left of the pen, on the baseline, or for a picture that is drawn between
    /// pixels the pen itself: [`Slot::left`](crate::atlas::Slot::left) and
    /// [`Slot::top`](crate::atlas::Slot::top) are counted from it.
    pub pen: DevicePoint,
}

impl<'a> PlacedRequest<'a> {
    /// The picture of one layer of a glyph that is drawn between pixels; the pen is where it
    /// is.
    pub(super) fn between(
        layout: &'a TextLayout,
        glyph: &PlacedGlyph,
        layer: &EffectLayer,
        corner: DevicePoint,
        (scale, detail): (f32, Detail),
    ) -> Self {
        let style = layout.style(glyph.span);
        let face = style.face_at(glyph.face);
        let picture_scale = detail.picture_scale(style.size, scale);
        let treatment = layer.treatment.softened(detail.blur(style.size));
        let part = scale / picture_scale;
        Self {
            request: GlyphRequest::new(face, glyph.glyph, style.size * picture_scale)
                .treatment(treatment),
            pen: DevicePoint::new(
                corner.x + glyph.x * scale + layer.offset.x * part,
                corner.y + glyph.y * scale + layer.offset.y * part,
            ),
        }
    }

    /// The distance field of a glyph, for one of its layers; the pen is where it is, on a
    /// whole pixel down where the window's pixels are those of the space. A texel is `part`
    /// pixels wide.
    pub(super) fn of_field(
        layout: &'a TextLayout,
        glyph: &PlacedGlyph,
        layer: &EffectLayer,
        corner: DevicePoint,
        (space, part, fields): (&Space, f32, FieldOptions),
    ) -> Self {
        let style = layout.style(glyph.span);
        let face = style.face_at(glyph.face);
        let treatment = Treatment::from(style.edges).with_range(fields.range);
        let baseline = corner.y + glyph.y * space.scale;
        let baseline = match space.detail {
            Some(_) => baseline,
            None => baseline.round(),
        };
        Self {
            request: GlyphRequest::new(face, glyph.glyph, fields.size).treatment(treatment),
            pen: DevicePoint::new(
                corner.x + glyph.x * space.scale + layer.offset.x * part,
                baseline + layer.offset.y * part,
            ),
        }
    }

    /// The picture of one layer of a glyph of a text, whose block has its top left corner
    /// on `corner`, at `scale` device pixels per design pixel, in one of
    /// the subpixel positions ([`AtlasOptions`](crate::atlas::AtlasOptions)). The pen is on
    /// the nearest of them, the baseline on a whole pixel.
    ///
    /// ```no_run
    /// use kerno::{Atlas, TextLayout};
    /// use kerno::atlas::{AtlasError, Slot};
    /// use kerno::base::DevicePoint;
    /// use kerno::draw::PlacedRequest;
    /// fn pictures(text: &TextLayout, atlas: &mut Atlas) -> Result<Vec<Slot>, AtlasError> {
    ///     let (corner, scale) = (DevicePoint::new(100.0, 40.0), 2.0);
    ///     let positions = atlas.options().subpixel_positions;
    ///     let mut slots = Vec::new();
    ///     for glyph in text.glyphs() {
    ///         let style = text.style(glyph.span);
    ///         for layer in style.layers().filter_map(|number| style.layer(number, scale)) {
    ///             let placed = PlacedRequest::new(text, glyph, &layer, corner, scale, positions);
    ///             slots.extend(atlas.glyph(&placed.request)?);
    ///         }
    ///     }
    ///     Ok(slots)
    /// }
    /// ```
    ///
    /// # Panics
    /// If the glyph is of another layout that has more spans.
    pub fn new(
        layout: &'a TextLayout,
        glyph: &PlacedGlyph,
        layer: &EffectLayer,
        corner: DevicePoint,
        scale: f32,
        positions: SubpixelPositions,
    ) -> Self {
        let style = layout.style(glyph.span);
        let face = style.face_at(glyph.face);
        let size = style.size * scale;
        let count = |treatment| Subpixel::positions(face, glyph.glyph, size, treatment, positions);
        let request = GlyphRequest::new(face, glyph.glyph, size).treatment(layer.treatment);
        let pen = (
            corner.x + glyph.x * scale,
            (corner.y + glyph.y * scale).round(),
        );
        if layer.treatment.glides() {
            // Beneath the place that the letter is drawn in.
            let letters = Treatment::from(style.edges);
            let (x, subpixel) = Subpixel::nearest(pen.0, count(letters));
            let x = x + subpixel.shift() + layer.offset.x;
            return Self {
                request,
                pen: DevicePoint::new(x, pen.1 + layer.offset.y),
            };
        }
        let count = count(layer.treatment);
        let (x, subpixel) = Subpixel::nearest(pen.0 + layer.offset.x, count);
        Self {
            request: request.subpixel(subpixel),
            pen: DevicePoint::new(x, pen.1 + layer.offset.y.round()),
        }
    }
}
