//! Font files: bytes → [`Face`].
//!
//! In: the bytes of a font, of outlines or of bitmaps, or a picture
//! sheet. Out: metrics, character map, kerning, names and outlines, all
//! in font units (y up); a bitmap's pixels become squares. The room knows nothing
//! of pages or text.
//!
//! Opening a face reads the table directory and the fixed-size headers; every
//! glyph, character and pair is read from the bytes when asked for.

mod bitmap;
mod color;
mod encodings;
mod error;
mod extent;
mod face;
mod grid;
mod lazy_cells;
mod lazy_pages;
mod metrics;
mod picture;
mod shaping;
#[cfg(feature = "files")]
mod sheet;
#[cfg(feature = "bake")]
mod subset;
mod synthesis;
mod table;
mod tables;
mod zones;

pub use color::Palette;
pub(crate) use color::{Brush, ColorGlyph, CompositeMode, OuterClip, PaintStep};
pub use error::{FontError, TableFault};
pub use face::{Axis, ColorFormats, Face, FaceId, FaceNote, GlyphId, NamedInstance};
pub(crate) use face::{FaceParts, GlyphColors};
pub use metrics::{Decoration, FontBounds, Metrics};
pub use picture::GlyphPicture;
pub(crate) use picture::GlyphPictures;
pub(crate) use shaping::{
    Attachment, ChosenLookups, Feature, GlyphRow, Neighbours, RowGlyph, TextKind,
};
pub(crate) use shaping::{FRACTION_FEATURES, USUAL_FEATURES};
#[cfg(feature = "schemas")]
pub(crate) use sheet::sheet_schema;
#[cfg(feature = "bake")]
pub(crate) use subset::{Wanted, subset};
pub use synthesis::Synthesis;
pub use table::Tag;
#[cfg(feature = "installed-fonts")]
pub(crate) use tables::{Directory, assemble, face_count, face_offset, read_name};
pub use tables::{NameId, TableRecord};
pub(crate) use zones::AlignmentZone;
