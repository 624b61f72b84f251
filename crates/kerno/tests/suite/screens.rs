//! Screens: arrangement, values, languages, and what is refused.

use kerno::atlas::SpriteOptions;
use kerno::base::{Image, Insets, full_message};
use kerno::draw::RectStyle;
use kerno::markup::{StringTables, StyleChange, StyleFile, Value, ValueDeclaration};
use kerno::screen::{
    Align, Arrangement, CheckOptions, Content, Element, Gauge, GaugeFill, IconRow, Justify, Length,
    Screen, ScreenDescription, SpriteContent, TextContent, Visibility,
};
use kerno::text::{Effect, LetterOutline};
use kerno::{Anchor, Atlas, Canvas, Color, DeviceSize, Offset, Rect, Size, TextLayout, Viewport};
use proptest::prelude::*;
use serde::Serialize;

use crate::support::{FERRY, lato};

const DESIGN: Size = Size::new(640.0, 360.0);

fn styles() -> StyleFile {
    let body = StyleChange::default().face(lato()).size(10.0);
    StyleFile::default()
        .with_style("body", body)
        .with_default("text", "body")
}

fn sprites() -> Atlas {
    let mut atlas = Atlas::default();
    let image = Image::new(12, 8, vec![200; 12 * 8 * 4]).expect("a picture");
    for name in ["ticket", "half", "lamps/0", "lamps/1"] {
        atlas
            .add_sprite(name, &image, SpriteOptions::default())
            .expect("room");
    }
    atlas
}

fn screen(description: ScreenDescription) -> (Screen, Atlas) {
    let mut atlas = sprites();
    let screen = Screen::new(description, styles(), StringTables::default(), &mut atlas);
    (screen.expect("a sound screen"), atlas)
}

fn view(screen: &Screen, width: u32, height: u32) -> Viewport {
    screen
        .viewport(DeviceSize::new(width, height))
        .expect("a window")
}

fn empty() -> ScreenDescription {
    ScreenDescription::new(DESIGN)
}

fn block(name: &str, width: f32, height: f32) -> Element {
    Element::new(name, Content::Rect(RectStyle::filled(Color::WHITE))).size(width, height)
}

fn text(name: &str, text: &str) -> Element {
    Element::new(name, Content::Text(TextContent::markup(text)))
}

/// Boxes of all elements of a screen in a window of the design's size.
fn rects(description: ScreenDescription) -> Vec<(String, Rect)> {
    let (mut screen, atlas) = screen(description);
    let view = view(&screen, 640, 360);
    screen.arrange(&view, &atlas).expect("it is arranged");
    let elements = screen.elements();
    elements
        .map(|(name, rect)| (name.to_owned(), rect))
        .collect()
}

fn demo() -> (Screen, Atlas) {
    let mut atlas = Atlas::default();
    let sprites = kerno::bake::Manifest::from_file(format!("{FERRY}/sprites.toml"));
    sprites
        .expect("sprites")
        .add_sprites_to(&mut atlas)
        .expect("room");
    let screen = Screen::from_file(format!("{FERRY}/hud.toml"), &mut atlas);
    (screen.expect("the demo's screen"), atlas)
}

