//! From placed contours to a picture.

use wide::f32x4;

use super::accumulate::{Accumulator, HardInk, SmoothInk};
use super::budget::Budget;
use super::dropout::keep_thin;
use super::flatten::Flattener;
use super::lanes::{floor, larger, smaller};
use super::placement::Placement;
use super::sweep::Sweep;
use super::{Coverage, RasterError};
use crate::base::{Edges, Limits};
use crate::outline::{Contours, OutlinePoint};

/// Fills outlines.
#[derive(Debug, Default)]
pub(super) struct Filler {
    flattener: Flattener,
    sweep: Sweep,
    accumulator: Accumulator,
    picture: Coverage,
    /// Edges that may still be looked at for the picture at hand.
    steps: usize,
}

impl Filler {
    /// Begins a picture that may take some work.
    pub(super) fn begin(&mut self, budget: Budget) {
        self.steps = budget.steps();
    }

    pub(super) fn fill(
        &mut self,
        (contours, overlaps): (&Contours, bool),
        placement: Placement,
        edges: Edges,
        limits: &Limits,
    ) -> Result<&Coverage, RasterError> {
        if !placement.x.is_finite() || !placement.y.is_finite() {
            return Err(RasterError::NotFinite);
        }
        let Some(extent) = Extent::of(&contours.points, placement)? else {
            self.picture.clear();
            return Ok(&self.picture);
        };
        let (width, height) = extent.place(&mut self.picture, limits)?;
        self.accumulator.reset(width, height);
        let local = extent.local(placement);
        let flattener = &mut self.flattener;
        let texels = &mut self.picture.texels;
        match edges {
            Edges::Hard => {
                let mut ink = HardInk(&mut self.accumulator);
                flattener.flatten(contours, local, &mut ink);
                self.accumulator.write_hard(texels);
                keep_thin(contours, local, &mut self.picture);
            }
            _ if overlaps => {
                self.sweep.start(self.steps);
                flattener.flatten(contours, local, &mut self.sweep);
                if self.sweep.is_full() {
                    // Too many to be kept: summed as they are.
                    let mut ink = SmoothInk(&mut self.accumulator);
                    flattener.flatten(contours, local, &mut ink);
                } else {
                    self.sweep.fill(&mut self.accumulator);
                }
                self.steps = self.sweep.steps_left();
                self.picture.is_coarse = self.sweep.is_full() || self.steps == 0;
                self.accumulator.write_smooth(&mut self.picture.texels);
            }
            _ => {
                let mut ink = SmoothInk(&mut self.accumulator);
                flattener.flatten(contours, local, &mut ink);
                self.accumulator.write_smooth(texels);
            }
        }
        Ok(&self.picture)
    }
}

/// The whole pixels around every point of an outline, control points too.
#[derive(Clone, Copy)]
pub(super) struct Extent {
    left: f32,
    top: f32,
    right: f32,
    bottom: f32,
}

impl Extent {
    pub(super) fn of(
        points: &[OutlinePoint],
        placement: Placement,
    ) -> Result<Option<Self>, RasterError> {
        let mut low = f32x4::splat(f32::INFINITY);
        let mut high = f32x4::splat(f32::NEG_INFINITY);
        let mut nothing = f32x4::ZERO;
        let mut take = |a: OutlinePoint, b: OutlinePoint| {
            let places = f32x4::new([a.x, a.y, b.x, b.y]);
            low = low.fast_min(places);
            high = high.fast_max(places);
            // Times 0 all is 0 but what is infinite or no number.
            nothing += places * f32x4::ZERO;
        };
        let (pairs, last) = points.as_chunks::<2>();
        for [a, b] in pairs {
            take(*a, *b);
        }
        if let [last] = last {
            take(*last, *last);
        }
        if nothing.reduce_add() != 0.0 {
            return Err(RasterError::NotFinite);
        }
        let [x, y, other_x, other_y] = low.to_array();
        let low = OutlinePoint::new(smaller(x, other_x), smaller(y, other_y));
        let [x, y, other_x, other_y] = high.to_array();
        let high = OutlinePoint::new(larger(x, other_x), larger(y, other_y));
        // Up in the outline is down in the picture.
        let (low, high) = (
            placement.place(OutlinePoint::new(low.x, high.y)),
            placement.place(OutlinePoint::new(high.x, low.y)),
        );
        let extent = Self {
            left: floor(low.0),
            top: floor(low.1),
            right: -floor(-high.0),
            bottom: -floor(-high.1),
        };
        let has_area = extent.right > extent.left && extent.bottom > extent.top;
        Ok(has_area.then_some(extent))
    }

    /// Moved outwards by a number of pixels.
    pub(super) fn outset(self, pixels: f32) -> Self {
        Self {
            left: self.left - pixels,
            top: self.top - pixels,
            right: self.right + pixels,
            bottom: self.bottom + pixels,
        }
    }

    /// The pixels around both.
    pub(super) fn union(self, other: Self) -> Self {
        Self {
            left: self.left.min(other.left),
            top: self.top.min(other.top),
            right: self.right.max(other.right),
            bottom: self.bottom.max(other.bottom),
        }
    }

    /// Gives a picture its place and its size, which comes back.
    pub(super) fn place(
        &self,
        picture: &mut Coverage,
        limits: &Limits,
    ) -> Result<(usize, usize), RasterError> {
        let (width, height) = self.checked_size(limits)?;
        picture.left = self.left as i32;
        picture.top = self.top as i32;
        picture.width = width as u32;
        picture.height = height as u32;
        picture.channels = 1;
        picture.reduction = 1;
        picture.is_coarse = false;
        Ok((width, height))
    }

    /// A placement, counted from the corner of the picture.
    pub(super) fn local(&self, placement: Placement) -> Placement {
        Placement {
            x: placement.x - self.left,
            y: placement.y - self.top,
            ..placement
        }
    }

    /// Returns whether a picture of it is within the limits.
    pub(super) fn is_within(&self, limits: &Limits) -> bool {
        self.checked_size(limits).is_ok()
    }

    fn checked_size(&self, limits: &Limits) -> Result<(usize, usize), RasterError> {
        let limit = limits.picture_side;
        let (width, height) = (self.right - self.left, self.bottom - self.top);
        // A pen far from the origin counts against the limit as well.
        let farthest = [self.left, self.top, self.right, self.bottom]
            .into_iter()
            .fold(0.0, |far: f32, edge| far.max(edge.abs()));
        if width <= limit as f32 && height <= limit as f32 && farthest < 1e7 {
            return Ok((width as usize, height as usize));
        }
        Err(RasterError::TooLarge {
            width: width as u64,
            height: height as u64,
            limit,
        })
    }
}
