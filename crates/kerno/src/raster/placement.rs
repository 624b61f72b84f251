//! From the units of an outline to device pixels.

use crate::font::OutlinePoint;

/// Where an outline goes in device pixels: scaled, turned y down, shifted.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Placement {
    /// Device pixels in one unit of the outline; above 0.
    pub scale: f32,
    /// Where the outline's origin lies, rightwards.
    pub x: f32,
    /// Where the outline's origin lies, downwards.
    pub y: f32,
}

impl Placement {
    pub(super) fn place(&self, point: OutlinePoint) -> (f32, f32) {
        (self.x + point.x * self.scale, self.y - point.y * self.scale)
    }
}
