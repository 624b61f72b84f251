//! The smallest box around an outline.

use super::FontBounds;
use crate::outline::Segment;
use crate::outline::{Outline, OutlinePoint};

/// The smallest box around an outline, curves included where they reach, not where
/// their control points are.
pub(super) struct Extent {
    low: OutlinePoint,
    high: OutlinePoint,
    pen: OutlinePoint,
}

impl Extent {
    fn new() -> Self {
        Self {
            low: OutlinePoint::new(f32::INFINITY, f32::INFINITY),
            high: OutlinePoint::new(f32::NEG_INFINITY, f32::NEG_INFINITY),
            pen: OutlinePoint::default(),
        }
    }

    /// The extent of an outline.
    pub(super) fn of(outline: &Outline) -> Self {
        let mut extent = Self::new();
        for segment in outline.segments() {
            match segment {
                Segment::Start(at) | Segment::Line(at) => extent.line(at),
                Segment::Quadratic(control, to) => extent.quadratic(control, to),
                Segment::Cubic(first, second, to) => extent.cubic(first, second, to),
            }
        }
        extent
    }

    fn take(&mut self, x: f32, y: f32) {
        self.low = OutlinePoint::new(self.low.x.min(x), self.low.y.min(y));
        self.high = OutlinePoint::new(self.high.x.max(x), self.high.y.max(y));
    }

    /// The box in whole font units, outwards; `None` for an outline without area.
    pub(super) fn bounds(&self) -> Option<FontBounds> {
        (self.low.x < self.high.x && self.low.y < self.high.y).then(|| FontBounds {
            x_min: self.low.x.floor() as i16,
            y_min: self.low.y.floor() as i16,
            x_max: self.high.x.ceil() as i16,
            y_max: self.high.y.ceil() as i16,
        })
    }

    fn line(&mut self, to: OutlinePoint) {
        self.take(to.x, to.y);
        self.pen = to;
    }

    fn quadratic(&mut self, control: OutlinePoint, to: OutlinePoint) {
        // The same curve as a cubic: its handles reach two thirds of the way.
        let handle = |end: OutlinePoint| {
            let part = |end: f32, control: f32| end + (control - end) * (2.0 / 3.0);
            OutlinePoint::new(part(end.x, control.x), part(end.y, control.y))
        };
        self.cubic(handle(self.pen), handle(to), to);
    }

    fn cubic(&mut self, first: OutlinePoint, second: OutlinePoint, to: OutlinePoint) {
        let from = self.pen;
        for x in turns([from.x, first.x, second.x, to.x])
            .into_iter()
            .flatten()
        {
            self.low.x = self.low.x.min(x);
            self.high.x = self.high.x.max(x);
        }
        for y in turns([from.y, first.y, second.y, to.y])
            .into_iter()
            .flatten()
        {
            self.low.y = self.low.y.min(y);
            self.high.y = self.high.y.max(y);
        }
        self.line(to);
    }
}

/// The parameters at which one coordinate of a cubic turns back between its ends: the roots of
/// its derivative.
fn turns([p0, p1, p2, p3]: [f32; 4]) -> [Option<f32>; 2] {
    let (a, b, c) = (
        p3 - 3.0 * p2 + 3.0 * p1 - p0,
        2.0 * (p2 - 2.0 * p1 + p0),
        p1 - p0,
    );
    let value = |t: f32| {
        let s = 1.0 - t;
        s * s * s * p0 + 3.0 * s * t * (s * p1 + t * p2) + t * t * t * p3
    };
    let turn = |t: f32| (t > 0.0 && t < 1.0).then(|| value(t));
    let square = b * b - 4.0 * a * c;
    if square < 0.0 {
        return [None, None];
    }
    // The form that does not subtract near equals, also right for a = 0.
    let q = -0.5 * (b + square.sqrt().copysign(b));
    [turn(q / a), turn(c / q)]
}