#[test]
fn rows_columns_and_grids_go_by_css() {
    let bar = Element::group("bar")
        .arrangement(Arrangement::Row)
        .anchor(Anchor::BOTTOM_LEFT)
        .width(Length::Percent(100.0))
        .height(Length::Px(40.0))
        .padding(Insets::sides(5.0, 10.0))
        .gap(8.0)
        .align(Align::Center);
    let found = rects(
        empty()
            .element(bar)
            .element(block("a", 50.0, 20.0).parent("bar"))
            .element(block("wide", 0.0, 10.0).grow(1.0).parent("bar"))
            .element(
                block("b", 30.0, 30.0)
                    .margin(Insets::all(1.0))
                    .parent("bar"),
            ),
    );
    let wanted = [
        ("bar", Rect::new(0.0, 320.0, 640.0, 40.0)),
        ("a", Rect::new(10.0, 330.0, 50.0, 20.0)),
        // 640 less the padding, both blocks, a margin of 1 on both sides and two gaps.
        ("wide", Rect::new(68.0, 335.0, 522.0, 10.0)),
        ("b", Rect::new(599.0, 325.0, 30.0, 30.0)),
    ];
    for ((name, rect), (wanted_name, wanted)) in found.iter().zip(wanted) {
        assert_eq!((name.as_str(), *rect), (wanted_name, wanted));
    }
    // Three columns of one width, as wide as the gaps leave them; the fourth in a new row.
    let grid = Element::group("grid")
        .arrangement(Arrangement::Grid(3))
        .gap(10.0)
        .anchor(Anchor::CENTER)
        .width(Length::Px(320.0));
    let mut description = empty().element(grid);
    for name in ["1", "2", "3", "4"] {
        description = description.element(block(name, 20.0, 12.0).parent("grid"));
    }
    let found = rects(description);
    assert_eq!(found[0].1, Rect::new(160.0, 163.0, 320.0, 34.0));
    assert_eq!(found[3].1, Rect::new(380.0, 163.0, 20.0, 12.0));
    assert_eq!(found[4].1, Rect::new(160.0, 185.0, 20.0, 12.0));
    // A column is as wide as its widest; the ends of `space-between` are at the ends.
    let column = Element::group("column")
        .arrangement(Arrangement::Column)
        .align(Align::End)
        .justify(Justify::SpaceBetween)
        .height(Length::Px(100.0));
    let found = rects(
        empty()
            .element(column)
            .element(block("x", 30.0, 10.0).parent("column"))
            .element(block("y", 50.0, 10.0).parent("column")),
    );
    assert_eq!(found[0].1, Rect::new(0.0, 0.0, 50.0, 100.0));
    assert_eq!(found[1].1, Rect::new(20.0, 0.0, 30.0, 10.0));
    assert_eq!(found[2].1, Rect::new(0.0, 90.0, 50.0, 10.0));
}

#[test]
fn anchors_origins_and_overlays() {
    let plate = Element::group("plate")
        .anchor(Anchor::TOP_RIGHT)
        .padding(Insets::all(4.0));
    let found = rects(
        empty()
            .element(plate.offset(Offset::new(-10.0, 10.0)))
            .element(block("inside", 60.0, 20.0).parent("plate"))
            // Its middle on the right edge of what is inside of the padding.
            .element(
                block("badge", 8.0, 8.0)
                    .parent("plate")
                    .anchor(Anchor::RIGHT)
                    .origin(Anchor::CENTER),
            ),
    );
    assert_eq!(
        found[0].1,
        Rect::new(562.0, 10.0, 68.0, 28.0),
        "as large as its children"
    );
    assert_eq!(found[1].1, Rect::new(566.0, 14.0, 60.0, 20.0));
    assert_eq!(found[2].1, Rect::new(622.0, 20.0, 8.0, 8.0));
    // Shares of the parent; a picture keeps its shape.
    let found = rects(
        empty().element(
            block("picture", 0.0, 0.0)
                .width(Length::Percent(50.0))
                .height(Length::Auto)
                .aspect_ratio(2.0)
                .max_width(Length::Px(300.0)),
        ),
    );
    assert_eq!(found[0].1, Rect::new(0.0, 0.0, 300.0, 150.0));
}

#[test]
fn texts_measure_themselves() {
    let style = kerno::Style::new(&lato(), 10.0);
    let whole = TextLayout::new("Lamp oil is low", &style)
        .expect("a layout")
        .size();
    let mut wrapped = TextContent::markup("Lamp oil is low");
    wrapped.wrap = kerno::text::Wrap::Greedy;
    let found = rects(
        empty().element(text("free", "Lamp oil is low")).element(
            Element::new("narrow", Content::Text(wrapped))
                .width(Length::Px(whole.width * 0.6))
                .anchor(Anchor::BOTTOM_RIGHT),
        ),
    );
    let free = found[0].1;
    assert!((free.width - whole.width).abs() < 1e-3 && (free.height - whole.height).abs() < 1e-3);
    // Two lines, and still in its corner.
    let narrow = found[1].1;
    assert!(
        (narrow.height - 2.0 * whole.height).abs() < 1e-3,
        "{narrow:?}"
    );
    assert!((narrow.bottom() - 360.0).abs() < 1e-3 && (narrow.right() - 640.0).abs() < 1e-3);
}

