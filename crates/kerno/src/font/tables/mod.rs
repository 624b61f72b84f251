//! The tables of a font file, one file a table (or a pair that can't be read
//! apart). Each keeps ranges and counts; the bytes are handed in at every call.

mod cmap;
mod directory;
mod glyf;
mod head;
mod hmtx;
mod kern;
mod loca;
mod name;

pub(super) use cmap::CharMap;
pub(super) use directory::Directory;
pub use directory::TableRecord;
pub(super) use glyf::GlyphPoints;
pub(super) use head::{read_head, read_metrics};
pub(super) use hmtx::GlyphMetrics;
pub(super) use kern::KernPairs;
pub(super) use loca::GlyphLocations;
pub use name::NameId;
pub(super) use name::read_name;
