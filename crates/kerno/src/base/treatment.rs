//! What is made of the shape of a glyph.

use serde::{Deserialize, Serialize};

use super::Edges;

/// Treatment of the shape of a glyph: together with its size it tells one strike
/// of a face from another.
#[derive(
    Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash, Deserialize, Serialize,
)]
pub struct Treatment {
    /// Smooth or hard edges.
    pub edges: Edges,
    /// The distance the shape is grown on all sides, in 1/64 device pixel: 0 for the
    /// letter itself, more for the outline that shows around it.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub grown: u16,
}

#[expect(
    clippy::trivially_copy_pass_by_ref,
    reason = "serde asks for a reference"
)]
fn is_zero(number: &u16) -> bool {
    *number == 0
}

impl Treatment {
    /// The widest outline that a style or a manifest may ask for, in design pixels.
    pub const WIDEST: f32 = 64.0;

    /// The same, grown by so many device pixels; the nearest 1/64, at most 1023.
    #[must_use]
    pub fn grown_by(self, pixels: f32) -> Self {
        Self {
            grown: (pixels * 64.0).round() as u16,
            ..self
        }
    }

    /// The distance the shape is grown, in device pixels.
    pub fn growth(&self) -> f32 {
        f32::from(self.grown) / 64.0
    }
}

impl From<Edges> for Treatment {
    /// The letter itself.
    fn from(edges: Edges) -> Self {
        Self { edges, grown: 0 }
    }
}
