//! Frames and the canvas.

use kerno::atlas::SpriteOptions;
use kerno::base::{Affine, DevicePoint, Edges, Image, Insets, Mapping};
use kerno::draw::{Blending, DrawSprite, Vertex};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Fit, FrameBuilder, Offset, Point, Rect,
    Size, Style, TextLayout, Viewport,
};

/// The loop of the example, which is written after `docs/drawing.md` alone.
#[expect(dead_code, reason = "its own picture is drawn by the example")]
#[path = "../../examples/own_renderer.rs"]
mod own_renderer;

use crate::support::{lato, misaki};

fn canvas(builder: &mut FrameBuilder, atlas: &Atlas, width: u32, height: u32) -> Canvas {
    let mut canvas = Canvas::new(DeviceSize::new(width, height));
    canvas.draw(builder.finish(), atlas);
    canvas
}

/// The columns and rows of a canvas that something was drawn on, half-open.
fn drawn(canvas: &Canvas) -> Option<(u32, u32, u32, u32)> {
    let width = canvas.size().width;
    let inked = canvas
        .pixels()
        .iter()
        .enumerate()
        .filter(|(_, pixel)| pixel[3] != 0);
    let places = inked.map(|(index, _)| (index as u32 % width, index as u32 / width));
    places.fold(None, |all, (x, y)| {
        let (left, top, right, bottom) = all.unwrap_or((x, y, x + 1, y + 1));
        Some((left.min(x), top.min(y), right.max(x + 1), bottom.max(y + 1)))
    })
}

#[test]
fn the_vertex_is_twenty_bytes() {
    assert_eq!(size_of::<Vertex>(), 20);
    let vertex = Vertex {
        position: [1.0, 0.0],
        texel: [0x0102, 0],
        color: [9, 0, 0, 0],
        ..Vertex::default()
    };
    let bytes = bytemuck::bytes_of(&vertex);
    assert_eq!((&bytes[..4], bytes[12]), (&1.0_f32.to_ne_bytes()[..], 9));
}

#[test]
fn colours_blend_premultiplied() {
    // rgb(200, 100, 0) at alpha 128 over opaque rgb(0, 0, 255). Premultiplied:
    // 200·128/255 = 100.4, 100·128/255 = 50.2; what is below keeps 127/255:
    // 255·127/255 = 127.
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let all = Rect::new(0.0, 0.0, 1.0, 1.0);
    frame.rect(all, Color::rgb(0, 0, 255));
    frame.rect(all, Color::rgba(200, 100, 0, 128));
    let canvas = canvas(&mut builder, &atlas, 1, 1);
    assert_eq!(canvas.pixels(), [[100, 50, 127, 255]]);
    // Alone, it comes back straight, as near as 8 bits allow.
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    frame
        .scope()
        .opacity(0.5)
        .rect(all, Color::rgb(200, 100, 0));
    let canvas = self::canvas(&mut builder, &atlas, 1, 1);
    assert_eq!(canvas.to_image().pixel(0, 0), Some([199, 100, 0, 128]));
}

#[test]
fn higher_layers_lie_above_whatever_came_first() {
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let all = Rect::new(0.0, 0.0, 1.0, 1.0);
    for (z, color) in [(5, 50), (-3, 10), (5, 51), (0, 30)] {
        frame.scope().layer(z).rect(all, Color::rgb(color, 0, 0));
    }
    let finished = builder.finish();
    let order: Vec<u8> = finished
        .indices
        .chunks(6)
        .map(|quad| finished.vertices[quad[0] as usize].color[0])
        .collect();
    assert_eq!(order, [10, 30, 50, 51]);
    assert_eq!((finished.quad_count(), finished.batches.len()), (4, 1));
    assert_eq!(finished.batches[0].indices, 0..24);
    builder.begin(&mut atlas, Mapping::IDENTITY);
    assert!(builder.finish().batches.is_empty());
}

