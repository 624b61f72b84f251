//! From a face and a glyph number to a picture.

use super::field::FieldMaker;
use super::filler::Filler;
use super::grid_fit::GridFit;
use super::overlap::overlaps;
use super::placement::Placement;
use super::treated::Treated;
use super::veiled::Veiled;
use super::{Coverage, GlyphRequest, RasterError};
use crate::base::{Edges, Limits, Treatment};
use crate::outline::Outline;

/// Makes pictures of outlines, and keeps its working memory between them: once
/// warm it allocates nothing.
#[derive(Debug, Default)]
pub struct Rasterizer {
    outline: Outline,
    grid_fit: GridFit,
    filler: Filler,
    treated: Treated,
    veiled: Veiled,
    fields: FieldMaker,
}

impl Rasterizer {
    /// A rasteriser without any memory yet.
    pub fn new() -> Self {
        Self::default()
    }

    /// Draws a glyph about a pen near the origin. The picture stays valid until
    /// the next call. A veiled one has a second picture of the same width below it; a field of
    /// several channels has four bytes a pixel.
    ///
    /// # Errors
    /// [`RasterError::Size`] for a size that is not above 0 and finite,
    /// [`RasterError::TooLarge`] over the face's limit, [`RasterError::Font`]
    /// where the glyph is damaged.
    pub fn glyph(&mut self, request: &GlyphRequest<'_>) -> Result<&Coverage, RasterError> {
        let GlyphRequest {
            face, glyph, size, ..
        } = *request;
        let outline = &mut self.outline;
        face.outline(glyph, outline)?;
        if !(size > 0.0 && size.is_finite()) {
            return Err(RasterError::Size(size));
        }
        let placement = Placement {
            scale: size / f32::from(face.metrics().units_per_em),
            x: request.subpixel.shift(),
            y: 0.0,
        };
        if request.treatment.edges == Edges::GridFitted {
            let zones = face.alignment_zones();
            self.grid_fit.apply(outline, zones, placement.scale);
        }
        if !request.veil.is_empty() {
            let memory = (&mut self.filler, &mut self.treated);
            let placed = (&*outline, placement.scale);
            return self
                .veiled
                .draw(memory, placed, request.veil, face.limits());
        }
        let treatment = &request.treatment;
        if treatment.edges.is_field() {
            let overlaps = face.overlaps(glyph, || overlaps(&outline.contours));
            let contours = (&outline.contours, overlaps);
            return self
                .fields
                .make(contours, placement, treatment, face.limits());
        }
        if !treatment.is_plain() {
            let placed = (&*outline, placement);
            let treated = &mut self.treated;
            return treated.draw(&mut self.filler, placed, treatment, face.limits());
        }
        let edges = treatment.edges;
        let overlaps = edges != Edges::Hard && face.overlaps(glyph, || overlaps(&outline.contours));
        let contours = (&outline.contours, overlaps);
        self.filler.fill(contours, placement, edges, face.limits())
    }

    /// Fills any outline and treats its shape.
    pub(crate) fn fill_treated(
        &mut self,
        outline: &Outline,
        placement: Placement,
        treatment: &Treatment,
    ) -> Result<&Coverage, RasterError> {
        let limits = Limits::default();
        let placed = (outline, placement);
        self.treated
            .draw(&mut self.filler, placed, treatment, &limits)
    }

    /// The pixels of its picture that a blur reaches beyond the shape.
    pub(crate) fn blur_reach(treatment: &Treatment) -> usize {
        Treated::blur_reach(treatment)
    }

    /// Fills any outline by the non-zero winding rule. The picture stays valid
    /// until the next call.
    ///
    /// # Errors
    /// [`RasterError::Size`] for a scale that is not above 0 and finite,
    /// [`RasterError::TooLarge`] over the default limit, [`RasterError::NotFinite`]
    /// where a point lies nowhere.
    pub fn fill(
        &mut self,
        outline: &Outline,
        placement: Placement,
        edges: Edges,
    ) -> Result<&Coverage, RasterError> {
        if !(placement.scale > 0.0 && placement.scale.is_finite()) {
            return Err(RasterError::Size(placement.scale));
        }
        let limits = Limits::default();
        let contours = (&outline.contours, overlaps(&outline.contours));
        self.filler.fill(contours, placement, edges, &limits)
    }
}
