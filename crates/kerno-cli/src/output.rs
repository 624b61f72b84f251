//! Files that are there whole or not at all.

use std::io::{self, Write};
use std::path::Path;

use kerno::Image;
use tempfile::NamedTempFile;

use crate::error::CliError;

/// Writes a picture as a PNG.
pub(crate) fn write_png(path: &Path, image: &Image) -> Result<(), CliError> {
    write_file(path, &image.to_png()?)
}

/// Writes a file beside its place first, then moves it there, so that an earlier
/// one stays whole whatever happens.
pub(crate) fn write_file(path: &Path, bytes: &[u8]) -> Result<(), CliError> {
    let folder = match path.parent() {
        Some(folder) if !folder.as_os_str().is_empty() => folder,
        _ => Path::new("."),
    };
    if !folder.is_dir() {
        return Err(CliError::NoFolder(path.to_owned(), folder.to_owned()));
    }
    let failed = |error: io::Error| CliError::Write(path.to_owned(), error);
    let mut file = NamedTempFile::new_in(folder).map_err(failed)?;
    file.write_all(bytes).map_err(failed)?;
    make_readable(&file).map_err(failed)?;
    file.persist(path).map_err(|error| failed(error.error))?;
    Ok(())
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
