//! `kern`: pairs of glyphs that stand closer or farther, format 0.

use std::borrow::Cow;
use std::ops::Range;

use super::Directory;
use crate::font::table::Table;
use crate::font::{FaceNote, FontError, GlyphId, Tag};

/// Coverage bits of a subtable (OpenType `kern`).
mod coverage {
    pub(super) const HORIZONTAL: u16 = 0x0001;
    pub(super) const MINIMUM: u16 = 0x0002;
    pub(super) const CROSS_STREAM: u16 = 0x0004;
    pub(super) const OVERRIDE: u16 = 0x0008;
}

/// Length of one pair: two glyphs and a value.
const PAIR: usize = 6;

/// The pair lists in use, in the order of the file.
pub(in crate::font) struct KernPairs(Vec<PairList>);

struct PairList {
    /// The pairs, sorted by left then right glyph.
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
            if flags >> 8 != 0 {
                note("a subtable of another format than 0 is not read yet");
            } else if !horizontal || flags & coverage::MINIMUM != 0 {
                note("vertical, cross-stream and minimum kerning is not applied");
            } else {
                // nPairs counts, not the length: that is 16-bit and wraps in
                // real fonts with more than 10,920 pairs.
                let pairs = usize::from(kern.u16(at + 6)?) * PAIR;
                kern.slice(at + 14, pairs)?;
                let start = range.start + at + 14;
                lists.push(PairList {
                    range: start..start + pairs,
                    overrides: flags & coverage::OVERRIDE != 0,
                });
                step = step.max(14 + pairs);
            }
            at += step.max(6);
        }
        Ok(Self(lists))
    }

    pub(in crate::font) fn is_empty(&self) -> bool {
        self.0.is_empty()
    }

    pub(in crate::font) fn pair(&self, bytes: &[u8], left: GlyphId, right: GlyphId) -> i32 {
        let wanted = (u32::from(left.0) << 16) | u32::from(right.0);
        let mut total = 0;
        for list in &self.0 {
            let (pairs, _) = bytes[list.range.clone()].as_chunks::<PAIR>();
            let found = pairs.binary_search_by_key(&wanted, |pair| {
                u32::from_be_bytes([pair[0], pair[1], pair[2], pair[3]])
            });
            if let Ok(index) = found {
                let value = i32::from(i16::from_be_bytes([pairs[index][4], pairs[index][5]]));
                total = if list.overrides { value } else { total + value };
            }
        }
        total
    }
}
