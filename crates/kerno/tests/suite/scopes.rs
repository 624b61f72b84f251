//! Scopes: what they share, what they cut off, and frames that recall the one before.

use kerno::atlas::AtlasOptions;
use kerno::base::{Affine, Corners, Mapping};
use kerno::draw::{Frame, RectStyle, Vertex};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, FrameBuilder, Offset, Point, Rect, Style,
    TextLayout,
};
use proptest::prelude::*;

use crate::support::lato;

fn places(frame: &Frame<'_>) -> Vec<[f32; 2]> {
    frame
        .vertices
        .iter()
        .map(|vertex| vertex.position)
        .collect()
}

/// The area of all quads together, by Gauss's formula.
/// The area of all quads, each part counted as far as it is opaque.
fn area(frame: &Frame<'_>) -> f32 {
    let triangles = frame.indices.as_chunks::<3>().0.iter();
    let triangles = triangles.map(|triangle| {
        let corners = triangle.map(|index| frame.vertices[index as usize]);
        let [a, b, c] = corners.map(|corner| corner.position);
        let cross = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
        let alpha: f32 = corners
            .iter()
            .map(|corner| f32::from(corner.color[3]))
            .sum();
        cross.abs() * 0.5 * alpha / (3.0 * 255.0)
    });
    triangles.sum()
}

fn canvas(builder: &mut FrameBuilder, atlas: &Atlas, width: u32, height: u32) -> Canvas {
    let mut canvas = Canvas::new(DeviceSize::new(width, height));
    canvas.draw(builder.finish(), atlas);
    canvas
}

#[test]
fn scopes_nest_and_end() {
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut frame = builder.begin(&mut atlas, Mapping::uniform(2.0));
    let unit = Rect::new(0.0, 0.0, 1.0, 1.0);
    let moved = Affine::translation(Offset::new(10.0, 0.0));
    let mut outer = frame.scope().layer(3).opacity(0.5).transform(moved);
    // The inner transform comes first: doubled, then moved.
    let mut inner = outer
        .scope()
        .layer(-1)
        .opacity(0.5)
        .transform(Affine::scaling(2.0, 2.0));
    inner.rect(unit, Color::WHITE);
    outer.rect(unit, Color::WHITE);
    outer.scope().visible(false).rect(unit, Color::WHITE);
    frame.rect(unit, Color::WHITE);
    let frame = builder.finish();
    let corners = places(&frame);
    assert_eq!(
        (corners[0], corners[2]),
        ([20.0, 0.0], [24.0, 4.0]),
        "inner"
    );
    assert_eq!(
        (corners[4], corners[6]),
        ([20.0, 0.0], [22.0, 2.0]),
        "outer"
    );
    assert_eq!(
        (corners[8], corners[10]),
        ([0.0, 0.0], [2.0, 2.0]),
        "around"
    );
    let alpha: Vec<u8> = frame
        .vertices
        .iter()
        .step_by(4)
        .map(|v| v.color[3])
        .collect();
    assert_eq!(alpha, [64, 128, 255]);
    // From the lowest layer: around (0), inner (2), outer (3).
    let order: Vec<u32> = frame
        .indices
        .iter()
        .step_by(6)
        .map(|index| index / 4)
        .collect();
    assert_eq!(order, [2, 0, 1]);
}

