//! The letter itself.

use super::{Effect, EffectKind, EffectLayer, Letter};
use crate::base::Color;

/// The letter itself, in one colour.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[non_exhaustive]
pub struct Fill {
    /// Its colour; that of the style where there is none.
    pub color: Option<Color>,
}

impl EffectKind for Fill {
    fn fault(&self) -> Option<(&'static str, f32, &'static str)> {
        None
    }

    fn scaled(&self, _: f32) -> Effect {
        Effect::Fill(*self)
    }

    fn reach(&self) -> f32 {
        0.0
    }

    fn layer(&self, letter: &Letter, _: f32) -> EffectLayer {
        EffectLayer {
            treatment: letter.edges.into(),
            color: self.color.unwrap_or(letter.color),
        }
    }
}
