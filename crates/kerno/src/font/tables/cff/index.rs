//! INDEX data: an array of objects of any length (Note 5176, section 5).

use std::ops::Range;

use crate::font::FontError;
use crate::font::table::Table;

/// The places of the objects of an INDEX.
#[derive(Clone, Copy)]
pub(super) struct Index {
    pub(super) count: usize,
    /// The byte at which the offset array starts.
    offsets: usize,
    offset_size: usize,
    /// One byte before the first object: offsets count from 1.
    base: usize,
    /// The byte at which the INDEX ends.
    pub(super) end: usize,
}

impl Index {
    pub(super) fn read(cff: &Table<'_>, at: usize) -> Result<Self, FontError> {
        let count = usize::from(cff.u16(at)?);
        Self::read_behind(cff, count, at + 2)
    }

    /// As [`Index::read`], for version 2 of the table, whose count is long.
    pub(super) fn read_long(cff: &Table<'_>, at: usize) -> Result<Self, FontError> {
        let count = cff.u32(at)? as usize;
        Self::read_behind(cff, count, at + 4)
    }

    /// Reads what follows the count.
    fn read_behind(cff: &Table<'_>, count: usize, at: usize) -> Result<Self, FontError> {
        if count == 0 {
            return Ok(Self {
                count,
                offsets: at,
                offset_size: 1,
                base: at,
                end: at,
            });
        }
        let offset_size = cff.u8(at)?;
        if !(1..=4).contains(&offset_size) {
            return Err(cff.bad(at, "offSize", offset_size.into(), "it must be 1 to 4"));
        }
        let offset_size = usize::from(offset_size);
        let mut index = Self {
            count,
            offsets: at + 1,
            offset_size,
            base: at.saturating_add(count.saturating_add(1).saturating_mul(offset_size)),
            end: 0,
        };
        index.end = index.place(cff, count)?;
        cff.slice(0, index.end)?;
        Ok(index)
    }

    /// The byte at which object `number` starts, or the last one ends.
    fn place(&self, cff: &Table<'_>, number: usize) -> Result<usize, FontError> {
        let at = self.offsets + number * self.offset_size;
        let bytes = cff.slice(at, self.offset_size)?;
        let offset = bytes
            .iter()
            .fold(0, |offset, byte| (offset << 8) | usize::from(*byte));
        if offset == 0 {
            return Err(cff.bad(at, "offset", 0, "offsets of an INDEX count from 1"));
        }
        Ok(self.base + offset)
    }

    /// The range of the bytes of an object.
    pub(super) fn range(&self, cff: &Table<'_>, number: usize) -> Result<Range<usize>, FontError> {
        if number >= self.count {
            let expected = "the INDEX has fewer objects";
            return Err(cff.bad(self.offsets, "object", number as i64, expected));
        }
        let range = self.place(cff, number)?..self.place(cff, number + 1)?;
        if range.start > range.end || range.end > cff.len() {
            let at = self.offsets + number * self.offset_size;
            let expected = "the object must end after its start, in the table";
            return Err(cff.bad(at, "offset", range.start as i64, expected));
        }
        Ok(range)
    }
}
