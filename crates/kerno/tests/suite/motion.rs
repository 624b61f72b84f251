//! Turning, growing and moving: against pictures drawn much larger, and from frame to frame.

use kerno::base::{Affine, Mapping};
use kerno::draw::Scope;
use kerno::screen::FrameTimes;
use kerno::text::Effect;
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, FrameBuilder, Offset, Point, Rect, Style,
    TextLayout,
};

use crate::support::{averia, lato};

/// The red channel of what is drawn on black at a scale.
fn drawn(
    (width, height): (u32, u32),
    scale: f32,
    atlas: &mut Atlas,
    draw: impl FnOnce(&mut Scope<'_>),
) -> Vec<f32> {
    let mut builder = FrameBuilder::new();
    draw(&mut builder.begin(atlas, Mapping::uniform(scale)));
    let side = |length: u32| (length as f32 * scale) as u32;
    let mut canvas = Canvas::new(DeviceSize::new(side(width), side(height)));
    canvas.clear(Color::BLACK);
    canvas.draw(builder.finish(), atlas);
    canvas
        .pixels()
        .iter()
        .map(|pixel| f32::from(pixel[0]))
        .collect()
}

/// Means of squares of pixels.
fn reduced(pixels: &[f32], (width, height): (u32, u32), times: u32) -> Vec<f32> {
    let part = |x: u32, y: u32| {
        let rows = (0..times).flat_map(|row| {
            let start = ((y * times + row) * width * times + x * times) as usize;
            &pixels[start..start + times as usize]
        });
        rows.sum::<f32>() / (times * times) as f32
    };
    (0..height)
        .flat_map(|y| (0..width).map(move |x| part(x, y)))
        .collect()
}

/// The mean difference in the box of what is seen.
fn mean_difference(one: &[f32], other: &[f32], width: u32) -> f32 {
    let seen = |index: &usize| other[*index] > 1.0 || one[*index] > 1.0;
    let places: Vec<(usize, usize)> = (0..one.len())
        .filter(seen)
        .map(|index| (index % width as usize, index / width as usize))
        .collect();
    let bounds = |axis: fn(&(usize, usize)) -> usize| {
        let own = places.iter().map(axis);
        own.clone().min().unwrap_or(0)..=own.max().unwrap_or(0)
    };
    let (columns, rows) = (bounds(|place| place.0), bounds(|place| place.1));
    let count = (columns.clone().count() * rows.clone().count()) as f32;
    let difference = rows.flat_map(|y| {
        columns.clone().map(move |x| {
            let index = y * width as usize + x;
            (one[index] - other[index]).abs()
        })
    });
    difference.sum::<f32>() / count
}

#[test]
fn turned_and_growing_text_is_as_if_it_were_supersampled() {
    let size = (220, 130);
    let center = Point::new(110.0, 65.0);
    for (face, em) in [(lato(), 24.0), (averia(), 40.0), (lato(), 14.0)] {
        let text = TextLayout::new("Fog ahead", &Style::new(&face, em)).expect("a layout");
        let about = |transform: Affine| transform.about(center);
        // Small letters have more edge in their boxes. What moves is softer, so that it looks
        // alike wherever it is, and what is made smaller still more.
        let [turned, skewed, moving, smaller] = match em < 20.0 {
            true => [2.3, 3.4, 8.2, 14.5],
            false => [2.0, 2.3, 5.0, 12.0],
        };
        for (name, way, most) in [
            ("turned", Affine::rotation(0.3), turned),
            ("on its side", Affine::rotation(1.45), turned),
            ("grown", Affine::scaling(1.13, 1.13), moving),
            ("skewed", Affine::skewing(0.2, 0.05), skewed),
            (
                "moved",
                Affine::translation(Offset::new(0.37, 0.61)),
                moving,
            ),
            ("smaller", Affine::scaling(0.62, 0.62), smaller),
        ] {
            let draw = |frame: &mut Scope<'_>| {
                let mut scope = frame.scope().transform(about(way));
                if matches!(name, "moved" | "grown" | "smaller") {
                    scope = scope.moving(true);
                }
                let place = DrawText::at(center, Anchor::CENTER);
                scope.text(&text, place).expect("room");
            };
            let own = drawn(size, 1.0, &mut Atlas::default(), draw);
            let large = drawn(size, 8.0, &mut Atlas::default(), draw);
            let wanted = reduced(&large, size, 8);
            let mean = mean_difference(&own, &wanted, size.0);
            assert!(mean <= most, "{name} at {em} px: {mean}");
        }
    }
}

