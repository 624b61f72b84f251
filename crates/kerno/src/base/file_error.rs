//! Faults of files that people write.

use std::error::Error;
use std::io;
use std::path::{Path, PathBuf};

use super::printable;

/// Why a file that people write can't be used.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum FileError {
    /// It could not be read.
    #[error("cannot read “{}”", printable(&path.display().to_string()))]
    Io {
        /// The file.
        path: PathBuf,
        /// Error of the system.
        source: io::Error,
    },
    /// Something in it, or in what it names.
    #[error("{}: {}", place(path, *line), printable(problem))]
    Line {
        /// The file; empty for what was made in code.
        path: PathBuf,
        /// The line, counted from 1; 0 where it is of no line.
        line: usize,
        /// The problem, in a sentence.
        problem: String,
        /// Error of something that the line names.
        source: Option<Box<dyn Error + Send + Sync>>,
    },
}

super::debug_in_full!(FileError);

fn place(path: &Path, line: usize) -> String {
    match (path.as_os_str().is_empty(), line) {
        (true, _) => "what was made in code".to_owned(),
        (false, 0) => printable(&path.display().to_string()).into_owned(),
        (false, line) => format!("{}, line {line}", printable(&path.display().to_string())),
    }
}

impl FileError {
    /// Something wrong in a line of a file.
    pub(crate) fn line(path: &Path, line: usize, problem: impl Into<String>) -> Self {
        Self::Line {
            path: path.to_owned(),
            line,
            problem: problem.into(),
            source: None,
        }
    }

    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::Io { .. } => "file-io",
            Self::Line { .. } => "file-line",
        }
    }
}
