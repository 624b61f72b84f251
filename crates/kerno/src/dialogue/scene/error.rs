//! Why a scene can't be played.

use crate::base::FileError;
use crate::dialogue::TimetableError;
use crate::text::TextError;

/// Why a scene can't be played.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum SceneError {
    /// Something in its file, or in what that names.
    #[error(transparent)]
    File(#[from] FileError),
    /// A text can't be laid out.
    #[error(transparent)]
    Text(#[from] TextError),
    /// A text has no timetable.
    #[error(transparent)]
    Timetable(#[from] TimetableError),
    /// A value that the scene does not have, or of another kind; a language without texts.
    #[error("{0}")]
    Value(String),
    /// The saved state is of another scene, or of another version.
    #[error("{0}")]
    Saved(String),
}

crate::base::debug_in_full!(SceneError);

impl SceneError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::File(error) => error.code(),
            Self::Text(error) => error.code(),
            Self::Timetable(error) => error.code(),
            Self::Value(_) => "scene-value",
            Self::Saved(_) => "scene-saved",
        }
    }
}
