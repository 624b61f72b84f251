//! Distance fields, against distances measured from the outline's own polygons.

use kerno::base::{Edges, Mapping, Treatment};
use kerno::draw::{Frame, Scope};
use kerno::font::GlyphId;
use kerno::outline::Outline;
use kerno::raster::{Coverage, GlyphRequest, Rasterizer};
use kerno::text::{Effect, Fill, LetterOutline, Shadow};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Offset, Point, Style,
    TextLayout,
};

use crate::raster::{Corner, polygons};
use crate::support::{FontBuilder, averia, glyph, lato, polygon};

/// The distance of a place from polygons, inside above 0 by the non-zero rule.
fn distance(at: Corner, polygons: &[Vec<Corner>]) -> f64 {
    let (mut nearest, mut winding) = (f64::INFINITY, 0);
    for polygon in polygons {
        for (index, to) in polygon.iter().enumerate() {
            let from = polygon[(index + polygon.len() - 1) % polygon.len()];
            let (x, y) = (to.0 - from.0, to.1 - from.1);
            let length = x * x + y * y;
            if length == 0.0 {
                continue;
            }
            let share = ((at.0 - from.0) * x + (at.1 - from.1) * y) / length;
            let share = share.clamp(0.0, 1.0);
            let away = (at.0 - from.0 - x * share).hypot(at.1 - from.1 - y * share);
            nearest = nearest.min(away);
            if (from.1 <= at.1) != (to.1 <= at.1) {
                let cross = from.0 + (at.1 - from.1) / y * x;
                winding += i32::from(cross > at.0) * if y > 0.0 { 1 } else { -1 };
            }
        }
    }
    if winding == 0 { -nearest } else { nearest }
}

/// The largest difference of a field from the distances, in texels.
fn worst(picture: &Coverage, range: u8, polygons: &[Vec<Corner>]) -> f64 {
    let mut worst = 0.0_f64;
    let range = f64::from(range);
    for (index, value) in picture.texels.iter().enumerate() {
        let (x, y) = (index as u32 % picture.width, index as u32 / picture.width);
        let center = |from: i32, by: u32| f64::from(from) + f64::from(by) + 0.5;
        let wanted = distance((center(picture.left, x), center(picture.top, y)), polygons);
        let wanted = wanted.clamp(range * -0.5, range * 0.5);
        let told = (f64::from(*value) / 255.0 - 0.5) * range;
        worst = worst.max((told - wanted).abs());
    }
    worst
}

fn field(face: &Face, glyph: GlyphId, range: u8) -> Coverage {
    picture(face, glyph, Treatment::distance_field(range))
}

fn picture(face: &Face, glyph: GlyphId, treatment: Treatment) -> Coverage {
    let request = GlyphRequest::new(face, glyph, 40.0).treatment(treatment);
    let mut rasterizer = Rasterizer::new();
    rasterizer.glyph(&request).expect("a field").clone()
}

/// One byte of each texel of a picture of four.
fn channel(picture: &Coverage, of: impl Fn([u8; 4]) -> u8) -> Coverage {
    assert_eq!(picture.channels, 4);
    let (texels, _) = picture.texels.as_chunks::<4>();
    Coverage {
        texels: texels.iter().map(|texel| of(*texel)).collect(),
        channels: 1,
        ..picture.clone()
    }
}

#[test]
fn fields_tell_the_distance_from_the_outline() {
    for face in [lato(), averia()] {
        for character in "AgRS8&@.—ß".chars() {
            for range in [2, 6, 31] {
                let glyph = glyph(&face, character);
                let mut outline = Outline::new();
                face.outline(glyph, &mut outline).expect("an outline");
                let scale = 40.0 / f64::from(face.metrics().units_per_em);
                let worst = worst(
                    &field(&face, glyph, range),
                    range,
                    &polygons(&outline, scale, 0.0),
                );
                // Half a step of 1/255 of the range, and curves within 1/256 texel.
                let most = f64::from(range) / 510.0 + 1.0 / 256.0;
                assert!(worst <= most, "{character} of {range}: {worst} texels");
            }
        }
    }
}

/// Two bars, one across the other, and a way from one to the other and back.
fn bars() -> Face {
    let bars = polygon(&[
        (400, 0),
        (400, 1000),
        (600, 1000),
        (600, 0),
        (400, 0),
        (0, 400),
        (0, 600),
        (1000, 600),
        (1000, 400),
        (0, 400),
    ]);
    FontBuilder::new(&[bars]).face()
}

