//! The way to files: which may be read, and which were.

use std::collections::BTreeSet;
use std::io;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};

use super::{Limits, read_file, read_text};

/// The way to the files that a file names: it says which may be read, and tells which were.
///
/// A screen, a style file, a scene, a manifest and a picture sheet name other files, and
/// without more words they may name any file of the system. [`FileReader::contained`] holds
/// them to a folder: for files of players and of strangers. Clones share what was read.
///
/// ```
/// use kerno::base::FileReader;
/// use kerno::markup::StyleFile;
/// # let mods = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");
/// let files = FileReader::contained(mods)?;
/// let styles = StyleFile::from_file_through(format!("{mods}/styles.toml"), |_| None, &files)?;
/// assert!(files.files().iter().any(|file| file.ends_with("AveriaSerifGWF-Bold.ttf")));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Debug, Default)]
pub struct FileReader {
    limits: Limits,
    /// The folder that no file may leave, as the system knows it.
    folder: Option<PathBuf>,
    /// The files that were read, as the system knows them.
    files: Arc<Mutex<BTreeSet<PathBuf>>>,
}

impl FileReader {
    /// A way to all files, under limits.
    pub fn new(limits: Limits) -> Self {
        Self {
            limits,
            ..Self::default()
        }
    }

    /// A way to the files of a folder and of the folders in it, under the default limits.
    /// Links are followed first: one that leads out is refused.
    ///
    /// # Errors
    /// Where the folder is not there.
    pub fn contained(folder: impl AsRef<Path>) -> io::Result<Self> {
        Self::default().within(folder)
    }

    /// As [`FileReader::contained`], with the limits of this one, sharing what was read.
    ///
    /// # Errors
    /// As there.
    pub fn within(&self, folder: impl AsRef<Path>) -> io::Result<Self> {
        let folder = folder.as_ref();
        let folder = match folder.as_os_str().is_empty() {
            true => Path::new("."),
            false => folder,
        };
        Ok(Self {
            folder: Some(folder.canonicalize()?),
            ..self.clone()
        })
    }

    /// The limits that files are read under.
    pub fn limits(&self) -> &Limits {
        &self.limits
    }

    /// The files that were read so far, in the order of their names, with links followed.
    pub fn files(&self) -> Vec<PathBuf> {
        let files = self.files.lock().unwrap_or_else(PoisonError::into_inner);
        files.iter().cloned().collect()
    }

    /// Refuses a file or folder outside of the folder that all is contained in; it may be one
    /// that is still to be written.
    ///
    /// # Errors
    /// [`io::ErrorKind::PermissionDenied`] with the folder in its message.
    pub fn check(&self, path: &Path) -> io::Result<()> {
        let Some(folder) = &self.folder else {
            return Ok(());
        };
        let real = real_path(path)?;
        if real.starts_with(folder) {
            return Ok(());
        }
        let text = format!(
            "it lies outside of the folder “{}”, which files may not leave here",
            folder.display()
        );
        Err(io::Error::new(io::ErrorKind::PermissionDenied, text))
    }

    /// Reads a regular file within the limits.
    ///
    /// # Errors
    /// Where it can't be read, is too large, or lies outside of the folder.
    pub fn read(&self, path: &Path) -> io::Result<Vec<u8>> {
        self.check(path)?;
        let bytes = read_file(path, self.limits.file_bytes)?;
        self.remember(path);
        Ok(bytes)
    }

    /// As [`FileReader::read`], for text in UTF-8.
    ///
    /// # Errors
    /// As there, and [`io::ErrorKind::InvalidData`] where it is not UTF-8.
    pub fn read_text(&self, path: &Path) -> io::Result<String> {
        self.check(path)?;
        let text = read_text(path, self.limits.file_bytes)?;
        self.remember(path);
        Ok(text)
    }

    fn remember(&self, path: &Path) {
        if let Ok(real) = path.canonicalize() {
            let mut files = self.files.lock().unwrap_or_else(PoisonError::into_inner);
            files.insert(real);
        }
    }
}

/// The path as the system knows it, with links followed; of what is not there yet, the part
/// that is.
fn real_path(path: &Path) -> io::Result<PathBuf> {
    let mut missing = PathBuf::new();
    let mut known = path;
    loop {
        match known.canonicalize() {
            Ok(real) => return Ok(real.join(missing)),
            Err(error) if error.kind() != io::ErrorKind::NotFound => return Err(error),
            Err(error) => {
                // A dangling link may lead anywhere, and `..` after what is not there as well.
                let name = known.file_name().filter(|_| !known.is_symlink());
                let (Some(name), Some(parent)) = (name, known.parent()) else {
                    return Err(error);
                };
                missing = match missing.as_os_str().is_empty() {
                    true => PathBuf::from(name),
                    false => Path::new(name).join(missing),
                };
                known = match parent.as_os_str().is_empty() {
                    true => Path::new("."),
                    false => parent,
                };
            }
        }
    }
}
