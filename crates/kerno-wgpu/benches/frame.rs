//! Costs of a frame on the CPU until a GPU has it: gathered, uploaded, encoded. The limit is a
//! copy of the same bytes.

use std::hint::black_box;
use std::time::{Duration, Instant};

use criterion::{Bencher, Criterion, criterion_group, criterion_main};
use kerno::base::Mapping;
use kerno::draw::Frame;
use kerno::screen::{Screen, ScreenDescription};
use kerno::{Anchor, Atlas, DeviceSize, DrawText, Face, FrameBuilder, Point, Style, TextLayout};
use kerno_wgpu::{Renderer, Target};
use wgpu::{CommandBuffer, Device, Queue, TextureView};

const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");
const SIZE: DeviceSize = DeviceSize::new(1280, 720);
const FORMAT: wgpu::TextureFormat = wgpu::TextureFormat::Rgba8Unorm;

struct Gpu {
    device: Device,
    queue: Queue,
    view: TextureView,
    renderer: Renderer,
}

impl Gpu {
    fn new() -> Self {
        let instance = wgpu::Instance::new(wgpu::InstanceDescriptor::new_without_display_handle());
        let adapter = pollster::block_on(instance.request_adapter(&Default::default()));
        let adapter = adapter.expect("an adapter");
        let options = wgpu::DeviceDescriptor {
            required_limits: wgpu::Limits::downlevel_defaults().using_resolution(adapter.limits()),
            ..Default::default()
        };
        let (device, queue) =
            pollster::block_on(adapter.request_device(&options)).expect("a device");
        let texture = device.create_texture(&wgpu::TextureDescriptor {
            label: None,
            size: wgpu::Extent3d {
                width: SIZE.width,
                height: SIZE.height,
                depth_or_array_layers: 1,
            },
            mip_level_count: 1,
            sample_count: 1,
            dimension: wgpu::TextureDimension::D2,
            format: FORMAT,
            usage: wgpu::TextureUsages::RENDER_ATTACHMENT,
            view_formats: &[],
        });
        Self {
            renderer: Renderer::new(&device, Target::new(FORMAT, SIZE)),
            view: texture.create_view(&Default::default()),
            device,
            queue,
        }
    }

    /// Encodes a frame; what comes back is not handed to the GPU, whose time is not measured.
    fn encode(&mut self, frame: &Frame<'_>, atlas: &Atlas) -> CommandBuffer {
        let mut encoder = self.device.create_command_encoder(&Default::default());
        let drawn = self.renderer.draw(
            &self.device,
            &self.queue,
            &mut encoder,
            &self.view,
            frame,
            atlas,
        );
        drawn.expect("drawn");
        encoder.finish()
    }

    /// Lets the GPU do what was handed to it, so that its queue stays short.
    fn rest(&self) {
        self.queue.submit([]);
        let wait = wgpu::PollType::Wait {
            submission_index: None,
            timeout: None,
        };
        self.device.poll(wait).expect("done");
    }
}

/// Measures what is encoded, without the rests between.
fn measure(
    bencher: &mut Bencher<'_>,
    gpu: &mut Gpu,
    mut encode: impl FnMut(&mut Gpu) -> CommandBuffer,
) {
    bencher.iter_custom(|times| {
        let mut taken = Duration::ZERO;
        for _ in 0..times {
            gpu.rest();
            let start = Instant::now();
            let encoded = black_box(encode(gpu));
            taken += start.elapsed();
            drop(encoded);
        }
        taken
    });
}

fn demo_frame(criterion: &mut Criterion) {
    let mut gpu = Gpu::new();
    let mut atlas = Atlas::default();
    let hud = format!("{FERRY}/hud.toml");
    let sprites = ScreenDescription::from_file(&hud)
        .expect("a screen")
        .sprite_source();
    kerno::bake::add_sprites(sprites.expect("sprites"), &mut atlas).expect("room");
    let mut screen = Screen::from_file(&hud, &mut atlas).expect("a screen");
    let view = screen.viewport(SIZE).expect("a window");
    let mut group = criterion.benchmark_group("the demo's frame");
    group.bench_function("unchanged: gathered, encoded", |bencher| {
        measure(bencher, &mut gpu, |gpu| {
            let frame = screen.frame(&mut atlas, &view).expect("room");
            gpu.encode(&frame, &atlas)
        });
    });
    let mut fares = 0;
    group.bench_function("a value changed: gathered, uploaded, encoded", |bencher| {
        measure(bencher, &mut gpu, |gpu| {
            fares = (fares + 7) % 99_999;
            screen.set("fares", fares).expect("a value");
            screen.advance(1.0 / 60.0);
            let frame = screen.frame(&mut atlas, &view).expect("room");
            gpu.encode(&frame, &atlas)
        });
    });
    group.finish();
}

fn many_quads(criterion: &mut Criterion) {
    let mut gpu = Gpu::new();
    let face = Face::from_file(format!("{FERRY}/fonts/Lato-Medium.ttf")).expect("a font");
    let style = Style::new(&face, 12.0);
    let label =
        |number: usize| TextLayout::new(&format!("{number:010}"), &style).expect("a layout");
    let labels: Vec<TextLayout> = (0..5000).map(label).collect();
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut step = 0.0;
    let mut group = criterion.benchmark_group("50,000 letters");
    let mut bytes: Vec<u8> = Vec::new();
    group.bench_function("all moved: gathered, uploaded, encoded", |bencher| {
        measure(bencher, &mut gpu, |gpu| {
            // All moved by whole pixels: every vertex is another one.
            step = (step + 1.0) % 8.0;
            let mut scope = builder.begin(&mut atlas, Mapping::IDENTITY);
            for (number, label) in labels.iter().enumerate() {
                let (column, row) = ((number % 20) as f32, (number / 20) as f32);
                let at = Point::new(column * 64.0 + step, row * 3.0 + step);
                scope
                    .text(label, DrawText::at(at, Anchor::TOP_LEFT))
                    .expect("room");
            }
            let frame = builder.finish();
            gpu.encode(&frame, &atlas)
        });
    });
    let frame = builder.finish();
    assert!(frame.quad_count() >= 50_000, "{} quads", frame.quad_count());
    group.bench_function("limit: a copy of its bytes", |bencher| {
        bencher.iter(|| {
            bytes.clear();
            bytes.extend_from_slice(bytemuck::cast_slice(black_box(frame.vertices)));
            bytes.extend_from_slice(bytemuck::cast_slice(black_box(frame.indices)));
            bytes.len()
        });
    });
    group.finish();
}

criterion_group!(benches, demo_frame, many_quads);
criterion_main!(benches);
