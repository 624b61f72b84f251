//! Picture sheets: small pictures written out pixel by pixel.

use kerno::base::{Edges, Image, Mapping};
use kerno::convert::Strike;
use kerno::font::FontError;
use kerno::raster::{GlyphRequest, Rasterizer};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Point, Style,
    TextLayout,
};
use proptest::prelude::*;

use crate::support::{FontBuilder, cmap12, glyph, lato, misaki, polygon, words};

/// A picture of one letter a pixel: `#` white, `r` red, `-` half white, else
/// nothing.
fn picture(rows: &[&str]) -> Image {
    let pixel = |pixel| match pixel {
        '#' => [255; 4],
        'r' => [200, 30, 20, 255],
        '-' => [255, 255, 255, 128],
        _ => [0; 4],
    };
    let pixels = rows.iter().flat_map(|row| row.chars()).flat_map(pixel);
    Image::new(rows[0].len() as u32, rows.len() as u32, pixels.collect()).expect("a picture")
}

const HEAD: &str = "family = 'Lamp'\nbaseline = 3\n";

fn sheet(text: &str, rows: &[&str]) -> Result<Face, FontError> {
    Face::from_sheet(text, |_| Ok(picture(rows)))
}

/// Two cells of 3 × 4 with a column between them; in each one some ink.
const TWO: [&str; 4] = ["## .  #", ".#....#", "## . .#", "#......"];

fn two(more: &str) -> Face {
    let page = "[[page]]\npicture = 'a.png'\ncell = [3, 4]\ngap = [1, 0]\nrows = ['ab']\n";
    let (keys, tables) = more.split_once('|').unwrap_or((more, ""));
    sheet(&format!("{HEAD}{keys}\n{page}{tables}"), &TWO).expect("a sheet")
}

fn advances(face: &Face) -> [f32; 2] {
    let pixels = |character| f32::from(face.advance(glyph(face, character))) / 64.0;
    ['a', 'b'].map(pixels)
}

#[test]
fn widths_come_from_the_pixels_the_cells_or_the_list() {
    assert_eq!(advances(&two("")), [2.0, 1.0]);
    assert_eq!(advances(&two("spacing = 1")), [3.0, 2.0]);
    assert_eq!(advances(&two("widths = 'cell'")), [3.0, 3.0]);
    assert_eq!(advances(&two("spacing = 1|[advances]\nb = 7")), [3.0, 7.0]);
    let face = two("space = 5|[kerning]\nab = -1");
    assert_eq!(face.kerning(glyph(&face, 'a'), glyph(&face, 'b')), -64);
    assert_eq!(face.advance(glyph(&face, ' ')), 5 * 64);
    // Four pixels to the em, three of them above the baseline.
    assert_eq!(
        (face.strike_size(), face.metrics().ascender),
        (Some(4), 3 * 64)
    );
}

#[test]
fn glyphs_are_the_pixels_of_their_cells() {
    let face = two("widths = 'cell'");
    let mut rasterizer = Rasterizer::new();
    // The third column of its cell, the upper three rows.
    let b = rasterizer
        .glyph(&GlyphRequest::new(&face, glyph(&face, 'b'), 4.0).treatment(Edges::Hard))
        .expect("a picture");
    assert_eq!((b.left, b.top, b.width, b.height), (2, -3, 1, 3));
    // If ink is as wide as the advance, it begins at the pen.
    let face = two("");
    let b = rasterizer
        .glyph(&GlyphRequest::new(&face, glyph(&face, 'b'), 4.0).treatment(Edges::Hard))
        .expect("a picture");
    assert_eq!((b.left, b.top), (0, -3));
}

