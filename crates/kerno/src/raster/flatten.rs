//! Lines and curves → chords no wider and no higher than a pixel, with the area
//! that each leaves out: together close enough that no pixel shows the
//! difference.
//!
//! Both wait in lists, one array for each of their numbers, so that four can be
//! worked on at once (`docs/performance.md`).

use wide::{f32x4, i32x4};

use super::Placement;
use crate::font::OutlinePoint;

/// A twelfth of the area between a curve and its chords: what of it lands in the
/// wrong pixel is far less, so that with the rounding to a byte pixels are right
/// to about 1/255.
const TOLERANCE: f32 = 0.005;

/// How far the quadratics that stand for a cubic curve may stray from it, in
/// pixels. They do so to both sides alike, so areas stray far less.
const CUBIC_TOLERANCE: f32 = 0.01;

/// The most quadratics for one cubic; reached only far beyond any screen.
const MOST_QUADRATICS: f32 = 64.0;

/// As many are worked on at once.
pub(super) const LANES: usize = 4;

/// As many curves wait.
const CURVES: usize = 64;

/// As many chords wait.
pub(super) const CHORDS: usize = 128;

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

/// Four numbers of a list.
#[inline(always)]
pub(super) fn lanes(list: &[f32], at: usize) -> f32x4 {
    let four = list.get(at..).and_then(|rest| rest.first_chunk::<LANES>());
    four.map_or(f32x4::ZERO, |four| f32x4::new(*four))
}

#[inline(always)]
pub(super) fn set_lanes<T>(list: &mut [T], at: usize, numbers: impl Into<[T; LANES]>) {
    let four = list.get_mut(at..);
    if let Some(four) = four.and_then(|rest| rest.first_chunk_mut()) {
        *four = numbers.into();
    }
}

/// What takes chords, in places of the picture: pixels, y down.
pub(super) trait Ink {
    /// Chords, one after another.
    fn chords(&mut self, chords: &Chords);
    /// An upright edge of any length.
    fn upright(&mut self, x: f32, from: f32, to: f32);
}

/// Places, or differences of them.
#[derive(Clone, Debug)]
pub(super) struct Points<const N: usize> {
    pub(super) x: [f32; N],
    pub(super) y: [f32; N],
}

impl<const N: usize> Points<N> {
    const ZERO: Self = Self {
        x: [0.0; N],
        y: [0.0; N],
    };

    #[inline(always)]
    fn set(&mut self, at: usize, point: OutlinePoint) {
        self.x[at] = point.x;
        self.y[at] = point.y;
    }

    #[inline(always)]
    fn set_lanes(&mut self, at: usize, [x, y]: [f32x4; 2]) {
        set_lanes(&mut self.x, at, x);
        set_lanes(&mut self.y, at, y);
    }
}

/// Chords that wait; room for some more, because they come by the lane.
#[derive(Clone, Debug)]
pub(super) struct Chords {
    len: usize,
    pub(super) from: Points<{ CHORDS + LANES }>,
    pub(super) to: Points<{ CHORDS + LANES }>,
    /// The area between the curve and the chord. Positive where the curve runs
    /// left of a chord that goes down.
    pub(super) bulge: [f32; CHORDS + LANES],
}

impl Chords {
    /// How many there are.
    pub(super) fn count(&self) -> usize {
        self.len.min(CHORDS)
    }

    fn flush(&mut self, ink: &mut impl Ink) {
        ink.chords(self);
        self.len = 0;
    }
}

/// Lines and quadratic curves that wait, in the units of their outline. A line has
/// its control point half-way.
#[derive(Clone, Debug)]
struct Curves {
    len: usize,
    from: Points<CURVES>,
    control: Points<CURVES>,
    to: Points<CURVES>,
}

