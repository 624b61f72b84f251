//! The words of a text.

/// The words of a text.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum TextSource {
    /// A text with markup, the same in all languages.
    Markup(String),
    /// Key of a text in the string tables.
    Key(String),
}
