//! Text that changes in place.

use kerno::text::{LayoutOptions, Overflow, Span, TextAlign, TextError, Wrap};
use kerno::{Style, TextLayout};
use proptest::prelude::*;

use crate::support::{lato, misaki};

fn options(width: Option<f32>) -> LayoutOptions {
    LayoutOptions::default().width(width)
}

/// Everything that can be seen of a layout.
fn seen(layout: &TextLayout) -> String {
    format!(
        "{:?}\n{:?}\n{:?}\n{:?}\n{:?} {:?} {:?}",
        layout.text(),
        layout.glyphs(),
        layout.clusters(),
        layout.lines(),
        layout.size(),
        layout.ink(),
        layout.missing()
    )
}

/// Returns whether two layouts look the same: all counts are equal, and lengths but for what
/// sums of parts are rounded by.
fn are_same(one: &TextLayout, other: &TextLayout) -> bool {
    let (one, other) = (seen(one), seen(other));
    let is_end = |character: char| matches!(character, ' ' | ',' | ')' | ']' | '}');
    let is_length = |part: &str| part.contains('.') || part.contains("e-");
    let mut pairs = one.split(is_end).zip(other.split(is_end));
    one.split(is_end).count() == other.split(is_end).count()
        && pairs.all(|(a, b)| match (a.parse::<f64>(), b.parse::<f64>()) {
            (Ok(x), Ok(y)) if is_length(a) && is_length(b) => (x - y).abs() < 2e-3,
            _ => a == b,
        })
}

proptest! {
    #[test]
    fn what_was_edited_is_as_if_it_had_always_been_so(
        first in "[ A-Za-z,.\\u{5d0}\\u{628}\\u{e9}\\u{fb}]{0,120}",
        second in "[ A-Za-z,.\n\\u{5d0}\\u{4e00}]{0,80}",
        edits in prop::collection::vec((0.0..1.0_f64, 0.0..0.3_f64, "[ a-f\\u{301}\\u{5d1}\n]{0,9}"), 1..4),
        width in prop::option::of(30.0..300.0_f32),
    ) {
        let plain = Style::new(&lato(), 16.0).fallback(vec![misaki()]);
        let other = Style::new(&misaki(), 24.0);
        let options = options(width);
        let spans = [Span::new(&first, &plain), Span::new(&second, &other)];
        let mut layout = TextLayout::with_options(&spans, &options).expect("a layout");
        let mut parts = [first.clone(), second.clone()];
        for (place, share, text) in edits {
            let whole = layout.text().to_owned();
            let at = |share: f64| {
                let byte = (whole.len() as f64 * share) as usize;
                (0..=byte).rev().find(|byte| whole.is_char_boundary(*byte)).unwrap_or(0)
            };
            let range = at(place)..at((place + share).min(1.0));
            layout.edit(range.clone(), &text).expect("an edit");
            // The plain way: cut each part, put the new text where the range begins.
            let split = parts[0].len();
            let holds = if range.is_empty() { range.start <= split } else { range.start < split };
            let cut = |part: &str, from: usize| {
                let clamp = |byte: usize| byte.saturating_sub(from).min(part.len());
                (part[..clamp(range.start)].to_owned(), part[clamp(range.end)..].to_owned())
            };
            let (before, behind) = cut(&parts[0], 0);
            let (before_second, behind_second) = cut(&parts[1], split);
            parts = if holds {
                [before + &text + &behind, before_second + &behind_second]
            } else {
                [before + &behind, before_second + &text + &behind_second]
            };
        }
        let spans = [Span::new(&parts[0], &plain), Span::new(&parts[1], &other)];
        let fresh = TextLayout::with_options(&spans, &options).expect("a layout");
        prop_assert_eq!(seen(&layout), seen(&fresh));
    }
}

#[test]
fn a_long_text_that_changes_at_its_end_is_right_throughout() {
    // Many runs, all but the last taken over.
    let style = Style::new(&lato(), 16.0);
    let text = "Fog bank ahead, and the lamp is low. ".repeat(400);
    let mut layout = TextLayout::with_options(&[Span::new(&text, &style)], &options(Some(400.0)))
        .expect("a layout");
    layout
        .edit(text.len() - 5..text.len(), "high.")
        .expect("an edit");
    let changed = format!("{}high.", &text[..text.len() - 5]);
    let fresh = TextLayout::with_options(&[Span::new(&changed, &style)], &options(Some(400.0)));
    assert_eq!(seen(&layout), seen(&fresh.expect("a layout")));
}

