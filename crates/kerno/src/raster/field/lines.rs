//! Contours as straight lines.

use crate::outline::{Contours, Segment};
use crate::raster::Placement;

/// The farthest that a curve lies from its lines, in texels: 1/255 of a range of one.
const TOLERANCE: f32 = 1.0 / 256.0;

/// The most lines of a curve.
const MOST: f32 = 512.0;

/// The cosine of the largest turn between two segments that goes on smoothly: 8 degrees.
const SMOOTH: f32 = 0.99;

/// A line, in texels, y down.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Line {
    pub(super) from: [f32; 2],
    pub(super) to: [f32; 2],
    /// True if it goes on from the line that ends where it begins, without a corner.
    pub(super) is_smooth: bool,
    /// 1 where its right is filled, as it runs with y down, -1 where its left is; 0 where
    /// nobody has looked yet.
    pub(super) side: f32,
}

impl Line {
    /// The place at a share of the way.
    pub(super) fn at(&self, share: f32) -> [f32; 2] {
        [0, 1].map(|axis| self.from[axis] + (self.to[axis] - self.from[axis]) * share)
    }

    /// From its start to its end.
    pub(super) fn way(&self) -> [f32; 2] {
        difference(self.from, self.to)
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
        let mut pen = Pen {
            first: lines.len(),
            lines,
            at: [0.0; 2],
            heading: None,
            first_heading: None,
        };
        let mut origin = [0.0; 2];
        let place = |point| {
            let (x, y) = placement.place(point);
            [x, y]
        };
        for segment in contour.segments() {
            match segment {
                Segment::Start(at) => (pen.at, origin) = (place(at), place(at)),
                Segment::Line(to) => pen.line(place(to)),
                Segment::Quadratic(control, to) => pen.quadratic(place(control), place(to)),
                Segment::Cubic(first, second, to) => {
                    pen.cubic(place(first), place(second), place(to));
                }
            }
        }
        pen.line(origin);
        pen.close();
    }
}

/// Adds the lines of one contour.
struct Pen<'a> {
    lines: &'a mut Vec<Line>,
    /// Index of its first line.
    first: usize,
    at: [f32; 2],
    /// The direction that the last segment ends in.
    heading: Option<[f32; 2]>,
    first_heading: Option<[f32; 2]>,
}

impl Pen<'_> {
    fn line(&mut self, to: [f32; 2]) {
        let way = difference(self.at, to);
        self.segment([way; 2], 1, |_| to);
    }

    fn quadratic(&mut self, control: [f32; 2], to: [f32; 2]) {
        let from = self.at;
        // A chord lies a quarter of the second difference away at most.
        let count = parts(bend(from, control, to) * 0.25);
        let (start, end) = (difference(from, control), difference(control, to));
        let whole = difference(from, to);
        let headings = [first_of([start, whole]), first_of([end, whole])];
        // Ends of lines that lie a little outside of the curve make these as much too long as
        // too short: two thirds of the farthest that a chord is away.
        let aside = difference(end, start).map(|axis| axis / (6 * count * count) as f32);
        self.segment(headings, count, |t| {
            let at = mixed([from, control, to], t);
            match t < 1.0 {
                true => [0, 1].map(|axis| at[axis] + aside[axis]),
                false => to,
            }
        });
    }

    fn cubic(&mut self, first: [f32; 2], second: [f32; 2], to: [f32; 2]) {
        let from = self.at;
        // An eighth of the second derivative, which is six differences.
        let most = bend(from, first, second).max(bend(first, second, to));
        let (start, end) = (difference(from, first), difference(second, to));
        let (later, earlier) = (difference(from, second), difference(first, to));
        let whole = difference(from, to);
        let headings = [
            first_of([start, first_of([later, whole])]),
            first_of([end, first_of([earlier, whole])]),
        ];
        self.segment(headings, parts(most * 0.75), |t| {
            let low = mixed([from, first, second], t);
            let high = mixed([first, second, to], t);
            [0, 1].map(|axis| low[axis] + (high[axis] - low[axis]) * t)
        });
    }

    /// Adds a segment by its directions at both ends and its places from 0 to 1.
    fn segment(&mut self, headings: [[f32; 2]; 2], count: u32, at: impl Fn(f32) -> [f32; 2]) {
        let mut is_smooth = self
            .heading
            .is_some_and(|heading| goes_on(heading, headings[0]));
        let first = self.lines.len();
        for part in 1..=count {
            let to = at(part as f32 / count as f32);
            if to != self.at {
                self.lines.push(Line {
                    from: self.at,
                    to,
                    is_smooth,
                    side: 0.0,
                });
                is_smooth = true;
            }
            self.at = to;
        }
        if self.lines.len() > first {
            self.heading = Some(headings[1]);
            self.first_heading.get_or_insert(headings[0]);
        }
    }

    fn close(self) {
        if let (Some(first), Some(last)) = (self.first_heading, self.heading) {
            self.lines[self.first].is_smooth = goes_on(last, first);
        }
    }
}

/// Returns whether a direction follows another one without a corner.
fn goes_on(from: [f32; 2], to: [f32; 2]) -> bool {
    let squares = (from[0] * from[0] + from[1] * from[1]) * (to[0] * to[0] + to[1] * to[1]);
    from[0] * to[0] + from[1] * to[1] > SMOOTH * squares.sqrt()
}

/// The first of two directions, the other one where it has no length.
fn first_of([first, other]: [[f32; 2]; 2]) -> [f32; 2] {
    if first == [0.0; 2] { other } else { first }
}

pub(super) fn difference(from: [f32; 2], to: [f32; 2]) -> [f32; 2] {
    [to[0] - from[0], to[1] - from[1]]
}

pub(super) fn cross(a: [f32; 2], b: [f32; 2]) -> f32 {
    a[0] * b[1] - a[1] * b[0]
}

/// The number of parts of a curve that lies so far from its chord.
fn parts(far: f32) -> u32 {
    (far / TOLERANCE).sqrt().ceil().clamp(1.0, MOST) as u32
}

/// The length of the second difference of three points.
fn bend(a: [f32; 2], b: [f32; 2], c: [f32; 2]) -> f32 {
    let axis = |axis: usize| a[axis] - 2.0 * b[axis] + c[axis];
    (axis(0) * axis(0) + axis(1) * axis(1)).sqrt()
}

/// A place of a quadratic curve.
fn mixed([a, b, c]: [[f32; 2]; 3], t: f32) -> [f32; 2] {
    let (low, middle, high) = ((1.0 - t) * (1.0 - t), 2.0 * t * (1.0 - t), t * t);
    [0, 1].map(|axis| a[axis] * low + b[axis] * middle + c[axis] * high)
}
