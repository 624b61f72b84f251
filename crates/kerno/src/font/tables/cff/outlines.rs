//! The table, opened, and its glyphs.

use super::super::Directory;
use super::super::item_variation::VariationRegions;
use super::charset::{Charset, GlyphString};
use super::charstring::Interpreter;
use super::dict::{Dict, operator};
use super::index::Index;
use super::strings::{STANDARD_COUNT, standard_string};
use crate::base::Limits;
use crate::font::table::Table;
use crate::font::{FontError, GlyphId, Tag};
use crate::outline::Contours;
use std::ops::Range;

/// The data of the opened table. Places are bytes from its start.
pub(in crate::font) struct CffOutlines {
    pub(super) tag: Tag,
    pub(super) range: Range<usize>,
    /// 1 or 2.
    pub(super) version: u8,
    pub(super) charstrings: Index,
    pub(super) global_subrs: Index,
    pub(super) charset: Charset,
    /// Names of the font's own; version 1 only.
    pub(super) strings: Option<Index>,
    pub(super) fonts: Fonts,
    /// The variations of the numbers of charstrings along the axes; version 2 only.
    pub(super) variations: Option<VariationRegions>,
}

/// The data of the Private DICT for a glyph's charstring.
#[derive(Clone, Copy, Default)]
pub(super) struct Private {
    pub(super) subrs: Option<Index>,
    pub(super) variation_index: usize,
}

/// The places of the Private DICTs of glyphs.
pub(super) enum Fonts {
    /// One font: the same for all glyphs.
    One(Private),
    /// An array of fonts, and which of them each glyph belongs to: the first
    /// where nothing says so (version 2).
    Many { array: Index, select: Option<usize> },
}

impl CffOutlines {
    /// Opens whichever of the two tables there is; version 2 with the axes at
    /// `places` from -1 to 1.
    pub(in crate::font) fn read(
        directory: &Directory,
        bytes: &[u8],
        places: &[f32],
    ) -> Result<Option<Self>, FontError> {
        if let Some(cff) = directory.table(bytes, b"CFF2") {
            let range = directory.range(bytes, b"CFF2").unwrap_or_default();
            return Self::read_second(&cff, range, places).map(Some);
        }
        let Some(cff) = directory.table(bytes, b"CFF ") else {
            return Ok(None);
        };
        let range = directory.range(bytes, b"CFF ").unwrap_or_default();
        Self::read_first(&cff, range).map(Some)
    }

    pub(super) fn read_first(cff: &Table<'_>, range: Range<usize>) -> Result<Self, FontError> {
        check_major(cff, 1)?;
        let names = Index::read(cff, usize::from(cff.u8(2)?))?;
        let tops = Index::read(cff, names.end)?;
        let strings = Index::read(cff, tops.end)?;
        let global_subrs = Index::read(cff, strings.end)?;
        let top = Dict::new(cff, tops.range(cff, 0)?);
        if let Some(kind) = top.number(operator::CHARSTRING_TYPE)?
            && kind != 2
        {
            return Err(cff.bad(tops.end, "CharstringType", kind.into(), "only 2 is read"));
        }
        let fonts = match (
            top.offset(operator::FD_ARRAY)?,
            top.offset(operator::FD_SELECT)?,
        ) {
            (Some(array), select @ Some(_)) => Fonts::Many {
                array: Index::read(cff, array)?,
                select,
            },
            _ => Fonts::One(read_private(cff, &top, 1)?),
        };
        let is_cid_keyed = top.number(operator::ROS)?.is_some();
        let charset = top.offset(operator::CHARSET)?.unwrap_or(0);
        Ok(Self {
            tag: Tag::new(b"CFF "),
            range,
            version: 1,
            charstrings: Index::read(cff, charstrings_of(cff, &top)?)?,
            global_subrs,
            charset: Charset::at(charset, is_cid_keyed),
            strings: Some(strings),
            fonts,
            variations: None,
        })
    }

    pub(super) fn read_second(
        cff: &Table<'_>,
        range: Range<usize>,
        places: &[f32],
    ) -> Result<Self, FontError> {
        check_major(cff, 2)?;
        let top_at = usize::from(cff.u8(2)?);
        let top_end = top_at + usize::from(cff.u16(3)?);
        let top = Dict::new(cff, top_at..top_end);
        let Some(array) = top.offset(operator::FD_ARRAY)? else {
            return Err(cff.bad(top_at, "FDArray", 0, "the Top DICT must have it"));
        };
        // The length of the store stands before it.
        let store = top.offset(operator::VARIATION_STORE)?;
        let store = store.map(|at| VariationRegions {
            store: at.saturating_add(2),
            places: places.to_vec(),
        });
        Ok(Self {
            tag: Tag::new(b"CFF2"),
            range,
            version: 2,
            charstrings: Index::read_long(cff, charstrings_of(cff, &top)?)?,
            global_subrs: Index::read_long(cff, top_end)?,
            charset: Charset::None,
            strings: None,
            fonts: Fonts::Many {
                array: Index::read_long(cff, array)?,
                select: top.offset(operator::FD_SELECT)?,
            },
            variations: store,
        })
    }

