//! Why a text could not be laid out.

use crate::font::FontError;

/// Why a text could not be laid out.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum TextError {
    /// A number of the style or the options is out of range.
    #[error("{what} is {value}, it must be {expected}")]
    OutOfRange {
        /// Name of the number.
        what: &'static str,
        /// Its value.
        value: f32,
        /// The values that are accepted.
        expected: &'static str,
    },
    /// More text than [`TextLayout::LONGEST`](super::TextLayout::LONGEST).
    #[error("the text has {0} bytes, and at most 16 MiB are laid out at once; lay it out in parts")]
    TooLong(usize),
    /// Some bytes that are to change are no part of the text.
    #[error(
        "bytes {start} to {end} are no part of the text: they must lie in it and not cut a \
         character in two"
    )]
    BadRange {
        /// First byte.
        start: usize,
        /// One past the last byte.
        end: usize,
    },
    /// There is no such span, or it is a sprite.
    #[error("there is no span {0} of text in this layout")]
    NoSuchSpan(usize),
    /// A glyph could not be read.
    #[error(transparent)]
    Font(#[from] FontError),
}

crate::base::debug_in_full!(TextError);

impl TextError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::OutOfRange { .. } => "text-out-of-range",
            Self::TooLong { .. } => "text-too-long",
            Self::BadRange { .. } => "text-bad-range",
            Self::NoSuchSpan { .. } => "text-no-such-span",
            Self::Font(error) => error.code(),
        }
    }
}
