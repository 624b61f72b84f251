//! Colour glyphs: paints whose pixels are known by hand, pictures at their places, and fonts
//! that lie.

use kerno::atlas::PageKind;
use kerno::bake::Manifest;
use kerno::base::{Image, Mapping, Treatment};
use kerno::font::GlyphId;
use kerno::raster::{Coverage, GlyphRequest, Rasterizer};
use kerno::text::{Effect, Fill, LetterOutline};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Pack, Point, Style,
    TextLayout,
};

use crate::support::{FontBuilder, LATO, cmap12, polygon, words};
use crate::variable::{at, fvar};

/// Entries of the palettes, and the text's own.
pub(crate) const RED: i32 = 0;
pub(crate) const GREEN: i32 = 1;
pub(crate) const BLUE: i32 = 2;
const TEXT: i32 = 0xffff;

/// Two palettes: red, green, blue; and white, half black, blue.
fn cpal() -> Vec<u8> {
    let mut table = words(&[0, 3, 2, 6, 0, 16, 0, 3]);
    table.extend([0, 0, 255, 255, 0, 255, 0, 255, 255, 0, 0, 255]);
    table.extend([255, 255, 255, 255, 0, 0, 0, 128, 255, 0, 0, 255]);
    table
}

pub(crate) fn offset24(offset: usize) -> [u8; 3] {
    let [_, a, b, c] = (offset as u32).to_be_bytes();
    [a, b, c]
}

/// A number in 1/16384.
pub(crate) fn part(number: f64) -> i32 {
    (number * 16384.0).round() as i32
}

fn solid(entry: i32, alpha: f64) -> Vec<u8> {
    [vec![2], words(&[entry, part(alpha)])].concat()
}

/// A paint seen in the shape of a glyph.
pub(crate) fn within(glyph: i32, paint: &[u8]) -> Vec<u8> {
    [&[10][..], &offset24(6), &words(&[glyph]), paint].concat()
}

/// A paint of a format with numbers, and another one after them.
fn over(format: u8, numbers: &[i32], paint: &[u8]) -> Vec<u8> {
    let length = 4 + numbers.len() * 2;
    [&[format][..], &offset24(length), &words(numbers), paint].concat()
}

/// A gradient of a format with numbers; stops are places and entries.
pub(crate) fn gradient(format: u8, numbers: &[i32], extend: u8, stops: &[(f64, i32)]) -> Vec<u8> {
    let mut line = vec![extend];
    line.extend(words(&[stops.len() as i32]));
    for (place, entry) in stops {
        line.extend(words(&[part(*place), *entry, part(1.0)]));
    }
    over(format, numbers, &line)
}

fn composite(source: &[u8], mode: u8, below: &[u8]) -> Vec<u8> {
    let first = offset24(8);
    let second = offset24(8 + source.len());
    [&[32][..], &first, &[mode], &second, source, below].concat()
}

/// `COLR` version 1: glyph 1 is the first paint, glyph 2 the second; with `COLR` version 0's
/// layers for glyph 3: the square in green, then in the text's colour.
fn colr(paints: &[Vec<u8>]) -> Vec<u8> {
    let flat = words(&[3, 0, 2, 1, GREEN, 4, TEXT]);
    let list = 34 + flat.len();
    let mut table = words(&[
        1,
        1,
        0,
        34,
        0,
        40,
        2,
        0,
        list as i32,
        0,
        0,
        0,
        0,
        0,
        0,
        0,
        0,
    ]);
    table.extend(flat);
    let mut at = 4 + 6 * paints.len();
    table.extend((paints.len() as u32).to_be_bytes());
    for (index, paint) in paints.iter().enumerate() {
        table.extend(words(&[1 + index as i32]));
        table.extend((at as u32).to_be_bytes());
        at += paint.len();
    }
    table.extend(paints.iter().flatten());
    table
}