#[test]
fn a_rectangle_covers_whole_pixels() {
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::uniform(1.5));
    // 1.5..4.5 and 3..6 in device pixels; halves round away from zero.
    frame.rect(Rect::new(1.0, 2.0, 2.0, 2.0), Color::WHITE);
    let canvas = canvas(&mut builder, &atlas, 8, 8);
    assert_eq!(drawn(&canvas), Some((2, 3, 5, 6)));
    assert!(
        canvas
            .pixels()
            .iter()
            .all(|pixel| [0, 255].contains(&pixel[3]))
    );
}

#[test]
fn a_gradient_runs_from_corner_to_corner() {
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let gray = |value| Color::rgb(value, value, value);
    let corners = [gray(0), gray(100), gray(200), gray(100)];
    frame.gradient(Rect::new(0.0, 0.0, 2.0, 2.0), corners);
    let canvas = canvas(&mut builder, &atlas, 2, 2);
    // Pixel centres at a quarter and three quarters of each axis.
    let reds: Vec<u8> = canvas.pixels().iter().map(|pixel| pixel[0]).collect();
    assert_eq!(reds, [50, 100, 100, 150]);
}

#[test]
fn a_score_keeps_its_corner_and_grows_to_the_left() {
    let style = Style::new(&lato(), 24.0);
    for (width, height) in [(640, 360), (1280, 800), (3440, 1440), (500, 900)] {
        let window = DeviceSize::new(width, height);
        let view = Viewport::new(Size::new(640.0, 360.0), window, Fit::Contain).expect("a window");
        let edges = ["7", "1,777", "88,777,777"].map(|score| {
            let mut atlas = Atlas::default();
            let layout = TextLayout::new(score, &style).expect("a layout");
            let mut builder = FrameBuilder::new();
            let mut frame = builder.begin(&mut atlas, view.mapping());
            let corner = view.place(Anchor::TOP_RIGHT, Offset::new(-10.0, 10.0));
            frame
                .text(&layout, DrawText::at(corner, Anchor::TOP_RIGHT))
                .expect("room");
            drawn(&canvas(&mut builder, &atlas, width, height)).expect("ink")
        });
        let [one, four, eight] = edges;
        // The same last digit, to the step of a pixel that glyphs are kept in.
        assert!(
            one.2.abs_diff(four.2) <= 1 && one.2.abs_diff(eight.2) <= 1,
            "{edges:?}"
        );
        assert!(eight.0 < four.0 && four.0 < one.0, "{edges:?}");
        let margin = 10.0 * view.mapping().scale();
        assert!((width as f32 - margin - one.2 as f32) < 4.0 * view.mapping().scale());
    }
}

#[test]
fn centred_ink_is_centred() {
    // A badge of 40 × 40 with a digit held by its ink: the rows and columns
    // free on opposite sides differ by a pixel at most (ink on whole rows).
    let style = Style::new(&lato(), 24.0);
    for digit in ["0", "1", "4", "7", "9"] {
        let mut atlas = Atlas::default();
        let layout = TextLayout::new(digit, &style).expect("a layout");
        let mut builder = FrameBuilder::new();
        let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
        let middle = Point::new(20.0, 20.0);
        let held = layout.ink_anchor(Anchor::CENTER);
        frame
            .text(&layout, DrawText::at(middle, held))
            .expect("room");
        let (left, top, right, bottom) = drawn(&canvas(&mut builder, &atlas, 40, 40)).expect("ink");
        assert!(
            left.abs_diff(40 - right) <= 1,
            "{digit}: {left} and {}",
            40 - right
        );
        assert!(
            top.abs_diff(40 - bottom) <= 1,
            "{digit}: {top} and {}",
            40 - bottom
        );
    }
}

#[test]
fn hard_text_has_whole_pixels_at_any_scale() {
    let style = Style::new(&misaki(), 8.0).edges(Edges::Hard);
    let layout = TextLayout::new("PUMP 60", &style).expect("a layout");
    for scale in [0.7, 1.0, 1.9, 2.0, 3.3] {
        let mut atlas = Atlas::default();
        let mut builder = FrameBuilder::new();
        let mut frame = builder.begin(&mut atlas, Mapping::uniform(scale));
        frame
            .text(
                &layout,
                DrawText::at(Point::new(3.3, 4.7), Anchor::TOP_LEFT),
            )
            .expect("room");
        let canvas = canvas(&mut builder, &atlas, 200, 60);
        assert!(
            canvas
                .pixels()
                .iter()
                .all(|pixel| [0, 255].contains(&pixel[3])),
            "{scale}"
        );
        // Every run of equal pixels is a whole number of face pixels long.
        let whole = scale.floor().max(1.0) as u32;
        let (left, top, right, bottom) = drawn(&canvas).expect("ink");
        assert_eq!(
            ((right - left) % whole, (bottom - top) % whole),
            (0, 0),
            "{scale}"
        );
    }
}

