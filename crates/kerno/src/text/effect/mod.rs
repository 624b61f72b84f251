//! Effects: the layers of a letter's look.
//!
//! What goes in: an [`Effect`] of a style and the scale it is drawn at. What comes out: an
//! [`EffectLayer`], which picture of the glyph is drawn, where and in which colour. A kind
//! of effect is a file here with an [`EffectKind`] of its own.

mod fill;
mod layers;
mod outline;

pub use fill::Fill;
pub use layers::{Effect, EffectLayer};
pub(crate) use layers::{EffectKind, Letter};
pub use outline::LetterOutline;
