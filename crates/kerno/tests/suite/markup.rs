//! Text with markup.

use kerno::base::Mapping;
use kerno::markup::{Markup, StyleChange, StyleFile};
use kerno::text::{DecorationLine, LayoutOptions, Plate, Span};
use kerno::{Anchor, Atlas, Color, DrawText, FrameBuilder, Point, Rect, Style, TextLayout};
use proptest::prelude::*;

use crate::support::{LATO, averia, lato, table, word};

const GOLD: Color = Color::rgb(0xff, 0xcf, 0x70);

fn markup() -> Markup {
    let gold = StyleChange::default().color(GOLD);
    let title = StyleChange::default().face(averia()).scale(2.0);
    Markup::new()
        .style("gold", gold)
        .style("title", title)
        .mark("pause")
        .mark("value")
}

/// By `post`: the underline's upper edge and thickness in font units.
#[test]
fn rules_lie_where_the_face_wants_them() {
    let post = table(LATO, b"post");
    let (position, thickness) = (word(post, 8) as i16, word(post, 10) as i16);
    let plain = Style::new(&lato(), 20.0);
    let ruled = plain.clone().underline(true).baseline_shift(3.0);
    let spans = [
        Span::new("all ", &plain),
        Span::new("aboard now ", &ruled),
        Span::new("!", &plain),
    ];
    let options = LayoutOptions::default().width(100.0);
    let layout = TextLayout::with_options(&spans, &options).expect("a layout");
    assert_eq!(layout.lines().len(), 2, "“now” does not fit");
    let rules = |visible| -> Vec<Rect> {
        let rules = layout.decorations(DecorationLine::Underline, 0..visible);
        rules.map(|(rule, _)| rule).collect()
    };
    let cluster = |index: usize| layout.clusters()[index];
    let unit = 20.0 / 2000.0;
    let [first, second] = rules(usize::MAX)[..] else {
        panic!("one for each line")
    };
    // The space that hangs at the end of the line has none.
    assert!((first.x - cluster(4).x).abs() < 0.01);
    assert!((first.right() - (cluster(9).x + cluster(9).advance)).abs() < 0.01);
    assert!((second.x - cluster(11).x).abs() < 0.01);
    assert!(
        (second.right() - cluster(15).x).abs() < 0.01,
        "with the space before the next"
    );
    let top = layout.lines()[0].baseline - 3.0 - f32::from(position) * unit;
    assert!((first.y - top).abs() < 0.01, "{first:?} {top}");
    assert!((first.height - f32::from(thickness) * unit).abs() < 0.001);
    // As far as it is typed.
    let typed = rules(6);
    assert_eq!(typed.len(), 1);
    assert!((typed[0].right() - cluster(6).x).abs() < 0.01);
    assert_eq!(rules(4), []);
    assert_eq!(
        layout
            .decorations(DecorationLine::LineThrough, 0..usize::MAX)
            .count(),
        0
    );
}

#[test]
fn rules_are_drawn_beneath_and_through() {
    let style = Style::new(&lato(), 20.0).underline(true).line_through(true);
    let layout = TextLayout::new("no", &style).expect("a layout");
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let at = Point::new(10.4, 10.0);
    frame
        .text(&layout, DrawText::at(at, Anchor::TOP_LEFT))
        .expect("room");
    let frame = builder.finish();
    let quads: Vec<_> = frame.vertices.chunks(4).collect();
    assert_eq!(quads.len(), 4);
    let is_solid =
        |quad: &&[kerno::draw::Vertex]| quad[0].shade.kind == kerno::draw::ShadeKind::Solid as u8;
    let solid: Vec<usize> = (0..4).filter(|index| is_solid(&quads[*index])).collect();
    assert_eq!(solid, [0, 3], "beneath the letters, and above them");
    for index in solid {
        for corner in quads[index] {
            let [x, y] = corner.position;
            assert_eq!((x.fract(), y.fract()), (0.0, 0.0), "on whole pixels");
        }
        let height = quads[index][2].position[1] - quads[index][0].position[1];
        assert!(height >= 1.0);
    }
}

