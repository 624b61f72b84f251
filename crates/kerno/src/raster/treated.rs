//! Outlines as treatments want them: grown, a band along the edge, blurred.

use super::blur::Blur;
use super::filler::Filler;
use super::overlap::overlaps;
use super::placement::Placement;
use super::{Coverage, RasterError};
use crate::base::{Band, BandSide, Edges, Join, Limits, Treatment};
use crate::outline::{Outline, OutlinePoint, Stroke};

/// The farthest that a band's edge may lie from where it should, in device pixels.
const TOLERANCE: f32 = 1.0 / 64.0;

/// Mitred outsets up to this share of the longer side of a shape are made by moving its
/// points: wider ones would get notches.
const SLIGHT: f32 = 0.05;

/// Memory for pictures that are made of others.
#[derive(Debug, Default)]
pub(super) struct Treated {
    stroked: Outline,
    blur: Blur,
    picture: Coverage,
    other: Coverage,
}

/// An outline that is to be treated.
#[derive(Clone, Copy)]
pub(super) struct Shape<'a> {
    pub(super) outline: &'a Outline,
    pub(super) placement: Placement,
    pub(super) edges: Edges,
    pub(super) join: Join,
    pub(super) limits: &'a Limits,
}

impl Treated {
    /// Draws an outline, placed in device pixels, as a treatment says, at a size that goes
    /// with its blur.
    pub(super) fn draw(
        &mut self,
        filler: &mut Filler,
        placed: (&Outline, Placement),
        treatment: &Treatment,
        limits: &Limits,
    ) -> Result<&Coverage, RasterError> {
        self.draw_reduced(filler, placed, (treatment, treatment.reduction()), limits)
    }

    /// The same with a texel for each pixel.
    pub(super) fn draw_whole(
        &mut self,
        filler: &mut Filler,
        placed: (&Outline, Placement),
        treatment: &Treatment,
        limits: &Limits,
    ) -> Result<&Coverage, RasterError> {
        self.draw_reduced(filler, placed, (treatment, 1), limits)
    }

    /// The same with texels of a number of device pixels.
    pub(super) fn draw_reduced(
        &mut self,
        filler: &mut Filler,
        (outline, placement): (&Outline, Placement),
        (treatment, reduction): (&Treatment, u32),
        limits: &Limits,
    ) -> Result<&Coverage, RasterError> {
        let part = 1.0 / reduction as f32;
        let shape = Shape {
            outline,
            placement: Placement {
                scale: placement.scale * part,
                x: placement.x * part,
                y: placement.y * part,
            },
            edges: treatment.edges,
            join: treatment.join,
            limits,
        };
        let outset = treatment.outset_px() * part;
        let (outer, inner) = match treatment.band {
            None => (outset, None),
            Some(band) => {
                let (outer, inner) = sides(band);
                (outset + outer * part, Some(outset + inner * part))
            }
        };
        self.grown(filler, shape, outer)?;
        if let Some(inner) = inner {
            let outer = std::mem::take(&mut self.picture);
            let cut = self.grown(filler, shape, inner);
            self.other = std::mem::replace(&mut self.picture, outer);
            cut?;
            self.picture.is_coarse |= self.other.is_coarse;
            subtract(&mut self.picture, &self.other);
        }
        let deviation = reduced(treatment.blur_px(), reduction);
        self.blur
            .apply(&mut self.picture, deviation, limits.picture_side)?;
        self.picture.reduction = reduction;
        self.picture.is_coarse |= reduction > treatment.reduction();
        Ok(&self.picture)
    }

    /// The pixels of a reduced picture that a blur reaches beyond the shape.
    pub(super) fn blur_reach(treatment: &Treatment) -> usize {
        Blur::reach(reduced(treatment.blur_px(), treatment.reduction()))
    }

    /// Draws the shape with its edge moved outwards, or inwards below 0.
    fn grown(
        &mut self,
        filler: &mut Filler,
        shape: Shape<'_>,
        outset: f32,
    ) -> Result<(), RasterError> {
        let Shape {
            outline,
            placement,
            edges,
            join,
            limits,
        } = shape;
        let stroked = &mut self.stroked;
        stroked.clear();
        let reach = outset.abs() / placement.scale;
        let is_slight = reach <= longest_side(outline) * SLIGHT;
        if outset > 0.0 && join == Join::Miter && is_slight {
            // Moved points do, and are far quicker than a band.
            stroked.contours.append(&outline.contours);
            stroked.outset(reach);
            let has_overlaps = edges != Edges::Hard && overlaps(&stroked.contours);
            let whole = (&stroked.contours, has_overlaps);
            let picture = filler.fill(whole, placement, edges, limits)?;
            self.picture.clone_from(picture);
            return Ok(());
        }
        if outset != 0.0 {
            let stroke = Stroke {
                half: reach,
                join,
                tolerance: TOLERANCE / placement.scale,
            };
            stroke.add(&outline.contours, stroked);
            if outset < 0.0 {
                let band = (&stroked.contours, true);
                self.other
                    .clone_from(filler.fill(band, placement, edges, limits)?);
            }
        }
        stroked.contours.append(&outline.contours);
        // A band's parts lie over each other: there is no need to look.
        let has_overlaps = edges != Edges::Hard && (outset != 0.0 || overlaps(&stroked.contours));
        let whole = (&stroked.contours, has_overlaps);
        self.picture
            .clone_from(filler.fill(whole, placement, edges, limits)?);
        if outset < 0.0 {
            // The rest of shape and band without the band.
            subtract(&mut self.picture, &self.other);
        }
        Ok(())
    }
}

/// The longer side of the box around an outline, in its units.
fn longest_side(outline: &Outline) -> f32 {
    let points = &outline.contours.points;
    let side = |axis: fn(&OutlinePoint) -> f32| {
        let own = points.iter().map(axis);
        let low = own.clone().fold(f32::INFINITY, f32::min);
        own.fold(f32::NEG_INFINITY, f32::max) - low
    };
    side(|point| point.x).max(side(|point| point.y)).max(0.0)
}

/// The distances of a band's edges from the edge of the shape, outwards.
fn sides(band: Band) -> (f32, f32) {
    let width = band.width_px();
    match band.side {
        BandSide::Outside => (width, 0.0),
        BandSide::Centered => (width * 0.5, width * -0.5),
        BandSide::Inside => (0.0, -width),
    }
}

/// The blur of a reduced picture, in its pixels: less by what drawing at that size and
/// enlarging it smoothly blur themselves, a square of a pixel each and a triangle of two.
fn reduced(deviation: f32, reduction: u32) -> f32 {
    let own = deviation / reduction as f32;
    let share = 1.0 - 1.0 / (reduction * reduction) as f32;
    let (square, triangle) = (1.0 / 12.0, 1.0 / 6.0);
    (own * own - share * (square + triangle)).max(0.0).sqrt()
}

/// Takes away what another picture covers.
fn subtract(picture: &mut Coverage, other: &Coverage) {
    let width = picture.width as usize;
    if width == 0 {
        return;
    }
    let (left, top) = (picture.left, picture.top);
    for (row, texels) in picture.texels.chunks_exact_mut(width).enumerate() {
        for (column, texel) in texels.iter_mut().enumerate() {
            let below = other.at(left + column as i32, top + row as i32);
            *texel = texel.saturating_sub(below);
        }
    }
}