#[test]
fn a_part_of_a_text_stands_where_the_whole_does() {
    let layout = TextLayout::new("Fog bank\nahead", &Style::new(&lato(), 20.0)).expect("a layout");
    let mut atlas = Atlas::default();
    let mut quads = |visible| {
        let mut builder = FrameBuilder::new();
        let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
        let middle = Point::new(90.0, 40.0);
        let mut layer = frame.scope();
        layer
            .text(
                &layout,
                DrawText::at(middle, Anchor::CENTER).visible(visible),
            )
            .expect("room");
        builder.finish().vertices.to_vec()
    };
    let whole = quads(usize::MAX);
    // Spaces and the line break have no quad.
    for (visible, inked) in [(0, 0), (3, 3), (4, 3), (5, 4), (9, 7), (10, 8), (14, 12)] {
        assert_eq!(quads(visible), whole[..inked * 4], "{visible} clusters");
    }
}

#[test]
fn a_panel_keeps_its_corners() {
    // 6 × 6 pixels: corners of 2 red, edges green, middle 2 × 2 blue.
    let pixels = (0..36).flat_map(|at| {
        let is_middle = |place: i32| (2..4).contains(&place);
        match (is_middle(at % 6), is_middle(at / 6)) {
            (true, true) => [0, 0, 255, 255],
            (false, false) => [255, 0, 0, 255],
            _ => [0, 255, 0, 255],
        }
    });
    let image = Image::new(6, 6, pixels.collect()).expect("a size");
    let options = SpriteOptions::default().slices(Insets::all(2.0));
    let mut atlas = Atlas::default();
    let plate = atlas
        .add_sprite("plate", &image, options)
        .expect("a sprite");
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    frame
        .panel(plate, Rect::new(1.0, 1.0, 20.0, 9.0))
        .expect("room");
    let canvas = canvas(&mut builder, &atlas, 22, 11);
    for y in 0..11 {
        for x in 0..22 {
            let part = |at: u32, end: u32| match at {
                at if at < 1 || at >= end => 'o',
                at if at < 3 || at >= end - 2 => 'c',
                _ => 'm',
            };
            let wanted = match (part(x, 21), part(y, 10)) {
                ('o', _) | (_, 'o') => [0; 4],
                ('c', 'c') => [255, 0, 0, 255],
                ('m', 'm') => [0, 0, 255, 255],
                _ => [0, 255, 0, 255],
            };
            assert_eq!(canvas.pixels()[(y * 22 + x) as usize], wanted, "{x}, {y}");
        }
    }
    // Smaller than its corners: they shrink, and nothing reaches over.
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    frame
        .panel(plate, Rect::new(0.0, 0.0, 3.0, 2.0))
        .expect("room");
    assert_eq!(
        drawn(&self::canvas(&mut builder, &atlas, 9, 9)),
        Some((0, 0, 3, 2))
    );
}

#[test]
fn letters_keep_their_shape_where_the_design_is_stretched() {
    let view = Viewport::new(
        Size::new(100.0, 100.0),
        DeviceSize::new(400, 100),
        Fit::Fill,
    )
    .expect("a window");
    let layout = TextLayout::new("O", &Style::new(&lato(), 30.0)).expect("a layout");
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, view.mapping());
    frame
        .text(
            &layout,
            DrawText::at(Point::new(50.0, 50.0), Anchor::CENTER),
        )
        .expect("room");
    let (left, top, right, bottom) = drawn(&canvas(&mut builder, &atlas, 400, 100)).expect("ink");
    let shape = (right - left) as f32 / (bottom - top) as f32;
    let ink = layout.ink();
    assert!((shape - ink.width / ink.height).abs() < 0.1, "{shape}");
    assert!(
        (left + right).abs_diff(400) <= 2,
        "the middle stays the middle"
    );
    assert_eq!(
        view.mapping().point(Point::new(50.0, 50.0)),
        DevicePoint::new(200.0, 50.0)
    );
}

