//! The manifest: what is to be baked (`docs/manifest.md`).

mod entries;
mod faces;
mod reading;
mod sources;
mod sprites;

#[cfg(feature = "schemas")]
pub(crate) use entries::file_schema;
pub use sprites::{add_sprites, add_sprites_through};

pub(super) use reading::{AnimationPlan, SpritePlan, StrikePlan};
pub use reading::{Manifest, OutputForm};
use reading::{find, sizes};
