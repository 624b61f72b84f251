//! Lines, boxes, directions, and places in a text.

use icu_segmenter::LineSegmenter;
use icu_segmenter::options::LineBreakOptions;
use kerno::base::Mapping;
use kerno::text::{
    Cluster, Direction, LayoutOptions, LineBreak, Overflow, OverflowWrap, Span, TextAlign,
    VerticalAlign, WhiteSpace, WordBreak, Wrap,
};
use kerno::{Anchor, Atlas, DrawText, FrameBuilder, Point, Size, Style, TextLayout};
use proptest::prelude::*;
use unicode_segmentation::UnicodeSegmentation;

use crate::support::{FontBuilder, averia, cmap12, lato, polygon, words};

const TEXT: &str = "The night ferry crosses a chain of foggy lakes, and the lamp must not go \
    out before the morning comes over Heron Steps.";

fn laid(text: &str, options: &LayoutOptions) -> TextLayout {
    let style = Style::new(&lato(), 16.0);
    TextLayout::with_options(&[Span::new(text, &style)], options).expect("a layout")
}

fn width(text: &str) -> f32 {
    laid(text, &LayoutOptions::default()).size().width
}

fn boxed(width: f32) -> LayoutOptions {
    LayoutOptions::default().width(width)
}

/// The text of each line.
fn lines(layout: &TextLayout) -> Vec<&str> {
    let clusters = layout.clusters();
    let line = |range: &std::ops::Range<usize>| {
        let own = &clusters[range.clone()];
        match (own.first(), own.last()) {
            (Some(first), Some(last)) => &layout.text()[first.start as usize..last.end as usize],
            _ => "",
        }
    };
    layout
        .lines()
        .iter()
        .map(|own| line(&own.clusters))
        .collect()
}

