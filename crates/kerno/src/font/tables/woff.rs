//! WOFF 1 (W3C “WOFF File Format 1.0”): an OpenType font whose tables are
//! packed one by one.

use std::io::Read;

#[cfg(feature = "compressed-fonts")]
use flate2::read::ZlibDecoder;

use super::directory::assemble;
use crate::base::Limits;
use crate::font::table::Table;
use crate::font::{FontError, TableFault, Tag};

const TAG: Tag = Tag::new(b"wOFF");
/// Length of the header, in bytes (section 3).
const HEADER: usize = 44;
/// Length of a directory entry, in bytes (section 4).
const ENTRY: usize = 20;

/// Checks the directory of a WOFF file, without unpacking anything.
pub(in crate::font) fn check_woff(bytes: &[u8], limits: &Limits) -> Result<(), FontError> {
    entries(&Table::new(TAG, bytes), limits).map(drop)
}

/// The OpenType font in a WOFF file.
pub(in crate::font) fn unpack_woff(bytes: &[u8], limits: &Limits) -> Result<Vec<u8>, FontError> {
    let woff = Table::new(TAG, bytes);
    let tables: Vec<(Tag, Vec<u8>)> = entries(&woff, limits)?
        .iter()
        .map(|entry| Ok((entry.tag, entry.unpack(&woff)?)))
        .collect::<Result<_, FontError>>()?;
    Ok(assemble(woff.tag(4)?.0, &tables))
}

/// The tables of a file, whose sum of lengths keeps to the limits.
fn entries(woff: &Table<'_>, limits: &Limits) -> Result<Vec<Entry>, FontError> {
    let count = usize::from(woff.u16(12)?);
    woff.slice(HEADER, count * ENTRY)?;
    let entries: Vec<Entry> = (0..count)
        .map(|index| Entry::read(woff, HEADER + index * ENTRY))
        .collect::<Result<_, _>>()?;
    let header = 12 + 16 * count;
    let size = entries.iter().fold(header as u64, |size, entry| {
        size + u64::from(entry.length).next_multiple_of(4)
    });
    if size > limits.font_bytes {
        let limit = limits.font_bytes;
        return Err(FontError::Unpacked { size, limit });
    }
    Ok(entries)
}

/// One table of the directory.
struct Entry {
    tag: Tag,
    offset: u32,
    packed: u32,
    length: u32,
}

impl Entry {
    fn read(woff: &Table<'_>, at: usize) -> Result<Self, FontError> {
        let entry = Self {
            tag: woff.tag(at)?,
            offset: woff.u32(at + 4)?,
            packed: woff.u32(at + 8)?,
            length: woff.u32(at + 12)?,
        };
        let end = u64::from(entry.offset) + u64::from(entry.packed);
        let file = woff.len() as u64;
        if end > file {
            let fault = TableFault::PastEnd { end, file };
            return Err(Table::new(entry.tag, &[]).error(0, fault));
        }
        Ok(entry)
    }

    /// The table, unpacked; one that is as long packed is not packed.
    fn unpack(&self, woff: &Table<'_>) -> Result<Vec<u8>, FontError> {
        let packed = woff.slice(self.offset as usize, self.packed as usize)?;
        if self.packed >= self.length {
            return Ok(packed[..self.length as usize].to_vec());
        }
        let wanted = u64::from(self.length);
        let mut table = Vec::new();
        // Never more than the directory promised, whatever the stream holds.
        #[cfg(feature = "compressed-fonts")]
        let unpacked = ZlibDecoder::new(packed)
            .take(wanted)
            .read_to_end(&mut table);
        #[cfg(not(feature = "compressed-fonts"))]
        let unpacked = packed.take(0).read_to_end(&mut table);
        if unpacked.is_err() || table.len() as u64 != wanted {
            let fault = TableFault::BadValue {
                field: "packed data",
                value: table.len() as i64,
                expected: "it does not unpack to the length that the directory states",
            };
            return Err(Table::new(self.tag, &[]).error(0, fault));
        }
        Ok(table)
    }
}
