//! Effects: the layers of a letter's look.
//!
//! In: an [`Effect`] of a style and the scale it is drawn at. Out: an
//! [`EffectLayer`], which picture of the glyph is drawn, where and in which colour. A kind
//! of effect is a file here with an [`EffectKind`] of its own.

mod fill;
mod glow;
mod layers;
mod outline;
mod shadow;

pub use fill::Fill;
pub use glow::Glow;
pub use layers::{Effect, EffectLayer};
pub(crate) use layers::{EffectKind, Fault, Letter};
use layers::{blur_fault, length_fault};
pub use outline::LetterOutline;
pub use shadow::Shadow;