/// Curves in pixels as from + b t + a t² for t from 0 to 1.
#[derive(Clone, Debug)]
struct Polynomials {
    from: Points<CURVES>,
    /// Twice the first difference of the control points.
    b: Points<CURVES>,
    /// Their second difference.
    a: Points<CURVES>,
    /// Into how many chords each falls, at least 1.
    count: [i32; CURVES],
    /// 1 / count.
    step: [f32; CURVES],
    /// The area between the curve and each chord, the same for all: a × b / 6n³.
    bulge: [f32; CURVES],
}

/// Takes an outline and hands chords to an [`Ink`].
#[derive(Clone, Debug)]
pub(super) struct Flattener {
    scale: f32,
    x: f32,
    y: f32,
    curves: Curves,
    polynomials: Polynomials,
    chords: Chords,
}

impl Default for Flattener {
    fn default() -> Self {
        Self {
            scale: 1.0,
            x: 0.0,
            y: 0.0,
            curves: Curves {
                len: 0,
                from: Points::ZERO,
                control: Points::ZERO,
                to: Points::ZERO,
            },
            polynomials: Polynomials {
                from: Points::ZERO,
                b: Points::ZERO,
                a: Points::ZERO,
                count: [0; CURVES],
                step: [0.0; CURVES],
                bulge: [0.0; CURVES],
            },
            chords: Chords {
                len: 0,
                from: Points::ZERO,
                to: Points::ZERO,
                bulge: [0.0; CHORDS + LANES],
            },
        }
    }
}

/// The cube root of numbers not below 0, within 4 %: a third of the exponent,
/// and the mantissa taken for its logarithm.
#[inline(always)]
fn cube_root(value: f32x4) -> f32x4 {
    let bits: i32x4 = bytemuck::cast(value);
    let third = f32x4::from_i32x4(bits) * (1.0 / 3.0) + 709_965_728.0;
    bytemuck::cast(third.fast_trunc_int())
}

impl Flattener {
    /// Begins an outline that lies in the picture at `placement`.
    pub(super) fn begin(&mut self, placement: Placement) {
        self.scale = placement.scale;
        self.x = placement.x;
        self.y = placement.y;
        self.curves.len = 0;
        self.chords.len = 0;
    }

    /// Ends an outline.
    pub(super) fn finish(&mut self, ink: &mut impl Ink) {
        self.flush(ink);
        self.chords.flush(ink);
    }

    #[inline(always)]
    fn push(&mut self, [from, control, to]: [OutlinePoint; 3], ink: &mut impl Ink) {
        if self.curves.len >= CURVES {
            self.flush(ink);
        }
        let curves = &mut self.curves;
        let at = curves.len % CURVES;
        curves.from.set(at, from);
        curves.control.set(at, control);
        curves.to.set(at, to);
        curves.len += 1;
    }

    #[inline]
    pub(super) fn line(&mut self, from: OutlinePoint, to: OutlinePoint, ink: &mut impl Ink) {
        if from.x == to.x {
            let y = |point: OutlinePoint| self.y - point.y * self.scale;
            ink.upright(self.x + from.x * self.scale, y(from), y(to));
        } else if from.y != to.y {
            // An edge along a row changes nothing.
            self.push([from, from.middle(to), to], ink);
        }
    }

    #[inline]
    pub(super) fn quadratic(&mut self, curve: [OutlinePoint; 3], ink: &mut impl Ink) {
        self.push(curve, ink);
    }

