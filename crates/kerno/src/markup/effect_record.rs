//! Effects as files write them.

use serde::Deserialize;

use crate::base::{BandSide, BandSideRecord, Color, Join, JoinRecord, Offset, Spanned};
use crate::text::{Effect, Fill, Glow, LetterOutline, Shadow};

/// An effect as style files and manifests write it: `{ outline = { width = 2 } }`.
#[derive(Debug, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(crate) enum EffectRecord {
    Fill(FillRecord),
    Outline(OutlineRecord),
    Shadow(ShadowRecord),
    Glow(GlowRecord),
}

/// A colour in quotation marks.
type ColorText = Option<Spanned<String>>;

#[derive(Debug, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(crate) struct FillRecord {
    /// A colour as in CSS. Default: that of the style.
    color: ColorText,
    /// The colour at the bottom of a gradient downwards.
    bottom: ColorText,
    /// Design pixels by which the strokes are thicker, or thinner below 0.
    #[serde(default)]
    embolden: f32,
}

#[derive(Debug, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(crate) struct OutlineRecord {
    /// Design pixels.
    width: f32,
    /// A colour as in CSS. Default: black.
    color: ColorText,
    /// The side of the edge that it lies on.
    #[serde(default, with = "BandSideRecord")]
    side: BandSide,
    /// The form of its corners.
    #[serde(default, with = "JoinRecord")]
    join: Join,
}

#[derive(Debug, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(crate) struct ShadowRecord {
    /// Design pixels to the right and down.
    #[serde(default)]
    offset: [f32; 2],
    /// Radius of the blur, in design pixels.
    #[serde(default)]
    blur: f32,
    /// Outset of the shape, in design pixels.
    #[serde(default)]
    spread: f32,
    /// A colour as in CSS. Default: black.
    color: ColorText,
}

#[derive(Debug, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(crate) struct GlowRecord {
    /// Design pixels.
    radius: f32,
    /// A colour as in CSS. Default: white.
    color: ColorText,
}

impl EffectRecord {
    /// The effect; `color` reads a colour and tells what is wrong with it. Outlines and
    /// shadows are black and a glow is white where they have no colour.
    ///
    /// # Errors
    /// Builds the effect, with the colour from `color`, and an error from `wrong` for a number
    /// out of its range.
    pub(crate) fn effect<E>(
        &self,
        color: impl Fn(&Spanned<String>) -> Result<Color, E>,
        wrong: impl Fn(String) -> E,
    ) -> Result<Effect, E> {
        let own = |text: &ColorText| text.as_ref().map(&color).transpose();
        let or = |text: &ColorText, usual: Color| Ok::<_, E>(own(text)?.unwrap_or(usual));
        let effect = match self {
            Self::Fill(fill) => Effect::Fill(
                Fill::default()
                    .color(own(&fill.color)?)
                    .bottom(own(&fill.bottom)?)
                    .embolden(fill.embolden),
            ),
            Self::Outline(outline) => {
                let color = or(&outline.color, Color::BLACK)?;
                let plain = LetterOutline::new(outline.width, color);
                Effect::Outline(plain.side(outline.side).join(outline.join))
            }
            Self::Shadow(shadow) => {
                let [x, y] = shadow.offset;
                let color = or(&shadow.color, Color::BLACK)?;
                let sharp = Shadow::new(Offset::new(x, y), color);
                Effect::Shadow(sharp.blur(shadow.blur).spread(shadow.spread))
            }
            Self::Glow(glow) => {
                Effect::Glow(Glow::new(glow.radius, or(&glow.color, Color::WHITE)?))
            }
        };
        match effect.kind().fault() {
            Some((what, value, range)) => Err(wrong(format!(
                "{what} of {value} px is out of range; it must be {range}"
            ))),
            None => Ok(effect),
        }
    }
}
