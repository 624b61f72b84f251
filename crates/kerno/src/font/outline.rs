//! The outline of a glyph.

use super::FontBounds;
use super::tables::GlyphPoints;

/// A point of an outline in font units: x to the right from the pen, y **up**
/// from the baseline.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct OutlinePoint {
    /// Rightwards from the pen position.
    pub x: f32,
    /// Upwards from the baseline.
    pub y: f32,
}

impl OutlinePoint {
    /// A point at `x`, `y`.
    pub const fn new(x: f32, y: f32) -> Self {
        Self { x, y }
    }

    /// The point half-way to `other`.
    pub(crate) fn middle(self, other: Self) -> Self {
        Self::new((self.x + other.x) * 0.5, (self.y + other.y) * 0.5)
    }
}

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

/// What kind of segment comes next in an outline.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Step {
    Start,
    Line,
    Quadratic,
    Cubic,
}

impl Step {
    /// How many points it takes.
    pub(crate) fn points(self) -> usize {
        match self {
            Self::Start | Self::Line => 1,
            Self::Quadratic => 2,
            Self::Cubic => 3,
        }
    }
}

/// The segments of an outline: their kinds, and apart from them their points, so
/// that all points can be moved at once.
#[derive(Clone, Debug, Default)]
pub(crate) struct Contours {
    pub(crate) steps: Vec<Step>,
    pub(crate) points: Vec<OutlinePoint>,
}

/// Closed contours, filled by the non-zero winding rule.
///
/// Also the buffer that [`Face::outline`](super::Face::outline) fills: lend
/// the same one again and again, and nothing is allocated.
#[derive(Clone, Debug, Default)]
pub struct Outline {
    pub(crate) contours: Contours,
    /// Working memory of the `glyf` reader.
    pub(super) working: GlyphPoints,
    /// Working memory of synthetic styles.
    pub(super) directions: Vec<OutlinePoint>,
}

impl Contours {
    /// The points of one contour after another, control points too.
    pub(super) fn each_polygon(&mut self, mut change: impl FnMut(&mut [OutlinePoint])) {
        let mut rest = &mut self.points[..];
        for contour in self.steps.chunk_by(|_, next| *next != Step::Start) {
            let count = contour.iter().map(|step| step.points()).sum();
            let (polygon, others) = rest.split_at_mut(count);
            change(polygon);
            rest = others;
        }
    }
}

impl Outline {
    /// An empty outline.
    pub fn new() -> Self {
        Self::default()
    }

    /// Takes everything away but the memory.
    pub fn clear(&mut self) {
        self.contours.steps.clear();
        self.contours.points.clear();
    }

    /// The steps, contour after contour.
    pub fn segments(&self) -> impl Iterator<Item = Segment> + '_ {
        let mut points = self.contours.points.iter().copied();
        let mut next = move || points.next().unwrap_or_default();
        self.contours.steps.iter().map(move |step| match step {
            Step::Start => Segment::Start(next()),
            Step::Line => Segment::Line(next()),
            Step::Quadratic => Segment::Quadratic(next(), next()),
            Step::Cubic => Segment::Cubic(next(), next(), next()),
        })
    }

    /// Whether there is nothing to fill.
    pub fn is_empty(&self) -> bool {
        self.contours.steps.is_empty()
    }

    /// Starts a new contour at `x`, `y`.
    pub fn start(&mut self, x: f32, y: f32) {
        self.contours.start(OutlinePoint::new(x, y));
    }

    /// A straight line to `x`, `y`.
    pub fn line(&mut self, x: f32, y: f32) {
        self.contours.line(OutlinePoint::new(x, y));
    }

    /// A quadratic Bézier curve by way of `control` to `end`.
    pub fn quadratic(&mut self, control: OutlinePoint, end: OutlinePoint) {
        self.contours.quadratic(control, end);
    }

    /// A cubic Bézier curve by way of two control points to `end`.
    pub fn cubic(&mut self, first: OutlinePoint, second: OutlinePoint, end: OutlinePoint) {
        self.contours.cubic(first, second, end);
    }
}

/// What readers of outlines draw on.
pub(super) trait Path {
    fn start(&mut self, at: OutlinePoint);
    fn line(&mut self, to: OutlinePoint);
    fn quadratic(&mut self, control: OutlinePoint, to: OutlinePoint);
    fn cubic(&mut self, first: OutlinePoint, second: OutlinePoint, to: OutlinePoint);
}

