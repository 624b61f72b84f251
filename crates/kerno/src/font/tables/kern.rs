//! `kern`: pairs of glyphs that stand closer or farther, formats 0 and 2.

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
    Classes,
}

/// Length of one pair: two glyphs and a value.
const PAIR: usize = 6;

/// The pair lists in use, in the order of the file.
pub(in crate::font) struct KernPairs(Vec<PairList>);

struct PairList {
    format: Format,
    /// Format 0: the pairs, sorted by left then right glyph. Format 2: the
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
        if kern.u16(0)? != 0 {
            note("a table of Apple's version 1 is not read yet");
            return Ok(Self(lists));
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
                    format: Format::Classes,
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

    pub(in crate::font) fn is_empty(&self) -> bool {
        self.0.is_empty()
    }

    pub(in crate::font) fn pair(&self, bytes: &[u8], left: GlyphId, right: GlyphId) -> i32 {
        let mut total = 0;
        for list in &self.0 {
            let bytes = &bytes[list.range.clone()];
            let found = match list.format {
                Format::Pairs => value_of_pair(bytes, left, right),
                Format::Classes => value_of_classes(bytes, left, right),
            };
            if let Some(value) = found.map(i32::from) {
                total = if list.overrides { value } else { total + value };
            }
        }
        total
    }
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
fn value_of_classes(subtable: &[u8], left: GlyphId, right: GlyphId) -> Option<i16> {
    let word = |at: usize| word(subtable, at);
    let class = |at: usize, glyph: GlyphId| {
        let table = usize::from(word(at)?);
        let step = glyph.0.checked_sub(word(table)?)?;
        let is_listed = step < word(table + 2)?;
        is_listed.then(|| word(table + 4 + usize::from(step) * 2))?
    };
    let row = class(8, left).or_else(|| word(12))?;
    let column = class(10, right).unwrap_or(0);
    if row < word(12)? {
        return None;
    }
    word(usize::from(row) + usize::from(column)).map(|value| value as i16)
}
