//! The bytes of a `.kpack` (`docs/pack.md`): a header, a table of sections, and the
//! sections, each with its checksum.

use std::ops::Range;

use xxhash_rust::xxh3::xxh3_64;

use super::{Fingerprint, PackError};
use crate::base::SharedBytes;

/// The first bytes of every pack: the line ends show a file that was taken for text.
const SIGNATURE: [u8; 8] = *b"kpack\r\n\x1a";

/// The version that is written and read.
const VERSION: u32 = 4;

/// Bytes of the header, and of one entry of the table after it.
const HEADER: usize = 48;
const ENTRY: usize = 32;

/// The offset of the header's checksum: it covers the bytes before it, and the table.
const CHECKSUM: usize = 40;

/// The alignment of sections: as a GPU copies from.
const ALIGNMENT: usize = 256;

/// Content of a section. The numbers are part of the format.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[repr(u32)]
pub(crate) enum SectionKind {
    /// Records: everything that is no picture and no font.
    Description = 1,
    /// Texels of a page.
    Page = 2,
    /// Places of glyphs.
    Glyphs = 3,
    /// A font file.
    Font = 4,
    /// Glyphs of a face that are pictures in colour.
    Pictures = 5,
}

/// A section to be written.
pub(crate) type Section<'a> = (SectionKind, &'a [u8]);

