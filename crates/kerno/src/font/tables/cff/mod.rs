//! `CFF ` and `CFF2`: PostScript outlines, versions 1 (Adobe Technical Note 5176)
//! and 2 (OpenType `CFF2`), with Type 2 charstrings (Note 5177).

mod charset;
mod charstring;
mod cutting;
mod dict;
mod drawing;
mod index;
mod outlines;
mod strings;

pub(in crate::font) use cutting::Used;
pub(in crate::font) use outlines::CffOutlines;
