//! Widths: what breaking lines needs to know of shaped runs.
//!
//! In: clusters and shaped glyphs. Out: where the pen is before each
//! cluster, and how wide a line from one place to another would be.

pub(in crate::text) mod line;
pub(in crate::text) mod lines;
pub(in crate::text) mod measures;
pub(in crate::text) mod torn;
