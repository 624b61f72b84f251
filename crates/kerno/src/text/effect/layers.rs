//! Effects as the layers that are painted.

use super::super::Style;
use super::{Fill, Glow, LetterOutline, Shadow};
use crate::base::{Color, Edges, Offset, Treatment};

/// One layer of a letter's look. The effects of a [`Style`] are painted from the first to
/// the last; those of all letters of a text that lie below the fill are painted before any
/// letter is filled, so that none covers its neighbour.
///
/// ```
/// use kerno::Color;
/// use kerno::text::Effect;
/// let gold = Effect::gradient(Color::rgb(255, 236, 176), Color::rgb(214, 138, 40));
/// let effects = [Effect::outline(2.0, Color::rgb(20, 26, 48)), gold];
/// # let _ = effects;
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum Effect {
    /// The letter itself.
    Fill(Fill),
    /// A band along the edge of the letter.
    Outline(LetterOutline),
    /// The letter's shape beneath it, moved and blurred.
    Shadow(Shadow),
    /// Light around the letter.
    Glow(Glow),
}

/// A number that is out of its range: its name, its value, the range.
pub(crate) type Fault = (&'static str, f32, &'static str);

/// Refuses an outset that is out of range.
pub(super) fn length_fault(what: &'static str, length: f32) -> Option<Fault> {
    let is_sound = length.abs() <= Treatment::LARGEST_OUTSET;
    (!is_sound).then_some((what, length, "-64 to 64"))
}

/// Refuses a blur radius that is out of range.
pub(super) fn blur_fault(radius: f32) -> Option<Fault> {
    let is_sound = (0.0..=Treatment::LARGEST_BLUR).contains(&radius);
    (!is_sound).then_some(("the blur of a shadow", radius, "0 to 128"))
}

/// The questions that every kind of effect answers.
pub(crate) trait EffectKind {
    /// The first number that is out of its range.
    fn fault(&self) -> Option<Fault>;
    /// The effect with all its lengths multiplied.
    fn scaled(&self, factor: f32) -> Effect;
    /// The distance that it reaches beyond the letter, in design pixels.
    fn reach(&self) -> f32;
    /// The layer, drawn at `scale` device pixels per design pixel.
    fn layer(&self, letter: &Letter, scale: f32) -> EffectLayer;
}

/// The letters of a style, as an effect sees them.
pub(crate) struct Letter {
    pub(super) edges: Edges,
    pub(super) color: Color,
    /// Outset of the letters themselves, in design pixels.
    pub(super) embolden: f32,
    /// True if the letters lie beneath the layer.
    pub(super) is_beneath: bool,
}

/// One layer of a letter as it is drawn.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct EffectLayer {
    /// Treatment of the shape of its picture.
    pub treatment: Treatment,
    /// Its colour.
    pub color: Color,
    /// Its colour at the descender of the line, where it runs from [`EffectLayer::color`] at
    /// the ascender to another.
    pub bottom: Option<Color>,
    /// From the letter to its picture, in device pixels.
    pub offset: Offset,
}

impl EffectLayer {
    /// The letter itself, which all layers are placed about.
    pub(crate) fn letter(style: &Style) -> Self {
        Self::new(style.edges.into(), style.color)
    }

    /// A layer in one colour in the place of the letter.
    pub(super) const fn new(treatment: Treatment, color: Color) -> Self {
        Self {
            treatment,
            color,
            bottom: None,
            offset: Offset::new(0.0, 0.0),
        }
    }
}

impl Effect {
    /// The letter itself in a colour.
    pub const fn fill(color: Color) -> Self {
        Self::Fill(Fill {
            color: Some(color),
            bottom: None,
            embolden: 0.0,
        })
    }

    /// The letter itself in a gradient from its ascender to its descender.
    pub const fn gradient(top: Color, bottom: Color) -> Self {
        Self::Fill(Fill {
            color: Some(top),
            bottom: Some(bottom),
            embolden: 0.0,
        })
    }

    /// An outline that reaches `width` design pixels beyond the letter, above 0 and at most
    /// [`Treatment::LARGEST_OUTSET`].
    pub const fn outline(width: f32, color: Color) -> Self {
        Self::Outline(LetterOutline::new(width, color))
    }

    /// A shadow at an offset and with a blur radius in design pixels: see [`Shadow`].
    pub const fn shadow(offset: Offset, blur: f32, color: Color) -> Self {
        Self::Shadow(Shadow {
            offset,
            blur,
            spread: 0.0,
            color,
        })
    }

    /// Light that ends a number of design pixels from the letters.
    pub const fn glow(radius: f32, color: Color) -> Self {
        Self::Glow(Glow::new(radius, color))
    }

    /// Its kind.
    pub(crate) fn kind(&self) -> &dyn EffectKind {
        match self {
            Self::Fill(fill) => fill,
            Self::Outline(outline) => outline,
            Self::Shadow(shadow) => shadow,
            Self::Glow(glow) => glow,
        }
    }
}

/// The effect that paints the letters where a style has none that does.
pub(super) const PLAIN: Effect = Effect::Fill(Fill {
    color: None,
    bottom: None,
    embolden: 0.0,
});

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
            embolden: self.embolden(),
            is_beneath: number > 0,
        };
        let effect = self.painted().nth(index)?;
        Some(effect.kind().layer(&letter, scale))
    }

    /// Outset of the letters themselves, in design pixels: that of the first fill.
    fn embolden(&self) -> f32 {
        let mut fills = self.effects.iter().filter_map(|effect| match effect {
            Effect::Fill(fill) => Some(fill.embolden),
            _ => None,
        });
        fills.next().unwrap_or(0.0)
    }

    /// The distance that effects reach beyond the letters, in design pixels.
    pub(crate) fn reach(&self) -> f32 {
        let own = self.embolden();
        let reaches = self.effects.iter().map(|effect| match effect {
            Effect::Fill(fill) => fill.reach(),
            other => own + other.kind().reach(),
        });
        reaches.fold(0.0, f32::max)
    }
}

pub(super) fn is_fill(effect: &Effect) -> bool {
    matches!(effect, Effect::Fill(_))
}
