//! Small values.

use kerno::{Anchor, Color, Offset, Point, Rect, Size};

/// A place or an offset, in design pixels, y down.
#[repr(C)]
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct KernoPoint {
    /// Rightwards.
    pub x: f32,
    /// Downwards.
    pub y: f32,
}

/// A size in design pixels.
#[repr(C)]
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct KernoSize {
    /// Across.
    pub width: f32,
    /// Down.
    pub height: f32,
}

/// A rectangle in design pixels, half-open.
#[repr(C)]
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct KernoRect {
    /// Left edge.
    pub x: f32,
    /// Top edge.
    pub y: f32,
    /// Across.
    pub width: f32,
    /// Down.
    pub height: f32,
}

/// A colour: 8-bit sRGB, straight alpha.
#[repr(C)]
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct KernoColor {
    /// Red.
    pub red: u8,
    /// Green.
    pub green: u8,
    /// Blue.
    pub blue: u8,
    /// Alpha: 0 is clear, 255 opaque.
    pub alpha: u8,
}

impl From<KernoPoint> for Point {
    fn from(from: KernoPoint) -> Self {
        Self::new(from.x, from.y)
    }
}

impl From<KernoPoint> for Offset {
    fn from(from: KernoPoint) -> Self {
        Self::new(from.x, from.y)
    }
}

impl From<Point> for KernoPoint {
    fn from(from: Point) -> Self {
        Self {
            x: from.x,
            y: from.y,
        }
    }
}

/// A point of a box: 0, 0 its top left corner, 1, 1 its bottom right one.
impl From<KernoPoint> for Anchor {
    fn from(from: KernoPoint) -> Self {
        Self::new(from.x, from.y)
    }
}

impl From<Size> for KernoSize {
    fn from(from: Size) -> Self {
        Self {
            width: from.width,
            height: from.height,
        }
    }
}

impl From<KernoRect> for Rect {
    fn from(from: KernoRect) -> Self {
        Self::new(from.x, from.y, from.width, from.height)
    }
}

impl From<Rect> for KernoRect {
    fn from(from: Rect) -> Self {
        Self {
            x: from.x,
            y: from.y,
            width: from.width,
            height: from.height,
        }
    }
}

impl From<KernoColor> for Color {
    fn from(from: KernoColor) -> Self {
        Self::rgba(from.red, from.green, from.blue, from.alpha)
    }
}

impl From<Color> for KernoColor {
    fn from(from: Color) -> Self {
        Self {
            red: from.red,
            green: from.green,
            blue: from.blue,
            alpha: from.alpha,
        }
    }
}
