//! Effects as files write them.

use serde::Deserialize;
use toml::Spanned;

use crate::base::Color;
use crate::text::{Effect, Fill};

/// An effect as style files and manifests write it: `{ outline = { width = 2 } }`.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(crate) enum EffectRecord {
    Fill(FillRecord),
    Outline(OutlineRecord),
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(crate) struct FillRecord {
    color: Option<Spanned<String>>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(crate) struct OutlineRecord {
    width: f32,
    color: Option<Spanned<String>>,
}

impl EffectRecord {
    /// The effect; `color` reads a colour and tells what is wrong with it. An outline is
    /// black where it has no colour.
    ///
    /// # Errors
    /// What `color` says, and what `wrong` makes of a number out of its range.
    pub(crate) fn effect<E>(
        &self,
        color: impl Fn(&Spanned<String>) -> Result<Color, E>,
        wrong: impl Fn(String) -> E,
    ) -> Result<Effect, E> {
        let effect = match self {
            Self::Fill(fill) => Effect::Fill(Fill {
                color: fill.color.as_ref().map(&color).transpose()?,
            }),
            Self::Outline(outline) => {
                let own = outline.color.as_ref().map(&color).transpose()?;
                Effect::outline(outline.width, own.unwrap_or(Color::BLACK))
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
