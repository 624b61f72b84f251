//! `cmap`: characters to glyphs, every format that a font file still has.

use std::borrow::Cow;
use std::ops::Range;

use crate::font::encodings::MACINTOSH;

use super::Directory;
use crate::base::SharedBytes;
use crate::font::lazy_pages::LazyPages;
use crate::font::table::{Table, long, word};
use crate::font::{FaceNote, FontError, GlyphId, Tag};

const TAG: Tag = Tag::new(b"cmap");

/// The subtables in use.
pub(in crate::font) struct CharMap {
    /// From the subtable's first byte to the end of `cmap`: the stated length
    /// of format 4 is 16-bit and too small in some real fonts.
    range: Range<usize>,
    format: Format,
    encoding: Encoding,
    /// The variation sequences (format 14), likewise.
    variations: Option<Range<usize>>,
    /// Answers to former questions, with all their neighbours; 0 where there is no glyph.
    known: LazyPages,
}

/// The codes that are looked up in pages: all planes that have characters for
/// text. The others (tags, private use) are searched anew each time.
const PAGED: usize = 0x3_0000;

/// The formats of the map from codes to glyphs; each with its number of runs of codes.
#[derive(Clone, Copy)]
enum Format {
    /// 0: one byte a code.
    Bytes,
    /// 4: segments of the Basic Multilingual Plane.
    Segments(usize),
    /// 6: one run of 16-bit codes.
    Trimmed,
    /// 10: one run of 32-bit codes.
    TrimmedLong,
    /// 12: groups over all of Unicode.
    Groups(usize),
    /// 13: groups of which all codes have the same glyph.
    SameGlyph(usize),
}

/// The meaning of the codes of the subtable.
#[derive(Clone, Copy, PartialEq)]
enum Encoding {
    Unicode,
    /// A symbol font of Windows: U+F000 and up stand for the codes from 0.
    Symbol,
    MacRoman,
}

/// The number that a symbol font adds to its codes.
const SYMBOL_BASE: u32 = 0xf000;

