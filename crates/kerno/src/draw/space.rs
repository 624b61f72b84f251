//! The pixels that a drawing call lays its quads out in.

use super::request::Detail;
use crate::base::{Affine, DevicePoint, DeviceRect, Rect};

/// The pixels that a drawing call lays its quads out in: those of the window, or, where the
/// call is turned, pixels of the same size that are turned with it.
#[derive(Clone, Copy, Debug)]
pub(super) struct Space {
    /// Its pixels in a design pixel.
    pub(super) scale: f32,
    /// From its pixels to those of the window, where they are others.
    pub(super) turn: Option<Affine>,
    /// The part of it that is drawn, on whole pixels.
    pub(super) clip: Option<DeviceRect>,
    /// Drawing of letters that lie between pixels; none where they are on them.
    pub(super) detail: Option<Detail>,
}

impl Space {
    /// A rectangle on whole pixels, where those are the window's.
    pub(super) fn snapped(&self, rect: DeviceRect) -> DeviceRect {
        match self.turn {
            Some(_) => rect,
            None => rect.snapped(),
        }
    }

    /// A box by its corner there, both in design pixels from a place of the space.
    pub(super) fn device(&self, rect: Rect, corner: DevicePoint) -> DeviceRect {
        DeviceRect {
            left: corner.x + rect.x * self.scale,
            top: corner.y + rect.y * self.scale,
            right: corner.x + rect.right() * self.scale,
            bottom: corner.y + rect.bottom() * self.scale,
        }
    }
}
