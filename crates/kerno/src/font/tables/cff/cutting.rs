//! The part of a table that some glyphs need (Note 5176). Glyphs and subroutines keep their
//! numbers: charstrings and subroutines that nothing needs are empty.

use std::collections::{BTreeMap, BTreeSet};
use std::ops::Range;

use super::charset::{Charset, GlyphString};
use super::charstring::Interpreter;
use super::dict::{Dict, operator};
use super::index::Index;
use super::outlines::{CffOutlines, Fonts, selected_font};
use crate::base::Limits;
use crate::font::table::Table;
use crate::font::{FontError, GlyphId};
use crate::outline::Contours;

/// Subroutines that charstrings call, and glyphs that they are put together from.
#[derive(Default)]
pub(in crate::font) struct Used {
    global: BTreeSet<usize>,
    /// Local ones, by the place of their INDEX.
    local: BTreeMap<usize, BTreeSet<usize>>,
    /// The bases and accents of accented glyphs.
    pub(in crate::font) parts: BTreeSet<GlyphId>,
}

impl Used {
    /// Counts a call of a subroutine, of the global ones or of an INDEX of local ones.
    pub(super) fn call(&mut self, local: Option<&Index>, number: usize) {
        match local {
            None => self.global.insert(number),
            Some(index) => self.local.entry(index.end).or_default().insert(number),
        };
    }
}

impl CffOutlines {
    /// Adds what the charstring of a glyph uses.
    ///
    /// # Errors
    /// [`FontError`] where it is damaged.
    pub(in crate::font) fn find_used(
        &self,
        bytes: &[u8],
        glyph: GlyphId,
        used: &mut Used,
    ) -> Result<(), FontError> {
        let (cff, limits) = (self.table(bytes), Limits::default());
        let mut contours = Contours::default();
        let interpreter = Interpreter::new(self, cff, glyph, &limits, &mut contours);
        interpreter.noting(used).run()
    }

    /// The table with the glyphs that are kept, of the first `count`.
    ///
    /// # Errors
    /// [`FontError`] where what is to be kept is damaged.
    pub(in crate::font) fn cut(
        &self,
        bytes: &[u8],
        kept: &BTreeSet<GlyphId>,
        count: u16,
        used: &Used,
    ) -> Result<Vec<u8>, FontError> {
        let table = self.table(bytes);
        let cutter = Cutter {
            font: self,
            cff: &table,
            is_long: self.version == 2,
        };
        cutter.cut(kept, count, used)
    }
}

struct Cutter<'a> {
    font: &'a CffOutlines,
    cff: &'a Table<'a>,
    /// True in version 2: counts are long, and nothing ends a charstring.
    is_long: bool,
}

/// The places of parts of the new table.
#[derive(Clone, Copy, Default)]
struct Places {
    charset: usize,
    select: usize,
    charstrings: usize,
    /// The array of fonts, or size and place of the one Private DICT.
    array: usize,
    private: (usize, usize),
    store: usize,
}

