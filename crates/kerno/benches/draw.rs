//! What a frame costs, beside a plain copy of its bytes.

use criterion::{Criterion, criterion_group, criterion_main};
use kerno::base::Mapping;
use kerno::draw::Vertex;
use kerno::{Anchor, Atlas, Color, DrawText, Face, FrameBuilder, Point, Rect, Style, TextLayout};

const LATO: &[u8] = include_bytes!("../../../demo/ferry/fonts/Lato-Medium.ttf");

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

/// Where a label is.
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

criterion_group!(benches, frames);
criterion_main!(benches);