proptest! {
    #[test]
    fn lines_are_as_full_as_measuring_words_one_by_one_says(
        words in prop::collection::vec("[A-Za-z]{1,9}", 1..30),
        room in 15_000..50_000_u32,
    ) {
        // Widths are whole multiples of 16 / 2000: no line is nearly as wide as the room.
        let room = (room as f32 + 0.5) * 0.008;
        let text = words.join(" ");
        let layout = laid(&text, &boxed(room));
        // The plain way: a word more, for as long as what is measured alone fits.
        let mut expected: Vec<String> = Vec::new();
        for word in &words {
            match expected.last_mut() {
                Some(line) if width(&format!("{line} {word}")) <= room => {
                    line.push(' ');
                    line.push_str(word);
                }
                _ => expected.push(word.clone()),
            }
        }
        let found: Vec<String> = lines(&layout).iter().map(|l| l.trim_end().to_owned()).collect();
        prop_assert_eq!(&found, &expected);
        for (line, text) in layout.lines().iter().zip(&expected) {
            prop_assert!((line.width - width(text)).abs() < 0.01);
        }
        // Laid again in another box it is as if it had been so from the start.
        let mut again = laid(&text, &boxed(room * 0.7));
        again.relayout(&boxed(room)).expect("a layout");
        prop_assert_eq!(again.glyphs(), layout.glyphs());
        prop_assert_eq!(again.lines(), layout.lines());
    }

    #[test]
    fn lines_may_end_where_the_standard_says(
        text in "([A-Za-z]{1,4}|[ ,.;:!?/%$()\"'0-9\u{ad}\u{a0}\u{2019}\u{e9}\u{6f22}\u{5d0}-]{1,3}| ){1,24}",
    ) {
        // The standard's rules on the whole text at once, by the segmenter itself.
        let places = LineSegmenter::new_dictionary(LineBreakOptions::default());
        let places: Vec<usize> = places.segment_str(&text).collect();
        // No word fits: a line ends wherever one may.
        let options = boxed(0.0).overflow_wrap(OverflowWrap::Normal);
        let layout = laid(&text, &options);
        let clusters = layout.clusters();
        let is_boundary = |place: &&usize| clusters.iter().any(|c| c.start as usize == **place);
        let mut expected: Vec<usize> = places.iter().filter(is_boundary).copied().collect();
        expected.push(text.len());
        expected.dedup();
        let ends = layout.lines().iter().map(|line| clusters[line.clusters.end - 1].end as usize);
        let ends: Vec<usize> = ends.collect();
        // A line begins at 0, and what is not seen is no line of its own: spaces, and soft
        // hyphens that no letter is parted by.
        let missing: Vec<_> = expected[1..].iter().filter(|place| !ends.contains(place)).collect();
        let is_unseen = |part: &str| part.chars().all(|c| c.is_whitespace() || c == '\u{ad}');
        let before = |place: usize| expected.iter().rev().find(|other| **other < place);
        let only_space = |place: &usize| {
            is_unseen(&text[*place..]) || is_unseen(&text[before(*place).copied().unwrap_or(0)..*place])
        };
        prop_assert!(missing.iter().all(|place| only_space(place)), "{text:?}: no line ends at {missing:?}");
        let wrong: Vec<_> = ends.iter().filter(|place| !expected.contains(place)).collect();
        prop_assert!(wrong.is_empty(), "{text:?}: lines end at {wrong:?}");
    }

    #[test]
    fn clusters_are_those_of_the_standard(
        text in "([ -~]|\r|\n|\u{301}|\u{200d}|\u{e9}|\u{600}|\u{1f468}|\u{1f1e9}|\u{ac00}|\u{11a8}){0,40}",
    ) {
        let clusters = laid(&text, &LayoutOptions::default()).clusters().to_vec();
        let found: Vec<&str> = clusters.iter().map(|c| &text[c.start as usize..c.end as usize]).collect();
        prop_assert_eq!(found, text.graphemes(true).collect::<Vec<_>>());
    }

    #[test]
    fn every_caret_is_hit_where_it_stands(
        text in "[a-z אבגד0-9]{1,40}",
        room in 60.0..300.0_f32,
    ) {
        let layout = laid(&text, &boxed(room));
        for cluster in layout.clusters() {
            let byte = cluster.start as usize;
            let caret = layout.caret(byte);
            let hit = layout.hit(Point::new(caret.x, caret.top + caret.height * 0.5));
            // At the joint of two directions, two places share a caret.
            let other = layout.caret(hit);
            prop_assert!((other.x - caret.x).abs() < 0.01, "{byte} {hit} {caret:?} {other:?}");
        }
        // A selection of all is as wide as all lines with what hangs.
        let all: f32 = layout.selection(0..text.len()).iter().map(|b| b.width).sum();
        let clusters: f32 = layout.clusters().iter().map(|c| c.advance).sum();
        prop_assert!((all - clusters).abs() < 0.1, "{all} {clusters}");
    }

    #[test]
    fn any_text_in_any_box_keeps_every_cluster(
        text in "\\PC{0,60}(\n\\PC{0,20}){0,2}",
        room in 0.0..200.0_f32,
        wrap in prop::sample::select(vec![Wrap::None, Wrap::Greedy, Wrap::Balanced, Wrap::Optimal]),
    ) {
        let layout = laid(&text, &boxed(room).wrap(wrap));
        let mut end = 0;
        for cluster in layout.clusters() {
            prop_assert_eq!(cluster.start, end);
            end = cluster.end;
        }
        prop_assert_eq!(end as usize, text.len());
        let mut next = 0;
        for line in layout.lines() {
            prop_assert_eq!(line.clusters.start, next);
            next = line.clusters.end;
        }
        prop_assert_eq!(next, layout.clusters().len());
    }
}

#[test]
fn a_word_too_long_is_broken_only_where_that_is_asked_for() {
    let text = "a lighthousekeeperess b";
    let narrow = boxed(60.0);
    let broken = laid(text, &narrow);
    assert!(
        broken.lines().len() > 3 && broken.fits(),
        "{:?}",
        lines(&broken)
    );
    let options = narrow.overflow_wrap(OverflowWrap::Normal);
    let kept = laid(text, &options);
    assert_eq!(lines(&kept), ["a ", "lighthousekeeperess ", "b"]);
    assert!(!kept.fits());
    assert!((kept.min_content_width() - width("lighthousekeeperess")).abs() < 0.01);
    assert!((kept.max_content_width() - width(text)).abs() < 0.01);
    let none = laid(text, &narrow.wrap(Wrap::None));
    assert_eq!(none.lines().len(), 1);
}

#[test]
fn balanced_lines_are_no_more_and_nearly_equal() {
    for room in [130.0, 200.0, 333.0, 500.0] {
        let greedy = laid(TEXT, &boxed(room));
        let balanced = laid(TEXT, &boxed(room).wrap(Wrap::Balanced));
        assert_eq!(balanced.lines().len(), greedy.lines().len());
        let spread = |layout: &TextLayout| {
            let widths = layout.lines().iter().map(|line| line.width);
            widths.clone().fold(0.0, f32::max) - widths.fold(f32::MAX, f32::min)
        };
        assert!(spread(&balanced) <= spread(&greedy));
        let optimal = laid(TEXT, &boxed(room).wrap(Wrap::Optimal));
        let cost = |layout: &TextLayout| {
            let but_last = &layout.lines()[..layout.lines().len() - 1];
            but_last
                .iter()
                .map(|line| (room - line.width).powi(2))
                .sum::<f32>()
        };
        assert!(cost(&optimal) <= cost(&greedy) + 0.1, "at {room}");
    }
}

