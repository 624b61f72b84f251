//! A string with styles → [`TextLayout`]: where every glyph stands, and every
//! measure of it, before anything is drawn and without an atlas.
//!
//! What goes in: text, [`Style`]s, [`LayoutOptions`]. What comes out: glyphs,
//! clusters and lines in design pixels, from the block's top left corner.
//! A style is a value: nothing is current, nothing leaks.

mod compose;
mod error;
mod layout;
mod style;

pub use error::TextError;
pub use layout::{Cluster, LayoutOptions, Line, PlacedGlyph, Resized, Span, TextAlign, TextLayout};
pub use style::{LineHeight, Style};
