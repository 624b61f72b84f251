//! Glyphs and sprites ahead of time: a manifest → a [`Pack`](crate::Pack).
//!
//! In: a [`Manifest`], which names faces, sizes, characters and sprites.
//! Out: a [`Bake`], pages with every picture and where each is; written
//! as one `.kpack` (`docs/pack.md`) or as JSON and PNGs (`docs/atlas-json.md`), and
//! told in a [`Report`]. At run time a [`Pack`](crate::Pack) gives faces, and an atlas that has
//! their pictures already.

mod baked;
mod charset;
mod describe;
mod error;
mod fonts;
mod inputs;
mod json;
mod manifest;
mod pages;
mod pictures;
mod report;
mod sheet;
mod to_pack;

pub use baked::Bake;
use baked::{Owner, Share};
pub use error::BakeError;
pub use json::JsonFiles;
#[cfg(feature = "schemas")]
pub(crate) use manifest::file_schema;
pub use manifest::{Manifest, OutputForm, add_sprites, add_sprites_through};
pub use report::{CharsetUse, FeatureUse, FontUse, PageUse, PictureUse, Report};
pub use sheet::NamedSlot;
