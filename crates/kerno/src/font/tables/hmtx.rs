//! `maxp`, `hhea` and `hmtx`: how many glyphs there are, and how far the pen
//! moves after each.

use std::ops::Range;

use super::Directory;
use crate::font::{FontError, GlyphId};

/// Where the advances and side bearings are.
pub(in crate::font) struct GlyphMetrics {
    range: Range<usize>,
    /// How many glyphs have an advance of their own; the rest share the last.
    long: usize,
    count: u16,
}

impl GlyphMetrics {
    pub(in crate::font) fn read(directory: &Directory, bytes: &[u8]) -> Result<Self, FontError> {
        let count = directory.required(bytes, b"maxp")?.u16(4)?;
        let hhea = directory.required(bytes, b"hhea")?;
        let long = usize::from(hhea.u16(34)?);
        if long == 0 {
            return Err(hhea.bad(34, "numberOfHMetrics", 0, "it must be at least 1"));
        }
        let hmtx = directory.required(bytes, b"hmtx")?;
        hmtx.slice(0, long * 4)?;
        Ok(Self {
            range: directory.range(bytes, b"hmtx").unwrap_or_default(),
            long,
            count,
        })
    }

    pub(in crate::font) fn count(&self) -> u16 {
        self.count
    }

    pub(in crate::font) fn advance(&self, bytes: &[u8], glyph: GlyphId) -> u16 {
        if glyph.0 >= self.count {
            return 0;
        }
        let index = usize::from(glyph.0).min(self.long - 1);
        self.word(bytes, index * 4).unwrap_or(0)
    }

    /// Glyphs past the long metrics have a side bearing only; one past the end
    /// of a short table gets 0.
    pub(in crate::font) fn left_side_bearing(&self, bytes: &[u8], glyph: GlyphId) -> i16 {
        let index = usize::from(glyph.0);
        let at = match index.checked_sub(self.long) {
            None => index * 4 + 2,
            Some(rest) => self.long * 4 + rest * 2,
        };
        self.word(bytes, at).unwrap_or(0) as i16
    }

    fn word(&self, bytes: &[u8], at: usize) -> Option<u16> {
        let word = bytes[self.range.clone()].get(at..)?.first_chunk::<2>()?;
        Some(u16::from_be_bytes(*word))
    }
}
