//! Cubic curves → quadratic ones.

use super::lanes::{larger, smaller};
use crate::outline::{Contour, Contours, OutlinePoint, Segment};

/// The distance the quadratics that stand for a cubic curve may stray from it, in
/// pixels. They do so to both sides alike, so areas stray far less.
const TOLERANCE: f32 = 0.01;

/// The most quadratics for one cubic; reached only far beyond any screen.
const MOST_QUADRATICS: f32 = 64.0;

/// Rewrites a contour with quadratic curves for its cubic ones, at a scale in pixels to
/// a unit.
pub(super) fn replace_cubics<'a>(
    contour: Contour<'_>,
    scale: f32,
    out: &'a mut Contours,
) -> Contour<'a> {
    out.clear();
    for segment in contour.segments() {
        match segment {
            Segment::Cubic(first, second, to) => cut([first, second, to], scale, out),
            other => out.draw(other),
        }
    }
    out.all()
}

/// A cubic Bézier curve as quadratics: the one with the same ends and the same
/// middle strays from it by √3/36 of its third difference.
fn cut([first, second, to]: [OutlinePoint; 3], scale: f32, out: &mut Contours) {
    let pen = out.points.last().copied().unwrap_or_default();
    let points = [pen, first, second, to];
    let (x, y) = (points.map(|p| p.x), points.map(|p| p.y));
    let third = |p: [f32; 4]| p[3] - 3.0 * p[2] + 3.0 * p[1] - p[0];
    let stray = larger(third(x).abs(), third(y).abs()) * scale;
    let stray = stray * (0.0482 * 1.42 / TOLERANCE);
    let count = smaller(stray.cbrt().ceil(), MOST_QUADRATICS).max(1.0);
    let step = 1.0 / count;
    let at = |t: f32, p: [f32; 4]| {
        let s = 1.0 - t;
        s * s * s * p[0] + 3.0 * s * t * (s * p[1] + t * p[2]) + t * t * t * p[3]
    };
    let place = |t: f32| OutlinePoint::new(at(t, x), at(t, y));
    let mut start = points[0];
    for index in 0..count as u32 {
        let t = index as f32 * step;
        let is_last = index + 1 == count as u32;
        let end = if is_last { points[3] } else { place(t + step) };
        let middle = place(t + 0.5 * step);
        let control = OutlinePoint::new(
            2.0 * middle.x - 0.5 * (start.x + end.x),
            2.0 * middle.y - 0.5 * (start.y + end.y),
        );
        out.quadratic(control, end);
        start = end;
    }
}
