//! OpenType Layout: the lookups of `GSUB` and `GPOS` on a row of glyphs.
//!
//! In: glyphs in reading order and the features that are wanted. Out:
//! other glyphs, and where they stand, in font units. Which features a
//! script wants, and what text is, is not known here.

mod chosen;
mod closure;
mod context;
mod coverage;
mod definitions;
mod kerning;
mod lookup;
mod neighbours;
mod position;
mod row;
mod substitute;
mod value;

pub(in crate::font) use chosen::LayoutTables;
pub(crate) use chosen::{ChosenLookups, Feature, TextKind};
pub(crate) use closure::{FRACTION_FEATURES, USUAL_FEATURES};
pub(in crate::font) use coverage::{class_of, covered_glyphs};
pub(crate) use neighbours::Neighbours;
pub(crate) use row::{Attachment, GlyphRow, RowGlyph};
