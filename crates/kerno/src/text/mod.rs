//! A string with styles → [`TextLayout`]: where every glyph stands, and every
//! measure of it, before anything is drawn and without an atlas.
//!
//! What goes in: text, [`Style`]s, [`LayoutOptions`]. What comes out: glyphs,
//! clusters and lines in design pixels, from the block's top left corner.
//! A style is a value: nothing is current, nothing leaks.

mod align;
mod analysis;
mod attach;
mod bidi;
mod breaking;
mod caret;
mod compose;
mod context;
mod edit;
mod effect;
mod error;
mod ink;
mod insertions;
mod layout;
mod lines;
mod measure;
mod measures;
mod options;
mod owned_span;
mod place;
mod plate;
mod prepared;
mod reuse;
mod rules;
mod scripts;
mod segments;
mod shape;
mod span_record;
mod sprite;
mod style;
mod torn;
mod unicode;

pub use caret::Caret;
pub use context::LayoutContext;
pub use effect::{Effect, EffectLayer, Fill, LetterOutline};
pub use error::TextError;
pub use layout::{Cluster, Line, PlacedGlyph, Resized, Span, SpanContent, TextLayout};
pub use options::{
    Direction, LayoutOptions, LineBreak, Overflow, OverflowWrap, TextAlign, VerticalAlign,
    WhiteSpace, WordBreak, Wrap,
};
pub(crate) use owned_span::OwnedSpan;
pub use plate::Plate;
pub use rules::DecorationLine;
pub(crate) use shape::glyph_or_stand_in;
pub(crate) use sprite::SIGN;
pub use sprite::{InlineSprite, SpriteAlign};
pub use style::{LineHeight, Style};
