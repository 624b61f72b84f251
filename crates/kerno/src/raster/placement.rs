//! From the units of an outline to device pixels.

use crate::outline::OutlinePoint;

/// Transform of an outline to device pixels: scaled, turned y down, shifted.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Placement {
    /// Device pixels in one unit of the outline; above 0.
    pub scale: f32,
    /// Position of the outline's origin, rightwards.
    pub x: f32,
    /// Position of the outline's origin, downwards.
    pub y: f32,
}

impl Placement {
    pub(super) fn place(&self, point: OutlinePoint) -> (f32, f32) {
        (self.x + point.x * self.scale, self.y - point.y * self.scale)
    }
}
