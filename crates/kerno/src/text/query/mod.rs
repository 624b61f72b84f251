//! Questions to a text that is laid out: carets and hits, plates, lines along letters.

pub(in crate::text) mod caret;
pub(in crate::text) mod plate;
pub(in crate::text) mod rules;
pub(in crate::text) mod words;
