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

/// A chain of chords. Where it jumps, to another contour or along an upright
/// edge, the chord counts for nothing.
#[derive(Clone, Debug)]
pub(super) struct Chords {
    /// Points of the chain; the last has no chord yet.
    len: usize,
    /// Where each chord begins, and the one before ends.
    pub(super) x: [f32; CHORDS + LANES],
    pub(super) y: [f32; CHORDS + LANES],
    /// The area between the curve and the chord. Positive where the curve runs
    /// left of a chord that goes down.
    pub(super) bulge: [f32; CHORDS + LANES],
    /// 1, or 0 where the chain jumps.
    pub(super) live: [f32; CHORDS + LANES],
}

impl Default for Chords {
    fn default() -> Self {
        let zeros = [0.0; CHORDS + LANES];
        Self {
            len: 0,
            x: zeros,
            y: zeros,
            bulge: zeros,
            live: zeros,
        }
    }
}

impl Chords {
    /// How many there are.
    pub(super) fn count(&self) -> usize {
        self.len.saturating_sub(1)
    }

    /// Hands all over but the last, whose end is not known yet.
    #[inline(never)]
    fn flush(&mut self, ink: &mut impl Ink) {
        ink.chords(self);
        if let Some(last) = self.len.checked_sub(1) {
            for list in [&mut self.x, &mut self.y, &mut self.bulge, &mut self.live] {
                list[0] = list[last];
            }
            self.len = 1;
        }
    }
}

/// Places, or differences of them.
#[derive(Clone, Debug)]
struct Points {
    x: [f32; CURVES],
    y: [f32; CURVES],
}

impl Points {
    const ZERO: Self = Self {
        x: [0.0; CURVES],
        y: [0.0; CURVES],
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

/// Lines and quadratic curves in the units of their outline. A line has its
/// control point half-way.
#[derive(Clone, Debug)]
struct Curves {
    len: usize,
    from: Points,
    control: Points,
    to: Points,
    live: [f32; CURVES],
}

/// Curves in pixels as from + b t + a t² for t from 0 to 1.
#[derive(Clone, Debug)]
struct Polynomials {
    from: Points,
    /// Twice the first difference of the control points.
    b: Points,
    /// Their second difference.
    a: Points,
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
        let (one, two) = ([0.0; CURVES], Points::ZERO);
        Self {
            scale: 1.0,
            x: 0.0,
            y: 0.0,
            curves: Curves {
                len: 0,
                from: two.clone(),
                control: two.clone(),
                to: two.clone(),
                live: one,
            },
            polynomials: Polynomials {
                from: two.clone(),
                b: two.clone(),
                a: two,
                count: [0; CURVES],
                step: one,
                bulge: one,
            },
            chords: Chords::default(),
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

    /// Ends an outline whose last contour ended at `last`.
    pub(super) fn finish(&mut self, last: OutlinePoint, ink: &mut impl Ink) {
        self.push([last; 3], 0.0, ink);
        self.flush(ink);
        self.chords.flush(ink);
    }

    #[inline(always)]
    fn push(&mut self, [from, control, to]: [OutlinePoint; 3], live: f32, ink: &mut impl Ink) {
        if self.curves.len >= CURVES {
            self.flush(ink);
        }
        let curves = &mut self.curves;
        let at = curves.len % CURVES;
        curves.from.set(at, from);
        curves.control.set(at, control);
        curves.to.set(at, to);
        curves.live[at] = live;
        curves.len += 1;
    }

    /// Goes on elsewhere without an edge.
    #[inline]
    pub(super) fn jump(&mut self, from: OutlinePoint, to: OutlinePoint, ink: &mut impl Ink) {
        self.push([from, from, to], 0.0, ink);
    }

    #[inline]
    pub(super) fn line(&mut self, from: OutlinePoint, to: OutlinePoint, ink: &mut impl Ink) {
        if from == to {
            return;
        }
        let middle = OutlinePoint::new((from.x + to.x) * 0.5, (from.y + to.y) * 0.5);
        if from.x == to.x {
            let y = |point: OutlinePoint| self.y - point.y * self.scale;
            ink.upright(self.x + from.x * self.scale, y(from), y(to));
        }
        // An edge along a row changes nothing.
        let live = if from.x == to.x || from.y == to.y {
            0.0
        } else {
            1.0
        };
        self.push([from, middle, to], live, ink);
    }

    #[inline]
    pub(super) fn quadratic(&mut self, curve: [OutlinePoint; 3], ink: &mut impl Ink) {
        self.push(curve, 1.0, ink);
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
            self.push([start, control, end], 1.0, ink);
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
        let polynomial = |[from, control, to]: [&[f32; CURVES]; 3], origin: f32, scale: f32| {
            let place = |list: &[f32; CURVES]| lanes(list, at) * scale + origin;
            let (from, control, to) = (place(from), place(control), place(to));
            let half = control - from;
            let b = half + half;
            (from, b, to - from - b)
        };
        let Curves {
            from, control, to, ..
        } = curves;
        let (x, bx, ax) = polynomial([&from.x, &control.x, &to.x], self.x, self.scale);
        let (y, by, ay) = polynomial([&from.y, &control.y, &to.y], self.y, -self.scale);
        let live = lanes(&curves.live, at);
        let bend = ax * by - ay * bx;
        // No chord is wider or higher than the longer half of the control
        // polygon would make it.
        let longer = |x: f32x4, y: f32x4| x.abs().fast_max(y.abs());
        let longest = longer(bx, by).fast_max(longer(bx + ax + ax, by + ay + ay));
        let needed = cube_root(bend.abs() * (1.0 / (12.0 * TOLERANCE)));
        let whole = (longest.fast_max(needed) * live).fast_trunc_int();
        let count = whole + i32x4::splat(1);
        let step = f32x4::ONE / f32x4::from_i32x4(count);
        let bulge = bend * live * (step * step * step * (1.0 / 6.0));
        out.from.set_lanes(at, [x, y]);
        out.b.set_lanes(at, [bx, by]);
        out.a.set_lanes(at, [ax, ay]);
        set_lanes(&mut out.count, at, count.to_array());
        set_lanes(&mut out.step, at, step);
        set_lanes(&mut out.bulge, at, bulge);
    }

    /// Cuts a curve into its chords, a part after another if it is a long one.
    #[inline(always)]
    fn cut(&mut self, index: usize, ink: &mut impl Ink) {
        let count = self.polynomials.count[index] as usize;
        let mut done = 0;
        while done < count {
            let part = (count - done).min(CHORDS / 2);
            if self.chords.len + part > CHORDS {
                self.chords.flush(ink);
            }
            self.cut_part(index, done, part);
            done += part;
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
        let live = number(&self.curves.live);
        let mut order = f32x4::new([0.0, 1.0, 2.0, 3.0]) + first as i32 as f32;
        let chords = &mut self.chords;
        let mut at = chords.len;
        chords.len += count;
        while at < chords.len.min(CHORDS) {
            let t = order * step;
            set_lanes(&mut chords.x, at, x + t * (bx + t * ax));
            set_lanes(&mut chords.y, at, y + t * (by + t * ay));
            set_lanes(&mut chords.bulge, at, bulge);
            set_lanes(&mut chords.live, at, live);
            at += LANES;
            order += f32x4::splat(LANES as f32);
        }
    }
}
