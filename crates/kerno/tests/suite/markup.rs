//! Text with markup.

use kerno::{Color, LayoutOptions, Markup, Style, StyleChange, TextLayout};
use proptest::prelude::*;

use crate::support::{averia, lato};

const GOLD: Color = Color::rgb(0xff, 0xcf, 0x70);

fn markup() -> Markup {
    let gold = StyleChange {
        color: Some(GOLD),
        ..StyleChange::default()
    };
    let title = StyleChange {
        face: Some(averia()),
        scale: Some(2.0),
        ..StyleChange::default()
    };
    Markup::new()
        .style("gold", gold)
        .style("title", title)
        .mark("pause")
        .mark("value")
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
        .map(|span| (span.text, span.style.size, span.style.color == GOLD))
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
        spans[3].style.face.name(kerno::NameId::FULL),
        averia().name(kerno::NameId::FULL)
    );
    let [pause, value] = read.marks() else {
        panic!("{:?}", read.marks())
    };
    assert_eq!(
        (pause.name.as_str(), pause.byte),
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
