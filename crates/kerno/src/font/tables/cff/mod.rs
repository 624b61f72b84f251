//! `CFF `: PostScript outlines, version 1 (Adobe Technical Note 5176), with
//! Type 2 charstrings (Note 5177).

mod charset;
mod charstring;
mod dict;
mod index;

use std::ops::Range;

use self::charset::Charset;
use self::charstring::Interpreter;
use self::dict::{Dict, operator};
use self::index::Index;
use super::Directory;
use crate::base::Limits;
use crate::font::outline::Path;
use crate::font::table::Table;
use crate::font::{FontError, GlyphId, Tag};

const TAG: Tag = Tag::new(b"CFF ");

/// What opening the table has learned. Places are bytes from its start.
pub(in crate::font) struct CffOutlines {
    range: Range<usize>,
    charstrings: Index,
    global_subrs: Index,
    charset: Charset,
    fonts: Fonts,
}

/// Where a glyph's local subroutines are.
enum Fonts {
    /// One font: the same for all glyphs.
    One(Option<Index>),
    /// CID-keyed: an array of fonts, and which of them each glyph belongs to.
    Many { array: Index, select: usize },
}

impl CffOutlines {
    pub(in crate::font) fn read(directory: &Directory, bytes: &[u8]) -> Result<Self, FontError> {
        let cff = directory.required(bytes, b"CFF ")?;
        let major = cff.u8(0)?;
        if major != 1 {
            return Err(cff.bad(0, "major", major.into(), "it must be 1"));
        }
        let names = Index::read(&cff, usize::from(cff.u8(2)?))?;
        let tops = Index::read(&cff, names.end)?;
        let strings = Index::read(&cff, tops.end)?;
        let global_subrs = Index::read(&cff, strings.end)?;
        let top = Dict::new(&cff, tops.range(&cff, 0)?);
        if let Some(kind) = top.number(operator::CHARSTRING_TYPE)?
            && kind != 2
        {
            return Err(cff.bad(tops.end, "CharstringType", kind.into(), "only 2 is read"));
        }
        let Some(at) = top.offset(operator::CHAR_STRINGS)? else {
            return Err(cff.bad(tops.end, "CharStrings", 0, "the Top DICT must have it"));
        };
        let charstrings = Index::read(&cff, at)?;
        let fonts = match (
            top.offset(operator::FD_ARRAY)?,
            top.offset(operator::FD_SELECT)?,
        ) {
            (Some(array), Some(select)) => Fonts::Many {
                array: Index::read(&cff, array)?,
                select,
            },
            _ => Fonts::One(local_subrs(&cff, &top)?),
        };
        Ok(Self {
            range: directory.range(bytes, b"CFF ").unwrap_or_default(),
            charstrings,
            global_subrs,
            charset: Charset::at(top.offset(operator::CHARSET)?.unwrap_or(0)),
            fonts,
        })
    }

    fn table<'a>(&self, bytes: &'a [u8]) -> Table<'a> {
        Table::new(TAG, &bytes[self.range.clone()])
    }

    /// Draws a glyph, in font units.
    pub(in crate::font) fn draw(
        &self,
        bytes: &[u8],
        glyph: GlyphId,
        limits: &Limits,
        path: &mut impl Path,
    ) -> Result<(), FontError> {
        if usize::from(glyph.0) >= self.charstrings.count {
            let count = self.charstrings.count.min(usize::from(u16::MAX)) as u16;
            return Err(FontError::NoSuchGlyph { glyph, count });
        }
        Interpreter::new(self, self.table(bytes), glyph, limits, path).run()
    }

    /// The local subroutines of a glyph.
    fn subrs_of(&self, cff: &Table<'_>, glyph: GlyphId) -> Result<Option<Index>, FontError> {
        let (array, select) = match &self.fonts {
            Fonts::One(subrs) => return Ok(*subrs),
            Fonts::Many { array, select } => (array, *select),
        };
        let font = selected_font(cff, select, glyph)?;
        let dict = Dict::new(cff, array.range(cff, font)?);
        local_subrs(cff, &dict)
    }
}

/// The subroutines of a font's Private DICT, where it has any.
fn local_subrs(cff: &Table<'_>, font: &Dict<'_>) -> Result<Option<Index>, FontError> {
    let Some((size, at)) = font.private()? else {
        return Ok(None);
    };
    let private = Dict::new(cff, at..at.saturating_add(size));
    // Counted from the start of the Private DICT.
    match private.offset(operator::SUBRS)? {
        Some(subrs) => Index::read(cff, at.saturating_add(subrs)).map(Some),
        None => Ok(None),
    }
}

/// `FDSelect`, formats 0 and 3: which font of the array a glyph belongs to.
fn selected_font(cff: &Table<'_>, at: usize, glyph: GlyphId) -> Result<usize, FontError> {
    let glyph = usize::from(glyph.0);
    match cff.u8(at)? {
        0 => cff.u8(at + 1 + glyph).map(usize::from),
        3 => {
            let ranges = usize::from(cff.u16(at + 1)?);
            let range_at = |range: usize| at + 3 + range * 3;
            // The last range that does not begin after the glyph.
            let (mut low, mut high) = (0, ranges);
            while low < high {
                let middle = low.midpoint(high);
                if usize::from(cff.u16(range_at(middle))?) <= glyph {
                    low = middle + 1;
                } else {
                    high = middle;
                }
            }
            let range = low
                .checked_sub(1)
                .ok_or_else(|| cff.bad(at, "FDSelect", glyph as i64, "no range holds the glyph"))?;
            cff.u8(range_at(range) + 2).map(usize::from)
        }
        format => Err(cff.bad(at, "FDSelect format", format.into(), "it must be 0 or 3")),
    }
}
