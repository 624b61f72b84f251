//! Lines → places of glyphs.
//!
//! In: shaped runs and the ends of lines. Out: glyphs, clusters and
//! lines in their places, with what is put in and left out.

pub(in crate::text) mod align;
pub(in crate::text) mod attach;
pub(in crate::text) mod insertions;
pub(in crate::text) mod placing;
pub(in crate::text) mod segments;
