//! Names of glyphs and of faces, in every way a font can write them.

use kerno::{Face, GlyphId, NameId};

use crate::support::{FontBuilder, polygon, words};

fn font(glyphs: usize) -> FontBuilder {
    FontBuilder::new(&vec![polygon(&[(0, 0), (9, 0), (0, 9)]); glyphs])
}

fn glyph_names(face: &Face) -> Vec<Option<String>> {
    (0..face.glyph_count())
        .map(|glyph| face.glyph_name(GlyphId(glyph)))
        .collect()
}

#[test]
fn glyphs_are_named_by_post() {
    // OpenType `post`: 32 bytes of other things come first.
    let post = |version: i32, rest: &[u8]| {
        let mut table = words(&[version, 0]);
        table.resize(32, 0);
        [&table, rest].concat()
    };
    // Format 1: the standard order, of which 3 is the space and 36 a capital A.
    let names = glyph_names(&font(37).table(b"post", post(1, &[])).face());
    assert_eq!(names[3].as_deref(), Some("space"));
    assert_eq!(names[36].as_deref(), Some("A"));
    // Format 2: number 257, the last standard one, and two of the font's own.
    let own = [words(&[3, 257, 259, 258]), b"\x03oar\x04bell".to_vec()].concat();
    let names = glyph_names(&font(3).table(b"post", post(2, &own)).face());
    assert_eq!(
        names,
        ["dcroat", "bell", "oar"].map(|name| Some(name.to_owned()))
    );
    // Format 3: none.
    let names = glyph_names(&font(2).table(b"post", post(3, &[])).face());
    assert_eq!(names, [None, None]);
}

#[test]
fn family_names_are_read_in_the_encodings_of_their_platforms() {
    let named = |platform: i32, encoding: i32, text: &[u8]| {
        let record = [1, platform, encoding, 0, 1, text.len() as i32, 0];
        let table = [
            words(&[0]),
            words(&record[..1]),
            words(&[18]),
            words(&record[1..]),
        ];
        let table = [table.concat(), text.to_vec()].concat();
        font(1).table(b"name", table).face().name(NameId::FAMILY)
    };
    let lamp = Some("灯".to_owned());
    // U+706F; 0x93 0x94 in Shift_JIS, 0xb5 0xc6 in GBK as the simplified form.
    assert_eq!(named(0, 3, &[0x70, 0x6f]), lamp);
    assert_eq!(named(3, 10, &[0x70, 0x6f]), lamp);
    assert_eq!(named(3, 2, &[0x93, 0x94]), lamp);
    assert_eq!(named(1, 1, &[0x93, 0x94]), lamp);
    assert_eq!(named(3, 3, &[0xb5, 0xc6]), lamp);
    // Mac OS Roman: 0x8e is an e with an acute accent.
    assert_eq!(named(1, 0, b"F\x8ee"), Some("Fée".to_owned()));
    // Johab and the Arabic Macintosh are in no encoding that is known.
    assert_eq!(named(3, 6, &[0x88, 0x61]), None);
}
