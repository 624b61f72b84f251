//! Screens of 500 elements: opened, unchanged, changed, in another window.

use std::hint::black_box;

use criterion::{Criterion, criterion_group, criterion_main};
use kerno::base::Insets;
use kerno::draw::RectStyle;
use kerno::markup::{StringTables, StyleChange, StyleFile, ValueDeclaration};
use kerno::screen::{
    Align, Arrangement, Camera, Content, Element, Screen, ScreenDescription, TextContent,
    WorldPlace,
};
use kerno::{Anchor, Atlas, Color, DeviceSize, Face, Point, Size};

/// Four columns of rows: a plate with a square, a name and a number each, 500 in all.
fn description() -> ScreenDescription {
    let mut screen = ScreenDescription::new(Size::new(1280.0, 720.0));
    let anchors = [
        Anchor::TOP_LEFT,
        Anchor::TOP,
        Anchor::TOP_RIGHT,
        Anchor::LEFT,
    ];
    for (column, anchor) in anchors.into_iter().enumerate() {
        let list = Element::group(&format!("list-{column}"));
        screen = screen.element(
            list.arrangement(Arrangement::Column)
                .gap(2.0)
                .anchor(anchor),
        );
    }
    for row in 0..124 {
        let name = format!("value-{row}");
        let plate = RectStyle::filled(Color::rgb(20, 30, 44)).radius(3.0);
        screen = screen
            .value(ValueDeclaration::new(&name, f64::from(row)).range(0.0, 99_999.0))
            .element(
                Element::new(&format!("row-{row}"), Content::Rect(plate))
                    .parent(&format!("list-{}", row % 4))
                    .arrangement(Arrangement::Row)
                    .align(Align::Baseline)
                    .padding(Insets::sides(2.0, 6.0))
                    .gap(6.0),
            );
        let parent = format!("row-{row}");
        let square = RectStyle::filled(Color::rgb(200, 160, 90));
        let text = |text: &str| Content::Text(TextContent::markup(text));
        let parts = [
            Element::new(&format!("icon-{row}"), Content::Rect(square)).size(8.0, 8.0),
            Element::new(&format!("name-{row}"), text("Passengers aboard")),
            Element::new(&format!("number-{row}"), text(&format!("@value({name})"))),
        ];
        for part in parts.into_iter().take(if row < 100 { 3 } else { 2 }) {
            screen = screen.element(part.parent(&parent));
        }
    }
    screen
}

/// Labels of ten letters and more over a world, all of them in sight.
fn labels(criterion: &mut Criterion, styles: &StyleFile) {
    const COUNT: usize = 10_000;
    let mut description = ScreenDescription::new(Size::new(1280.0, 720.0));
    let at = |index: usize| Point::new((index % 125) as f32 * 10.0, (index / 125) as f32 * 8.5);
    for index in 0..COUNT {
        let name = format!("boat-{index}");
        let label = Element::new(&name, Content::Text(TextContent::markup(&name)));
        description = description
            .value(ValueDeclaration::new(&name, at(index)))
            .element(label.world(WorldPlace::new(&name)));
    }
    let mut atlas = Atlas::default();
    let strings = StringTables::default();
    let screen = Screen::new(description, styles.clone(), strings, &mut atlas);
    let mut screen = screen.expect("a screen");
    let view = screen.viewport(DeviceSize::new(1280, 720));
    let view = view.expect("a window");
    let mut turn = 0;
    criterion.bench_function("10,000 labels under a camera that moves", |bencher| {
        bencher.iter(|| {
            turn += 1;
            let center = Point::new(620.0 + (turn % 40) as f32, 340.0);
            screen.set_camera(Camera::new(center, 1.0));
            black_box(
                screen
                    .frame(&mut atlas, &view)
                    .expect("a frame")
                    .quad_count(),
            )
        });
    });
}

fn screens(criterion: &mut Criterion) {
    let font = concat!(
        env!("CARGO_MANIFEST_DIR"),
        "/demo/ferry/fonts/Lato-Medium.ttf"
    );
    let face = Face::from_file(font).expect("a font");
    let styles = StyleFile::default()
        .with_style(
            "body",
            StyleChange::default().face(face).size(10.0).tabular(true),
        )
        .with_default("text", "body");
    let mut atlas = Atlas::default();
    let mut open = || {
        Screen::new(
            description(),
            styles.clone(),
            StringTables::default(),
            &mut atlas,
        )
        .expect("a screen")
    };
    let mut group = criterion.benchmark_group("screen of 500");
    let window = DeviceSize::new(1280, 720);
    group.bench_function("opened and arranged", |bencher| {
        bencher.iter(|| {
            let mut screen = open();
            let view = screen.viewport(window).expect("a window");
            screen.arrange(&view, &Atlas::default()).expect("arranged");
            screen
        });
    });
    let mut screen = open();
    let view = screen.viewport(window).expect("a window");
    group.bench_function("unchanged", |bencher| {
        bencher.iter(|| {
            screen.advance(1.0 / 60.0);
            black_box(
                screen
                    .frame(&mut atlas, &view)
                    .expect("a frame")
                    .quad_count(),
            )
        });
    });
    let mut turn = 0;
    let names: Vec<String> = (0..10).map(|row| format!("value-{row}")).collect();
    group.bench_function("ten numbers changed, without drawing", |bencher| {
        bencher.iter(|| {
            turn += 1;
            for (row, name) in names.iter().enumerate() {
                let value = f64::from((turn * 37 + row as i32 * 11) % 90_000 + 10_000);
                screen.set(name, value).expect("a value");
            }
            screen.arrange(&view, &atlas).expect("arranged");
        });
    });
    group.bench_function("ten numbers changed, and drawn", |bencher| {
        bencher.iter(|| {
            turn += 1;
            for (row, name) in names.iter().enumerate() {
                let value = f64::from((turn * 37 + row as i32 * 11) % 90_000 + 10_000);
                screen.set(name, value).expect("a value");
            }
            black_box(
                screen
                    .frame(&mut atlas, &view)
                    .expect("a frame")
                    .quad_count(),
            )
        });
    });
    group.bench_function("another window, arranged", |bencher| {
        bencher.iter(|| {
            turn += 1;
            let window = DeviceSize::new(1280 + (turn % 400) as u32, 720);
            let view = screen.viewport(window).expect("a window");
            screen.arrange(&view, &atlas).expect("arranged");
        });
    });
    group.finish();
    labels(criterion, &styles);
}

criterion_group!(benches, screens);
criterion_main!(benches);
