//! From a face and a glyph number to a picture.

use super::budget::Budget;
use super::color::{ColorPainter, Trace};
use super::field::FieldMaker;
use super::filler::{Extent, Filler};
use super::grid_fit::GridFit;
use super::overlap::overlaps;
use super::placement::Placement;
use super::treated::Treated;
use super::veiled::Veiled;
use super::{Coverage, GlyphRequest, RasterError};
use crate::base::{Edges, Limits, Treatment};
use crate::font::GlyphColors;
use crate::outline::{Contours, Outline};

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
    painter: ColorPainter,
    trace: Trace,
    mask: Coverage,
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
        if !(size > 0.0 && size.is_finite()) {
            return Err(RasterError::Size(size));
        }
        let placement = Placement {
            scale: size / f32::from(face.metrics().units_per_em),
            x: request.subpixel.shift(),
            y: 0.0,
        };
        let budget = Budget::of(size);
        self.filler.begin(budget);
        if face.glyph_colors(glyph) != GlyphColors::None
            && let Some(painted) = face.painted(glyph, request.foreground)?
        {
            self.painter
                .paint(&mut self.filler, (face, &painted), (placement, budget))?;
            if request.treatment.is_in_color() {
                return Ok(self.painter.picture());
            }
            let picture = self.painter.picture();
            let alphas = picture.texels.as_chunks::<4>().0.iter();
            let alphas = alphas.map(|[.., alpha]| *alpha);
            copy_mask(picture, alphas, &mut self.mask);
            return self.treat_own_mask(&request.treatment, (budget, face.limits()));
        }
        let outline = &mut self.outline;
        face.outline(glyph, outline)?;
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
        let usual = treatment.reduction();
        let times = budget.coarseness(&outline.contours, placement, treatment);
        let is_coarse = times > usual && fits(&outline.contours, placement, face.limits());
        if treatment.edges.is_field() {
            let overlaps = face.overlaps(glyph, || overlaps(&outline.contours));
            let contours = (&outline.contours, overlaps);
            let times = if is_coarse { times } else { 1 };
            return self
                .fields
                .make(contours, (placement, times), treatment, face.limits());
        }
        if is_coarse || !treatment.is_plain() {
            let placed = (&*outline, placement);
            let reduction = if is_coarse { times } else { usual };
            let (treated, limits) = (&mut self.treated, face.limits());
            return treated.draw_reduced(&mut self.filler, placed, (treatment, reduction), limits);
        }
        let edges = treatment.edges;
        let overlaps = edges != Edges::Hard && face.overlaps(glyph, || overlaps(&outline.contours));
        let contours = (&outline.contours, overlaps);
        self.filler.fill(contours, placement, edges, face.limits())
    }

    /// Treats the shape of a picture, by how much of each pixel it covers.
    pub(crate) fn treat_mask(
        &mut self,
        place: (i32, i32, u32, u32),
        alphas: impl Iterator<Item = u8>,
        treatment: &Treatment,
    ) -> Result<&Coverage, RasterError> {
        let (left, top, width, height) = place;
        let frame = Coverage {
            left,
            top,
            width,
            height,
            ..Coverage::default()
        };
        copy_mask(&frame, alphas, &mut self.mask);
        let budget = Budget::of(width.max(height) as f32);
        self.filler.begin(budget);
        self.treat_own_mask(treatment, (budget, &Limits::default()))
    }

    fn treat_own_mask(
        &mut self,
        treatment: &Treatment,
        (budget, limits): (Budget, &Limits),
    ) -> Result<&Coverage, RasterError> {
        if treatment.is_plain() {
            return Ok(&self.mask);
        }
        self.trace.trace(&self.mask);
        let placement = Placement {
            scale: 1.0,
            x: 0.0,
            y: 0.0,
        };
        let placed = (&self.trace.outline, placement);
        let treatment = treatment.without_field();
        let contours = &self.trace.outline.contours;
        let times = budget.coarseness(contours, placement, &treatment);
        self.treated
            .draw_reduced(&mut self.filler, placed, (&treatment, times), limits)
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
        self.filler.begin(Budget::LARGEST);
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
        self.filler.begin(Budget::LARGEST);
        let contours = (&outline.contours, overlaps(&outline.contours));
        self.filler.fill(contours, placement, edges, &limits)
    }
}

/// Returns whether an outline is no larger than pictures may be: what is, is refused rather than
/// drawn coarser.
fn fits(contours: &Contours, placement: Placement, limits: &Limits) -> bool {
    let extent = Extent::of(&contours.points, placement);
    extent.is_ok_and(|extent| extent.is_none_or(|extent| extent.is_within(limits)))
}

/// Makes a mask of the alphas of a picture.
fn copy_mask(picture: &Coverage, alphas: impl Iterator<Item = u8>, mask: &mut Coverage) {
    let texels = std::mem::take(&mut mask.texels);
    *mask = Coverage {
        texels,
        channels: 1,
        reduction: 1,
        is_coarse: picture.is_coarse,
        left: picture.left,
        top: picture.top,
        width: picture.width,
        height: picture.height,
    };
    mask.texels.clear();
    mask.texels.extend(alphas);
}
