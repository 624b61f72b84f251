//! Names of glyphs and of faces, in every way a font can write them.

use kerno::Face;
use kerno::font::{GlyphId, NameId};

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
    let spoken = |platform: i32, encoding: i32, language: i32, text: &[u8]| {
        let record = [1, platform, encoding, language, 1, text.len() as i32, 0];
        let table = [
            words(&[0]),
            words(&record[..1]),
            words(&[18]),
            words(&record[1..]),
        ];
        let table = [table.concat(), text.to_vec()].concat();
        font(1).table(b"name", table).face().name(NameId::FAMILY)
    };
    let named = |platform, encoding, text: &[u8]| spoken(platform, encoding, 0, text);
    let lamp = Some("灯".to_owned());
    // U+706F; 0x93 0x94 in Shift_JIS, 0xb5 0xc6 in GBK as the simplified form.
    assert_eq!(named(0, 3, &[0x70, 0x6f]), lamp);
    assert_eq!(named(3, 10, &[0x70, 0x6f]), lamp);
    assert_eq!(named(3, 2, &[0x93, 0x94]), lamp);
    assert_eq!(named(1, 1, &[0x93, 0x94]), lamp);
    assert_eq!(named(3, 3, &[0xb5, 0xc6]), lamp);
    // Mac OS Roman: 0x8e is an e with an acute accent.
    assert_eq!(named(1, 0, b"F\x8ee"), Some("Fée".to_owned()));
    // Script 33 of the Macintosh is past the last one.
    assert_eq!(named(1, 33, b"a"), None);
    // The Macintosh sets: Arabic seen, Hebrew alef, Greek ω, Thai ko kai, č.
    assert_eq!(named(1, 4, &[0xd3, 0xb1]), Some("س١".to_owned()));
    assert_eq!(spoken(1, 4, 31, &[0xd3, 0xb1]), Some("س۱".to_owned()));
    assert_eq!(named(1, 5, &[0xe0]), Some("א".to_owned()));
    assert_eq!(named(1, 6, &[0xf6]), Some("ω".to_owned()));
    assert_eq!(named(1, 21, &[0xa1]), Some("ก".to_owned()));
    assert_eq!(named(1, 29, &[0x8b]), Some("č".to_owned()));
    // ISCII: ka is B3, in Devanagari, Gurmukhi and Gujarati.
    assert_eq!(named(1, 9, &[0xb3, 0xf1]), Some("क०".to_owned()));
    assert_eq!(named(1, 10, &[0xb3, 0xa0]), Some("ਕ\u{fffd}".to_owned()));
    assert_eq!(named(1, 11, &[0xb3, 0xea]), Some("ક।".to_owned()));
    // Icelandic, Croatian and Turkish have Roman sets of their own.
    assert_eq!(spoken(1, 0, 15, &[0xde, 0x8e]), Some("Þé".to_owned()));
    assert_eq!(spoken(1, 0, 18, &[0xc8]), Some("Č".to_owned()));
    assert_eq!(spoken(1, 0, 17, &[0xdd]), Some("ı".to_owned()));
}

/// KS X 1001, annex 3: five bits each for the parts of a syllable. 한글 is
/// h (20), a (3), n (5); g (2), eu (27), l (9).
#[test]
fn johab_is_put_together_from_its_parts() {
    let code = |first: u16, vowel: u16, last: u16| {
        (0x8000 | first << 10 | vowel << 5 | last)
            .to_be_bytes()
            .to_vec()
    };
    let text = |bytes: &[u8]| {
        let table = [
            words(&[0, 1, 18, 3, 6, 0, 1, bytes.len() as i32, 0]),
            bytes.to_vec(),
        ];
        let face = font(1).table(b"name", table.concat()).face();
        face.name(NameId::FAMILY).expect("a name")
    };
    let hangul = [code(20, 3, 5), code(2, 27, 9)].concat();
    assert_eq!(text(&hangul), "한글");
    // The lone letter h, the Han character 伽 that begins the standard's part of
    // them, and the ideographic space that begins its signs.
    assert_eq!(text(&code(20, 2, 1)), "ㅎ");
    assert_eq!(text(&[0xe0, 0x31, 0xd9, 0x31, b'A', b'\\']), "伽\u{3000}A₩");
    // A number left out, and half a character.
    assert_eq!(text(&code(2, 9, 1)), "\u{fffd}");
    assert_eq!(text(&[0x88]), "\u{fffd}");
}
