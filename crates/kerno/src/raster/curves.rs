//! Points of a contour → its lines and curves, in places of the picture.
//!
//! Every point makes one line or curve at most, which its neighbours decide: one
//! off the curve makes the quadratic curve that it controls, one on it the line to
//! the next if that one is on the curve as well. So all points go the same way, four
//! at a time, and those that make nothing are left out at the end.

use wide::{CmpEq, f32x4, i32x4};

use super::lanes::{LANES, set_lanes};
use super::placement::Placement;
use crate::outline::{Contour, OutlinePoint, PointKind};

/// A twelfth of the area between a curve and its chords: what of it lands in the
/// wrong pixel is far less, so that with the rounding to a byte pixels are right
/// to about 1/255.
const TOLERANCE: f32 = 0.005;

/// Places, or differences of them: x and y.
type Places = [[f32; LANES]; 2];

/// Lines and quadratic curves as from + b t + a t² for t from 0 to 1.
#[derive(Clone, Debug, Default)]
pub(super) struct Curves {
    pub(super) from: Places,
    pub(super) to: Places,
    /// Twice the first difference of the control points.
    pub(super) b: Places,
    /// Their second difference.
    pub(super) a: Places,
    /// Into how many chords each falls, at least 1.
    pub(super) count: [i32; LANES],
    /// 1 / count.
    pub(super) step: [f32; LANES],
    /// The area between the curve and each chord, the same for all: a × b / 6n³.
    pub(super) bulge: [f32; LANES],
}

/// Takes a contour apart.
#[derive(Clone, Debug, Default)]
pub(super) struct CurveReader {
    /// The points in places of the picture: before the first comes the last, after
    /// the last the first.
    x: Vec<f32>,
    y: Vec<f32>,
    /// All bits of a point that is on the curve, else none.
    is_on: Vec<i32>,
    /// By their points.
    curves: Vec<Curves>,
    /// The points that make a curve, or a line that is neither level nor upright.
    used: Vec<u32>,
    /// The number of points that do.
    used_count: usize,
    /// Upright lines: x, and y from and to.
    pub(super) uprights: Vec<[f32; 3]>,
}

/// One bit for each lane.
const LANE_BITS: i32x4 = i32x4::new([1, 1 << 8, 1 << 16, 1 << 24]);

/// The points that are on the curve; none is the control point of a cubic curve.
#[inline(always)]
fn on_curve(kinds: [PointKind; LANES]) -> i32x4 {
    let bits = i32::from_le_bytes(kinds.map(|kind| kind as u8));
    (i32x4::splat(bits) & LANE_BITS).cmp_eq(LANE_BITS)
}

/// Places of points in the picture.
#[inline(always)]
fn place_group(points: &[OutlinePoint; LANES], placement: Placement) -> Places {
    let Placement { scale, x, y } = placement;
    let [a, b, c, d] = points.map(|point| [point.x, point.y]);
    let [first, second] = [[a, b], [c, d]].map(|pair: [[f32; 2]; 2]| {
        let pair = f32x4::new(bytemuck::cast(pair));
        let pair = pair * f32x4::new([scale, -scale, scale, -scale]) + f32x4::new([x, y, x, y]);
        pair.to_array()
    });
    [
        [first[0], first[2], second[0], second[2]],
        [first[1], first[3], second[1], second[3]],
    ]
}

/// Groups of three neighbours, the first of them in `list`.
#[inline(always)]
fn neighbours(list: &[f32]) -> impl Iterator<Item = [f32x4; 3]> {
    let [before, here, next] = [0, 1, 2].map(|from| list[from..].as_chunks().0);
    let groups = before.iter().zip(here).zip(next);
    groups.map(|((before, here), next)| [*before, *here, *next].map(f32x4::new))
}

/// The cube root of numbers not below 0, within 4 %: a third of the exponent,
/// and the mantissa taken for its logarithm.
#[inline(always)]
fn cube_root(value: f32x4) -> f32x4 {
    let bits: i32x4 = bytemuck::cast(value);
    let third = f32x4::from_i32x4(bits) * (1.0 / 3.0) + 709_965_728.0;
    bytemuck::cast(third.fast_trunc_int())
}

impl CurveReader {
    /// Makes room for a number of groups of points.
    #[cold]
    fn grow(&mut self, groups: usize) {
        let points = groups * LANES;
        self.x.resize(points + 2, 0.0);
        self.y.resize(points + 2, 0.0);
        self.is_on.resize(points + 2, 0);
        self.used.resize(points, 0);
        self.curves.resize(groups, Curves::default());
    }

    /// Takes a contour without cubic curves apart.
    pub(super) fn read(&mut self, contour: Contour<'_>, placement: Placement) {
        let groups = contour.points.len().div_ceil(LANES);
        if self.curves.len() <= groups {
            self.grow(groups + 1);
        }
        self.place(contour, placement);
        self.measure(contour.points.len());
    }

