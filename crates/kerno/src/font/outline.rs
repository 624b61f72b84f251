//! The outline of a glyph.

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
    pub(super) fn middle(self, other: Self) -> Self {
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

/// Closed contours, filled by the non-zero winding rule.
///
/// Also the buffer that [`Face::outline`](super::Face::outline) fills: lend
/// the same one again and again, and nothing is allocated.
#[derive(Clone, Debug, Default)]
pub struct Outline {
    pub(super) segments: Vec<Segment>,
    /// Working memory of the `glyf` reader.
    pub(super) points: GlyphPoints,
}

impl Outline {
    /// An empty outline.
    pub fn new() -> Self {
        Self::default()
    }

    /// Takes everything away but the memory.
    pub fn clear(&mut self) {
        self.segments.clear();
    }

    /// The steps, contour after contour.
    pub fn segments(&self) -> &[Segment] {
        &self.segments
    }

    /// Whether there is nothing to fill.
    pub fn is_empty(&self) -> bool {
        self.segments.is_empty()
    }

    /// Starts a new contour at `x`, `y`.
    pub fn start(&mut self, x: f32, y: f32) {
        self.segments.push(Segment::Start(OutlinePoint::new(x, y)));
    }

    /// A straight line to `x`, `y`.
    pub fn line(&mut self, x: f32, y: f32) {
        self.segments.push(Segment::Line(OutlinePoint::new(x, y)));
    }

    /// A quadratic Bézier curve by way of `control` to `end`.
    pub fn quadratic(&mut self, control: OutlinePoint, end: OutlinePoint) {
        self.segments.push(Segment::Quadratic(control, end));
    }

    /// A cubic Bézier curve by way of two control points to `end`.
    pub fn cubic(&mut self, first: OutlinePoint, second: OutlinePoint, end: OutlinePoint) {
        self.segments.push(Segment::Cubic(first, second, end));
    }
}
