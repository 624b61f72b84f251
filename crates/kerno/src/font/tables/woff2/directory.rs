//! The header and the directory (section 4).

use super::stream::Stream;
use super::{TAG, fault};
use crate::base::Limits;
use crate::font::table::Table;
use crate::font::{FontError, Tag};

/// Length of the header, in bytes.
const HEADER: usize = 48;

/// Tags that have a number (section 4.1, “Known Table Tags”).
const KNOWN: &[u8] = b"cmapheadhheahmtxmaxpnameOS/2postcvt fpgmglyflocaprepCFF VORGEBDTEBLCgasp\
    hdmxkernLTSHPCLTVDMXvheavmtxBASEGDEFGPOSGSUBEBSCJSTFMATHCBDTCBLCCOLRCPALSVG sbixacntavarbdat\
    blocbslncvarfdscfeatfmtxfvargvarhstyjustlcarmortmorxopbdproptrakZapfSilfGlatGlocFeatSill";

/// A table as it is packed.
#[derive(Clone, Copy)]
pub(super) struct Entry {
    pub(super) tag: Tag,
    /// Length of the table in the font.
    pub(super) length: usize,
    /// Length of what is packed, and true if that is not the table itself.
    pub(super) packed: usize,
    pub(super) is_transformed: bool,
}

/// A font of the file.
pub(super) struct FontRecord {
    pub(super) flavor: [u8; 4],
    /// Its tables, by their numbers.
    pub(super) tables: Vec<usize>,
}

/// All that the directory says.
pub(super) struct Directory {
    pub(super) entries: Vec<Entry>,
    pub(super) fonts: Vec<FontRecord>,
    pub(super) is_collection: bool,
    /// The byte at which the packed data start.
    pub(super) start: usize,
    pub(super) packed: usize,
}

impl Directory {
    /// Reads it, and holds the sum of what is packed to the limits.
    pub(super) fn read(bytes: &[u8], limits: &Limits) -> Result<Self, FontError> {
        let header = Table::new(TAG, bytes);
        header.slice(0, HEADER)?;
        let (flavor, count) = (header.tag(4)?.0, header.u16(12)?);
        let packed = header.u32(20)? as usize;
        let mut stream = Stream::new(header.from(HEADER)?);
        let mut entries = Vec::new();
        for _ in 0..count {
            entries.push(Entry::read(&mut stream)?);
        }
        let is_collection = &flavor == b"ttcf";
        let fonts = match is_collection {
            true => read_fonts(&mut stream, entries.len())?,
            false => vec![FontRecord {
                flavor,
                tables: (0..entries.len()).collect(),
            }],
        };
        let sizes = entries
            .iter()
            .map(|entry| entry.length.max(entry.packed) as u64);
        let size: u64 = sizes.sum();
        if size > limits.font_bytes {
            let limit = limits.font_bytes;
            return Err(FontError::Unpacked { size, limit });
        }
        let start = HEADER + stream.position();
        header.slice(start, packed)?;
        Ok(Self {
            entries,
            fonts,
            is_collection,
            start,
            packed,
        })
    }
}

impl Entry {
    fn read(stream: &mut Stream<'_>) -> Result<Self, FontError> {
        let flags = stream.u8()?;
        let tag = match KNOWN.as_chunks::<4>().0.get(usize::from(flags & 63)) {
            Some(tag) => Tag(*tag),
            None => Tag(stream.u32()?.to_be_bytes()),
        };
        let length = stream.long()? as usize;
        let version = flags >> 6;
        let is_outline = matches!(&tag.0, b"glyf" | b"loca");
        let is_transformed = match is_outline {
            true => version != 3,
            false => version != 0,
        };
        let is_known = match (is_outline, version) {
            (true, 0 | 3) | (false, 0) => true,
            (false, 1) => &tag.0 == b"hmtx",
            _ => false,
        };
        if !is_known {
            let expected = "this table has no such transform";
            return Err(stream.bad("transformation version", version.into(), expected));
        }
        let packed = match is_transformed {
            true => stream.long()? as usize,
            false => length,
        };
        if &tag.0 == b"loca" && is_transformed && packed != 0 {
            let expected = "it must be 0 for 'loca'";
            return Err(stream.bad("transformLength", packed as i64, expected));
        }
        Ok(Self {
            tag,
            length,
            packed,
            is_transformed,
        })
    }
}

/// The fonts of a collection (section 4.2).
fn read_fonts(stream: &mut Stream<'_>, tables: usize) -> Result<Vec<FontRecord>, FontError> {
    stream.u32()?;
    let count = stream.short()?;
    let mut fonts = Vec::new();
    for _ in 0..count {
        let own = stream.short()?;
        let flavor = stream.u32()?.to_be_bytes();
        let numbers = (0..own).map(|_| stream.short().map(usize::from));
        let numbers: Vec<usize> = numbers.collect::<Result<_, _>>()?;
        if let Some(number) = numbers.iter().find(|number| **number >= tables) {
            return Err(fault("index", *number, "the file has fewer tables"));
        }
        fonts.push(FontRecord {
            flavor,
            tables: numbers,
        });
    }
    match fonts.is_empty() {
        true => Err(fault("numFonts", 0, "a collection has one at least")),
        false => Ok(fonts),
    }
}