    pub(super) fn table<'a>(&self, bytes: &'a [u8]) -> Table<'a> {
        Table::new(self.tag, &bytes[self.range.clone()])
    }

    /// Draws a glyph, in font units.
    pub(in crate::font) fn draw(
        &self,
        bytes: &[u8],
        glyph: GlyphId,
        limits: &Limits,
        into: &mut Contours,
    ) -> Result<(), FontError> {
        if usize::from(glyph.0) >= self.charstrings.count {
            let count = self.charstrings.count.min(usize::from(u16::MAX)) as u16;
            return Err(FontError::NoSuchGlyph { glyph, count });
        }
        Interpreter::new(self, self.table(bytes), glyph, limits, into).run()
    }

    /// The name of a glyph; `None` where the font gives none, or is damaged.
    pub(in crate::font) fn glyph_name(&self, bytes: &[u8], glyph: GlyphId) -> Option<String> {
        let cff = self.table(bytes);
        match self.charset.string_of(&cff, glyph).ok()? {
            GlyphString::None => None,
            GlyphString::Cid(number) => Some(format!("cid{number:05}")),
            GlyphString::Numbered(number) => {
                let Some(own) = number.checked_sub(STANDARD_COUNT) else {
                    return standard_string(number).map(str::to_owned);
                };
                let range = self.strings?.range(&cff, usize::from(own)).ok()?;
                let name = cff.slice(range.start, range.len()).ok()?;
                Some(name.iter().map(|byte| char::from(*byte)).collect())
            }
        }
    }

    /// The data of the Private DICT of a glyph.
    pub(super) fn private_of(&self, cff: &Table<'_>, glyph: GlyphId) -> Result<Private, FontError> {
        let (array, select) = match &self.fonts {
            Fonts::One(private) => return Ok(*private),
            Fonts::Many { array, select } => (array, *select),
        };
        let font = match select {
            Some(select) => selected_font(cff, select, glyph)?,
            None => 0,
        };
        let dict = Dict::new(cff, array.range(cff, font)?);
        read_private(cff, &dict, self.version)
    }
}

pub(super) fn check_major(cff: &Table<'_>, expected: u8) -> Result<(), FontError> {
    match cff.u8(0)? {
        major if major == expected => Ok(()),
        major => Err(cff.bad(
            0,
            "major",
            major.into(),
            if expected == 1 {
                "it must be 1"
            } else {
                "it must be 2"
            },
        )),
    }
}

/// The offset of the charstrings.
pub(super) fn charstrings_of(cff: &Table<'_>, top: &Dict<'_>) -> Result<usize, FontError> {
    top.offset(operator::CHAR_STRINGS)?
        .ok_or_else(|| cff.bad(0, "CharStrings", 0, "the Top DICT must have it"))
}

/// Reads the Private DICT of a font, where it has one.
pub(super) fn read_private(
    cff: &Table<'_>,
    font: &Dict<'_>,
    version: u8,
) -> Result<Private, FontError> {
    let Some((size, at)) = font.private()? else {
        return Ok(Private::default());
    };
    let private = Dict::new(cff, at..at.saturating_add(size));
    // Counted from the start of the Private DICT.
    let subrs = match private.offset(operator::SUBRS)? {
        Some(subrs) if version == 1 => Some(Index::read(cff, at.saturating_add(subrs))?),
        Some(subrs) => Some(Index::read_long(cff, at.saturating_add(subrs))?),
        None => None,
    };
    let index = private.offset(operator::VARIATION_INDEX)?;
    Ok(Private {
        subrs,
        variation_index: index.unwrap_or(0),
    })
}

/// `FDSelect`, formats 0, 3 and (in version 2) 4: which font of the array a glyph
/// belongs to.
pub(super) fn selected_font(
    cff: &Table<'_>,
    at: usize,
    glyph: GlyphId,
) -> Result<usize, FontError> {
    let glyph = usize::from(glyph.0);
    let format = cff.u8(at)?;
    let (ranges, first_range, length) = match format {
        0 => return cff.u8(at + 1 + glyph).map(usize::from),
        3 => (usize::from(cff.u16(at + 1)?), at + 3, 3),
        4 => (cff.u32(at + 1)? as usize, at + 5, 6),
        _ => {
            let expected = "it must be 0, 3 or 4";
            return Err(cff.bad(at, "FDSelect format", format.into(), expected));
        }
    };
    let range_at = |range: usize| first_range.saturating_add(range.saturating_mul(length));
    let first_glyph = |range: usize| match format {
        3 => cff.u16(range_at(range)).map(usize::from),
        _ => cff.u32(range_at(range)).map(|glyph| glyph as usize),
    };
    // The last range that does not begin after the glyph.
    let (mut low, mut high) = (0, ranges);
    while low < high {
        let middle = low.midpoint(high);
        if first_glyph(middle)? <= glyph {
            low = middle + 1;
        } else {
            high = middle;
        }
    }
    let range = low
        .checked_sub(1)
        .ok_or_else(|| cff.bad(at, "FDSelect", glyph as i64, "no range holds the glyph"))?;
    match format {
        3 => cff.u8(range_at(range) + 2).map(usize::from),
        _ => cff.u16(range_at(range) + 4).map(usize::from),
    }
}
