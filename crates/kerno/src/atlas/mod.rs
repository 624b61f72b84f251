//! Glyph and sprite pictures on shared texture pages.
//!
//! What goes in: faces with glyph numbers, and sprite pictures. What comes out:
//! a [`Slot`] for each: which page, which texels, and where the picture lies
//! about its origin. Pages come in two kinds, masks of one byte a texel and
//! colour of four, so a renderer binds two texture arrays and draws everything.

mod animation;
mod error;
mod folder;
mod packing;
mod pages;
mod skyline;
mod sprite;
mod store;

pub use animation::Animation;
pub use error::AtlasError;
pub use packing::{Packed, Packing, PackingOptions};
pub use pages::{Page, PageKind, Slot, TexelRect};
pub use skyline::Skyline;
pub(crate) use sprite::SpritePicture;
pub use sprite::{Sampling, SliceFill, SpriteId, SpriteOptions};
pub use store::{Atlas, AtlasOptions, AtlasUse, GlyphSpec};