/// The outline of both, in texels.
fn plus() -> Vec<Corner> {
    let plus = [
        (400, 0),
        (400, 400),
        (0, 400),
        (0, 600),
        (400, 600),
        (400, 1000),
        (600, 1000),
        (600, 600),
        (1000, 600),
        (1000, 400),
        (600, 400),
        (600, 0),
    ];
    let plus = plus.map(|(x, y)| (f64::from(x) * 0.04, f64::from(y) * -0.04));
    plus.to_vec()
}

#[test]
fn edges_inside_of_what_is_filled_are_none() {
    let worst = worst(&field(&bars(), GlyphId(0), 6), 6, &[plus()]);
    assert!(worst <= 6.0 / 510.0 + 1e-3, "{worst} texels");
}

#[test]
fn outlines_made_to_take_long_are_done() {
    let mut state = 1_u32;
    let mut next = || {
        state = state.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
        (state >> 22) as i32
    };
    let scribble: Vec<_> = (0..30_000).map(|_| (next(), next())).collect();
    let flat = polygon(&[(0, 0), (500, 0), (500, 0), (0, 0)]);
    let face = FontBuilder::new(&[polygon(&scribble), flat]).face();
    let single = field(&face, GlyphId(0), 6);
    assert!(single.texels.iter().any(|value| *value > 127));
    assert!(field(&face, GlyphId(1), 6).is_empty(), "a line has no area");
    for range in [1, 31] {
        let several = picture(&face, GlyphId(0), Treatment::multi_channel_field(range));
        assert_eq!(
            channel(&several, |texel| texel[3]),
            field(&face, GlyphId(0), range)
        );
    }
}

#[test]
fn several_channels_keep_corners() {
    let several = picture(&bars(), GlyphId(0), Treatment::multi_channel_field(6));
    assert_eq!(
        channel(&several, |texel| texel[3]),
        field(&bars(), GlyphId(0), 6)
    );
    // Between the texels the middle of the channels has the corners of the plus: its sides lie
    // on whole tenths of texels, so where it is drawn ten times as large every pixel is known.
    let plus = plus();
    let (texels, _) = several.texels.as_chunks::<4>();
    let (mut wrong, mut wrong_plain) = (0, 0);
    let (width, height) = (several.width as usize, several.height as usize);
    for y in 0..(height - 1) * 10 {
        for x in 0..(width - 1) * 10 {
            let (column, row) = (x / 10, y / 10);
            let share = [x % 10, y % 10].map(|part| (part as f64 + 0.5) / 10.0);
            let value = |channel: usize| {
                let at = |right: usize, down: usize| {
                    f64::from(texels[(row + down) * width + column + right][channel])
                };
                let top = at(0, 0) + (at(1, 0) - at(0, 0)) * share[0];
                top + (at(0, 1) + (at(1, 1) - at(0, 1)) * share[0] - top) * share[1]
            };
            let place =
                |from: i32, whole: usize, part: f64| f64::from(from) + whole as f64 + 0.5 + part;
            let at = (
                place(several.left, column, share[0]),
                place(several.top, row, share[1]),
            );
            let is_filled = distance(at, std::slice::from_ref(&plus)) > 0.0;
            let [a, b, c] = [0, 1, 2].map(value);
            let middle = a.min(b).max(a.max(b).min(c));
            wrong += usize::from((middle > 127.5) != is_filled);
            wrong_plain += usize::from((value(3) > 127.5) != is_filled);
        }
    }
    // Twelve corners, each of which one channel alone rounds off.
    assert_eq!(wrong, 0, "{wrong_plain} with one channel");
    assert!(wrong_plain > 12 * 5, "{wrong_plain}");
}

/// The ink, in square texels, by which letters of eight times the size of a field differ from
/// their exact picture.
fn off_at_eight_times(face: &Face, letters: &str, edges: Edges) -> f64 {
    let alphas = |letter: &str, edges: Edges| {
        let style = Style::new(face, 320.0).edges(edges);
        let text = TextLayout::new(letter, &style).expect("a layout");
        let mut canvas = Canvas::new(DeviceSize::new(420, 480));
        let draw = DrawText::at(Point::new(24.0, 8.0), Anchor::TOP_LEFT);
        drawn(
            |scope| scope.text(&text, draw).expect("room"),
            |frame, atlas| canvas.draw(frame, atlas),
        );
        let alpha = canvas
            .pixels()
            .iter()
            .map(|pixel| f64::from(pixel[3]) / 255.0);
        alpha.collect::<Vec<f64>>()
    };
    let letters = letters
        .char_indices()
        .map(|(at, letter)| &letters[at..at + letter.len_utf8()]);
    let off = letters.map(|letter| {
        let (exact, field) = (alphas(letter, Edges::Smooth), alphas(letter, edges));
        let pairs = exact.iter().zip(&field);
        pairs.map(|(a, b)| (a - b).abs()).sum::<f64>() / 64.0
    });
    off.sum()
}

