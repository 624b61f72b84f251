//! The fonts installed on this system: found by family, weight, width and style.
//!
//! In: folders. Out: a list of faces, and of these the one
//! that CSS Fonts would take for a wish, never one of another family.

mod folders;
mod list;
mod query;
mod skim;

pub use list::{InstalledFace, InstalledFonts, Slant};
pub use query::{FaceQuery, LookupError};