/// A font of squares: glyph 1 to 3 from 0 to 1000, glyph 4 from 0 to 500.
pub(crate) fn font(paints: &[Vec<u8>]) -> FontBuilder {
    let square = |side| polygon(&[(0, 0), (0, side), (side, side), (side, 0)]);
    let glyphs = [
        square(100),
        square(1000),
        square(1000),
        square(1000),
        square(500),
    ];
    FontBuilder::new(&glyphs)
        .table(
            b"hmtx",
            words(&[1000, 0, 1000, 0, 1000, 0, 1000, 0, 1000, 0]),
        )
        .table(b"cmap", cmap12(&[[0x61, 0x64, 1]]))
        .table(b"CPAL", cpal())
        .table(b"COLR", colr(paints))
}

/// A glyph of 10 px, in its colours.
fn painted(face: &Face, glyph: u16) -> Coverage {
    let request = GlyphRequest::new(face, GlyphId(glyph), 10.0).treatment(Treatment::in_color());
    let mut rasterizer = Rasterizer::new();
    rasterizer.glyph(&request).expect("a picture").clone()
}

fn pixel(picture: &Coverage, x: u32, y: u32) -> [u8; 4] {
    assert_eq!(picture.channels, 4);
    picture.texels.as_chunks::<4>().0[(y * picture.width + x) as usize]
}

/// The row of pixels in the middle of glyph 1.
fn row(paint: Vec<u8>) -> Vec<[u8; 4]> {
    let picture = painted(&font(&[within(1, &paint)]).face(), 1);
    assert_eq!((picture.width, picture.height), (10, 10));
    (0..10).map(|x| pixel(&picture, x, 5)).collect()
}

/// Red, and what of it is blue, as bytes.
fn mixed(blue: f64) -> [u8; 4] {
    let byte = |share: f64| (share * 255.0).round() as u8;
    [byte(1.0 - blue), 0, byte(blue), 255]
}

fn assert_near(row: &[[u8; 4]], wanted: &[[u8; 4]]) {
    for (x, (own, wanted)) in row.iter().zip(wanted).enumerate() {
        let off = own.iter().zip(wanted).map(|(a, b)| a.abs_diff(*b)).max();
        assert!(off <= Some(1), "pixel {x}: {own:?}, not {wanted:?}");
    }
}

#[test]
fn layers_of_one_colour_come_from_the_palette_that_was_chosen() {
    let face = font(&[within(1, &solid(RED, 1.0))]).face();
    let kinds = [0, 1, 3, 4].map(|glyph| face.is_color_glyph(GlyphId(glyph)));
    assert_eq!(kinds, [false, true, true, false]);
    let green = pixel(&painted(&face, 3), 8, 1);
    assert_eq!(green, [0, 255, 0, 255]);
    // The smaller square lies at the bottom left, in the colour of the text.
    assert_eq!(pixel(&painted(&face, 3), 1, 8), [0, 0, 0, 255]);
    let request = GlyphRequest::new(&face, GlyphId(3), 10.0).treatment(Treatment::in_color());
    let request = request.foreground(Color::rgb(10, 20, 30));
    let mut rasterizer = Rasterizer::new();
    let picture = rasterizer.glyph(&request).expect("a picture");
    assert_eq!(pixel(picture, 1, 8), [10, 20, 30, 255]);

    assert_eq!(face.palettes().len(), 2);
    assert_eq!(face.palettes()[1].colors[1], Color::rgba(0, 0, 0, 128));
    let dark = face.with_palette(1).expect("a palette");
    assert_ne!(dark.id(), face.id());
    assert_eq!(pixel(&painted(&dark, 3), 8, 1), [0, 0, 0, 128]);
    let own = dark
        .with_palette_color(1, Color::rgb(1, 2, 3))
        .expect("an entry");
    assert_eq!(pixel(&painted(&own, 3), 8, 1), [1, 2, 3, 255]);
    let error = face.with_palette(2).expect_err("two palettes");
    assert_eq!(
        error.to_string(),
        "there is no palette 2; the font has 2, counted from 0"
    );
    let error = face
        .with_palette_color(3, Color::BLACK)
        .expect_err("three entries");
    assert_eq!(error.code(), "font-no-such-palette-entry");
}

