//! Dialogue: a line made ready, a frame of it with letters in motion, many lines checked.

use std::fmt::Write;
use std::hint::black_box;

use criterion::{BatchSize, Criterion, criterion_group, criterion_main};
use kerno::dialogue::{
    Pace, PageSize, Scene, SceneCheck, Speech, SpeechPlayer, Timetable, pages, with_spoken_names,
};
use kerno::markup::{Markup, StringTables, StyleChange, StyleFile};
use kerno::text::{LayoutContext, LayoutOptions, Wrap};
use kerno::{Face, Size, Style, TextLayout};

fn face() -> Face {
    let font = concat!(
        env!("CARGO_MANIFEST_DIR"),
        "/demo/ferry/fonts/Lato-Medium.ttf"
    );
    Face::from_file(font).expect("a font")
}

fn layout(source: &str) -> TextLayout {
    let text = with_spoken_names(Markup::new()).read(source, &Style::new(&face(), 14.0));
    let options = LayoutOptions::default().width(400.0).wrap(Wrap::Greedy);
    let layout = text
        .expect("a text")
        .lay_out(&options, &mut LayoutContext::new());
    layout.expect("a layout")
}

/// About so many clusters with marks in them.
fn line(clusters: usize, around: &str) -> String {
    let part = "The fog has teeth tonight,@pause(0.2) and @pace(2){nobody rows}@cue(bell). ";
    let plain = 44;
    let text = part.repeat(clusters.div_ceil(plain));
    match around {
        "" => text,
        name => format!("@{name}{{{text}}}"),
    }
}

fn dialogue(criterion: &mut Criterion) {
    let mut group = criterion.benchmark_group("dialogue");
    let long = layout(&line(500, ""));
    group.bench_function("timetable and pages of 500 clusters", |bencher| {
        bencher.iter(|| {
            let timetable = Timetable::new(&long, &Pace::default()).expect("a timetable");
            (timetable, pages(&long, PageSize::Lines(3)))
        });
    });
    let wavy = layout(&line(300, "wave"));
    let count = wavy.clusters().len().min(300);
    let speech = Speech::new(wavy, &Pace::default(), PageSize::Lines(60)).expect("a speech");
    let mut player = SpeechPlayer::new(speech);
    while !player.is_done() {
        player.press(&mut |_| {});
    }
    group.bench_function("a frame of 300 clusters in motion", |bencher| {
        bencher.iter(|| {
            player.advance(1.0 / 60.0, &mut |_| {});
            (0..count)
                .map(|cluster| player.pose(cluster, false).offset.y)
                .sum::<f32>()
        });
    });
    group.sample_size(10);
    let styles = StyleFile::default()
        .with_style("body", StyleChange::default().face(face()).size(14.0))
        .with_default("text", "body");
    let mut text = String::new();
    for index in 0..1000 {
        let words = line(40 + index % 90, "");
        let _ = writeln!(text, "[[lines]]\ntext = \"{index}: {words}\"");
    }
    let text = format!("cues = [\"bell\"]\n{text}");
    group.bench_function("1,000 lines read and checked", |bencher| {
        bencher.iter_batched(
            || (),
            |()| {
                let scene = Scene::from_toml(&text).expect("a scene");
                let check = SceneCheck::new(Size::new(400.0, 60.0));
                let found = check.run(&scene, &styles, &StringTables::default());
                black_box(found.expect("checked").len())
            },
            BatchSize::PerIteration,
        );
    });
    group.finish();
}

criterion_group!(benches, dialogue);
criterion_main!(benches);
