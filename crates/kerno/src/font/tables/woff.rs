//! WOFF 1 (W3C “WOFF File Format 1.0”): an OpenType font whose tables are
//! packed one by one.

use std::io::Read;

use flate2::read::ZlibDecoder;

use crate::base::Limits;
use crate::font::table::Table;
use crate::font::{FontError, TableFault, Tag};

const TAG: Tag = Tag::new(b"wOFF");
/// Length of the header, in bytes (section 3).
const HEADER: usize = 44;
/// Length of a directory entry, in bytes (section 4).
const ENTRY: usize = 20;

/// The OpenType font in a WOFF file.
pub(in crate::font) fn unpack_woff(bytes: &[u8], limits: &Limits) -> Result<Vec<u8>, FontError> {
    let woff = Table::new(TAG, bytes);
    let count = usize::from(woff.u16(12)?);
    woff.slice(HEADER, count * ENTRY)?;
    let entries: Vec<Entry> = (0..count)
        .map(|index| Entry::read(&woff, HEADER + index * ENTRY))
        .collect::<Result<_, _>>()?;
    let header = 12 + 16 * count;
    let size = entries.iter().fold(header as u64, |size, entry| {
        size + u64::from(entry.length).next_multiple_of(4)
    });
    if size > limits.font_bytes {
        let limit = limits.font_bytes;
        return Err(FontError::Unpacked { size, limit });
    }
    let mut font = Vec::new();
    font.extend_from_slice(woff.slice(4, 4)?);
    font.extend((count as u16).to_be_bytes());
    font.extend([0; 6]); // searchRange and its kin: nobody needs them
    let mut offset = header as u32;
    for entry in &entries {
        font.extend(entry.tag.0);
        for number in [entry.checksum, offset, entry.length] {
            font.extend(number.to_be_bytes());
        }
        offset += entry.length.next_multiple_of(4);
    }
    for entry in &entries {
        entry.unpack(&woff, &mut font)?;
        font.resize(font.len().next_multiple_of(4), 0);
    }
    Ok(font)
}

/// One table of the directory.
struct Entry {
    tag: Tag,
    offset: u32,
    packed: u32,
    length: u32,
    checksum: u32,
}

impl Entry {
    fn read(woff: &Table<'_>, at: usize) -> Result<Self, FontError> {
        let entry = Self {
            tag: woff.tag(at)?,
            offset: woff.u32(at + 4)?,
            packed: woff.u32(at + 8)?,
            length: woff.u32(at + 12)?,
            checksum: woff.u32(at + 16)?,
        };
        let end = u64::from(entry.offset) + u64::from(entry.packed);
        let file = woff.len() as u64;
        if end > file {
            let fault = TableFault::PastEnd { end, file };
            return Err(Table::new(entry.tag, &[]).error(0, fault));
        }
        Ok(entry)
    }

    /// Appends the table, unpacked; one that is as long packed is not packed.
    fn unpack(&self, woff: &Table<'_>, font: &mut Vec<u8>) -> Result<(), FontError> {
        let packed = woff.slice(self.offset as usize, self.packed as usize)?;
        if self.packed >= self.length {
            font.extend_from_slice(&packed[..self.length as usize]);
            return Ok(());
        }
        let start = font.len();
        let wanted = u64::from(self.length);
        // Never more than the directory promised, whatever the stream holds.
        let unpacked = ZlibDecoder::new(packed).take(wanted).read_to_end(font);
        if unpacked.is_err() || (font.len() - start) as u64 != wanted {
            let fault = TableFault::BadValue {
                field: "packed data",
                value: (font.len() - start) as i64,
                expected: "it does not unpack to the length that the directory states",
            };
            return Err(Table::new(self.tag, &[]).error(0, fault));
        }
        Ok(())
    }
}
