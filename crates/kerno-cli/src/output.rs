//! Files that are there whole or not at all.

use std::fs::{File, Metadata, OpenOptions};
use std::hash::{DefaultHasher, Hash, Hasher};
use std::io::{self, Read, Write};
use std::path::{Path, PathBuf};
use std::time::Duration;

use tempfile::NamedTempFile;

use crate::error::CliError;

/// Reads all of standard input, up to a number of bytes.
pub(crate) fn read_input(most: u64) -> Result<Vec<u8>, CliError> {
    let mut bytes = Vec::new();
    let mut input = io::stdin().lock().take(most + 1);
    input.read_to_end(&mut bytes).map_err(CliError::Input)?;
    match bytes.len() as u64 > most {
        true => Err(CliError::LongInput(most)),
        false => Ok(bytes),
    }
}

/// The most bytes of text that are read from standard input.
const MOST_TEXT: u64 = 1 << 24;

/// Reads a text from standard input.
pub(crate) fn read_input_text() -> Result<String, CliError> {
    let bytes = read_input(MOST_TEXT)?;
    String::from_utf8(bytes).map_err(|_| CliError::NotUtf8("standard input"))
}

/// Writes a file beside its place first, then moves it there, so that an earlier
/// one stays whole whatever happens. A link is followed, and what is no regular file (a
/// device, a pipe, an open descriptor) is written to as it is. A file that was there keeps its
/// permissions; a new one has those that the system gives to new files.
pub(crate) fn write_file(path: &Path, bytes: &[u8]) -> Result<(), CliError> {
    let failed = |error: io::Error| CliError::Write(path.to_owned(), error);
    if is_stream(path) {
        let mut file = OpenOptions::new().append(true).open(path).map_err(failed)?;
        return file.write_all(bytes).map_err(failed);
    }
    let place = followed(path).map_err(failed)?;
    let folder = folder_of(&place);
    if !folder.is_dir() {
        return Err(CliError::NoFolder(path.to_owned(), folder.to_owned()));
    }
    // What can't be written to is not replaced either.
    let earlier = match OpenOptions::new().write(true).open(&place) {
        Ok(file) => Some(file.metadata().map_err(failed)?),
        Err(error) if error.kind() == io::ErrorKind::NotFound => None,
        Err(error) => return Err(failed(error)),
    };
    let mut part = begin_part(&place).map_err(failed)?;
    part.write_all(bytes).map_err(failed)?;
    if let Some(earlier) = earlier {
        let file = part.as_file();
        file.set_permissions(earlier.permissions())
            .map_err(failed)?;
    }
    part.persist(&place).map_err(|error| failed(error.error))?;
    Ok(())
}

/// Returns whether a path leads to something that is written to as it is.
fn is_stream(path: &Path) -> bool {
    // A descriptor may be a regular file, which whoever opened it goes on writing.
    let is_descriptor = ["/dev", "/proc"].iter().any(|root| path.starts_with(root));
    let is_special = |known: Metadata| !known.is_file() && !known.is_dir();
    is_descriptor && path.exists() || path.metadata().is_ok_and(is_special)
}

/// The folder that a file lies in.
pub(crate) fn folder_of(path: &Path) -> &Path {
    match path.parent() {
        Some(folder) if !folder.as_os_str().is_empty() => folder,
        _ => Path::new("."),
    }
}

/// The beginning and the end of the names of all files of ours that are not outputs.
const OURS: &str = ".kerno-";
const UNFINISHED: &str = ".part";

/// An unfinished file that nobody has written to for so long is an abandoned one. One of less
/// may have been made just now, and not be locked yet.
const ABANDONED: Duration = Duration::from_secs(60);

/// The beginning of the names of our files beside an output. It tells outputs of one folder
/// apart, and is short where the output's name is as long as names may be.
fn own_prefix(place: &Path) -> String {
    let mut hasher = DefaultHasher::new();
    place.file_name().hash(&mut hasher);
    format!("{OURS}{:016x}", hasher.finish())
}

