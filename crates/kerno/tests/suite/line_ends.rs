//! Ends of lines: tabs and spaces that hang, text that is cut, lines that are not seen.

use kerno::base::Mapping;
use kerno::text::{Direction, LayoutOptions, Overflow, Span, TextAlign, Wrap};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Point, Rect, Style,
    TextLayout,
};
use proptest::prelude::*;

use crate::support::{FontBuilder, cmap12, lato, polygon, words};

/// Latin, Hebrew, digits, space, hyphens and an ellipsis, each half an em wide.
fn half_wide() -> Face {
    let ink = polygon(&[(0, 0), (400, 0), (400, 700)]);
    let (widths, glyphs) = (vec![[500, 0]; 200], vec![ink; 200]);
    let groups = [
        [0x20, 0x7e, 1],
        [0x5d0, 0x5ea, 100],
        [0x2010, 0x2010, 140],
        [0x2026, 0x2026, 141],
    ];
    FontBuilder::new(&glyphs)
        .table(b"hmtx", words(&widths.concat()))
        .table(b"cmap", cmap12(&groups))
        .face()
}

fn laid(text: &str, style: &Style, options: &LayoutOptions) -> TextLayout {
    TextLayout::with_options(&[Span::new(text, style)], options).expect("a layout")
}

#[test]
fn tabs_hang_at_line_ends_and_break_after() {
    // CSS Text, “Hanging white space”; UAX #14, LB21: no break before a tab, one after it.
    let style = Style::new(&lato(), 16.0);
    let width = |text: &str| laid(text, &style, &LayoutOptions::default()).size().width;
    let layout = laid(
        "office\tBell",
        &style,
        &LayoutOptions::default().width(60.0),
    );
    let widths: Vec<f32> = layout.lines().iter().map(|line| line.width).collect();
    assert_eq!(widths.len(), 2, "{widths:?}");
    for (told, word) in widths.iter().zip(["office", "Bell"]) {
        assert!((told - width(word)).abs() < 1e-3, "{told} for “{word}”");
    }
    // Aligned by its end, the letters are at the edge and the tab is beyond it.
    let options = LayoutOptions::default().width(60.0).align(TextAlign::End);
    let layout = laid("office\tBell", &style, &options);
    let tab = layout.clusters()[6];
    assert!((tab.x - 60.0).abs() < 1e-3 && tab.advance > 0.0, "{tab:?}");
    // Where nothing wraps a tab is as any letter.
    let open = laid("office\t", &style, &LayoutOptions::default());
    assert!(open.size().width > width("office") + 1.0);
}

#[test]
fn tab_stops_count_from_the_side_where_lines_begin() {
    // Half an em of 20 px a letter, a stop every 8 of them.
    let style = Style::new(&half_wide(), 20.0);
    let text = "אב\tגדה\tוז";
    for indent in [0.0, 15.0] {
        let options = LayoutOptions::default().indent(indent).tab_size(8.0);
        let rtl = laid(text, &style, &options.direction(Direction::RightToLeft));
        let ltr = laid(
            "ab\tcde\tfg",
            &style,
            &options.direction(Direction::LeftToRight),
        );
        let width = rtl.size().width;
        assert!((width - ltr.size().width).abs() < 1e-3);
        // The third and the seventh letter begin at stops 80 and 160.
        for (letter, stop) in [(3, 80.0), (7, 160.0)] {
            let (own, other) = (rtl.clusters()[letter], ltr.clusters()[letter]);
            assert!((other.x - stop).abs() < 1e-3, "{other:?}");
            assert!(
                (width - (own.x + own.advance) - stop).abs() < 1e-3,
                "{own:?}"
            );
        }
        // As wide as it was measured.
        let line = &rtl.lines()[0];
        assert!((line.width + indent - rtl.max_content_width()).abs() < 1e-3);
        let boxed = laid(
            text,
            &style,
            &options.direction(Direction::RightToLeft).width(500.0),
        );
        assert!((boxed.max_content_width() - rtl.max_content_width()).abs() < 1e-3);
        assert!((boxed.lines()[0].width - line.width).abs() < 1e-3);
    }
}

