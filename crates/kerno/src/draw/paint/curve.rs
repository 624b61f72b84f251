//! The curve of a mask that makes letters a little heavier or lighter.

use super::super::WEIGHT_UNITS;
use crate::base::rows::times;

/// Change of a mask's coverage m by a share of m (1 - m).
#[derive(Clone, Copy)]
pub(super) struct Curve {
    /// In 1 / [`WEIGHT_UNITS`].
    share: i16,
}

impl Curve {
    pub(super) fn new(byte: u8) -> Self {
        Self {
            share: i16::from(byte as i8),
        }
    }

    pub(super) fn is_straight(self) -> bool {
        self.share == 0
    }

    pub(super) fn at(self, mask: u8) -> u8 {
        let bow = i16::from(times(mask, 255 - mask)) * self.share;
        let units = i16::from(WEIGHT_UNITS);
        let half = if bow < 0 { -units / 2 } else { units / 2 };
        (i16::from(mask) + (bow + half) / units).clamp(0, 255) as u8
    }

    pub(super) fn apply(self, masks: &mut [u8]) {
        for mask in masks {
            *mask = self.at(*mask);
        }
    }
}
