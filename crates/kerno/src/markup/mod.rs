//! Text with names in it → spans and marks; style files; number formats.
//!
//! In: a string with markup and a [`Markup`] of names, mostly from a
//! [`StyleFile`]. Out: a [`StyledText`], whose spans
//! [`TextLayout`](crate::TextLayout) lays out and whose marks are the game's. Numbers are
//! written by a [`NumberFormat`].

#[cfg(feature = "files")]
mod effect_record;
#[cfg(feature = "files")]
mod effect_text;
#[cfg(feature = "numbers")]
mod number;
mod reading;
#[cfg(feature = "screens")]
mod strings;
#[cfg(feature = "files")]
mod style_file;
#[cfg(feature = "screens")]
mod template;
#[cfg(feature = "screens")]
mod text_source;
#[cfg(feature = "screens")]
mod value;

#[cfg(feature = "files")]
pub(crate) use effect_record::EffectRecord;
#[cfg(feature = "files")]
pub use effect_text::EffectTextError;
#[cfg(feature = "numbers")]
pub use number::{NumberError, NumberFormat, NumberOptions, NumberSign};
pub use reading::{Markup, MarkupError, StyleChange, StyledText};
#[cfg(feature = "screens")]
pub use strings::StringTables;
#[cfg(feature = "schemas")]
pub(crate) use strings::string_table_schema;
#[cfg(feature = "screens")]
pub(crate) use strings::{
    Forms, LanguageTable, PSEUDO, chosen, number_language, plural_rules, pseudo,
};
#[cfg(feature = "files")]
pub use style_file::StyleFile;
#[cfg(feature = "schemas")]
pub(crate) use style_file::style_file_schema;
#[cfg(feature = "screens")]
pub(crate) use template::{Formats, PartContent, Template, VALUE, value_text};
#[cfg(feature = "screens")]
pub use text_source::TextSource;
#[cfg(feature = "screens")]
pub use value::{Value, ValueDeclaration};
