//! TOML files: values of a schema out, or the line that is wrong.

use std::ops::Range;

use serde::de::DeserializeOwned;

use super::nearest;

/// A problem in a TOML file, and its line (counted from 1).
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct TomlFault {
    pub(crate) line: usize,
    pub(crate) problem: String,
}

/// Reads a file of a schema.
pub(crate) fn parse<T: DeserializeOwned>(text: &str) -> Result<T, TomlFault> {
    toml::from_str(text).map_err(|error| TomlFault {
        line: error.span().map_or(1, |span| line_of(text, &span)),
        problem: explained(error.message()),
    })
}

/// The line that a part of the file starts on.
pub(crate) fn line_of(text: &str, part: &Range<usize>) -> usize {
    let before = text.as_bytes().get(..part.start).unwrap_or_default();
    1 + before.iter().filter(|byte| **byte == b'\n').count()
}

/// The lines of a text, to find many places of it.
#[cfg(feature = "screens")]
pub(crate) struct LineIndex {
    /// Bytes of line ends.
    ends: Vec<usize>,
}

#[cfg(feature = "screens")]
impl LineIndex {
    pub(crate) fn of(text: &str) -> Self {
        Self {
            ends: text.match_indices('\n').map(|(at, _)| at).collect(),
        }
    }

    /// The line that a part of the text starts on, counted from 1.
    pub(crate) fn line_of(&self, part: &Range<usize>) -> usize {
        1 + self.ends.partition_point(|end| *end < part.start)
    }
}

/// Says which key was meant where one is unknown; serde lists all in backticks.
fn explained(message: &str) -> String {
    let mut quoted = message.split('`').skip(1).step_by(2);
    if !message.starts_with("unknown field") {
        return message.to_owned();
    }
    let unknown = quoted.next().unwrap_or_default();
    let known: Vec<&str> = quoted.collect();
    match nearest(unknown, known.iter().copied()) {
        Some(near) => format!("there is no key “{unknown}”; did you mean “{near}”?"),
        None => format!(
            "there is no key “{unknown}”; there are {}",
            known.join(", ")
        ),
    }
}
