//! Shadows beneath letters.

use super::{Effect, EffectKind, EffectLayer, Fault, Letter, blur_fault, length_fault};
use crate::base::{Color, Join, Offset, Treatment};

/// A shadow beneath letters (CSS `text-shadow`, with a spread as in `box-shadow`). The
/// shadows of a text lie beneath all its letters.
///
/// ```
/// use kerno::{Color, Offset};
/// use kerno::text::{Effect, Shadow};
/// let soft = Shadow::new(Offset::new(1.0, 2.0), Color::BLACK.with_alpha(160)).blur(4.0);
/// let effects = vec![Effect::Shadow(soft), Effect::fill(Color::WHITE)];
/// # let _ = effects;
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Shadow {
    /// From the letters to the shadow, in design pixels; each from -1024 to 1024.
    pub offset: Offset,
    /// Blur radius in design pixels, 0 to [`Treatment::LARGEST_BLUR`]: twice the standard
    /// deviation of the Gaussian (CSS Backgrounds, “shadow blur”).
    pub blur: f32,
    /// Outset of the shape before it is blurred, in design pixels, -64 to 64.
    pub spread: f32,
    /// Its colour.
    pub color: Color,
}

crate::base::setters! {
    Shadow {
        blur: f32,
        spread: f32,
    }
}

impl Shadow {
    /// A shadow with sharp edges.
    pub const fn new(offset: Offset, color: Color) -> Self {
        Self {
            offset,
            blur: 0.0,
            spread: 0.0,
            color,
        }
    }
}

/// The farthest that a shadow may lie from its letters, in design pixels.
const FARTHEST: f32 = 1024.0;

impl EffectKind for Shadow {
    fn fault(&self) -> Option<Fault> {
        let Offset { x, y } = self.offset;
        let far = [x, y]
            .into_iter()
            .find(|way| !(-FARTHEST..=FARTHEST).contains(way));
        let far = far.map(|way| ("the offset of a shadow", way, "-1024 to 1024"));
        far.or(blur_fault(self.blur))
            .or(length_fault("the spread of a shadow", self.spread))
    }

    fn scaled(&self, factor: f32) -> Effect {
        Effect::Shadow(Self {
            offset: Offset::new(self.offset.x * factor, self.offset.y * factor),
            blur: self.blur * factor,
            spread: self.spread * factor,
            ..*self
        })
    }

    fn reach(&self) -> f32 {
        self.offset.x.abs().max(self.offset.y.abs()) + self.spread + self.blur
    }

    fn layer(&self, letter: &Letter, scale: f32) -> EffectLayer {
        let outset = (letter.embolden + self.spread) * scale;
        // An unmoved shadow shares the picture of the letter.
        let join = if outset == 0.0 {
            Join::Miter
        } else {
            Join::Round
        };
        let treatment = Treatment::from(letter.edges)
            .with_join(join)
            .with_outset(outset)
            .with_blur(self.blur * 0.5 * scale);
        EffectLayer {
            offset: Offset::new(self.offset.x * scale, self.offset.y * scale),
            ..EffectLayer::new(treatment, self.color)
        }
    }
}
