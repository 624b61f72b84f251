//! Circles and polylines: shapes without pictures, smooth at any scale and turn.

use super::Vertex;
use super::clip::Clip;
use super::scope::Scope;
use super::vertex::Shade;
use crate::atlas::KeptId;
use crate::base::{Color, Point};

/// A circle's sides are at most so far off it, in device pixels.
const TOLERANCE: f32 = 0.06;

/// The fewest and the most sides of a circle.
const SIDES: (f32, f32) = (8.0, 256.0);

/// The farthest reach of corners of a polyline, in halves of its width.
const LONGEST_MITER: f32 = 2.0;

impl Scope<'_> {
    /// Fills a circle, smooth at any scale and wherever it is.
    pub fn circle(&mut self, center: Point, radius: f32, color: Color) {
        self.ellipse(center, radius, |scope, points| {
            scope.fill_convex(points, color);
        });
    }

    /// Draws the edge of a circle, half of its width inside and half outside: at least a
    /// device pixel wide.
    pub fn circle_line(&mut self, center: Point, radius: f32, width: f32, color: Color) {
        self.ellipse(center, radius, |scope, points| {
            scope.stroke(points, true, width, color);
        });
    }

    /// Draws lines from point to point, evenly wide (in design pixels) and at least a device
    /// pixel: with flat ends, and with pointed corners where they are not too sharp. Where the
    /// last point is the first, it is closed.
    ///
    /// ```
    /// use kerno::{Atlas, Color, FrameBuilder, Point};
    /// use kerno::base::Mapping;
    /// let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    /// let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    /// let shore = [(2.0, 9.0), (12.0, 4.0), (20.0, 11.0)].map(|(x, y)| Point::new(x, y));
    /// frame.polyline(&shore, 1.5, Color::WHITE);
    /// assert!(builder.finish().quad_count() > 0);
    /// ```
    pub fn polyline(&mut self, points: &[Point], width: f32, color: Color) {
        let mut row: Vec<Point> = Vec::with_capacity(points.len());
        for point in points {
            if row.last() != Some(point) {
                row.push(*point);
            }
        }
        let is_closed = row.len() > 2 && row.first() == row.last();
        if is_closed {
            row.pop();
        }
        let points = self.on_window(&row);
        self.stroke(&points, is_closed, width, color);
    }

    fn ellipse(&mut self, center: Point, radius: f32, draw: impl FnOnce(&mut Self, &[Point])) {
        let scale = self.state.scale();
        let is_seen = scale > 0.0 && radius > 0.0 && (radius * scale).is_finite();
        if self.is_hidden() || !is_seen {
            return;
        }
        // A line is as wide as a pixel at least.
        let radius = radius.max(0.5 / scale);
        let seen = radius * scale;
        let sides = std::f32::consts::PI * (seen / (2.0 * TOLERANCE)).sqrt();
        let sides = sides.ceil().clamp(SIDES.0, SIDES.1) as u16;
        let place = |side: u16| {
            let angle = f32::from(side) * std::f32::consts::TAU / f32::from(sides);
            Point::new(
                center.x + radius * angle.cos(),
                center.y + radius * angle.sin(),
            )
        };
        let points: Vec<Point> = (0..sides).map(place).collect();
        let points = self.on_window(&points);
        draw(self, &points);
    }

    fn on_window(&self, points: &[Point]) -> Vec<Point> {
        points
            .iter()
            .map(|point| self.state.device(*point))
            .collect()
    }

    /// Fills a convex polygon of the window, its edges soft over a pixel.
    fn fill_convex(&mut self, points: &[Point], color: Color) {
        let count = points.len();
        if count < 3 || !is_finite(points) {
            return;
        }
        let full = self.shaded(color);
        // A mirrored one goes around the other way.
        let area = twice_area(points);
        let way = if area < 0.0 { -1.0 } else { 1.0 };
        // Not as far as to the middle.
        let inward = (area.abs() / length(points) * 0.99).min(0.5);
        let inner = moved(points, true, -way * inward);
        let outer = moved(points, true, way * 0.5);
        for second in (1..count - 1).step_by(2) {
            let third = second + 1;
            let fourth = (second + 2).min(count - 1);
            self.corners([
                (inner[0], full),
                (inner[second], full),
                (inner[third], full),
                (inner[fourth], full),
            ]);
        }
        self.rim(&inner, &outer, full, true);
    }

    /// Draws a line along points of the window.
    fn stroke(&mut self, points: &[Point], is_closed: bool, width: f32, color: Color) {
        let seen = (width * self.state.scale()).max(1.0);
        let is_visible = width > 0.0 && seen.is_finite() && !self.is_hidden();
        if points.len() < 2 || !is_finite(points) || !is_visible {
            return;
        }
        let full = self.shaded(color);
        let half = seen * 0.5;
        let [left, left_rim] = [half - 0.5, half + 0.5].map(|by| moved(points, is_closed, by));
        let [right, right_rim] = [half - 0.5, half + 0.5].map(|by| moved(points, is_closed, -by));
        if half > 0.5 {
            self.strip((&left, full), (&right, full), is_closed);
        }
        self.rim(&left, &left_rim, full, is_closed);
        self.rim(&right, &right_rim, full, is_closed);
    }

    /// A strip from a full colour to nothing.
    fn rim(&mut self, full: &[Point], clear: &[Point], color: [u8; 4], is_closed: bool) {
        self.strip((full, color), (clear, [0; 4]), is_closed);
    }

    /// Quads between two rows of points.
    fn strip(
        &mut self,
        (one, one_color): (&[Point], [u8; 4]),
        (other, other_color): (&[Point], [u8; 4]),
        is_closed: bool,
    ) {
        let count = one.len();
        for from in 0..if is_closed { count } else { count - 1 } {
            let to = (from + 1) % count;
            self.corners([
                (one[from], one_color),
                (one[to], one_color),
                (other[to], other_color),
                (other[from], other_color),
            ]);
        }
    }

    fn corners(&mut self, corners: [(Point, [u8; 4]); 4]) {
        let corners = corners.map(|(place, color)| Vertex {
            position: [place.x, place.y],
            texel: [0; 2],
            color,
            shade: Shade::SOLID,
        });
        let (layer, clip): (i32, Clip) = (self.state.layer, self.state.clip);
        self.now.enter(self.state.group);
        self.now.push_turned(corners, (layer, clip), KeptId::NONE);
    }
}

