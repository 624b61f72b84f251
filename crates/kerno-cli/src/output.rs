//! Files that are there whole or not at all.

use std::fs::OpenOptions;
use std::io::{self, Read, Write};
use std::path::{Path, PathBuf};

use kerno::base::Image;
use tempfile::NamedTempFile;

use crate::error::CliError;

/// Writes a picture as a PNG.
pub(crate) fn write_png(path: &Path, image: &Image) -> Result<(), CliError> {
    write_file(path, &image.to_png()?)
}

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

/// Reads a text: a file, or standard input where the path is `-`.
pub(crate) fn read_text(path: &Path) -> Result<String, CliError> {
    if path.as_os_str() == "-" {
        let bytes = read_input(MOST_TEXT)?;
        return String::from_utf8(bytes).map_err(|_| CliError::NotUtf8("standard input"));
    }
    std::fs::read_to_string(path).map_err(|error| CliError::Read(path.to_owned(), error))
}

/// Writes a file beside its place first, then moves it there, so that an earlier
/// one stays whole whatever happens. A link is followed, and what is no regular file (a
/// device, a pipe) is written to as it is.
pub(crate) fn write_file(path: &Path, bytes: &[u8]) -> Result<(), CliError> {
    let failed = |error: io::Error| CliError::Write(path.to_owned(), error);
    let place = followed(path).map_err(failed)?;
    if place.metadata().is_ok_and(|known| !known.is_file()) {
        let mut file = OpenOptions::new()
            .write(true)
            .open(&place)
            .map_err(failed)?;
        return file.write_all(bytes).map_err(failed);
    }
    let folder = match place.parent() {
        Some(folder) if !folder.as_os_str().is_empty() => folder,
        _ => Path::new("."),
    };
    if !folder.is_dir() {
        return Err(CliError::NoFolder(path.to_owned(), folder.to_owned()));
    }
    let name = place.file_name().unwrap_or_default().to_string_lossy();
    let prefix = format!(".{name}.");
    remove_abandoned(folder, &prefix);
    let mut file = tempfile::Builder::new()
        .prefix(&prefix)
        .suffix(UNFINISHED)
        .tempfile_in(folder)
        .map_err(failed)?;
    // For as long as it is locked, somebody is writing it.
    file.as_file().lock().map_err(failed)?;
    file.write_all(bytes).map_err(failed)?;
    make_readable(&file).map_err(failed)?;
    file.persist(&place).map_err(|error| failed(error.error))?;
    Ok(())
}

/// The end of the name of a file that is not finished.
const UNFINISHED: &str = ".part";

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

/// Removes unfinished files of a name that nobody writes any more: whoever did was killed.
fn remove_abandoned(folder: &Path, prefix: &str) {
    let Ok(entries) = folder.read_dir() else {
        return;
    };
    for entry in entries.flatten() {
        let name = entry.file_name();
        let name = name.to_string_lossy();
        if !(name.starts_with(prefix) && name.ends_with(UNFINISHED)) {
            continue;
        }
        let file = OpenOptions::new().write(true).open(entry.path());
        if file.is_ok_and(|file| file.try_lock().is_ok()) {
            // One that can't be removed does no harm.
            let _ = std::fs::remove_file(entry.path());
        }
    }
}

/// Temporary files are for their owner only; a picture is for everyone whom
/// the system's defaults would let read it. Those can't be asked for without
/// changing them, so this takes the usual ones.
#[cfg(unix)]
fn make_readable(file: &NamedTempFile) -> io::Result<()> {
    use std::os::unix::fs::PermissionsExt;
    file.as_file()
        .set_permissions(std::fs::Permissions::from_mode(0o644))
}

#[cfg(not(unix))]
fn make_readable(_: &NamedTempFile) -> io::Result<()> {
    Ok(())
}
