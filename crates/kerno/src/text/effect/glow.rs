//! Light around letters.

use super::{Effect, EffectKind, EffectLayer, Fault, Letter, blur_fault};
use crate::base::{Color, Join, Treatment};

/// Light around letters, strongest at their edge and gone at its radius.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Glow {
    /// The distance at which it ends, in design pixels, 0 to [`Treatment::LARGEST_BLUR`].
    pub radius: f32,
    /// Its colour.
    pub color: Color,
}

impl Glow {
    /// A glow of a radius, in design pixels.
    pub const fn new(radius: f32, color: Color) -> Self {
        Self { radius, color }
    }
}

impl EffectKind for Glow {
    fn fault(&self) -> Option<Fault> {
        let (_, value, range) = blur_fault(self.radius)?;
        Some(("the radius of a glow", value, range))
    }

    fn scaled(&self, factor: f32) -> Effect {
        Effect::Glow(Self {
            radius: self.radius * factor,
            ..*self
        })
    }

    fn reach(&self) -> f32 {
        self.radius
    }

    /// A quarter of the radius is outset, the rest two standard deviations of the blur.
    fn layer(&self, letter: &Letter, scale: f32) -> EffectLayer {
        let treatment = Treatment::from(letter.edges)
            .with_join(Join::Round)
            .with_outset((letter.embolden + self.radius * 0.25) * scale)
            .with_blur(self.radius * 0.375 * scale);
        EffectLayer::new(treatment, self.color)
    }
}