#[test]
fn a_score_is_set_and_shrinks_where_it_has_to() {
    let style = Style::new(&lato(), 20.0);
    let shrinking = options(Some(40.0)).shrink_to(0.5);
    let spans = [Span::new("9", &style)];
    let mut layout = TextLayout::with_options(&spans, &shrinking).expect("a layout");
    assert_eq!(layout.style(0).size, 20.0);
    layout.set_text(0, "99,999").expect("a text");
    assert!(layout.style(0).size < 20.0, "six characters do not fit");
    assert!(layout.fits());
    layout.set_text(0, "7").expect("a text");
    assert_eq!(
        (layout.text(), layout.style(0).size),
        ("7", 20.0),
        "it grows again"
    );
}

#[test]
fn what_is_no_part_of_the_text_is_refused() {
    let style = Style::new(&lato(), 16.0);
    let mut layout = TextLayout::new("Bélier", &style).expect("a layout");
    for range in [0..9, 2..4, 1..2] {
        let error = layout.edit(range.clone(), "x").expect_err("a bad range");
        assert!(
            matches!(error, TextError::BadRange { start, .. } if start == range.start),
            "{range:?}: {error}"
        );
    }
    let error = layout.set_text(1, "x").expect_err("there is one span");
    assert!(matches!(error, TextError::NoSuchSpan(1)), "{error}");
    assert_eq!(layout.text(), "Bélier", "nothing has changed");
}

/// A line of a log.
fn entry(seed: u32) -> String {
    let words = [
        "Fog", "bank", "ahead,", "office", "12:03", "[bell]", "שלום", "דולק", "(ad", "hoc)",
        "AV\tTo", "霧",
    ];
    let mut state = seed.wrapping_mul(2_654_435_761).wrapping_add(1);
    let mut next = |most: u32| {
        state = state.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
        (state >> 16) % most
    };
    let count = next(9);
    let words: Vec<&str> = (0..count)
        .map(|_| words[next(words.len() as u32) as usize])
        .collect();
    let end = ["", "\n", "\n", "\n", "\r\n", "\n\n"][next(6) as usize];
    words.join(" ") + end
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(120))]
    #[test]
    fn a_log_that_grew_is_as_if_it_had_been_written_at_once(
        seeds in prop::collection::vec(any::<u32>(), 20..60),
        width in prop::option::of(60.0..300.0_f32),
        wrap in prop::sample::select(vec![Wrap::None, Wrap::Greedy, Wrap::Balanced, Wrap::Optimal]),
        align in prop::sample::select(vec![
            TextAlign::Start, TextAlign::Center, TextAlign::End, TextAlign::Justify,
        ]),
        spacing in prop::sample::select(vec![0.0_f32, 1.5]),
        paragraph in prop::sample::select(vec![0.0_f32, 4.0]),
        indent in prop::sample::select(vec![0.0_f32, 11.0]),
        height in prop::option::of(40.0..400.0_f32),
        overflow in prop::sample::select(vec![Overflow::Visible, Overflow::Clip, Overflow::Ellipsis]),
        is_titled in any::<bool>(),
    ) {
        let plain = Style::new(&lato(), 16.0).fallback(vec![misaki()]).letter_spacing(spacing).underline(true);
        // Tab stops are those of the first style.
        let title = if is_titled {
            Style::new(&misaki(), 24.0)
        } else {
            plain.clone().underline(false)
        };
        let options = LayoutOptions::default()
            .width(width)
            .height(height)
            .wrap(wrap)
            .align(align)
            .overflow(overflow)
            .paragraph_spacing(paragraph)
            .indent(indent);
        let spans = [Span::new("Log\n", &title), Span::new("begins\n", &plain)];
        let mut layout = TextLayout::with_options(&spans, &options).expect("a layout");
        let mut words = "begins\n".to_owned();
        for seed in seeds {
            let more = entry(seed);
            let end = layout.text().len();
            layout.edit(end..end, &more).expect("appended");
            words += &more;
        }
        let spans = [Span::new("Log\n", &title), Span::new(&words, &plain)];
        let mut anew = TextLayout::with_options(&spans, &options).expect("a layout");
        prop_assert!(are_same(&layout, &anew), "{}\n{}", seen(&layout), seen(&anew));
        // And it goes on as such: another box, a change in its middle.
        let other = options.width(Some(111.0)).align(TextAlign::Start);
        for layout in [&mut layout, &mut anew] {
            layout.relayout(&other).expect("another box");
            layout.edit(4..6, "xy").expect("an edit");
        }
        prop_assert!(are_same(&layout, &anew), "{}\n{}", seen(&layout), seen(&anew));
    }
}
