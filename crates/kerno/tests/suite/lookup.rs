//! Characters and pairs through every format of `cmap`, `GPOS` and `kern`, in
//! tables of a few words whose answers can be read off.

use kerno::Face;
use kerno::font::GlyphId;

use crate::support::{FontBuilder, polygon, words};

fn font() -> FontBuilder {
    FontBuilder::new(&vec![polygon(&[(0, 0), (9, 0), (0, 9)]); 10])
}

/// A `cmap` of one subtable.
fn cmap(platform: i32, encoding: i32, subtable: Vec<u8>) -> Vec<u8> {
    let mut table = words(&[0, 1, platform, encoding, 0, 12]);
    table.extend(subtable);
    table
}

fn mapped(table: Vec<u8>) -> Face {
    font().table(b"cmap", table).face()
}

#[test]
fn every_format_of_character_map_is_read() {
    // OpenType `cmap`, formats 0, 6, 10 and 13.
    let mut bytes = words(&[0, 262, 0]);
    bytes.extend((0..=255_u8).map(|code| if code == b'A' { 7 } else { 0 }));
    let face = mapped(cmap(1, 0, bytes));
    assert_eq!((face.glyph('A'), face.glyph('B')), (Some(GlyphId(7)), None));

    let face = mapped(cmap(3, 1, words(&[6, 16, 0, 0x41, 3, 5, 0, 6])));
    let glyphs = ['@', 'A', 'B', 'C', 'D'].map(|c| face.glyph(c).map(|glyph| glyph.0));
    assert_eq!(glyphs, [None, Some(5), None, Some(6), None]);

    let trimmed = words(&[10, 0, 0, 24, 0, 0, 1, 0xf6a2, 0, 2, 3, 4]);
    let face = mapped(cmap(3, 10, trimmed));
    assert_eq!(
        (face.glyph('🚢'), face.glyph('🚣')),
        (Some(GlyphId(3)), Some(GlyphId(4)))
    );
    assert_eq!(face.characters().count(), 2);

    let same = words(&[13, 0, 0, 28, 0, 0, 0, 1, 0, 0x41, 0, 0x45, 0, 9]);
    let face = mapped(cmap(0, 4, same));
    assert!(('A'..='E').all(|c| face.glyph(c) == Some(GlyphId(9))));
    assert_eq!(face.glyph('F'), None);
}

#[test]
fn symbol_and_mac_fonts_answer_to_unicode() {
    // A symbol font keeps its codes at U+F000 and up.
    let face = mapped(cmap(3, 0, words(&[6, 14, 0, 0xf041, 2, 5, 6])));
    assert_eq!(
        (face.glyph('A'), face.glyph('\u{f042}')),
        (Some(GlyphId(5)), Some(GlyphId(6)))
    );
    assert_eq!(
        face.characters().map(|(c, _)| c).collect::<String>(),
        "AB\u{f041}\u{f042}"
    );
    // Mac OS Roman 0x8A is ä, 0xD1 an em dash.
    let mut bytes = words(&[0, 262, 0]);
    bytes.extend((0..=255_u8).map(|code| match code {
        0x8a => 3,
        0xd1 => 4,
        _ => 0,
    }));
    let face = mapped(cmap(1, 0, bytes));
    assert_eq!(
        (face.glyph('ä'), face.glyph('—')),
        (Some(GlyphId(3)), Some(GlyphId(4)))
    );
    assert_eq!(face.glyph('Ä'), None);
    assert_eq!(face.characters().map(|(c, _)| c).collect::<String>(), "ä—");
}

#[test]
fn variation_sequences_have_their_own_glyphs() {
    // OpenType `cmap`, format 14, beside a format 6 map of U+8FBB to glyph 2.
    // One selector, U+E0100: U+8FBB is the default; U+845B is glyph 7.
    let mut table = words(&[0, 2, 0, 5, 0, 20, 3, 1, 0, 60]);
    table.extend(words(&[14, 0, 40, 0, 1]));
    table.extend([0x0e, 0x01, 0x00, 0, 0, 0, 21, 0, 0, 0, 29]);
    table.extend([0, 0, 0, 1, 0x00, 0x8f, 0xbb, 0]); // ranges: start, how many more
    table.extend([0, 0, 0, 1, 0x00, 0x84, 0x5b, 0, 7]);
    table.resize(60, 0);
    table.extend(words(&[6, 12, 0, 0x8fbb, 1, 2]));
    let face = mapped(table);
    let selector = '\u{e0100}';
    assert_eq!(face.glyph('辻'), Some(GlyphId(2)));
    assert_eq!(face.variant_glyph('辻', selector), Some(GlyphId(2)));
    assert_eq!(face.variant_glyph('葛', selector), Some(GlyphId(7)));
    assert_eq!(face.variant_glyph('葛', '\u{e0101}'), None);
    assert_eq!(face.variant_glyph('a', selector), None);
}