#[test]
fn clips_cut_quads_and_break_no_batch() {
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let square = Rect::new(0.0, 0.0, 10.0, 10.0);
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let mut clipped = frame.scope().clip(Rect::new(4.0, -5.0, 20.0, 9.0));
    clipped
        .scope()
        .clip(Rect::new(0.0, 2.0, 7.0, 9.0))
        .rect(square, Color::WHITE);
    clipped.rect(Rect::new(0.0, 5.0, 9.0, 9.0), Color::WHITE);
    let finished = builder.finish();
    assert_eq!(finished.quad_count(), 1, "the second is cut off whole");
    assert_eq!(
        (places(&finished)[0], places(&finished)[2]),
        ([4.0, 2.0], [7.0, 4.0])
    );

    // A square and the same one turned by an eighth share a regular octagon: 2 (√2 - 1)
    // of the square's area. Turned drawing under an upright clip, and the other way.
    let turned = Affine::rotation(std::f32::consts::FRAC_PI_4).about(Point::new(5.0, 5.0));
    let octagon = 100.0 * 2.0 * (2.0_f32.sqrt() - 1.0);
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    frame
        .scope()
        .clip(square)
        .transform(turned)
        .rect(square, Color::WHITE);
    let found = area(&builder.finish());
    // Turned shapes have edges that fade over a pixel, and their corners a third of one more.
    assert!((found - octagon).abs() < 0.4, "{found}");
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let mut clipped = frame
        .scope()
        .transform(turned)
        .clip(square)
        .transform(turned.inverse().expect("it flattens nothing"));
    clipped.rect(square, Color::WHITE);
    // Within a second, turned clip that holds all of it nothing more is cut off.
    clipped
        .scope()
        .transform(turned)
        .clip(Rect::new(-9.0, -9.0, 30.0, 30.0))
        .rect(square, Color::WHITE);
    let finished = builder.finish();
    let found = area(&finished);
    // The outer half of its soft edges is cut off by the first: 1/8 pixel along 40.
    assert!((found - octagon - 95.0).abs() < 0.8, "{found}");
    assert_eq!(finished.batches.len(), 1);
    // A flat clip holds nothing.
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    frame
        .scope()
        .transform(Affine::scaling(1.0, 0.0))
        .clip(square)
        .rect(square, Color::WHITE);
    assert_eq!(builder.finish().quad_count(), 0);
}

#[test]
fn transforms_that_draw_nothing_or_nowhere() {
    let layout = TextLayout::new("Fog", &Style::new(&lato(), 16.0)).expect("a layout");
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let flat = Affine::new([1.0, 2.0, 2.0, 4.0, 0.0, 0.0]);
    assert_eq!(flat.inverse(), None);
    for bad in [f32::NAN, f32::INFINITY, f32::MAX, 0.0] {
        let mut frame = builder.begin(&mut atlas, Mapping::uniform(2.0));
        let all = [
            Affine::scaling(bad, 1.0),
            Affine::new([0.0, bad, bad, 0.0, 0.0, 0.0]),
            Affine::translation(Offset::new(bad * 2.0, bad)),
            Affine::scaling(bad, bad).then(Affine::rotation(1.0)),
        ];
        for transform in all {
            let mut scope = frame.scope().transform(transform);
            scope.rect(Rect::new(0.0, 0.0, 5.0, 5.0), Color::WHITE);
            scope.line(Point::ORIGIN, Point::new(9.0, 7.0), 1.0, Color::WHITE);
            let _ = scope.text(&layout, DrawText::at(Point::ORIGIN, Anchor::CENTER));
            let style = RectStyle::outlined(bad, Color::WHITE).radius(bad);
            let _ = scope.styled_rect(Rect::new(0.0, 0.0, 5.0, 5.0), style);
            let _ = scope.clip(Rect::new(0.0, bad, bad, 5.0)).opacity(bad);
        }
        let finished = builder.finish();
        assert!(
            places(&finished).iter().flatten().all(|at| at.is_finite()),
            "{bad}"
        );
    }
}

#[test]
fn an_affine_and_its_inverse_cancel() {
    let steps = Affine::rotation(0.3)
        .then(Affine::skewing(0.2, -0.1))
        .then(Affine::scaling(2.0, 0.5))
        .about(Point::new(7.0, -3.0))
        .then(Affine::translation(Offset::new(1.0, 2.0)));
    let back = steps.inverse().expect("it flattens nothing");
    let at = back.point(steps.point(Point::new(4.0, 9.0)));
    assert!(
        (at.x - 4.0).abs() < 1e-4 && (at.y - 9.0).abs() < 1e-4,
        "{at:?}"
    );
    // A quarter turn takes what is right to what is down: clockwise on the screen.
    let quarter = Affine::rotation(std::f32::consts::FRAC_PI_2).point(Point::new(1.0, 0.0));
    assert!(quarter.x.abs() < 1e-6 && (quarter.y - 1.0).abs() < 1e-6);
}

