//! Outlines around letters.

use super::{Effect, EffectKind, EffectLayer, Letter};
use crate::base::{Color, Treatment};

/// An outline around letters, so that they are read on any ground. It takes no room, and
/// shows through the letters where their colour does.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct LetterOutline {
    /// The distance it reaches beyond the letters, in design pixels; above 0, at most
    /// [`Treatment::LARGEST_OUTSET`]. A tenth of the size and less looks well.
    pub width: f32,
    /// Its colour.
    pub color: Color,
}

impl LetterOutline {
    /// Says what is wrong with a width.
    pub(crate) fn fault_of(width: f32) -> Option<(&'static str, f32, &'static str)> {
        let is_sound = width > 0.0 && width <= Treatment::LARGEST_OUTSET;
        (!is_sound).then_some(("the outline", width, "above 0 and at most 64"))
    }
}

impl EffectKind for LetterOutline {
    fn fault(&self) -> Option<(&'static str, f32, &'static str)> {
        Self::fault_of(self.width)
    }

    fn scaled(&self, factor: f32) -> Effect {
        Effect::outline(self.width * factor, self.color)
    }

    fn reach(&self) -> f32 {
        self.width
    }

    fn layer(&self, letter: &Letter, scale: f32) -> EffectLayer {
        EffectLayer {
            treatment: Treatment::from(letter.edges).with_outset(self.width * scale),
            color: self.color,
        }
    }
}