/// The canvas against the plainest reading of the draw contract: every pixel,
/// every quad, in 64 bits.
#[test]
fn the_canvas_draws_what_the_contract_says() {
    let mut atlas = Atlas::default();
    let pixels = (0..64_u8).flat_map(|n| [n * 4, 255 - n, n, 128 + n]);
    let image = Image::new(8, 8, pixels.collect()).expect("a size");
    let sprite = atlas
        .add_sprite("lantern", &image, SpriteOptions::default())
        .expect("a sprite");
    let style = Style::new(&lato(), 9.0).color(Color::rgba(255, 207, 112, 200));
    let layout = TextLayout::new("Oar", &style).expect("a layout");
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::uniform(2.5));
    let sky = [
        Color::BLACK,
        Color::rgb(9, 90, 200),
        Color::WHITE,
        Color::rgba(80, 0, 0, 99),
    ];
    frame.gradient(Rect::new(0.0, 0.0, 20.0, 16.0), sky);
    frame
        .scope()
        .layer(1)
        .panel(sprite, Rect::new(2.0, 1.0, 13.0, 9.0))
        .expect("room");
    let mut layer = frame.scope().layer(2).opacity(0.75);
    layer
        .sprite(sprite, DrawSprite::at(Point::new(9.0, 9.0), Anchor::CENTER))
        .expect("room");
    frame
        .text(
            &layout,
            DrawText::at(Point::new(1.0, 5.0), Anchor::TOP_LEFT),
        )
        .expect("room");
    // The same turned and mirrored, which changes no rule.
    let turned = Affine::rotation(0.7)
        .then(Affine::scaling(-0.8, 0.8))
        .about(Point::new(10.0, 8.0));
    let mut scope = frame.scope().transform(turned).opacity(0.6);
    scope
        .sprite(sprite, DrawSprite::at(Point::new(9.0, 9.0), Anchor::CENTER))
        .expect("room");
    scope
        .text(
            &layout,
            DrawText::at(Point::new(1.0, 5.0), Anchor::TOP_LEFT),
        )
        .expect("room");
    scope.rect(
        Rect::new(14.0, 2.0, 5.0, 3.0),
        Color::rgba(20, 160, 90, 180),
    );
    // A letter that fades above its outline.
    let outlined = Style::new(&lato(), 9.0).outline(1.0, Color::BLACK);
    let outlined = TextLayout::new("g", &outlined).expect("a layout");
    let place = DrawText::at(Point::new(3.0, 9.0), Anchor::TOP_LEFT);
    scope.text(&outlined, place).expect("room");
    let heavy = TextLayout::new("8", &Style::new(&lato(), 12.0).color(Color::WHITE));
    let mut scope = frame.scope().text_contrast(1.0);
    let place = DrawText::at(Point::new(2.0, 2.0), Anchor::TOP_LEFT);
    scope.text(&heavy.expect("a layout"), place).expect("room");
    let canvas = canvas(&mut builder, &atlas, 50, 40);

    let frame = builder.finish();
    let wanted = own_renderer::render(&frame, &atlas, canvas.size());
    let mut worst: f32 = 0.0;
    for (got, wanted) in canvas.pixels().iter().zip(wanted) {
        for (got, wanted) in got.iter().zip(wanted) {
            worst = worst.max((f32::from(*got) - wanted * 255.0).abs());
        }
    }
    // Up to five quads lie above one another, and each rounds to whole numbers; gradients are
    // mixed across and down by one, by triangles by the other.
    assert!(worst < 3.5, "{worst} of 255 off");
}

/// Light of a value of sRGB (IEC 61966-2-1).
fn light(value: u8) -> f64 {
    let value = f64::from(value) / 255.0;
    match value <= 0.04045 {
        true => value / 12.92,
        false => ((value + 0.055) / 1.055).powf(2.4),
    }
}