#[test]
fn min_content_is_one_whatever_was_asked_for() {
    for spacing in [0.0, 1.5] {
        let style = Style::new(&lato(), 16.0).letter_spacing(spacing);
        for text in [
            "office Bell",
            "Fog bank ahead",
            "a\u{ad}b cde\tf",
            "one\ntwo three",
            "",
        ] {
            for wrap in [Wrap::Greedy, Wrap::Balanced, Wrap::Optimal] {
                let options = LayoutOptions::default().wrap(wrap);
                let open = laid(text, &style, &options).min_content_width();
                for width in [1.0, 60.0, 500.0] {
                    let mut layout = laid(text, &style, &options.width(width));
                    assert_eq!(layout.min_content_width(), open, "“{text}” in {width}");
                    layout.relayout(&options).expect("a layout");
                    assert_eq!(layout.min_content_width(), open, "“{text}” changed");
                }
            }
        }
    }
    let style = Style::new(&lato(), 16.0);
    let word = laid("office", &style, &LayoutOptions::default())
        .size()
        .width;
    let two = laid("office Bell", &style, &LayoutOptions::default());
    assert!((two.min_content_width() - word).abs() < 1e-3);
    let unwrapped = laid(
        "office Bell",
        &style,
        &LayoutOptions::default().wrap(Wrap::None),
    );
    assert!((unwrapped.min_content_width() - unwrapped.size().width).abs() < 1e-3);
}

fn any_overflow() -> impl Strategy<Value = Overflow> {
    prop::sample::select(vec![
        Overflow::Visible,
        Overflow::Ellipsis,
        Overflow::EllipsisAtStart,
        Overflow::EllipsisInMiddle,
    ])
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]
    #[test]
    fn text_that_is_cut_stays_in_its_box_with_any_spacing(
        text in "[a-dא-ד 12\t]{1,40}",
        spacing in prop::sample::select(vec![0.0_f32, 0.5, 2.0, 5.0]),
        room in 30_u32..200,
        overflow in any_overflow(),
        wrap in prop::sample::select(vec![Wrap::None, Wrap::Greedy, Wrap::Balanced, Wrap::Optimal]),
        most in 1_usize..4,
        direction in prop::sample::select(vec![
            Direction::Auto, Direction::LeftToRight, Direction::RightToLeft,
        ]),
        align in prop::sample::select(vec![
            TextAlign::Start, TextAlign::Center, TextAlign::End, TextAlign::Justify,
        ]),
    ) {
        let style = Style::new(&half_wide(), 16.0).letter_spacing(spacing);
        let options = LayoutOptions::default()
            .width(room as f32)
            .wrap(wrap)
            .overflow(overflow)
            .max_lines(most)
            .direction(direction)
            .align(align);
        let layout = laid(&text, &style, &options);
        if overflow != Overflow::Visible {
            for line in layout.lines() {
                prop_assert!(line.width <= room as f32 + 0.02, "{} in {room}", line.width);
                for glyph in &layout.glyphs()[line.glyphs.clone()] {
                    // Ink is 400 of 500 units; spaces and tabs have some here as well.
                    let part = layout.clusters()[glyph.cluster as usize];
                    let hangs = layout.text()[part.start as usize..part.end as usize]
                        .trim()
                        .is_empty();
                    let (left, right) = (glyph.x, glyph.x + 8.0);
                    prop_assert!(
                        hangs || (left >= -0.02 && right <= room as f32 + 0.02),
                        "{left} to {right} in {room}: {line:?}"
                    );
                }
            }
        }
        // Hits and carets agree, of what is left out as well.
        let bytes = text.char_indices().map(|(at, _)| at).chain([text.len()]);
        for byte in bytes {
            let caret = layout.caret(byte);
            let hit = layout.hit(Point::new(caret.x, caret.top + caret.height * 0.5));
            let again = layout.caret(hit);
            prop_assert!(
                again.line == caret.line && (again.x - caret.x).abs() < 2e-3,
                "byte {byte} has {caret:?}, which is {hit} with {again:?}"
            );
        }
    }

    #[test]
    fn no_line_is_wider_than_min_content_where_that_is_asked_for(
        text in "[a-dא-ד 12]{1,40}",
        spacing in prop::sample::select(vec![0.0_f32, 0.5, 3.0]),
        direction in prop::sample::select(vec![
            Direction::Auto, Direction::LeftToRight, Direction::RightToLeft,
        ]),
        wrap in prop::sample::select(vec![Wrap::Greedy, Wrap::Balanced, Wrap::Optimal]),
    ) {
        let style = Style::new(&half_wide(), 16.0).letter_spacing(spacing);
        let options = LayoutOptions::default().wrap(wrap).direction(direction);
        let least = laid(&text, &style, &options).min_content_width();
        let layout = laid(&text, &style, &options.width(least));
        for line in layout.lines() {
            prop_assert!(line.width <= least + 0.01, "{} in {least}", line.width);
        }
    }
}

