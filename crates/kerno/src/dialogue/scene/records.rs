//! Scene files as they are written (`docs/scene.md`).

use std::collections::BTreeMap;

use serde::Deserialize;
use toml::Spanned;

#[derive(Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct SceneRecord {
    pub(super) styles: Option<String>,
    pub(super) strings: Option<String>,
    pub(super) language: Option<String>,
    pub(super) screen: Option<String>,
    pub(super) style: Option<String>,
    #[serde(default)]
    pub(super) values: BTreeMap<String, Spanned<ValueRecord>>,
    #[serde(default)]
    pub(super) cues: Vec<String>,
    #[serde(default)]
    pub(super) speakers: BTreeMap<String, Spanned<SpeakerRecord>>,
    #[serde(default)]
    pub(super) lines: Vec<Spanned<LineRecord>>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct ValueRecord {
    pub(super) start: Datum,
    pub(super) range: Option<[f64; 2]>,
}

#[derive(Deserialize)]
#[serde(untagged, expecting = "a number, a text, true or false")]
pub(super) enum Datum {
    Flag(bool),
    Number(f64),
    Text(String),
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct SpeakerRecord {
    pub(super) name: Option<String>,
    pub(super) string: Option<String>,
    pub(super) portrait: Option<String>,
    pub(super) style: Option<String>,
    pub(super) color: Option<String>,
    pub(super) pace: Option<f32>,
    pub(super) sound: Option<String>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct LineRecord {
    pub(super) label: Option<String>,
    pub(super) speaker: Option<String>,
    pub(super) text: Option<String>,
    pub(super) string: Option<String>,
    pub(super) portrait: Option<String>,
    pub(super) style: Option<String>,
    pub(super) when: Option<ConditionRecord>,
    pub(super) unless: Option<String>,
    pub(super) cue: Option<String>,
    #[serde(default)]
    pub(super) choices: Vec<ChoiceRecord>,
    pub(super) jump: Option<String>,
    #[serde(default)]
    pub(super) ends: bool,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct ChoiceRecord {
    pub(super) text: Option<String>,
    pub(super) string: Option<String>,
    pub(super) when: Option<ConditionRecord>,
    pub(super) unless: Option<String>,
    pub(super) jump: Option<String>,
}

#[derive(Deserialize)]
#[serde(
    untagged,
    expecting = "the name of a value, or a table such as { value = \"fares\", at-least = 100 }"
)]
pub(super) enum ConditionRecord {
    IsTrue(String),
    Test(TestRecord),
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct TestRecord {
    pub(super) value: String,
    pub(super) at_least: Option<f64>,
    pub(super) below: Option<f64>,
    pub(super) is: Option<String>,
}
