//! Files, as far as they may be read.

use std::fs::File;
use std::io::{self, Read};
use std::path::Path;

/// Reads a regular file of at most `most` bytes: a device or a pipe may have no end, and
/// a file with holes may claim any size.
pub(crate) fn read_file(path: &Path, most: u64) -> io::Result<Vec<u8>> {
    let refuse = |kind, text: String| Err(io::Error::new(kind, text));
    // Asked before it is opened: opening a pipe waits for its other end.
    let known = std::fs::metadata(path)?;
    if known.is_dir() {
        return refuse(
            io::ErrorKind::IsADirectory,
            "it is a folder, not a file".to_owned(),
        );
    }
    if !known.is_file() {
        let text = "it is not a regular file; copy what it holds to a file first";
        return refuse(io::ErrorKind::InvalidInput, text.to_owned());
    }
    let too_large = |bytes: u64| {
        let text = format!(
            "it has {bytes} bytes, more than the {most} that are read; raise Limits::file_bytes if it is trusted"
        );
        refuse(io::ErrorKind::FileTooLarge, text)
    };
    if known.len() > most {
        return too_large(known.len());
    }
    let mut bytes = Vec::with_capacity(known.len() as usize);
    File::open(path)?.take(most + 1).read_to_end(&mut bytes)?;
    if bytes.len() as u64 > most {
        return too_large(bytes.len() as u64);
    }
    Ok(bytes)
}

/// As [`read_file`], for text in UTF-8.
pub(crate) fn read_text(path: &Path, most: u64) -> io::Result<String> {
    let bytes = read_file(path, most)?;
    String::from_utf8(bytes).map_err(|error| {
        let byte = error.utf8_error().valid_up_to();
        let text = format!("it is not UTF-8 from byte {byte} on; save it as UTF-8");
        io::Error::new(io::ErrorKind::InvalidData, text)
    })
}
