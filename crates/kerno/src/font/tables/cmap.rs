//! `cmap`: characters to glyphs, formats 4 and 12.

use std::borrow::Cow;
use std::ops::Range;

use super::Directory;
use crate::font::table::Table;
use crate::font::{FaceNote, FontError, GlyphId, Tag};

/// The subtable in use.
pub(in crate::font) struct CharMap {
    /// From the subtable's first byte to the end of `cmap`: the stated length
    /// of format 4 is 16-bit and too small in some real fonts.
    range: Range<usize>,
    format: Format,
}

enum Format {
    /// Segments of the Basic Multilingual Plane; how many.
    Segments(usize),
    /// Groups over all of Unicode; how many.
    Groups(usize),
}

/// A run of characters: `start..=end`, in code point order.
type Run = (u32, u32);

impl CharMap {
    /// Picks the widest Unicode subtable that we can read. A face without one
    /// has glyphs, but no characters; a note says so.
    pub(in crate::font) fn read(
        directory: &Directory,
        bytes: &[u8],
        notes: &mut Vec<FaceNote>,
    ) -> Result<Option<Self>, FontError> {
        let mut note = |text: &'static str| {
            notes.push(FaceNote {
                table: Tag::new(b"cmap"),
                text: Cow::Borrowed(text),
            });
        };
        let Some(range) = directory.range(bytes, b"cmap") else {
            note("the font maps no characters: the table is missing");
            return Ok(None);
        };
        let cmap = Table::new(Tag::new(b"cmap"), &bytes[range.clone()]);
        let mut best: Option<(u8, usize)> = None;
        for record in 0..usize::from(cmap.u16(2)?) {
            let at = 4 + record * 8;
            let rank = match (cmap.u16(at)?, cmap.u16(at + 2)?) {
                (3, 10) => 4,
                (0, 4 | 6) => 3,
                (3, 1) => 2,
                (0, 0..=3) => 1,
                _ => continue,
            };
            let offset = cmap.u32(at + 4)? as usize;
            let is_read = matches!(cmap.from(offset)?.u16(0)?, 4 | 12);
            if is_read && best.is_none_or(|(other, _)| other < rank) {
                best = Some((rank, offset));
            }
        }
        let Some((_, offset)) = best else {
            note("the font maps no Unicode characters in format 4 or 12");
            return Ok(None);
        };
        let subtable = cmap.from(offset)?;
        let format = match subtable.u16(0)? {
            4 => {
                let segments = usize::from(subtable.u16(6)? / 2);
                // Four arrays and a pad between the first two.
                subtable.slice(14, segments * 8 + 2)?;
                Format::Segments(segments)
            }
            _ => {
                let groups = subtable.u32(12)? as usize;
                subtable.slice(16, groups.saturating_mul(12))?;
                Format::Groups(groups)
            }
        };
        Ok(Some(Self {
            range: range.start + offset..range.end,
            format,
        }))
    }

    pub(in crate::font) fn glyph(&self, bytes: &[u8], character: char) -> Option<GlyphId> {
        let map = &bytes[self.range.clone()];
        let code = u32::from(character);
        // The first run that does not end before the character.
        let (mut low, mut high) = (0, self.run_count());
        while low < high {
            let middle = low.midpoint(high);
            if self.run_end(map, middle)? < code {
                low = middle + 1;
            } else {
                high = middle;
            }
        }
        if low == self.run_count() {
            return None;
        }
        self.glyph_in(map, low, code)
    }

    /// Every mapped character in order. Runs that overlap an earlier one (the
    /// standard forbids them) are cut, so the work is bounded by Unicode's size.
    pub(in crate::font) fn characters<'a>(
        &'a self,
        bytes: &'a [u8],
    ) -> impl Iterator<Item = (char, GlyphId)> + 'a {
        let map = &bytes[self.range.clone()];
        let mut next = 0;
        (0..self.run_count())
            .map_while(move |run| self.run(map, run).map(|codes| (run, codes)))
            .flat_map(move |(run, (start, end))| {
                let start = start.max(next);
                let end = end.min(u32::from(char::MAX));
                next = next.max(end + 1);
                (start..=end).filter_map(move |code| {
                    Some((char::from_u32(code)?, self.glyph_in(map, run, code)?))
                })
            })
    }

    fn run_count(&self) -> usize {
        match self.format {
            Format::Segments(count) | Format::Groups(count) => count,
        }
    }

    fn run_end(&self, map: &[u8], run: usize) -> Option<u32> {
        match self.format {
            Format::Segments(_) => word(map, 14 + run * 2).map(u32::from),
            Format::Groups(_) => long(map, 16 + run * 12 + 4),
        }
    }

    fn run(&self, map: &[u8], run: usize) -> Option<Run> {
        let start = match self.format {
            Format::Segments(count) => word(map, 16 + count * 2 + run * 2).map(u32::from),
            Format::Groups(_) => long(map, 16 + run * 12),
        };
        Some((start?, self.run_end(map, run)?))
    }

    /// The glyph of a character that the run may hold.
    fn glyph_in(&self, map: &[u8], run: usize, code: u32) -> Option<GlyphId> {
        let (start, _) = self.run(map, run)?;
        let step = code.checked_sub(start)?;
        let glyph = match self.format {
            Format::Segments(count) => segment_glyph(map, count, run, code, step)?,
            Format::Groups(_) => {
                u16::try_from(long(map, 16 + run * 12 + 8)?.checked_add(step)?).ok()?
            }
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
        offset => match word(map, own_place + offset + step as usize * 2)? {
            0 => Some(0),
            glyph => Some(glyph.wrapping_add(delta)),
        },
    }
}

fn word(map: &[u8], at: usize) -> Option<u16> {
    let bytes = map.get(at..)?.first_chunk::<2>()?;
    Some(u16::from_be_bytes(*bytes))
}

fn long(map: &[u8], at: usize) -> Option<u32> {
    let bytes = map.get(at..)?.first_chunk::<4>()?;
    Some(u32::from_be_bytes(*bytes))
}
