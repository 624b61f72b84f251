//! WOFF 2: files put together by the standard's text, and what is wrong with others.

use kerno::Face;
use kerno::base::Limits;
use kerno::font::{FontError, GlyphId};
use kerno::outline::Outline;

use crate::hostile::damage;
use crate::support::{
    FontBuilder, LATO, composite, lato, long, polygon, prepared, prepared_with, word, words,
};

/// Brotli's stored form (RFC 7932, section 9.2): nothing is packed.
fn stored(bytes: &[u8]) -> Vec<u8> {
    // A window of 2^16; each block: not the last one, four digits of length, stored.
    let mut packed = Vec::new();
    for (index, block) in bytes.chunks(1 << 16).enumerate() {
        let length = block.len() as u32 - 1;
        let header = (length << 3) | (1 << 19);
        // The first one has the bit of the window before.
        let header = if index == 0 { header << 1 } else { header };
        packed.extend(&header.to_le_bytes()[..3]);
        packed.extend(block);
    }
    // The last one, empty.
    packed.push(0b11);
    packed
}

/// A number in base 128.
fn base128(number: usize) -> Vec<u8> {
    let mut bytes = vec![(number & 0x7f) as u8];
    let mut rest = number >> 7;
    while rest > 0 {
        bytes.insert(0, (rest & 0x7f) as u8 | 0x80);
        rest >>= 7;
    }
    bytes
}

/// A table: its tag, the version of its transform, its length and what is packed of it.
type Packed = ([u8; 4], u8, usize, Vec<u8>);

/// A file of tables, all with their tags spelled out; `fonts` for a collection.
fn woff2(tables: &[Packed], flavor: &[u8; 4], fonts: &[u8]) -> Vec<u8> {
    let mut directory = Vec::new();
    for (tag, version, length, packed) in tables {
        directory.push(63 | version << 6);
        directory.extend(tag);
        directory.extend(base128(*length));
        let is_outline = matches!(tag, b"glyf" | b"loca");
        if (is_outline && *version == 0) || (!is_outline && *version > 0) {
            directory.extend(base128(packed.len()));
        }
    }
    directory.extend(fonts);
    let data: Vec<u8> = tables
        .iter()
        .flat_map(|(.., packed)| packed.clone())
        .collect();
    let data = stored(&data);
    let mut file = b"wOF2".to_vec();
    file.extend(flavor);
    let length = (48 + directory.len() + data.len()) as u32;
    file.extend(length.to_be_bytes());
    file.extend(words(&[tables.len() as i32, 0, 0, 0]));
    file.extend((data.len() as u32).to_be_bytes());
    file.resize(48, 0);
    file.extend(directory);
    file.extend(data);
    file
}

/// The tables of a font, as they are.
fn plain(font: &[u8]) -> Vec<Packed> {
    let count = usize::from(word(font, 4));
    let table = |index: usize| {
        let at = 12 + index * 16;
        let tag: [u8; 4] = font[at..at + 4].try_into().expect("four bytes");
        let (start, length) = (long(font, at + 8), long(font, at + 12));
        let version = if matches!(&tag, b"glyf" | b"loca") {
            3
        } else {
            0
        };
        (tag, version, length, font[start..start + length].to_vec())
    };
    (0..count).map(table).collect()
}

fn outline(face: &Face, glyph: u16) -> Vec<kerno::outline::Segment> {
    let mut outline = Outline::new();
    face.outline(GlyphId(glyph), &mut outline)
        .expect("an outline");
    outline.segments().collect()
}

fn assert_same(own: &Face, other: &Face) {
    assert_eq!(own.glyph_count(), other.glyph_count());
    for glyph in 0..own.glyph_count() {
        assert_eq!(outline(own, glyph), outline(other, glyph), "glyph {glyph}");
        let id = GlyphId(glyph);
        assert_eq!(own.advance(id), other.advance(id));
        assert_eq!(own.left_side_bearing(id), other.left_side_bearing(id));
    }
}

#[test]
fn tables_that_are_packed_as_they_are() {
    let file = woff2(&plain(LATO), &[0, 1, 0, 0], &[]);
    assert_same(&prepared(file).expect("a font"), &lato());
    let error = Face::from_bytes_with(
        woff2(&plain(LATO), &[0, 1, 0, 0], &[]),
        1,
        Limits::default(),
    );
    assert!(matches!(error, Err(FontError::NoSuchFace { count: 1, .. })));
}

/// Three glyphs: none, a polygon with steps of every kind, a composite of it.
fn glyphs() -> [Vec<u8>; 3] {
    let points = [
        (10, 20),
        (10, 320),
        (50, 335),
        (350, 1035),
        (3350, 5),
        (-4500, -300),
    ];
    [vec![], polygon(&points), composite(&[3, 1, 100, 50])]
}