/// The text `a` of a sheet of one 2 × 2 cell at a size, on black.
fn drawn(keys: &str, rows: &[&str], size: f32, color: Color) -> Image {
    let text = format!(
        "family = 'Lamp'\nbaseline = 2\n{keys}\n[[page]]\npicture = 'a'\ncell = [2, 2]\nrows = ['a']"
    );
    let face = sheet(&text, rows).expect("a sheet");
    let style = Style::new(&face, size).color(color);
    let layout = TextLayout::new("a", &style).expect("a layout");
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::uniform(1.0));
    let corner = Point::new(0.0, 0.0);
    frame
        .text(&layout, DrawText::at(corner, Anchor::TOP_LEFT))
        .expect("room");
    let mut canvas = Canvas::new(DeviceSize::new(4, 4));
    canvas.clear(Color::BLACK);
    canvas.draw(builder.finish(), &atlas);
    canvas.to_image()
}

#[test]
fn colours_are_kept_or_replaced() {
    let rows = ["r.", ".r"];
    let blue = Color::rgb(0, 0, 255);
    let kept = drawn("color = 'kept'", &rows, 4.0, blue);
    // Twice the size: four pixels of red.
    for (x, y) in [(0, 0), (1, 1), (2, 2), (3, 3)] {
        assert_eq!(kept.pixel(x, y), Some([200, 30, 20, 255]), "{x} {y}");
    }
    assert_eq!(kept.pixel(2, 0), Some([0, 0, 0, 255]));
    let mask = drawn("", &rows, 4.0, blue);
    assert_eq!(mask.pixel(1, 1), Some([0, 0, 255, 255]));
    // A mask with soft edges stays soft: half blue on black.
    let soft = drawn("", &["-.", ".#"], 2.0, blue);
    assert_eq!(soft.pixel(0, 0), Some([0, 0, 128, 255]));
    assert_eq!(soft.pixel(1, 1), Some([0, 0, 255, 255]));
}

#[test]
fn colours_come_back_as_well() {
    for keys in ["color = 'kept'", ""] {
        let text = format!(
            "family = 'Lamp'\nbaseline = 2\n{keys}\n[[page]]\npicture = 'a'\ncell = [3, 2]\nrows = ['a']"
        );
        let face = sheet(&text, &["  r", ". -"]).expect("a sheet");
        let strike = Strike::draw(&face, 2, ['a']).expect("a strike");
        let (description, image) = strike.to_sheet("a.png").expect("a sheet");
        let again = Face::from_sheet(&description, |_| Ok(image.clone())).expect("a sheet");
        let a = glyph(&face, 'a');
        assert!(face.picture(a).is_some());
        assert_eq!(face.picture(a), again.picture(glyph(&again, 'a')), "{keys}");
    }
}

#[test]
fn a_bitmap_face_is_set_in_a_whole_multiple_and_says_so() {
    let layout = TextLayout::new("ab", &Style::new(&two(""), 9.0)).expect("a layout");
    let resized = layout.resized()[0];
    assert_eq!((resized.span, resized.wanted, resized.given), (0, 9.0, 8.0));
    assert_eq!(layout.size().width, 2.0 * 3.0);
    let layout = TextLayout::new("ab", &Style::new(&two(""), 8.0)).expect("a layout");
    assert!(layout.resized().is_empty());
    let layout = TextLayout::new("ab", &Style::new(&lato(), 9.5)).expect("a layout");
    assert!(layout.resized().is_empty());
}

#[test]
fn what_does_not_fit_is_refused_with_its_line() {
    let page = "[[page]]\npicture = 'a.png'\ncell = [3, 4]\ngap = [1, 0]\n";
    let refused = |text: &str| sheet(text, &TWO).expect_err("a wrong sheet").to_string();
    for (text, line, word) in [
        (
            format!("{HEAD}{page}rows = ['abc']"),
            7,
            "'c' (row 1, column 3)",
        ),
        (
            format!("{HEAD}{page}rows = ['a',\n'a']"),
            8,
            "column 1) ends at 3, 8",
        ),
        (format!("{HEAD}{page}rows = ['aa']"), 7, "second time"),
        (
            format!("{HEAD}{page}rows = ['ab']\n[advances]\nc = 1"),
            9,
            "'c'",
        ),
        (
            format!("{HEAD}{page}rows = ['ab']\n[kerning]\na = 1"),
            9,
            "two characters",
        ),
        (
            format!("{HEAD}[[page]]\npicture = 'a'\ncell = [0, 4]\nrows = ['a']"),
            5,
            "0 × 4",
        ),
        (format!("{HEAD}spacin = 1"), 3, "did you mean “spacing”"),
        (format!("{HEAD}em = 0\n{page}rows = ['a']"), 3, "em of 0"),
        (HEAD.to_owned(), 1, "[[page]]"),
        ("family = 'Lamp'".to_owned(), 1, "baseline"),
    ] {
        let message = refused(&text);
        let place = format!("picture sheet, line {line}:");
        assert!(
            message.starts_with(&place) && message.contains(word),
            "{message}"
        );
    }
    let text = format!("{HEAD}{page}rows = ['ab']");
    let none = Face::from_sheet(&text, |_| Image::from_png(b"x"));
    let error = none.expect_err("no picture");
    assert!(
        matches!(error, FontError::SheetPicture { line: 4, .. }),
        "{error}"
    );
}

