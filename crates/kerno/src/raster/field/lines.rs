//! Contours as straight lines.

use crate::outline::{Contours, Segment};
use crate::raster::Placement;

/// The farthest that a curve lies from its lines, in texels: 1/255 of a range of two.
const TOLERANCE: f32 = 1.0 / 128.0;

/// The most lines of a curve.
const MOST: f32 = 512.0;

/// A line, in texels, y down.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Line {
    pub(super) from: [f32; 2],
    pub(super) to: [f32; 2],
}

impl Line {
    /// The place at a share of the way.
    pub(super) fn at(&self, share: f32) -> [f32; 2] {
        [0, 1].map(|axis| self.from[axis] + (self.to[axis] - self.from[axis]) * share)
    }

    /// The lower and the higher end along an axis.
    pub(super) fn extent(&self, axis: usize) -> (f32, f32) {
        let (from, to) = (self.from[axis], self.to[axis]);
        (from.min(to), from.max(to))
    }
}

/// Adds the lines of contours, those without length left out.
pub(super) fn add_lines(contours: &Contours, placement: Placement, lines: &mut Vec<Line>) {
    for contour in contours.each() {
        let (mut pen, mut origin) = ([0.0; 2], [0.0; 2]);
        let place = |point| {
            let (x, y) = placement.place(point);
            [x, y]
        };
        let mut add = |from: [f32; 2], to: [f32; 2]| {
            if from != to {
                lines.push(Line { from, to });
            }
        };
        for segment in contour.segments() {
            match segment {
                Segment::Start(at) => (pen, origin) = (place(at), place(at)),
                Segment::Line(to) => {
                    add(pen, place(to));
                    pen = place(to);
                }
                Segment::Quadratic(control, to) => {
                    let (control, to) = (place(control), place(to));
                    // A chord lies a quarter of the second difference away at most.
                    let count = parts(bend(pen, control, to) * 0.25);
                    let start = pen;
                    for part in 1..=count {
                        let t = part as f32 / count as f32;
                        let next = mixed([start, control, to], t);
                        add(pen, next);
                        pen = next;
                    }
                }
                Segment::Cubic(first, second, to) => {
                    let (first, second, to) = (place(first), place(second), place(to));
                    // An eighth of the second derivative, which is six differences.
                    let most = bend(pen, first, second).max(bend(first, second, to));
                    let count = parts(most * 0.75);
                    let start = pen;
                    for part in 1..=count {
                        let t = part as f32 / count as f32;
                        let low = mixed([start, first, second], t);
                        let high = mixed([first, second, to], t);
                        let next = [0, 1].map(|axis| low[axis] + (high[axis] - low[axis]) * t);
                        add(pen, next);
                        pen = next;
                    }
                }
            }
        }
        add(pen, origin);
    }
}

/// The number of parts of a curve that lies so far from its chord.
fn parts(far: f32) -> u32 {
    (far / TOLERANCE).sqrt().ceil().clamp(1.0, MOST) as u32
}

/// The length of the second difference of three points.
fn bend(a: [f32; 2], b: [f32; 2], c: [f32; 2]) -> f32 {
    let axis = |axis: usize| a[axis] - 2.0 * b[axis] + c[axis];
    axis(0).hypot(axis(1))
}

/// A place of a quadratic curve.
fn mixed([a, b, c]: [[f32; 2]; 3], t: f32) -> [f32; 2] {
    let (low, middle, high) = ((1.0 - t) * (1.0 - t), 2.0 * t * (1.0 - t), t * t);
    [0, 1].map(|axis| a[axis] * low + b[axis] * middle + c[axis] * high)
}