#[test]
fn values_reach_texts_gauges_and_visibility() {
    let fares = ValueDeclaration::new("fares", 7.0).range(0.0, 99999.0);
    let description = empty()
        .value(fares)
        .value(ValueDeclaration::new("oil", 0.5).range(0.0, 1.0))
        .value(ValueDeclaration::new("name", "Heron Steps"))
        .value(ValueDeclaration::new("foggy", false))
        .element(text("score", "Fares @value(fares, digits=5, grouping=no)!"))
        .element(text("oil", "@value(oil, times=100) % at @value(name)").anchor(Anchor::TOP))
        .element(text("still", "Reed Quay").anchor(Anchor::BOTTOM))
        .element(block("fog", 5.0, 5.0).visible(Visibility::While("foggy".to_owned())));
    let (mut screen, atlas) = screen(description);
    let view = view(&screen, 640, 360);
    screen.arrange(&view, &atlas).expect("arranged");
    let said = |screen: &Screen, name: &str| screen.text(name).expect("a text").text().to_owned();
    assert_eq!(said(&screen, "score"), "Fares 00007!");
    assert_eq!(said(&screen, "oil"), "50 % at Heron Steps");
    assert_eq!(screen.element_rect("fog"), None);

    screen.take_laid_out();
    screen.set("fares", 1284.0).expect("a value");
    screen.set("fares", 1284.0).expect("the same");
    assert_eq!(screen.take_laid_out(), 1, "the text that shows it, once");
    assert_eq!(said(&screen, "score"), "Fares 01284!");
    // Out of range, and no number.
    screen.set("fares", 1e9).expect("a value");
    assert_eq!(said(&screen, "score"), "Fares 99999!");
    screen.set("oil", f64::NAN).expect("a value");
    // Text from players is plain.
    screen.set("name", "@loud{x}").expect("a value");
    assert_eq!(said(&screen, "oil"), "0 % at @loud{x}");
    screen.set("foggy", true).expect("a value");
    screen.arrange(&view, &atlas).expect("arranged");
    assert!(screen.element_rect("fog").is_some());

    let wrong = screen.set("fare", 1.0).expect_err("no such value");
    assert!(
        wrong.to_string().contains("did you mean “fares”"),
        "{wrong}"
    );
    let wrong = screen.set("fares", "many").expect_err("another kind");
    assert!(
        wrong.to_string().contains("a number, and not a text"),
        "{wrong}"
    );

    #[derive(Serialize)]
    struct Game {
        fares: u32,
        oil: f32,
        name: &'static str,
        foggy: bool,
        passengers: Vec<u8>,
    }
    let game = Game {
        fares: 12,
        oil: 0.25,
        name: "Lantern Isle",
        foggy: false,
        passengers: vec![1, 2],
    };
    screen
        .set_all(&game)
        .expect("a struct with more than enough");
    assert_eq!(said(&screen, "oil"), "25 % at Lantern Isle");
    assert_eq!(screen.value("fares"), Some(&Value::Number(12.0)));
    let short = std::collections::BTreeMap::from([("fares", 1)]);
    let wrong = screen.set_all(&short).expect_err("values are missing");
    assert!(wrong.to_string().contains("missing"), "{wrong}");
}

#[test]
fn room_is_kept_for_the_widest_value() {
    let kept = TextContent::markup("@value(fares)").keep_room(true);
    let description = empty()
        .value(ValueDeclaration::new("fares", 0.0).range(0.0, 99999.0))
        .element(Element::new("score", Content::Text(kept)).anchor(Anchor::TOP_RIGHT));
    let (mut screen, atlas) = screen(description);
    let view = view(&screen, 640, 360);
    let mut boxes = Vec::new();
    for fares in [0.0, 7.0, 1284.0, 88888.0, 99999.0] {
        screen.set("fares", fares).expect("a value");
        screen.arrange(&view, &atlas).expect("arranged");
        boxes.push(screen.element_rect("score").expect("it is there"));
        assert!(screen.text("score").expect("a text").fits());
    }
    assert!(boxes.windows(2).all(|pair| pair[0] == pair[1]), "{boxes:?}");
}

#[test]
fn gauges_follow_their_value_however_time_is_split() {
    let gauge = Gauge::new("oil", GaugeFill::Color(Color::WHITE))
        .follow_seconds(0.4)
        .ghost(Color::rgb(255, 0, 0));
    let description = empty()
        .value(ValueDeclaration::new("oil", 1.0).range(0.0, 1.0))
        .element(Element::new("oil", Content::Gauge(gauge)).size(100.0, 10.0));
    // The columns that are white, and those that are red.
    let drawn = |steps: &[f64]| {
        let (mut screen, mut atlas) = screen(description.clone());
        screen.set("oil", 0.5).expect("a value");
        for step in steps {
            screen.advance(*step);
        }
        let view = view(&screen, 640, 360);
        let mut canvas = Canvas::new(DeviceSize::new(640, 360));
        canvas.draw(screen.frame(&mut atlas, &view).expect("a frame"), &atlas);
        let row = &canvas.pixels()[5 * 640..5 * 640 + 640];
        let of = |color: [u8; 4]| row.iter().filter(|pixel| **pixel == color).count();
        (of([255; 4]), of([255, 0, 0, 255]))
    };
    assert_eq!(drawn(&[]), (100, 0), "it has not moved yet");
    // A twentieth of the way is left after the time that it takes.
    let (full, lost) = drawn(&[0.4]);
    assert!(
        (52..=53).contains(&full) && full + lost == 100,
        "{full}, {lost}"
    );
    assert_eq!(drawn(&[0.1; 4]), (full, lost));
    assert_eq!(drawn(&[0.05, 0.25, 0.1]), (full, lost));
    assert_eq!(drawn(&[5.0]), (50, 0), "what was lost is shown for a while");
}

