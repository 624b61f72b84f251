//! Outlines around letters.

use super::{Effect, EffectKind, EffectLayer, Fault, Letter};
use crate::base::{BandSide, Color, Join, Treatment};

/// An outline around letters, so that they are read on any ground. It takes no room, and
/// shows through the letters where their colour does.
///
/// ```
/// use kerno::base::Join;
/// use kerno::Color;
/// use kerno::text::{Effect, LetterOutline};
/// let soft = Effect::Outline(LetterOutline::new(2.0, Color::BLACK).join(Join::Round));
/// # let _ = soft;
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct LetterOutline {
    /// Its width, in design pixels; above 0, at most [`Treatment::LARGEST_OUTSET`]. A tenth
    /// of the size and less looks well.
    pub width: f32,
    /// Its colour.
    pub color: Color,
    /// Its position about the edge of the letters. Default: outside.
    pub side: BandSide,
    /// Shape of its corners. Default: mitred.
    pub join: Join,
}

crate::base::setters! {
    LetterOutline {
        side: BandSide,
        join: Join,
    }
}

impl LetterOutline {
    /// An outline outside of the letters.
    pub const fn new(width: f32, color: Color) -> Self {
        Self {
            width,
            color,
            side: BandSide::Outside,
            join: Join::Miter,
        }
    }
}

impl EffectKind for LetterOutline {
    fn fault(&self) -> Option<Fault> {
        let is_sound = self.width > 0.0 && self.width <= Treatment::LARGEST_OUTSET;
        (!is_sound).then_some(("the outline", self.width, "above 0 and at most 64"))
    }

    fn scaled(&self, factor: f32) -> Effect {
        Effect::Outline(Self {
            width: self.width * factor,
            ..*self
        })
    }

    fn reach(&self) -> f32 {
        match self.side {
            BandSide::Outside => self.width,
            BandSide::Centered => self.width * 0.5,
            BandSide::Inside => 0.0,
        }
    }

    fn layer(&self, letter: &Letter, scale: f32) -> EffectLayer {
        let plain = Treatment::from(letter.edges).with_join(self.join);
        // Beneath the letters the whole shape, so that no ground shows along their edges.
        let is_whole = self.side == BandSide::Outside && !letter.is_beneath;
        let treatment = match is_whole {
            true => plain.with_outset((letter.embolden + self.width) * scale),
            false => plain
                .with_outset(letter.embolden * scale)
                .with_band(self.side, self.width * scale),
        };
        EffectLayer::new(treatment, self.color)
    }
}
