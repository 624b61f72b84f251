//! Overlaps of contours, whose edges lie inside of what is filled.
//!
//! Summed areas are exact where the winding number is 0 or one other value everywhere. That
//! is so when no two edges cross and every contour turns the way that takes it from the one
//! to the other. Cautious: contours that only touch count as overlapping.

use crate::outline::{Contours, OutlinePoint, Segment};

/// A line or curve by its control points, as a cubic curve, and which contour it is of.
#[derive(Clone, Copy)]
struct Edge {
    points: [OutlinePoint; 4],
    contour: usize,
    low: OutlinePoint,
    high: OutlinePoint,
}

/// Most halvings of two curves to see whether they meet.
const HALVINGS: u32 = 7;

/// Into how many lines a curve falls where only the inside of a contour is asked for.
const CHORDS: u32 = 8;

/// The most pairs of edges, and of parts of them, that are looked at: beyond are only outlines that
/// were made to take long.
const MOST_PAIRS: usize = 1 << 17;

/// The most edges of an outline that is looked at.
const MOST_EDGES: usize = 1 << 10;

/// The most pairs of a contour and an edge that are looked at to see what lies inside of what.
const MOST_INSIDE: usize = 1 << 17;

/// Returns whether summing areas may be wrong somewhere.
pub(super) fn overlaps(contours: &Contours) -> bool {
    let mut edges = edges(contours);
    let contour_count = edges.chunk_by(|a, b| a.contour == b.contour).count();
    if edges.len() > MOST_EDGES || contour_count * edges.len() > MOST_INSIDE {
        return true;
    }
    let is_once = is_filled_once(&edges);
    edges.sort_unstable_by(|a, b| a.low.x.total_cmp(&b.low.x));
    !is_once || crosses(&edges)
}

fn edges(contours: &Contours) -> Vec<Edge> {
    let mut edges = Vec::new();
    for (number, contour) in contours.each().enumerate() {
        let (mut pen, mut origin) = (OutlinePoint::default(), OutlinePoint::default());
        let mut add = |points: [OutlinePoint; 4]| {
            if points.iter().any(|point| *point != points[0]) {
                edges.push(Edge::new(points, number));
            }
        };
        for segment in contour.segments() {
            let part = |a: OutlinePoint, b: OutlinePoint| {
                OutlinePoint::new(
                    a.x + (b.x - a.x) * (2.0 / 3.0),
                    a.y + (b.y - a.y) * (2.0 / 3.0),
                )
            };
            match segment {
                Segment::Start(at) => (pen, origin) = (at, at),
                Segment::Line(to) => {
                    add([pen, pen, to, to]);
                    pen = to;
                }
                Segment::Quadratic(control, to) => {
                    add([pen, part(pen, control), part(to, control), to]);
                    pen = to;
                }
                Segment::Cubic(first, second, to) => {
                    add([pen, first, second, to]);
                    pen = to;
                }
            }
        }
        add([pen, pen, origin, origin]);
    }
    edges
}

impl Edge {
    fn new(points: [OutlinePoint; 4], contour: usize) -> Self {
        let [x, y] = [points.map(|p| p.x), points.map(|p| p.y)];
        let low = |list: [f32; 4]| list.into_iter().fold(f32::INFINITY, f32::min);
        let high = |list: [f32; 4]| list.into_iter().fold(f32::NEG_INFINITY, f32::max);
        Self {
            points,
            contour,
            low: OutlinePoint::new(low(x), low(y)),
            high: OutlinePoint::new(high(x), high(y)),
        }
    }

    fn is_line(&self) -> bool {
        self.points[0] == self.points[1] && self.points[2] == self.points[3]
    }

    fn is_near(&self, other: &Self) -> bool {
        self.low.x <= other.high.x
            && other.low.x <= self.high.x
            && self.low.y <= other.high.y
            && other.low.y <= self.high.y
    }

    /// Cuts it in two in its middle.
    fn halves(&self) -> [Self; 2] {
        let [a, b, c, d] = self.points;
        if self.is_line() {
            let middle = a.middle(d);
            return [
                Self::new([a, a, middle, middle], self.contour),
                Self::new([middle, middle, d, d], self.contour),
            ];
        }
        let (ab, bc, cd) = (a.middle(b), b.middle(c), c.middle(d));
        let (abc, bcd) = (ab.middle(bc), bc.middle(cd));
        let middle = abc.middle(bcd);
        [
            Self::new([a, ab, abc, middle], self.contour),
            Self::new([middle, bcd, cd, d], self.contour),
        ]
    }