#[test]
fn justified_lines_reach_both_sides_but_the_last() {
    let options = boxed(200.0).align(TextAlign::Justify);
    let layout = laid(TEXT, &options);
    let count = layout.lines().len();
    for (index, line) in layout.lines().iter().enumerate() {
        let solid = layout.clusters()[line.clusters.clone()].iter().rev();
        let mut solid = solid.filter(|c| &layout.text()[c.start as usize..c.end as usize] != " ");
        let last = solid.next().expect("a letter");
        let is_full = (last.x + last.advance - 200.0).abs() < 0.05;
        assert_eq!(is_full, index + 1 < count, "line {index}");
    }
}

#[test]
fn what_does_not_fit_ends_in_an_ellipsis() {
    let whole = width(TEXT);
    let dots = lato().glyph('…').expect("an ellipsis");
    for (overflow, is_at_end) in [
        (Overflow::Ellipsis, true),
        (Overflow::EllipsisAtStart, false),
        (Overflow::EllipsisInMiddle, false),
    ] {
        let options = boxed(150.0).overflow(overflow).wrap(Wrap::None);
        let layout = laid(TEXT, &options);
        let line = &layout.lines()[0];
        assert!(line.width <= 150.0 && line.width > 130.0, "{}", line.width);
        let shown = layout.glyphs();
        assert_eq!(shown.iter().filter(|glyph| glyph.glyph == dots).count(), 1);
        assert_eq!(
            shown.last().map(|glyph| glyph.glyph) == Some(dots),
            is_at_end
        );
        assert!(layout.truncated_at().is_some_and(|byte| byte < TEXT.len()));
        // With room enough nothing is left out.
        let roomy = laid(TEXT, &options.width(whole + 1.0));
        assert!(roomy.truncated_at().is_none() && roomy.fits());
    }
    // Two lines, though the text takes more; and as many as fit the height.
    let two = boxed(150.0).overflow(Overflow::Ellipsis).max_lines(2);
    let layout = laid(TEXT, &two);
    assert_eq!(layout.lines().len(), 2);
    assert_eq!(layout.glyphs().last().map(|glyph| glyph.glyph), Some(dots));
    let high = two.max_lines(None).height(layout.size().height * 1.7);
    assert_eq!(laid(TEXT, &high).lines().len(), 3);
}

#[test]
fn text_shrinks_until_it_fits() {
    let options = boxed(200.0).shrink_to(0.25).height(40.0);
    let layout = laid(TEXT, &options);
    let size = layout.style(0).size;
    assert!(layout.fits() && size < 16.0 && size > 4.0, "{size}");
    // A little larger it would not.
    let style = Style::new(&lato(), size * 1.02);
    let larger = options.shrink_to(None);
    let larger = TextLayout::with_options(&[Span::new(TEXT, &style)], &larger).expect("a layout");
    assert!(!larger.fits());
}

#[test]
fn soft_hyphens_show_where_a_line_ends_with_them() {
    let text = "light\u{ad}er";
    let whole = laid(text, &boxed(200.0));
    assert_eq!(whole.glyphs().len(), 7);
    assert!((whole.lines()[0].width - width("lighter")).abs() < 0.5);
    let broken = laid(text, &boxed(width("light-") + 1.0));
    assert_eq!(broken.lines().len(), 2);
    assert_eq!(broken.glyphs().len(), 8);
    let hyphen = lato().glyph('\u{2010}').or(lato().glyph('-'));
    assert_eq!(Some(broken.glyphs()[5].glyph), hyphen);
}

