//! Effects: pictures of treated shapes against computations of their own, and letters that
//! fade as one.

use kerno::base::{BandSide, Edges, Join, Mapping, Treatment};
use kerno::font::GlyphId;
use kerno::raster::{Coverage, GlyphRequest, Rasterizer};
use kerno::text::{Effect, Fill, LetterOutline, Shadow};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Offset, Point, Style,
    TextLayout,
};

use crate::support::{averia, lato};

fn drawn(face: &Face, letter: char, size: f32, treatment: Treatment) -> Coverage {
    let glyph: GlyphId = face.glyph(letter).expect("the letter");
    let request = GlyphRequest::new(face, glyph, size).treatment(treatment);
    let mut rasterizer = Rasterizer::new();
    rasterizer.glyph(&request).expect("a picture").clone()
}

/// The coverage at a pixel counted from the pen, with linear filtering where a texel is
/// wider than a pixel.
fn at(picture: &Coverage, x: i32, y: i32) -> f64 {
    let texel = |column: i64, row: i64| {
        let is_inside = (0..i64::from(picture.width)).contains(&column)
            && (0..i64::from(picture.height)).contains(&row);
        match is_inside {
            true => f64::from(picture.texels[(row * i64::from(picture.width) + column) as usize]),
            false => 0.0,
        }
    };
    let side = f64::from(picture.reduction);
    let u = (f64::from(x) + 0.5) / side - f64::from(picture.left) - 0.5;
    let v = (f64::from(y) + 0.5) / side - f64::from(picture.top) - 0.5;
    let (column, row) = (u.floor(), v.floor());
    let (right, down) = (u - column, v - row);
    let (column, row) = (column as i64, row as i64);
    let above = texel(column, row) * (1.0 - right) + texel(column + 1, row) * right;
    let below = texel(column, row + 1) * (1.0 - right) + texel(column + 1, row + 1) * right;
    above * (1.0 - down) + below * down
}

/// The sum of all coverage in pixels.
fn area(picture: &Coverage) -> f64 {
    let sum: u64 = picture.texels.iter().map(|texel| u64::from(*texel)).sum();
    sum as f64 / 255.0
}

#[test]
fn a_blur_is_the_gaussian_of_the_coverage() {
    let face = averia();
    let plain = Treatment::from(Edges::Smooth);
    for (size, deviation, most) in [
        (20.0, 0.6, 1.1),
        (33.0, 1.5, 1.1),
        (33.0, 2.9, 1.1),
        (48.0, 6.5, 2.0),
        (48.0, 13.0, 2.0),
    ] {
        let sharp = drawn(&face, 'g', size, plain);
        let blurred = plain.with_blur(deviation);
        let soft = drawn(&face, 'g', size, blurred);
        let deviation = f64::from(blurred.blur_px());
        let reach = (deviation * 5.0).ceil() as i32;
        let weight = |step: i32| (-0.5 * (f64::from(step) / deviation).powi(2)).exp();
        let whole: f64 = (-reach..=reach).map(weight).sum();
        // Across, then down, in 64 bits.
        let (left, top) = (sharp.left, sharp.top);
        let (right, bottom) = (left + sharp.width as i32, top + sharp.height as i32);
        let mut worst: f64 = 0.0;
        let across: Vec<Vec<f64>> = (top..bottom)
            .map(|y| {
                let row = |x: i32| {
                    let parts = (-reach..=reach).map(|step| at(&sharp, x + step, y) * weight(step));
                    parts.sum::<f64>() / whole
                };
                (left - reach..right + reach).map(row).collect()
            })
            .collect();
        for y in top - reach..bottom + reach {
            for (column, x) in (left - reach..right + reach).enumerate() {
                let parts = (top..bottom).zip(&across);
                let sum: f64 = parts
                    .map(|(row, sums)| sums[column] * weight(row - y))
                    .sum();
                worst = worst.max((at(&soft, x, y) - sum / whole).abs());
            }
        }
        assert!(worst <= most, "{deviation} px at {size} px: off by {worst}");
    }
}

