//! The table directory: OpenType 1.9, “Organization of an OpenType Font”.

use std::borrow::Cow;
use std::ops::Range;

use crate::font::table::Table;
use crate::font::{FaceNote, FontError, TableFault, Tag};

/// Length of the header before the records, in bytes.
const HEADER: usize = 12;
/// Length of one record, in bytes.
const RECORD: usize = 16;

/// The tables that this version passes over, and the things they would have brought.
const UNREAD: [(&[u8; 4], &str); 1] = [(b"SVG ", "glyphs as SVG documents are not drawn")];

/// One entry of the table directory.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct TableRecord {
    /// The table's name.
    pub tag: Tag,
    /// Start in the file, in bytes.
    pub offset: u32,
    /// Length, in bytes.
    pub length: u32,
}

/// The table directory, checked: every table lies inside the file.
pub(crate) struct Directory {
    /// The byte of the file at which it starts: not 0 in a collection.
    start: usize,
    count: u16,
}

/// The bytes at which the faces of a file start: one at 0, or those of a collection
/// (OpenType, “Font Collections”).
pub(crate) fn face_offset(bytes: &[u8], face: u32) -> Result<usize, FontError> {
    let count = face_count(bytes)?;
    if face >= count {
        return Err(FontError::NoSuchFace { face, count });
    }
    if !bytes.starts_with(b"ttcf") {
        return Ok(0);
    }
    let header = Table::new(Tag::new(b"ttcf"), bytes);
    header
        .u32(12 + face as usize * 4)
        .map(|offset| offset as usize)
}

/// A font file put together from tables, for what comes packed or in another
/// form. Checksums are left out, as nothing here reads them.
pub(crate) fn assemble(signature: [u8; 4], tables: &[(Tag, Vec<u8>)]) -> Vec<u8> {
    let mut file = signature.to_vec();
    file.extend((tables.len() as u16).to_be_bytes());
    file.resize(HEADER, 0); // searchRange and its kin: nobody needs them
    let mut offset = HEADER + tables.len() * RECORD;
    for (tag, bytes) in tables {
        file.extend(tag.0);
        for number in [0, offset as u32, bytes.len() as u32] {
            file.extend(number.to_be_bytes());
        }
        offset += bytes.len().next_multiple_of(4);
    }
    for (_, bytes) in tables {
        file.extend(bytes);
        file.resize(file.len().next_multiple_of(4), 0);
    }
    file
}

/// The number of faces a file holds.
pub(crate) fn face_count(bytes: &[u8]) -> Result<u32, FontError> {
    if !bytes.starts_with(b"ttcf") {
        return Ok(1);
    }
    let header = Table::new(Tag::new(b"ttcf"), bytes);
    let count = header.u32(8)?;
    header.slice(12, (count as usize).saturating_mul(4))?;
    Ok(count)
}

impl Directory {
    /// Reads the directory that starts at byte `start` of the file.
    pub(crate) fn read(bytes: &[u8], start: usize) -> Result<Self, FontError> {
        let header = Table::new(Tag::new(b"sfnt"), bytes).from(start)?;
        check_signature(header.bytes())?;
        let directory = Self {
            start,
            count: header.u16(4)?,
        };
        header.slice(HEADER, usize::from(directory.count) * RECORD)?;
        for record in directory.records(bytes) {
            let end = u64::from(record.offset) + u64::from(record.length);
            let file = bytes.len() as u64;
            if end > file {
                return Err(FontError::Table {
                    table: record.tag,
                    offset: 0,
                    fault: TableFault::PastEnd { end, file },
                });
            }
        }
        Ok(directory)
    }

    /// The records in the order of the file.
    pub(in crate::font) fn records<'a>(
        &self,
        bytes: &'a [u8],
    ) -> impl Iterator<Item = TableRecord> + 'a {
        let header = Table::new(Tag::new(b"sfnt"), bytes);
        let first = self.start + HEADER;
        (0..usize::from(self.count)).map_while(move |index| {
            let at = first + index * RECORD;
            Some(TableRecord {
                tag: header.tag(at).ok()?,
                offset: header.u32(at + 8).ok()?,
                length: header.u32(at + 12).ok()?,
            })
        })
    }

    /// The range of a table in the file.
    pub(in crate::font) fn range(&self, bytes: &[u8], tag: &[u8; 4]) -> Option<Range<usize>> {
        self.records(bytes)
            .find(|record| record.tag.0 == *tag)
            .map(|record| {
                let start = record.offset as usize;
                start..start + record.length as usize
            })
    }

    /// A table that a face may lack.
    pub(crate) fn table<'a>(&self, bytes: &'a [u8], tag: &[u8; 4]) -> Option<Table<'a>> {
        self.range(bytes, tag)
            .map(|range| Table::new(Tag::new(tag), &bytes[range]))
    }

    /// A table that every face needs.
    pub(crate) fn required<'a>(
        &self,
        bytes: &'a [u8],
        tag: &'static [u8; 4],
    ) -> Result<Table<'a>, FontError> {
        self.table(bytes, tag)
            .ok_or(FontError::MissingTable(Tag::new(tag)))
    }

    /// Notes on the tables that hold something we pass over.
    pub(in crate::font) fn unread_tables(&self, bytes: &[u8]) -> Vec<FaceNote> {
        self.records(bytes)
            .filter_map(|record| {
                let (_, text) = UNREAD.iter().find(|(tag, _)| **tag == record.tag.0)?;
                Some(FaceNote {
                    table: record.tag,
                    text: Cow::Borrowed(text),
                })
            })
            .collect()
    }
}

/// Tells an OpenType font from everything else by its first four bytes.
fn check_signature(bytes: &[u8]) -> Result<(), FontError> {
    let Some(signature) = bytes.first_chunk::<4>() else {
        return Err(FontError::NotAFont(if bytes.is_empty() {
            "the file is empty"
        } else {
            "the file is shorter than four bytes"
        }));
    };
    match signature {
        [0, 1, 0, 0] | b"true" | b"OTTO" => Ok(()),
        // In text, or in the segments of a PC.
        b"%!PS" | b"%!Fo" | [0x80, 0x01, ..] => Err(FontError::UnsupportedFormat(
            "a Type 1 font (PostScript, .pfa or .pfb) is not read",
        )),
        _ => Err(FontError::NotAFont(
            "its first four bytes are not those of an OpenType file",
        )),
    }
}