/// A `GPOS` whose feature `kern` has one lookup of a type with one subtable.
fn gpos(kind: i32, subtable: &[i32]) -> Vec<u8> {
    let mut table = words(&[1, 0, 10, 30, 44]);
    // Scripts: DFLT, its default language names feature 0.
    table.extend(words(&[1, 0x4446, 0x4c54, 8, 4, 0, 0, 0xffff, 1, 0]));
    // Features: kern, lookup 0.
    table.extend(words(&[1, 0x6b65, 0x726e, 8, 0, 1, 0]));
    // Lookups: one, its subtable right behind it.
    table.extend(words(&[1, 4, kind, 0, 1, 8]));
    table.extend(words(subtable));
    table
}

fn kerning(table: Vec<u8>, pairs: &[(u16, u16)]) -> Vec<i32> {
    let face = font().table(b"GPOS", table).face();
    assert!(face.has_kerning());
    let of = |&(left, right)| face.kerning(GlyphId(left), GlyphId(right));
    pairs.iter().map(of).collect()
}

/// Pair adjustment, format 1: glyph 1 before 2 and 5; values with a placement
/// before the advance (0x0005).
const BY_GLYPH: [i32; 18] = [
    1, 12, 5, 0, 1, 18, // format, coverage, two value formats, sets
    1, 1, 1, // coverage of glyph 1
    2, 2, 11, -40, 5, 12, -60, 0, 0, // two pairs: glyph, x placement, x advance
];

#[test]
fn pairs_by_glyph_are_read() {
    let pairs = [(1, 2), (1, 5), (1, 3), (2, 1)];
    assert_eq!(kerning(gpos(2, &BY_GLYPH), &pairs), [-40, -60, 0, 0]);
    // Behind an extension: format 1, of type 2, 8 bytes on.
    let extension = [&[1, 2, 0, 8][..], &BY_GLYPH].concat();
    assert_eq!(kerning(gpos(9, &extension), &pairs), [-40, -60, 0, 0]);
}

#[test]
fn pairs_by_class_are_read() {
    // Format 2: glyphs 1 to 3 covered, 2 in class 1; second glyphs 5 and 6 in
    // class 1; second values of a word each (0x0004) that are passed over.
    let by_class = [
        2, 32, 4, 4, 42, 50, 2, 2, // format, coverage, values, classes, counts
        0, 0, -10, 1, 0, 0, -30, 2, // rows of class 0 and 1, two values a cell
        2, 1, 1, 3, 0, // coverage: one range
        1, 2, 1, 1, // first classes: from glyph 2
        2, 1, 5, 6, 1, // second classes: one range
    ];
    let pairs = [(1, 5), (2, 6), (3, 5), (2, 4), (4, 5)];
    assert_eq!(kerning(gpos(2, &by_class), &pairs), [-10, -30, -10, 0, 0]);
}

#[test]
fn gpos_counts_before_kern_and_only_for_its_feature() {
    let kern = words(&[0, 1, 0, 20, 1, 1, 6, 0, 0, 1, 2, 99]);
    let value = |table: Vec<u8>| {
        let face = font()
            .table(b"kern", kern.clone())
            .table(b"GPOS", table)
            .face();
        face.kerning(GlyphId(1), GlyphId(2))
    };
    assert_eq!(value(gpos(2, &BY_GLYPH)), -40);
    let mut other = gpos(2, &BY_GLYPH);
    other[32..36].copy_from_slice(b"mark");
    assert_eq!(value(other), 99);
}

#[test]
fn kern_by_classes_is_read() {
    // OpenType `kern`, format 2: rows of 4 bytes from byte 14 on. Left class of
    // glyph 2: row at 18; right class of glyph 5: 2 bytes along.
    let table = words(&[
        0, 1, // version, subtables
        0, 36, 0x0201, 4, 22, 28, 14, // header: row width, left, right, array
        0, -5, 0, -25, // two rows of two
        2, 1, 18, // left: first glyph, count, row
        5, 1, 2, // right: first glyph, count, column
    ]);
    let face = font().table(b"kern", table).face();
    let of = |left, right| face.kerning(GlyphId(left), GlyphId(right));
    assert_eq!([of(1, 5), of(2, 5), of(2, 6), of(1, 6)], [-5, -25, 0, 0]);
}

