//! Veils: the higher layers of a letter, which hide parts of a mask.

use super::super::{Shade, VEIL_UNITS};

/// The veil of a mask.
#[derive(Clone, Copy)]
pub(super) struct Veil {
    /// Rows of the page down to it.
    pub(super) rows: i32,
    /// Opacity of the whole letter, 0 to 1.
    opacity: f32,
}

impl Veil {
    pub(super) fn of(shade: Shade) -> Self {
        Self {
            rows: i32::from(u16::from(shade.edge) * VEIL_UNITS),
            opacity: f32::from(shade.softness) / 255.0,
        }
    }

    /// The share of a mask that is seen, where the layers above cover a part of it: 0 to 1.
    pub(super) fn seen(&self, mask: u8, above: u8) -> f32 {
        let (mask, above) = (f32::from(mask) / 255.0, f32::from(above) / 255.0);
        mask * (1.0 - above) / (1.0 - self.opacity * above)
    }
}
