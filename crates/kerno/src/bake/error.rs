//! Why a bake stopped.

use std::error::Error;
use std::path::PathBuf;

use crate::atlas::AtlasError;
use crate::base::FileError;

/// Why a bake stopped.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum BakeError {
    /// The manifest, or something in it or in a file that it names.
    #[error(transparent)]
    File(#[from] FileError),
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
            Self::File(error) => error.code(),
            Self::Nothing { .. } => "bake-nothing",
            Self::Picture { .. } => "bake-picture",
            Self::Encode { .. } => "bake-encode",
            Self::TooMuch { .. } => "bake-too-much",
        }
    }
}
