//! The files that a bake reads, and what tells one set of them from another.

use std::collections::BTreeMap;
use std::io;
use std::path::{Path, PathBuf};

use crate::base::FileReader;
use crate::pack::Fingerprint;
use xxhash_rust::xxh3::{Xxh3, xxh3_128};

/// Reads files and remembers what was in them.
#[derive(Debug, Default)]
pub(super) struct Inputs {
    /// The folder that paths are told from.
    root: PathBuf,
    reader: FileReader,
    /// A hash of each file by its path.
    files: BTreeMap<PathBuf, u128>,
}

impl Inputs {
    pub(super) fn new(root: &Path, reader: &FileReader) -> Self {
        Self {
            reader: reader.clone(),
            root: root.to_owned(),
            files: BTreeMap::new(),
        }
    }

    /// The way to files.
    pub(super) fn reader(&self) -> &FileReader {
        &self.reader
    }

    /// Reads a file.
    pub(super) fn read(&mut self, path: &Path) -> io::Result<Vec<u8>> {
        let bytes = self.reader.read(path)?;
        let name = path.strip_prefix(&self.root).unwrap_or(path);
        self.files.insert(name.to_owned(), xxh3_128(&bytes));
        Ok(bytes)
    }

    /// The fingerprint of all that was read, and of the very build that reads it.
    pub(super) fn fingerprint(&self) -> Fingerprint {
        let mut hasher = Xxh3::new();
        hasher.update(env!("KERNO_SOURCES").as_bytes());
        for (path, hash) in &self.files {
            hasher.update(path.to_string_lossy().as_bytes());
            hasher.update(&[0]);
            hasher.update(&hash.to_le_bytes());
        }
        Fingerprint(hasher.digest128().to_le_bytes())
    }
}