#[test]
fn several_channels_are_nearer_to_the_outline_where_it_has_corners() {
    let ratio = |face: &Face, letters: &str| {
        let single = off_at_eight_times(face, letters, Edges::DistanceField);
        let several = off_at_eight_times(face, letters, Edges::MultiChannelField);
        println!("{letters}: {single:.2} and {several:.2} square texels");
        several / single
    };
    assert!(ratio(&lato(), "AEFHILMTVXZ") < 0.25);
    // Curves are as good either way but for half a step.
    assert!(ratio(&lato(), "CDOS@&g8") < 0.75);
    assert!(ratio(&averia(), "AEHRg&") < 0.9);
}

fn drawn(draw: impl FnOnce(&mut Scope<'_>), with: impl FnOnce(Frame<'_>, &Atlas)) {
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    draw(&mut builder.begin(&mut atlas, Mapping::IDENTITY));
    with(builder.finish(), &atlas);
}

#[test]
fn one_field_draws_any_size_near_to_the_exact_picture() {
    for size in [20.0, 40.0, 75.0, 160.0] {
        let picture = |edges: Edges| {
            let style = Style::new(&averia(), size).edges(edges);
            let text = TextLayout::new("&", &style).expect("a layout");
            let mut canvas = Canvas::new(DeviceSize::new(220, 220));
            let draw = DrawText::at(Point::new(4.0, 4.0), Anchor::TOP_LEFT);
            drawn(
                |scope| scope.text(&text, draw).expect("room"),
                |frame, atlas| canvas.draw(frame, atlas),
            );
            let alpha = canvas.pixels().iter().map(|pixel| f64::from(pixel[3]));
            alpha.collect::<Vec<f64>>()
        };
        let (exact, field) = (picture(Edges::Smooth), picture(Edges::DistanceField));
        let sum = |picture: &[f64]| picture.iter().sum::<f64>();
        let ink = (sum(&field) / sum(&exact) - 1.0).abs();
        assert!(ink < 0.012, "{size} px: ink off by {ink}");
        let edge = exact
            .iter()
            .filter(|alpha| **alpha > 0.0 && **alpha < 255.0)
            .count();
        let off = exact
            .iter()
            .zip(&field)
            .map(|(a, b)| (a - b).abs())
            .sum::<f64>();
        let mean = off / edge as f64;
        println!("{size} px: ink {ink:.4}, {mean:.1} a pixel of an edge");
        // More where letters are enlarged: corners are rounded.
        assert!(
            mean < 3.0 + f64::from(size) * 0.15,
            "{size} px: {mean} a pixel of an edge"
        );
    }
}

#[test]
fn effects_come_from_the_picture_of_the_letter_as_far_as_its_range_reaches() {
    let kinds = |width: f32, blur: f32| {
        let red = Color::rgb(200, 40, 40);
        let style = Style::new(&lato(), 80.0)
            .edges(Edges::DistanceField)
            .effects(vec![
                Effect::Shadow(Shadow::new(Offset::new(0.0, 3.0), red).blur(blur)),
                Effect::Outline(LetterOutline::new(width, Color::BLACK)),
                Effect::Fill(Fill::default()),
            ]);
        let text = TextLayout::new("o", &style).expect("a layout");
        let mut kinds = Vec::new();
        drawn(
            |scope| {
                let draw = DrawText::at(Point::new(9.0, 9.0), Anchor::TOP_LEFT);
                scope.text(&text, draw).expect("room");
            },
            |frame, _| {
                let quads = frame.vertices.chunks(4).map(|corners| corners[0]);
                kinds.extend(quads.map(|corner| (corner.shade, corner.texel)));
            },
        );
        kinds
    };
    // 80 px from a field of 40: a texel is two pixels, and three texels each way are in range.
    let within = kinds(2.0, 4.0);
    assert_eq!(within.len(), 3);
    assert!(
        within
            .iter()
            .all(|(shade, texel)| { shade.field_range() == Some(6) && *texel == within[0].1 })
    );
    // An outline of 2 px is one texel of six: 256/6 = 42.7.
    assert_eq!((within[1].0.edge, within[1].0.softness), (43, 0));
    assert_eq!((within[2].0.edge, within[2].0.softness), (0, 0));
    // A shadow of 4 px blur has a deviation of 2 px, a texel: 4.472/6 of 255.
    assert_eq!(within[0].0.softness, 190);
    let beyond = kinds(8.0, 4.0);
    assert!(
        beyond
            .iter()
            .all(|(shade, _)| shade.field_range().is_none())
    );
}