#[test]
fn a_rectangle_grows_as_its_joins_say() {
    // The bar of Lato is a rectangle; its sides in pixels from its outline.
    let (face, size) = (lato(), 64.0);
    let bounds = face.bounds(face.glyph('|').expect("a bar")).expect("a box");
    let bounds = bounds.expect("ink");
    let unit = size / f32::from(face.metrics().units_per_em);
    let a = f64::from((f32::from(bounds.x_max) - f32::from(bounds.x_min)) * unit);
    let b = f64::from((f32::from(bounds.y_max) - f32::from(bounds.y_min)) * unit);
    let plain = Treatment::from(Edges::Smooth);
    let r = 3.0_f64;
    let own = area(&drawn(&face, '|', size, plain));
    assert!((own - a * b).abs() < 0.2, "{own} for {a} × {b}");
    let sides = a * b + 2.0 * r * (a + b);
    for (join, wanted) in [
        (Join::Miter, sides + 4.0 * r * r),
        (Join::Round, sides + std::f64::consts::PI * r * r),
        (Join::Bevel, sides + 2.0 * r * r),
    ] {
        let grown = plain.with_outset(r as f32).with_join(join);
        let found = area(&drawn(&face, '|', size, grown));
        assert!(
            (found - wanted).abs() < 0.6,
            "{join:?}: {found}, not {wanted}"
        );
        let band = plain.with_band(BandSide::Outside, r as f32).with_join(join);
        let found = area(&drawn(&face, '|', size, band));
        assert!(
            (found - (wanted - a * b)).abs() < 0.8,
            "{join:?} band: {found}"
        );
    }
    let r = a * 0.25;
    let thinner = (a - 2.0 * r) * (b - 2.0 * r);
    let found = area(&drawn(&face, '|', size, plain.with_outset(-r as f32)));
    assert!((found - thinner).abs() < 0.6, "{found}, not {thinner}");
    let inside = plain.with_band(BandSide::Inside, r as f32);
    let found = area(&drawn(&face, '|', size, inside));
    assert!((found - (a * b - thinner)).abs() < 0.8, "{found}");
    // An outline that is taken away altogether is gone.
    assert_eq!(
        area(&drawn(&face, '|', size, plain.with_outset(-20.0))),
        0.0
    );
}

#[test]
fn round_outsets_are_all_within_reach_of_the_letter() {
    // The letter drawn eight times as large, and every point within reach of its ink.
    const TIMES: i32 = 8;
    let face = lato();
    let plain = Treatment::from(Edges::Smooth);
    for (letter, reach) in [('&', 1.5_f32), ('g', 4.0), ('W', 9.0)] {
        let large = drawn(&face, letter, 40.0 * TIMES as f32, plain);
        let round = plain.with_outset(reach).with_join(Join::Round);
        let grown = drawn(&face, letter, 40.0, round);
        let radius = reach * TIMES as f32;
        let span = radius.ceil() as i32;
        // The columns that each row of the disk reaches.
        let disk: Vec<(i32, i32)> = (-span..=span)
            .filter_map(|down| {
                let square = radius * radius - (down * down) as f32;
                (square >= 0.0).then(|| (down, square.sqrt().round() as i32))
            })
            .collect();
        let width = grown.width as i32 * TIMES;
        let height = grown.height as i32 * TIMES;
        let (left, top) = (grown.left * TIMES, grown.top * TIMES);
        // For each row how far it is from the next ink to either side of a place.
        let mut near = vec![i32::MAX; ((width + 2 * span) * (height + 2 * span)) as usize];
        for y in 0..height + 2 * span {
            let ink: Vec<bool> = (0..width + 2 * span)
                .map(|x| at(&large, left + x - span, top + y - span) >= 127.5)
                .collect();
            let row = &mut near[(y * (width + 2 * span)) as usize..][..ink.len()];
            let mut last = i32::MIN / 2;
            for (x, place) in row.iter_mut().enumerate() {
                last = if ink[x] { x as i32 } else { last };
                *place = x as i32 - last;
            }
            let mut next = i32::MAX / 2;
            for (x, place) in row.iter_mut().enumerate().rev() {
                next = if ink[x] { x as i32 } else { next };
                *place = (*place).min(next - x as i32);
            }
        }
        let (mut sum, mut worst) = (0.0, 0.0_f64);
        for y in 0..grown.height as i32 {
            for x in 0..grown.width as i32 {
                let reached = (0..TIMES * TIMES).filter(|part| {
                    let (px, py) = (x * TIMES + part % TIMES, y * TIMES + part / TIMES);
                    disk.iter().any(|(down, across)| {
                        let row = py + down + span;
                        near[(row * (width + 2 * span) + px + span) as usize] <= *across
                    })
                });
                let wanted = reached.count() as f64 * 255.0 / f64::from(TIMES * TIMES);
                let found = at(&grown, grown.left + x, grown.top + y);
                sum += (found - wanted).abs();
                worst = worst.max((found - wanted).abs());
            }
        }
        let mean = sum / f64::from(grown.width * grown.height);
        assert!(
            mean < 2.0 && worst < 40.0,
            "{letter}: mean {mean}, worst {worst}"
        );
    }
}

