//! Glyph and sprite pictures on shared texture pages.
//!
//! In: faces with glyph numbers, and sprite pictures. Out:
//! a [`Slot`] for each: which page, which texels, and where the picture lies
//! about its origin. Pages come in two kinds, masks of one byte a texel and
//! colour of four, so a renderer binds two texture arrays and draws everything.

mod animation;
mod baked;
mod boxes;
mod changes;
mod drawn;
mod error;
mod eviction;
mod folder;
mod kept;
mod options;
mod packing;
mod pages;
mod pixels;
mod skyline;
mod sprite;
mod sprites;
mod store;

pub use animation::Animation;
pub(crate) use baked::{Baked, BakedGlyph, BakedPage, BakedSprite, BakedStrike};
pub(crate) use boxes::BoxPicture;
pub(crate) use drawn::{DrawnPicture, draw_glyph};
pub use error::AtlasError;
pub(crate) use folder::{frames, numbered, pictures_in};
pub(crate) use kept::KeptId;
pub use options::AtlasOptions;
pub use packing::{Packed, Packing, PackingOptions};
pub(crate) use pages::Grid;
pub use pages::{Page, PageKind, Slot, TexelRect};
pub(crate) use pixels::turned;
pub use skyline::Skyline;
pub(crate) use sprite::{DrawnSprite, Sprite, SpritePicture};
pub use sprite::{Sampling, SliceFill, SpriteId, SpriteOptions};
pub use store::{Atlas, AtlasStatistics};
