//! From a placed glyph to the picture that it needs.

use crate::base::{DevicePoint, Treatment};
use crate::raster::{GlyphRequest, Subpixel, SubpixelPositions};
use crate::text::{EffectLayer, PlacedGlyph, TextLayout};

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
