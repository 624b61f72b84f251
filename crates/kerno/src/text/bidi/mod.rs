//! Embedding levels (UAX #9, “Unicode Bidirectional Algorithm”).
//!
//! In: a text, and the direction it is to have. Out: the level of each
//! of its paragraphs and of each of its characters, up to rule L1 but for what stands at
//! the end of a line; even levels run from left to right, odd ones from right to left.

mod explicit;
mod levels;
mod neutral;
mod paragraphs;
mod sequences;
#[cfg(test)]
mod tests;
mod weak;

use levels::{Character, direction_of};
pub(super) use levels::{Levels, goes_with_paragraph};
pub(super) use paragraphs::Paragraph;