#[test]
fn kern_of_version_1_is_read() {
    // TrueType Reference Manual, `kern`: a long version and count; then for each
    // subtable a long length, coverage and format, and the number of a tuple.
    let header = |length: i32, format: i32| vec![1, 0, 0, 1, 0, length, format, 0];
    let kerning = |table: Vec<i32>| {
        let face = font().table(b"kern", words(&table)).face();
        [(3, 4), (3, 5), (4, 3)].map(|(l, r)| face.kerning(GlyphId(l), GlyphId(r)))
    };
    let pairs = [header(28, 0), vec![2, 0, 0, 0, 3, 4, -70, 3, 5, 20]].concat();
    assert_eq!(kerning(pairs), [-70, 20, 0]);
    // Format 2, offsets from the subtable's start: left class of glyph 3 at the
    // second row, right class of 4 in the second column.
    let classes = vec![4, 24, 30, 16, 0, 0, 0, -40, 3, 1, 20, 4, 1, 2];
    assert_eq!(kerning([header(36, 2), classes].concat()), [-40, 0, 0]);
    // Format 3: ten glyphs, two values, two by two classes.
    let mut small = words(&[header(0, 3), vec![10, 0x0202, 0x0200, 0, -30]].concat());
    small.extend([0, 0, 0, 1, 0, 0, 0, 0, 0, 0]); // left: glyph 3
    small.extend([0, 0, 0, 0, 1, 0, 0, 0, 0, 0]); // right: glyph 4
    small.extend([0, 0, 0, 1]); // value 1 for the second of each
    let face = font().table(b"kern", small).face();
    let kerning = [(3, 4), (3, 5), (4, 4)].map(|(l, r)| face.kerning(GlyphId(l), GlyphId(r)));
    assert_eq!(kerning, [-30, 0, 0]);
}

#[test]
fn vertical_metrics_are_read() {
    let mut vhea = vec![0; 36];
    vhea[35] = 2;
    // Two long metrics, then bearings alone.
    let vmtx = words(&[1000, 20, 900, 30, 40, 50]);
    let face = font().table(b"vhea", vhea).table(b"vmtx", vmtx).face();
    let of = |glyph| {
        (
            face.vertical_advance(GlyphId(glyph)),
            face.top_side_bearing(GlyphId(glyph)),
        )
    };
    assert_eq!(of(0), (Some(1000), Some(20)));
    assert_eq!(of(1), (Some(900), Some(30)));
    assert_eq!(of(3), (Some(900), Some(50)));
    assert_eq!(font().face().vertical_advance(GlyphId(0)), None);
}

#[test]
fn damaged_headers_of_lookups_are_named() {
    let message = |tag: &[u8; 4], table: Vec<u8>| {
        let face = Face::from_bytes(font().table(tag, table).build());
        face.expect_err("a damaged table").to_string()
    };
    let whole = gpos(2, &BY_GLYPH);
    for tag in [b"GSUB", b"GPOS"] {
        let name = String::from_utf8_lossy(tag).into_owned();
        // Bytes 4, 6 and 8 tell where the lists are; 0 is the version.
        for (at, value) in [(4, 0x7f00), (6, 0x7f00), (8, 0x7f00), (0, 2)] {
            let mut table = whole.clone();
            table[at..at + 2].copy_from_slice(&u16::to_be_bytes(value));
            let said = message(tag, table);
            assert!(said.contains(&name), "{said}");
        }
        // The list of scripts is at 10 and says that there are 500 of them.
        let mut table = whole.clone();
        table[10..12].copy_from_slice(&500_u16.to_be_bytes());
        let said = message(tag, table);
        assert!(said.contains(&name) && said.contains("12"), "{said}");
        let said = message(tag, whole[..9].to_vec());
        assert!(said.contains(&name), "{said}");
    }
}

#[test]
fn kerning_of_another_script_is_not_that_of_latin() {
    // The only script is Greek: Latin text goes through none of its lookups, and the
    // table `kern` counts.
    let mut table = gpos(2, &BY_GLYPH);
    table[12..16].copy_from_slice(b"grek");
    let kern = words(&[0, 1, 0, 20, 1, 1, 6, 0, 0, 1, 2, 99]);
    let face = font().table(b"GPOS", table.clone()).face();
    assert!(face.has_kerning());
    assert_eq!(face.kerning(GlyphId(1), GlyphId(2)), 0);
    let face = font().table(b"GPOS", table).table(b"kern", kern).face();
    assert_eq!(face.kerning(GlyphId(1), GlyphId(2)), 99);
}
