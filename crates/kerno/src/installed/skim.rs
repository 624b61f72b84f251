//! Reads names and style of a font file without the rest of it.

use std::fs::File;
use std::io::{self, Read, Seek, SeekFrom};
use std::path::Path;

use super::{InstalledFace, Slant};
use crate::font::{Directory, NameId, assemble, face_count, face_offset, read_name};
use crate::font::{FontError, Tag};

/// The tables that say what a face is called and how it looks.
const WANTED: [&[u8; 4]; 3] = [b"name", b"OS/2", b"head"];
/// More of a table than this is not read.
const MOST_BYTES: u64 = 1 << 20;
/// More faces of a collection than these are not listed.
const MOST_FACES: u32 = 256;

/// The faces in a file.
pub(super) fn skim(path: &Path) -> Result<Vec<InstalledFace>, FontError> {
    read_faces(path).map_err(|error| match error {
        FontError::Io { .. } => error,
        _ => FontError::InFile {
            path: path.to_owned(),
            source: Box::new(error),
        },
    })
}

fn read_faces(path: &Path) -> Result<Vec<InstalledFace>, FontError> {
    let failed = |source| FontError::Io {
        path: path.to_owned(),
        source,
    };
    let mut file = File::open(path).map_err(failed)?;
    let start = read_part(&mut file, 0, 12 + 4 * u64::from(MOST_FACES)).map_err(failed)?;
    let mut faces = Vec::new();
    for index in 0..face_count(&start)?.min(MOST_FACES) {
        let offset = face_offset(&start, index)?;
        let tables = wanted_tables(&mut file, offset as u64).map_err(failed)?;
        faces.push(describe(&tables, path, index)?);
    }
    Ok(faces)
}

/// Some bytes of a file, fewer where it ends before.
fn read_part(file: &mut File, from: u64, length: u64) -> io::Result<Vec<u8>> {
    file.seek(SeekFrom::Start(from))?;
    let mut bytes = Vec::new();
    file.take(length.min(MOST_BYTES)).read_to_end(&mut bytes)?;
    Ok(bytes)
}

/// A font file of the wanted tables alone.
fn wanted_tables(file: &mut File, start: u64) -> io::Result<Vec<u8>> {
    let header = read_part(file, start, 12)?;
    let count = header
        .get(4..6)
        .map_or(0, |count| u16::from_be_bytes([count[0], count[1]]));
    let records = read_part(file, start + 12, u64::from(count) * 16)?;
    let number = |record: &[u8], at: usize| {
        u32::from_be_bytes([record[at], record[at + 1], record[at + 2], record[at + 3]])
    };
    let mut tables = Vec::new();
    for record in records.as_chunks::<16>().0 {
        if let Some(tag) = WANTED.iter().find(|tag| record.starts_with(**tag)) {
            let table = read_part(file, number(record, 8).into(), number(record, 12).into())?;
            tables.push((Tag::new(tag), table));
        }
    }
    let signature = header.first_chunk().copied().unwrap_or_default();
    Ok(assemble(signature, &tables))
}

/// The name and the look of a face: by `OS/2`, or by `head` where that is
/// missing.
fn describe(font: &[u8], path: &Path, index: u32) -> Result<InstalledFace, FontError> {
    let directory = Directory::read(font, 0)?;
    let name = |id| read_name(&directory, font, id);
    let narrow = name(NameId::FAMILY);
    let family = name(NameId::TYPOGRAPHIC_FAMILY).or_else(|| narrow.clone());
    let family = family.ok_or(FontError::MissingTable(Tag::new(b"name")))?;
    let style = name(NameId::TYPOGRAPHIC_SUBFAMILY).or_else(|| name(NameId::SUBFAMILY));
    let (weight, width, slant) = match directory.table(font, b"OS/2") {
        Some(os2) => {
            let selection = os2.u16(62)?;
            let slant = match (selection & 1, selection & (1 << 9)) {
                (_, oblique) if oblique != 0 => Slant::Oblique,
                (0, _) => Slant::Normal,
                _ => Slant::Italic,
            };
            (os2.u16(4)?, os2.u16(6)?, slant)
        }
        None => {
            let style = directory.required(font, b"head")?.u16(44)?;
            let weight = if style & 1 != 0 { 700 } else { 400 };
            let slant = if style & 2 != 0 {
                Slant::Italic
            } else {
                Slant::Normal
            };
            (weight, 5, slant)
        }
    };
    Ok(InstalledFace {
        narrow_family: narrow.filter(|narrow| *narrow != family),
        family,
        style: style.unwrap_or_default(),
        weight: weight.clamp(1, 1000),
        width: width.clamp(1, 9),
        slant,
        path: path.to_owned(),
        index,
    })
}