    /// A cubic Bézier curve as quadratics: the one with the same ends and the same
    /// middle strays from it by √3/36 of its third difference.
    pub(super) fn cubic(&mut self, points: [OutlinePoint; 4], ink: &mut impl Ink) {
        let (x, y) = (points.map(|p| p.x), points.map(|p| p.y));
        let third = |p: [f32; 4]| p[3] - 3.0 * p[2] + 3.0 * p[1] - p[0];
        let stray = larger(third(x).abs(), third(y).abs()) * self.scale;
        let stray = stray * (0.0482 * 1.42 / CUBIC_TOLERANCE);
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
            self.push([start, control, end], ink);
            start = end;
        }
    }

    /// Makes chords of the curves that wait.
    #[inline(never)]
    fn flush(&mut self, ink: &mut impl Ink) {
        let count = self.curves.len.min(CURVES);
        let mut at = 0;
        while at < count {
            self.measure(at);
            at += LANES;
        }
        for index in 0..count {
            self.cut(index, ink);
        }
        self.curves.len = 0;
    }

    /// Finds the polynomials of four curves, and into how many chords they fall.
    #[inline(always)]
    fn measure(&mut self, at: usize) {
        let (curves, out) = (&self.curves, &mut self.polynomials);
        let place = |points: &Points<CURVES>| {
            [
                lanes(&points.x, at) * self.scale + self.x,
                lanes(&points.y, at) * -self.scale + self.y,
            ]
        };
        let (from, control, to) = (
            place(&curves.from),
            place(&curves.control),
            place(&curves.to),
        );
        let polynomial = |from: f32x4, control: f32x4, to: f32x4| {
            let half = control - from;
            let b = half + half;
            (b, to - from - b)
        };
        let (bx, ax) = polynomial(from[0], control[0], to[0]);
        let (by, ay) = polynomial(from[1], control[1], to[1]);
        let bend = ax * by - ay * bx;
        // No chord is wider or higher than the longer half of the control
        // polygon would make it.
        let longer = |x: f32x4, y: f32x4| x.abs().fast_max(y.abs());
        let longest = longer(bx, by).fast_max(longer(bx + ax + ax, by + ay + ay));
        let needed = cube_root(bend.abs() * (1.0 / (12.0 * TOLERANCE)));
        let count = longest.fast_max(needed).fast_trunc_int() + i32x4::splat(1);
        let step = f32x4::ONE / f32x4::from_i32x4(count);
        let bulge = bend * (step * step * step * (1.0 / 6.0));
        out.from.set_lanes(at, from);
        out.b.set_lanes(at, [bx, by]);
        out.a.set_lanes(at, [ax, ay]);
        set_lanes(&mut out.count, at, count.to_array());
        set_lanes(&mut out.step, at, step);
        set_lanes(&mut out.bulge, at, bulge);
    }

    /// Cuts a curve into its chords, a part after another where they do not all
    /// find room.
    #[inline(always)]
    fn cut(&mut self, index: usize, ink: &mut impl Ink) {
        let count = self.polynomials.count[index] as usize;
        let mut done = 0;
        loop {
            let part = (count - done).min(CHORDS - self.chords.count());
            self.cut_part(index, done, part);
            done += part;
            if done >= count {
                break;
            }
            self.chords.flush(ink);
        }
    }

    /// Makes as many chords at once as there are lanes; there is room for them.
    #[inline(always)]
    fn cut_part(&mut self, index: usize, first: usize, count: usize) {
        let Polynomials { from, b, a, .. } = &self.polynomials;
        let number = |list: &[f32; CURVES]| f32x4::splat(list[index]);
        let (x, bx, ax) = (number(&from.x), number(&b.x), number(&a.x));
        let (y, by, ay) = (number(&from.y), number(&b.y), number(&a.y));
        let step = number(&self.polynomials.step);
        let bulge = number(&self.polynomials.bulge);
        let mut order = f32x4::new([0.0, 1.0, 2.0, 3.0]) + first as i32 as f32;
        let chords = &mut self.chords;
        let mut at = chords.count();
        let end = (at + count).min(CHORDS);
        chords.len = end;
        while at < end {
            let place = |t: f32x4| [x + t * (bx + t * ax), y + t * (by + t * ay)];
            chords.from.set_lanes(at, place(order * step));
            chords.to.set_lanes(at, place((order + f32x4::ONE) * step));
            set_lanes(&mut chords.bulge, at, bulge);
            at += LANES;
            order += f32x4::splat(LANES as f32);
        }
    }
}
