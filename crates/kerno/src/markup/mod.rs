//! Text with names in it → spans and marks; style files; number formats.
//!
//! What goes in: a string with markup and a [`Markup`] of names, mostly from a
//! [`StyleFile`]. What comes out: a [`StyledText`], whose spans
//! [`TextLayout`](crate::TextLayout) lays out and whose marks are the game's. Numbers are
//! written by a [`NumberFormat`].

mod effect_record;
mod number;
mod reading;
mod style_file;

pub(crate) use effect_record::EffectRecord;
pub use number::{NumberError, NumberFormat, NumberOptions, NumberSign};
pub use reading::{Mark, Markup, MarkupError, StyleChange, StyledText};
pub use style_file::{StyleFile, StyleFileError};