#[test]
fn spaces_tabs_indents_and_paragraphs_are_as_asked_for() {
    let layout = laid("a\tb\n\tc", &LayoutOptions::default());
    let stop = 8.0 * width(" ");
    let b = layout.clusters()[2].x;
    let c = layout.clusters()[5].x;
    assert!(
        (b - stop).abs() < 0.01 && (c - stop).abs() < 0.01,
        "{b} {c} {stop}"
    );
    // A stop nearer than half of a zero is passed over (CSS Text, `tab-size`).
    let (pen, half) = (width("Fog bank"), width("0") / 2.0);
    let left = stop - pen % stop;
    assert!(left < half, "the words end just before a stop");
    let after = laid("Fog bank\tahead", &LayoutOptions::default()).clusters()[9].x;
    assert!((after - (pen + left + stop)).abs() < 0.01, "{after}");
    let collapsed = LayoutOptions::default().white_space(WhiteSpace::Collapse);
    let layout = laid("  a \n\t b  ", &collapsed);
    assert_eq!((layout.lines().len(), layout.clusters().len()), (1, 3));
    let options = boxed(150.0).indent(20.0).paragraph_spacing(7.0);
    let layout = laid("The lamp is low tonight, very low\nsecond", &options);
    let starts: Vec<f32> = layout.lines().iter().map(|line| line.x).collect();
    assert_eq!(starts, [20.0, 0.0, 20.0]);
    let (first, second) = (&layout.lines()[1], &layout.lines()[2]);
    assert!((second.top - first.top - first.height - 7.0).abs() < 0.01);
}

#[test]
fn a_block_is_filled_from_where_it_is_said() {
    let own = laid("7", &LayoutOptions::default());
    for (vertical_align, share) in [
        (VerticalAlign::Top, 0.0),
        (VerticalAlign::Middle, 0.5),
        (VerticalAlign::Bottom, 1.0),
    ] {
        let options = LayoutOptions::default()
            .height(60.0)
            .vertical_align(vertical_align);
        let layout = laid("7", &options);
        let top = (60.0 - own.size().height) * share;
        assert!((layout.lines()[0].top - top).abs() < 0.01);
        assert_eq!(layout.size(), Size::new(own.size().width, 60.0));
    }
    let options = LayoutOptions::default()
        .height(60.0)
        .vertical_align(VerticalAlign::MiddleOfInk);
    let ink = laid("7", &options).ink();
    assert!((ink.y + ink.height * 0.5 - 30.0).abs() < 0.01);
}

/// Latin, Hebrew and digits, each glyph half an em wide.
fn two_ways() -> Style {
    let glyphs = vec![polygon(&[(0, 0), (400, 0), (0, 700)]); 130];
    let widths: Vec<i32> = (0..130).flat_map(|_| [500, 0]).collect();
    let face = FontBuilder::new(&glyphs)
        .table(b"hmtx", words(&widths))
        .table(b"cmap", cmap12(&[[0x20, 0x7e, 1], [0x5d0, 0x5ea, 100]]))
        .face();
    Style::new(&face, 20.0)
}

#[test]
fn directions_are_ordered_by_the_standard() {
    let style = two_ways();
    let order = |text: &str, direction: Direction| {
        let options = LayoutOptions::default().direction(direction);
        let layout = TextLayout::with_options(&[Span::new(text, &style)], &options);
        let layout = layout.expect("a layout");
        let mut clusters: Vec<_> = layout.clusters().to_vec();
        clusters.sort_by(|a, b| a.x.total_cmp(&b.x));
        let text = |c: &Cluster| layout.text()[c.start as usize..c.end as usize].to_owned();
        clusters.iter().map(text).collect::<String>()
    };
    // UAX #9, “Reordering Resolved Levels”, its examples with letters of Hebrew.
    assert_eq!(order("car means אבג.", Direction::Auto), "car means גבא.");
    assert_eq!(
        order("car means אבג.", Direction::RightToLeft),
        ".גבא car means"
    );
    assert_eq!(order("אבג 123 דה", Direction::Auto), "הד 123 גבא");
    // A tab runs as the paragraph does, and parts what stands around it (L1).
    assert_eq!(order("אב\tגד", Direction::LeftToRight), "בא\tדג");
    // Brackets change places; their glyphs are mirrored.
    assert_eq!(order("אבג (ab) דה", Direction::Auto), "הד )ab( גבא");
    // Lines break in reading order, then each is ordered.
    let layout = TextLayout::with_options(
        &[Span::new("אב גד", &style)],
        &LayoutOptions::default().width(25.0),
    );
    let layout = layout.expect("a layout");
    assert_eq!(layout.lines().len(), 2);
    let x: Vec<f32> = layout.clusters().iter().map(|cluster| cluster.x).collect();
    // To the right side, the space hanging out on the left.
    assert_eq!(x, [15.0, 5.0, -5.0, 15.0, 5.0]);
    // The caret before the first letter stands at the right.
    assert_eq!(layout.caret(0).x, 25.0);
    assert_eq!(layout.hit(Point::new(24.0, 1.0)), 0);
}

