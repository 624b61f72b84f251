//! Costs of a frame, beside a plain copy of its bytes.

use criterion::measurement::WallTime;
use criterion::{BenchmarkGroup, Criterion, Throughput, criterion_group, criterion_main};
use kerno::atlas::SpriteOptions;
use kerno::base::{Image, Mapping};
use kerno::draw::{DrawSprite, Scope, Vertex};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Point, Rect, Style,
    TextLayout,
};

const LATO: &[u8] = include_bytes!("../demo/ferry/fonts/Lato-Medium.ttf");

/// 200 labels of ten letters each, no two alike.
fn labels() -> Vec<TextLayout> {
    let face = Face::from_bytes(LATO).expect("a font");
    let style = Style::new(&face, 14.0);
    let label = |number: u32| {
        let text = format!("Fares{:05}", number * 7919 % 100_000);
        TextLayout::new(&text, &style).expect("a layout")
    };
    (0..200).map(label).collect()
}

/// The place of a label.
fn place(index: usize) -> DrawText {
    let (column, row) = ((index % 10) as f32, (index / 10) as f32);
    DrawText::at(
        Point::new(column * 90.0 + 3.3, row * 18.0),
        Anchor::TOP_LEFT,
    )
}

fn gather(builder: &mut FrameBuilder, atlas: &mut Atlas, labels: &[TextLayout], moved: f32) {
    let mut frame = builder.begin(atlas, Mapping::uniform(1.5));
    for index in 0..300_u16 {
        let (column, row) = (f32::from(index % 20), f32::from(index / 20));
        let rect = Rect::new(column * 40.0, row * 20.0, 36.0, 16.0);
        frame.rect(rect, Color::rgb(20, 30, 40));
    }
    for (index, label) in labels.iter().enumerate() {
        let mut place = place(index);
        place.at.x += moved;
        frame.text(label, place).expect("room");
    }
    std::hint::black_box(builder.finish().quad_count());
}

fn frames(c: &mut Criterion) {
    let labels = labels();
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut group = c.benchmark_group("a frame of 300 rectangles and 200 labels");
    group.bench_function("unchanged", |b| {
        b.iter(|| gather(&mut builder, &mut atlas, &labels, 0.0));
    });
    let mut moved = 0.0;
    group.bench_function("all labels moved", |b| {
        b.iter(|| {
            moved = (moved + 0.25) % 8.0;
            gather(&mut builder, &mut atlas, &labels, moved);
        });
    });
    let vertices: Vec<Vertex> = builder.finish().vertices.to_vec();
    let mut copy = vertices.clone();
    group.bench_function("a copy of its vertices", |b| {
        b.iter(|| std::hint::black_box(&mut copy).copy_from_slice(&vertices));
    });
    group.finish();
}

/// The canvas that is drawn on.
const CANVAS: DeviceSize = DeviceSize::new(1280, 800);

/// One thing to draw, and the number of pixels that its quads have.
fn painted(
    group: &mut BenchmarkGroup<'_, WallTime>,
    name: &str,
    atlas: &mut Atlas,
    draw: impl FnOnce(&mut Scope<'_>),
) {
    let mut builder = FrameBuilder::new();
    draw(&mut builder.begin(atlas, Mapping::IDENTITY));
    let frame = builder.finish();
    let area = |quad: &[Vertex; 4]| {
        let [first, _, last, _] = quad.map(|corner| corner.position);
        f64::from(last[0] - first[0]) * f64::from(last[1] - first[1])
    };
    let area: f64 = frame.vertices.as_chunks().0.iter().map(area).sum();
    group.throughput(Throughput::Elements(area as u64));
    let mut canvas = Canvas::new(CANVAS);
    group.bench_function(name, |b| b.iter(|| canvas.draw(frame, atlas)));
}

fn canvas(c: &mut Criterion) {
    let mut group = c.benchmark_group("the canvas, 1280 × 800");
    let count = (CANVAS.width * CANVAS.height) as usize;
    let pixels = vec![[1_u8, 2, 3, 4]; count];
    let mut copy = pixels.clone();
    group.throughput(Throughput::Elements(count as u64));
    group.bench_function("a copy of its pixels", |b| {
        b.iter(|| std::hint::black_box(&mut copy).copy_from_slice(&pixels));
    });
    let all = Rect::new(0.0, 0.0, 1280.0, 800.0);
    let (gold, night) = (Color::rgb(255, 207, 112), Color::rgb(12, 18, 30));
    let mut atlas = Atlas::default();
    painted(&mut group, "opaque fill", &mut atlas, |frame| {
        frame.rect(all, gold);
    });
    painted(&mut group, "translucent fill", &mut atlas, |frame| {
        frame.rect(all, gold.with_alpha(100));
    });
    painted(&mut group, "gradient down", &mut atlas, |frame| {
        frame.gradient(all, [gold, gold, night, night]);
    });
    painted(
        &mut group,
        "gradient across, translucent",
        &mut atlas,
        |frame| {
            let clear = night.with_alpha(0);
            frame.gradient(all, [gold, clear, clear, gold]);
        },
    );
    let style = Style::new(&Face::from_bytes(LATO).expect("a font"), 24.0);
    let line = "Fog bank ahead: 1,250 fares collected, lamp oil is low, crossing complete";
    let text = TextLayout::new(line, &style).expect("a layout");
    painted(&mut group, "text", &mut atlas, |frame| {
        for row in 0..27_u8 {
            let at = Point::new(4.0, f32::from(row) * 29.0);
            frame
                .text(&text, DrawText::at(at, Anchor::TOP_LEFT))
                .expect("room");
        }
    });
    let texels =
        (0..256 * 256_u32).flat_map(|n| [n as u8, (n >> 8) as u8, 90, 255 - (n % 3) as u8]);
    let image = Image::new(256, 256, texels.collect()).expect("a picture");
    let options = SpriteOptions::default();
    let sprite = atlas.add_sprite("lake", &image, options).expect("room");
    painted(&mut group, "colour, 1:1", &mut atlas, |frame| {
        for index in 0..15_u8 {
            let (column, row) = (f32::from(index % 5), f32::from(index / 5));
            let at = Point::new(column * 256.0, row * 256.0);
            frame
                .sprite(sprite, DrawSprite::at(at, Anchor::TOP_LEFT))
                .expect("room");
        }
    });
    painted(&mut group, "colour, between pixels", &mut atlas, |frame| {
        let mut moved = frame
            .scope()
            .transform(kerno::base::Affine::scaling(1.000_1, 1.3));
        for index in 0..5_u8 {
            let at = Point::new(f32::from(index) * 256.0, 0.0);
            moved
                .sprite(sprite, DrawSprite::at(at, Anchor::TOP_LEFT))
                .expect("room");
        }
    });
    group.finish();
}

criterion_group!(benches, frames, canvas);
criterion_main!(benches);
