//! `kern`: pairs of glyphs that stand closer or farther. Version 0 as in OpenType,
//! formats 0 and 2; version 1 as in Apple's TrueType Reference Manual, format 3 as
//! well.

use std::borrow::Cow;
use std::ops::Range;

use super::Directory;
use crate::font::table::{Table, word};
use crate::font::{FaceNote, FontError, GlyphId, Tag};

/// Coverage bits of a subtable (OpenType `kern`).
mod coverage {
    pub(super) const HORIZONTAL: u16 = 0x0001;
    pub(super) const MINIMUM: u16 = 0x0002;
    pub(super) const CROSS_STREAM: u16 = 0x0004;
    pub(super) const OVERRIDE: u16 = 0x0008;
}

#[derive(Clone, Copy)]
enum Format {
    Pairs,
    /// With how long the header of the subtable is.
    Classes(usize),
    SmallClasses,
}

/// Length of one pair: two glyphs and a value.
const PAIR: usize = 6;

/// The pair lists in use, in the order of the file.
pub(in crate::font) struct KernPairs(Vec<PairList>);

struct PairList {
    format: Format,
    /// Format 0: the pairs, sorted by left then right glyph. Otherwise the
    /// subtable, from its header on, to the end of the table.
    range: Range<usize>,
    /// A pair found here replaces what earlier lists said.
    overrides: bool,
}

impl KernPairs {
    /// Finds the pair lists. Kerning is a nicety: what is not understood is
    /// noted, not refused.
    pub(in crate::font) fn read(
        directory: &Directory,
        bytes: &[u8],
        notes: &mut Vec<FaceNote>,
    ) -> Result<Self, FontError> {
        let mut lists = Vec::new();
        let mut note = |text: &'static str| {
            notes.push(FaceNote {
                table: Tag::new(b"kern"),
                text: Cow::Borrowed(text),
            });
        };
        let Some(range) = directory.range(bytes, b"kern") else {
            return Ok(Self(lists));
        };
        let kern = Table::new(Tag::new(b"kern"), &bytes[range.clone()]);
        if kern.u16(0)? == 1 {
            return Self::read_apple(&kern, range, note);
        }
        let count = kern.u16(2)?;
        let mut at = 4;
        for _ in 0..count {
            let length = usize::from(kern.u16(at + 2)?);
            let flags = kern.u16(at + 4)?;
            let horizontal =
                flags & (coverage::HORIZONTAL | coverage::CROSS_STREAM) == coverage::HORIZONTAL;
            let mut step = length;
            let overrides = flags & coverage::OVERRIDE != 0;
            if !horizontal || flags & coverage::MINIMUM != 0 {
                note("vertical, cross-stream and minimum kerning is not applied");
            } else if flags >> 8 == 0 {
                // nPairs counts, not the length: that is 16-bit and wraps in
                // real fonts with more than 10,920 pairs.
                let pairs = usize::from(kern.u16(at + 6)?) * PAIR;
                kern.slice(at + 14, pairs)?;
                let start = range.start + at + 14;
                lists.push(PairList {
                    format: Format::Pairs,
                    range: start..start + pairs,
                    overrides,
                });
                step = step.max(14 + pairs);
            } else if flags >> 8 == 2 {
                kern.slice(at, 14)?;
                lists.push(PairList {
                    format: Format::Classes(6),
                    range: range.start + at..range.end,
                    overrides,
                });
            } else {
                note("a subtable of another format than 0 and 2 is not read");
            }
            at += step.max(6);
        }
        Ok(Self(lists))
    }

    /// The header of version 1 and of its subtables: longer, with other bits.
    fn read_apple(
        kern: &Table<'_>,
        range: Range<usize>,
        mut note: impl FnMut(&'static str),
    ) -> Result<Self, FontError> {
        let mut lists = Vec::new();
        let mut at = 8;
        for _ in 0..kern.u32(4)? {
            let (length, flags) = (kern.u32(at)? as usize, kern.u16(at + 4)?);
            let start = range.start + at;
            let (format, range) = match flags & 0xff {
                // Vertical, cross-stream or of a variation.
                _ if flags & 0xe000 != 0 => {
                    note("vertical, cross-stream and varying kerning is not applied");
                    at += length.max(8);
                    continue;
                }
                0 => {
                    let pairs = usize::from(kern.u16(at + 8)?) * PAIR;
                    kern.slice(at + 16, pairs)?;
                    (Format::Pairs, start + 16..start + 16 + pairs)
                }
                2 => (Format::Classes(8), start..range.end),
                3 => (Format::SmallClasses, start..range.end),
                _ => {
                    note("contextual kerning (a subtable of format 1) is not read");
                    at += length.max(8);
                    continue;
                }
            };
            lists.push(PairList {
                format,
                range,
                overrides: false,
            });
            at += length.max(8);
        }
        Ok(Self(lists))
    }

    pub(in crate::font) fn is_empty(&self) -> bool {
        self.0.is_empty()
    }

    pub(in crate::font) fn pair(&self, bytes: &[u8], left: GlyphId, right: GlyphId) -> i32 {
        let mut total = 0;
        for list in &self.0 {
            let bytes = &bytes[list.range.clone()];
            let found = match list.format {
                Format::Pairs => value_of_pair(bytes, left, right),
                Format::Classes(header) => value_of_classes(bytes, header, left, right),
                Format::SmallClasses => value_of_small_classes(bytes, left, right),
            };
            if let Some(value) = found.map(i32::from) {
                total = if list.overrides { value } else { total + value };
            }
        }
        total
    }
}