#[test]
fn digits_that_are_asked_to_do_not_dance() {
    // A face without such digits: that of 9 is the widest, 500 + 10 · 10 units.
    let glyphs = vec![polygon(&[(0, 0), (400, 0), (0, 700)]); 12];
    let plain = FontBuilder::new(&glyphs)
        .table(b"cmap", cmap12(&[[0x30, 0x39, 1]]))
        .face();
    for face in [plain, lato()] {
        let style = Style::new(&face, 1000.0).tabular(true);
        let of = |text: &str| TextLayout::new(text, &style).expect("a layout");
        let (ones, nines) = (of("1171"), of("9999"));
        assert_eq!(ones.size(), nines.size());
        for (one, nine) in ones.clusters().iter().zip(nines.clusters()) {
            assert_eq!((one.x, one.advance), (nine.x, nine.advance));
        }
    }
    let style = two_ways().tabular(true);
    assert_eq!(
        TextLayout::new("11", &style)
            .expect("a layout")
            .size()
            .width,
        20.0
    );
}

#[test]
fn what_was_shrunk_grows_again_in_a_larger_box() {
    let options = |width: f32| boxed(width).shrink_to(0.25).wrap(Wrap::None);
    let mut layout = laid(TEXT, &options(300.0));
    assert!(layout.style(0).size < 8.0);
    for width in [600.0, 2000.0, 300.0] {
        layout.relayout(&options(width)).expect("a layout");
        let fresh = laid(TEXT, &options(width));
        assert_eq!(layout.glyphs(), fresh.glyphs(), "at {width}");
    }
    // Without shrinking it has the size that was asked for.
    layout.relayout(&boxed(300.0)).expect("a layout");
    assert_eq!(layout.style(0).size, 16.0);
    // A refused change leaves it as it was.
    let before = layout.glyphs().to_vec();
    assert!(layout.relayout(&boxed(f32::NAN)).is_err());
    assert_eq!(layout.glyphs(), before);
}

#[test]
fn what_is_left_out_has_its_caret_where_it_would_begin() {
    let options = boxed(150.0).overflow(Overflow::Ellipsis).max_lines(2);
    let mut layout = laid(TEXT, &options);
    for _ in 0..2 {
        let cut = layout.truncated_at().expect("a cut");
        let dots = layout.glyphs().last().expect("dots");
        let caret = layout.caret(cut);
        assert_eq!((caret.line, caret.x), (1, dots.x));
        let last = layout.caret(TEXT.len() - 2);
        assert!(last.line == 1 && last.x <= 150.0, "{last:?}");
        // Nothing of an earlier arrangement stays.
        layout.relayout(&options).expect("a layout");
    }
    let start = options
        .overflow(Overflow::EllipsisAtStart)
        .max_lines(None)
        .wrap(Wrap::None);
    let layout = laid(TEXT, &start);
    assert_eq!((layout.truncated_at(), layout.caret(3).x), (Some(0), 0.0));
}

#[test]
fn clipped_text_is_drawn_inside_its_block_only() {
    let mut atlas = Atlas::default();
    for (overflow, is_inside) in [(Overflow::Clip, true), (Overflow::Visible, false)] {
        let options = boxed(101.0)
            .overflow(overflow)
            .wrap(Wrap::None)
            .height(12.0);
        let layout = laid(TEXT, &options);
        let mut builder = FrameBuilder::new();
        let mut frame = builder.begin(&mut atlas, Mapping::uniform(2.0));
        let at = Point::new(10.0, 10.0);
        frame
            .text(&layout, DrawText::at(at, Anchor::TOP_LEFT))
            .expect("room");
        let inside = |[x, y]: [f32; 2]| (20.0..=222.0).contains(&x) && (20.0..=44.0).contains(&y);
        let frame = builder.finish();
        let mut corners = frame.vertices.iter().map(|vertex| vertex.position);
        assert!(frame.vertices.len() > 40);
        assert_eq!(corners.all(inside), is_inside);
    }
}