#[test]
fn gradients_have_the_colours_of_their_places() {
    let stops = [(0.0, RED), (1.0, BLUE)];
    let centers = |from: f64, length: f64| {
        let place = move |x: usize| ((x as f64 + 0.5) * 100.0 - from) / length;
        (0..10).map(place)
    };
    // From 200 to 700, held at both ends, repeated, and back and forth.
    let line = |extend| row(gradient(4, &[200, 0, 700, 0, 200, 500], extend, &stops));
    let held: Vec<_> = centers(200.0, 500.0)
        .map(|t| mixed(t.clamp(0.0, 1.0)))
        .collect();
    assert_near(&line(0), &held);
    let again: Vec<_> = centers(200.0, 500.0)
        .map(|t| mixed(t.rem_euclid(1.0)))
        .collect();
    assert_near(&line(1), &again);
    let back = |t: f64| mixed(1.0 - (t.rem_euclid(2.0) - 1.0).abs());
    let back: Vec<_> = centers(200.0, 500.0).map(back).collect();
    assert_near(&line(2), &back);
    // The third point turns the stripes: along 45 degrees only half of the way counts.
    let turned = row(gradient(4, &[0, 500, 1000, 500, 1000, 1500], 0, &stops));
    let wanted: Vec<_> = (0..10)
        .map(|x| {
            let (x, y) = (f64::from(x) * 100.0 + 50.0, 450.0);
            // The way is from (0, 500) to (500, 0).
            mixed(((x * 500.0 + (y - 500.0) * -500.0) / 500_000.0).clamp(0.0, 1.0))
        })
        .collect();
    assert_near(&turned, &wanted);
    // Circles about (500, 450), the row's own height, from 100 to 400.
    let circles = row(gradient(6, &[500, 450, 100, 500, 450, 400], 0, &stops));
    let wanted: Vec<_> = centers(500.0, 1.0)
        .map(|x| mixed(((x.abs() - 100.0) / 300.0).clamp(0.0, 1.0)))
        .collect();
    assert_near(&circles, &wanted);
    // A cone: from a point at 0 to a circle of 200 about 400; nothing to the left of it.
    let cone = row(gradient(
        6,
        &[0, 450, 0, 400, 450, 200],
        0,
        &[(0.0, RED), (1.5, BLUE)],
    ));
    // On the axis the far side of the circle, 400 t + 200 t, is at x for t = x / 600, the near
    // one for t = x / 200, which is the larger.
    let wanted: Vec<_> = centers(0.0, 200.0)
        .map(|t| mixed((t / 1.5).min(1.0)))
        .collect();
    assert_near(&cone, &wanted);
    // Turned about a point below the row: from a quarter to three quarters of a turn.
    let sweep = gradient(8, &[500, 0, part(-0.5), part(0.5)], 0, &stops);
    let wanted: Vec<_> = centers(500.0, 1.0)
        .map(|x| {
            let turns = 450_f64.atan2(x) / std::f64::consts::TAU;
            mixed(((turns - 0.25) / 0.5).clamp(0.0, 1.0))
        })
        .collect();
    assert_near(&row(sweep), &wanted);
    // Two stops at one place change the colour at once; stops come in any order.
    let hard = [(0.5, BLUE), (0.0, RED), (1.0, BLUE), (0.4999, RED)];
    let hard = row(gradient(4, &[0, 0, 1000, 0, 0, 500], 0, &hard));
    assert_eq!((hard[4], hard[5]), (mixed(0.0), mixed(1.0)));
}

