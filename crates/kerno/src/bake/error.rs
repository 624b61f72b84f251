//! Why a bake stopped.

use std::error::Error;
use std::io;
use std::path::PathBuf;

use crate::atlas::AtlasError;

/// Why a bake stopped.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum BakeError {
    /// The manifest could not be read.
    #[error("cannot read the manifest “{}”", path.display())]
    Io {
        /// The manifest.
        path: PathBuf,
        /// The error of the system.
        source: io::Error,
    },
    /// Something in the manifest, or in a file that it names.
    #[error("{}, line {line}: {problem}", path.display())]
    Line {
        /// The manifest.
        path: PathBuf,
        /// The line, counted from 1.
        line: usize,
        /// The problem there.
        problem: String,
        /// The error of the file that the line names.
        source: Option<Box<dyn Error + Send + Sync>>,
    },
    /// A manifest that asks for nothing.
    #[error("{} names no [[strikes]] and no [[sprites]]: there is nothing to bake", .0.display())]
    Nothing(PathBuf),
    /// A picture that can't be made or placed.
    #[error("{what}")]
    Picture {
        /// The glyph or sprite, and its size.
        what: String,
        /// Why.
        source: Box<AtlasError>,
    },
    /// Output that can't be written as it should.
    #[error("cannot write {what}")]
    Encode {
        /// The part of it.
        what: &'static str,
        /// Why.
        source: Box<dyn Error + Send + Sync>,
    },
    /// More than a pack can hold.
    #[error("{0}")]
    TooMuch(String),
}

crate::base::debug_in_full!(BakeError);

impl BakeError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::Io { .. } => "bake-io",
            Self::Line { .. } => "bake-line",
            Self::Nothing { .. } => "bake-nothing",
            Self::Picture { .. } => "bake-picture",
            Self::Encode { .. } => "bake-encode",
            Self::TooMuch { .. } => "bake-too-much",
        }
    }
}
