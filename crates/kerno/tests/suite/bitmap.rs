//! Bitmap fonts: files of a few rows, and the pixels that come back.

use std::io::Write;

use crate::support::{prepared, prepared_with};
use flate2::Compression;
use flate2::write::GzEncoder;
use kerno::Face;
use kerno::base::Limits;
use kerno::font::{FontError, GlyphId, NameId};
use kerno::raster::{GlyphRequest, Rasterizer};

/// Two glyphs of a font of 8 pixels: an A of 5 × 6 and a comma that hangs two
/// pixels below the baseline (Technical Note 5005, section 2).
const BDF: &str = "STARTFONT 2.1
COMMENT made by hand
FONT -ferry-lamp-bold-r-normal--8-80-72-72-c-60-iso10646-1
SIZE 8 72 72
FONTBOUNDINGBOX 5 8 0 -2
STARTPROPERTIES 4
FAMILY_NAME \"Lamp\"
WEIGHT_NAME \"Bold\"
FONT_ASCENT 6
FONT_DESCENT 2
ENDPROPERTIES
CHARS 2
STARTCHAR A
ENCODING 65
SWIDTH 750 0
DWIDTH 6 0
BBX 5 6 0 0
BITMAP
20
50
88
F8
88
88
ENDCHAR
STARTCHAR comma
ENCODING 44
SWIDTH 375 0
DWIDTH 3 0
BBX 2 3 1 -2
BITMAP
40
40
80
ENDCHAR
ENDFONT
";

fn face(bdf: &str) -> Result<Face, FontError> {
    Face::from_bytes(bdf.as_bytes().to_vec())
}

/// The picture of a character as rows of `#` and `.`, and its left and top.
fn picture(face: &Face, character: char, size: f32) -> (String, i32, i32) {
    let glyph = face.glyph(character).expect("the character");
    let mut rasterizer = Rasterizer::new();
    let picture = rasterizer
        .glyph(&GlyphRequest::new(face, glyph, size))
        .expect("a picture");
    let shade = |texel: &u8| match texel {
        0 => '.',
        255 => '#',
        _ => '?',
    };
    let rows = picture.texels.chunks(picture.width as usize);
    let rows: Vec<String> = rows.map(|row| row.iter().map(shade).collect()).collect();
    (rows.join("\n"), picture.left, picture.top)
}

#[test]
fn the_pixels_of_a_bdf_come_back() {
    let face = face(BDF).expect("a font");
    let letter = "..#..\n.#.#.\n#...#\n#####\n#...#\n#...#".to_owned();
    assert_eq!(picture(&face, 'A', 8.0), (letter, 0, -6));
    assert_eq!(picture(&face, ',', 8.0), (".#\n.#\n#.".to_owned(), 1, -1));
    // Twice as large every pixel is four.
    assert_eq!(
        picture(&face, ',', 16.0).0,
        "..##\n..##\n..##\n..##\n##..\n##.."
    );
    let units = |pixels: u16| pixels * face.metrics().units_per_em / 8;
    let advance = |character| face.advance(face.glyph(character).expect("the character"));
    assert_eq!((advance('A'), advance(',')), (units(6), units(3)));
    assert_eq!(face.metrics().ascender as u16, units(6));
    assert_eq!(-face.metrics().descender as u16, units(2));
    assert_eq!(
        (face.pixels_per_em(), face.crisp_size(11.0)),
        (Some(8.0), Some(8.0))
    );
    assert_eq!(face.name(NameId::FAMILY).as_deref(), Some("Lamp"));
    assert_eq!(
        (face.full_name().as_str(), face.metrics().weight),
        ("Lamp 8", 700)
    );
    assert_eq!(face.characters().map(|(c, _)| c).collect::<String>(), ",A");
    assert_eq!(face.glyph('B'), None);
}