#[test]
fn words_break_as_their_script_and_the_rules_say() {
    let glyphs = vec![polygon(&[(0, 0), (400, 0), (0, 700)]); 440];
    let widths: Vec<i32> = (0..440).flat_map(|_| [500, 0]).collect();
    let groups = [
        [0x20, 0x7e, 1],
        [0xe00, 0xe7f, 100],
        [0x3002, 0x3002, 399],
        [0x3041, 0x30ff, 200],
        [0x4e00, 0x4e20, 400],
    ];
    let face = FontBuilder::new(&glyphs)
        .table(b"hmtx", words(&widths))
        .table(b"cmap", cmap12(&groups))
        .face();
    let style = Style::new(&face, 20.0);
    let broken = |text: &str, width: f32, options: LayoutOptions| -> Vec<String> {
        let options = options.width(width);
        let layout = TextLayout::with_options(&[Span::new(text, &style)], &options);
        let layout = layout.expect("a layout");
        lines(&layout).into_iter().map(str::to_owned).collect()
    };
    let usual = LayoutOptions::default();
    // Thai has no spaces between words; these are “language” and “Thai”.
    assert_eq!(broken("ภาษาไทย", 55.0, usual), ["ภาษา", "ไทย"]);
    // Each of Han may end a line, but none begins with a full stop (UAX #14).
    assert_eq!(broken("一一一。一", 35.0, usual), ["一一", "一。一"]);
    let whole = usual
        .word_break(WordBreak::KeepAll)
        .overflow_wrap(OverflowWrap::Normal);
    assert_eq!(broken("一一一一 一", 35.0, whole), ["一一一一 ", "一"]);
    let anywhere = usual
        .word_break(WordBreak::BreakAll)
        .overflow_wrap(OverflowWrap::Normal);
    assert_eq!(broken("lamp", 25.0, anywhere), ["la", "mp"]);
    // A small kana begins no line where the rules are strict (CSS Text, `line-break`).
    let strict = usual.line_break(LineBreak::Strict);
    assert_eq!(broken("カカカッカ", 35.0, usual), ["カカカ", "ッカ"]);
    assert_eq!(broken("カカカッカ", 35.0, strict), ["カカ", "カッカ"]);
}

#[test]
fn a_block_without_ink_is_centred_by_its_lines() {
    let options = |vertical_align| {
        LayoutOptions::default()
            .height(80.0)
            .vertical_align(vertical_align)
    };
    let by_ink = laid("  ", &options(VerticalAlign::MiddleOfInk));
    let by_lines = laid("  ", &options(VerticalAlign::Middle));
    assert_eq!(by_ink.caret(0), by_lines.caret(0));
}

#[test]
fn nothing_is_kerned_across_what_ends_a_line_or_a_column() {
    let alone = laid("A", &LayoutOptions::default()).size().width;
    assert!(width("AV") < 2.0 * alone - 0.5, "the pair is kerned");
    let layout = laid("A\tV\nA\nV", &LayoutOptions::default());
    let firsts = layout.clusters().iter().zip(layout.text().chars());
    for (cluster, _) in firsts.filter(|(_, character)| *character == 'A') {
        assert!((cluster.advance - alone).abs() < 1e-4, "{cluster:?}");
    }
    assert!(layout.glyphs().iter().all(|glyph| glyph.kerning == 0.0));
}

#[test]
fn a_space_hangs_behind_a_letter_that_is_too_wide() {
    let layout = laid("W  i", &boxed(1.0));
    assert_eq!(lines(&layout), ["W  ", "i"]);
}

#[test]
fn a_long_row_of_breaks_or_tabs_is_laid_out() {
    // Each would take minutes if what stands before a place were walked through for it.
    let layout = laid(&"\n".repeat(200_000), &boxed(400.0));
    assert_eq!(layout.lines().len(), 200_001);
    let tabs = "\t".repeat(200_000);
    // Nothing breaks before a tab (UAX #14, LB21), and all hang.
    assert_eq!(laid(&tabs, &boxed(400.0)).lines().len(), 1);
    let layout = laid(&"i\t".repeat(100_000), &boxed(400.0));
    let fitting = ((400.0 - width("i")) / width("        ")) as usize + 1;
    assert_eq!(layout.lines().len(), 100_000_usize.div_ceil(fitting));
    // Nor does what is not seen: soft hyphens, and spaces between which lines may end.
    for unseen in ["\u{ad}", "\u{3000}"] {
        for wrap in [Wrap::Greedy, Wrap::Balanced, Wrap::Optimal] {
            let text = unseen.repeat(100_000);
            assert_eq!(laid(&text, &boxed(400.0).wrap(wrap)).lines().len(), 1);
        }
    }
}