/// Glyph pictures, advances and measures of a strike, for comparison.
fn contents(face: &Face, pixels: u16) -> Vec<(char, u16, i32, i32, u32, Vec<u8>)> {
    let mut rasterizer = Rasterizer::new();
    let mut list = Vec::new();
    for (character, glyph) in face.characters() {
        let ink = rasterizer
            .glyph(&GlyphRequest::new(face, glyph, pixels.into()).treatment(Edges::Hard))
            .expect("a picture")
            .clone();
        let advance = face.advance(glyph) / (face.metrics().units_per_em / pixels);
        list.push((character, advance, ink.left, ink.top, ink.width, ink.texels));
    }
    list
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    /// A sheet that was written is read back, in both forms: every pixel and measure.
    #[test]
    fn strikes_come_back_as_they_were_written(pixels in 5_u16..40, text in "A[ -~é«]{0,40}") {
        for face in [lato(), misaki()] {
            let strike = Strike::draw(&face, pixels, text.chars()).expect("a strike");
            let as_bdf = Face::from_bytes(strike.to_bdf().expect("a BDF").into_bytes()).expect("a font");
            let (description, image) = strike.to_sheet("a.png").expect("a sheet");
            let as_sheet = Face::from_sheet(&description, |_| Ok(image.clone())).expect("a sheet");
            let (one, two) = (contents(&as_bdf, pixels), contents(&as_sheet, pixels));
            prop_assert_eq!(one.len(), strike.len());
            prop_assert_eq!(&one, &two);
            let again = Strike::draw(&as_bdf, pixels, text.chars()).expect("a strike");
            prop_assert_eq!(contents(&Face::from_bytes(again.to_bdf().expect("a BDF").into_bytes()).expect("a font"), pixels), one);
            // And what was written is what the face looks like.
            let unit = f32::from(pixels) / f32::from(face.metrics().units_per_em);
            for (character, advance, ..) in two {
                let own = f32::from(face.advance(glyph(&face, character))) * unit;
                prop_assert_eq!(f32::from(advance), own.round());
            }
            prop_assert_eq!(as_sheet.metrics().ascender, as_bdf.metrics().ascender);
        }
    }
}

#[test]
fn what_could_not_be_read_back_is_not_written() {
    // 40 units wide, of 16 to the em: more than 255 pixels at 200.
    let wide = FontBuilder::new(&vec![polygon(&[(0, 0), (40, 0), (0, 9)]); 2])
        .patch(b"head", 18, &[0, 16])
        .patch(b"hhea", 4, &words(&[12, -4, 0]))
        .table(b"cmap", cmap12(&[[0x41, 0x41, 1]]))
        .table(b"hmtx", words(&[40, 0, 40, 0]))
        .face();
    let strike = Strike::draw(&wide, 200, ['A']).expect("a strike");
    for error in [
        strike.to_bdf().map(drop),
        strike.to_sheet("a.png").map(drop),
    ] {
        let error = error.expect_err("too wide");
        assert!(
            error
                .to_string()
                .contains("would be 500 pixels, and at most 255"),
            "{error}"
        );
    }
    assert!(
        Strike::draw(&wide, 100, ['A'])
            .expect("a strike")
            .to_bdf()
            .is_ok()
    );
}