#[test]
fn marks_stay_where_their_own_bearings_place_them() {
    // Ko kai, sara i above it, mai ek above that: as fonts for Thai draw them, without an advance,
    // their ink left of the pen and each at its height.
    let base = polygon(&[(50, 0), (450, 0), (450, 400)]);
    let vowel = polygon(&[(-400, 450), (-100, 450), (-100, 550)]);
    let tone = polygon(&[(-180, 600), (-100, 600), (-100, 700)]);
    let low = polygon(&[(-200, 460), (-100, 460), (-100, 560)]);
    let face = FontBuilder::new(&[base, vowel, tone, low])
        .table(b"hmtx", words(&[500, 50, 0, -400, 0, -180, 0, -200]))
        .table(
            b"cmap",
            cmap12(&[
                [0x301, 0x301, 3],
                [0xe01, 0xe01, 0],
                [0xe34, 0xe34, 1],
                [0xe48, 0xe48, 2],
            ]),
        )
        .face();
    let style = Style::new(&face, 100.0).letter_spacing(7.0);
    for (text, letter) in [("กิ่", 0.0), ("กกิ่ก", 57.0)] {
        let layout = laid(text, &style, &LayoutOptions::default());
        let baseline = layout.first_baseline();
        for mark in layout
            .glyphs()
            .iter()
            .filter(|glyph| [1, 2].contains(&glyph.glyph.0))
        {
            // The pen after the letter, half an em on.
            assert!((mark.x - letter - 50.0).abs() < 1e-3, "{mark:?}");
            assert!((mark.y - baseline).abs() < 1e-3, "{mark:?}");
        }
    }
    // One that would lie on another mark is put above it.
    let layout = laid("ก\u{301}\u{301}", &style, &LayoutOptions::default());
    let [.., first, second] = layout.glyphs() else {
        panic!("three glyphs");
    };
    assert!(
        (first.y - layout.first_baseline()).abs() < 1e-3,
        "{:?}",
        layout.glyphs()
    );
    // As high as the first one is, and a sixteenth of an em.
    assert!(
        (first.y - second.y - (10.0 + 6.2)).abs() < 0.2,
        "{second:?}"
    );
}

/// The picture of a long text, drawn at a place under a clip, and its number of quads.
fn under(
    clip: Option<Rect>,
    window: Option<DeviceSize>,
    scroll: f32,
    turn: f32,
) -> (Canvas, usize) {
    let style = Style::new(&lato(), 10.0).underline(true);
    let text: String = (0..2000)
        .map(|line| format!("Crossing {line}, all well\n"))
        .collect();
    let layout = laid(&text, &style, &LayoutOptions::default());
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut canvas = Canvas::new(DeviceSize::new(160, 120));
    let mut count = 0;
    // The second frame is recalled where it may be.
    for by in [0.0, 3.0] {
        let mut scope = match window {
            Some(window) => builder.begin_in(&mut atlas, Mapping::IDENTITY, window),
            None => builder.begin(&mut atlas, Mapping::IDENTITY),
        };
        let center = Point::new(80.0, 60.0);
        let mut scope = scope
            .scope()
            .transform(kerno::base::Affine::rotation(turn).about(center));
        let mut scope = match clip {
            Some(clip) => scope.scope().clip(clip),
            None => scope.scope(),
        };
        let at = Point::new(10.0, -scroll - by);
        scope
            .text(&layout, DrawText::at(at, Anchor::TOP_LEFT))
            .expect("a text");
        canvas.clear(Color::BLACK);
        let frame = builder.finish();
        count = frame.quad_count();
        canvas.draw(frame, &atlas);
    }
    (canvas, count)
}