#[test]
fn lines_that_are_wrong_are_named() {
    let error = |from: &str, to: &str| {
        assert!(BDF.contains(from), "{from}");
        face(&BDF.replacen(from, to, 1))
            .expect_err("a wrong line")
            .to_string()
    };
    assert_eq!(
        error("BBX 5 6 0 0", "BBX 5 six 0 0"),
        "BDF, line 17: 4 whole numbers should stand here"
    );
    assert!(error("BBX 5 6 0 0", "BBX 900 6 0 0").starts_with("BDF, line 18: sides of BBX"));
    assert!(error("BBX 5 6 0 0\n", "").contains("has no BBX"));
    assert!(error("BITMAP\n", "").contains("no BITMAP"));
    assert!(error("F8\n", "F\n").starts_with("BDF, line 22: a row of 5 pixels takes 2 digits"));
    assert!(error("F8\n", "FG\n").contains("hexadecimal"));
    assert!(error("88\nENDCHAR", "88\n88\nENDCHAR").contains("ENDCHAR should follow the 6 rows"));
    assert!(error("DWIDTH 6 0", "DWIDTH -6 0").contains("DWIDTH"));
    assert!(error("ENDFONT\n", "").contains("ends before ENDFONT"));
    assert!(error("SIZE 8 72 72", "SIZE 8000 72 72").contains("1 to 255 pixels"));
    // Cut anywhere it is an error; with any byte changed it may be one.
    for length in 10..BDF.len() - 1 {
        assert!(
            face(&BDF[..length]).is_err() || length > BDF.len() - 2,
            "cut at {length}"
        );
    }
    for at in 10..BDF.len() {
        for byte in [b'\n', b'9', b'-', b' ', 0xff] {
            let mut bytes = BDF.as_bytes().to_vec();
            bytes[at] = byte;
            let _ = Face::from_bytes(bytes);
        }
    }
}

/// A PSF 2 font of two glyphs of 9 × 2 pixels, with a Unicode table.
fn psf_2() -> Vec<u8> {
    let mut file = vec![0x72, 0xb5, 0x4a, 0x86];
    for number in [0_u32, 32, 1, 2, 4, 2, 9] {
        file.extend(number.to_le_bytes());
    }
    file.extend([0xff, 0x80, 0x80, 0x80, 0x00, 0x00, 0x0f, 0x00]);
    // Glyph 0: A and Cyrillic А, and a sequence; glyph 1: é.
    file.extend("AА".bytes());
    file.extend([0xfe, b'A', 0xcc, 0x81, 0xff]);
    file.extend("é".bytes());
    file.push(0xff);
    file
}

#[test]
fn the_pixels_of_a_psf_come_back() {
    let face = Face::from_bytes(psf_2()).expect("a font");
    assert_eq!(picture(&face, 'A', 2.0).0, "#########\n#.......#");
    assert_eq!(picture(&face, 'А', 2.0), picture(&face, 'A', 2.0));
    assert_eq!(picture(&face, 'é', 2.0), ("####".to_owned(), 4, -1));
    assert_eq!(face.characters().count(), 3);
    // Version 1: 256 glyphs of 8 × 1, without a table in the order of Unicode.
    let mut file = vec![0x36, 0x04, 0, 1];
    file.extend(0..=255_u8);
    let face = Face::from_bytes(file.clone()).expect("a font");
    assert_eq!(picture(&face, 'U', 1.0).0, "#.#.#.#", "U+0055");
    // With a table: glyph 0x18 is a lamp.
    file[2] = 2;
    for code in 0..256_u16 {
        let character = if code == 0x18 { 0x2600 } else { 0xe000 + code };
        file.extend(character.to_le_bytes());
        file.extend([0xff, 0xff]);
    }
    let face = Face::from_bytes(file).expect("a font");
    assert_eq!(picture(&face, '☀', 1.0), ("##".to_owned(), 3, -1));
}

#[test]
fn damaged_console_fonts_are_refused() {
    let file = psf_2();
    for length in 4..40 {
        assert!(
            prepared(file[..length].to_vec()).is_err(),
            "cut at {length}"
        );
    }
    for at in 4..file.len() {
        for byte in [0, 1, 0x80, 0xff] {
            let mut file = file.clone();
            file[at] = byte;
            let _ = prepared(file);
        }
    }
    let mut wide = file;
    wide[28..32].copy_from_slice(&300_u32.to_le_bytes());
    let error = prepared(wide).expect_err("too wide").to_string();
    assert_eq!(
        error,
        "table 'PSF ', byte 28: width is 300, it must be 1 to 255"
    );
}

