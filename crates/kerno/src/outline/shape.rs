//! The outline of a glyph.

use super::memory::ReaderMemory;
use super::{Contour, Contours, OutlinePoint, PointKind};

/// One step along an outline.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Segment {
    /// A new contour starts here; the one before is closed.
    Start(OutlinePoint),
    /// A straight line to the point.
    Line(OutlinePoint),
    /// A quadratic Bézier curve: control point, end point.
    Quadratic(OutlinePoint, OutlinePoint),
    /// A cubic Bézier curve: two control points, end point.
    Cubic(OutlinePoint, OutlinePoint, OutlinePoint),
}

/// Closed contours, filled by the non-zero winding rule.
///
/// Also the buffer that [`Face::outline`](crate::Face::outline) fills: lend
/// the same one again and again, and nothing is allocated.
#[derive(Clone, Debug, Default)]
pub struct Outline {
    pub(crate) contours: Contours,
    /// Working memory of the `glyf` reader.
    pub(crate) memory: ReaderMemory,
    /// Working memory of synthetic styles.
    pub(super) directions: Vec<OutlinePoint>,
    pub(super) spare: Contours,
}

impl Outline {
    /// An empty outline.
    pub fn new() -> Self {
        Self::default()
    }

    /// Clears the outline and keeps its allocations.
    pub fn clear(&mut self) {
        self.contours.clear();
    }

    /// The steps, contour after contour.
    pub fn segments(&self) -> impl Iterator<Item = Segment> + '_ {
        self.contours.each().flat_map(Contour::segments)
    }

    /// Returns whether there is nothing to fill.
    pub fn is_empty(&self) -> bool {
        self.contours.is_empty()
    }

    /// Starts a new contour at `x`, `y`; the one before is closed. What is drawn before
    /// there is one starts at the origin.
    ///
    /// ```
    /// use kerno::outline::Outline;
    /// let mut sail = Outline::new();
    /// sail.move_to(0.0, 0.0);
    /// sail.line_to(8.0, 0.0);
    /// sail.line_to(0.0, 12.0);
    /// sail.close();
    /// assert_eq!(sail.segments().count(), 3);
    /// ```
    pub fn move_to(&mut self, x: f32, y: f32) {
        self.contours.start(OutlinePoint::new(x, y));
    }

    /// Adds a straight line to `x`, `y`.
    pub fn line_to(&mut self, x: f32, y: f32) {
        self.contours.line(OutlinePoint::new(x, y));
    }

    /// Adds a quadratic Bézier curve by way of `control` to `end`.
    pub fn quad_to(&mut self, control: OutlinePoint, end: OutlinePoint) {
        self.contours.quadratic(control, end);
    }

    /// Adds a cubic Bézier curve by way of two control points to `end`.
    pub fn curve_to(&mut self, first: OutlinePoint, second: OutlinePoint, end: OutlinePoint) {
        self.contours.cubic(first, second, end);
    }

    /// Closes the contour with a straight line to its start. Every contour is filled as if
    /// it were closed, so this is only needed where drawing goes on from the start.
    pub fn close(&mut self) {
        self.contours.close();
    }
}

/// A walk along one contour, back to where it began.
struct Segments<'a> {
    /// The point at which it begins and ends.
    origin: OutlinePoint,
    has_begun: bool,
    /// The points to come; the origin is none of them where it is a point itself.
    rest: Contour<'a>,
}

impl Contours {
    pub(crate) fn draw(&mut self, segment: Segment) {
        match segment {
            Segment::Start(at) => self.start(at),
            Segment::Line(to) => self.line(to),
            Segment::Quadratic(control, to) => self.quadratic(control, to),
            Segment::Cubic(first, second, to) => self.cubic(first, second, to),
        }
    }
}

impl<'a> Contour<'a> {
    /// Its segments. If the first point is off the curve, it begins at the
    /// last or half-way there.
    pub(crate) fn segments(self) -> impl Iterator<Item = Segment> + 'a {
        let Self { points, kinds } = self;
        let count = points.len();
        let (origin, range) = match (kinds, points) {
            ([PointKind::OnCurve, ..], [first, ..]) => (*first, 1..count),
            ([.., PointKind::OnCurve], [.., last]) => (*last, 0..count - 1),
            (_, [first, .., last]) => (last.middle(*first), 0..count),
            _ => (OutlinePoint::default(), 0..0),
        };
        Segments {
            origin,
            has_begun: false,
            rest: Contour {
                points: &points[range.clone()],
                kinds: &kinds[range],
            },
        }
    }
}

impl Segments<'_> {
    /// Goes past some of the points.
    fn pass(&mut self, count: usize) {
        let count = count.min(self.rest.points.len());
        self.rest.points = &self.rest.points[count..];
        self.rest.kinds = &self.rest.kinds[count..];
    }
}

impl Iterator for Segments<'_> {
    type Item = Segment;

    fn next(&mut self) -> Option<Segment> {
        if !self.has_begun {
            self.has_begun = true;
            return Some(Segment::Start(self.origin));
        }
        let Contour { points, kinds } = self.rest;
        let point = |at: usize| points.get(at).copied().unwrap_or(self.origin);
        let (segment, count) = match kinds {
            [] => return None,
            [PointKind::OnCurve, ..] => (Segment::Line(point(0)), 1),
            [PointKind::Quadratic, PointKind::Quadratic, ..] => {
                (Segment::Quadratic(point(0), point(0).middle(point(1))), 1)
            }
            [PointKind::Quadratic, ..] => (Segment::Quadratic(point(0), point(1)), 2),
            [PointKind::Cubic, ..] => (Segment::Cubic(point(0), point(1), point(2)), 3),
        };
        self.pass(count);
        Some(segment)
    }
}