#[test]
fn rounded_rectangles_have_the_areas_of_their_circles() {
    let pi = std::f32::consts::PI;
    let rect = Rect::new(2.0, 2.0, 40.0, 30.0);
    let tab = Corners {
        top_left: 8.0,
        top_right: 4.0,
        bottom_right: 0.0,
        bottom_left: 12.0,
    };
    let cases = [
        (
            RectStyle::filled(Color::WHITE).radius(8.0),
            1200.0 - (4.0 - pi) * 64.0,
        ),
        (
            RectStyle::outlined(3.0, Color::WHITE),
            2.0 * 3.0 * (40.0 + 30.0) - 4.0 * 9.0,
        ),
        // Between rounded rectangles of radius 8 and 5.
        (
            RectStyle::outlined(3.0, Color::WHITE).radius(8.0),
            (1200.0 - (4.0 - pi) * 64.0) - (34.0 * 24.0 - (4.0 - pi) * 25.0),
        ),
        // A border wider than the radius has square corners inside.
        (
            RectStyle::outlined(5.0, Color::WHITE).radius(3.0),
            (1200.0 - (4.0 - pi) * 9.0) - 30.0 * 20.0,
        ),
        // Corners of their own, one of them sharp.
        (
            RectStyle::filled(Color::WHITE).radii(tab),
            1200.0 - (1.0 - pi / 4.0) * (64.0 + 16.0 + 144.0),
        ),
        (
            RectStyle::outlined(3.0, Color::WHITE).radii(tab),
            (1200.0 - (1.0 - pi / 4.0) * (64.0 + 16.0 + 144.0))
                - (34.0 * 24.0 - (1.0 - pi / 4.0) * (25.0 + 1.0 + 81.0)),
        ),
        // 60 and 30 do not fit on a side of 30: a third of each does.
        (
            RectStyle::filled(Color::WHITE).radii(Corners {
                top_left: 60.0,
                bottom_left: 30.0,
                ..Corners::default()
            }),
            1200.0 - (1.0 - pi / 4.0) * (400.0 + 100.0),
        ),
        // A radius that is too large makes half circles of the shorter sides.
        (
            RectStyle::filled(Color::WHITE).radius(99.0),
            1200.0 - (4.0 - pi) * 225.0,
        ),
    ];
    for (style, wanted) in cases {
        let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
        let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
        frame.styled_rect(rect, style).expect("room");
        let canvas = canvas(&mut builder, &atlas, 44, 34);
        let sum: u32 = canvas
            .pixels()
            .iter()
            .map(|pixel| u32::from(pixel[3]))
            .sum();
        let found = sum as f32 / 255.0;
        assert!(
            (found - wanted).abs() < 0.6,
            "{style:?}: {found}, not {wanted}"
        );
        if style.radii != Corners::all(style.radii.top_left) {
            continue;
        }
        // Alike in all four corners.
        let at = |x: u32, y: u32| canvas.pixels()[(y * 44 + x) as usize];
        for y in 0..34 {
            for x in 0..44 {
                assert_eq!(at(x, y), at(43 - x, y), "{style:?} at {x}, {y}");
                assert_eq!(at(x, y), at(x, 33 - y), "{style:?} at {x}, {y}");
            }
        }
    }
}

#[test]
fn lines_are_as_long_and_as_wide_as_they_are_said_to_be() {
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    frame.line(
        Point::new(3.0, 4.0),
        Point::new(33.0, 44.0),
        2.0,
        Color::WHITE,
    );
    let finished = builder.finish();
    // A frustum between the line less half a pixel all around and the line and half a pixel
    // more: the area of the line and a third.
    let found = area(&finished);
    assert!((found - 100.0 - 1.0 / 3.0).abs() < 1e-2, "{found}");
    let corners = places(&finished);
    // Half a pixel on along (3, 4) / 5, and half of its width less half a pixel to the side.
    assert!(
        corners
            .iter()
            .any(|at| (at[0] - 3.7).abs() < 1e-4 && (at[1] - 4.1).abs() < 1e-4)
    );
    let mut frame = builder.begin(&mut atlas, Mapping::uniform(0.25));
    frame.line(
        Point::new(40.0, 4.0),
        Point::new(8.0, 4.0),
        0.5,
        Color::WHITE,
    );
    let corners = places(&builder.finish());
    assert_eq!(
        (corners[0], corners[2]),
        ([2.0, 1.0], [10.0, 2.0]),
        "a pixel at least"
    );
}

/// A text of a frame: which one, where, at which layer, how much of it.
type Said = (usize, u8, i32, usize);

