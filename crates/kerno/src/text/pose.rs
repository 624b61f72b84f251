//! The state of a cluster in motion.

use crate::base::{Color, Offset};

/// The state of a cluster in motion: how it is drawn other than it stands in its layout.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct ClusterPose {
    /// Offset, in design pixels.
    pub offset: Offset,
    /// Scale about the middle of its advance, halfway between the baseline and the top of its
    /// line.
    pub scale: f32,
    /// Turn about that point, in degrees clockwise.
    pub rotation: f32,
    /// A colour that its own is multiplied by: its alpha is the opacity.
    pub tint: Color,
}

impl ClusterPose {
    /// As it stands in the layout.
    pub const STILL: Self = Self {
        offset: Offset::ZERO,
        scale: 1.0,
        rotation: 0.0,
        tint: Color::WHITE,
    };

    /// Both at once.
    #[must_use]
    pub fn and(self, other: Self) -> Self {
        Self {
            offset: Offset::new(
                self.offset.x + other.offset.x,
                self.offset.y + other.offset.y,
            ),
            scale: self.scale * other.scale,
            rotation: self.rotation + other.rotation,
            tint: self.tint.multiplied(other.tint),
        }
    }

    /// Returns whether something of it is seen.
    pub fn is_seen(&self) -> bool {
        self.tint.alpha > 0 && self.scale != 0.0
    }

    /// Returns whether it moves nothing: it may have another colour.
    pub fn is_in_place(&self) -> bool {
        self.offset == Offset::ZERO && self.scale == 1.0 && self.rotation == 0.0
    }
}

crate::base::setters! {
    ClusterPose {
        offset: Offset,
        scale: f32,
        rotation: f32,
        tint: Color,
    }
}
