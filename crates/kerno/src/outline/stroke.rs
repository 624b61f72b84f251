//! The band that lies on both sides of an outline's edge.

use super::{Contour, Contours, Outline, OutlinePoint, Segment};
use crate::base::Join;

/// The most lines that a curve falls into.
const MOST_LINES: f32 = 64.0;

/// Corners that would reach farther than this factor of the half width are cut off (SVG
/// `stroke-miterlimit`).
const MITER_LIMIT: f32 = 2.0;

/// The most that the sides of one piece of a band turn in all, in radians: less than a
/// quarter turn, so that the band does not meet itself.
const MOST_TURNED: f32 = 1.5;

/// A band along an outline.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Stroke {
    /// Its width on each side, in the outline's units.
    pub(crate) half: f32,
    pub(crate) join: Join,
    /// The farthest that it may lie from where it should, in the outline's units.
    pub(crate) tolerance: f32,
}

impl Stroke {
    /// Appends the band along all contours of an outline as small contours, each of which
    /// turns the way that the outline as a whole does: the union of all is filled by the
    /// non-zero rule, alone or together with the outline.
    pub(crate) fn add(&self, of: &Contours, into: &mut Outline) {
        let mut rows: Vec<Vec<OutlinePoint>> = Vec::new();
        for contour in of.each() {
            let row = self.flattened(contour);
            if row.len() > 1 {
                rows.push(row);
            }
        }
        let area: f32 = rows.iter().map(|row| doubled_area(row)).sum();
        let mut pieces = Pieces {
            into,
            sign: if area < 0.0 { -1.0 } else { 1.0 },
        };
        for row in &rows {
            self.band(row, &mut pieces);
        }
    }

    /// The points of a contour, curves as lines; none twice in a row.
    pub(crate) fn flattened(&self, contour: Contour<'_>) -> Vec<OutlinePoint> {
        let mut row: Vec<OutlinePoint> = Vec::new();
        for segment in contour.segments() {
            let pen = row.last().copied().unwrap_or_default();
            match segment {
                Segment::Start(at) | Segment::Line(at) => push(&mut row, at),
                Segment::Quadratic(control, to) => {
                    let count = self.lines([pen, control, to, to], 0.25);
                    for step in 1..=count {
                        let share = step as f32 / count as f32;
                        let (a, b) = (mix(pen, control, share), mix(control, to, share));
                        push(&mut row, mix(a, b, share));
                    }
                }
                Segment::Cubic(first, second, to) => {
                    let count = self.lines([pen, first, second, to], 0.75);
                    for step in 1..=count {
                        let share = step as f32 / count as f32;
                        let (a, b) = (mix(pen, first, share), mix(first, second, share));
                        let c = mix(second, to, share);
                        push(&mut row, mix(mix(a, b, share), mix(b, c, share), share));
                    }
                }
            }
        }
        while row.len() > 1 && row.first() == row.last() {
            row.pop();
        }
        row
    }

    /// The number of lines for a curve: so that neither it nor its band strays.
    fn lines(&self, [a, b, c, d]: [OutlinePoint; 4], factor: f32) -> u32 {
        let bend = |a: OutlinePoint, b: OutlinePoint, c: OutlinePoint| {
            (a.x - 2.0 * b.x + c.x).hypot(a.y - 2.0 * b.y + c.y)
        };
        let bend = bend(a, b, c).max(bend(b, c, d));
        let by_curve = (factor * bend / self.tolerance).sqrt();
        let turn = turn_between(a, b, c) + turn_between(b, c, d);
        let by_band = turn / self.largest_turn();
        by_curve.max(by_band).ceil().clamp(1.0, MOST_LINES) as u32
    }

    /// The largest angle that an arc of the band's edge may be cut off by a line.
    fn largest_turn(&self) -> f32 {
        (8.0 * self.tolerance / self.half.max(self.tolerance)).sqrt()
    }