fn font() -> FontBuilder {
    // Side bearings are the left edges.
    FontBuilder::new(&glyphs()).table(b"hmtx", words(&[500, 0, 600, -4500, 700, 0]))
}

/// The same as streams (section 5.1), with the box of the composite.
fn transformed() -> Vec<u8> {
    let contours = words(&[0, 1, -1]);
    let points = vec![6];
    // On the curve: no bit 7. Steps: (10, 20), (0, 300), (40, 15), (300, 700), (3000, -1030),
    // (-7850, -305).
    let flags = vec![
        // 20 to 83: 1 + 0 + 9 right, 1 + 16 + 3 up; both signs are set.
        20 + 4 + 3,
        // 0 to 9: up by 256 + 44.
        2 + 1,
        // 20 to 83: 1 + 32 + 7, 1 + 0 + 14.
        20 + 32 + 3,
        // 84 to 119: 1 + 256 + 43, 1 + 512 + 187.
        84 + 12 + 8 + 3,
        // 120 to 123: 3000 right, 1030 down.
        120 + 1,
        // 124 to 127: 7850 left, 305 down.
        124,
    ];
    let mut glyphs = vec![0x93, 44, 0x7e, 43, 187];
    glyphs.extend([(3000 >> 4) as u8, ((3000 & 15) << 4 | 1030 >> 8) as u8, 6]);
    glyphs.extend([(7850 >> 8) as u8, (7850 & 255) as u8, 1, 49]);
    // No instructions.
    glyphs.push(0);
    let composites = words(&[3, 1, 100, 50]);
    let mut boxes = vec![0b0010_0000, 0, 0, 0];
    boxes.extend(&self::glyphs()[2][2..10]);
    let streams = [contours, points, flags, glyphs, composites, boxes, vec![]];
    let mut table = words(&[0, 0, 3, 0]);
    for stream in &streams {
        table.extend((stream.len() as u32).to_be_bytes());
    }
    table.extend(streams.iter().flatten());
    table
}

fn packed() -> Vec<Packed> {
    let mut tables = plain(&font().build());
    for (tag, version, _, packed) in &mut tables {
        match &*tag {
            b"glyf" => (*version, *packed) = (0, transformed()),
            b"loca" => (*version, *packed) = (0, vec![]),
            // Three advances, no side bearings.
            b"hmtx" => {
                let mut own = vec![3];
                own.extend(words(&[500, 600, 700]));
                (*version, *packed) = (1, own);
            }
            _ => {}
        }
    }
    tables
}

#[test]
fn outlines_and_metrics_that_were_rewritten() {
    let face = prepared(woff2(&packed(), &[0, 1, 0, 0], &[])).expect("a font");
    assert_same(&face, &font().face());
}

#[test]
fn collections_share_their_tables() {
    let tables = packed();
    // Two fonts of all tables.
    let mut fonts = words(&[1, 0]);
    fonts.push(2);
    for _ in 0..2 {
        fonts.push(tables.len() as u8);
        fonts.extend([0, 1, 0, 0]);
        fonts.extend(0..tables.len() as u8);
    }
    let file = woff2(&tables, b"ttcf", &fonts);
    let face = Face::from_bytes_with(file.clone(), 1, Limits::default()).expect("a font");
    face.prepare().expect("a font");
    assert_same(&face, &font().face());
    let error = Face::from_bytes_with(file, 2, Limits::default());
    assert!(matches!(error, Err(FontError::NoSuchFace { count: 2, .. })));
}

#[test]
fn files_that_lie_are_refused() {
    let whole = woff2(&packed(), &[0, 1, 0, 0], &[]);
    for length in 0..whole.len() {
        assert!(
            prepared(whole[..length].to_vec()).is_err(),
            "{length} bytes"
        );
    }
    damage(&whole);
    let said = |tables: &[Packed], limits: Limits| {
        let file = woff2(tables, &[0, 1, 0, 0], &[]);
        prepared_with(file, limits)
            .expect_err("a fault")
            .to_string()
    };
    // A table of a gigabyte, says the directory.
    let mut tables = packed();
    tables[0].2 = 1 << 30;
    let limits = Limits::default();
    assert!(
        said(&tables, limits.clone()).contains("unpacked"),
        "{}",
        said(&tables, limits)
    );
    // More than there is to unpack.
    let mut tables = packed();
    tables[0].2 += 1;
    let message = said(&tables, Limits::default());
    assert!(
        message.contains("does not unpack to the lengths"),
        "{message}"
    );
    let mut tables = packed();
    tables[0].1 = 2;
    let message = said(&tables, Limits::default());
    assert!(message.contains("no such transform"), "{message}");
}