/// Text over a ground, at an opacity that the scope says or, where it is below 0, the tint.
fn shown(style: &Style, text: &str, ground: Color, opacity: f32) -> Vec<[u8; 4]> {
    let layout = TextLayout::new(text, style).expect("a layout");
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let mut draw = DrawText::at(Point::new(16.3, 12.0), Anchor::TOP_LEFT);
    if opacity < 0.0 {
        let alpha = (-opacity * 255.0).round() as u8;
        draw = draw.tint(Color::WHITE.with_alpha(alpha));
    }
    let mut scope = frame
        .scope()
        .opacity(if opacity < 0.0 { 1.0 } else { opacity });
    scope.text(&layout, draw).expect("room");
    let mut canvas = Canvas::new(DeviceSize::new(260, 90));
    canvas.clear(ground);
    canvas.draw(builder.finish(), &atlas);
    canvas.pixels().to_vec()
}

#[test]
fn a_letter_with_effects_fades_as_one() {
    let ground = Color::rgb(128, 120, 110);
    // Apart from each other: letters fade one by one.
    let plain = Style::new(&averia(), 44.0).letter_spacing(14.0);
    let shadow = Shadow::new(Offset::new(2.4, 1.3), Color::BLACK.with_alpha(150)).blur(2.0);
    let wide = Shadow::new(Offset::new(0.0, 2.0), Color::rgb(0, 0, 60)).blur(7.0);
    for effects in [
        vec![Effect::outline(2.5, Color::BLACK)],
        vec![
            Effect::outline(2.5, Color::BLACK),
            Effect::fill(Color::WHITE),
        ],
        vec![
            Effect::Shadow(shadow),
            Effect::outline(1.0, Color::rgb(90, 0, 0)),
        ],
        vec![
            Effect::Shadow(wide),
            Effect::fill(Color::rgb(255, 240, 200).with_alpha(180)),
            Effect::Outline(LetterOutline::new(1.6, Color::BLACK).side(BandSide::Inside)),
        ],
    ] {
        // A line beneath nothing but spaces fades as well.
        let (has_line, text) = match effects.len() {
            1 => (true, "  "),
            _ => (false, "Bram"),
        };
        let style = plain.clone().effects(effects).underline(has_line);
        // Each layer rounds to whole steps of 1/255.
        let most = if style.layers().count() > 2 { 3.5 } else { 2.0 };
        let whole = shown(&style, text, ground, 1.0);
        let empty = [ground.red, ground.green, ground.blue, 255];
        for opacity in [0.25, 0.5, 0.8, -0.5] {
            let share = f32::abs(opacity);
            let faded = shown(&style, text, ground, opacity);
            for (index, (faded, whole)) in faded.iter().zip(&whole).enumerate() {
                for channel in 0..3 {
                    let (full, none) = (f32::from(whole[channel]), f32::from(empty[channel]));
                    let wanted = none + (full - none) * share;
                    let off = (f32::from(faded[channel]) - wanted).abs();
                    let place = (index % 260, index / 260);
                    assert!(off <= most, "{opacity} at {place:?}: off by {off}");
                }
            }
        }
    }
}

#[test]
fn no_shadow_falls_on_a_letter() {
    let shadow = Effect::shadow(Offset::new(14.0, 0.0), 3.0, Color::BLACK);
    let style = Style::new(&lato(), 40.0);
    let plain = shown(&style, "HIIH", Color::rgb(90, 90, 90), 1.0);
    let shaded = shown(
        &style.effects(vec![shadow]),
        "HIIH",
        Color::rgb(90, 90, 90),
        1.0,
    );
    let white = [255; 4];
    let letters = plain.iter().filter(|pixel| **pixel == white).count();
    assert!(letters > 300, "{letters} pixels");
    for (plain, shaded) in plain.iter().zip(&shaded) {
        assert!(*plain != white || *shaded == white);
    }
    assert!(
        shaded.iter().any(|pixel| pixel[0] < 20),
        "the shadow is seen"
    );
}

