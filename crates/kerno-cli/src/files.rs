//! The files of a call: which may be read, and which may be written.

use std::fs::File;
use std::io::Read;
use std::path::Path;

use clap::Args;
use kerno::base::FileReader;

use crate::error::CliError;
use crate::output::{folder_of, write_file};

/// Options of every command about the files that it reads and writes.
#[derive(Clone, Copy, Debug, Default, Args)]
pub(crate) struct FileManners {
    /// Refuse what a file names outside of its own folder: for files of strangers
    #[arg(long, global = true, help_heading = "Files")]
    contained: bool,
    /// Write over files that this call reads, or that kerno has not made
    #[arg(long, global = true, help_heading = "Files")]
    force: bool,
}

/// The way to all files of a call. Clones share what was read.
#[derive(Clone, Debug, Default)]
pub(crate) struct Files {
    manners: FileManners,
    reader: FileReader,
}

impl Files {
    pub(crate) fn new(manners: FileManners) -> Self {
        Self {
            manners,
            reader: FileReader::default(),
        }
    }

    /// The way to a file that was typed, and to what it names.
    pub(crate) fn of(&self, path: &Path) -> Result<FileReader, CliError> {
        if !self.manners.contained {
            return Ok(self.reader.clone());
        }
        let folder = folder_of(path);
        let within = self.reader.within(folder);
        within.map_err(|error| CliError::Read(path.to_owned(), error))
    }

    /// Refuses to write over a file that was read.
    pub(crate) fn check_output(&self, path: &Path) -> Result<(), CliError> {
        let real = match path.canonicalize() {
            Ok(real) if real.is_file() && !self.manners.force => real,
            _ => return Ok(()),
        };
        match self.reader.files().contains(&real) {
            true => Err(CliError::IsInput(path.to_owned())),
            false => Ok(()),
        }
    }

    /// Writes a file.
    pub(crate) fn write(&self, path: &Path, bytes: &[u8]) -> Result<(), CliError> {
        self.check_output(path)?;
        write_file(path, bytes)
    }

    /// Refuses to write over a file that does not begin with `mark`: nobody named it, so that a
    /// stranger's must not be lost.
    pub(crate) fn check_marked(&self, path: &Path, mark: &str) -> Result<(), CliError> {
        if let Ok(earlier) = File::open(path) {
            let mut start = Vec::new();
            let read = earlier.take(mark.len() as u64).read_to_end(&mut start);
            if !self.manners.force && (read.is_err() || start != mark.as_bytes()) {
                return Err(CliError::NotOurs(path.to_owned()));
            }
        }
        Ok(())
    }
}
