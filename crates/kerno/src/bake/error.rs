//! Why a bake stopped, and why a pack can't be used.

use std::error::Error;
use std::io;
use std::path::PathBuf;

use crate::atlas::AtlasError;
use crate::font::FontError;

/// Why a bake stopped.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum BakeError {
    /// The manifest could not be read.
    #[error("cannot read the manifest “{}”", path.display())]
    Io {
        /// The manifest.
        path: PathBuf,
        /// What the system said.
        source: io::Error,
    },
    /// Something in the manifest, or in a file that it names.
    #[error("{}, line {line}: {problem}", path.display())]
    Line {
        /// The manifest.
        path: PathBuf,
        /// The line, counted from 1.
        line: usize,
        /// What is wrong there.
        problem: String,
        /// What a file said that the line names.
        source: Option<Box<dyn Error + Send + Sync>>,
    },
    /// A manifest that asks for nothing.
    #[error("{} names no [[strikes]] and no [[sprites]]: there is nothing to bake", .0.display())]
    Nothing(PathBuf),
    /// A picture that can't be made or placed.
    #[error("{what}")]
    Picture {
        /// Which glyph or sprite, and at which size.
        what: String,
        /// Why.
        source: Box<AtlasError>,
    },
    /// Output that can't be written as it should.
    #[error("cannot write {what}")]
    Encode {
        /// The part of it.
        what: &'static str,
        /// Why.
        source: Box<dyn Error + Send + Sync>,
    },
    /// More than a pack can hold.
    #[error("{0}")]
    TooMuch(String),
}

crate::base::debug_in_full!(BakeError);

/// Why a pack can't be used.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum PackError {
    /// The file could not be read from disk.
    #[error("cannot read the pack “{}”", path.display())]
    Io {
        /// The file.
        path: PathBuf,
        /// What the system said.
        source: io::Error,
    },
    /// The file was read, but something is wrong with the pack in it.
    #[error("the pack “{}”", path.display())]
    InFile {
        /// The file.
        path: PathBuf,
        /// What is wrong.
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
        /// Where, in bytes from the start of the file.
        offset: u64,
        /// What is wrong there.
        what: String,
    },
    /// A font in the pack.
    #[error("the face “{name}” of the pack")]
    Face {
        /// The name of the face.
        name: String,
        /// What is wrong.
        source: Box<FontError>,
    },
    /// A name that nothing in the pack has.
    #[error("the pack has no {what} “{name}”{}", did_you_mean(nearest.as_deref()))]
    NoSuch {
        /// What was asked for: a face, a stack, an animation.
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

fn did_you_mean(nearest: Option<&str>) -> String {
    nearest.map_or_else(String::new, |name| format!("; did you mean “{name}”?"))
}
