//! A string with styles → [`TextLayout`]: where every glyph stands, and every
//! measure of it, before anything is drawn and without an atlas.
//!
//! In: text, [`Style`]s, [`LayoutOptions`]. Out: glyphs,
//! clusters and lines in design pixels, from the block's top left corner.
//! A style is a value: nothing is current, nothing leaks.
//!
//! The stages, each with its folder: `analysis` (with `bidi`), `shape`, `measure`,
//! `breaking`, `place`; `compose` runs them one after another. Questions to what comes out
//! are in `query`, changes of it in `editing`.

mod analysis;
mod bidi;
mod breaking;
mod compose;
mod context;
mod editing;
mod effect;
mod error;
mod ink;
mod layout;
mod mark;
mod measure;
mod options;
mod owned_span;
mod place;
mod pose;
mod prepared;
mod query;
mod shape;
mod span_record;
mod sprite;
mod style;

pub use context::LayoutContext;
pub use effect::{Effect, EffectLayer, Fill, Glow, LetterOutline, Shadow};
pub use error::TextError;
pub use layout::{Cluster, Line, PlacedGlyph, Resized, Span, SpanContent, TextLayout};
pub use mark::Mark;
pub use options::{
    Direction, LayoutOptions, LineBreak, Overflow, OverflowWrap, TextAlign, VerticalAlign,
    WhiteSpace, WordBreak, Wrap,
};
pub(crate) use owned_span::OwnedSpan;
pub use pose::ClusterPose;
pub use query::caret::Caret;
pub use query::plate::Plate;
pub use query::rules::DecorationLine;
pub(crate) use shape::glyph_or_stand_in;
#[cfg(feature = "screens")]
pub(crate) use shape::unshaped;
pub use shape::unshaped_script;
pub(crate) use sprite::SIGN;
pub use sprite::{InlineSprite, SpriteAlign};
pub use style::{LineHeight, Style};