#[test]
fn icons_show_halves() {
    let row = IconRow::new("lamps", "ticket", 5).half("half".to_owned());
    let description = empty()
        .value(ValueDeclaration::new("lamps", 2.5))
        .element(Element::new("lamps", Content::Icons(row)));
    let (mut screen, mut atlas) = screen(description);
    let view = view(&screen, 640, 360);
    let mut count = |lamps: f64| {
        screen.set("lamps", lamps).expect("a value");
        screen
            .frame(&mut atlas, &view)
            .expect("a frame")
            .quad_count()
    };
    assert_eq!(
        [2.5, 0.0, 2.2, 9.0, f64::INFINITY].map(&mut count),
        [3, 0, 2, 5, 5]
    );
    assert_eq!(
        screen.element_rect("lamps"),
        Some(Rect::new(0.0, 0.0, 60.0, 8.0))
    );
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]
    #[test]
    fn the_demo_stays_in_its_corners(width in 320_u32..4000, height in 180_u32..2200) {
        let (mut screen, atlas) = demo();
        let view = view(&screen, width, height);
        screen.arrange(&view, &atlas).expect("arranged");
        let window = view.window_rect();
        let rect = |name: &str| screen.element_rect(name).expect("it is there");
        let near = |a: f32, b: f32| (a - b).abs() < 0.01;
        prop_assert!(near(rect("fares").right(), window.right() - 10.0));
        prop_assert!(near(rect("fares").y, window.y + 10.0));
        prop_assert!(near(rect("oil").x, window.x + 10.0));
        let middle = window.center();
        prop_assert!(near(rect("landing").center().x, middle.x));
        prop_assert!(near(rect("message").center().x, middle.x));
        prop_assert!(near(rect("dialogue").bottom(), window.bottom() - 10.0));
        // A plate holds what is on it.
        let plate = rect("fares");
        for name in ["fares-ticket", "fares-title", "fares-number"] {
            let own = rect(name);
            prop_assert!(own.x >= plate.x && own.right() <= plate.right() + 0.01, "{name}");
        }
    }
}

#[test]
fn another_language_is_mirrored_and_chooses_its_plurals() {
    let (mut screen, mut atlas) = demo();
    let view = view(&screen, 1280, 720);
    let mut places = |screen: &mut Screen, language: &str| {
        screen
            .set_language(language, &mut atlas)
            .expect("a language");
        screen.arrange(&view, &atlas).expect("arranged");
        assert_eq!(screen.missing(), 0, "{language}");
        let named = [
            "oil",
            "oil-lantern",
            "oil-gauge",
            "dialogue",
            "portrait",
            "line",
            "oar",
        ];
        named.map(|name| screen.element_rect(name).expect("it is there"))
    };
    let (left, right) = (places(&mut screen, "en"), places(&mut screen, "he"));
    let window = view.window_rect();
    for (own, mirrored) in left.iter().zip(right) {
        let x = window.width - own.right();
        assert!((mirrored.x - x).abs() < 0.01, "{own:?} {mirrored:?}");
        assert_eq!(
            (own.width, own.y, own.height),
            (mirrored.width, mirrored.y, mirrored.height)
        );
    }
    let said = |screen: &Screen| screen.text("aboard").expect("a text").text().to_owned();
    screen.set("aboard", 2.0).expect("a value");
    assert_eq!(said(&screen), "שני נוסעים על הסיפון", "a form for two");
    for (language, one, many) in [
        ("en", "1 passenger aboard", "17 passengers aboard"),
        ("de", "1 Fahrgast an Bord", "17 Fahrgäste an Bord"),
    ] {
        screen
            .set_language(language, &mut atlas)
            .expect("a language");
        screen.set("aboard", 1.0).expect("a value");
        assert_eq!(said(&screen), one);
        screen.set("aboard", 17.0).expect("a value");
        assert_eq!(said(&screen), many);
    }
    // The pseudo-language keeps markup and values.
    screen
        .set_language("en-XA", &mut atlas)
        .expect("a language");
    assert!(
        said(&screen).starts_with("17 påsséñgérs"),
        "{}",
        said(&screen)
    );
    let wrong = screen
        .set_language("fr", &mut atlas)
        .expect_err("no such table");
    assert!(wrong.to_string().contains("en"), "{wrong}");
}

