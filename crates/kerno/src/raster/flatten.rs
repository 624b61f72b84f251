//! Curves → chords, with the area that each chord leaves out: together close
//! enough that no pixel shows the difference.

use super::Pen;

/// A twelfth of the area between a curve and its chords: what of it lands in the
/// wrong pixel is far less, so that with the rounding to a byte pixels are right
/// to about 1/255.
const TOLERANCE: f32 = 0.005;

/// How far the quadratics that stand for a cubic curve may stray from it, in
/// pixels. They do so to both sides alike, so areas stray far less.
const CUBIC_TOLERANCE: f32 = 0.01;

/// The most quadratics for one cubic; reached only far beyond any screen.
const MOST_QUADRATICS: f32 = 64.0;

/// A place in the picture: pixels, y down.
pub(super) type Place = (f32, f32);

/// The smaller of two numbers, in one instruction: `f32::min` takes several to
/// say what happens to a value that is no number.
#[inline]
pub(super) fn smaller(a: f32, b: f32) -> f32 {
    if a < b { a } else { b }
}

/// The larger of two numbers, likewise.
#[inline]
pub(super) fn larger(a: f32, b: f32) -> f32 {
    if a > b { a } else { b }
}

/// A line or a quadratic curve, from + b t + a t² for t from 0 to 1, and into how
/// many chords it falls that are no wider and no higher than a pixel.
#[derive(Clone, Copy, Debug)]
pub(super) struct Chords {
    pub(super) from: Place,
    /// Twice the first difference of the control points.
    pub(super) b: Place,
    /// Their second difference.
    pub(super) a: Place,
    /// At least 1.
    pub(super) count: u32,
    /// 1 / count.
    pub(super) step: f32,
    /// The area between the curve and each chord, the same for all: a × b / 6n³.
    /// Positive where the curve runs left of the chord going down.
    pub(super) bulge: f32,
}

impl Chords {
    #[inline]
    pub(super) fn line(from: Place, to: Place) -> Self {
        let b = (to.0 - from.0, to.1 - from.1);
        let count = longer_side(b) as i32 as u32 + 1;
        Self {
            from,
            b,
            a: (0.0, 0.0),
            count,
            step: 1.0 / count as f32,
            bulge: 0.0,
        }
    }

    #[inline]
    fn quadratic(from: Place, control: Place, to: Place) -> Self {
        let b = (2.0 * (control.0 - from.0), 2.0 * (control.1 - from.1));
        let a = (to.0 - from.0 - b.0, to.1 - from.1 - b.1);
        let bend = a.0 * b.1 - a.1 * b.0;
        // No chord is wider or higher than the longer half of the control
        // polygon would make it.
        let longest = larger(
            longer_side(b),
            longer_side((b.0 + 2.0 * a.0, b.1 + 2.0 * a.1)),
        );
        let needed = cube_root(bend.abs() * (1.0 / (12.0 * TOLERANCE)));
        let count = larger(longest, needed) as i32 as u32 + 1;
        let step = 1.0 / count as f32;
        Self {
            from,
            b,
            a,
            count,
            step,
            bulge: bend * (step * step * step * (1.0 / 6.0)),
        }
    }

    #[inline]
    pub(super) fn at(&self, t: f32) -> Place {
        (
            self.from.0 + t * (self.b.0 + t * self.a.0),
            self.from.1 + t * (self.b.1 + t * self.a.1),
        )
    }
}

#[inline]
fn longer_side(v: Place) -> f32 {
    larger(v.0.abs(), v.1.abs())
}

/// The cube root of a number not below 0, within 4 %: a third of the exponent,
/// and the mantissa taken for its logarithm.
#[inline]
fn cube_root(value: f32) -> f32 {
    f32::from_bits(value.to_bits() / 3 + 0x2a51_37a0)
}

#[inline]
pub(super) fn quadratic(from: Place, control: Place, to: Place, pen: &mut impl Pen) {
    pen.chords_to(&Chords::quadratic(from, control, to), to);
}

/// A cubic Bézier curve as quadratics: the one with the same ends and the same
/// middle strays from it by √3/36 of its third difference.
pub(super) fn cubic(from: Place, first: Place, second: Place, to: Place, pen: &mut impl Pen) {
    let third = |p: [f32; 4]| p[3] - 3.0 * p[2] + 3.0 * p[1] - p[0];
    let (x, y) = (
        [from.0, first.0, second.0, to.0],
        [from.1, first.1, second.1, to.1],
    );
    let stray = longer_side((third(x), third(y))) * (0.0482 * 1.42 / CUBIC_TOLERANCE);
    let count = smaller(cube_root(stray).ceil(), MOST_QUADRATICS).max(1.0);
    let step = 1.0 / count;
    let at = |t: f32, p: [f32; 4]| {
        let s = 1.0 - t;
        s * s * s * p[0] + 3.0 * s * t * (s * p[1] + t * p[2]) + t * t * t * p[3]
    };
    let place = |t: f32| (at(t, x), at(t, y));
    let mut start = from;
    for index in 0..count as u32 {
        let t = index as f32 * step;
        let end = if index + 1 == count as u32 {
            to
        } else {
            place(t + step)
        };
        let middle = place(t + 0.5 * step);
        let control = (
            2.0 * middle.0 - 0.5 * (start.0 + end.0),
            2.0 * middle.1 - 0.5 * (start.1 + end.1),
        );
        quadratic(start, control, end, pen);
        start = end;
    }
}