#[test]
fn lines_that_are_not_seen_are_not_gathered() {
    let window = DeviceSize::new(160, 120);
    for (scroll, turn) in [(0.0, 0.0), (7000.0, 0.0), (23_900.0, 0.0), (7000.0, 0.3)] {
        let (all, many) = under(None, None, scroll, turn);
        let (seen, few) = under(None, Some(window), scroll, turn);
        assert!(all.pixels() == seen.pixels(), "scrolled by {scroll}");
        assert!(many > 40_000 && few < 1000, "{few} of {many} quads");
    }
    let clip = Rect::new(0.0, 30.0, 160.0, 40.0);
    let (mut expected, _) = under(None, None, 7000.0, 0.0);
    let (cut, few) = under(Some(clip), None, 7000.0, 0.0);
    assert!(few < 250, "{few} quads");
    // What is outside of the clip is black.
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut scope = builder.begin(&mut atlas, Mapping::IDENTITY);
    scope.rect(Rect::new(0.0, 0.0, 160.0, 30.0), Color::BLACK);
    scope.rect(Rect::new(0.0, 70.0, 160.0, 50.0), Color::BLACK);
    expected.draw(builder.finish(), &atlas);
    assert!(expected.pixels() == cut.pixels());
}

#[test]
fn words_and_lines_are_found_around_a_caret() {
    let style = Style::new(&lato(), 16.0);
    let text = "Fog bank ahead, Ferryman!\nאור דולק 3.5 on";
    let layout = laid(text, &style, &LayoutOptions::default());
    // UAX #29: a word, a space, a mark; a decimal number is one.
    let word = |byte: usize| &text[layout.word_at(byte)];
    assert_eq!(word(0), "Fog");
    assert_eq!(word(2), "Fog");
    assert_eq!(word(3), " ");
    assert_eq!(word(6), "bank");
    assert_eq!(word(text.find("דולק").expect("a word") + 2), "דולק");
    assert_eq!(word(text.find("3.5").expect("a number") + 1), "3.5");
    assert_eq!(word(text.len()), "on");
    // By words, as a caret goes: to the starts of the next and the one before.
    let mut at = 0;
    let mut starts = Vec::new();
    while at < text.len() {
        at = layout.next_word(at);
        starts.push(&text[at..]);
    }
    assert_eq!(&starts[..3], [&text[4..], &text[9..], &text[16..]]);
    assert_eq!(starts.last(), Some(&""));
    let mut back = text.len();
    let mut count = 0;
    while back > 0 {
        let before = layout.previous_word(back);
        assert!(before < back);
        back = before;
        count += 1;
    }
    assert_eq!(count, starts.len(), "as many back as there");
    // Up and down at about one place across, to the ends at the first and the last line.
    let second = text.find('\n').expect("a line") + 1;
    assert_eq!(layout.line_start(9), 0);
    assert_eq!(layout.line_end(9), second - 1, "before the break");
    assert_eq!(layout.line_start(second + 3), second);
    assert_eq!(layout.line_end(second + 3), text.len());
    let x = layout.caret(4).x;
    let down = layout.caret_below(4, x);
    assert_eq!(layout.caret(down).line, 1);
    assert_eq!(layout.caret_above(down, x), 4);
    assert_eq!(layout.caret_above(4, x), 0);
    assert_eq!(layout.caret_below(down, x), text.len());
    let wrapped = laid(
        "one two three",
        &style,
        &LayoutOptions::default().width(40.0),
    );
    let first_end = wrapped.line_end(1);
    assert_eq!(
        wrapped.caret(first_end).line,
        0,
        "a soft break's end is on its line"
    );
}