fn is_finite(points: &[Point]) -> bool {
    points
        .iter()
        .all(|point| point.x.is_finite() && point.y.is_finite())
}

/// Twice the area within points, above 0 where they go around clockwise, y down.
fn twice_area(points: &[Point]) -> f32 {
    let following = points.iter().cycle().skip(1);
    let pairs = points.iter().zip(following);
    pairs.map(|(a, b)| a.x * b.y - b.x * a.y).sum()
}

/// The length of the way around points.
fn length(points: &[Point]) -> f32 {
    let following = points.iter().cycle().skip(1);
    let sides = points.iter().zip(following);
    sides.map(|(a, b)| (a.x - b.x).hypot(a.y - b.y)).sum()
}

/// The points of a row moved sideways, so that its sides are as far away: to the left of the
/// way, which is outside where a polygon goes around clockwise, y down.
fn moved(points: &[Point], is_closed: bool, by: f32) -> Vec<Point> {
    let count = points.len();
    let side = |from: usize, to: usize| {
        let (x, y) = (points[to].x - points[from].x, points[to].y - points[from].y);
        let length = x.hypot(y).max(f32::MIN_POSITIVE);
        (y / length, -x / length)
    };
    let corner = |index: usize| {
        let is_first = index == 0 && !is_closed;
        let is_last = index + 1 == count && !is_closed;
        let before = (!is_first).then(|| side((index + count - 1) % count, index));
        let ahead = (!is_last).then(|| side(index, (index + 1) % count));
        let (a, b) = match (before, ahead) {
            (Some(a), Some(b)) => (a, b),
            (Some(one), None) | (None, Some(one)) => (one, one),
            (None, None) => ((0.0, 0.0), (0.0, 0.0)),
        };
        // The point where both moved sides meet.
        let share = 1.0 + a.0 * b.0 + a.1 * b.1;
        let scale = by / share.max(2.0 / (LONGEST_MITER * LONGEST_MITER));
        let point = points[index];
        Point::new(point.x + (a.0 + b.0) * scale, point.y + (a.1 + b.1) * scale)
    };
    (0..count).map(corner).collect()
}
