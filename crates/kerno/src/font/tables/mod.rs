//! The tables of a font file, one file a table (or a pair that can't be read
//! apart). Each keeps ranges and counts; the bytes are handed in at every call.

mod cff;
mod cmap;
mod directory;
mod glyf;
mod gpos;
mod head;
mod hmtx;
mod kern;
mod loca;
mod name;
mod woff;

pub(super) use cff::{CffOutlines, Path};
pub(super) use cmap::CharMap;
pub use directory::TableRecord;
pub(super) use directory::{Directory, face_count, face_offset};
pub(super) use glyf::GlyphPoints;
pub(super) use gpos::PairLookups;
pub(super) use head::{read_head, read_metrics};
pub(super) use hmtx::GlyphMetrics;
pub(super) use kern::KernPairs;
pub(super) use loca::GlyphLocations;
pub use name::NameId;
pub(super) use name::read_name;
pub(super) use woff::unpack_woff;
