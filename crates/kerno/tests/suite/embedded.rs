//! Bitmap strikes inside OpenType fonts, in every form of index and picture.

use kerno::Face;
use kerno::base::Edges;
use kerno::font::{FontError, GlyphId};
use kerno::raster::{GlyphRequest, Rasterizer};

use crate::hostile::damage;
use crate::support::{FontBuilder, cmap12, prepared, words};

/// A range of glyphs in `EBLC`: first and last glyph, index subtable.
type Part = (i32, i32, Vec<u8>);

/// Index and data tables of one strike of 8 pixels, as OpenType `EBLC` has them.
fn strike(parts: &[Part], data: &[u8], depth: u8) -> FontBuilder {
    let mut eblc = words(&[2, 0, 0, 1]);
    let array = 56 + 8 * parts.len() as i32;
    eblc.extend(words(&[0, 56, 0, 0, 0, parts.len() as i32, 0, 0]));
    eblc.extend([6, 0xfe, 8, 0, 0, 0, 0, 0, 0, 0, 0, 0]); // 6 up, 2 down
    eblc.extend([0; 12]);
    eblc.extend(words(&[0, 9]));
    eblc.extend([8, 8, depth, 1]);
    let mut at = array - 56;
    for (first, last, subtable) in parts {
        eblc.extend(words(&[*first, *last, 0, at]));
        at += subtable.len() as i32;
    }
    eblc.extend(parts.iter().flat_map(|(.., subtable)| subtable.clone()));
    let mut ebdt = words(&[2, 0]);
    ebdt.extend(data);
    FontBuilder::new(&vec![vec![]; 10])
        .without(b"glyf")
        .without(b"loca")
        .table(b"cmap", cmap12(&[[0x41, 0x4a, 0]]))
        .table(b"EBLC", eblc)
        .table(b"EBDT", ebdt)
}

/// The place of a glyph's ink at 8 pixels, and its rows of texels.
fn picture(face: &Face, glyph: u16) -> (i32, i32, Vec<String>) {
    let mut rasterizer = Rasterizer::new();
    let ink = rasterizer
        .glyph(&GlyphRequest::new(face, GlyphId(glyph), 8.0).treatment(Edges::Hard))
        .expect("a picture");
    let dot = |texel: &u8| if *texel == 0 { '.' } else { '#' };
    let rows = ink.texels.chunks(ink.width.max(1) as usize);
    let rows = rows.map(|row| row.iter().map(dot).collect());
    (ink.left, ink.top, rows.collect())
}

/// Two pixels high, three wide, one right of the pen, two above the baseline, and
/// an advance of five.
const METRICS: [u8; 5] = [2, 3, 1, 2, 5];

#[test]
fn every_index_and_picture_format_is_read() {
    // The picture `#.#` over `.##`: in bytes, or bit by bit.
    let (by_bytes, by_bits) = ([0b1010_0000, 0b0110_0000], [0b1010_1100]);
    let mut data = Vec::new();
    let mut put = |bytes: &[&[u8]]| {
        let start = data.len() as i32 + 4;
        data.extend(bytes.concat());
        (start, data.len() as i32 + 4)
    };
    let big = [&METRICS[..], &[0; 3]].concat();
    let format_1 = put(&[&METRICS, &by_bytes]);
    let format_2 = put(&[&METRICS, &by_bits]);
    let format_5 = put(&[&by_bits]);
    let format_6 = put(&[&big, &by_bytes]);
    let format_7 = put(&[&big, &by_bits]);
    // Glyph 1, and again one to the right and one down.
    let parts = [0, 1, 0, 0, 0, 1, 1, 1];
    let format_8 = put(&[&[3, 4, 1, 3, 6], &[0, 0, 2], &parts]);
    let format_9 = put(&[&[3, 4, 1, 3, 6, 0, 0, 0], &[0, 2], &parts]);
    let shared = |format: i32, start: i32| {
        let head = words(&[format, 5, 0, start, 0, 1]);
        [head, big.clone()].concat()
    };
    let font = strike(
        &[
            // Index formats 1 and 3: where each glyph starts; 1 with long words.
            (1, 1, words(&[1, 1, 0, 0, 0, format_1.0, 0, format_1.1])),
            (
                2,
                2,
                words(&[3, 2, 0, format_2.0, 0, format_2.1 - format_2.0]),
            ),
            // 2: all of one size and shape; 5: the same, for the glyphs listed.
            (3, 3, shared(2, format_5.0)),
            (4, 6, [shared(5, format_5.0), words(&[0, 1, 5])].concat()),
            // 4: pairs of glyph and place.
            (
                7,
                7,
                words(&[4, 6, 0, 0, 0, 1, 7, format_6.0, 0, format_6.1]),
            ),
            (8, 8, words(&[3, 7, 0, 0, format_7.0, format_7.1])),
            (9, 9, words(&[3, 8, 0, 0, format_8.0, format_8.1])),
            (0, 0, words(&[3, 9, 0, 0, format_9.0, format_9.1])),
        ],
        &data,
        1,
    );
    let face = font.face();
    assert_eq!(
        (face.strike_size(), face.metrics().ascender),
        (Some(8), 6 * 64)
    );
    for glyph in [1, 2, 3, 5, 7, 8] {
        assert_eq!(
            picture(&face, glyph),
            (1, -2, vec!["#.#".to_owned(), ".##".to_owned()]),
            "{glyph}"
        );
        assert_eq!(face.advance(GlyphId(glyph)), 5 * 64, "{glyph}");
    }
    let both = ["#.#.", ".###", "..##"].map(str::to_owned).to_vec();
    assert_eq!(picture(&face, 9), (1, -3, both.clone()));
    assert_eq!(picture(&face, 0), (1, -3, both));
    // Glyph 4 is in the range of a list that does not name it.
    assert_eq!(picture(&face, 4).2, Vec::<String>::new());
    assert_eq!(face.glyph('B'), Some(GlyphId(1)));
}