#[test]
fn gradients_that_say_nothing_paint_nothing() {
    let stops = [(0.0, RED), (1.0, BLUE)];
    let nothing = [
        gradient(4, &[200, 0, 700, 0, 200, 500], 0, &[]),
        gradient(
            4,
            &[200, 0, 700, 0, 200, 500],
            1,
            &[(0.5, RED), (0.5, BLUE)],
        ),
        gradient(4, &[200, 0, 200, 0, 200, 500], 0, &stops),
        gradient(4, &[200, 0, 700, 0, 200, 0], 0, &stops),
        gradient(4, &[200, 0, 700, 0, 900, 0], 0, &stops),
        gradient(6, &[500, 500, 100, 500, 500, 100], 0, &stops),
        gradient(8, &[500, 0, part(0.5), part(0.5)], 2, &stops),
        solid(17, 1.0),
    ];
    for paint in nothing {
        assert_eq!(row(paint.clone()), [[0; 4]; 10], "{paint:?}");
    }
    // One stop is one colour.
    let one = gradient(4, &[200, 0, 700, 0, 200, 500], 0, &[(0.5, BLUE)]);
    assert_eq!(row(one), [mixed(1.0); 10]);
}

#[test]
fn paints_are_placed_one_within_the_other() {
    let red = solid(RED, 1.0);
    let place = |paint: &[u8]| {
        let face = font(&[paint.to_vec()]).face();
        let picture = painted(&face, 1);
        let place = |index: usize| {
            let (x, y) = (index as u32 % picture.width, index as u32 / picture.width);
            (picture.left + x as i32, picture.top + y as i32)
        };
        let texels = picture.texels.as_chunks::<4>().0.iter().enumerate();
        let inked = texels.filter(|(_, texel)| texel[3] > 0);
        let inked: Vec<(i32, i32)> = inked.map(|(index, _)| place(index)).collect();
        let (xs, ys) = (inked.iter().map(|at| at.0), inked.iter().map(|at| at.1));
        let low = |all: &mut dyn Iterator<Item = i32>| all.min().expect("ink");
        let high = |all: &mut dyn Iterator<Item = i32>| all.max().expect("ink") + 1;
        [
            low(&mut xs.clone()),
            low(&mut ys.clone()),
            high(&mut xs.clone()),
            high(&mut ys.clone()),
        ]
    };
    let square = within(4, &red);
    assert_eq!(place(&square), [0, -5, 5, 0]);
    assert_eq!(place(&over(14, &[300, 100], &square)), [3, -6, 8, -1]);
    // Twice as wide and half as high; about (500, 500); both alike.
    let scaled = over(16, &[part(1.999_9), part(0.4) - 1], &square);
    assert_eq!(place(&scaled), [0, -2, 10, 0]);
    assert_eq!(
        place(&over(
            18,
            &[part(0.4) - 1, part(0.4) - 1, 500, 500],
            &square
        )),
        [3, -5, 5, -3]
    );
    assert_eq!(
        place(&over(22, &[part(-1.0), 500, 500], &square)),
        [5, -10, 10, -5]
    );
    // A quarter to the left, about the origin and about (500, 500).
    assert_eq!(place(&over(24, &[part(0.5)], &square)), [-5, -5, 0, 0]);
    assert_eq!(
        place(&over(26, &[part(0.5), 500, 500], &square)),
        [5, -5, 10, 0]
    );
    // Upright lines lean to the left by 45 degrees.
    assert_eq!(place(&over(28, &[part(0.25), 0], &square)), [-5, -5, 5, 0]);
    // x' = y, y' = x + 200.
    let mut turned = vec![12];
    turned.extend(offset24(7 + 24));
    turned.extend(offset24(7));
    turned.extend(words(&[0, 0, 1, 0, 1, 0, 0, 0, 0, 0, 200, 0]));
    turned.extend(&square);
    assert_eq!(place(&turned), [0, -7, 5, -2]);
    // The outer one comes last: moved, then turned.
    let both = over(24, &[part(0.5)], &over(14, &[300, 0], &square));
    assert_eq!(place(&both), [-5, -8, 0, -3]);
    // A shape beside the one that it is seen in.
    let beside = over(14, &[2000, 0], &square);
    let picture = painted(&font(&[within(1, &beside)]).face(), 1);
    assert!(picture.texels.iter().all(|byte| *byte == 0));
    // A shape within a shape.
    let face = font(&[within(1, &within(4, &red))]).face();
    let picture = painted(&face, 1);
    assert_eq!(pixel(&picture, 1, 8), [255, 0, 0, 255]);
    assert_eq!(pixel(&picture, 8, 8), [0; 4]);
}

