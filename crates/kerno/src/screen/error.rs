//! Why a screen can't be used.

use std::error::Error;
use std::io;
use std::path::{Path, PathBuf};

use super::ViewportError;
use crate::atlas::AtlasError;
use crate::base::FileError;
use crate::text::TextError;

/// Why a screen can't be used.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum ScreenError {
    /// A file could not be read.
    #[error("cannot read “{}”", path.display())]
    Io {
        /// The file.
        path: PathBuf,
        /// Error of the system.
        source: io::Error,
    },
    /// Something in a file, or in what it names.
    #[error("{}: {problem}", place(path, *line))]
    Line {
        /// The file; empty for a screen that was made in code.
        path: PathBuf,
        /// The line, counted from 1; 0 where it is of no line.
        line: usize,
        /// The problem, in a sentence.
        problem: String,
        /// Error of something that the line names.
        source: Option<Box<dyn Error + Send + Sync>>,
    },
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

impl From<FileError> for ScreenError {
    fn from(error: FileError) -> Self {
        match error {
            FileError::Io { path, source } => Self::Io { path, source },
            FileError::Line {
                path,
                line,
                problem,
                source,
            } => Self::Line {
                path,
                line,
                problem,
                source,
            },
        }
    }
}

fn place(path: &Path, line: usize) -> String {
    match (path.as_os_str().is_empty(), line) {
        (true, _) => "the screen".to_owned(),
        (false, 0) => path.display().to_string(),
        (false, line) => format!("{}, line {line}", path.display()),
    }
}

impl ScreenError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::Io { .. } => "screen-io",
            Self::Line { .. } => "screen-line",
            Self::Value(_) => "screen-value",
            Self::Atlas(error) => error.code(),
            Self::Text(error) => error.code(),
            Self::Viewport(error) => error.code(),
        }
    }
}
