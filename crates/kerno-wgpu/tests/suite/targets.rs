//! Targets of every kind, frames in the world, devices that are lost or small.

use kerno::atlas::AtlasOptions;
use kerno::base::{Affine, Mapping};
use kerno::draw::{Blending, Frame};
use kerno::{Atlas, Canvas, Color, DeviceSize, FrameBuilder, Rect};
use kerno_wgpu::{RenderError, Renderer, Target, WorldFrame, atlas_options};
use wgpu::{
    Color as Ground, CommandEncoderDescriptor, CompareFunction, Device, Limits, LoadOp, Operations,
    Queue, RenderPassColorAttachment, RenderPassDepthStencilAttachment, RenderPassDescriptor,
    StoreOp, Texture, TextureFormat, TextureView,
};

use crate::gpu::{SIZE, clear, device, device_of, read, target, target_of_samples};
use crate::pixels::{all_kinds, hold, lato};

const PLAIN: TextureFormat = TextureFormat::Rgba8Unorm;

/// Draws a frame on a device into a texture.
fn draw(
    (device, queue): (&Device, &Queue),
    renderer: &mut Renderer,
    view: &TextureView,
    (frame, atlas): (&Frame<'_>, &Atlas),
) {
    let mut encoder = device.create_command_encoder(&CommandEncoderDescriptor::default());
    let drawn = renderer.draw(device, queue, &mut encoder, view, frame, atlas);
    drawn.expect("drawn");
    queue.submit([encoder.finish()]);
}

fn on_canvas(frame: Frame<'_>, atlas: &Atlas, blending: Blending) -> Canvas {
    let mut canvas = Canvas::new(SIZE).blending(blending);
    canvas.clear(Color::BLACK);
    canvas.draw(frame, atlas);
    canvas
}

/// Lays the samples of a texture together.
fn resolve((device, queue): (&Device, &Queue), many: &TextureView, plain: &Texture) {
    let mut encoder = device.create_command_encoder(&CommandEncoderDescriptor::default());
    let resolved = plain.create_view(&Default::default());
    encoder.begin_render_pass(&RenderPassDescriptor {
        color_attachments: &[Some(RenderPassColorAttachment {
            view: many,
            depth_slice: None,
            resolve_target: Some(&resolved),
            ops: Operations {
                load: LoadOp::Load,
                store: StoreOp::Store,
            },
        })],
        ..RenderPassDescriptor::default()
    });
    queue.submit([encoder.finish()]);
}

#[test]
fn four_samples_a_pixel_give_the_pixels_of_the_canvas() {
    let (device, queue) = device();
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let face = lato();
    let mut scope = builder.begin(&mut atlas, Mapping::IDENTITY);
    all_kinds(&mut scope.group(0.75), &face);
    let frame = builder.finish();
    let many = target_of_samples(&device, PLAIN, 4);
    let plain = target(&device, PLAIN);
    clear(&device, &queue, &many, Ground::BLACK);
    let view = many.create_view(&Default::default());
    let mut renderer = Renderer::new(&device, Target::new(PLAIN, SIZE).samples(4));
    draw((&device, &queue), &mut renderer, &view, (&frame, &atlas));
    resolve((&device, &queue), &view, &plain);
    let canvas = on_canvas(frame, &atlas, Blending::default());
    // A sample of an edge may lie in a quad whose centre does not, and the other way round.
    let pixels = read(&device, &queue, &plain);
    hold("four samples", &pixels, canvas.pixels(), (2, 0.002));
}

/// A number of 16 bits, IEEE 754 binary16, that is not infinite.
fn half(bits: u16) -> f32 {
    let fraction = f32::from(bits & 0x3ff);
    let size = match (bits >> 10) & 0x1f {
        0 => fraction * 2_f32.powi(-24),
        exponent => (1024.0 + fraction) * 2_f32.powi(i32::from(exponent) - 25),
    };
    if bits & 0x8000 == 0 { size } else { -size }
}

#[test]
fn hdr_targets_hold_light_at_the_brightness_of_their_white() {
    let (device, queue) = device();
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    all_kinds(&mut builder.begin(&mut atlas, Mapping::IDENTITY), &lato());
    let frame = builder.finish();
    let format = TextureFormat::Rgba16Float;
    let texture = target(&device, format);
    clear(&device, &queue, &texture, Ground::BLACK);
    let view = texture.create_view(&Default::default());
    let mut renderer = Renderer::new(&device, Target::new(format, SIZE).white(2.5));
    draw((&device, &queue), &mut renderer, &view, (&frame, &atlas));
    let canvas = on_canvas(frame, &atlas, Blending::LinearLight);
    let light: Vec<[u16; 4]> = read(&device, &queue, &texture);
    // IEC 61966-2-1, the way back.
    let stored = |bits: u16| {
        let light = half(bits) / 2.5;
        let value = match light <= 0.003_130_8 {
            true => light * 12.92,
            false => 1.055 * light.powf(1.0 / 2.4) - 0.055,
        };
        (value * 255.0).round() as u8
    };
    let stored = |pixel: &[u16; 4]| [stored(pixel[0]), stored(pixel[1]), stored(pixel[2]), 255];
    let pixels: Vec<[u8; 4]> = light.iter().map(stored).collect();
    hold("HDR", &pixels, canvas.pixels(), (2, 0.002));
}

/// A matrix that shows the pixels of a window, moved, at a depth.
fn moved(x: f32, y: f32, depth: f32) -> [[f32; 4]; 4] {
    let (width, height) = (SIZE.width as f32, SIZE.height as f32);
    [
        [2.0 / width, 0.0, 0.0, 0.0],
        [0.0, -2.0 / height, 0.0, 0.0],
        [0.0, 0.0, 0.0, 0.0],
        [2.0 * x / width - 1.0, 1.0 - 2.0 * y / height, depth, 1.0],
    ]
}

#[test]
fn frames_stand_in_the_world_under_a_matrix_and_a_depth_test() {
    let (device, queue) = device();
    let mut atlas = Atlas::default();
    let (mut sign, mut hud) = (FrameBuilder::new(), FrameBuilder::new());
    let face = lato();
    all_kinds(&mut sign.begin(&mut atlas, Mapping::IDENTITY), &face);
    let square = Rect::new(600.0, 320.0, 30.0, 30.0);
    hud.begin(&mut atlas, Mapping::IDENTITY)
        .rect(square, Color::rgb(90, 200, 40));
    let (sign, hud) = (sign.finish(), hud.finish());

    let depth_format = TextureFormat::Depth32Float;
    let target_of = Target::new(PLAIN, SIZE).depth(depth_format, CompareFunction::LessEqual);
    let mut renderer = Renderer::new(&device, target_of);
    let (texture, depth) = (target(&device, PLAIN), target(&device, depth_format));
    let (view, depth) = (
        texture.create_view(&Default::default()),
        depth.create_view(&Default::default()),
    );
    // A wall at 0.5: one sign before it, one hidden by it.
    let mut worlds = [WorldFrame::new(&device), WorldFrame::new(&device)];
    let matrices = [moved(37.0, 20.0, 0.25), moved(-200.0, 11.0, 0.75)];
    for (world, matrix) in worlds.iter_mut().zip(matrices) {
        let prepared = renderer.prepare_world(&device, &queue, world, matrix, &sign, &atlas);
        prepared.expect("room");
    }
    renderer
        .prepare(&device, &queue, &hud, &atlas)
        .expect("room");
    let mut encoder = device.create_command_encoder(&CommandEncoderDescriptor::default());
    let mut pass = encoder.begin_render_pass(&RenderPassDescriptor {
        color_attachments: &[Some(RenderPassColorAttachment {
            view: &view,
            depth_slice: None,
            resolve_target: None,
            ops: Operations {
                load: LoadOp::Clear(Ground::BLACK),
                store: StoreOp::Store,
            },
        })],
        depth_stencil_attachment: Some(RenderPassDepthStencilAttachment {
            view: &depth,
            depth_ops: Some(Operations {
                load: LoadOp::Clear(0.5),
                store: StoreOp::Store,
            }),
            stencil_ops: None,
        }),
        ..RenderPassDescriptor::default()
    });
    for world in &worlds {
        renderer.draw_world(&mut pass, world, &sign).expect("drawn");
    }
    renderer.draw_in_pass(&mut pass, &hud).expect("drawn");
    drop(pass);
    queue.submit([encoder.finish()]);

    let (mut own, mut moved) = (Atlas::default(), FrameBuilder::new());
    let mut scope = moved.begin(&mut own, Mapping::IDENTITY);
    let away = Affine::translation(kerno::Offset::new(37.0, 20.0));
    all_kinds(&mut scope.scope().transform(away), &face);
    scope.rect(square, Color::rgb(90, 200, 40));
    let canvas = on_canvas(moved.finish(), &own, Blending::default());
    let pixels = read(&device, &queue, &texture);
    hold("in the world", &pixels, canvas.pixels(), (2, 0.002));
}

#[test]
fn a_lost_device_is_followed_by_a_new_one() {
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    all_kinds(&mut builder.begin(&mut atlas, Mapping::IDENTITY), &lato());
    let frame = builder.finish();
    let (lost, lost_queue) = device();
    // An engine hears of the loss by its own callback.
    lost.on_uncaptured_error(std::sync::Arc::new(|_| {}));
    let texture = target(&lost, PLAIN);
    let view = texture.create_view(&Default::default());
    let mut renderer = Renderer::new(&lost, Target::new(PLAIN, SIZE));
    draw((&lost, &lost_queue), &mut renderer, &view, (&frame, &atlas));
    lost.destroy();
    draw((&lost, &lost_queue), &mut renderer, &view, (&frame, &atlas));
    renderer.resize(DeviceSize::new(80, 60));

    let (device, queue) = device();
    let texture = target(&device, PLAIN);
    clear(&device, &queue, &texture, Ground::BLACK);
    let view = texture.create_view(&Default::default());
    let mut renderer = Renderer::new(&device, Target::new(PLAIN, SIZE));
    draw((&device, &queue), &mut renderer, &view, (&frame, &atlas));
    let canvas = on_canvas(frame, &atlas, Blending::default());
    let pixels = read(&device, &queue, &texture);
    hold("a new device", &pixels, canvas.pixels(), (2, 0.002));
}

#[test]
fn pages_follow_the_limits_of_the_device() {
    let mut limits = Limits::downlevel_defaults();
    (
        limits.max_texture_dimension_2d,
        limits.max_texture_array_layers,
    ) = (512, 3);
    let options = atlas_options(&limits);
    assert_eq!((options.page_side, options.max_pages), (512, 3));
    let options = atlas_options(&Limits::default());
    assert_eq!((options.page_side, options.max_pages), (1024, 256));

    let (device, queue) = device_of(Limits::downlevel_defaults());
    assert_eq!(device.limits().max_texture_dimension_2d, 2048);
    let options = AtlasOptions::default().page_side(4096);
    let (mut atlas, mut builder) = (Atlas::new(options).expect("options"), FrameBuilder::new());
    all_kinds(&mut builder.begin(&mut atlas, Mapping::IDENTITY), &lato());
    let frame = builder.finish();
    let mut renderer = Renderer::new(&device, Target::new(PLAIN, SIZE));
    let refused = renderer.prepare(&device, &queue, &frame, &atlas);
    let expected = RenderError::PageTooLarge {
        side: 4096,
        most: 2048,
    };
    assert_eq!(refused, Err(expected));
}
