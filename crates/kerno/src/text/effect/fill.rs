//! The letter itself.

use super::{Effect, EffectKind, EffectLayer, Fault, Letter, length_fault};
use crate::base::{Color, Treatment};

/// The letter itself, in one colour or in a gradient.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[non_exhaustive]
pub struct Fill {
    /// Its colour; that of the style where there is none.
    pub color: Option<Color>,
    /// Its colour at the descender, where it runs from one at the ascender to another.
    pub bottom: Option<Color>,
    /// Outset of the letters on all sides, in design pixels, from -64 to 64: bolder above 0,
    /// thinner below. It takes no room. Effects around the letters go by what it makes of
    /// them.
    pub embolden: f32,
}

crate::base::setters! {
    Fill {
        embolden: f32,
    }
    optional {
        color: Color,
        bottom: Color,
    }
}

impl EffectKind for Fill {
    fn fault(&self) -> Option<Fault> {
        length_fault("the emboldening", self.embolden)
    }

    fn scaled(&self, factor: f32) -> Effect {
        Effect::Fill(Self {
            embolden: self.embolden * factor,
            ..*self
        })
    }

    fn reach(&self) -> f32 {
        self.embolden
    }

    fn layer(&self, letter: &Letter, scale: f32) -> EffectLayer {
        EffectLayer {
            bottom: self.bottom,
            ..EffectLayer::new(
                Treatment::from(letter.edges).with_outset(letter.embolden * scale),
                self.color.unwrap_or(letter.color),
            )
        }
    }
}
