//! `maxp`, `hhea` and `hmtx`, `vhea` and `vmtx`: how many glyphs there are, and
//! how far the pen moves after each, in level and in upright lines.

use std::ops::Range;

use super::Directory;
use crate::font::table::{Table, word};
use crate::font::{FontError, GlyphId};

/// The places of the advances and side bearings.
pub(in crate::font) struct GlyphMetrics {
    range: Range<usize>,
    /// The number of glyphs that have an advance of their own; the rest share the last.
    long: usize,
    count: u16,
}

impl GlyphMetrics {
    /// The metrics of level lines, which every face has.
    pub(in crate::font) fn read(directory: &Directory, bytes: &[u8]) -> Result<Self, FontError> {
        let header = directory.required(bytes, b"hhea")?;
        let metrics = directory.required(bytes, b"hmtx")?;
        let range = directory.range(bytes, b"hmtx").unwrap_or_default();
        Self::of(directory, bytes, &header, &metrics, range)
    }

    /// Those of upright lines, where the face has them.
    pub(in crate::font) fn read_vertical(
        directory: &Directory,
        bytes: &[u8],
    ) -> Result<Option<Self>, FontError> {
        let tables = (
            directory.table(bytes, b"vhea"),
            directory.table(bytes, b"vmtx"),
        );
        let (Some(header), Some(metrics)) = tables else {
            return Ok(None);
        };
        let range = directory.range(bytes, b"vmtx").unwrap_or_default();
        Self::of(directory, bytes, &header, &metrics, range).map(Some)
    }

    /// `vhea` and `vmtx` are laid out as `hhea` and `hmtx`.
    fn of(
        directory: &Directory,
        bytes: &[u8],
        header: &Table<'_>,
        metrics: &Table<'_>,
        range: Range<usize>,
    ) -> Result<Self, FontError> {
        let count = directory.required(bytes, b"maxp")?.u16(4)?;
        let long = usize::from(header.u16(34)?);
        if long == 0 {
            return Err(header.bad(34, "number of long metrics", 0, "it must be at least 1"));
        }
        metrics.slice(0, long * 4)?;
        Ok(Self { range, long, count })
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
    pub(in crate::font) fn side_bearing(&self, bytes: &[u8], glyph: GlyphId) -> i16 {
        let index = usize::from(glyph.0);
        let at = match index.checked_sub(self.long) {
            None => index * 4 + 2,
            Some(rest) => self.long * 4 + rest * 2,
        };
        self.word(bytes, at).unwrap_or(0) as i16
    }

    fn word(&self, bytes: &[u8], at: usize) -> Option<u16> {
        word(&bytes[self.range.clone()], at)
    }
}
