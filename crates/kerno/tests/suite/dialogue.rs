//! The timetable of typewriter text, by hand.

use kerno::dialogue::{Pace, Timetable};
use kerno::{Style, TextLayout};
use proptest::prelude::*;

use crate::support::lato;

/// Ten clusters a second, half a second after commas, two after sentences.
fn pace() -> Pace {
    Pace::default()
        .clusters_per_second(10.0)
        .comma_rest(0.5)
        .sentence_rest(2.0)
}

fn timetable(text: &str) -> Timetable {
    let layout = TextLayout::new(text, &Style::new(&lato(), 12.0)).expect("a layout");
    Timetable::new(&layout, &pace()).expect("a pace")
}

#[test]
fn clusters_appear_one_step_after_another() {
    let timetable = timetable("Fog");
    let counts = [-1.0, 0.0, 0.09, 0.11, 0.21, 0.31, 99.0].map(|time| timetable.visible_at(time));
    assert_eq!(counts, [0, 0, 0, 1, 2, 3, 3]);
    assert!((timetable.duration() - 0.3).abs() < 1e-9);
    assert!(timetable.is_done_at(0.31) && !timetable.is_done_at(0.29));
    assert_eq!(timetable.visible_at(f64::NAN), 0);
    assert_eq!(timetable.visible_at(f64::INFINITY), 3);
}

#[test]
fn an_accent_comes_with_its_letter() {
    assert_eq!(timetable("e\u{301}\u{302}x").visible_at(9.0), 2);
}

#[test]
fn rests_begin_with_the_space_behind_the_mark() {
    let duration = |text| (timetable(text).duration() * 10.0).round() / 10.0;
    assert_eq!(duration("Ah, oil"), 0.7 + 0.5);
    assert_eq!(duration("Ah. Oil"), 0.7 + 2.0);
    assert_eq!(duration("Ah… Oil"), 0.7 + 2.0);
    assert_eq!(duration("Ah?! Oi"), 0.7 + 2.0, "two marks, one rest");
    assert_eq!(duration("“Ah.” O"), 0.7 + 2.0, "after the closing quote");
    assert_eq!(duration("3.5 oil"), 0.7, "a point inside a number");
    assert_eq!(duration("12:40 h"), 0.7);
    assert_eq!(duration("a, b. c"), 0.7 + 2.5);
    assert_eq!(duration("Oil low."), 0.8, "nothing to wait for at the end");
    assert_eq!(duration("Ah.\nOil"), 0.7 + 2.0, "a line break is a space");
    assert_eq!(
        duration("霧。船が出る"),
        0.6 + 2.0,
        "no space in this script"
    );
    assert_eq!(duration("「霧。」船"), 0.5 + 2.0);
    // Up to the mark nothing has been waited for; then the rest, then go on.
    let timetable = timetable("Ah, oil");
    let counts = [0.31, 0.85, 0.95, 1.05].map(|time| timetable.visible_at(time));
    assert_eq!(counts, [3, 3, 4, 5]);
}

#[test]
fn a_pace_out_of_range_is_refused() {
    let layout = TextLayout::new("a", &Style::new(&lato(), 12.0)).expect("a layout");
    for speed in [0.0, -1.0, f32::NAN, f32::INFINITY] {
        let pace = pace().clusters_per_second(speed);
        assert!(Timetable::new(&layout, &pace).is_err());
    }
    let error = Timetable::new(&layout, &pace().comma_rest(-0.5)).expect_err("negative");
    assert_eq!(
        error.to_string(),
        "comma_rest is -0.5, it must be 0 or more seconds"
    );
}

proptest! {
    #[test]
    fn more_time_never_shows_less(
        text in "[a-z ,.!?\n…]{0,60}",
        mut times in prop::collection::vec(0.0_f64..40.0, 2..20),
    ) {
        let timetable = timetable(&text);
        let asked: Vec<usize> = times.iter().map(|time| timetable.visible_at(*time)).collect();
        // Asked again in another order, every time has the same answer.
        let again: Vec<usize> = times.iter().rev().map(|time| timetable.visible_at(*time)).collect();
        prop_assert!(asked.iter().eq(again.iter().rev()));
        times.sort_by(f64::total_cmp);
        prop_assert!(times.windows(2).all(|t| timetable.visible_at(t[0]) <= timetable.visible_at(t[1])));
        prop_assert!(timetable.is_done_at(timetable.duration()));
    }
}