/// Makes an unfinished file beside its place. For as long as it is locked, somebody is
/// writing it.
fn begin_part(place: &Path) -> io::Result<NamedTempFile> {
    let prefix = format!("{}-", own_prefix(place));
    let mut builder = tempfile::Builder::new();
    builder.prefix(&prefix).suffix(UNFINISHED);
    #[cfg(unix)]
    let mode = std::os::unix::fs::PermissionsExt::from_mode(0o666);
    // The system takes away what its user does not give to new files.
    #[cfg(unix)]
    builder.permissions(mode);
    let file = builder.tempfile_in(folder_of(place))?;
    file.as_file().lock()?;
    remove_abandoned(place, &prefix, file.as_file());
    Ok(file)
}

/// Removes unfinished files of an output that nobody writes any more: whoever did was killed.
fn remove_abandoned(place: &Path, prefix: &str, fresh: &File) {
    let Ok(entries) = folder_of(place).read_dir() else {
        return;
    };
    // By the clock that gives the others their times.
    let now = fresh.metadata().and_then(|known| known.modified());
    for entry in entries.flatten() {
        let name = entry.file_name();
        let name = name.to_string_lossy();
        if !(name.starts_with(prefix) && name.ends_with(UNFINISHED)) {
            continue;
        }
        let written = entry.metadata().and_then(|known| known.modified());
        let is_old = match (&now, written) {
            (Ok(now), Ok(written)) => now
                .duration_since(written)
                .is_ok_and(|age| age >= ABANDONED),
            _ => false,
        };
        let file = OpenOptions::new().write(true).open(entry.path());
        if is_old && file.is_ok_and(|file| file.try_lock().is_ok()) {
            // One that can't be removed does no harm.
            let _ = std::fs::remove_file(entry.path());
        }
    }
}

/// The most links in a row that are followed.
const MOST_LINKS: usize = 32;

/// The file that a path leads to, whether it is there or not.
fn followed(path: &Path) -> io::Result<PathBuf> {
    let mut place = path.to_owned();
    for _ in 0..MOST_LINKS {
        if !place.is_symlink() {
            return Ok(place);
        }
        let target = place.read_link()?;
        place = place.parent().unwrap_or(Path::new("")).join(target);
    }
    let text = "the links lead in a circle";
    Err(io::Error::other(text))
}

/// An output of several files that nobody else writes for as long as this is there.
pub(crate) struct OutputLock {
    path: PathBuf,
    _file: File,
}

impl OutputLock {
    /// Waits until nobody else writes the output.
    pub(crate) fn of(output: &Path) -> Result<Self, CliError> {
        let failed = |error: io::Error| CliError::Write(output.to_owned(), error);
        let place = followed(output).map_err(failed)?;
        if !folder_of(&place).is_dir() {
            let folder = folder_of(&place).to_owned();
            return Err(CliError::NoFolder(output.to_owned(), folder));
        }
        let path = folder_of(&place).join(format!("{}.lock", own_prefix(&place)));
        loop {
            let file = OpenOptions::new()
                .write(true)
                .create(true)
                .truncate(false)
                .open(&path)
                .map_err(failed)?;
            file.lock().map_err(failed)?;
            // Whoever had it may have taken it away since it was opened.
            if is_at(&file, &path) {
                return Ok(Self { path, _file: file });
            }
        }
    }
}

impl Drop for OutputLock {
    fn drop(&mut self) {
        // One that stays does no harm.
        let _ = std::fs::remove_file(&self.path);
    }
}

/// Returns whether an open file is the one that a path leads to.
#[cfg(unix)]
fn is_at(file: &File, path: &Path) -> bool {
    use std::os::unix::fs::MetadataExt;
    let number = |known: Metadata| (known.dev(), known.ino());
    let (open, there) = (file.metadata().map(number), path.metadata().map(number));
    matches!((open, there), (Ok(open), Ok(there)) if open == there)
}

/// Elsewhere a file that is open stays at its path.
#[cfg(not(unix))]
fn is_at(_: &File, path: &Path) -> bool {
    path.exists()
}
