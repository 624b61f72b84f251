//! Why a screen can't be used.

use super::ViewportError;
use crate::atlas::AtlasError;
use crate::base::FileError;
use crate::text::TextError;

/// Why a screen can't be used.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum ScreenError {
    /// A file, or something in it or in what it names.
    #[error(transparent)]
    File(#[from] FileError),
    /// A value that the screen does not have, or of another kind.
    #[error("{0}")]
    Value(String),
    /// A picture finds no room in the atlas, or is not of it.
    #[error(transparent)]
    Atlas(#[from] AtlasError),
    /// A text can't be laid out.
    #[error(transparent)]
    Text(#[from] TextError),
    /// Design and window don't make a viewport.
    #[error(transparent)]
    Viewport(#[from] ViewportError),
}

crate::base::debug_in_full!(ScreenError);

impl ScreenError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::File(error) => error.code(),
            Self::Value(_) => "screen-value",
            Self::Atlas(error) => error.code(),
            Self::Text(error) => error.code(),
            Self::Viewport(error) => error.code(),
        }
    }
}