#[test]
fn a_frame_is_one_batch_and_is_kept_while_nothing_changes() {
    let (mut screen, mut atlas) = demo();
    let view = view(&screen, 1280, 720);
    let frame = screen.frame(&mut atlas, &view).expect("a frame");
    assert_eq!(frame.batches.len(), 1);
    let first: Vec<u8> = bytemuck::cast_slice(frame.vertices).to_vec();
    let place = frame.vertices.as_ptr();
    let again = screen.frame(&mut atlas, &view).expect("a frame");
    assert_eq!(again.vertices.as_ptr(), place, "the same memory");
    // Another builder finds the same.
    let mut builder = kerno::FrameBuilder::new();
    let mut scope = builder.begin(&mut atlas, view.mapping());
    screen.draw(&mut scope, &view).expect("drawn");
    assert_eq!(
        bytemuck::cast_slice::<_, u8>(builder.finish().vertices),
        first
    );
    // A value that changes is seen, and back again.
    for (fares, is_same) in [(9.0, false), (1284.0, true)] {
        screen.set("fares", fares).expect("a value");
        screen.settle();
        let frame = screen.frame(&mut atlas, &view).expect("a frame");
        let bytes: &[u8] = bytemuck::cast_slice(frame.vertices);
        assert_eq!(bytes == first, is_same, "{fares}");
    }
}

#[test]
fn readers_get_larger_text_in_the_same_corners() {
    let (mut screen, atlas) = demo();
    let plain = view(&screen, 1920, 1080);
    let mut width = |scale: f32| {
        let view = plain.with_text_scale(scale);
        screen.arrange(&view, &atlas).expect("arranged");
        let plate = screen.element_rect("fares").expect("it is there");
        assert!((plate.right() - view.window_rect().right() + 10.0).abs() < 0.01);
        screen
            .element_rect("fares-number")
            .expect("it is there")
            .width
    };
    let (one, two, again) = (width(1.0), width(2.0), width(1.0));
    assert!(
        (two - 2.0 * one).abs() < 0.02 * one && (again - one).abs() < 1e-3,
        "{one} {two}"
    );
}

#[test]
fn files_are_written_back_without_loss() {
    let file = ScreenDescription::from_file(format!("{FERRY}/hud.toml")).expect("the demo");
    let again = ScreenDescription::from_toml(&file.to_toml().expect("text")).expect("a screen");
    assert_eq!(again, file);
    assert!(file.elements.len() > 20);
    // In code and by a file: one tree.
    let code = empty()
        .value(ValueDeclaration::new("oil", 0.5).range(0.0, 1.0))
        .element(
            Element::new(
                "gauge",
                Content::Gauge(
                    Gauge::new("oil", GaugeFill::Clipped("ticket".to_owned()))
                        .thresholds(vec![(0.25, Color::rgb(200, 30, 20))]),
                ),
            )
            .width(Length::Percent(50.0))
            .anchor(Anchor::TOP_RIGHT)
            .offset(Offset::new(-8.0, 8.0)),
        )
        .element(text("label", "@value(oil)").parent("gauge").opacity(0.5));
    let written = r##"
        design = [640, 360]
        values.oil = { start = 0.5, range = [0, 1] }
        [[elements]]
        name = "gauge"
        gauge = { value = "oil", clipped = "ticket", thresholds = [{ below = 0.25, color = "#c81e14" }] }
        width = "50%"
        anchor = "top-right"
        offset = [-8, 8]
        [[elements]]
        name = "label"
        parent = "gauge"
        text = "@value(oil)"
        opacity = 0.5
    "##;
    assert_eq!(
        ScreenDescription::from_toml(written).expect("a screen"),
        code
    );
}

