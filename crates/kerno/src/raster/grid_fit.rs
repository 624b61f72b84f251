//! Outlines moved up and down onto the grid of pixels.

use crate::font::AlignmentZone;
use crate::outline::Outline;

/// Overshoots of less than this are taken away, in pixels: more are whole pixels.
const OVERSHOOT: f32 = 0.75;

/// By which edges stay within their pixel, so that rounding begins no further one.
const SHORT: f32 = 1e-3;

/// A height of the outline and the one that it is moved to, in font units.
#[derive(Clone, Copy, Debug)]
struct Knot {
    from: f32,
    to: f32,
}

/// Moves heights that letters share to whole pixels, and what lies between them along.
#[derive(Debug, Default)]
pub(super) struct GridFit {
    knots: Vec<Knot>,
}

impl GridFit {
    /// Moves the points of an outline, whose face has some zones, for a number of pixels in a
    /// font unit.
    pub(super) fn apply(&mut self, outline: &mut Outline, zones: &[AlignmentZone], scale: f32) {
        self.set(zones, scale);
        if self.knots.is_empty() {
            return;
        }
        for point in &mut outline.contours.points {
            point.y = self.moved(point.y);
        }
    }

    fn set(&mut self, zones: &[AlignmentZone], scale: f32) {
        self.knots.clear();
        for zone in zones {
            let whole = |units: f32| {
                let pixels = (units * scale).round();
                let inwards = if units > 0.0 { -SHORT } else { SHORT };
                (pixels + inwards) / scale
            };
            let to = whole(zone.flat);
            let reach = zone.round - zone.flat;
            let reach = match (reach * scale).abs() < OVERSHOOT {
                true => 0.0,
                false => (reach * scale).round() / scale,
            };
            let flat = Knot {
                from: zone.flat,
                to,
            };
            let round = Knot {
                from: zone.round,
                to: to + reach,
            };
            match zone.round < zone.flat {
                true => self.knots.extend([round, flat]),
                false if zone.round > zone.flat => self.knots.extend([flat, round]),
                false => self.knots.push(flat),
            }
        }
        // Heights stay in their order.
        let mut least = f32::NEG_INFINITY;
        for knot in &mut self.knots {
            least = least.max(knot.to);
            knot.to = least;
        }
    }

    fn moved(&self, y: f32) -> f32 {
        let above = self.knots.partition_point(|knot| knot.from <= y);
        let at = |index: usize| self.knots.get(index);
        match (above.checked_sub(1).and_then(at), at(above)) {
            (Some(low), Some(high)) => {
                let share = (y - low.from) / (high.from - low.from);
                low.to + (high.to - low.to) * share
            }
            (Some(end), None) | (None, Some(end)) => y + end.to - end.from,
            (None, None) => y,
        }
    }
}