impl Cutter<'_> {
    fn cut(&self, kept: &BTreeSet<GlyphId>, count: u16, used: &Used) -> Result<Vec<u8>, FontError> {
        // The numbers in it always take five bytes, so that its length is known.
        let top = self.top(Places::default())?;
        let mut start = match self.is_long {
            true => [&[2, 0, 5][..], &(top.len() as u16).to_be_bytes(), &top].concat(),
            false => [
                &[1, 0, 4, 4][..],
                &index([&b"K"[..]], false),
                &index([&top[..]], false),
            ]
            .concat(),
        };
        let top_end = start.len();
        if !self.is_long {
            start.extend(index([], false));
        }
        let global = self.subroutines(&self.font.global_subrs, Some(&used.global))?;
        let mut table = start;
        table.extend(global);
        let mut places = Places::default();
        if let Some(charset) = self.charset(kept, count)? {
            places.charset = table.len();
            table.extend(charset);
        }
        if let Some(select) = self.select(kept, count)? {
            places.select = table.len();
            table.extend(select);
        }
        if let Some(store) = self.store()? {
            places.store = table.len();
            table.extend(store);
        }
        places.charstrings = table.len();
        table.extend(self.charstrings(kept, count)?);
        match &self.font.fonts {
            Fonts::One(_) => {
                let whole = self.first_top()?;
                places.private = self.private(&whole, used, &mut table)?;
            }
            Fonts::Many { array, .. } => {
                let mut fonts = Vec::new();
                for number in 0..array.count {
                    let dict = Dict::new(self.cff, array.range(self.cff, number)?);
                    let private = self.private(&dict, used, &mut table)?;
                    let mut font = self.without(&dict, &[operator::PRIVATE])?;
                    entry(&mut font, operator::PRIVATE, &[private.0, private.1]);
                    fonts.push(font);
                }
                places.array = table.len();
                table.extend(index(fonts.iter().map(Vec::as_slice), self.is_long));
            }
        }
        let top = self.top(places)?;
        table[top_end - top.len()..top_end].copy_from_slice(&top);
        Ok(table)
    }

    /// The Top DICT as it is.
    fn first_top(&self) -> Result<Dict<'_>, FontError> {
        let cff = self.cff;
        let start = usize::from(cff.u8(2)?);
        if self.is_long {
            return Ok(Dict::new(cff, start..start + usize::from(cff.u16(3)?)));
        }
        let names = Index::read(cff, start)?;
        let tops = Index::read(cff, names.end)?;
        Ok(Dict::new(cff, tops.range(cff, 0)?))
    }

    /// The Top DICT with other places. What names strings or what nothing reads is left out.
    fn top(&self, places: Places) -> Result<Vec<u8>, FontError> {
        const UNIQUE_ID: u16 = 13;
        const XUID: u16 = 14;
        const ENCODING: u16 = 16;
        let changed = [
            operator::CHARSET,
            operator::CHAR_STRINGS,
            operator::PRIVATE,
            operator::FD_ARRAY,
            operator::FD_SELECT,
            operator::VARIATION_STORE,
            UNIQUE_ID,
            XUID,
            ENCODING,
        ];
        let mut top = self.without(&self.first_top()?, &changed)?;
        match self.font.charset {
            Charset::None => {}
            Charset::At(_) | Charset::CidAt(_) => {
                entry(&mut top, operator::CHARSET, &[places.charset]);
            }
            Charset::IsoAdobe | Charset::Expert(_) => {
                let own = self.first_top()?.offset(operator::CHARSET)?;
                entry(&mut top, operator::CHARSET, &[own.unwrap_or(0)]);
            }
        }
        entry(&mut top, operator::CHAR_STRINGS, &[places.charstrings]);
        match &self.font.fonts {
            Fonts::One(_) => {
                let (size, at) = places.private;
                entry(&mut top, operator::PRIVATE, &[size, at]);
            }
            Fonts::Many { select, .. } => {
                entry(&mut top, operator::FD_ARRAY, &[places.array]);
                if select.is_some() {
                    entry(&mut top, operator::FD_SELECT, &[places.select]);
                }
            }
        }
        if self.font.variations.is_some() {
            entry(&mut top, operator::VARIATION_STORE, &[places.store]);
        }
        Ok(top)
    }

    /// A DICT without some of its operators.
    fn without(&self, dict: &Dict<'_>, operators: &[u16]) -> Result<Vec<u8>, FontError> {
        let mut made = Vec::new();
        for (operator, range) in dict.entries()? {
            if !operators.contains(&operator) {
                made.extend_from_slice(self.bytes(range)?);
            }
        }
        Ok(made)
    }

    fn bytes(&self, range: Range<usize>) -> Result<&[u8], FontError> {
        self.cff.slice(range.start, range.len())
    }

    /// Adds the Private DICT of a font with its subroutines after it; returns its size and place.
    fn private(
        &self,
        font: &Dict<'_>,
        used: &Used,
        table: &mut Vec<u8>,
    ) -> Result<(usize, usize), FontError> {
        let Some((size, at)) = font.private()? else {
            return Ok((0, table.len()));
        };
        let dict = Dict::new(self.cff, at..at + size);
        let mut private = self.without(&dict, &[operator::SUBRS])?;
        let subrs = match dict.offset(operator::SUBRS)? {
            Some(offset) if self.is_long => Some(Index::read_long(self.cff, at + offset)?),
            Some(offset) => Some(Index::read(self.cff, at + offset)?),
            None => None,
        };
        let called = subrs.as_ref().and_then(|subrs| used.local.get(&subrs.end));
        let subrs = subrs.filter(|_| called.is_some());
        if subrs.is_some() {
            // Right after the DICT, which ends with this entry: five bytes and the operator.
            let length = private.len() + 6;
            entry(&mut private, operator::SUBRS, &[length]);
        }
        let place = (private.len(), table.len());
        table.extend(private);
        if let Some(subrs) = subrs {
            table.extend(self.subroutines(&subrs, called)?);
        }
        Ok(place)
    }

    /// Subroutines of which some are called. Those after the last one are left out, as long as
    /// the numbers of the others are moved by the same bias (Note 5177, section 4.7).
    fn subroutines(
        &self,
        all: &Index,
        called: Option<&BTreeSet<usize>>,
    ) -> Result<Vec<u8>, FontError> {
        let end = called.and_then(BTreeSet::last).map_or(0, |last| last + 1);
        let least = match all.count {
            _ if end == 0 => 0,
            0..1240 => 0,
            1240..33900 => 1240,
            _ => 33900,
        };
        let mut parts: Vec<&[u8]> = Vec::new();
        for number in 0..end.max(least).min(all.count) {
            let is_called = called.is_some_and(|called| called.contains(&number));
            parts.push(match is_called {
                true => self.bytes(all.range(self.cff, number)?)?,
                false => &[],
            });
        }
        Ok(index(parts, self.is_long))
    }

    fn charstrings(&self, kept: &BTreeSet<GlyphId>, count: u16) -> Result<Vec<u8>, FontError> {
        let all = &self.font.charstrings;
        let mut parts: Vec<&[u8]> = Vec::new();
        for glyph in 0..usize::from(count).min(all.count) {
            parts.push(match kept.contains(&GlyphId(glyph as u16)) {
                true => self.bytes(all.range(self.cff, glyph)?)?,
                false => &[],
            });
        }
        Ok(index(parts, self.is_long))
    }

    /// A charset of format 2, where the font has one of its own. The names of glyphs that are gone
    /// follow those before them.
    fn charset(&self, kept: &BTreeSet<GlyphId>, count: u16) -> Result<Option<Vec<u8>>, FontError> {
        if !matches!(self.font.charset, Charset::At(_) | Charset::CidAt(_)) {
            return Ok(None);
        }
        let mut runs: Vec<(u16, u16)> = Vec::new();
        for glyph in (1..count).map(GlyphId) {
            let next = runs
                .last()
                .and_then(|(first, more)| first.checked_add(more + 1));
            let own = match kept.contains(&glyph) || next.is_none() {
                true => self.font.charset.string_of(self.cff, glyph)?,
                false => GlyphString::None,
            };
            let name = match own {
                GlyphString::Numbered(number) | GlyphString::Cid(number) => Some(number),
                GlyphString::None => next,
            };
            match runs.last_mut() {
                Some((_, more)) if name == next && *more < u16::MAX => *more += 1,
                _ => runs.push((name.unwrap_or(0), 0)),
            }
        }
        let mut table = vec![2];
        for (first, more) in runs {
            table.extend(first.to_be_bytes());
            table.extend(more.to_be_bytes());
        }
        Ok(Some(table))
    }

    /// `FDSelect` of format 3, where the font has one. Glyphs that are gone are of the font of those
    /// before them.
    fn select(&self, kept: &BTreeSet<GlyphId>, count: u16) -> Result<Option<Vec<u8>>, FontError> {
        let Fonts::Many {
            select: Some(at), ..
        } = &self.font.fonts
        else {
            return Ok(None);
        };
        let mut ranges: Vec<(u16, usize)> = Vec::new();
        for glyph in kept.iter().filter(|glyph| glyph.0 < count) {
            let font = selected_font(self.cff, *at, *glyph)?;
            if ranges.last().is_none_or(|(_, last)| *last != font) {
                let first = if ranges.is_empty() { 0 } else { glyph.0 };
                ranges.push((first, font));
            }
        }
        let mut table = vec![3];
        table.extend((ranges.len() as u16).to_be_bytes());
        for (first, font) in ranges {
            let Ok(font) = u8::try_from(font) else {
                let expected = "a part of a font has at most 256 fonts in its array";
                return Err(self.cff.bad(*at, "FDSelect", font as i64, expected));
            };
            table.extend(first.to_be_bytes());
            table.push(font);
        }
        table.extend(count.to_be_bytes());
        Ok(Some(table))
    }

    /// The variation store with its length before it (version 2).
    fn store(&self) -> Result<Option<Vec<u8>>, FontError> {
        let Some(at) = self.first_top()?.offset(operator::VARIATION_STORE)? else {
            return Ok(None);
        };
        let length = usize::from(self.cff.u16(at)?);
        Ok(Some(self.bytes(at..at + 2 + length)?.to_vec()))
    }
}