#[test]
fn pictures_are_laid_over_each_other_in_every_way() {
    // Half of red over half of blue, by the formulas of the standard: shares, then mixes.
    let result = |mode: u8| {
        let paint = composite(&solid(RED, 0.5), mode, &solid(BLUE, 0.5));
        row(paint)[5]
    };
    let near = |mode: u8, wanted: [f64; 4]| {
        let wanted = wanted.map(|share| (share * 255.0).round() as u8);
        let own = result(mode);
        let off = own.iter().zip(wanted).map(|(a, b)| a.abs_diff(b)).max();
        assert!(off <= Some(2), "{mode}: {own:?}, not {wanted:?}");
    };
    near(0, [0.0; 4]);
    near(1, [0.5, 0.0, 0.0, 0.5]);
    near(2, [0.0, 0.0, 0.5, 0.5]);
    near(3, [0.5, 0.0, 0.25, 0.75]);
    near(4, [0.25, 0.0, 0.5, 0.75]);
    near(5, [0.25, 0.0, 0.0, 0.25]);
    near(6, [0.0, 0.0, 0.25, 0.25]);
    near(7, [0.25, 0.0, 0.0, 0.25]);
    near(8, [0.0, 0.0, 0.25, 0.25]);
    near(9, [0.25, 0.0, 0.25, 0.5]);
    near(10, [0.25, 0.0, 0.25, 0.5]);
    near(11, [0.25, 0.0, 0.25, 0.5]);
    near(12, [0.5, 0.0, 0.5, 1.0]);
    // A quarter has both: their mix. Red and blue have no channel in common.
    near(13, [0.5, 0.0, 0.5, 0.75]);
    near(15, [0.25, 0.0, 0.25, 0.75]);
    near(16, [0.5, 0.0, 0.5, 0.75]);
    near(21, [0.5, 0.0, 0.5, 0.75]);
    near(23, [0.25, 0.0, 0.25, 0.75]);
    // Red with the luminosity of blue, 0.11: 0.11 / 0.3 of it.
    near(26, [0.25 + 0.25 * 0.11 / 0.3, 0.0, 0.25, 0.75]);
}

#[test]
fn graphs_that_loop_or_explode_are_refused() {
    let fault = |paints: &[Vec<u8>]| {
        let face = font(paints).face();
        let request = GlyphRequest::new(&face, GlyphId(1), 10.0).treatment(Treatment::in_color());
        let error = Rasterizer::new().glyph(&request).expect_err("a fault");
        // A text that measures it says so as well.
        let text = TextLayout::new("a", &Style::new(&face, 10.0)).expect_err("a fault");
        assert_eq!(text.to_string(), error.to_string());
        error.to_string()
    };
    // Glyph 1 is glyph 2 is glyph 1.
    let other = |glyph| [vec![11], words(&[glyph])].concat();
    let said = fault(&[other(2), other(1)]);
    assert!(
        said.contains("'COLR'") && said.contains("contain themselves"),
        "{said}"
    );
    // Thirty times two of the one before: a billion.
    let mut paint = solid(RED, 1.0);
    for _ in 0..30 {
        // Both offsets are of the same paint.
        let mut two = vec![32];
        two.extend(offset24(8));
        two.push(3);
        two.extend(offset24(8));
        two.extend(paint);
        paint = two;
    }
    let said = fault(&[within(1, &paint)]);
    assert!(said.contains("too many"), "{said}");
    assert!(fault(&[vec![33]]).contains("it must be 1 to 32"));
    assert!(fault(&[composite(&[2], 28, &[2])]).contains("it must be 0 to 27"));
    // Cut anywhere, it is an error or another picture, and no more.
    let paint = within(
        1,
        &gradient(6, &[500, 450, 100, 500, 450, 400], 0, &[(0.0, RED)]),
    );
    let whole = colr(&[paint]);
    for length in 0..whole.len() {
        let cut = font(&[]).table(b"COLR", whole[..length].to_vec()).build();
        if let Ok(face) = Face::from_bytes(cut) {
            let request = GlyphRequest::new(&face, GlyphId(1), 10.0);
            let _ = Rasterizer::new().glyph(&request.treatment(Treatment::in_color()));
        }
    }
}