#[test]
fn a_text_that_glides_keeps_its_spacing_and_its_look() {
    let size = (120, 40);
    let style = Style::new(&lato(), 17.0).effects(vec![Effect::fill(Color::WHITE)]);
    let text = TextLayout::new("l  l", &style).expect("a layout");
    let mut atlas = Atlas::default();
    let (mut spacings, mut inks, mut contrasts) = (Vec::new(), Vec::new(), Vec::new());
    for frame_number in 0..64_u16 {
        let way = f32::from(frame_number) / 16.0;
        for offset in [Offset::new(way, 0.0), Offset::new(way * 0.3, way)] {
            let pixels = drawn(size, 1.0, &mut atlas, |frame| {
                let mut scope = frame.scope().moving(true);
                let at = Point::new(20.0 + offset.x, 6.0 + offset.y);
                scope
                    .text(&text, DrawText::at(at, Anchor::TOP_LEFT))
                    .expect("room");
            });
            // The centre of the ink of either letter.
            let middle = 28.0 + offset.x;
            let center = |left: bool| {
                let (mut sum, mut ink) = (0.0_f64, 0.0_f64);
                for (index, pixel) in pixels.iter().enumerate() {
                    let x = (index % 120) as f64 + 0.5;
                    if (x < f64::from(middle)) == left {
                        sum += x * f64::from(*pixel);
                        ink += f64::from(*pixel);
                    }
                }
                sum / ink
            };
            spacings.push(center(false) - center(true));
            inks.push(f64::from(pixels.iter().sum::<f32>()));
            contrasts.push(f64::from(
                pixels.iter().map(|pixel| pixel * pixel).sum::<f32>(),
            ));
        }
    }
    let range = |values: &[f64]| {
        let low = values.iter().copied().fold(f64::INFINITY, f64::min);
        let high = values.iter().copied().fold(f64::NEG_INFINITY, f64::max);
        (low, high)
    };
    let (least, most) = range(&spacings);
    // Never more than 1/16 pixel off where it should be.
    let glyphs = text.glyphs();
    let wanted = f64::from(glyphs[glyphs.len() - 1].x - glyphs[0].x);
    let off = (least - wanted).abs().max((most - wanted).abs());
    assert!(off < 1.0 / 16.0, "{least} to {most}, not {wanted}");
    let (least, most) = range(&inks);
    assert!(most / least < 1.03, "ink {least} to {most}");
    // A stem of one and a half pixels is sharper on the grid than beside it: a little.
    let (least, most) = range(&contrasts);
    assert!(most / least < 1.3, "contrast {least} to {most}");
}

#[test]
fn a_title_that_pops_adds_few_sizes() {
    let text = TextLayout::new("l", &Style::new(&averia(), 30.0)).expect("a layout");
    let mut atlas = Atlas::default();
    let center = Point::new(60.0, 60.0);
    for frame_number in 0..60_u16 {
        let share = f32::from(frame_number) / 59.0;
        // From a quarter of its size over its size and back.
        let scale = 0.25 + 1.9 * share - 1.15 * share * share;
        let pop = Affine::scaling(scale, scale).then(Affine::rotation(share));
        drawn((120, 120), 1.0, &mut atlas, |frame| {
            let mut scope = frame.scope().transform(pop.about(center)).moving(true);
            let place = DrawText::at(center, Anchor::CENTER);
            scope.text(&text, place).expect("room");
        });
    }
    assert!(atlas.usage().glyphs <= 3, "{}", atlas.usage().glyphs);
}