#[test]
fn strikes_of_several_bits_are_soft() {
    // Two bits a pixel: 3 1 0 over 0 2 3.
    let data = [&METRICS[..], &[0b1101_0000, 0b0010_1100]].concat();
    let range = vec![(1, 1, words(&[3, 1, 0, 4, 0, 7]))];
    let face = strike(&range, &data, 2).face();
    let soft = face.picture(GlyphId(1)).expect("a picture");
    assert_eq!((soft.left, soft.top, soft.is_tinted), (1, -2, true));
    let levels: Vec<u8> = soft
        .image
        .pixels()
        .iter()
        .skip(3)
        .step_by(4)
        .copied()
        .collect();
    assert_eq!(levels, [255, 85, 0, 0, 170, 255]);
}

#[test]
fn strikes_that_cannot_be_read_say_why() {
    let refused = |parts: &[Part], data: &[u8], depth: u8| {
        let error = prepared(strike(parts, data, depth).build());
        error.expect_err("a wrong strike").to_string()
    };
    let range = |image: i32, end: i32| vec![(1, 1, words(&[3, image, 0, 4, 0, end]))];
    assert!(refused(&range(1, 7), &[0; 7], 3).contains("8 bits a pixel"));
    assert!(refused(&range(4, 7), &[0; 7], 1).contains("imageFormat is 4"));
    assert!(refused(&range(1, 90), &[0; 7], 1).contains("'EBDT'"));
    // A composite of itself.
    let own = [&METRICS[..], &[0, 0, 1, 0, 1, 0, 0]].concat();
    assert!(refused(&range(8, 12), &own, 1).contains("contains itself"));
    let whole = strike(&range(1, 7), &[2, 3, 1, 2, 5, 0xa0, 0x60], 1).build();
    damage(&whole);
    let face = Face::from_bytes(whole).expect("a font");
    let error = face.strike(9).expect_err("no such strike");
    assert!(matches!(&error, FontError::NoSuchStrike { pixels: 9, known } if *known == [8]));
}

#[test]
fn strikes_stand_in_for_outlines_that_draw_nothing() {
    // A picture of 3 × 2 pixels whose metrics say that it takes no room; in `hmtx` glyph 1
    // is 510 units of 1000 wide, at 8 pixels 4.
    let metrics = [2, 3, 1, 2, 0];
    let data = [&metrics[..], &[0b1010_0000, 0b0110_0000]].concat();
    let parts = [(1, 1, words(&[1, 1, 0, 0, 0, 4, 0, 11]))];
    let font = strike(&parts, &data, 1);
    let bare = prepared(font.build()).expect("a font");
    assert_eq!(
        (bare.advance(GlyphId(1)), bare.strike_size()),
        (4 * 64, Some(8))
    );
    // Outlines that are there, and all of them empty.
    let blank = font
        .clone()
        .table(b"glyf", vec![0; 4])
        .table(b"loca", vec![0; 44]);
    let blank = prepared(blank.build()).expect("a font");
    assert_eq!(blank.strike_size(), Some(8));
    assert_eq!(picture(&blank, 1), picture(&bare, 1));
}

#[test]
fn a_font_of_colour_pictures_says_that_it_is_one() {
    let font = FontBuilder::new(&vec![vec![]; 2])
        .without(b"glyf")
        .without(b"loca")
        .table(b"SVG ", vec![0; 8]);
    let error = Face::from_bytes(font.build()).expect_err("no outlines");
    assert!(matches!(error, FontError::ColorOnly(_)), "{error}");
    assert!(
        error
            .to_string()
            .contains("pictures of the table 'SVG ' only"),
        "{error}"
    );
}