#[test]
fn paints_move_along_the_axes() {
    // Alpha 0.5 at the default of the axis, and half more at its end.
    let mut varied = vec![3];
    varied.extend(words(&[RED, part(0.5), 0, 0]));
    let mut table = colr(&[within(1, &varied)]);
    let store = table.len() as u32;
    table[30..34].copy_from_slice(&store.to_be_bytes());
    // One region, from 0 to 1; one set of one row: 8192.
    table.extend(words(&[1, 0, 12, 1, 0, 22, 1, 1, 0, 0x4000, 0x4000]));
    table.extend(words(&[1, 1, 1, 0, part(0.5)]));
    let face = font(&[])
        .table(b"COLR", table)
        .table(b"fvar", fvar())
        .face();
    assert_eq!(pixel(&painted(&face, 1), 5, 5), [128, 0, 0, 128]);
    assert_eq!(
        pixel(&painted(&at(&face, 900.0), 1), 5, 5),
        [255, 0, 0, 255]
    );
    assert_eq!(
        pixel(&painted(&at(&face, 650.0), 1), 5, 5),
        [191, 0, 0, 191]
    );
}

/// A PNG of 4 by 2: red, and one pixel of blue at the top left.
fn png() -> Vec<u8> {
    let mut pixels = [255, 0, 0, 255].repeat(8);
    pixels[..4].copy_from_slice(&[0, 0, 255, 255]);
    let image = Image::new(4, 2, pixels).expect("an image");
    image.to_png().expect("a PNG")
}

/// `sbix` with a strike of 10 px: glyph 1 a picture whose lower left corner is at (1, -1),
/// glyph 2 the same, glyph 3 none.
fn sbix(png: &[u8]) -> Vec<u8> {
    let mut table = words(&[1, 1, 0, 1, 0, 12, 10, 72]);
    let glyph = [&words(&[1, -1])[..], b"png ", png].concat();
    let same = [&words(&[0, 0])[..], b"dupe", &words(&[1])].concat();
    let first = 4 + 6 * 4;
    let ends = [0, 0, glyph.len(), glyph.len() + same.len()];
    for end in [ends[0], ends[1], ends[2], ends[3], ends[3], ends[3]] {
        table.extend(((first + end) as u32).to_be_bytes());
    }
    [table, glyph, same].concat()
}

/// The colours of a text of 10 px with its pen at (0, 10), in a picture of 24 by 14.
fn drawn(face: &Face, text: &str, effects: Vec<Effect>, size: f32) -> Vec<[u8; 4]> {
    let style = Style::new(face, size).effects(effects);
    let text = TextLayout::new(text, &style).expect("a layout");
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut canvas = Canvas::new(DeviceSize::new(24, 14));
    let baseline = text.lines()[0].baseline;
    let at = DrawText::at(Point::new(0.0, 10.0 - baseline), Anchor::TOP_LEFT);
    builder
        .begin(&mut atlas, Mapping::IDENTITY)
        .text(&text, at)
        .expect("room");
    canvas.draw(builder.finish(), &atlas);
    canvas.pixels().to_vec()
}

