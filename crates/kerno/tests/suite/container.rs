//! Fonts in collections and packed ones.

use std::io::Write;

use flate2::Compression;
use flate2::write::{GzEncoder, ZlibEncoder};
use kerno::base::Limits;
use kerno::font::{FontError, GlyphId, Synthesis, TableFault};
use kerno::outline::Outline;
use kerno::{Face, Style, TextLayout};

use crate::support::{AVERIA, FontBuilder, LATO, lato, polygon, prepared, prepared_with, words};

/// A font file moved by `by` bytes: every offset of its directory counts from
/// the start of the collection.
fn moved(font: &[u8], by: u32) -> Vec<u8> {
    let mut font = font.to_vec();
    let tables = u16::from_be_bytes([font[4], font[5]]);
    for record in (12..).step_by(16).take(tables.into()) {
        let at = record + 8;
        let offset = u32::from_be_bytes(font[at..at + 4].try_into().expect("four bytes"));
        font[at..at + 4].copy_from_slice(&(offset + by).to_be_bytes());
    }
    font
}

#[test]
fn every_face_of_a_collection_opens() {
    let glyph = polygon(&[(0, 0), (100, 0), (0, 40)]);
    let fonts = [1, 3].map(|count| FontBuilder::new(&vec![glyph.clone(); count]).build());
    let starts = [20, 20 + fonts[0].len() as u32];
    let mut file = b"ttcf".to_vec();
    file.extend(words(&[1, 0, 0, 2]));
    file.extend(starts.iter().flat_map(|start| start.to_be_bytes()));
    for (font, start) in fonts.iter().zip(starts) {
        file.extend(moved(font, start));
    }
    assert_eq!(Face::count_in(&file).expect("a header"), 2);
    let open = |face| Face::from_bytes_with(file.clone(), face, Limits::default());
    assert_eq!(open(0).expect("the first").glyph_count(), 1);
    assert_eq!(open(1).expect("the second").glyph_count(), 3);
    assert_eq!(
        Face::from_bytes(file.clone())
            .expect("the first")
            .glyph_count(),
        1
    );
    assert!(matches!(
        open(2),
        Err(FontError::NoSuchFace { face: 2, count: 2 })
    ));
    assert!(Face::count_in(&file[..18]).is_err());
    assert_eq!(Face::count_in(LATO).expect("one face"), 1);
}

/// A WOFF file of a font; tables that zlib makes no smaller are stored.
fn woff(font: &[u8]) -> Vec<u8> {
    let number = |at: usize| u32::from_be_bytes(font[at..at + 4].try_into().expect("four bytes"));
    let count = usize::from(u16::from_be_bytes([font[4], font[5]]));
    let mut file = b"wOFF".to_vec();
    file.extend(&font[..4]);
    file.resize(44 + 20 * count, 0);
    file[12..14].copy_from_slice(&(count as u16).to_be_bytes());
    for index in 0..count {
        let record = 12 + 16 * index;
        let (start, length) = (number(record + 8) as usize, number(record + 12) as usize);
        let table = &font[start..start + length];
        let mut encoder = ZlibEncoder::new(Vec::new(), Compression::default());
        encoder.write_all(table).expect("memory");
        let packed = encoder.finish().expect("memory");
        let stored = if packed.len() < length {
            &packed
        } else {
            table
        };
        let entry = 44 + 20 * index;
        let (offset, size) = (file.len() as u32, stored.len() as u32);
        file[entry..entry + 4].copy_from_slice(&font[record..record + 4]);
        for (at, number) in [(4, offset), (8, size), (12, length as u32)] {
            file[entry + at..entry + at + 4].copy_from_slice(&number.to_be_bytes());
        }
        file.extend(stored);
        file.resize(file.len().next_multiple_of(4), 0);
    }
    file
}

#[test]
fn a_packed_font_is_the_font() {
    let packed = woff(LATO);
    assert!(packed.len() < LATO.len() * 3 / 4);
    let (face, plain) = (Face::from_bytes(packed).expect("a font"), lato());
    assert_eq!(face.full_name(), "Lato Medium");
    assert!(face.characters().eq(plain.characters()));
    for glyph in (0..face.glyph_count()).map(GlyphId) {
        assert_eq!(face.advance(glyph), plain.advance(glyph));
        assert_eq!(
            face.bounds(glyph).expect("a box"),
            plain.bounds(glyph).expect("a box")
        );
    }
}

#[test]
fn a_packed_font_keeps_to_its_limits() {
    let packed = woff(AVERIA);
    let open = |bytes: &[u8], size| {
        let mut limits = Limits::default();
        limits.font_bytes = size;
        prepared_with(bytes.to_vec(), limits)
    };
    // Directory and padded tables: what the plain file takes, or a few more.
    let size = AVERIA.len() as u64 + 64;
    assert!(open(&packed, size).is_ok());
    assert!(matches!(
        open(&packed, size / 2),
        Err(FontError::Unpacked { .. })
    ));
    // A table that states more than its stream holds.
    let glyf = packed
        .windows(4)
        .position(|tag| tag == b"glyf")
        .expect("an entry");
    let mut longer = packed.clone();
    longer[glyf + 15] ^= 1;
    longer[glyf + 14] = longer[glyf + 14].wrapping_add(1);
    assert!(matches!(
        open(&longer, u64::MAX),
        Err(FontError::Table {
            fault: TableFault::BadValue { .. },
            ..
        })
    ));
    for length in (0..packed.len()).step_by(61) {
        assert!(
            prepared(packed[..length].to_vec()).is_err(),
            "cut at {length}"
        );
    }
}

#[test]
fn what_is_found_out_late_is_told_by_all_that_can_fail() {
    // The directory is as it should be, the glyphs are not.
    let mut packed = woff(AVERIA);
    let entry = packed.windows(4).position(|tag| tag == b"glyf");
    let entry = entry.expect("an entry");
    let at = u32::from_be_bytes(*packed[entry + 4..].first_chunk().expect("an offset"));
    packed[at as usize + 40] ^= 0xff;
    let face = Face::from_bytes(packed.clone()).expect("a directory");
    // Asked first for what can't fail, it has nothing; then it says why.
    assert_eq!((face.glyph('A'), face.glyph_count()), (None, 1));
    let told = |error: FontError| error.to_string();
    let reason = told(face.prepare().expect_err("damaged"));
    assert!(reason.starts_with("table 'glyf'"), "{reason}");
    let mut outline = Outline::new();
    let results = [
        face.outline(GlyphId(0), &mut outline),
        face.bounds(GlyphId(0)).map(drop),
        face.strike(12).map(drop),
        face.synthesized(Synthesis::BOLD).map(drop),
        prepared(packed).map(drop),
    ];
    for result in results {
        assert_eq!(told(result.expect_err("damaged")), reason);
    }
    let layout = TextLayout::new("Fog", &Style::new(&face, 12.0));
    assert_eq!(layout.expect_err("damaged").to_string(), reason);
    // One packed in another is not unpacked on and on.
    let mut twice = GzEncoder::new(Vec::new(), Compression::fast());
    twice.write_all(&woff(AVERIA)).expect("memory");
    let refused = prepared(twice.finish().expect("memory"));
    assert!(matches!(refused, Err(FontError::NotAFont(_))));
}
