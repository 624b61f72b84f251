//! What laying a text out costs.

use std::hint::black_box;

use criterion::{Criterion, criterion_group, criterion_main};
use kerno::{Face, LayoutOptions, Span, Style, TextLayout};

static LATO: &[u8] = include_bytes!("../../../demo/ferry/fonts/Lato-Medium.ttf");

const WORDS: &str = "The night ferry crosses a chain of foggy lakes, and the lamp must not go out \
    before the morning comes over Heron Steps. ";

fn lay_out(c: &mut Criterion) {
    let face = Face::from_bytes(LATO).expect("a font");
    let style = Style::new(&face, 16.0);
    let text: String = WORDS.chars().cycle().take(1000).collect();
    let spans = [Span::new(&text, &style)];
    let boxed = |width: f32| LayoutOptions {
        width: Some(width),
        ..LayoutOptions::default()
    };
    let mut group = c.benchmark_group("1,000 Latin characters");
    group.bench_function("laid out in a box", |b| {
        b.iter(|| TextLayout::with_options(black_box(&spans), &boxed(400.0)));
    });
    let mut layout = TextLayout::with_options(&spans, &boxed(400.0)).expect("a layout");
    let mut width = 400.0;
    group.bench_function("laid out again in another box", |b| {
        b.iter(|| {
            width = if width == 400.0 { 390.0 } else { 400.0 };
            layout.relayout(&boxed(width)).expect("a layout");
        });
    });
    group.finish();
    let number = Style {
        tabular: true,
        ..style.clone()
    };
    let label = [Span::new("Fares ", &style), Span::new("1,284", &number)];
    let mut layout = TextLayout::with_options(&label, &LayoutOptions::default()).expect("a layout");
    let mut is_odd = false;
    c.bench_function("a number changed in a label", |b| {
        b.iter(|| {
            is_odd = !is_odd;
            layout.set_text(1, if is_odd { "1,285" } else { "12,840" })
        });
    });
}

criterion_group!(benches, lay_out);
criterion_main!(benches);
