//! Effects as the layers that are painted.

use super::super::Style;
use super::Fill;
use super::LetterOutline;
use crate::base::{Color, Edges, Treatment};

/// One layer of a letter's look. The effects of a [`Style`] are painted from the first to
/// the last; those of all letters of a text that lie below the fill are painted before any
/// letter is filled, so that none covers its neighbour.
///
/// ```
/// use kerno::Color;
/// use kerno::text::Effect;
/// let effects = [Effect::outline(2.0, Color::rgb(20, 26, 48)), Effect::fill(Color::WHITE)];
/// # let _ = effects;
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum Effect {
    /// The letter itself.
    Fill(Fill),
    /// A band around the letter.
    Outline(LetterOutline),
}

/// What every kind of effect has to tell.
pub(crate) trait EffectKind {
    /// A number that is out of its range: what it is, its value, the range.
    fn fault(&self) -> Option<(&'static str, f32, &'static str)>;
    /// The effect with all its lengths multiplied.
    fn scaled(&self, factor: f32) -> Effect;
    /// The distance that it reaches beyond the letter, in design pixels.
    fn reach(&self) -> f32;
    /// The layer, drawn at `scale` device pixels per design pixel.
    fn layer(&self, letter: &Letter, scale: f32) -> EffectLayer;
}

/// What an effect knows of the letters of a style.
pub(crate) struct Letter {
    pub(super) edges: Edges,
    pub(super) color: Color,
}

/// One layer of a letter as it is drawn.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct EffectLayer {
    /// Treatment of the shape of its picture.
    pub treatment: Treatment,
    /// Its colour.
    pub color: Color,
}

impl Effect {
    /// The letter itself in a colour.
    pub const fn fill(color: Color) -> Self {
        Self::Fill(Fill { color: Some(color) })
    }

    /// An outline that reaches `width` design pixels beyond the letter, above 0 and at most
    /// [`Treatment::LARGEST_OUTSET`].
    pub const fn outline(width: f32, color: Color) -> Self {
        Self::Outline(LetterOutline { width, color })
    }

    /// Its kind.
    pub(crate) fn kind(&self) -> &dyn EffectKind {
        match self {
            Self::Fill(fill) => fill,
            Self::Outline(outline) => outline,
        }
    }

    /// Treatment of the shape of its picture, drawn at `scale` device pixels per design
    /// pixel.
    pub(crate) fn treatment(&self, edges: Edges, scale: f32) -> Treatment {
        let color = Color::WHITE;
        self.kind().layer(&Letter { edges, color }, scale).treatment
    }
}

/// The effect that paints the letters where a style has none that does.
pub(super) const PLAIN: Effect = Effect::Fill(Fill { color: None });

impl Style {
    /// All effects from the first that is painted to the last: the letters themselves are
    /// the last where the style does not say.
    pub(super) fn painted(&self) -> impl Iterator<Item = &Effect> {
        let has_fill = self.effects.iter().any(is_fill);
        self.effects.iter().chain((!has_fill).then_some(&PLAIN))
    }

    /// The numbers of its layers, counted from that of the fill: from the lowest, 0 or
    /// less, to the highest, 0 or more.
    pub fn layers(&self) -> std::ops::RangeInclusive<i32> {
        let below = self.fill_index();
        -below..=self.painted().count() as i32 - 1 - below
    }

    pub(super) fn fill_index(&self) -> i32 {
        let first = self.painted().position(is_fill);
        first.map_or(0, |index| index as i32)
    }

    /// A layer by its number, drawn at `scale` device pixels per design pixel; `None`
    /// where there is no such layer.
    pub fn layer(&self, number: i32, scale: f32) -> Option<EffectLayer> {
        let index = usize::try_from(number + self.fill_index()).ok()?;
        let letter = Letter {
            edges: self.edges,
            color: self.color,
        };
        let effect = self.painted().nth(index)?;
        Some(effect.kind().layer(&letter, scale))
    }

    /// The distance that effects reach beyond the letters, in design pixels.
    pub(in crate::text) fn reach(&self) -> f32 {
        let reaches = self.effects.iter().map(|effect| effect.kind().reach());
        reaches.fold(0.0, f32::max)
    }
}

pub(super) fn is_fill(effect: &Effect) -> bool {
    matches!(effect, Effect::Fill(_))
}