#[test]
fn names_change_styles_and_leave_marks() {
    let base = Style::new(&lato(), 10.0);
    let source =
        "@gold{Lamp oil} is @title{very @gold{low}}@pause(0.4)… a@@b @value(fares, digits = 4)";
    let read = markup().read(source, &base).expect("markup");
    assert_eq!(read.text(), "Lamp oil is very low… a@b ");
    let spans = read.spans();
    let told: Vec<(&str, f32, bool)> = spans
        .iter()
        .map(|span| (span.text(), span.style.size, span.style.color == GOLD))
        .collect();
    assert_eq!(
        told,
        [
            ("Lamp oil", 10.0, true),
            (" is ", 10.0, false),
            ("very ", 20.0, false),
            ("low", 20.0, true),
            ("… a@b ", 10.0, false),
        ]
    );
    assert_eq!(
        spans[3].style.face.name(kerno::font::NameId::FULL),
        averia().name(kerno::font::NameId::FULL)
    );
    let [pause, value] = read.marks() else {
        panic!("{:?}", read.marks())
    };
    assert_eq!(
        (pause.name.as_str(), pause.bytes.start),
        ("pause", "Lamp oil is very low".len())
    );
    assert_eq!(pause.arguments, [(None, "0.4".to_owned())]);
    let digits = (Some("digits".to_owned()), "4".to_owned());
    assert_eq!(value.arguments, [(None, "fares".to_owned()), digits]);
    TextLayout::with_options(&spans, &LayoutOptions::default()).expect("a layout");
}

#[test]
fn faults_are_told_by_line_and_column() {
    let base = Style::new(&lato(), 10.0);
    for (source, line, column, expected) in [
        (
            "ö @gild{x}",
            1,
            3,
            "there is no “gild”; did you mean “gold”?",
        ),
        ("a\nbc @gold{x", 2, 9, "not closed"),
        ("@pause(1", 1, 7, "not closed"),
        ("@gold", 1, 1, "needs content"),
        ("@pause{x}", 1, 7, "takes no content"),
        ("a @ b", 1, 3, "a name must follow"),
    ] {
        let error = markup().read(source, &base).expect_err(source);
        assert_eq!((error.line, error.column), (line, column), "{source}");
        assert!(error.problem.contains(expected), "{}", error.problem);
    }
    let deep = "@gold{".repeat(100) + &"}".repeat(100);
    assert!(markup().read(&deep, &base).is_err());
}

proptest! {
    #[test]
    fn what_players_write_is_only_text(text in "[@a-z(){}=,\\n ]{0,30}") {
        let base = Style::new(&lato(), 10.0);
        let inside = format!("@gold{{{}}}", Markup::escape(&text));
        let read = markup().read(&inside, &base).expect("markup");
        prop_assert_eq!(read.text(), text.as_str());
        // And whatever is not escaped is read or refused.
        let _ = markup().read(&text, &base);
    }
}

#[test]
fn a_style_takes_outlines_and_plates_away() {
    let style = Style::new(&lato(), 16.0)
        .outline(2.0, Color::BLACK)
        .plate(Plate::new(Color::BLACK, 2.0));
    let bare = StyleChange::default().effects(Vec::new()).plate(None);
    let markup = Markup::new()
        .style("bare", bare)
        .style("same", StyleChange::default());
    let read = markup.read("@bare{a}@same{b}", &style).expect("markup");
    let styles: Vec<_> = read.spans().iter().map(|span| span.style.clone()).collect();
    assert_eq!((styles[0].effects.len(), styles[0].plate), (0, None));
    assert_eq!(
        (&styles[1].effects, styles[1].plate),
        (&style.effects, style.plate)
    );
    // The same in a file; another word is told.
    let folder = tempfile::tempdir().expect("a folder");
    let path = folder.path().join("styles.toml");
    let file = |text: &str| {
        std::fs::write(&path, text).expect("a file");
        StyleFile::from_file(&path)
    };
    let from_file = file("[styles.bare]\neffects = []\nplate = 'none'\n").expect("a file");
    let read = from_file.markup().read("@bare{a}", &style).expect("markup");
    assert_eq!(read.spans()[0].style.effects, []);
    let error = file("[styles.bare]\n\nplate = 'thin'\n").expect_err("no such word");
    assert!(error.to_string().contains("line 3"), "{error}");
    let error = file("[styles.bare]\neffects = [{ outline = { width = 2, colour = 'red' } }]\n")
        .expect_err("a key");
    assert!(
        error.to_string().contains("did you mean “color”"),
        "{error}"
    );
}
