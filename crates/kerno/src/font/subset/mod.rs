//! The part of a font that some characters need.
//!
//! In: a font, glyphs and characters. Out: a font with the outlines of
//! these glyphs and of the components they are made of, with these characters, and with the
//! lookups that touch them. Glyphs keep their numbers; those after the last one are gone.

mod cutting;
mod layout;
mod pairs;
mod subtable;
mod tables;
mod variations;
mod writer;

use cutting::Kept;
pub(crate) use cutting::{Wanted, subset};