    /// Appends the band along a closed row of points: a piece for each run of sides, another
    /// for each corner between runs.
    fn band(&self, row: &[OutlinePoint], pieces: &mut Pieces<'_>) {
        let sides = Sides::of(row);
        let mut first = 0;
        let (mut piece, mut back) = (Vec::new(), Vec::new());
        while first < row.len() {
            let end = self.run(&sides, first);
            self.corner(row[first], sides.around(first), pieces);
            sides.edge((first, end), self.half, &mut piece);
            sides.edge((first, end), -self.half, &mut back);
            piece.extend(back.drain(..).rev());
            pieces.add(&piece);
            piece.clear();
            first = end;
        }
    }

    /// Returns the end of the run of sides that begins with one: its sides follow a curve
    /// that does not turn round.
    fn run(&self, sides: &Sides<'_>, first: usize) -> usize {
        let (mut end, mut turned) = (first + 1, 0.0);
        while end < sides.lengths.len() {
            let turn = sides.turn(end).abs();
            turned += turn;
            if turned > MOST_TURNED || turn > self.largest_turn() {
                break;
            }
            end += 1;
        }
        end
    }

    /// Fills the gap on the outer side of a corner.
    fn corner(
        &self,
        at: OutlinePoint,
        [before, ahead]: [OutlinePoint; 2],
        pieces: &mut Pieces<'_>,
    ) {
        let cross = before.x * ahead.y - before.y * ahead.x;
        let dot = before.x * ahead.x + before.y * ahead.y;
        let turn = cross.atan2(dot);
        if turn.abs() < 1e-4 {
            return;
        }
        // The outer side is to the right where the corner turns to the left.
        let side = if turn > 0.0 { -self.half } else { self.half };
        let place = |direction: OutlinePoint| {
            OutlinePoint::new(at.x - direction.y * side, at.y + direction.x * side)
        };
        let mut points = vec![at, place(before)];
        let is_curve = turn.abs() <= self.largest_turn();
        match self.join {
            // The inner corners of a curve have no shape of their own.
            Join::Miter | Join::Bevel | Join::Round if is_curve => {
                let tip = tip(at, [before, ahead], side, dot);
                points.push(tip);
            }
            Join::Miter => {
                // The tip is 1 / cos(turn / 2) times as far away.
                let is_near = (1.0 + dot) * 0.5 * MITER_LIMIT * MITER_LIMIT >= 1.0;
                points.extend(is_near.then(|| tip(at, [before, ahead], side, dot)));
            }
            Join::Round => {
                let steps = (turn.abs() / self.largest_turn()).ceil().max(1.0);
                let steps = steps.min(MOST_LINES) as u32;
                // Points a little farther out, so that the arc's area comes out right.
                let part = turn / steps as f32;
                let reach = (part / part.sin()).sqrt().min(1.5);
                for step in 1..steps {
                    let (sin, cos) = (part * step as f32).sin_cos();
                    let direction = OutlinePoint::new(
                        before.x * cos - before.y * sin,
                        before.x * sin + before.y * cos,
                    );
                    points.push(OutlinePoint::new(
                        at.x - direction.y * side * reach,
                        at.y + direction.x * side * reach,
                    ));
                }
            }
            Join::Bevel => {}
        }
        points.push(place(ahead));
        pieces.add(&points);
    }
}

/// A closed row of points with the directions and lengths of its sides.
struct Sides<'a> {
    row: &'a [OutlinePoint],
    directions: Vec<OutlinePoint>,
    lengths: Vec<f32>,
}

impl<'a> Sides<'a> {
    fn of(row: &'a [OutlinePoint]) -> Self {
        let following = row.iter().cycle().skip(1);
        let (directions, lengths) = row
            .iter()
            .zip(following)
            .map(|(from, to)| {
                let (x, y) = (to.x - from.x, to.y - from.y);
                let length = x.hypot(y);
                (OutlinePoint::new(x / length, y / length), length)
            })
            .unzip();
        Self {
            row,
            directions,
            lengths,
        }
    }

