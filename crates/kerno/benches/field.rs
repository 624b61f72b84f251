//! Distance fields and colour glyphs beside coverage: making them, and drawing fields enlarged.

use criterion::{Criterion, Throughput, criterion_group, criterion_main};
use kerno::base::{Affine, Edges, Mapping, Treatment};
use kerno::font::GlyphId;
use kerno::raster::{GlyphRequest, Rasterizer};
use kerno::{
    Anchor, Atlas, Canvas, DeviceSize, DrawText, Face, FrameBuilder, Point, Style, TextLayout,
};

const LATO: &[u8] = include_bytes!("../demo/ferry/fonts/Lato-Medium.ttf");
const AVERIA: &[u8] = include_bytes!("../demo/ferry/fonts/AveriaSerifGWF-Bold.ttf");

fn making(c: &mut Criterion) {
    for (name, bytes) in [("sans", LATO), ("serif", AVERIA)] {
        let face = Face::from_bytes(bytes).expect("a font");
        let glyphs: Vec<GlyphId> = ('!'..='~')
            .filter_map(|letter| face.glyph(letter))
            .collect();
        let mut rasterizer = Rasterizer::new();
        let mut group = c.benchmark_group(format!("printable ASCII at 40 px, {name}"));
        for edges in [
            Edges::Smooth,
            Edges::DistanceField,
            Edges::MultiChannelField,
        ] {
            group.bench_function(Treatment::from(edges).to_string(), |b| {
                b.iter(|| {
                    for glyph in &glyphs {
                        let request = GlyphRequest::new(&face, *glyph, 40.0).treatment(edges);
                        std::hint::black_box(rasterizer.glyph(&request).expect("a picture"));
                    }
                });
            });
        }
        group.finish();
    }
}

fn drawing(c: &mut Criterion) {
    let face = Face::from_bytes(LATO).expect("a font");
    let mut canvas = Canvas::new(DeviceSize::new(1600, 400));
    for turn in [0.0, 0.2] {
        let mut group = c.benchmark_group(format!("letters of 160 px, turned by {turn}"));
        for edges in [
            Edges::Smooth,
            Edges::DistanceField,
            Edges::MultiChannelField,
        ] {
            let style = Style::new(&face, 160.0).edges(edges);
            let text = TextLayout::new("Heron Steps\n7 fares", &style).expect("a layout");
            let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
            let frame = builder.begin(&mut atlas, Mapping::IDENTITY);
            let mut frame = frame.transform(Affine::rotation(turn));
            let at = DrawText::at(Point::new(4.0, 4.0), Anchor::TOP_LEFT);
            frame.text(&text, at).expect("room");
            let frame = builder.finish();
            let area = |quad: &[kerno::draw::Vertex]| {
                let [a, b, .., d] = quad else { return 0.0 };
                let side = |to: &kerno::draw::Vertex| {
                    (to.position[0] - a.position[0]).hypot(to.position[1] - a.position[1])
                };
                side(b) * side(d)
            };
            let pixels: f32 = frame.vertices.chunks(4).map(area).sum();
            group.throughput(Throughput::Elements(pixels as u64));
            group.bench_function(Treatment::from(edges).to_string(), |b| {
                b.iter(|| canvas.draw(frame, &atlas));
            });
        }
        group.finish();
    }
}

/// A font whose glyph 1 is painted in thirty layers: letters of another one.
fn layered() -> Vec<u8> {
    let word = |at: usize| u16::from_be_bytes([LATO[at], LATO[at + 1]]);
    let long = |at: usize| usize::from(word(at)) << 16 | usize::from(word(at + 2));
    let count = usize::from(word(4));
    let mut tables: Vec<([u8; 4], Vec<u8>)> = (0..count)
        .map(|index| {
            let at = 12 + index * 16;
            let tag = [LATO[at], LATO[at + 1], LATO[at + 2], LATO[at + 3]];
            let (start, length) = (long(at + 8), long(at + 12));
            (tag, LATO[start..start + length].to_vec())
        })
        .collect();
    let words = |numbers: &[u16]| -> Vec<u8> {
        numbers
            .iter()
            .flat_map(|number| number.to_be_bytes())
            .collect()
    };
    let mut colr = words(&[0, 1, 0, 14, 0, 20, 30, 1, 0, 30]);
    for layer in 0..30 {
        colr.extend(words(&[40 + layer * 7, layer % 3]));
    }
    let mut cpal = words(&[0, 3, 1, 3, 0, 14, 0]);
    cpal.extend([40, 80, 220, 255, 90, 200, 60, 180, 230, 60, 30, 120]);
    tables.push((*b"COLR", colr));
    tables.push((*b"CPAL", cpal));
    let mut file = vec![0, 1, 0, 0];
    file.extend(words(&[tables.len() as u16, 0, 0, 0]));
    let mut at = 12 + 16 * tables.len();
    for (tag, table) in &tables {
        file.extend(tag);
        for number in [0, at, table.len()] {
            file.extend((number as u32).to_be_bytes());
        }
        at += table.len();
    }
    file.extend(tables.into_iter().flat_map(|(_, table)| table));
    file
}

fn painting(c: &mut Criterion) {
    let face = Face::from_bytes(layered()).expect("a font");
    let mut rasterizer = Rasterizer::new();
    let mut group = c.benchmark_group("a glyph of 64 px");
    for (name, glyph, treatment) in [
        ("coverage", GlyphId(40), Treatment::default()),
        (
            "thirty layers in colours",
            GlyphId(1),
            Treatment::in_color(),
        ),
    ] {
        group.bench_function(name, |b| {
            b.iter(|| {
                let request = GlyphRequest::new(&face, glyph, 64.0).treatment(treatment);
                std::hint::black_box(rasterizer.glyph(&request).expect("a picture"));
            });
        });
    }
    group.finish();
}

criterion_group!(benches, making, drawing, painting);
criterion_main!(benches);
