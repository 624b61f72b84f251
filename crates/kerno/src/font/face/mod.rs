//! One font in one style.

mod color;
mod deferred;
mod glyphs;
mod identity;
mod opening;
mod parts;
mod shape;
mod strikes;
mod variation;

pub use color::ColorFormats;
use color::FaceColors;
pub(crate) use color::GlyphColors;
pub use identity::FaceId;
pub(super) use opening::FaceData;
pub use opening::{Face, FaceNote, GlyphId};
use opening::{Outlines, Setting};
pub(crate) use parts::FaceParts;
pub use variation::{Axis, NamedInstance};
