//! Circles, polylines and the shadows of boxes, against areas by hand and a Gaussian.

use kerno::base::{Affine, Mapping};
use kerno::draw::{BoxShadow, Scope};
use kerno::{Atlas, Canvas, Color, DeviceSize, FrameBuilder, Offset, Point, Rect};

const SIDE: u32 = 120;

/// The alpha of every pixel, 0 to 1.
fn drawn(scale: f32, draw: impl FnOnce(&mut Scope<'_>)) -> Vec<f64> {
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    draw(&mut builder.begin(&mut atlas, Mapping::uniform(scale)));
    let mut canvas = Canvas::new(DeviceSize::new(SIDE, SIDE));
    canvas.draw(builder.finish(), &atlas);
    let pixels = canvas.pixels().iter();
    pixels.map(|pixel| f64::from(pixel[3]) / 255.0).collect()
}

#[test]
fn circles_have_their_areas() {
    let pi = std::f64::consts::PI;
    let mirror = Affine::scaling(-1.0, 1.0).about(Point::new(30.0, 30.0));
    for (scale, radius) in [(1.0_f32, 20.3_f32), (2.0, 27.0), (1.0, 3.0), (0.5, 41.7)] {
        let center = Point::new(59.4 / scale, 60.7 / scale);
        let seen = f64::from(radius * scale);
        let pixels = drawn(scale, |frame| frame.circle(center, radius, Color::WHITE));
        let (found, wanted) = (pixels.iter().sum::<f64>(), pi * seen * seen);
        // Soft edges add as much outside as they take inside, and a twelfth of a turn more.
        assert!(
            (found / wanted - 1.0).abs() < 0.02,
            "{seen}: {found}, not {wanted}"
        );
        let pixels = drawn(scale, |frame| {
            frame.circle_line(center, radius, 2.0 / scale, Color::WHITE);
        });
        let (found, wanted) = (pixels.iter().sum::<f64>(), 2.0 * pi * seen * 2.0);
        assert!(
            (found / wanted - 1.0).abs() < 0.02,
            "{seen}: {found}, not {wanted}"
        );
    }
    let center = Point::new(30.0, 30.0);
    let plain = drawn(1.0, |frame| frame.circle(center, 12.0, Color::WHITE));
    let mirrored = drawn(1.0, |frame| {
        frame
            .scope()
            .transform(mirror)
            .circle(center, 12.0, Color::WHITE);
    });
    let off = plain.iter().zip(&mirrored).map(|(a, b)| (a - b).abs());
    assert!(off.fold(0.0, f64::max) < 0.02);
    // A dot smaller than a pixel is as large as one.
    let dot = drawn(1.0, |frame| frame.circle(center, 0.01, Color::WHITE));
    let ink: f64 = dot.iter().sum();
    assert!((0.5..1.4).contains(&ink), "{ink}");
}

#[test]
fn polylines_are_evenly_wide() {
    let corners = [(10.0, 20.0), (60.0, 20.0), (60.0, 70.0), (100.0, 110.0)];
    let points = corners.map(|(x, y)| Point::new(x, y));
    for width in [1.0_f32, 3.0, 7.0] {
        let pixels = drawn(1.0, |frame| frame.polyline(&points, width, Color::WHITE));
        let length = 50.0 + 50.0 + 40.0 * 2.0_f64.sqrt();
        let found: f64 = pixels.iter().sum();
        assert!(
            // A line of one pixel on the diagonal meets more centres than its share.
            (found / (length * f64::from(width)) - 1.0).abs() < 0.06 / f64::from(width),
            "{width}: {found}"
        );
        assert!(pixels.iter().all(|alpha| *alpha <= 1.0));
    }
    // Closed, it has no ends: a square's frame, by its outer and inner squares.
    let square = [
        (20.0, 20.0),
        (80.0, 20.0),
        (80.0, 80.0),
        (20.0, 80.0),
        (20.0, 20.0),
    ];
    let square = square.map(|(x, y)| Point::new(x, y));
    // Translucent: nothing is laid over itself.
    let half = Color::WHITE.with_alpha(128);
    let pixels = drawn(1.0, |frame| frame.polyline(&square, 4.0, half));
    let found: f64 = pixels.iter().sum::<f64>() * 255.0 / 128.0;
    assert!((found - (64.0 * 64.0 - 56.0 * 56.0)).abs() < 6.0, "{found}");
    assert!(pixels.iter().all(|alpha| *alpha < 0.51));
}

/// The integral of the Gaussian from minus infinity, by Simpson's rule.
fn normal(x: f64) -> f64 {
    let steps = 400;
    let step = (x + 8.0) / f64::from(steps);
    let density = |x: f64| (-0.5 * x * x).exp() / (2.0 * std::f64::consts::PI).sqrt();
    let sum: f64 = (0..=steps)
        .map(|index| {
            let weight = match index {
                0 => 1.0,
                _ if index == steps => 1.0,
                _ if index % 2 == 1 => 4.0,
                _ => 2.0,
            };
            weight * density(-8.0 + step * f64::from(index))
        })
        .sum();
    sum * step / 3.0
}

#[test]
fn the_shadow_of_a_box_is_a_gaussian_of_it() {
    for (width, height, blur) in [(60.0, 50.0, 6.0), (70.0, 20.0, 20.0), (8.0, 9.0, 24.0)] {
        let rect = Rect::new(20.0, 30.0, width, height);
        let shadow = BoxShadow::new(Offset::new(4.0, 2.0), blur, Color::WHITE);
        let pixels = drawn(1.0, |frame| frame.box_shadow(rect, &shadow).expect("room"));
        let deviation = f64::from(blur) * 0.5;
        let axis = |start: f64, length: f64| -> Vec<f64> {
            (0..SIDE)
                .map(|pixel| {
                    let at = f64::from(pixel) + 0.5 - start;
                    normal(at / deviation) - normal((at - length) / deviation)
                })
                .collect()
        };
        let across = axis(24.0, f64::from(width));
        let down = axis(32.0, f64::from(height));
        let mut worst: f64 = 0.0;
        for (index, alpha) in pixels.iter().enumerate() {
            let (x, y) = (index % SIDE as usize, index / SIDE as usize);
            worst = worst.max((alpha - across[x] * down[y]).abs());
        }
        assert!(
            worst < 3.5 / 255.0,
            "{width} × {height}, {blur}: {}",
            worst * 255.0
        );
    }
}

#[test]
fn shapes_with_numbers_that_are_none_draw_nothing_or_little() {
    for number in [f32::NAN, f32::INFINITY, f32::NEG_INFINITY, -3.0, 1e30] {
        let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
        let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
        let point = Point::new(number, 3.0);
        frame.circle(point, 4.0, Color::WHITE);
        frame.circle(Point::new(9.0, 9.0), number, Color::WHITE);
        frame.circle_line(Point::new(9.0, 9.0), 4.0, number, Color::WHITE);
        frame.polyline(&[point, Point::new(1.0, 1.0), point], 2.0, Color::WHITE);
        frame.polyline(
            &[Point::new(1.0, 1.0), Point::new(9.0, 1.0)],
            number,
            Color::WHITE,
        );
        let rect = Rect::new(1.0, 1.0, 8.0, 8.0);
        for (blur, spread, radius) in [(number, 0.0, 0.0), (2.0, number, 0.0), (2.0, 0.0, number)] {
            let shadow = BoxShadow::new(Offset::new(number, 0.0), blur, Color::BLACK);
            let shadow = shadow.spread(spread).radius(radius);
            let _ = frame.box_shadow(rect, &shadow);
        }
        let frame = builder.finish();
        let places = frame.vertices.iter().flat_map(|corner| corner.position);
        assert!(places.into_iter().all(f32::is_finite), "{number}");
        let mut canvas = Canvas::new(DeviceSize::new(16, 16));
        canvas.draw(frame, &atlas);
    }
}
