//! A text before any glyph.
//!
//! In: a text with its spans. Out: clusters, runs of one face, script and
//! direction, and the places where lines may end.

pub(in crate::text) mod analyze;
pub(in crate::text) mod scripts;
pub(in crate::text) mod unicode;