    /// Returns whether two edges come so near to each other that they may cross, or more has to be
    /// looked at than there are `pairs` left.
    fn meets(&self, other: &Self, halvings: u32, pairs: &mut usize) -> bool {
        if !self.is_near(other) {
            return false;
        }
        *pairs = pairs.saturating_sub(1);
        if *pairs == 0 {
            return true;
        }
        if self.is_line() && other.is_line() {
            return lines_meet(self, other);
        }
        if halvings == 0 {
            return true;
        }
        let (own, others) = (self.halves(), other.halves());
        own.iter()
            .any(|a| others.iter().any(|b| a.meets(b, halvings - 1, pairs)))
    }
}

/// Returns whether two lines have a point in common.
fn lines_meet(a: &Edge, b: &Edge) -> bool {
    let side = |of: &Edge, point: OutlinePoint| {
        let (from, to) = (of.points[0], of.points[3]);
        (to.x - from.x) * (point.y - from.y) - (to.y - from.y) * (point.x - from.x)
    };
    let parts = |of: &Edge, other: &Edge| {
        let (from, to) = (side(of, other.points[0]), side(of, other.points[3]));
        (from <= 0.0 && to >= 0.0) || (from >= 0.0 && to <= 0.0)
    };
    parts(a, b) && parts(b, a)
}

/// Returns whether any two edges cross that are not neighbours; they are sorted by their left ends.
fn crosses(edges: &[Edge]) -> bool {
    let mut pairs = MOST_PAIRS;
    edges.iter().enumerate().any(|(index, edge)| {
        let is_neighbour = |other: &Edge| {
            other.contour == edge.contour
                && (other.points[0] == edge.points[3] || other.points[3] == edge.points[0])
        };
        let others = edges[index + 1..].iter();
        let mut near = others.take_while(|other| other.low.x <= edge.high.x);
        near.any(|other| {
            edge.low.y <= other.high.y
                && other.low.y <= edge.high.y
                && !is_neighbour(other)
                && edge.meets(other, HALVINGS, &mut pairs)
        })
    })
}

/// Returns whether all that contours fill has the winding number 1, or all has -1; no two cross.
fn is_filled_once(edges: &[Edge]) -> bool {
    let (mut has_up, mut has_down) = (false, false);
    for contour in edges.chunk_by(|a, b| a.contour == b.contour) {
        let number = contour[0].contour;
        let others = edges.iter().filter(|edge| edge.contour != number);
        let outside = winding(others, contour[0].points[0]);
        let area: f64 = contour.iter().map(doubled_area).sum();
        let inside = outside + if area > 0.0 { 1 } else { -1 };
        for number in [outside, inside] {
            has_up |= number > 0;
            has_down |= number < 0;
            if number.abs() > 1 {
                return false;
            }
        }
    }
    !(has_up && has_down)
}

/// Twice the area between an edge and the origin, positive where it runs counterclockwise.
fn doubled_area(edge: &Edge) -> f64 {
    let points = polyline(edge);
    let cross = |ends: &[OutlinePoint]| {
        let [a, b] = [ends[0], ends[1]].map(|point| [f64::from(point.x), f64::from(point.y)]);
        a[0] * b[1] - b[0] * a[1]
    };
    points.windows(2).map(cross).sum()
}

/// The points of an edge as lines.
fn polyline(edge: &Edge) -> Vec<OutlinePoint> {
    let [a, b, c, d] = edge.points;
    if edge.is_line() {
        return vec![a, d];
    }
    let at = |t: f32, p: [f32; 4]| {
        let s = 1.0 - t;
        s * s * s * p[0] + 3.0 * s * t * (s * p[1] + t * p[2]) + t * t * t * p[3]
    };
    let place = |step: u32| {
        let t = step as f32 / CHORDS as f32;
        OutlinePoint::new(at(t, [a.x, b.x, c.x, d.x]), at(t, [a.y, b.y, c.y, d.y]))
    };
    (0..=CHORDS).map(place).collect()
}

/// Winding number of contours around a point, counterclockwise where y is up.
fn winding<'a>(edges: impl Iterator<Item = &'a Edge>, at: OutlinePoint) -> i32 {
    let mut winding = 0;
    for edge in edges {
        // A ray to the right meets those only that are as high and reach as far.
        if edge.low.y > at.y || edge.high.y < at.y || edge.high.x < at.x {
            continue;
        }
        for ends in polyline(edge).windows(2) {
            let (from, to) = (ends[0], ends[1]);
            if (from.y <= at.y) == (to.y <= at.y) {
                continue;
            }
            let x = from.x + (at.y - from.y) / (to.y - from.y) * (to.x - from.x);
            if x > at.x {
                winding += if from.y < to.y { 1 } else { -1 };
            }
        }
    }
    winding
}
