//! Costs of packing, and of looking up packed glyphs.

use std::hint::black_box;

use criterion::{Criterion, criterion_group, criterion_main};
use kerno::atlas::{Packing, PackingOptions, Skyline};
use kerno::bake::Manifest;
use kerno::base::SharedBytes;
use kerno::raster::GlyphRequest;
use kerno::{Atlas, Face, Pack};

static LATO: &[u8] = include_bytes!("../demo/ferry/fonts/Lato-Medium.ttf");

/// Ten thousand sizes of 4 to 43 texels a side, by a fixed rule.
fn sizes() -> Vec<(u16, u16)> {
    let mut state = 0x2545_f491_4f6c_dd1d_u64;
    let mut side = || {
        state ^= state << 13;
        state ^= state >> 7;
        state ^= state << 17;
        4 + (state % 40) as u16
    };
    (0..10_000).map(|_| (side(), side())).collect()
}

fn pack(c: &mut Criterion) {
    let sizes = sizes();
    let mut group = c.benchmark_group("10,000 rectangles");
    group.sample_size(20);
    group.bench_function("all known", |b| {
        b.iter(|| Packing::of(black_box(&sizes), &PackingOptions::default()));
    });
    for side in [1024, 4096] {
        group.bench_function(format!("one by one, pages of {side}"), |b| {
            b.iter(|| {
                let mut pages = vec![Skyline::new(side, side)];
                for (width, height) in &sizes {
                    if pages
                        .iter_mut()
                        .all(|page| page.place(*width, *height).is_none())
                    {
                        let mut page = Skyline::new(side, side);
                        page.place(*width, *height);
                        pages.push(page);
                    }
                }
                black_box(pages.len())
            });
        });
    }
    group.finish();
}

fn look_up(c: &mut Criterion) {
    let face = Face::from_bytes(LATO).expect("a font");
    let mut atlas = Atlas::default();
    let glyphs: Vec<_> = ('!'..='~')
        .filter_map(|character| face.glyph(character))
        .collect();
    let mut glyphs = glyphs.iter().cycle();
    c.bench_function("a glyph that is there", |b| {
        b.iter(|| {
            let glyph = glyphs.next().copied().unwrap_or_default();
            let request = GlyphRequest::new(&face, glyph, 24.0);
            atlas.glyph(&request).expect("room")
        });
    });
}

/// Baking Latin at three sizes in four steps, and loading what comes out.
fn bake(c: &mut Criterion) {
    let folder = tempfile::TempDir::new().expect("a folder");
    std::fs::write(folder.path().join("lato.ttf"), LATO).expect("a file");
    let text = "[faces.text]\nfile = 'lato.ttf'\n[charsets.latin]\nranges = ['U+20-24F']\n\
        [[strikes]]\nface = 'text'\nsizes = [16, 24, 32]\ncharsets = ['latin']\n";
    let path = folder.path().join("m.toml");
    std::fs::write(&path, text).expect("a file");
    let manifest = Manifest::from_file(&path).expect("a manifest");
    let mut group = c.benchmark_group("Latin at three sizes");
    group.sample_size(20);
    group.bench_function("bake", |b| {
        b.iter(|| {
            manifest
                .bake(&|_, _| {})
                .expect("a bake")
                .to_pack()
                .expect("a pack")
        });
    });
    let bytes = SharedBytes::from(
        manifest
            .bake(&|_, _| {})
            .expect("a bake")
            .to_pack()
            .expect("a pack"),
    );
    group.bench_function("load", |b| {
        b.iter(|| Pack::from_bytes(bytes.clone()).expect("a pack").atlas());
    });
    group.finish();
}

criterion_group!(benches, pack, look_up, bake);
criterion_main!(benches);
