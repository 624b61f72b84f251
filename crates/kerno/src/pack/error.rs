//! Why a pack can't be used.

use std::io;
use std::path::PathBuf;

use crate::atlas::AtlasError;
use crate::font::FontError;

/// Why a pack can't be used.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum PackError {
    /// The file could not be read from disk.
    #[error("cannot read the pack “{}”", path.display())]
    Io {
        /// The file.
        path: PathBuf,
        /// The system's error.
        source: io::Error,
    },
    /// The file was read, but something is wrong with the pack in it.
    #[error("the pack “{}”", path.display())]
    InFile {
        /// The file.
        path: PathBuf,
        /// The fault.
        source: Box<PackError>,
    },
    /// The bytes are no pack.
    #[error("not a pack: it does not begin with the signature; `kerno bake` writes packs")]
    NotAPack,
    /// A pack of another version.
    #[error("the pack has version {found}, and this Kerno reads {known}; bake it again")]
    Version {
        /// The version of the pack.
        found: u32,
        /// The version that is read.
        known: u32,
    },
    /// Something that is not as it was written.
    #[error("byte {offset}: {what}; the pack is damaged, bake it again")]
    Damaged {
        /// Place in bytes from the start of the file.
        offset: u64,
        /// The fault there.
        what: String,
    },
    /// A font in the pack.
    #[error("the face “{name}” of the pack")]
    Face {
        /// The name of the face.
        name: String,
        /// The fault.
        source: Box<FontError>,
    },
    /// A name that nothing in the pack has.
    #[error("the pack has no {what} “{name}”{}", did_you_mean(nearest.as_deref()))]
    NoSuch {
        /// The kind of thing asked for: a face, a stack, an animation.
        what: &'static str,
        /// The name asked for.
        name: String,
        /// A name that is nearly the same.
        nearest: Option<String>,
    },
    /// Options that no atlas can have.
    #[error(transparent)]
    Atlas(#[from] AtlasError),
}

crate::base::debug_in_full!(PackError);

impl PackError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::Io { .. } => "pack-io",
            Self::InFile { source, .. } => source.code(),
            Self::NotAPack { .. } => "pack-not-a-pack",
            Self::Version { .. } => "pack-version",
            Self::Damaged { .. } => "pack-damaged",
            Self::Face { .. } => "pack-face",
            Self::NoSuch { .. } => "pack-no-such",
            Self::Atlas(error) => error.code(),
        }
    }
}

fn did_you_mean(nearest: Option<&str>) -> String {
    nearest.map_or_else(String::new, |name| format!("; did you mean “{name}”?"))
}
