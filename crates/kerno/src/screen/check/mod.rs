//! Checks that see a screen before the player does.
//!
//! In: a screen, window sizes, languages. Out: findings, each with the
//! element, the worst case of it, and where in the file it is.

mod contrast;
mod finding;
mod findings;
mod unused;
mod walk;

pub use finding::{CheckOptions, Finding, FindingCase, FindingKind};
