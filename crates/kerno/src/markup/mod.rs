//! Text with names in it → spans and marks; style files; number formats.
//!
//! What goes in: a string with markup and a [`Markup`] of names, mostly from a
//! [`StyleFile`]. What comes out: a [`StyledText`], whose spans
//! [`TextLayout`](crate::TextLayout) lays out and whose marks are the game's. Numbers are
//! written by a [`NumberFormat`].

#[cfg(feature = "files")]
mod effect_record;
#[cfg(feature = "files")]
mod effect_text;
#[cfg(feature = "numbers")]
mod number;
mod reading;
#[cfg(feature = "files")]
mod style_file;

#[cfg(feature = "files")]
pub(crate) use effect_record::EffectRecord;
#[cfg(feature = "files")]
pub use effect_text::EffectTextError;
#[cfg(feature = "numbers")]
pub use number::{NumberError, NumberFormat, NumberOptions, NumberSign};
pub use reading::{Mark, Markup, MarkupError, StyleChange, StyledText};
#[cfg(feature = "files")]
pub use style_file::{StyleFile, StyleFileError};
