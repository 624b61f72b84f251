//! Scene files as they are written (`docs/scene.md`).

use std::collections::BTreeMap;

use crate::base::Spanned;
use serde::Deserialize;

#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct SceneRecord {
    /// The style file.
    pub(super) styles: Option<String>,
    /// The folder with a file of texts for each language.
    pub(super) strings: Option<String>,
    /// The language that the scene begins with. Default: the first file of texts.
    pub(super) language: Option<String>,
    /// The screen file that commands play it on. Default: a plain box.
    pub(super) screen: Option<String>,
    /// The style of lines that name none. Default: `[defaults] text` of the style file.
    pub(super) style: Option<String>,
    /// The values that the game hands in, by their names.
    #[serde(default)]
    pub(super) values: BTreeMap<String, Spanned<ValueRecord>>,
    /// Names that texts and lines may give to the game.
    #[serde(default)]
    pub(super) cues: Vec<String>,
    /// The speakers, by their names in this file.
    #[serde(default)]
    pub(super) speakers: BTreeMap<String, Spanned<SpeakerRecord>>,
    /// The lines, in their order.
    #[serde(default)]
    pub(super) lines: Vec<Spanned<LineRecord>>,
}

#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct ValueRecord {
    /// The value at the start; it says of which kind it is.
    pub(super) start: Datum,
    /// The least and the greatest number.
    pub(super) range: Option<[f64; 2]>,
}

#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(untagged, expecting = "a number, a text, true or false")]
pub(super) enum Datum {
    Flag(bool),
    Number(f64),
    Text(String),
}

#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct SpeakerRecord {
    /// The name that is shown.
    pub(super) name: Option<String>,
    /// The name that is shown, by its key in the string tables.
    pub(super) string: Option<String>,
    /// A sprite.
    pub(super) portrait: Option<String>,
    /// The style of what they say.
    pub(super) style: Option<String>,
    /// The colour of what they say, as in CSS.
    pub(super) color: Option<String>,
    /// A factor of the pace at which they speak. Default: 1.
    pub(super) pace: Option<f32>,
    /// A name for the game: the sound of their letters.
    pub(super) sound: Option<String>,
}

#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct LineRecord {
    /// A name to jump to.
    pub(super) label: Option<String>,
    /// The speaker. Default: a narrator.
    pub(super) speaker: Option<String>,
    /// The text, with markup.
    pub(super) text: Option<String>,
    /// The text, by its key in the string tables.
    pub(super) string: Option<String>,
    /// A sprite in place of the speaker's.
    pub(super) portrait: Option<String>,
    /// A style in place of the speaker's.
    pub(super) style: Option<String>,
    /// The line is left out unless this holds.
    pub(super) when: Option<ConditionRecord>,
    /// The line is left out if this value is true.
    pub(super) unless: Option<String>,
    /// A name for the game, at the beginning.
    pub(super) cue: Option<String>,
    /// Answers to choose from.
    #[serde(default)]
    pub(super) choices: Vec<ChoiceRecord>,
    /// The label of the line that comes next. Default: the one below.
    pub(super) jump: Option<String>,
    /// True: the scene ends with it.
    #[serde(default)]
    pub(super) ends: bool,
}

#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct ChoiceRecord {
    /// The answer, with markup.
    pub(super) text: Option<String>,
    /// The answer, by its key in the string tables.
    pub(super) string: Option<String>,
    /// The answer is offered only if this holds.
    pub(super) when: Option<ConditionRecord>,
    /// The answer is not offered if this value is true.
    pub(super) unless: Option<String>,
    /// The label of the line that it leads to. Default: the one below.
    pub(super) jump: Option<String>,
}

#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(
    untagged,
    expecting = "the name of a value, or a table such as { value = \"fares\", at-least = 100 }"
)]
pub(super) enum ConditionRecord {
    IsTrue(String),
    Test(TestRecord),
}

#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct TestRecord {
    /// The value that is tested.
    pub(super) value: String,
    /// It is that number or more.
    pub(super) at_least: Option<f64>,
    /// It is less than that number.
    pub(super) below: Option<f64>,
    /// It is that text.
    pub(super) is: Option<String>,
}

/// The schema of scene files.
#[cfg(feature = "schemas")]
pub(crate) fn file_schema() -> schemars::Schema {
    schemars::schema_for!(SceneRecord)
}
