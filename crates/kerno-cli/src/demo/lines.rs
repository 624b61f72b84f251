//! What the HUD says.

use serde::Deserialize;

use crate::error::CliError;

/// What the HUD says, from the file that the bake reads as well.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct Lines {
    pub(crate) labels: Labels,
    pub(crate) notes: Notes,
    pub(crate) message: Message,
    pub(crate) dialogue: Dialogue,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct Labels {
    pub(crate) oil: String,
    pub(crate) landing: String,
    pub(crate) fares: String,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct Notes {
    pub(crate) aboard: String,
    pub(crate) pump: String,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct Message {
    pub(crate) title: String,
    pub(crate) order: String,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct Dialogue {
    pub(crate) name: String,
    pub(crate) line: String,
}

impl Lines {
    pub(crate) fn open() -> Result<Self, CliError> {
        Ok(toml::from_str(include_str!(
            "../../../../demo/ferry/lines.toml"
        ))?)
    }
}
