//! Why a text could not be laid out.

use crate::font::FontError;

/// Why a text could not be laid out.
#[derive(Debug, thiserror::Error)]
#[non_exhaustive]
pub enum TextError {
    /// A number of the style or the options is out of range.
    #[error("{what} is {value}, it must be {expected}")]
    OutOfRange {
        /// Which number.
        what: &'static str,
        /// What it was.
        value: f32,
        /// What it may be.
        expected: &'static str,
    },
    /// More text than the layout's 32-bit positions can count.
    #[error("the text has {0} bytes; at most 4 GiB can be laid out at once")]
    TooLong(usize),
    /// A glyph could not be read.
    #[error(transparent)]
    Font(#[from] FontError),
}