fn any_box() -> impl Strategy<Value = LayoutOptions> {
    let wraps = prop_oneof![
        Just(Wrap::Greedy),
        Just(Wrap::Balanced),
        Just(Wrap::Optimal)
    ];
    let aligns = prop_oneof![
        Just(TextAlign::Start),
        Just(TextAlign::Center),
        Just(TextAlign::Justify)
    ];
    let overflows = prop_oneof![
        Just(Overflow::Visible),
        Just(Overflow::Ellipsis),
        Just(Overflow::EllipsisInMiddle)
    ];
    (20.0_f32..300.0, 0.0_f32..20.0, wraps, aligns, overflows).prop_map(
        |(width, indent, wrap, align, overflow)| {
            boxed(width)
                .indent(indent)
                .wrap(wrap)
                .align(align)
                .overflow(overflow)
        },
    )
}

proptest! {
    #[test]
    fn another_box_is_as_if_it_had_been_there_from_the_start(
        text in "([A-Za-z]{1,6}|fi|AV|e\u{301}|[ ,.]| |\t|\n|\u{ad}|\u{a0}|\u{5d0}\u{5d1}|\u{5d2} ){0,40}",
        spacing in prop_oneof![Just(0.0_f32), Just(1.5), Just(-0.75)],
        first in any_box(),
        second in any_box(),
    ) {
        let style = two_ways().letter_spacing(spacing);
        let laid = |options: &LayoutOptions| {
            TextLayout::with_options(&[Span::new(&text, &style)], options).expect("a layout")
        };
        let mut again = laid(&first);
        again.relayout(&second).expect("a layout");
        let new = laid(&second);
        prop_assert_eq!(again.glyphs(), new.glyphs());
        prop_assert_eq!(again.clusters(), new.clusters());
        prop_assert_eq!(again.lines(), new.lines());
        prop_assert_eq!((again.ink(), again.truncated_at()), (new.ink(), new.truncated_at()));
        // A line is as wide as its clusters are, but for what hangs at its end; what an
        // ellipsis stands in for takes its room.
        if new.truncated_at().is_none() {
            for line in new.lines() {
                let clusters = &new.clusters()[line.clusters.clone()];
                let is_seen = |cluster: &&Cluster| {
                    cluster.x >= line.x - 0.01
                        && cluster.x + cluster.advance <= line.x + line.width + 0.01
                };
                let hyphen = if text[..clusters.last().map_or(0, |c| c.end as usize)]
                    .ends_with('\u{ad}') { 20.0 } else { 0.0 };
                let sum: f32 = clusters.iter().filter(is_seen).map(|c| c.advance).sum();
                prop_assert!((line.width - sum).abs() <= 0.02 + hyphen, "{line:?} {sum}");
            }
        }
    }

    #[test]
    fn every_two_neighbours_are_kerned_as_the_face_says(text in "[ -~]{1,40}") {
        // A face with the table `kern` and without lookups.
        let face = averia();
        let layout = TextLayout::new(&text, &Style::new(&face, f32::from(face.metrics().units_per_em)))
            .expect("a layout");
        let glyphs: Vec<_> = text.chars().map(|c| face.glyph(c).expect("ASCII")).collect();
        let found: Vec<_> = layout.glyphs().iter().map(|glyph| glyph.glyph).collect();
        prop_assert_eq!(&found, &glyphs);
        let mut pen = 0.0;
        for (at, glyph) in layout.glyphs().iter().enumerate() {
            let next = glyphs.get(at + 1);
            let units = next.map_or(0, |next| face.kerning(glyphs[at], *next));
            prop_assert!((glyph.kerning - units as f32).abs() < 0.01, "{:?} at {}", text, at);
            prop_assert!((glyph.x - pen).abs() < 0.1, "{:?} at {}: {} {}", text, at, glyph.x, pen);
            pen += f32::from(face.advance(glyphs[at])) + units as f32;
        }
    }
}

#[test]
fn an_ellipsis_at_the_start_keeps_the_end_of_the_whole_text() {
    let options = boxed(150.0)
        .overflow(Overflow::EllipsisAtStart)
        .max_lines(2);
    let layout = laid(TEXT, &options);
    let whole = laid(TEXT, &boxed(150.0));
    let (shown, all) = (lines(&layout), lines(&whole));
    assert_eq!(shown, all[all.len() - 2..]);
    assert!(layout.text().ends_with(shown[1]) && layout.truncated_at() == Some(0));
    assert!(layout.lines().iter().all(|line| line.width <= 150.0));
    let dots = lato().glyph('…').expect("an ellipsis");
    assert_eq!(layout.glyphs()[0].glyph, dots);
    // As many lines as there is room for say the same.
    let high = options.max_lines(None).height(layout.size().height * 1.2);
    assert_eq!(lines(&laid(TEXT, &high)), shown);
    // Spaces at the end take no room from what is kept.
    let one = options.wrap(Wrap::None).max_lines(None);
    let (plain, spaced) = (laid(TEXT, &one), laid(&format!("{TEXT}    "), &one));
    assert_eq!(plain.glyphs().len() + 4, spaced.glyphs().len());
    assert_eq!(plain.lines()[0].width, spaced.lines()[0].width);
}