#[test]
fn what_can_not_be_is_refused_with_its_line() {
    let mut atlas = sprites();
    let mut refusal = |rest: &str| {
        let text = format!("design = [640, 360]\nvalues.oil = {{ start = 0.5 }}\n{rest}");
        let made = ScreenDescription::from_toml(&text).and_then(|description| {
            Screen::new(description, styles(), StringTables::default(), &mut atlas)
        });
        full_message(&made.expect_err(rest))
    };
    let mut element = |rest: &str| refusal(&format!("[[elements]]\nname = \"a\"\n{rest}"));
    for (rest, wanted) in [
        (
            "parent = \"b\"\n[[elements]]\nname = \"b\"\nparent = \"a\"",
            "in a circle",
        ),
        ("[[elements]]\nname = \"a\"", "of this name already"),
        ("parent = \"hud\"", "no element “hud”"),
        ("width = -3", "its width is -3"),
        ("width = nan", "its width is NaN"),
        ("opacity = 2", "its opacity is 2"),
        ("sprite = \"tickets\"", "tickets"),
        ("sprite = \"torches\"\nframe-seconds = 0.2", "torches"),
        ("text = \"@value(oli)\"", "did you mean “oil”"),
        ("text = \"@value(oil, digts=3)\"", "digits"),
        ("text = \"@loud{oil\"", "loud"),
        ("text = \"x\"\nstyle = \"bodi\"", "did you mean “body”"),
        ("text = \"x\"\npanel = \"ticket\"", "one thing at most"),
        ("string = \"oil\"", "name their folder"),
        ("show-while = \"fog\"", "no value “fog”"),
        ("gauge = { value = \"oil\" }", "filled with one of"),
        ("colour = \"#fff\"", "colour"),
        ("arrange = \"grid\"", "columns"),
        (
            "icons = { value = \"oil\", full = \"ticket\", count = 60000 }",
            "60000",
        ),
    ] {
        let said = element(rest);
        assert!(said.contains(wanted), "{rest}: {said}");
    }
    let deep: String = (0..80)
        .map(|depth| {
            let parent = if depth > 0 {
                format!("parent = \"e{}\"\n", depth - 1)
            } else {
                String::new()
            };
            format!("[[elements]]\nname = \"e{depth}\"\n{parent}")
        })
        .collect();
    assert!(refusal(&deep).contains("deeper than 64"));
    let lined =
        refusal("[[elements]]\nname = \"fine\"\n\n[[elements]]\nname = \"a\"\npanel = \"gone\"");
    assert!(lined.contains("“a”"), "{lined}");
    // Style files and string tables say their own line.
    let circle = "[styles.a]\nbase = \"b\"\n[styles.b]\nbase = \"a\"";
    let said = StyleFile::from_toml(circle, |_| None)
        .expect_err("a circle")
        .to_string();
    assert!(
        said.contains("inherits itself") && said.contains("line"),
        "{said}"
    );
    let mut tables = StringTables::default();
    for (text, wanted) in [
        ("[texts]\na = { plural = \"oil\", one = \"x\" }", "`other`"),
        ("[texts]\na = { plural = \"oil\", other = \"x\" }", "`one`"),
        (
            "[texts]\na = { plural = \"oil\", one = \"x\", other = \"y\", ten = \"z\" }",
            "`ten`",
        ),
        ("[texts]\na = { other = \"x\" }", "plural"),
        ("texts = 3", "line 1"),
    ] {
        let said = full_message(&tables.add("en", text).expect_err(text));
        assert!(said.contains(wanted), "{text}: {said}");
    }
}

#[test]
fn texts_are_replaced_beside_groups_and_sprites_are_named_by_values() {
    let mut faded = text("faded", "Fog").opacity(0.5).anchor(Anchor::BOTTOM);
    faded.group = true;
    let named = SpriteContent::new("ticket").value("who".to_owned());
    let description = empty()
        .value(ValueDeclaration::new("fares", 10.0))
        .value(ValueDeclaration::new("who", "half"))
        .element(faded)
        .element(Element::new("face", Content::Sprite(named)).anchor(Anchor::TOP_RIGHT))
        .element(text("score", "@value(fares)"));
    let (mut screen, mut atlas) = screen(description.clone());
    let view = view(&screen, 640, 360);
    let mut drawn = |screen: &mut Screen| {
        let mut canvas = Canvas::new(DeviceSize::new(640, 360));
        canvas.draw(screen.frame(&mut atlas, &view).expect("a frame"), &atlas);
        canvas.pixels().to_vec()
    };
    let first = drawn(&mut screen);
    screen.set("fares", 27.0).expect("a value");
    let second = drawn(&mut screen);
    assert_ne!(second, first);
    screen.set("fares", 10.0).expect("a value");
    assert_eq!(drawn(&mut screen), first);
    // Another screen that begins with the other number.
    let mut other = description;
    other.values[0].start = Value::Number(27.0);
    let (mut other, mut own) = self::screen(other);
    let mut canvas = Canvas::new(DeviceSize::new(640, 360));
    canvas.draw(other.frame(&mut own, &view).expect("a frame"), &own);
    assert_eq!(canvas.pixels(), second);
    // The value that it starts with names the sprite; one that is not there is refused.
    screen.set("who", "nobody").expect("a value");
    assert!(screen.arrange(&view, &own).is_err());
}

