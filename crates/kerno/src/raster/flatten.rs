//! Lines and curves → chords no wider and no higher than a pixel, with the area
//! that each leaves out: together close enough that no pixel shows the
//! difference.
//!
//! Chords wait in lists, one array for each of their numbers, so that four can be
//! worked on at once (`docs/performance.md`).

use wide::f32x4;

use super::cubics::replace_cubics;
use super::curves::{CurveReader, Curves};
use super::lanes::{LANES, set_lanes};
use super::placement::Placement;
use crate::outline::Contours;

/// As many chords wait at most.
const CHORDS: usize = 128;

/// There is room for some more, because they come and go by the group.
const ROOM: usize = CHORDS + LANES;

/// A receiver of chords, in places of the picture: pixels, y down.
pub(super) trait Ink {
    /// Chords, one after another.
    fn chords(&mut self, chords: &Chords);
    /// An upright edge of any length.
    fn upright(&mut self, x: f32, from: f32, to: f32);
}

/// Places that wait.
#[derive(Clone, Debug)]
pub(super) struct Points {
    pub(super) x: [f32; ROOM],
    pub(super) y: [f32; ROOM],
}

impl Points {
    const ZERO: Self = Self {
        x: [0.0; ROOM],
        y: [0.0; ROOM],
    };

    #[inline(always)]
    fn set(&mut self, at: usize, [x, y]: [f32x4; 2]) {
        set_lanes(&mut self.x, at, x);
        set_lanes(&mut self.y, at, y);
    }
}

/// Chords that wait.
#[derive(Clone, Debug)]
pub(super) struct Chords {
    len: usize,
    pub(super) from: Points,
    pub(super) to: Points,
    /// The area between the curve and the chord. Positive where the curve runs
    /// left of a chord that goes down.
    pub(super) bulge: [f32; ROOM],
}

impl Default for Chords {
    fn default() -> Self {
        Self {
            len: 0,
            from: Points::ZERO,
            to: Points::ZERO,
            bulge: [0.0; ROOM],
        }
    }
}

impl Chords {
    /// The number of chords.
    pub(super) fn count(&self) -> usize {
        self.len
    }

    /// Adds a chord.
    pub(super) fn push(
        &mut self,
        from: (f32, f32),
        to: (f32, f32),
        bulge: f32,
        ink: &mut impl Ink,
    ) {
        if self.len == CHORDS {
            self.flush(ink);
        }
        (self.from.x[self.len], self.from.y[self.len]) = from;
        (self.to.x[self.len], self.to.y[self.len]) = to;
        self.bulge[self.len] = bulge;
        self.len += 1;
    }

    #[inline(never)]
    pub(super) fn flush(&mut self, ink: &mut impl Ink) {
        // They are taken by the group: what fills up the last one changes nothing.
        self.from.set(self.len, [f32x4::ZERO; 2]);
        self.to.set(self.len, [f32x4::ZERO; 2]);
        set_lanes(&mut self.bulge, self.len, f32x4::ZERO);
        ink.chords(self);
        self.len = 0;
    }

    /// Cuts a curve into its chords.
    #[inline(always)]
    fn cut(&mut self, curves: &Curves, lane: usize, ink: &mut impl Ink) {
        let count = curves.count[lane] as usize;
        if self.len + count > CHORDS {
            self.flush(ink);
        }
        if count > CHORDS {
            self.cut_long(curves, lane, ink);
        } else {
            self.cut_part(curves, lane, 0.0, count);
        }
        // The last one ends where the curve ends, bit by bit.
        let last = self.len - 1;
        self.to.x[last] = curves.to[0][lane];
        self.to.y[last] = curves.to[1][lane];
    }

    /// Cuts a curve into more chords than there is room for, a part after another.
    #[cold]
    fn cut_long(&mut self, curves: &Curves, lane: usize, ink: &mut impl Ink) {
        let count = curves.count[lane] as usize;
        for first in (0..count).step_by(CHORDS - LANES) {
            let part = (count - first).min(CHORDS - LANES);
            // One more, which is where the last one ends, is left out again.
            self.cut_part(curves, lane, first as f32, part + 1);
            self.len -= 1;
            if first + part < count {
                self.flush(ink);
            }
        }
    }

    /// Makes as many chords at once as there are lanes, for which there is room. Each
    /// but the last ends where the next one begins, bit by bit.
    #[inline(always)]
    fn cut_part(&mut self, curves: &Curves, lane: usize, first: f32, count: usize) {
        let number = |list: &[f32; LANES]| f32x4::splat(list[lane]);
        let (x, y) = (number(&curves.from[0]), number(&curves.from[1]));
        let (bx, by) = (number(&curves.b[0]), number(&curves.b[1]));
        let (ax, ay) = (number(&curves.a[0]), number(&curves.a[1]));
        let step = number(&curves.step);
        let bulge = number(&curves.bulge);
        let place = |order: f32x4| {
            let t = order * step;
            [x + t * (bx + t * ax), y + t * (by + t * ay)]
        };
        let mut order = f32x4::new([0.0, 1.0, 2.0, 3.0]) + first;
        let mut places = place(order);
        let mut at = self.len;
        let end = at + count;
        loop {
            let [x, y] = places;
            self.from.set(at, [x, y]);
            self.to.set(at, [next(x), next(y)]);
            set_lanes(&mut self.bulge, at, bulge);
            at += LANES;
            if at >= end {
                break;
            }
            order += f32x4::splat(LANES as f32);
            places = place(order);
            self.to.x[at - 1] = places[0].to_array()[0];
            self.to.y[at - 1] = places[1].to_array()[0];
        }
        self.len = end;
    }
}

/// Takes contours and hands chords to an [`Ink`].
#[derive(Clone, Debug, Default)]
pub(super) struct Flattener {
    reader: CurveReader,
    /// A contour without its cubic curves.
    quadratics: Contours,
    chords: Chords,
}

impl Flattener {
    /// Takes contours that lie in the picture at `placement`.
    pub(super) fn flatten(
        &mut self,
        contours: &Contours,
        placement: Placement,
        ink: &mut impl Ink,
    ) {
        for mut contour in contours.each() {
            if contours.has_cubics {
                contour = replace_cubics(contour, placement.scale, &mut self.quadratics);
            }
            self.reader.read(contour, placement);
            for &[x, from, to] in &self.reader.uprights {
                ink.upright(x, from, to);
            }
            for (curves, lane) in self.reader.curves() {
                self.chords.cut(curves, lane, ink);
            }
        }
        self.chords.flush(ink);
    }
}

/// In each lane what is in the next one.
#[inline(always)]
fn next(lanes: f32x4) -> f32x4 {
    let [a, b, c, d] = lanes.to_array();
    f32x4::new([b, c, d, a])
}
