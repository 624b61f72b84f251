//! The tables of a font file, one file a table (or a pair that can't be read
//! apart). Each keeps ranges and counts; the bytes are handed in at every call.

mod cff;
mod cmap;
mod directory;
mod fvar;
mod glyf;
mod gvar;
mod head;
mod hmtx;
mod item_variation;
mod kern;
mod layout;
mod loca;
mod name;
mod post;
mod text_encoding;
mod woff;
mod woff2;

pub(super) use cff::{CffOutlines, Used};
pub(super) use cmap::CharMap;
pub use directory::TableRecord;
pub(crate) use directory::{Directory, assemble, face_count, face_offset};
pub(super) use fvar::{AxisRecord, InstanceRecord, normalize, read_axes, read_instances};
pub(super) use gvar::GlyphVariations;
pub(super) use head::{read_head, read_metrics};
pub(super) use hmtx::GlyphMetrics;
pub(super) use item_variation::ItemVariations;
pub(super) use kern::{KernPairs, kern_pairs};
pub(super) use layout::find_lookups;
pub(super) use loca::GlyphLocations;
pub use name::NameId;
pub(crate) use name::read_name;
pub(super) use post::read_glyph_name;
pub(super) use woff::{check_woff, unpack_woff};
pub(super) use woff2::{check_woff2, unpack_woff2};
