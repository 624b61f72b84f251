//! Costs on the way from bytes to glyph pictures.

use std::hint::black_box;

use criterion::{Criterion, criterion_group, criterion_main};
use kerno::Face;
use kerno::base::{Edges, SharedBytes};
use kerno::font::GlyphId;
use kerno::outline::Outline;
use kerno::raster::{GlyphRequest, Rasterizer};

static LATO: &[u8] = include_bytes!("../demo/ferry/fonts/Lato-Medium.ttf");
static AVERIA: &[u8] = include_bytes!("../demo/ferry/fonts/AveriaSerifGWF-Bold.ttf");

fn open(c: &mut Criterion) {
    let mut group = c.benchmark_group("open");
    for (name, bytes) in [("660 KB", LATO), ("113 KB", AVERIA)] {
        let shared = SharedBytes::from(bytes);
        group.bench_function(name, |b| {
            b.iter(|| Face::from_bytes(black_box(shared.clone())).expect("a font"));
        });
    }
    group.finish();
}

fn look_up(c: &mut Criterion) {
    let face = Face::from_bytes(LATO).expect("a font");
    let (a, v) = (glyph(&face, 'A'), glyph(&face, 'V'));
    let mut group = c.benchmark_group("look up");
    group.bench_function("glyph of a character", |b| {
        b.iter(|| face.glyph(black_box('q')));
    });
    group.bench_function("advance", |b| b.iter(|| face.advance(black_box(a))));
    group.bench_function("kerning", |b| {
        b.iter(|| face.kerning(black_box(a), black_box(v)));
    });
    group.finish();
}

fn ascii(c: &mut Criterion) {
    let face = Face::from_bytes(LATO).expect("a font");
    let glyphs: Vec<GlyphId> = (' '..='~')
        .map(|character| glyph(&face, character))
        .collect();
    let mut group = c.benchmark_group("printable ASCII");
    let mut outline = Outline::new();
    group.bench_function("outlines", |b| {
        b.iter(|| {
            for &glyph in &glyphs {
                face.outline(glyph, &mut outline).expect("an outline");
                black_box(&outline);
            }
        });
    });
    let mut rasterizer = Rasterizer::new();
    for (name, size, edges) in [
        ("smooth 16 px", 16.0, Edges::Smooth),
        ("smooth 32 px", 32.0, Edges::Smooth),
        ("smooth 96 px", 96.0, Edges::Smooth),
        ("hard 32 px", 32.0, Edges::Hard),
    ] {
        group.bench_function(name, |b| {
            b.iter(|| {
                for &glyph in &glyphs {
                    black_box(
                        rasterizer
                            .glyph(&GlyphRequest::new(&face, glyph, size).treatment(edges))
                            .expect("a picture"),
                    );
                }
            });
        });
    }
    group.finish();
}

fn glyph(face: &Face, character: char) -> GlyphId {
    face.glyph(character).expect("a Latin face")
}

criterion_group!(benches, open, look_up, ascii);
criterion_main!(benches);