#[test]
fn linear_light_mixes_as_light_does() {
    let colors = [[0, 0, 0], [255, 255, 255], [3, 90, 200], [128, 20, 250]];
    let size = DeviceSize::new(1, 1);
    for (above, below) in colors.iter().flat_map(|a| colors.map(|b| (*a, b))) {
        for alpha in [1_u8, 60, 128, 200, 255] {
            let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
            let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
            let [red, green, blue] = above;
            let all = Rect::new(0.0, 0.0, 1.0, 1.0);
            frame.rect(all, Color::rgba(red, green, blue, alpha));
            let mut canvas = Canvas::new(size).blending(Blending::LinearLight);
            canvas.clear(Color::rgb(below[0], below[1], below[2]));
            canvas.draw(builder.finish(), &atlas);
            let [got @ .., opaque] = canvas.pixels()[0];
            assert_eq!(opaque, 255);
            for channel in 0..3 {
                // A premultiplied colour has no more steps than its alpha.
                let share = f64::from(alpha) / 255.0;
                let stored = (f64::from(above[channel]) * share).round() / share;
                let wanted = light(stored.min(255.0).round() as u8) * share
                    + light(below[channel]) * (1.0 - share);
                let off = [
                    got[channel].saturating_sub(1),
                    got[channel].saturating_add(1),
                ];
                let [low, high] = off.map(light);
                let case = format!("{above:?} at {alpha} over {below:?}: {got:?}, not {wanted}");
                assert!(low <= wanted + 1e-9 && wanted <= high + 1e-9, "{case}");
            }
        }
    }
}

#[test]
fn contrast_evens_light_and_dark_letters() {
    /// Ink of a text: differences from the ground, of sRGB values or of light.
    fn ink(is_light: bool, blending: Blending, contrast: f32, of: fn(u8) -> f64) -> f64 {
        let (letters, ground) = match is_light {
            true => (Color::WHITE, Color::BLACK),
            false => (Color::BLACK, Color::WHITE),
        };
        let style = Style::new(&lato(), 14.0).color(letters);
        let layout = TextLayout::new("Fog bank ahead", &style).expect("a layout");
        let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
        let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
        let place = DrawText::at(Point::new(2.0, 2.0), Anchor::TOP_LEFT);
        let mut scope = frame.scope().text_contrast(contrast);
        scope.text(&layout, place).expect("room");
        let mut canvas = Canvas::new(DeviceSize::new(110, 22)).blending(blending);
        canvas.clear(ground);
        canvas.draw(builder.finish(), &atlas);
        let pixels = canvas.pixels().iter();
        pixels
            .map(|pixel| (of(pixel[1]) - of(ground.red)).abs())
            .sum()
    }
    let value = |value: u8| f64::from(value) / 255.0;
    let ratio = |blending, contrast, of| {
        ink(true, blending, contrast, of) / ink(false, blending, contrast, of)
    };
    // As stored, values weigh alike and light does not; in linear light the other way.
    assert!((ratio(Blending::Perceptual, 0.0, value) - 1.0).abs() < 0.01);
    assert!(ratio(Blending::Perceptual, 0.0, light) < 0.8);
    assert!((ratio(Blending::Perceptual, 1.0, light) - 1.0).abs() < 0.05);
    assert!((ratio(Blending::LinearLight, 0.0, light) - 1.0).abs() < 0.01);
    assert!(ratio(Blending::LinearLight, 0.0, value) > 1.2);
    assert!((ratio(Blending::LinearLight, -1.0, value) - 1.0).abs() < 0.05);
}

#[test]
fn the_shader_of_the_contract_compiles() {
    let page = include_str!("../../docs/drawing.md");
    let text = page
        .split("```wgsl")
        .nth(1)
        .and_then(|rest| rest.split("```").next());
    let module = naga::front::wgsl::parse_str(text.expect("a shader")).expect("it parses");
    let flags = naga::valid::ValidationFlags::all();
    let mut validator = naga::valid::Validator::new(flags, naga::valid::Capabilities::empty());
    validator.validate(&module).expect("it is sound");
    assert_eq!(module.entry_points.len(), 2);
}
