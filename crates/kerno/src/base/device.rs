//! Lengths and places in device pixels, and the way there from design pixels.

use super::{Affine, Edges, Point, Rect};

/// A place on the window, in device pixels.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct DevicePoint {
    /// Rightwards from the window's left edge.
    pub x: f32,
    /// Downwards from the window's top edge.
    pub y: f32,
}

impl DevicePoint {
    /// A place at `x`, `y`.
    pub const fn new(x: f32, y: f32) -> Self {
        Self { x, y }
    }
}

/// A half-open rectangle on the window, in device pixels, by its edges.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct DeviceRect {
    /// Left edge.
    pub left: f32,
    /// Top edge.
    pub top: f32,
    /// Right edge.
    pub right: f32,
    /// Bottom edge.
    pub bottom: f32,
}

impl DeviceRect {
    /// The rectangle without a border of a width.
    pub(crate) fn inset(self, by: f32) -> Self {
        Self {
            left: self.left + by,
            top: self.top + by,
            right: self.right - by,
            bottom: self.bottom - by,
        }
    }

    /// The part that both rectangles hold; empty or inside out where there is none.
    pub(crate) fn shared(self, other: Self) -> Self {
        Self {
            left: self.left.max(other.left),
            top: self.top.max(other.top),
            right: self.right.min(other.right),
            bottom: self.bottom.min(other.bottom),
        }
    }

    /// The parts of the rectangle outside of another: above it, to its left, to its right,
    /// below it.
    pub(crate) fn without(self, other: Self) -> impl Iterator<Item = Self> {
        let hole = self.shared(other);
        let is_apart = hole.left >= hole.right || hole.top >= hole.bottom;
        let beside = Self {
            top: hole.top,
            bottom: hole.bottom,
            ..self
        };
        let parts = [
            Self {
                bottom: hole.top,
                ..self
            },
            Self {
                right: hole.left,
                ..beside
            },
            Self {
                left: hole.right,
                ..beside
            },
            Self {
                top: hole.bottom,
                ..self
            },
        ];
        let parts = if is_apart {
            [self, Self::default(), Self::default(), Self::default()]
        } else {
            parts
        };
        let is_area = |part: &Self| part.left < part.right && part.top < part.bottom;
        parts.into_iter().filter(is_area)
    }

    /// The rectangle with each edge on the nearest whole pixel, so that what
    /// fills it has no soft border. What is not empty keeps at least one pixel, the one
    /// that its middle is in: thin lines are seen in small windows as well.
    pub fn snapped(self) -> Self {
        let (left, right) = snapped(self.left, self.right);
        let (top, bottom) = snapped(self.top, self.bottom);
        Self {
            left,
            top,
            right,
            bottom,
        }
    }
}

fn snapped(from: f32, to: f32) -> (f32, f32) {
    let (first, last) = (from.round(), to.round());
    if first == last && from < to {
        let first = ((from + to) * 0.5).floor();
        return (first, first + 1.0);
    }
    (first, last)
}

/// The size of a window or a picture, in whole device pixels.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct DeviceSize {
    /// Left to right.
    pub width: u32,
    /// Top to bottom.
    pub height: u32,
}

impl DeviceSize {
    /// A size of `width` by `height` pixels.
    pub const fn new(width: u32, height: u32) -> Self {
        Self { width, height }
    }
}

/// Transform from design pixels to device pixels: a factor for each axis, then a
/// shift.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Mapping {
    scale_x: f32,
    scale_y: f32,
    shift: DevicePoint,
}

impl Mapping {
    /// One design pixel is one device pixel.
    pub const IDENTITY: Self = Self::new(1.0, 1.0, DevicePoint::new(0.0, 0.0));

    /// Scales by `scale_x` and `scale_y` (device pixels per design pixel),
    /// then shifts.
    pub const fn new(scale_x: f32, scale_y: f32, shift: DevicePoint) -> Self {
        Self {
            scale_x,
            scale_y,
            shift,
        }
    }

    /// The same factor on both axes, no shift.
    pub const fn uniform(scale: f32) -> Self {
        Self::new(scale, scale, DevicePoint::new(0.0, 0.0))
    }

    /// Maps a place of the design to the window.
    pub fn point(&self, at: Point) -> DevicePoint {
        DevicePoint::new(
            at.x * self.scale_x + self.shift.x,
            at.y * self.scale_y + self.shift.y,
        )
    }

    /// Maps a place of the window back to the design: the inverse of
    /// [`Mapping::point`], for a pointer or a touch.
    pub fn design_point(&self, at: DevicePoint) -> Point {
        Point::new(
            (at.x - self.shift.x) / self.scale_x,
            (at.y - self.shift.y) / self.scale_y,
        )
    }

    /// Maps a rectangle of the design to the window.
    pub fn rect(&self, rect: Rect) -> DeviceRect {
        let start = self.point(Point::new(rect.x, rect.y));
        let end = self.point(Point::new(rect.right(), rect.bottom()));
        DeviceRect {
            left: start.x,
            top: start.y,
            right: end.x,
            bottom: end.y,
        }
    }

    /// The mapping as numbers alone.
    pub(crate) fn affine(&self) -> Affine {
        let DevicePoint { x, y } = self.shift;
        Affine::new([self.scale_x, 0.0, 0.0, self.scale_y, x, y])
    }

    /// Device pixels per design pixel for pictures and letters. Where the two
    /// axes differ it is the smaller factor, so that neither is stretched.
    pub fn scale(&self) -> f32 {
        self.scale_x.min(self.scale_y)
    }

    /// The whole number of device pixels for a design pixel, for hard-edged
    /// faces: [`Mapping::scale`] rounded down, at least 1.
    pub fn whole_scale(&self) -> f32 {
        Edges::Hard.drawn_scale(self.scale())
    }
}