#[test]
fn windows_of_any_shape_are_arranged() {
    let (mut screen, mut atlas) = demo();
    for (width, height) in [(1, 1), (1, 20000), (20000, 1), (320, 180), (7680, 4320)] {
        let view = view(&screen, width, height);
        screen.frame(&mut atlas, &view).expect("a frame");
    }
    assert!(screen.viewport(DeviceSize::new(0, 0)).is_err());
}

/// A plate with a name and a number, which is sound.
const SOUND: &str = r##"
design = [640, 360]
values.fares = { start = 10, range = [0, 99999] }
[[elements]]
name = "plate"
rect = { fill = "#0f1b26" }
anchor = "top-right"
offset = [-10, 10]
width = 120
height = 30
[[elements]]
name = "title"
parent = "plate"
text = "Fares"
anchor = "left"
offset = [4, 0]
[[elements]]
name = "number"
parent = "plate"
text = "@value(fares)"
anchor = "right"
offset = [-4, 0]
"##;

#[test]
fn the_check_finds_what_is_planted_and_nothing_else() {
    let find = |text: &str| {
        let description = ScreenDescription::from_toml(text).expect("a screen");
        let body = StyleChange::default()
            .face(lato())
            .size(10.0)
            .color(Color::WHITE);
        let pixel = StyleChange::default()
            .face(crate::support::misaki())
            .size(9.0);
        let styles = StyleFile::default()
            .with_style("body", body)
            .with_default("text", "body");
        let styles = match text.contains("pixel") {
            true => styles.with_style("pixel", pixel.color(Color::WHITE)),
            false => styles,
        };
        let mut atlas = sprites();
        let made = Screen::new(description, styles, StringTables::default(), &mut atlas);
        let mut screen = made.expect("a screen");
        let found = screen
            .check(&mut atlas, &CheckOptions::default())
            .expect("checked");
        let found = found
            .into_iter()
            .map(|finding| (finding.kind.name(), finding.name));
        found.collect::<Vec<_>>()
    };
    assert_eq!(find(SOUND), []);
    let planted = [
        (
            "offset = [-10, 10]",
            "offset = [10, 10]",
            "out-of-window",
            "plate",
        ),
        ("width = 120", "width = 52", "overlap", "number"),
        (
            "anchor = \"right\"",
            "anchor = \"right\"\nwidth = 12",
            "text-does-not-fit",
            "number",
        ),
        (
            "text = \"Fares\"",
            "text = \"Fares ⛴\"",
            "missing-glyphs",
            "title",
        ),
        (
            "text = \"Fares\"",
            "text = \"Fares\"\nstyle = \"pixel\"",
            "off-pixel-grid",
            "title",
        ),
        ("#0f1b26", "#e0e4e8", "low-contrast", "title"),
        (
            "[[elements]]",
            "[values.oil]\nstart = 1\n[[elements]]",
            "unused-value",
            "oil",
        ),
    ];
    for (from, to, kind, name) in planted {
        let found = find(&SOUND.replacen(from, to, 1));
        assert!(found.contains(&(kind, name.to_owned())), "{to}: {found:?}");
        let odd: Vec<_> = found.iter().filter(|(found, _)| *found != kind).collect();
        // A text that does not fit in its plate may overlap, too.
        assert!(
            odd.iter().all(|(found, _)| *found == "overlap"),
            "{to}: {found:?}"
        );
        let reason =
            "\n[[allowed]]\nfinding = \"KIND\"\nreason = \"it is wanted so\"\n[[elements]]\n";
        let allowed = SOUND.replacen(from, to, 1);
        let allowed = allowed.replacen("[[elements]]", &reason.replace("KIND", kind), 1);
        let left = find(&allowed);
        assert!(
            left.iter().all(|(found, _)| *found != kind),
            "{kind}: {left:?}"
        );
    }
    let small = find(
        &SOUND
            .replace("\"Fares\"", "\"Fares\"\nscale = 1")
            .replace("640, 360", "1280, 720"),
    );
    assert!(
        small.contains(&("illegible", "title".to_owned())),
        "{small:?}"
    );
}

