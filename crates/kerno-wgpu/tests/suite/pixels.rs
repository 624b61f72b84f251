//! The GPU's pixels are those of the canvas.

use kerno::bake::Manifest;
use kerno::base::{Affine, Edges, Mapping};
use kerno::draw::{Blending, Frame, RectStyle, Scope};
use kerno::screen::Screen;
use kerno::text::{Effect, Fill, LetterOutline, Shadow};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Offset, Point, Rect,
    Style, TextLayout,
};
use kerno_wgpu::{RenderError, Renderer, Target};
use wgpu::{
    CommandEncoderDescriptor, Operations, RenderPassColorAttachment, RenderPassDescriptor,
    TextureFormat,
};

use crate::gpu::{SIZE, clear, device, read, target};

const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");

/// Draws a frame on the GPU and on the canvas over the same ground, and compares. A channel may
/// differ by 2 of 255, and a small share of pixels by more: edges between two samples.
fn compare(what: &str, frame: Frame<'_>, atlas: &Atlas, blending: Blending) {
    let (device, queue) = device();
    let format = match blending {
        Blending::LinearLight => TextureFormat::Rgba8UnormSrgb,
        _ => TextureFormat::Rgba8Unorm,
    };
    let texture = target(&device, format);
    clear(&device, &queue, &texture, wgpu::Color::BLACK);
    let mut renderer = Renderer::new(&device, Target::new(format, SIZE));
    let view = texture.create_view(&Default::default());
    for turn in 0..2 {
        let mut encoder = device.create_command_encoder(&CommandEncoderDescriptor::default());
        if turn == 1 {
            // Unchanged parts are not uploaded again.
            clear(&device, &queue, &texture, wgpu::Color::BLACK);
        }
        let drawn = renderer.draw(&device, &queue, &mut encoder, &view, &frame, atlas);
        drawn.expect("drawn");
        queue.submit([encoder.finish()]);
        let uploaded = renderer.take_uploaded();
        assert_eq!(
            uploaded,
            if turn == 0 {
                frame.byte_count() as u64
            } else {
                0
            }
        );
    }
    let gpu = read(&device, &queue, &texture);
    let mut canvas = Canvas::new(SIZE).blending(blending);
    canvas.clear(Color::BLACK);
    canvas.draw(frame, atlas);
    hold(what, &gpu, canvas.pixels(), (2, 0.002));
}

/// Holds pixels to those of the canvas: a share of them at most may differ by more than a
/// number of 255.
pub(crate) fn hold(what: &str, gpu: &[[u8; 4]], canvas: &[[u8; 4]], (step, most): (u8, f64)) {
    let far = |(own, other): (&[u8; 4], &[u8; 4])| {
        let channels = own.iter().zip(other);
        channels.map(|(a, b)| a.abs_diff(*b)).max().unwrap_or(0)
    };
    let differences: Vec<u8> = gpu.iter().zip(canvas).map(far).collect();
    let off = differences.iter().filter(|far| **far > step).count();
    let worst = differences.iter().max().copied().unwrap_or_default();
    let lit = canvas
        .iter()
        .filter(|pixel| pixel[..3] != [0, 0, 0])
        .count();
    assert!(lit > 500, "{what}: there is something to see");
    let told = format!("{what}: {off} pixels differ by more than {step}, at most by {worst}");
    println!("{told}");
    assert!((off as f64) <= most * gpu.len() as f64, "{told}");
}

pub(crate) fn lato() -> Face {
    Face::from_file(format!("{FERRY}/fonts/Lato-Medium.ttf")).expect("a font")
}

#[test]
fn the_demo_hud() {
    let mut atlas = Atlas::default();
    let sprites = Manifest::from_file(format!("{FERRY}/sprites.toml")).expect("sprites");
    sprites.add_sprites_to(&mut atlas).expect("room");
    let screen = Screen::from_file(format!("{FERRY}/hud.toml"), &mut atlas);
    let mut screen = screen.expect("a screen");
    let view = screen.viewport(SIZE).expect("a window");
    let mut builder = FrameBuilder::new();
    let mut scope = builder.begin(&mut atlas, view.mapping());
    screen.draw(&mut scope, &view).expect("drawn");
    let frame = builder.finish();
    assert_eq!(frame.batches.len(), 1, "one draw call");
    compare("the demo", frame, &atlas, Blending::default());
}

/// Every kind of quad: solid and soft, mask, veiled mask, sprites, turned and clipped.
pub(crate) fn all_kinds(scope: &mut Scope<'_>, face: &Face) {
    let style = Style::new(face, 34.0).color(Color::rgb(0xff, 0xf2, 0xc8));
    let effects = vec![
        Effect::Shadow(Shadow::new(Offset::new(2.0, 3.0), Color::rgb(200, 40, 40)).blur(4.0)),
        Effect::Outline(LetterOutline::new(2.0, Color::rgb(20, 60, 120))),
        Effect::Fill(Fill::default().bottom(Color::rgb(0xe0, 0x90, 0x30))),
    ];
    let plain = TextLayout::new("Fog bank ahead", &style).expect("a layout");
    let rich = TextLayout::new("Crossing", &style.effects(effects)).expect("a layout");
    let text = |scope: &mut Scope<'_>, layout: &TextLayout, x: f32, y: f32| {
        let at = DrawText::at(Point::new(x, y), Anchor::TOP_LEFT);
        scope.text(layout, at).expect("room");
    };
    text(scope, &plain, 20.0, 10.0);
    text(scope, &rich, 20.0, 60.0);
    text(&mut scope.scope().opacity(0.5), &rich, 200.0, 60.0);
    let turned = Affine::rotation(0.3).about(Point::new(400.0, 120.0));
    text(&mut scope.scope().transform(turned), &plain, 300.0, 120.0);
    let clipped = Rect::new(30.0, 130.0, 90.0, 24.0);
    text(&mut scope.scope().clip(clipped), &plain, 20.0, 120.0);
    let plate = RectStyle::filled(Color::rgba(40, 120, 90, 200)).radius(14.0);
    scope
        .styled_rect(Rect::new(20.5, 180.25, 150.0, 70.0), plate)
        .expect("room");
    scope.line(
        Point::new(200.0, 180.0),
        Point::new(330.0, 250.0),
        3.0,
        Color::WHITE,
    );
}