impl CharMap {
    /// Picks the subtable that covers most. A face without one that we read has
    /// glyphs, but no characters; a note says so.
    pub(in crate::font) fn read(
        directory: &Directory,
        bytes: &[u8],
        notes: &mut Vec<FaceNote>,
    ) -> Result<Option<Self>, FontError> {
        let mut note = |text: &'static str| {
            notes.push(FaceNote {
                table: TAG,
                text: Cow::Borrowed(text),
            });
        };
        let Some(range) = directory.range(bytes, b"cmap") else {
            note("the font maps no characters: the table is missing");
            return Ok(None);
        };
        let cmap = Table::new(TAG, &bytes[range.clone()]);
        let mut best: Option<(u8, Encoding, usize)> = None;
        let mut variations = None;
        for record in 0..usize::from(cmap.u16(2)?) {
            let at = 4 + record * 8;
            let (platform, own) = (cmap.u16(at)?, cmap.u16(at + 2)?);
            let offset = cmap.u32(at + 4)? as usize;
            let format = cmap.from(offset)?.u16(0)?;
            if (platform, own, format) == (0, 5, 14) {
                variations = Some(range.start + offset..range.end);
            }
            let (rank, encoding) = match (platform, own) {
                (3, 10) => (6, Encoding::Unicode),
                (0, 4 | 6) => (5, Encoding::Unicode),
                (3, 1) => (4, Encoding::Unicode),
                (0, 0..=3) => (3, Encoding::Unicode),
                (3, 0) => (2, Encoding::Symbol),
                (1, 0) => (1, Encoding::MacRoman),
                _ => continue,
            };
            let is_read = matches!(format, 0 | 4 | 6 | 10 | 12 | 13);
            if is_read && best.is_none_or(|(other, ..)| other < rank) {
                best = Some((rank, encoding, offset));
            }
        }
        let Some((_, encoding, offset)) = best else {
            note(
                "the font maps characters in no encoding that is read (Unicode, symbol, Mac Roman)",
            );
            return Ok(None);
        };
        Ok(Some(Self {
            format: Format::read(&cmap.from(offset)?)?,
            range: range.start + offset..range.end,
            encoding,
            variations,
            known: LazyPages::new(PAGED),
        }))
    }

    /// The glyph for a character; the bytes are looked at the first time only.
    #[inline]
    pub(in crate::font) fn glyph(&self, bytes: &SharedBytes, character: char) -> Option<GlyphId> {
        let code = u32::from(character) as usize;
        match self.known.get(code, |first| self.page(bytes, first)) {
            Some(glyph) => (glyph != 0).then_some(GlyphId(glyph)),
            None => self.find(bytes, character),
        }
    }

    /// The glyphs of 256 codes from `first` on.
    fn page(&self, bytes: &[u8], first: usize) -> [u16; 256] {
        let map = &bytes[self.range.clone()];
        let mut run = self.format.first_run_from(map, first as u32).unwrap_or(0);
        let mut glyph = |code: u32| {
            if self.encoding != Encoding::Unicode {
                return self.find(bytes, char::from_u32(code)?);
            }
            // Runs are in order: the next code is in this one or the next.
            while run < self.format.run_count() && self.format.run_end(map, run)? < code {
                run += 1;
            }
            self.format.glyph_in(map, run, code)
        };
        let glyph = |step| glyph((first + step) as u32).map_or(0, |glyph| glyph.0);
        std::array::from_fn(glyph)
    }

    fn find(&self, bytes: &[u8], character: char) -> Option<GlyphId> {
        let map = &bytes[self.range.clone()];
        let code = u32::from(character);
        match self.encoding {
            Encoding::Unicode => self.format.glyph(map, code),
            Encoding::Symbol if code < 0x100 => self
                .format
                .glyph(map, SYMBOL_BASE + code)
                .or_else(|| self.format.glyph(map, code)),
            Encoding::Symbol => self.format.glyph(map, code),
            Encoding::MacRoman => self.format.glyph(map, mac_code(character)?),
        }
    }

    /// Every mapped character in order.
    pub(in crate::font) fn characters(&self, bytes: &SharedBytes) -> Vec<(char, GlyphId)> {
        let map = &bytes[self.range.clone()];
        if self.encoding == Encoding::Unicode {
            return self.format.characters(map);
        }
        // Both other encodings have a few hundred codes.
        let known = |character| Some((character, self.glyph(bytes, character)?));
        let low = (0..=0xff).map(char::from);
        let rest: Vec<char> = match self.encoding {
            Encoding::MacRoman => {
                let upper: Vec<u8> = (0x80..=0xff).collect();
                let upper = MACINTOSH.decode_without_bom_handling(&upper).0;
                let mut rest: Vec<char> = upper.chars().filter(|c| *c > '\u{ff}').collect();
                rest.sort_unstable();
                rest
            }
            _ => self
                .format
                .characters(map)
                .into_iter()
                .map(|(c, _)| c)
                .collect(),
        };
        let rest = rest.into_iter().filter(|character| *character > '\u{ff}');
        low.chain(rest).filter_map(known).collect()
    }

    /// The glyph for a character with a variation selector after it (format
    /// 14), where the font has the sequence.
    pub(in crate::font) fn variant(
        &self,
        bytes: &SharedBytes,
        character: char,
        selector: char,
    ) -> Option<GlyphId> {
        let map = &bytes[self.variations.clone()?];
        let code = u32::from(character);
        let record = search(long(map, 6)? as usize, |record| {
            Some(triple(map, 10 + record * 11)?.cmp(&u32::from(selector)))
        })?;
        let (default, own) = (long(map, 13 + record * 11)?, long(map, 17 + record * 11)?);
        if own != 0 {
            let table = map.get(own as usize..)?;
            let found = search(long(table, 0)? as usize, |entry| {
                Some(triple(table, 4 + entry * 5)?.cmp(&code))
            });
            if let Some(entry) = found {
                return Some(GlyphId(word(table, 7 + entry * 5)?));
            }
        }
        if default == 0 {
            return None;
        }
        let table = map.get(default as usize..)?;
        let range = search(long(table, 0)? as usize, |range| {
            let start = triple(table, 4 + range * 4)?;
            let end = start + u32::from(*table.get(7 + range * 4)?);
            Some(if end < code {
                start.cmp(&code)
            } else {
                start.max(code).cmp(&code)
            })
        });
        range.and_then(|_| self.glyph(bytes, character))
    }
}

/// Binary search by an order that may fall off a damaged table.
fn search(count: usize, order: impl Fn(usize) -> Option<std::cmp::Ordering>) -> Option<usize> {
    let (mut low, mut high) = (0, count);
    while low < high {
        let middle = low.midpoint(high);
        match order(middle)? {
            std::cmp::Ordering::Less => low = middle + 1,
            std::cmp::Ordering::Equal => return Some(middle),
            std::cmp::Ordering::Greater => high = middle,
        }
    }
    None
}

/// The Mac OS Roman code of a character.
fn mac_code(character: char) -> Option<u32> {
    let mut utf8 = [0; 4];
    let (codes, _, is_unmappable) = MACINTOSH.encode(character.encode_utf8(&mut utf8));
    match *codes {
        [code] if !is_unmappable => Some(code.into()),
        _ => None,
    }
}

impl Format {
    /// Checks that the arrays of a subtable are there.
    fn read(subtable: &Table<'_>) -> Result<Self, FontError> {
        Ok(match subtable.u16(0)? {
            0 => {
                subtable.slice(6, 256)?;
                Self::Bytes
            }
            4 => {
                let segments = usize::from(subtable.u16(6)? / 2);
                // Four arrays and a pad between the first two.
                subtable.slice(14, segments * 8 + 2)?;
                Self::Segments(segments)
            }
            6 => {
                subtable.slice(10, usize::from(subtable.u16(8)?) * 2)?;
                Self::Trimmed
            }
            10 => {
                let count = subtable.u32(16)? as usize;
                subtable.slice(20, count.saturating_mul(2))?;
                Self::TrimmedLong
            }
            format => {
                let groups = subtable.u32(12)? as usize;
                subtable.slice(16, groups.saturating_mul(12))?;
                if format == 12 {
                    Self::Groups(groups)
                } else {
                    Self::SameGlyph(groups)
                }
            }
        })
    }

