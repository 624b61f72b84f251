//! What hides a mask: the higher layers of the same letter.

use super::super::{Shade, VEIL_UNITS};

/// What hides a mask.
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

    /// A colour where a mask has a coverage and the layers above have another.
    pub(super) fn masked(&self, color: [u8; 4], coverage: u8, above: u8) -> [u8; 4] {
        let (coverage, above) = (f32::from(coverage) / 255.0, f32::from(above) / 255.0);
        let seen = coverage * (1.0 - above) / (1.0 - self.opacity * above);
        color.map(|channel| (f32::from(channel) * seen + 0.5) as u8)
    }
}