#[test]
fn pictures_of_a_font_stand_where_it_says() {
    let sbix_face = font(&[])
        .without(b"COLR")
        .table(b"sbix", sbix(&png()))
        .face();
    assert!(sbix_face.is_color_glyph(GlyphId(2)) && !sbix_face.is_color_glyph(GlyphId(3)));
    // From 1 px on, 2 px high, the lower edge a pixel below the baseline.
    let bounds = sbix_face.bounds(GlyphId(1)).expect("sound").expect("ink");
    assert_eq!(
        [bounds.x_min, bounds.y_min, bounds.x_max, bounds.y_max],
        [100, -100, 500, 100]
    );
    let cbdt_face = cbdt(&png(), png().len()).face();
    assert_eq!(cbdt_face.bounds(GlyphId(1)).expect("sound"), Some(bounds));
    for face in [sbix_face, cbdt_face] {
        let pixels = drawn(&face, "a", Vec::new(), 10.0);
        let at = |x: usize, y: usize| pixels[y * 24 + x];
        assert_eq!(at(1, 9), [0, 0, 255, 255]);
        assert_eq!([at(2, 9), at(4, 10)], [[255, 0, 0, 255]; 2]);
        assert_eq!([at(0, 9), at(5, 9), at(3, 8), at(3, 11)], [[0; 4]; 4]);
        // Twice the size; and an outline of a pixel, of the shape alone.
        let pixels = drawn(&face, "a", Vec::new(), 20.0);
        assert_eq!(pixels[9 * 24 + 9], [255, 0, 0, 255]);
        let white = Effect::Outline(LetterOutline::new(1.0, Color::WHITE));
        let pixels = drawn(&face, "a", vec![white, Effect::Fill(Fill::default())], 10.0);
        assert_eq!(pixels[8 * 24 + 3], [255; 4]);
        assert_eq!(pixels[9 * 24 + 3], [255, 0, 0, 255]);
        assert_eq!(pixels[7 * 24 + 3], [0; 4]);
    }
}

/// A font without outlines: `CBLC` and `CBDT` with a strike of 10 px, glyph 1 a picture from
/// 1 px on, its top a pixel above the baseline, said to have so many bytes.
fn cbdt(png: &[u8], length: usize) -> FontBuilder {
    let mut cblc = words(&[3, 0, 0, 1]);
    let mut record = vec![0; 48];
    record[..16].copy_from_slice(&words(&[0, 56, 0, 24, 0, 1, 0, 0]));
    record[40..44].copy_from_slice(&words(&[1, 1]));
    (record[44], record[45], record[46]) = (10, 10, 32);
    cblc.extend(record);
    // One range of glyph 1, its places as words: format 1, image format 17.
    cblc.extend(words(&[1, 1, 0, 8, 1, 17, 0, 4]));
    let end = (9 + png.len()) as u32;
    cblc.extend([0_u32.to_be_bytes(), end.to_be_bytes()].concat());
    let mut cbdt = words(&[3, 0]);
    cbdt.extend([2, 4, 1, 1, 10]);
    cbdt.extend((length as u32).to_be_bytes());
    cbdt.extend(png);
    let plain = font(&[]).without(b"COLR").without(b"glyf").without(b"loca");
    plain.table(b"CBLC", cblc).table(b"CBDT", cbdt)
}

#[test]
fn pictures_that_lie_about_their_size_are_errors() {
    let fails = |face: &Face| {
        let text = match TextLayout::new("a", &Style::new(face, 10.0)) {
            Ok(text) => text,
            Err(error) => return error.code(),
        };
        let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
        let at = DrawText::at(Point::new(0.0, 0.0), Anchor::TOP_LEFT);
        let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
        frame.text(&text, at).expect_err("a fault").code()
    };
    assert_eq!(fails(&cbdt(&png(), 1 << 30).face()), "font-table");
    assert_eq!(fails(&cbdt(&png()[..40], 40).face()), "atlas-glyph-picture");
    // 60,000 by 60,000 pixels, says its header.
    let mut huge = png();
    huge[16..24].copy_from_slice(&[0, 0, 0xea, 0x60, 0, 0, 0xea, 0x60]);
    assert_eq!(
        fails(&cbdt(&huge, huge.len()).face()),
        "atlas-glyph-picture"
    );
    // Pictures that stand for each other in a circle are none.
    let mut circle = sbix(&png());
    let at = circle.len() - 2;
    circle[at..].copy_from_slice(&words(&[2]));
    let face = font(&[]).without(b"COLR").table(b"sbix", circle).face();
    assert!(!face.is_color_glyph(GlyphId(2)));
}