    /// Finds the places of the points.
    #[inline(always)]
    fn place(&mut self, Contour { points, kinds }: Contour<'_>, placement: Placement) {
        let count = points.len();
        let room = count.max(LANES) + 2;
        let (x, y, is_on) = (
            &mut self.x[..room],
            &mut self.y[..room],
            &mut self.is_on[..room],
        );
        let groups = points.as_chunks().0.iter().zip(kinds.as_chunks().0);
        let places = x[1..].as_chunks_mut().0.iter_mut();
        let places = places.zip(y[1..].as_chunks_mut().0);
        let places = places.zip(is_on[1..].as_chunks_mut().0);
        for ((points, kinds), ((x, y), is_on)) in groups.zip(places) {
            [*x, *y] = place_group(points, placement);
            *is_on = on_curve(*kinds).into();
        }
        if count % LANES != 0 {
            // The last group, some of which may have been before.
            let mut few = [OutlinePoint::default(); LANES];
            let mut few_kinds = [PointKind::OnCurve; LANES];
            let (last, last_kinds) = match (points.last_chunk(), kinds.last_chunk()) {
                (Some(points), Some(kinds)) => (points, kinds),
                _ => {
                    few[..count].copy_from_slice(points);
                    few_kinds[..count].copy_from_slice(kinds);
                    (&few, &few_kinds)
                }
            };
            let at = 1 + count.saturating_sub(LANES);
            let [last_x, last_y] = place_group(last, placement);
            set_lanes(x, at, last_x);
            set_lanes(y, at, last_y);
            set_lanes(is_on, at, on_curve(*last_kinds));
        }
        (x[0], y[0], is_on[0]) = (x[count], y[count], is_on[count]);
        (x[count + 1], y[count + 1], is_on[count + 1]) = (x[1], y[1], is_on[1]);
    }

    /// Finds what the points make, and into how many chords it falls.
    #[inline(always)]
    fn measure(&mut self, count: usize) {
        let room = count.next_multiple_of(LANES) + 2;
        let x = neighbours(&self.x[..room]);
        let y = neighbours(&self.y[..room]);
        let is_on = neighbours(bytemuck::cast_slice(&self.is_on[..room]));
        let used = &mut self.used[..room - 2];
        let mut used_count = 0;
        self.uprights.clear();
        let groups = x.zip(y).zip(is_on).zip(&mut self.curves);
        for (group, (((x, y), [before_on, on, next_on]), curves)) in groups.enumerate() {
            let ends = |[before, here, next]: [f32x4; 3]| {
                let (back, ahead) = ((before + here) * 0.5, (here + next) * 0.5);
                let from = on.blend(here, before_on.blend(before, back));
                let to = (on | next_on).blend(next, ahead);
                let half = on.blend(ahead, here) - from;
                let b = half + half;
                (from, to, b, to - from - b)
            };
            let (from_x, to_x, bx, ax) = ends(x);
            let (from_y, to_y, by, ay) = ends(y);
            let bend = ax * by - ay * bx;
            // No chord is wider or higher than the longer half of the control
            // polygon would make it. Rounded up, but for what nobody can see.
            let longer = |x: f32x4, y: f32x4| x.abs().fast_max(y.abs());
            let longest = longer(bx, by).fast_max(longer(bx + ax + ax, by + ay + ay));
            let needed = cube_root(bend.abs() * (1.0 / (12.0 * TOLERANCE)));
            let chords = longest.fast_max(needed) + (1.0 - 1e-4);
            let chords = chords.fast_max(f32x4::ONE).fast_trunc_int();
            let step = f32x4::ONE / f32x4::from_i32x4(chords);
            *curves = Curves {
                from: [from_x.into(), from_y.into()],
                to: [to_x.into(), to_y.into()],
                b: [bx.into(), by.into()],
                a: [ax.into(), ay.into()],
                count: chords.into(),
                step: step.into(),
                bulge: (bend * (step * step * step * (1.0 / 6.0))).into(),
            };
            // A line makes nothing if the next point is off the curve or as high; an
            // upright one is drawn at once.
            let is_upright = on & bx.cmp_eq(f32x4::ZERO);
            let makes_nothing = on & (by.cmp_eq(f32x4::ZERO) | (on ^ next_on));
            let at = (group * LANES) as u32;
            let (order, len) = ORDER[!(is_upright | makes_nothing).move_mask() as usize & 0b1111];
            set_lanes(used, used_count, order.map(|lane| at + lane));
            used_count += len;
            let uprights = is_upright.move_mask() & !makes_nothing.move_mask();
            if uprights != 0 {
                let lines = [from_x, from_y, to_y].map(f32x4::to_array);
                let lanes =
                    (0..LANES.min(count - at as usize)).filter(|lane| uprights >> lane & 1 != 0);
                push_lines(&mut self.uprights, lines, lanes);
            }
        }
        // Nothing follows the last point.
        let is_none = |point: &&u32| **point as usize >= count;
        self.used_count = used_count - used[..used_count].iter().rev().take_while(is_none).count();
    }

    /// The segments of the contour except upright and level lines, each with the lane that
    /// it is in.
    #[inline(always)]
    pub(super) fn curves(&self) -> impl Iterator<Item = (&Curves, usize)> {
        let used = self.used[..self.used_count].iter();
        used.map(|point| {
            let point = *point as usize;
            (&self.curves[point / LANES], point % LANES)
        })
    }
}

#[inline(never)]
fn push_lines(
    lines: &mut Vec<[f32; 3]>,
    numbers: [[f32; LANES]; 3],
    lanes: impl Iterator<Item = usize>,
) {
    lines.extend(lanes.map(|lane| numbers.map(|list| list[lane])));
}

/// For each set of lanes, as bits: which they are, one after another, and how many.
const ORDER: [([u32; LANES], usize); 16] = {
    let mut orders = [([0; LANES], 0); 16];
    let mut set = 0;
    while set < 16 {
        let mut lane = 0;
        while lane < LANES {
            if set >> lane & 1 != 0 {
                let (order, len) = &mut orders[set];
                order[*len] = lane as u32;
                *len += 1;
            }
            lane += 1;
        }
        set += 1;
    }
    orders
};