    fn glyph(self, map: &[u8], code: u32) -> Option<GlyphId> {
        let run = self.first_run_from(map, code)?;
        self.glyph_in(map, run, code)
    }

    /// The first run that does not end before a code; there may be none.
    fn first_run_from(self, map: &[u8], code: u32) -> Option<usize> {
        Some(match self {
            Self::Bytes | Self::Trimmed | Self::TrimmedLong => 0,
            Self::Segments(count) => {
                let ends = map.get(14..)?.as_chunks::<2>().0.get(..count)?;
                ends.partition_point(|end| u32::from(u16::from_be_bytes(*end)) < code)
            }
            Self::Groups(count) | Self::SameGlyph(count) => {
                let groups = map.get(16..)?.as_chunks::<12>().0.get(..count)?;
                groups.partition_point(|group| {
                    u32::from_be_bytes([group[4], group[5], group[6], group[7]]) < code
                })
            }
        })
    }

    /// Every mapped code that is a character. Runs that overlap an earlier one
    /// (the standard forbids them) are cut, so the work is bounded by Unicode's
    /// size.
    fn characters(self, map: &[u8]) -> Vec<(char, GlyphId)> {
        let mut found = Vec::new();
        let mut next = 0;
        for run in 0..self.run_count() {
            let Some((start, end)) = self.run(map, run) else {
                break;
            };
            let (start, end) = (start.max(next), end.min(char::MAX.into()));
            next = next.max(end.saturating_add(1));
            found.extend(
                (start..=end).filter_map(|code| {
                    Some((char::from_u32(code)?, self.glyph_in(map, run, code)?))
                }),
            );
        }
        found
    }

    fn run_count(self) -> usize {
        match self {
            Self::Bytes | Self::Trimmed | Self::TrimmedLong => 1,
            Self::Segments(count) | Self::Groups(count) | Self::SameGlyph(count) => count,
        }
    }

    fn run_end(self, map: &[u8], run: usize) -> Option<u32> {
        match self {
            Self::Bytes => Some(0xff),
            Self::Segments(_) => word(map, 14 + run * 2).map(u32::from),
            Self::Trimmed => {
                let (first, count) = (word(map, 6)?, word(map, 8)?);
                (u32::from(first) + u32::from(count)).checked_sub(1)
            }
            Self::TrimmedLong => long(map, 12)?.checked_add(long(map, 16)?)?.checked_sub(1),
            Self::Groups(_) | Self::SameGlyph(_) => long(map, 16 + run * 12 + 4),
        }
    }

    /// First and last code of a run.
    fn run(self, map: &[u8], run: usize) -> Option<(u32, u32)> {
        let start = match self {
            Self::Bytes => 0,
            Self::Segments(count) => u32::from(word(map, 16 + count * 2 + run * 2)?),
            Self::Trimmed => u32::from(word(map, 6)?),
            Self::TrimmedLong => long(map, 12)?,
            Self::Groups(_) | Self::SameGlyph(_) => long(map, 16 + run * 12)?,
        };
        Some((start, self.run_end(map, run)?))
    }

    /// The glyph of a code that the run may hold.
    fn glyph_in(self, map: &[u8], run: usize, code: u32) -> Option<GlyphId> {
        if run >= self.run_count() {
            return None;
        }
        let (start, end) = self.run(map, run)?;
        if code > end {
            return None;
        }
        let step = code.checked_sub(start)?;
        let in_group = |step| u16::try_from(long(map, 16 + run * 12 + 8)?.checked_add(step)?).ok();
        let glyph = match self {
            Self::Bytes => u16::from(*map.get(6 + step as usize)?),
            Self::Segments(count) => segment_glyph(map, count, run, code, step)?,
            Self::Trimmed => word(map, 10 + step as usize * 2)?,
            Self::TrimmedLong => word(map, 20 + step as usize * 2)?,
            Self::Groups(_) => in_group(step)?,
            Self::SameGlyph(_) => in_group(0)?,
        };
        (glyph != 0).then_some(GlyphId(glyph))
    }
}

/// OpenType `cmap`, “Format 4: Segment mapping to delta values”.
fn segment_glyph(map: &[u8], count: usize, run: usize, code: u32, step: u32) -> Option<u16> {
    let deltas = 16 + count * 4;
    let delta = word(map, deltas + run * 2)?;
    // idRangeOffset counts bytes from its own place.
    let own_place = deltas + count * 2 + run * 2;
    match usize::from(word(map, own_place)?) {
        0 => Some((code as u16).wrapping_add(delta)),
        // Some fonts fill the last segment, U+FFFF, with this.
        0xffff => Some(0),
        offset => match word(map, own_place + offset + step as usize * 2)? {
            0 => Some(0),
            glyph => Some(glyph.wrapping_add(delta)),
        },
    }
}

/// A 24-bit number.
fn triple(map: &[u8], at: usize) -> Option<u32> {
    let [high, middle, low] = *map.get(at..)?.first_chunk::<3>()?;
    Some(u32::from_be_bytes([0, high, middle, low]))
}