#[test]
fn a_text_has_colour_glyphs_between_letters_and_fades_them() {
    let color = font(&[within(1, &solid(RED, 1.0))]).face();
    let lato = Face::from_bytes(LATO).expect("a font");
    let style = Style::new(&color, 10.0)
        .fallback(vec![lato])
        .color(Color::rgb(0, 0, 90));
    let text = TextLayout::new("ac!", &style).expect("a layout");
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut canvas = Canvas::new(DeviceSize::new(40, 20));
    let at = DrawText::at(Point::new(0.0, 0.0), Anchor::TOP_LEFT);
    let at = at.tint(Color::WHITE.with_alpha(128));
    builder
        .begin(&mut atlas, Mapping::IDENTITY)
        .text(&text, at)
        .expect("room");
    let frame = builder.finish();
    assert_eq!(frame.batches.len(), 1);
    canvas.draw(frame, &atlas);
    let row = (text.lines()[0].baseline.round() as usize - 2) * 40;
    assert_eq!(canvas.pixels()[row + 5], [128, 0, 0, 128]);
    // The text's colour, in glyph 3.
    assert_eq!(canvas.pixels()[row + 12], [0, 0, 45, 128]);
    assert_eq!(atlas.pages(PageKind::Color).len(), 1);
    // A second text in another colour has a picture of its own.
    let green = TextLayout::new("c", &style.clone().color(Color::rgb(0, 90, 0))).expect("one");
    builder
        .begin(&mut atlas, Mapping::IDENTITY)
        .text(&green, at)
        .expect("room");
    canvas.clear(Color::rgba(0, 0, 0, 0));
    canvas.draw(builder.finish(), &atlas);
    assert_eq!(canvas.pixels()[row + 2], [0, 45, 0, 128]);
}

#[test]
fn a_pack_brings_colour_glyphs() {
    let folder = tempfile::tempdir().expect("a folder");
    let file = font(&[within(1, &solid(RED, 1.0))]).build();
    std::fs::write(folder.path().join("color.ttf"), &file).expect("a file");
    let manifest = "[faces]\nsigns = { file = 'color.ttf' }\n\
        [charsets.a]\ntext = 'ac'\n\
        [[strikes]]\nface = 'signs'\nsizes = [10]\ncharsets = ['a']\n";
    let path = folder.path().join("m.toml");
    std::fs::write(&path, manifest).expect("a file");
    let manifest = Manifest::from_file(&path).expect("a manifest");
    let bytes = manifest.bake(&|_, _| {}).expect("a bake").to_pack();
    let pack = Pack::from_bytes(bytes.expect("a pack")).expect("a pack");
    let face = pack.face("signs").expect("a face");
    let mut atlas = pack.atlas();
    let text = TextLayout::new("ac", &Style::new(&face, 10.0)).expect("a layout");
    let mut builder = FrameBuilder::new();
    let at = DrawText::at(Point::new(0.0, 0.0), Anchor::TOP_LEFT);
    let live = atlas.usage().glyph_bytes;
    builder
        .begin(&mut atlas, Mapping::IDENTITY)
        .text(&text, at)
        .expect("room");
    let mut canvas = Canvas::new(DeviceSize::new(24, 14));
    canvas.draw(builder.finish(), &atlas);
    let row = (text.lines()[0].baseline.round() as usize - 2) * 24;
    assert_eq!(canvas.pixels()[row + 5], [255, 0, 0, 255]);
    assert_eq!(canvas.pixels()[row + 18], [0, 255, 0, 255]);
    // White is not the colour that the text's part was baked in: that glyph is made live.
    let made = atlas.usage().glyph_bytes - live;
    assert_eq!(made, 400);
}