    /// The directions before and after a point.
    fn around(&self, point: usize) -> [OutlinePoint; 2] {
        let before = point.checked_sub(1).unwrap_or(self.row.len() - 1);
        [self.directions[before], self.directions[point]]
    }

    /// The angle from the side before a point to the one after it, in radians.
    fn turn(&self, point: usize) -> f32 {
        let [before, ahead] = self.around(point);
        let cross = before.x * ahead.y - before.y * ahead.x;
        cross.atan2(before.x * ahead.x + before.y * ahead.y)
    }

    /// Appends the edge at a distance from the sides of a run. Neighbouring sides share it at
    /// the bisectors of their corners; where the bisectors at the ends of a side meet before
    /// the edge, its piece ends there: what lies beyond is nearer to other sides.
    fn edge(&self, (first, end): (usize, usize), distance: f32, into: &mut Vec<OutlinePoint>) {
        let mut start = 0.0;
        let mut goes_on = false;
        for side in first..end {
            let (from, direction) = (self.row[side], self.directions[side]);
            let place = |along: f32, away: f32| {
                OutlinePoint::new(
                    from.x + direction.x * along - direction.y * away,
                    from.y + direction.y * along + direction.x * away,
                )
            };
            let is_last = side + 1 == end;
            let next = if is_last {
                0.0
            } else {
                (self.turn(side + 1) * 0.5).tan()
            };
            let length = self.lengths[side];
            if (start + next) * distance < length {
                if !goes_on {
                    into.push(place(start * distance, distance));
                }
                into.push(place(length - next * distance, distance));
                goes_on = true;
            } else {
                let away = length / (start + next);
                into.push(place(start * away, away));
                goes_on = false;
            }
            start = next;
        }
    }
}

/// The point at which the moved sides of a corner meet.
fn tip(at: OutlinePoint, [before, ahead]: [OutlinePoint; 2], side: f32, dot: f32) -> OutlinePoint {
    let scale = side / (1.0 + dot);
    OutlinePoint::new(
        at.x - (before.y + ahead.y) * scale,
        at.y + (before.x + ahead.x) * scale,
    )
}

/// Contours that all turn the same way.
struct Pieces<'a> {
    into: &'a mut Outline,
    sign: f32,
}

impl Pieces<'_> {
    fn add(&mut self, points: &[OutlinePoint]) {
        let is_turned = doubled_area(points) * self.sign < 0.0;
        let count = points.len();
        for index in 0..count {
            let point = points[if is_turned { count - 1 - index } else { index }];
            if index == 0 {
                self.into.move_to(point.x, point.y);
            } else {
                self.into.line_to(point.x, point.y);
            }
        }
        self.into.close();
    }
}

fn push(row: &mut Vec<OutlinePoint>, point: OutlinePoint) {
    if row.last() != Some(&point) {
        row.push(point);
    }
}

fn mix(a: OutlinePoint, b: OutlinePoint, share: f32) -> OutlinePoint {
    OutlinePoint::new(a.x + (b.x - a.x) * share, a.y + (b.y - a.y) * share)
}

/// The angle between two sides, in radians.
fn turn_between(a: OutlinePoint, b: OutlinePoint, c: OutlinePoint) -> f32 {
    let (one, other) = ((b.x - a.x, b.y - a.y), (c.x - b.x, c.y - b.y));
    let cross = one.0 * other.1 - one.1 * other.0;
    let dot = one.0 * other.0 + one.1 * other.1;
    cross.atan2(dot).abs()
}

/// Twice the signed area inside a polygon.
pub(super) fn doubled_area(points: &[OutlinePoint]) -> f32 {
    let following = points.iter().cycle().skip(1);
    points
        .iter()
        .zip(following)
        .map(|(a, b)| a.x * b.y - b.x * a.y)
        .sum()
}