#[test]
fn a_gradient_runs_from_the_ascender_to_the_descender() {
    let (top, bottom) = (Color::rgb(240, 20, 0), Color::rgb(0, 20, 240));
    let face = lato();
    let style = Style::new(&face, 50.0).effects(vec![Effect::gradient(top, bottom)]);
    let pixels = shown(&style, "|", Color::BLACK, 1.0);
    let metrics = face.metrics();
    let unit = 50.0 / f32::from(metrics.units_per_em);
    let (above, below) = (
        f32::from(metrics.ascender) * unit,
        f32::from(metrics.descender) * -unit,
    );
    let layout = TextLayout::new("|", &style).expect("a layout");
    let baseline = (12.0 + layout.lines()[0].baseline).round();
    let mut seen = 0;
    for (index, pixel) in pixels.iter().enumerate() {
        if pixel[1] != 20 {
            continue; // Not all of the pixel is covered.
        }
        seen += 1;
        let y = (index / 260) as f32 + 0.5;
        let share = ((y - (baseline - above)) / (above + below)).clamp(0.0, 1.0);
        let wanted = 240.0 * (1.0 - share);
        assert!(
            (f32::from(pixel[0]) - wanted).abs() <= 1.5,
            "{y}: {pixel:?}"
        );
        assert!((f32::from(pixel[2]) - (240.0 - wanted)).abs() <= 1.5);
    }
    assert!(seen > 60, "{seen} pixels");
}

#[test]
fn effects_are_read_from_a_line() {
    let read = |text: &str| text.parse::<Effect>().map_err(|error| error.to_string());
    let fill = Fill::default().bottom(Color::rgb(0, 128, 0)).embolden(-0.5);
    assert_eq!(
        read("fill bottom=rgb(0, 128 , 0) embolden=-.5"),
        Ok(Effect::Fill(fill))
    );
    let outline = LetterOutline::new(2.0, Color::BLACK)
        .side(BandSide::Centered)
        .join(Join::Bevel);
    assert_eq!(
        read("outline width=2 side=centered join=bevel"),
        Ok(Effect::Outline(outline))
    );
    assert_eq!(
        read("glow radius=3 color=gold"),
        Ok(Effect::glow(3.0, Color::rgb(255, 215, 0)))
    );
    for (text, says) in [
        ("", "begins with fill, outline, shadow or glow"),
        ("shade blur=3", "begins with fill, outline, shadow or glow"),
        ("shadow blurr=3", "did you mean “blur”"),
        ("shadow blur", "must be a name and a value"),
        ("shadow blur=-1", "0 to 128"),
        ("shadow blur=nan", "invalid type"),
        ("shadow offset=2000,0", "-1024 to 1024"),
        ("outline color=red", "missing field `width`"),
        ("outline width=65", "above 0 and at most 64"),
        ("outline width=2 join=sharp", "unknown variant `sharp`"),
        ("glow radius=2 color=lantern", "lantern"),
        ("fill color=a\"b", "a\"b"),
    ] {
        let error = read(text).expect_err(text);
        assert!(error.contains(says), "{text}: {error}");
    }
}

#[test]
fn numbers_of_effects_have_their_ranges() {
    let face = lato();
    let error_of = |effect: Effect| {
        let style = Style::new(&face, 20.0).effects(vec![effect]);
        TextLayout::new("oar", &style)
            .map(|_| ())
            .map_err(|error| error.to_string())
    };
    let far = Offset::new(f32::NAN, 0.0);
    for effect in [
        Effect::shadow(far, 0.0, Color::BLACK),
        Effect::shadow(Offset::ZERO, f32::INFINITY, Color::BLACK),
        Effect::Shadow(Shadow::new(Offset::ZERO, Color::BLACK).spread(f32::NAN)),
        Effect::glow(-1.0, Color::WHITE),
        Effect::outline(f32::NAN, Color::WHITE),
        Effect::Fill(Fill::default().embolden(99.0)),
    ] {
        let error = error_of(effect).expect_err("out of range");
        assert!(error.contains("must be"), "{error}");
    }
    let many = Style::new(&face, 20.0).effects(vec![Effect::fill(Color::WHITE); 1000]);
    let error = TextLayout::new("oar", &many)
        .map(|_| ())
        .expect_err("too many");
    assert!(error.to_string().contains("at most 32"), "{error}");
    // The largest of all fits within the limits or says that it does not.
    let blur = Effect::shadow(Offset::ZERO, 128.0, Color::BLACK);
    let style = Style::new(&face, 20.0).effects(vec![blur]);
    let layout = TextLayout::new("oar", &style).expect("a layout");
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    for scale in [1.0, 8.0, 64.0] {
        let mut frame = builder.begin(&mut atlas, Mapping::uniform(scale));
        let place = DrawText::at(Point::new(0.0, 0.0), Anchor::TOP_LEFT);
        let _ = frame.text(&layout, place);
        assert!(atlas.usage().texture_bytes < 64 << 20, "{scale}");
    }
}
