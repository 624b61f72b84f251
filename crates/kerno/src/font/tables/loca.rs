//! `loca`: where in `glyf` each glyph is.

use std::ops::Range;

use super::Directory;
use super::head::read_bounds;
use crate::font::table::Table;
use crate::font::{FontBounds, FontError, GlyphId, Tag};

/// The places of the outlines.
pub(in crate::font) struct GlyphLocations {
    loca: Range<usize>,
    glyf: Range<usize>,
    wide: bool,
    count: u16,
}

impl GlyphLocations {
    pub(in crate::font) fn read(
        directory: &Directory,
        bytes: &[u8],
        wide: bool,
        count: u16,
    ) -> Result<Self, FontError> {
        let range = |tag: &'static [u8; 4]| {
            directory
                .range(bytes, tag)
                .ok_or(FontError::MissingTable(Tag::new(tag)))
        };
        Ok(Self {
            loca: range(b"loca")?,
            glyf: range(b"glyf")?,
            wide,
            count,
        })
    }

    /// Those of a font without any outline.
    pub(in crate::font) fn none(count: u16) -> Self {
        Self {
            loca: 0..0,
            glyf: 0..0,
            wide: false,
            count,
        }
    }

    pub(super) fn glyph_count(&self) -> u16 {
        self.count
    }

    /// The data of one glyph and what is after it; `None` where it has no outline.
    pub(in crate::font) fn glyph<'a>(
        &self,
        bytes: &'a [u8],
        glyph: GlyphId,
    ) -> Result<Option<Table<'a>>, FontError> {
        let Some(range) = self.range(bytes, glyph)? else {
            return Ok(None);
        };
        self.glyf(bytes).from(range.start).map(Some)
    }

    /// The data of one glyph alone; nothing where it has no outline.
    pub(in crate::font) fn data<'a>(
        &self,
        bytes: &'a [u8],
        glyph: GlyphId,
    ) -> Result<&'a [u8], FontError> {
        match self.range(bytes, glyph)? {
            Some(range) => self.glyf(bytes).slice(range.start, range.len()),
            None => Ok(&[]),
        }
    }

    fn glyf<'a>(&self, bytes: &'a [u8]) -> Table<'a> {
        Table::new(Tag::new(b"glyf"), &bytes[self.glyf.clone()])
    }

    /// Range of a glyph in `glyf`; `None` where it has no outline.
    fn range(&self, bytes: &[u8], glyph: GlyphId) -> Result<Option<Range<usize>>, FontError> {
        if glyph.0 >= self.count {
            return Err(FontError::NoSuchGlyph {
                glyph,
                count: self.count,
            });
        }
        if self.loca.is_empty() {
            return Ok(None);
        }
        let loca = Table::new(Tag::new(b"loca"), &bytes[self.loca.clone()]);
        let index = usize::from(glyph.0);
        // Short offsets count words (OpenType `loca`, “Short format”).
        let (start, end) = if self.wide {
            (
                loca.u32(index * 4)? as usize,
                loca.u32(index * 4 + 4)? as usize,
            )
        } else {
            (
                usize::from(loca.u16(index * 2)?) * 2,
                usize::from(loca.u16(index * 2 + 2)?) * 2,
            )
        };
        if start == end {
            return Ok(None);
        }
        if end < start {
            let at = index * if self.wide { 4 } else { 2 };
            return Err(loca.bad(at, "offset", start as i64, "more than the next one"));
        }
        self.glyf(bytes).slice(start, end - start)?;
        Ok(Some(start..end))
    }

    /// The box in the header of a glyph.
    pub(in crate::font) fn bounds(
        &self,
        bytes: &[u8],
        glyph: GlyphId,
    ) -> Result<Option<FontBounds>, FontError> {
        self.glyph(bytes, glyph)?
            .map(|data| read_bounds(&data, 2))
            .transpose()
    }
}