/// An INDEX of parts.
fn index<'a>(parts: impl IntoIterator<Item = &'a [u8]>, is_long: bool) -> Vec<u8> {
    let parts: Vec<&[u8]> = parts.into_iter().collect();
    let count = parts.len() as u32;
    let mut made = match is_long {
        true => count.to_be_bytes().to_vec(),
        false => count.to_be_bytes()[2..].to_vec(),
    };
    if count == 0 {
        return made;
    }
    let total: usize = parts.iter().map(|part| part.len()).sum();
    let size = match total + 1 {
        0..0x100 => 1,
        0x100..0x1_0000 => 2,
        0x1_0000..0x100_0000 => 3,
        _ => 4,
    };
    made.push(size as u8);
    let mut offset = 1_u32;
    let lengths = parts.iter().map(|part| part.len() as u32);
    for length in [0].into_iter().chain(lengths) {
        offset += length;
        made.extend(&offset.to_be_bytes()[4 - size..]);
    }
    made.extend(parts.concat());
    made
}

/// Adds an operator with numbers of five bytes each.
fn entry(dict: &mut Vec<u8>, operator: u16, numbers: &[usize]) {
    for number in numbers {
        dict.push(29);
        dict.extend((*number as u32).to_be_bytes());
    }
    if operator >= 0x0c00 {
        dict.push(12);
    }
    dict.push(operator as u8);
}