#[test]
fn packed_files_unpack_within_limits() {
    let pack = |bytes: &[u8]| {
        let mut encoder = GzEncoder::new(Vec::new(), Compression::default());
        encoder.write_all(bytes).expect("memory");
        encoder.finish().expect("memory")
    };
    let packed = pack(BDF.as_bytes());
    let face = Face::from_bytes(packed.clone()).expect("a font");
    assert_eq!(face.glyph(','), Some(GlyphId(2)));
    let mut limits = Limits::default();
    limits.font_bytes = 1 << 20;
    let bomb = pack(&vec![b' '; 2 << 20]);
    assert!(bomb.len() < 10_000);
    let refused = prepared_with(bomb, limits);
    assert!(matches!(refused, Err(FontError::Unpacked { .. })));
    let cut = prepared(packed[..packed.len() / 2].to_vec());
    assert!(matches!(cut, Err(FontError::NotAFont(_))));
}

/// The layout of a PCF file.
#[derive(Clone, Copy, Debug)]
struct Order {
    big_bytes: bool,
    big_bits: bool,
    /// Bytes that rows are padded to, and bytes in a unit of bits, as powers of
    /// two.
    padding: u32,
    unit: u32,
}

impl Order {
    fn format(self) -> u32 {
        let flag = |is_set: bool, bit: u32| u32::from(is_set) << bit;
        self.padding | flag(self.big_bytes, 2) | flag(self.big_bits, 3) | self.unit << 4
    }

    fn word(self, word: i32) -> Vec<u8> {
        let bytes = (word as u16).to_be_bytes();
        if self.big_bytes {
            bytes.to_vec()
        } else {
            vec![bytes[1], bytes[0]]
        }
    }

    fn long(self, long: usize) -> Vec<u8> {
        let bytes = (long as u32).to_be_bytes();
        if self.big_bytes {
            bytes.to_vec()
        } else {
            bytes.into_iter().rev().collect()
        }
    }

    /// A row of pixels (`#` and `.`): a number for each unit, its bits in the
    /// one order, its bytes in the other.
    fn row(self, row: &str) -> Vec<u8> {
        let (unit, padding) = (8 << self.unit, 8 << self.padding);
        let mut pixels: Vec<bool> = row.chars().map(|pixel| pixel == '#').collect();
        pixels.resize(pixels.len().next_multiple_of(padding), false);
        let number = |unit: &[bool]| {
            let bit = |(place, is_set): (usize, &bool)| {
                let at = if self.big_bits {
                    unit.len() - 1 - place
                } else {
                    place
                };
                u64::from(*is_set) << at
            };
            unit.iter().enumerate().map(bit).sum::<u64>()
        };
        let bytes = |unit: &[bool]| {
            let bytes = &number(unit).to_be_bytes()[8 - unit.len() / 8..];
            if self.big_bytes {
                bytes.to_vec()
            } else {
                bytes.iter().rev().copied().collect()
            }
        };
        pixels.chunks(unit).flat_map(bytes).collect()
    }
}

/// One glyph, 13 pixels wide and two high, for U+0141, as a PCF file.
const PCF_ROWS: [&str; 2] = ["##..#....#..#", "#.#.........."];

fn pcf(order: Order, small_metrics: bool) -> Vec<u8> {
    let format = |extra: u32| (order.format() | extra).to_le_bytes().to_vec();
    // Left, right, advance, ascent, descent.
    let metrics = [1, 14, 15, 3, -1];
    let metrics = if small_metrics {
        let bytes = metrics.iter().map(|number| (number + 0x80) as u8);
        [format(0x100), order.word(1), bytes.collect()].concat()
    } else {
        let words = metrics
            .iter()
            .flat_map(|number| order.word(*number))
            .collect();
        [format(0), order.long(1), words, order.word(0)].concat()
    };
    let rows = PCF_ROWS.iter().flat_map(|row| order.row(row)).collect();
    let bitmaps = [format(0), order.long(1), order.long(0), vec![0; 16], rows].concat();
    // Codes 0x41 to 0x42 of row 1: the first has the glyph.
    let codes = [0x41, 0x42, 1, 1, 0x141, 0, 0xffff]
        .map(|word| order.word(word))
        .concat();
    let encodings = [format(0), codes].concat();
    let accelerators = [
        format(0),
        vec![0; 8],
        order.long(9),
        order.long(2),
        vec![0; 4],
    ]
    .concat();
    let tables = [
        (4, metrics),
        (8, bitmaps),
        (32, encodings),
        (2, accelerators),
    ];
    let mut file = vec![1, b'f', b'c', b'p', 4, 0, 0, 0];
    let mut offset = 8 + 16 * tables.len();
    for (kind, table) in &tables {
        for number in [*kind, 0, table.len() as u32, offset as u32] {
            file.extend(number.to_le_bytes());
        }
        offset += table.len();
    }
    file.extend(tables.into_iter().flat_map(|(_, table)| table));
    file
}