/// The bytes of a pack.
pub(crate) fn write(fingerprint: Fingerprint, sections: &[Section<'_>]) -> Vec<u8> {
    let mut bytes = vec![0; HEADER + ENTRY * sections.len()];
    for (index, (kind, section)) in sections.iter().enumerate() {
        bytes.resize(bytes.len().next_multiple_of(ALIGNMENT), 0);
        let entry = HEADER + ENTRY * index;
        let offset = bytes.len() as u64;
        put(&mut bytes, entry, &(*kind as u32).to_le_bytes());
        put(&mut bytes, entry + 8, &offset.to_le_bytes());
        put(
            &mut bytes,
            entry + 16,
            &(section.len() as u64).to_le_bytes(),
        );
        put(&mut bytes, entry + 24, &xxh3_64(section).to_le_bytes());
        bytes.extend_from_slice(section);
    }
    let length = bytes.len() as u64;
    put(&mut bytes, 0, &SIGNATURE);
    put(&mut bytes, 8, &VERSION.to_le_bytes());
    put(&mut bytes, 12, &(sections.len() as u32).to_le_bytes());
    put(&mut bytes, 16, &length.to_le_bytes());
    put(&mut bytes, 24, &fingerprint.0);
    let checksum = header_checksum(&bytes, sections.len());
    put(&mut bytes, CHECKSUM, &checksum.to_le_bytes());
    bytes
}

fn put(bytes: &mut [u8], at: usize, part: &[u8]) {
    bytes[at..at + part.len()].copy_from_slice(part);
}

fn header_checksum(bytes: &[u8], sections: usize) -> u64 {
    let table = &bytes[HEADER..HEADER + ENTRY * sections];
    xxh3_64(&[&bytes[..CHECKSUM], table].concat())
}

/// The sections of a pack, none of which reaches past its end.
#[derive(Debug)]
pub(crate) struct Container {
    bytes: SharedBytes,
    pub(crate) fingerprint: Fingerprint,
    sections: Vec<Entry>,
}

#[derive(Clone, Debug)]
struct Entry {
    kind: u32,
    range: Range<usize>,
    checksum: u64,
}

impl Container {
    /// Reads header and table, and checks them.
    pub(crate) fn read(bytes: SharedBytes) -> Result<Self, PackError> {
        if !bytes.starts_with(&SIGNATURE) {
            return Err(PackError::NotAPack);
        }
        let cut_short = || PackError::Damaged {
            offset: bytes.len() as u64,
            what: "the file ends here, and there must be more".to_owned(),
        };
        let version = u32::from_le_bytes(number(&bytes, 8).ok_or_else(cut_short)?);
        if version != VERSION {
            return Err(PackError::Version {
                found: version,
                known: VERSION,
            });
        }
        let count = u32::from_le_bytes(number(&bytes, 12).ok_or_else(cut_short)?) as usize;
        let length = u64::from_le_bytes(number(&bytes, 16).ok_or_else(cut_short)?);
        let stated = u64::from_le_bytes(number(&bytes, CHECKSUM).ok_or_else(cut_short)?);
        let table_end = count
            .checked_mul(ENTRY)
            .and_then(|size| size.checked_add(HEADER));
        if table_end.is_none_or(|end| end > bytes.len()) {
            return Err(cut_short());
        }
        if stated != header_checksum(&bytes, count) {
            return Err(PackError::Damaged {
                offset: CHECKSUM as u64,
                what: "the checksum of the header is wrong".to_owned(),
            });
        }
        if length != bytes.len() as u64 {
            let (have, said) = (bytes.len(), length);
            return Err(PackError::Damaged {
                offset: 16,
                what: format!("the file has {have} bytes and says it has {said}"),
            });
        }
        let sections = read_table(&bytes, count)?;
        let fingerprint = Fingerprint(number(&bytes, 24).ok_or_else(cut_short)?);
        Ok(Self {
            bytes,
            fingerprint,
            sections,
        })
    }

    /// Section `index`, which must be of a kind, with its checksum looked after.
    pub(crate) fn section(
        &self,
        kind: SectionKind,
        index: usize,
    ) -> Result<SharedBytes, PackError> {
        let found = self
            .sections
            .get(index)
            .filter(|entry| entry.kind == kind as u32);
        let Some((entry, part)) = found.and_then(|entry| Some((entry, self.part(entry)?))) else {
            return Err(PackError::Damaged {
                offset: HEADER as u64,
                what: format!("section {index} is asked for as {kind:?} and is none"),
            });
        };
        if xxh3_64(&part) != entry.checksum {
            return Err(PackError::Damaged {
                offset: entry.range.start as u64,
                what: format!("the checksum of section {index} ({kind:?}) is wrong"),
            });
        }
        Ok(part)
    }

    fn part(&self, entry: &Entry) -> Option<SharedBytes> {
        self.bytes.part(entry.range.clone())
    }

    /// The numbers of all sections of a kind.
    pub(crate) fn all(&self, kind: SectionKind) -> impl Iterator<Item = usize> {
        let sections = self.sections.iter().enumerate();
        sections.filter_map(move |(index, entry)| (entry.kind == kind as u32).then_some(index))
    }
}

/// Reads the table of sections. Each begins at the first multiple of the alignment after the
/// one before, and nothing stands between them: no byte is without a checksum.
fn read_table(bytes: &[u8], count: usize) -> Result<Vec<Entry>, PackError> {
    let mut last = HEADER + ENTRY * count;
    let mut entry = |index: usize| {
        let at = HEADER + ENTRY * index;
        let start = u64::from_le_bytes(number(bytes, at + 8)?);
        let length = u64::from_le_bytes(number(bytes, at + 16)?);
        let end = usize::try_from(start.checked_add(length)?).ok()?;
        let start = usize::try_from(start).ok()?;
        let gap = bytes.get(last..start)?;
        let is_next = start == last.next_multiple_of(ALIGNMENT) && end <= bytes.len();
        last = end;
        (is_next && gap.iter().all(|byte| *byte == 0)).then_some(Entry {
            kind: u32::from_le_bytes(number(bytes, at)?),
            range: start..end,
            checksum: u64::from_le_bytes(number(bytes, at + 24)?),
        })
    };
    let outside = |index: usize| PackError::Damaged {
        offset: (HEADER + ENTRY * index) as u64,
        what: format!("section {index} does not lie right after what comes before it"),
    };
    let sections = (0..count).map(|index| entry(index).ok_or_else(|| outside(index)));
    let sections = sections.collect::<Result<_, _>>()?;
    if last != bytes.len() {
        return Err(PackError::Damaged {
            offset: last as u64,
            what: "something follows the last section".to_owned(),
        });
    }
    Ok(sections)
}

fn number<const N: usize>(bytes: &[u8], at: usize) -> Option<[u8; N]> {
    bytes.get(at..)?.first_chunk::<N>().copied()
}
