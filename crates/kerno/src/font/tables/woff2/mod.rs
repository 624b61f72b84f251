//! WOFF 2 (W3C “WOFF File Format 2.0”): OpenType fonts whose tables are packed together, some
//! of them rewritten before.
//!
//! In: the file. Out: an OpenType font, or a collection of them. The
//! directory says what there is (`directory`); `glyf` and `loca` (`glyphs`) and `hmtx`
//! (`metrics`) are put together again from streams of numbers (`stream`).

mod directory;
mod glyphs;
mod metrics;
mod stream;
mod unpacking;

use crate::font::table::Table;
use crate::font::{FontError, Tag};
pub(in crate::font) use unpacking::{check_woff2, unpack_woff2};

/// The table that faults of the file itself are told of.
const TAG: Tag = Tag::new(b"wOF2");

/// A fault of the file.
fn fault(what: &'static str, value: usize, expected: &'static str) -> FontError {
    Table::new(TAG, &[]).bad(0, what, value as i64, expected)
}
