//! Texts that change, and what of them is kept.

pub(in crate::text) mod append;
pub(in crate::text) mod edit;
pub(in crate::text) mod reuse;
