//! Distance fields beside coverage: making them, and drawing them enlarged.

use criterion::{Criterion, Throughput, criterion_group, criterion_main};
use kerno::base::{Affine, Edges, Mapping, Treatment};
use kerno::font::GlyphId;
use kerno::raster::{GlyphRequest, Rasterizer};
use kerno::{
    Anchor, Atlas, Canvas, DeviceSize, DrawText, Face, FrameBuilder, Point, Style, TextLayout,
};

const LATO: &[u8] = include_bytes!("../../../demo/ferry/fonts/Lato-Medium.ttf");
const AVERIA: &[u8] = include_bytes!("../../../demo/ferry/fonts/AveriaSerifGWF-Bold.ttf");

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

criterion_group!(benches, making, drawing);
criterion_main!(benches);