#[test]
fn every_kind_of_quad_in_both_blendings() {
    for blending in [Blending::default(), Blending::LinearLight] {
        let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
        all_kinds(&mut builder.begin(&mut atlas, Mapping::IDENTITY), &lato());
        compare(&format!("{blending:?}"), builder.finish(), &atlas, blending);
    }
}

#[test]
fn distance_fields_at_any_scale_and_turn() {
    for blending in [Blending::default(), Blending::LinearLight] {
        let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
        let mut scope = builder.begin(&mut atlas, Mapping::IDENTITY);
        let effects = |size: f32| {
            let red = Color::rgb(200, 40, 40);
            let shadow = Shadow::new(Offset::new(0.0, size * 0.06), red).blur(size * 0.05);
            vec![
                Effect::Shadow(shadow),
                Effect::Outline(LetterOutline::new(size * 0.04, Color::rgb(20, 60, 120))),
                Effect::Fill(Fill::default().bottom(Color::rgb(0xe0, 0x90, 0x30))),
            ]
        };
        let face = lato();
        let mut at = Point::new(12.0, 8.0);
        let single = Edges::DistanceField;
        let several = Edges::MultiChannelField;
        for (size, edges) in [
            (14.0, single),
            (20.0, several),
            (33.0, single),
            (90.0, several),
        ] {
            let style = Style::new(&face, size).edges(edges).effects(effects(size));
            let text = TextLayout::new("Fog bank", &style).expect("a layout");
            let draw = DrawText::at(at, Anchor::TOP_LEFT);
            scope.text(&text, draw).expect("room");
            let turned = Affine::rotation(0.4).about(at);
            let draw = DrawText::at(at + Offset::new(330.0, -100.0), Anchor::TOP_LEFT);
            let mut turned = scope.scope().transform(turned);
            turned.text(&text, draw).expect("room");
            at.y += size * 1.3;
        }
        let frame = builder.finish();
        let kinds = frame.vertices.iter().map(|vertex| vertex.shade.kind);
        for kind in [32 + 6, 64 + 6] {
            assert!(kinds.clone().filter(|own| *own == kind).count() > 150);
        }
        compare(&format!("fields, {blending:?}"), frame, &atlas, blending);
    }
}

#[test]
fn groups_fade_as_one() {
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let face = lato();
    let mut scope = builder.begin(&mut atlas, Mapping::IDENTITY);
    scope.rect(Rect::new(0.0, 0.0, 640.0, 180.0), Color::rgb(60, 20, 30));
    {
        let mut group = scope.group(0.5);
        all_kinds(&mut group, &face);
        let mut inner = group.group(0.25);
        inner.rect(
            Rect::new(300.0, 40.0, 200.0, 200.0),
            Color::rgb(90, 200, 40),
        );
    }
    scope.rect(Rect::new(560.0, 300.0, 60.0, 40.0), Color::WHITE);
    let frame = builder.finish();
    assert!(frame.batches.len() > 4);
    compare("groups", frame, &atlas, Blending::default());
}

#[test]
fn limits_and_empty_targets_are_told() {
    let (device, queue) = device();
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut scope = builder.begin(&mut atlas, Mapping::IDENTITY);
    let mut group = scope.group(0.5);
    group.rect(Rect::new(0.0, 0.0, 9.0, 9.0), Color::WHITE);
    let frame = builder.finish();
    let format = TextureFormat::Rgba8Unorm;
    let texture = target(&device, format);
    let view = texture.create_view(&Default::default());
    let mut renderer = Renderer::new(&device, Target::new(format, DeviceSize::new(0, 0)));
    let mut encoder = device.create_command_encoder(&CommandEncoderDescriptor::default());
    let drawn = renderer.draw(&device, &queue, &mut encoder, &view, &frame, &atlas);
    drawn.expect("a window that is minimised");
    renderer.resize(SIZE);
    let mut pass = encoder.begin_render_pass(&RenderPassDescriptor {
        color_attachments: &[Some(RenderPassColorAttachment {
            view: &view,
            depth_slice: None,
            resolve_target: None,
            ops: Operations::default(),
        })],
        ..RenderPassDescriptor::default()
    });
    let error = renderer
        .draw_in_pass(&mut pass, &frame)
        .expect_err("it has groups");
    assert_eq!(
        (error, error.code()),
        (RenderError::HasGroups, "render-has-groups")
    );
}