fn gather(builder: &mut FrameBuilder, atlas: &mut Atlas, texts: &[TextLayout], said: &[Said]) {
    let mut frame = builder.begin(atlas, Mapping::uniform(1.5));
    for (text, x, layer, visible) in said {
        let place = DrawText::at(Point::new(f32::from(*x), 20.0), Anchor::LEFT);
        let mut scope = frame
            .scope()
            .layer(*layer)
            .opacity(f32::from(*x).mul_add(0.01, 0.3));
        scope.rect(Rect::new(0.0, 0.0, 3.0, 2.0), Color::WHITE);
        scope
            .text(&texts[*text], place.visible(*visible))
            .expect("room");
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]

    /// Whatever came in the frames before, and whatever has made room: a builder that is
    /// kept draws what a new one with an atlas of its own draws.
    #[test]
    fn a_frame_does_not_depend_on_those_before(
        frames in prop::collection::vec(
            prop::collection::vec((0_usize..6, 0_u8..40, -1_i32..2, 0_usize..9), 0..8), 1..8),
        sizes in prop::collection::vec(9_u8..40, 6),
        changed in prop::collection::vec((0_usize..6, "[a-zA-Z]{1,8}"), 8),
    ) {
        let face = lato();
        let mut texts: Vec<TextLayout> = sizes.iter().map(|size| {
            let style = Style::new(&face, f32::from(*size)).outline(1.0, Color::BLACK);
            TextLayout::new("Ferry", &style).expect("a layout")
        }).collect();
        // So small that glyphs make room again and again.
        let options = AtlasOptions::default().page_side(128).budget(1).frames_in_flight(0);
        let mut kept = Atlas::new(options).expect("options in range");
        let mut builder = FrameBuilder::new();
        for (said, (text, letters)) in frames.iter().zip(changed) {
            gather(&mut builder, &mut kept, &texts, said);
            let (mut atlas, mut other) = (Atlas::default(), FrameBuilder::new());
            gather(&mut other, &mut atlas, &texts, said);
            let own = canvas(&mut builder, &kept, 200, 60);
            prop_assert!(own.pixels() == canvas(&mut other, &atlas, 200, 60).pixels());
            // The same once more, all of it recalled.
            let before: Vec<Vertex> = builder.finish().vertices.to_vec();
            gather(&mut builder, &mut kept, &texts, said);
            prop_assert_eq!(&before[..], builder.finish().vertices);
            texts[text].set_text(0, &letters).expect("a layout");
        }
    }
}

#[test]
fn a_group_fades_as_one() {
    let text = TextLayout::new(
        "Bram",
        &Style::new(&lato(), 20.0).outline(2.0, Color::BLACK),
    );
    let text = text.expect("a layout");
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut shown = |opacity: f32| {
        let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
        frame.rect(Rect::new(0.0, 0.0, 80.0, 40.0), Color::rgb(90, 120, 60));
        let mut group = frame.group(opacity);
        // Drawn first, and above in its group alone.
        group
            .scope()
            .layer(2)
            .rect(Rect::new(30.0, 10.0, 20.0, 25.0), Color::rgb(250, 200, 0));
        group.rect(Rect::new(5.0, 5.0, 40.0, 30.0), Color::rgb(20, 20, 90));
        let place = DrawText::at(Point::new(6.0, 8.0), Anchor::TOP_LEFT);
        group.text(&text, place).expect("room");
        // A group in the group.
        let mut inner = group.group(0.5);
        inner.rect(Rect::new(8.0, 8.0, 10.0, 10.0), Color::WHITE);
        inner.rect(Rect::new(12.0, 12.0, 10.0, 10.0), Color::WHITE);
        frame.rect(Rect::new(60.0, 0.0, 5.0, 40.0), Color::BLACK);
        let frame = builder.finish();
        let mut canvas = Canvas::new(DeviceSize::new(80, 40));
        canvas.draw(frame, &atlas);
        let mut shared = Canvas::new(DeviceSize::new(80, 40));
        shared.draw_on(std::num::NonZero::new(3).expect("three"), frame, &atlas);
        assert_eq!(canvas.pixels(), shared.pixels(), "on three threads");
        canvas.pixels().to_vec()
    };
    let (none, half, whole) = (shown(0.0), shown(0.5), shown(1.0));
    assert_ne!(none, whole);
    for (index, half) in half.iter().enumerate() {
        for channel in 0..4 {
            let wanted = (f32::from(none[index][channel]) + f32::from(whole[index][channel])) * 0.5;
            let off = (f32::from(half[channel]) - wanted).abs();
            assert!(
                off <= 1.5,
                "at {}, {}: {half:?}, not {wanted}",
                index % 80,
                index / 80
            );
        }
    }
}
