//! Layouts after changes that fail, and with boxes that hold nothing.

use kerno::text::{DecorationLine, LayoutOptions, Overflow, Span, TextError, Wrap};
use kerno::{Face, Point, Style, TextLayout};
use proptest::prelude::*;

use crate::support::{FontBuilder, cmap12, lato, polygon};

/// Glyphs for a, b and c; that of b, the last one, ends behind the table (`loca`).
fn damaged() -> Face {
    let glyph = polygon(&[(0, 0), (400, 0), (0, 700)]);
    let groups = [[0x61, 0x61, 1], [0x62, 0x62, 3], [0x63, 0x63, 2]];
    FontBuilder::new(&vec![glyph; 4])
        .table(b"cmap", cmap12(&groups))
        .patch(b"loca", 16, &9999_u32.to_be_bytes())
        .face()
}

/// Asks a layout for all that it can tell, and checks what holds for any.
fn ask_all(layout: &TextLayout) {
    let clusters = layout.clusters().len();
    for glyph in layout.glyphs() {
        assert!((glyph.cluster as usize) < clusters, "a glyph of no cluster");
        let _ = (layout.face_of(glyph), layout.glyph_ink(glyph));
    }
    for cluster in layout.clusters() {
        assert!((cluster.line as usize) < layout.lines().len());
    }
    for byte in 0..=layout.text().len() + 1 {
        let caret = layout.caret(byte);
        assert!(caret.line <= layout.lines().len());
    }
    for y in [-1.0, 5.0, 1e6] {
        let _ = layout.hit(Point::new(3.0, y));
    }
    let _ = layout.selection(0..layout.text().len());
    for kind in [DecorationLine::Underline, DecorationLine::LineThrough] {
        let _ = layout.decorations(kind, 0..usize::MAX).count();
    }
    let _ = (
        layout.fits(),
        layout.truncated_at(),
        layout.size(),
        layout.ink(),
    );
    let _ = (
        layout.max_content_width(),
        layout.min_content_width(),
        layout.first_baseline(),
    );
    let _ = (layout.missing(), layout.resized());
}

#[test]
fn a_text_without_letters_has_no_ellipsis() {
    let style = Style::new(&lato(), 16.0).underline(true).line_through(true);
    for overflow in [
        Overflow::Ellipsis,
        Overflow::EllipsisAtStart,
        Overflow::EllipsisInMiddle,
    ] {
        for text in ["", "\n", "Fog\n", " ", "\n\n"] {
            let options = LayoutOptions::default()
                .width(60.0)
                .indent(70.0)
                .overflow(overflow);
            let layout = TextLayout::with_options(&[Span::new(text, &style)], &options);
            ask_all(&layout.expect("a layout"));
        }
    }
}

#[test]
fn a_layout_that_could_not_change_can_be_asked_and_changed_again() {
    let style = Style::new(&damaged(), 16.0);
    let options = |width: f32| LayoutOptions::default().width(width);
    let fresh = |text: &str, width| {
        TextLayout::with_options(&[Span::new(text, &style)], &options(width)).expect("a layout")
    };
    let mut layout = fresh("ac ca", 20.0);
    let error = layout.set_text(0, "abc").expect_err("a damaged glyph");
    assert!(matches!(error, TextError::Font(_)), "{error}");
    ask_all(&layout);
    assert!(layout.glyphs().is_empty());
    // Another box does not make it whole ...
    assert!(layout.relayout(&options(30.0)).is_err());
    ask_all(&layout);
    // ... another text does.
    layout.set_text(0, "ca").expect("sound glyphs");
    assert_eq!(layout.glyphs(), fresh("ca", 20.0).glyphs());
    layout.edit(1..2, "b").expect_err("a damaged glyph");
    layout.edit(1..2, "cc").expect("sound glyphs");
    assert_eq!(layout.glyphs(), fresh("ccc", 20.0).glyphs());
    // A number that is refused changes nothing.
    assert!(layout.relayout(&options(f32::NAN)).is_err());
    assert_eq!(layout.glyphs(), fresh("ccc", 20.0).glyphs());
}

proptest! {
    #[test]
    fn any_row_of_changes_leaves_a_layout_that_can_be_asked(
        texts in prop::collection::vec("[abc \n\u{ad}]{0,9}", 1..6),
        widths in prop::collection::vec(0.0_f32..60.0, 1..6),
        way in 0_usize..12,
    ) {
        let style = Style::new(&damaged(), 16.0);
        let overflow = [
            Overflow::Visible,
            Overflow::Ellipsis,
            Overflow::EllipsisAtStart,
            Overflow::EllipsisInMiddle,
        ][way % 4];
        let wrap = [Wrap::Greedy, Wrap::Balanced, Wrap::Optimal][way / 4];
        let mut layout = TextLayout::new("ca", &style).expect("a layout");
        for (text, width) in texts.iter().zip(widths.iter().cycle()) {
            let _ = layout.set_text(0, text);
            ask_all(&layout);
            let options = LayoutOptions::default().width(*width).max_lines(2).indent(9.0).overflow(overflow).wrap(wrap);
            let done = layout.relayout(&options);
            ask_all(&layout);
            prop_assert_eq!(done.is_err(), text.contains('b'), "{}", text);
        }
    }
}
