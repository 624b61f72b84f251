//! Costs of laying a text out.

use std::hint::black_box;

use criterion::{BatchSize, Criterion, criterion_group, criterion_main};
use kerno::text::{LayoutContext, LayoutOptions, Span};
use kerno::{Face, Style, TextLayout};

static LATO: &[u8] = include_bytes!("../demo/ferry/fonts/Lato-Medium.ttf");

static AVERIA: &[u8] = include_bytes!("../demo/ferry/fonts/AveriaSerifGWF-Bold.ttf");

const WORDS: &str = "The night ferry crosses a chain of foggy lakes, and the lamp must not go out \
    before the morning comes over Heron Steps. ";

fn lay_out(c: &mut Criterion) {
    let face = Face::from_bytes(LATO).expect("a font");
    let style = Style::new(&face, 16.0);
    let text: String = WORDS.chars().cycle().take(1000).collect();
    let spans = [Span::new(&text, &style)];
    let boxed = |width: f32| LayoutOptions::default().width(width);
    let mut group = c.benchmark_group("1,000 Latin characters");
    group.bench_function("laid out in a box", |b| {
        let mut context = LayoutContext::new();
        b.iter(|| context.lay_out(black_box(&spans), &boxed(400.0)));
    });
    let mut context = LayoutContext::new();
    let mut layout = TextLayout::with_options(&spans, &boxed(400.0)).expect("a layout");
    let mut width = 400.0;
    group.bench_function("laid out again in another box", |b| {
        b.iter(|| {
            width = if width == 400.0 { 390.0 } else { 400.0 };
            let options = boxed(width);
            context.relayout(&mut layout, &options).expect("a layout");
        });
    });
    group.finish();
    let number = style.clone().tabular(true);
    let label = [Span::new("Fares ", &style), Span::new("1,284", &number)];
    let mut layout = TextLayout::with_options(&label, &LayoutOptions::default()).expect("a layout");
    let mut is_odd = false;
    c.bench_function("a number changed in a label", |b| {
        b.iter(|| {
            is_odd = !is_odd;
            let number = if is_odd { "1,285" } else { "12,840" };
            context.set_text(&mut layout, 1, number)
        });
    });
}

/// Words of which texts are made that do not repeat themselves as [`WORDS`] do.
const VARIED: &str = "Keep watch over fog banks: quiet jetties, Odelle's lantern, Bram Tansy (with two \
    kegs), every oar; five young herons flew north-west at 7:45! Was Quill & Vane's mooring “half \
    off”? Buy wax, jars, zinc, rope... Type A fares 1,284; offices close 12/31. Toll paid; AVAST, \
    Wavering Yard, fjord, cliff effigy, dizzy puffins, extra jam, Kazoo TVs, LYRE, vex, jinx, Why not \
    just wait? Give Mr. Joyful Ozbek equal pay, Tyto says; ships’ bells ring, gulls nap, moss grows.";

/// 29 texts of 1,000 characters, each with the words in an order of its own.
fn varied_texts() -> Vec<String> {
    let words: Vec<&str> = VARIED.split_whitespace().collect();
    let mut state = 7_u32;
    let mut next_word = || {
        // Numerical Recipes' linear congruential generator.
        state = state.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
        words[(state >> 8) as usize % words.len()]
    };
    let text = |_| {
        let mut text = String::new();
        while text.chars().count() < 1000 {
            text.push_str(next_word());
            text.push(' ');
        }
        text.chars().take(1000).collect()
    };
    (0..29).map(text).collect()
}

fn lay_out_varied(c: &mut Criterion) {
    let texts = varied_texts();
    let options = LayoutOptions::default().width(400.0);
    let mut group = c.benchmark_group("1,000 characters of 29 texts");
    for (name, font) in [("GPOS", LATO), ("kern", AVERIA)] {
        let style = Style::new(&Face::from_bytes(font).expect("a font"), 16.0);
        let (mut number, mut context) = (0, LayoutContext::new());
        group.bench_function(format!("a face with {name}, warm"), |b| {
            b.iter(|| {
                number = (number + 1) % texts.len();
                let spans = [Span::new(&texts[number], &style)];
                context.lay_out(black_box(&spans), &options)
            });
        });
        group.bench_function(format!("a face with {name}, its first text"), |b| {
            let open = || Style::new(&Face::from_bytes(font).expect("a font"), 16.0);
            b.iter_batched(
                open,
                |style| TextLayout::with_options(&[Span::new(&texts[0], &style)], &options),
                BatchSize::SmallInput,
            );
        });
    }
    group.finish();
}

/// A line more at the end of a long log, beside the same log laid out anew.
fn append(c: &mut Criterion) {
    let style = Style::new(&Face::from_bytes(LATO).expect("a font"), 16.0);
    let mut log = varied_texts().join("\n");
    log = [log.as_str(), "\n"].concat().repeat(4);
    let options = LayoutOptions::default().width(400.0);
    let mut group = c.benchmark_group("a log of 116,000 characters in 116 paragraphs");
    let mut context = LayoutContext::new();
    let spans = [Span::new(&log, &style)];
    group.sample_size(20);
    group.bench_function("laid out anew", |b| {
        b.iter(|| context.lay_out(black_box(&spans), &options));
    });
    let layout = TextLayout::with_options(&spans, &options).expect("a layout");
    for (name, line) in [
        ("a line appended", WORDS.trim_end().to_owned() + "\n"),
        ("a letter appended", "A".to_owned()),
    ] {
        group.bench_function(name, |b| {
            b.iter_batched_ref(
                // The first one makes room for more.
                || {
                    let mut layout = layout.clone();
                    let end = layout.text().len();
                    layout.edit(end..end, "The lamp is lit.\n").expect("room");
                    layout
                },
                |layout| {
                    let end = layout.text().len();
                    context.edit(layout, end..end, &line).expect("room");
                },
                BatchSize::LargeInput,
            );
        });
    }
    group.finish();
}

criterion_group!(benches, lay_out, lay_out_varied, append);
criterion_main!(benches);