#[test]
fn text_that_is_too_long_at_its_least_size_is_broken_and_ends_as_asked() {
    let long = "Lanternkeepersassociation of the Foggy Lakes";
    let shrinking = |overflow| boxed(70.0).shrink_to(0.5).height(24.0).overflow(overflow);
    let plain = TextLayout::with_options(
        &[Span::new(long, &Style::new(&lato(), 8.0))],
        &shrinking(Overflow::Ellipsis).shrink_to(None),
    );
    let layout = laid(long, &shrinking(Overflow::Ellipsis));
    assert_eq!(layout.style(0).size, 8.0);
    assert_eq!(layout.glyphs(), plain.expect("a layout").glyphs());
    assert!(layout.truncated_at().is_some());
    assert!(layout.lines().iter().all(|line| line.width <= 70.0));
    let clipped = laid(long, &shrinking(Overflow::Clip));
    assert!(clipped.is_clipped() && clipped.truncated_at().is_none());
}

#[test]
fn widths_count_what_a_break_adds_and_takes() {
    let narrow = |text: &str| laid(text, &boxed(1000.0)).min_content_width();
    // A hyphen that is seen, and kerning that is not.
    assert!((narrow("Lan\u{ad}terns") - width("terns").max(width("Lan-"))).abs() < 0.5);
    assert!(narrow("Lan\u{ad}t") >= width("Lan-") - 0.01);
    assert_eq!(narrow("To To"), width("To"));
    // Tabs and indents are part of the width at which nothing wraps.
    let options = LayoutOptions::default().indent(12.0);
    for text in ["a\tb", "Fog bank\tahead", "soft\u{ad}hyphen"] {
        let wide = laid(text, &options).max_content_width();
        let fitting = options.width(wide);
        let layout = laid(text, &fitting);
        assert_eq!((layout.lines().len(), layout.fits()), (1, true), "{text:?}");
        let tight = options.width(wide - 0.1);
        assert!(!laid(text, &tight).fits() || laid(text, &tight).lines().len() > 1);
    }
}

#[test]
fn a_word_that_is_broken_before_its_hyphen_fits() {
    // The hyphen has no room, and neither has the last letter before it.
    let room = 35.668_343;
    for line in laid("سiاfAAAAاOJtOK\u{ad}ي", &boxed(room)).lines() {
        assert!(line.width <= room + 0.01, "{line:?}");
    }
}

proptest! {
    #[test]
    fn no_line_is_wider_than_its_box_where_words_may_be_broken(
        text in "[A-ZTVfit\u{ad}ابيسش ]{1,30}",
        room in 30.0_f32..90.0,
        wrap in 0..3,
    ) {
        let wrap = [Wrap::Greedy, Wrap::Balanced, Wrap::Optimal][wrap as usize];
        let options = boxed(room).wrap(wrap);
        let layout = laid(&text, &options);
        for line in layout.lines() {
            let own = &layout.clusters()[line.clusters.clone()];
            let seen = own.iter().filter(|cluster| cluster.advance > 0.0).count();
            prop_assert!(line.width <= room + 0.01 || seen <= 2, "{text:?}: {line:?} in {room}");
        }
    }
}

#[test]
fn text_is_centred_by_its_capitals() {
    let face = lato();
    let cap = face.metrics().cap_height.expect("a height");
    let cap = f32::from(cap) / f32::from(face.metrics().units_per_em) * 16.0;
    let options = LayoutOptions::default()
        .height(60.0)
        .vertical_align(VerticalAlign::MiddleOfCapitals);
    for text in ["Play", "PLAY", "gyp"] {
        let layout = laid(text, &options);
        assert!(
            (layout.first_baseline() - cap * 0.5 - 30.0).abs() < 1e-3,
            "{text}"
        );
        // Held by them at 30 it stands there as well.
        let free = laid(text, &LayoutOptions::default());
        let top = 30.0 - free.capitals_anchor(0.5).y * free.size().height;
        assert!(
            (top + free.first_baseline() - layout.first_baseline()).abs() < 1e-3,
            "{text}"
        );
    }
    let two = laid("A\nB", &options);
    let middle = (two.lines()[0].baseline - cap + two.lines()[1].baseline) * 0.5;
    assert!((middle - 30.0).abs() < 1e-3);
}