#[test]
fn thin_things_are_seen_at_every_scale_and_turn() {
    let gold = Color::rgb(255, 0, 0);
    for step in 1..=10_u8 {
        let scale = f32::from(step) * 0.2;
        for angle in [0.0, 0.02, 0.4, 1.3] {
            let center = Point::new(50.0, 50.0);
            let pixels = drawn((100, 100), scale, &mut Atlas::default(), |frame| {
                let mut scope = frame
                    .scope()
                    .transform(Affine::rotation(angle).about(center));
                scope.rect(Rect::new(10.0, 49.9, 80.0, 0.2), gold);
                scope.line(Point::new(20.0, 20.0), Point::new(80.0, 31.0), 0.1, gold);
            });
            // Two lines, each a pixel wide at least, and not more than two.
            let ink = pixels.iter().sum::<f32>() / 255.0;
            let length = 80.0 + 61.0_f32;
            let share = ink / (length * scale);
            assert!((0.93..=1.15).contains(&share), "{scale}, {angle}: {share}");
        }
    }
}

#[test]
fn turned_rectangles_have_smooth_edges() {
    let center = Point::new(30.0, 30.0);
    let turn = Affine::rotation(0.3).about(center);
    let draw = |frame: &mut Scope<'_>| {
        let mut scope = frame.scope().transform(turn);
        scope.rect(Rect::new(14.0, 20.0, 32.0, 20.0), Color::rgb(240, 0, 0));
    };
    let own = drawn((60, 60), 1.0, &mut Atlas::default(), draw);
    let large = drawn((60, 60), 16.0, &mut Atlas::default(), draw);
    let wanted = reduced(&large, (60, 60), 16);
    let pairs = own.iter().zip(&wanted);
    let worst = pairs.map(|(own, wanted)| (own - wanted).abs());
    let worst = worst.fold(0.0, f32::max);
    assert!(worst < 48.0, "{worst}");
    assert!((own.iter().sum::<f32>() / wanted.iter().sum::<f32>() - 1.0).abs() < 0.01);
}

#[test]
fn a_chart_of_times_is_as_high_as_they_are_long() {
    let times = FrameTimes::new(&lato(), &["layout", "frame"]).expect("a face");
    let mut times = times.budget(0.010);
    assert_eq!(times.median_and_longest(0), None, "no frame yet");
    for frame in 0..240 {
        // Of the 120 that count, one takes longer.
        let longest = if frame == 200 { 0.004 } else { 0.002 };
        times.record(&[longest, 0.003, 9.0]);
    }
    assert_eq!(times.median_and_longest(0), Some((0.002, 0.004)));
    assert_eq!(times.median_and_longest(1), Some((0.003, 0.003)));
    assert_eq!(times.median_and_longest(2), None, "there are two phases");
    let mut atlas = Atlas::default();
    let draw = |scope: &mut Scope<'_>| {
        // Without labels the chart would be 200 pixels high: they take some of the top.
        times
            .draw(scope, Rect::new(0.0, 0.0, 256.0, 216.0))
            .expect("room");
    };
    let pixels = drawn((256, 216), 1.0, &mut atlas, draw);
    // A column of the chart, from its floor at 208 upwards: 5 ms of 10 are bars.
    let column = |y: usize| pixels[y * 256 + 128];
    let is_bar = |y: &usize| column(*y) > 100.0;
    let bars = (60..208).rev().take_while(is_bar).count() as f32;
    let line = (20..100).find(|y| column(*y) > 60.0 && column(*y + 3) < 60.0);
    let chart = 208.0 - line.expect("the line of the budget") as f32;
    assert!((bars - chart / 2.0).abs() <= 1.0, "{bars} of {chart}");
}