#[test]
fn the_pixels_of_a_pcf_come_back_in_every_order() {
    for bits in 0..4 {
        for padding in 0..4 {
            for unit in 0..=padding.min(2) {
                let order = Order {
                    big_bytes: bits & 1 != 0,
                    big_bits: bits & 2 != 0,
                    padding,
                    unit,
                };
                let file = pcf(order, bits == 0);
                let face = Face::from_bytes(file.clone()).expect("a font");
                let wanted = (PCF_ROWS.join("\n"), 1, -3);
                assert_eq!(picture(&face, 'Ł', 11.0), wanted, "{order:?}");
                assert_eq!((face.glyph('ł'), face.pixels_per_em()), (None, Some(11.0)));
                for length in 4..file.len() {
                    let cut = prepared(file[..length].to_vec());
                    assert!(cut.is_err() || length >= file.len() - 4, "cut at {length}");
                    let mut odd = file.clone();
                    odd[length] = 0xff;
                    let _ = prepared(odd);
                }
            }
        }
    }
}

/// A BDF of 8 pixels with one glyph for each code, in a charset.
fn in_charset(registry: &str, encoding: &str, codes: &[u32]) -> Face {
    let mut file = format!(
        "STARTFONT 2.1\nFONT x\nSIZE 8 72 72\nFONTBOUNDINGBOX 8 8 0 0\nSTARTPROPERTIES 2\n\
         CHARSET_REGISTRY \"{registry}\"\nCHARSET_ENCODING \"{encoding}\"\nENDPROPERTIES\n"
    );
    for code in codes {
        file += &format!(
            "STARTCHAR c\nENCODING {code}\nDWIDTH 8 0\nBBX 8 1 0 0\nBITMAP\nFF\nENDCHAR\n"
        );
    }
    face(&(file + "ENDFONT\n")).expect("a font")
}

#[test]
fn codes_are_characters_of_the_fonts_charset() {
    // From the standards' own tables.
    for (registry, encoding, code, character) in [
        ("ISO10646", "1", 0x3042, 'あ'),
        ("JISX0208.1983", "0", 0x2422, 'あ'),
        ("JISX0208.1983", "0", 0xa4a2, 'あ'),
        ("JISX0212.1990", "0", 0x2a21, 'Á'),
        ("JISX0201.1976", "0", 0xb1, 'ｱ'),
        ("JISX0201.1976", "0", 0x5c, '¥'),
        ("KSC5601.1987", "0", 0x3021, '가'),
        ("GB2312.1980", "0", 0x3021, '啊'),
        ("BIG5", "0", 0xa440, '一'),
        ("KOI8", "R", 0xe2, 'Б'),
        ("ISO8859", "2", 0xb3, 'ł'),
        ("ISO8859", "1", 0xe9, 'é'),
        ("ISO8859", "5", 0xb1, 'Б'),
        ("iso8859", "15", 0xa4, '€'),
        ("TIS620.2533", "1", 0xa1, 'ก'),
        ("VISCII1.1", "1", 0xd0, 'Đ'),
        ("VISCII1.1", "1", 0x14, 'Ỷ'),
        ("MICROSOFT", "CP1251", 0xc1, 'Б'),
    ] {
        let face = in_charset(registry, encoding, &[code]);
        let characters: Vec<char> = face.characters().map(|(c, _)| c).collect();
        assert_eq!(characters, [character], "{registry}-{encoding}");
        assert!(face.notes().is_empty(), "{registry}-{encoding}");
    }
    // Nobody knows what these are: private characters, and a note.
    let face = in_charset("Lamplight", "FontSpecific", &[0x41, 0x1234]);
    let characters: Vec<char> = face.characters().map(|(c, _)| c).collect();
    assert_eq!(characters, ['\u{f041}', '\u{f1234}']);
    assert!(
        face.notes()[0].text.contains("charset"),
        "{:?}",
        face.notes()
    );
}

#[test]
fn the_least_number_is_out_of_range_as_any_other() {
    for line in [
        "SIZE 8 -2147483648 72",
        "FONT_ASCENT -2147483648",
        "SIZE 8 1114111 1114111",
    ] {
        let file = format!("STARTFONT 2.1\n{line}\nENDFONT\n");
        assert!(face(&file).is_err(), "{line}");
    }
}