#[test]
fn outlines_and_unused_sprites_are_looked_at() {
    let text = r##"
        design = [320, 180]
        sprites = "sprites"
        [[elements]]
        name = "plate"
        rect = { fill = "#e0e4e8" }
        width = 120
        height = 24
        [[elements]]
        name = "title"
        parent = "plate"
        text = "Fares"
        [[elements]]
        name = "ticket"
        sprite = "ticket"
        anchor = "bottom"
        [[elements]]
        name = "lamps"
        sprite = "lamps"
        frame-seconds = 0.2
        anchor = "right""##;
    let find = |effects: Vec<Effect>| {
        let description = ScreenDescription::from_toml(text).expect("a screen");
        let body = StyleChange::default()
            .face(lato())
            .size(14.0)
            .color(Color::WHITE)
            .effects(effects);
        let styles = StyleFile::default()
            .with_style("body", body)
            .with_default("text", "body");
        let mut atlas = sprites();
        let made = Screen::new(description, styles, StringTables::default(), &mut atlas);
        let options = CheckOptions::default();
        let found = made.expect("a screen").check(&mut atlas, &options);
        let found = found.expect("checked").into_iter();
        found
            .map(|finding| (finding.kind.name(), finding.name))
            .collect::<Vec<_>>()
    };
    let half = ("unused-sprite", "half".to_owned());
    let low = ("low-contrast", "title".to_owned());
    let dark = Effect::Outline(LetterOutline::new(1.0, Color::rgb(20, 30, 40)));
    let pale = Effect::Outline(LetterOutline::new(1.0, Color::rgb(230, 230, 230)));
    // White on nearly white; a dark line around the letters makes them stand out.
    assert_eq!(find(Vec::new()), [low.clone(), half.clone()]);
    assert_eq!(find(vec![dark]), std::slice::from_ref(&half));
    assert_eq!(find(vec![pale]), [low, half]);
}

#[test]
fn counters_roll_to_their_value() {
    let fares = ValueDeclaration::new("fares", 100.0).roll_seconds(2.0);
    let (mut screen, mut atlas) = screen(empty().value(fares).element(text("t", "@value(fares)")));
    let view = view(&screen, 640, 360);
    let mut said = |screen: &mut Screen, seconds: f64| -> f64 {
        screen.advance(seconds);
        screen.frame(&mut atlas, &view).expect("a frame");
        let said = screen.text("t").expect("a text").text().parse();
        said.expect("a whole number")
    };
    screen.set("fares", 200.0).expect("a value");
    assert_eq!(screen.value("fares"), Some(&Value::Number(200.0)));
    assert_eq!(said(&mut screen, 0.0), 100.0);
    // The middle of CSS `ease-out` is 0.6846.
    assert_eq!(said(&mut screen, 1.0), 168.0);
    // From where it is to another value, without a jump.
    screen.set("fares", 0.0).expect("a value");
    assert_eq!(said(&mut screen, 0.0), 168.0);
    assert_eq!(said(&mut screen, 1.0), (168.0 * (1.0 - 0.6846_f64)).round());
    assert_eq!(said(&mut screen, 1.5), 0.0);
    screen.set("fares", 70.0).expect("a value");
    screen.settle();
    assert_eq!(said(&mut screen, 0.0), 70.0);
    screen.reduce_motion(true);
    screen.set("fares", 80.0).expect("a value");
    assert_eq!(said(&mut screen, 0.0), 80.0);
}

#[test]
fn a_text_may_change_its_style() {
    let change = StyleChange::default().size(20.0).color(Color::BLACK);
    let large = TextContent::markup("Fares").style_changes(change);
    let description = empty()
        .element(text("a", "Fares"))
        .element(Element::new("b", Content::Text(large)));
    let written = description.to_toml().expect("words for all");
    assert_eq!(
        ScreenDescription::from_toml(&written).expect("sound"),
        description
    );
    let (screen, _) = screen(description);
    let style = |name: &str| screen.text(name).expect("a text").styles()[0].clone();
    assert_eq!((style("a").size, style("b").size), (10.0, 20.0));
    assert_eq!(style("b").color, Color::BLACK);
}

#[test]
fn the_demo_has_nothing_to_be_found() {
    let (mut screen, mut atlas) = demo();
    let found = screen
        .check(&mut atlas, &CheckOptions::default())
        .expect("checked");
    assert_eq!(found, []);
}
