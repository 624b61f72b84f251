//! Packs: what a bake has made, at run time.
//!
//! In: the bytes of a `.kpack` (`docs/pack.md`), written by a
//! [`Bake`](crate::bake::Bake). Out: a [`Pack`], which gives faces, animations,
//! and an [`Atlas`](crate::Atlas) that has all pictures already.

mod binary;
mod container;
mod description;
mod error;
mod fingerprint;
mod glyphs;
mod loaded;
mod records;
#[cfg(feature = "bake")]
mod values;

pub(crate) use container::{Section, SectionKind, write};
pub(crate) use description::{
    AnimationRecord, Description, FrameRecord, PageRecord, SlotRecord, SpritePictureRecord,
    SpriteRecord, StackRecord,
};
pub use error::PackError;
pub use fingerprint::Fingerprint;
pub(crate) use glyphs::{write_glyph, write_pictures};
pub use loaded::Pack;
pub(crate) use records::{PackedFace, PackedStrike};
#[cfg(feature = "bake")]
pub(crate) use values::{PageKindRecord, SamplingRecord, SliceFillRecord, TreatmentRecord};