/// A table of one list of pairs (left, right, distance in font units), format 0.
pub(in crate::font) fn kern_pairs(pairs: &[(u16, u16, i16)]) -> Vec<u8> {
    let mut pairs = pairs.to_vec();
    pairs.sort_unstable();
    // Version, one subtable; its version, length and coverage; nPairs and what
    // helps a search that nobody makes. The length wraps, and is not read.
    let count = pairs.len() as u16;
    let length = count.wrapping_mul(PAIR as u16).wrapping_add(14);
    let header = [0, 1, 0, length, coverage::HORIZONTAL, count, 0, 0, 0];
    let pairs = pairs
        .into_iter()
        .flat_map(|(left, right, by)| [left, right, by as u16]);
    let words = header.into_iter().chain(pairs);
    words.flat_map(u16::to_be_bytes).collect()
}

/// OpenType `kern`, “Format 0”.
fn value_of_pair(pairs: &[u8], left: GlyphId, right: GlyphId) -> Option<i16> {
    let wanted = (u32::from(left.0) << 16) | u32::from(right.0);
    let (pairs, _) = pairs.as_chunks::<PAIR>();
    let index = pairs
        .binary_search_by_key(&wanted, |pair| {
            u32::from_be_bytes([pair[0], pair[1], pair[2], pair[3]])
        })
        .ok()?;
    Some(i16::from_be_bytes([pairs[index][4], pairs[index][5]]))
}

/// OpenType `kern`, “Format 2”: a table of values by the class of the left and
/// of the right glyph. The classes are already bytes: that of the left one where
/// its row starts in the subtable, that of the right one how far along the row.
fn value_of_classes(subtable: &[u8], header: usize, left: GlyphId, right: GlyphId) -> Option<i16> {
    let word = |at: usize| word(subtable, at);
    let class = |at: usize, glyph: GlyphId| {
        let table = usize::from(word(at)?);
        let step = glyph.0.checked_sub(word(table)?)?;
        let is_listed = step < word(table + 2)?;
        is_listed.then(|| word(table + 4 + usize::from(step) * 2))?
    };
    let values = word(header + 6)?;
    let row = class(header + 2, left).unwrap_or(values);
    let column = class(header + 4, right).unwrap_or(0);
    if row < values {
        return None;
    }
    word(usize::from(row) + usize::from(column)).map(|value| value as i16)
}

/// TrueType Reference Manual, `kern`, format 3: a byte for the class of each
/// glyph, a byte for each pair of classes, and few values.
fn value_of_small_classes(subtable: &[u8], left: GlyphId, right: GlyphId) -> Option<i16> {
    let glyphs = word(subtable, 8)?;
    let [values, left_classes, right_classes, _] = *subtable.get(10..)?.first_chunk::<4>()?;
    if left.0 >= glyphs || right.0 >= glyphs {
        return None;
    }
    let lefts = 14 + usize::from(values) * 2;
    let rights = lefts + usize::from(glyphs);
    let indexes = rights + usize::from(glyphs);
    let row = *subtable.get(lefts + usize::from(left.0))?;
    let column = *subtable.get(rights + usize::from(right.0))?;
    if row >= left_classes || column >= right_classes {
        return None;
    }
    let at = indexes + usize::from(row) * usize::from(right_classes) + usize::from(column);
    let index = *subtable.get(at)?;
    if index >= values {
        return None;
    }
    word(subtable, 14 + usize::from(index) * 2).map(|value| value as i16)
}