impl Path for Contours {
    fn start(&mut self, at: OutlinePoint) {
        self.steps.push(Step::Start);
        self.points.push(at);
    }

    fn line(&mut self, to: OutlinePoint) {
        self.steps.push(Step::Line);
        self.points.push(to);
    }

    fn quadratic(&mut self, control: OutlinePoint, to: OutlinePoint) {
        self.steps.push(Step::Quadratic);
        self.points.extend_from_slice(&[control, to]);
    }

    fn cubic(&mut self, first: OutlinePoint, second: OutlinePoint, to: OutlinePoint) {
        self.steps.push(Step::Cubic);
        self.points.extend_from_slice(&[first, second, to]);
    }
}

/// Takes a path and keeps the smallest box around it, curves included where
/// they reach, not where their control points are.
pub(super) struct Extent {
    low: OutlinePoint,
    high: OutlinePoint,
    pen: OutlinePoint,
}

impl Extent {
    pub(super) fn new() -> Self {
        Self {
            low: OutlinePoint::new(f32::INFINITY, f32::INFINITY),
            high: OutlinePoint::new(f32::NEG_INFINITY, f32::NEG_INFINITY),
            pen: OutlinePoint::default(),
        }
    }

    /// The extent of an outline.
    pub(super) fn of(outline: &Outline) -> Self {
        let mut extent = Self::new();
        for segment in outline.segments() {
            match segment {
                Segment::Start(at) | Segment::Line(at) => extent.line(at),
                Segment::Quadratic(control, to) => extent.quadratic(control, to),
                Segment::Cubic(first, second, to) => extent.cubic(first, second, to),
            }
        }
        extent
    }

    fn take(&mut self, x: f32, y: f32) {
        self.low = OutlinePoint::new(self.low.x.min(x), self.low.y.min(y));
        self.high = OutlinePoint::new(self.high.x.max(x), self.high.y.max(y));
    }

    /// The box in whole font units, outwards; `None` for a path without area.
    pub(super) fn bounds(&self) -> Option<FontBounds> {
        (self.low.x < self.high.x && self.low.y < self.high.y).then(|| FontBounds {
            x_min: self.low.x.floor() as i16,
            y_min: self.low.y.floor() as i16,
            x_max: self.high.x.ceil() as i16,
            y_max: self.high.y.ceil() as i16,
        })
    }
}

impl Path for Extent {
    fn start(&mut self, at: OutlinePoint) {
        self.line(at);
    }

    fn line(&mut self, to: OutlinePoint) {
        self.take(to.x, to.y);
        self.pen = to;
    }

    fn quadratic(&mut self, control: OutlinePoint, to: OutlinePoint) {
        // The same curve as a cubic: its handles reach two thirds of the way.
        let handle = |end: OutlinePoint| {
            let part = |end: f32, control: f32| end + (control - end) * (2.0 / 3.0);
            OutlinePoint::new(part(end.x, control.x), part(end.y, control.y))
        };
        self.cubic(handle(self.pen), handle(to), to);
    }

    fn cubic(&mut self, first: OutlinePoint, second: OutlinePoint, to: OutlinePoint) {
        let from = self.pen;
        for x in turns([from.x, first.x, second.x, to.x])
            .into_iter()
            .flatten()
        {
            self.low.x = self.low.x.min(x);
            self.high.x = self.high.x.max(x);
        }
        for y in turns([from.y, first.y, second.y, to.y])
            .into_iter()
            .flatten()
        {
            self.low.y = self.low.y.min(y);
            self.high.y = self.high.y.max(y);
        }
        self.line(to);
    }
}

/// Where one coordinate of a cubic turns back between its ends: the roots of
/// its derivative.
fn turns([p0, p1, p2, p3]: [f32; 4]) -> [Option<f32>; 2] {
    let (a, b, c) = (
        p3 - 3.0 * p2 + 3.0 * p1 - p0,
        2.0 * (p2 - 2.0 * p1 + p0),
        p1 - p0,
    );
    let value = |t: f32| {
        let s = 1.0 - t;
        s * s * s * p0 + 3.0 * s * t * (s * p1 + t * p2) + t * t * t * p3
    };
    let turn = |t: f32| (t > 0.0 && t < 1.0).then(|| value(t));
    let square = b * b - 4.0 * a * c;
    if square < 0.0 {
        return [None, None];
    }
    // The form that does not subtract near equals, also right for a = 0.
    let q = -0.5 * (b + square.sqrt().copysign(b));
    [turn(q / a), turn(c / q)]
}
