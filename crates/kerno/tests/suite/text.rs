//! Layout: every place follows by hand from the face's own numbers, which the
//! tests of `font` hold to the tables.

use kerno::font::FontError;
use kerno::text::{DecorationLine, LayoutOptions, LineHeight, Span, TextAlign, TextError};
use kerno::{Anchor, Color, Face, Point, Rect, Style, TextLayout};
use proptest::prelude::*;

use crate::support::{FontBuilder, averia, cmap12, glyph, lato, polygon};

fn close(a: f32, b: f32) -> bool {
    (a - b).abs() < 1e-3
}

/// Advance and kerning in design pixels.
fn advance(face: &Face, character: char, size: f32) -> f32 {
    f32::from(face.advance(glyph(face, character))) * size / 2000.0
}

fn kerning(face: &Face, left: char, right: char, size: f32) -> f32 {
    face.kerning(glyph(face, left), glyph(face, right)) as f32 * size / 2000.0
}

#[test]
fn glyphs_stand_at_the_sum_of_advances_and_kerning() {
    let face = lato();
    let layout = TextLayout::new("AVA", &Style::new(&face, 40.0)).expect("a layout");
    let (a, v) = (advance(&face, 'A', 40.0), advance(&face, 'V', 40.0));
    let (av, va) = (
        kerning(&face, 'A', 'V', 40.0),
        kerning(&face, 'V', 'A', 40.0),
    );
    assert!(av < -1.0 && va < -1.0, "Lato kerns these");
    let [first, second, third] = layout.glyphs() else {
        panic!("three glyphs")
    };
    assert!(close(first.x, 0.0) && close(first.kerning, av) && close(first.advance, a));
    assert!(close(second.x, a + av) && close(second.kerning, va));
    assert!(close(third.x, a + av + v + va) && third.kerning == 0.0);
    assert!(close(layout.size().width, a + av + v + va + a));
    // The clusters tile the line.
    let clusters = layout.clusters();
    assert!(close(clusters[0].advance, a + av) && close(clusters[1].x, second.x));
}

#[test]
fn lines_stand_a_line_height_apart() {
    let face = lato();
    let metrics = face.metrics();
    let unit = 20.0 / f32::from(metrics.units_per_em);
    let [ascender, descender, gap] =
        [metrics.ascender, metrics.descender, metrics.line_gap].map(|m| f32::from(m) * unit);
    let style = Style::new(&face, 20.0);
    let layout = TextLayout::new("one\r\ntwo\n\nfour", &style).expect("a layout");
    let normal = ascender - descender + gap;
    assert_eq!(layout.lines().len(), 4);
    assert!(close(layout.size().height, 4.0 * normal));
    assert!(close(layout.first_baseline(), gap / 2.0 + ascender));
    for (index, line) in layout.lines().iter().enumerate() {
        assert!(close(line.top, index as f32 * normal));
        assert!(close(line.baseline, line.top + gap / 2.0 + ascender));
    }
    // Half of the leading goes above, also where it is negative.
    let tight = style.clone().line_height(LineHeight::Length(10.0));
    let layout = TextLayout::new("one\ntwo", &tight).expect("a layout");
    assert!(close(layout.size().height, 20.0));
    let half = (10.0 - (ascender - descender)) / 2.0;
    assert!(close(layout.first_baseline(), ascender + half));
    let double = style.line_height(LineHeight::Multiple(2.0));
    let layout = TextLayout::new("", &double).expect("a layout");
    assert_eq!((layout.lines().len(), layout.size().width), (1, 0.0));
    assert!(close(layout.size().height, 40.0));
}

#[test]
fn spacing_stands_between_clusters_only() {
    let face = lato();
    let style = Style::new(&face, 20.0).letter_spacing(3.0);
    // Two clusters, the second of a letter and a combining accent: the face has both
    // as one glyph.
    let layout = TextLayout::new("ne\u{301}\nx", &style).expect("a layout");
    let kerned = kerning(&face, 'n', 'é', 20.0);
    let letters = advance(&face, 'n', 20.0) + advance(&face, 'é', 20.0) + kerned;
    assert!(close(layout.lines()[0].width, letters + 3.0));
    assert!(close(layout.lines()[1].width, advance(&face, 'x', 20.0)));
    let lengths: Vec<u32> = layout.clusters().iter().map(|c| c.end - c.start).collect();
    assert_eq!(lengths, [1, 3, 1, 1]);
}

#[test]
fn shorter_lines_go_where_they_are_told() {
    let face = lato();
    let style = Style::new(&face, 20.0);
    let spans = [Span::new("wide line\ni", &style)];
    let x_of = |align, width| {
        let layout =
            TextLayout::with_options(&spans, &LayoutOptions::default().align(align).width(width))
                .expect("a layout");
        let (wide, narrow) = (layout.lines()[0].width, layout.lines()[1].width);
        let last = layout.glyphs().last().expect("a glyph").x;
        assert_eq!(last, layout.lines()[1].x);
        (last, wide - narrow, narrow, layout.size().width)
    };
    let (x, room, _, _) = x_of(TextAlign::Start, None);
    assert!(close(x, 0.0) && room > 50.0);
    let (x, room, _, _) = x_of(TextAlign::Center, None);
    assert!(close(x, room / 2.0));
    let (x, room, _, _) = x_of(TextAlign::End, None);
    assert!(close(x, room));
    let (x, _, narrow, width) = x_of(TextAlign::End, Some(200.0));
    assert!(close(x, 200.0 - narrow) && width == 200.0);
}

#[test]
fn the_ink_is_the_union_of_glyph_boxes() {
    // Units of 1000 to the em at 100 px: 0.1 px a unit. Glyph 1 (A): 510 wide,
    // ink 1..301 by 0..700; glyph 2 (B): 520 wide, ink 2..402 by -200..100.
    let face = FontBuilder::new(&[
        vec![],
        polygon(&[(0, 0), (300, 0), (0, 700)]),
        polygon(&[(0, -200), (400, 0), (0, 100)]),
    ])
    .table(b"cmap", cmap12(&[[0x41, 0x42, 1]]))
    .face();
    let layout = TextLayout::new("AB", &Style::new(&face, 100.0)).expect("a layout");
    // Baseline at (800 + 100 / 2) / 10 = 85; ink from x 0.1 to 51 + 40.2, from
    // 70 above to 20 below.
    let ink = layout.ink();
    assert!(close(layout.first_baseline(), 85.0));
    assert!(close(ink.x, 0.1) && close(ink.right(), 91.2), "{ink:?}");
    assert!(close(ink.y, 15.0) && close(ink.bottom(), 105.0), "{ink:?}");
    // Held by the middle of its ink, that middle is where it is told to be.
    let block = Rect::anchored(
        Point::ORIGIN,
        layout.ink_anchor(Anchor::CENTER),
        layout.size(),
    );
    assert!(close(block.x + (0.1 + 91.2) / 2.0, 0.0) && close(block.y + 60.0, 0.0));
    // Held by its baseline likewise.
    let block = Rect::anchored(Point::ORIGIN, layout.baseline_anchor(0.0), layout.size());
    assert!(close(block.y, -85.0));
    // An outline reaches out on all sides, and so does a line beneath the letters.
    let style = Style::new(&face, 100.0)
        .outline(3.0, Color::BLACK)
        .underline(true);
    let layout = TextLayout::new("A", &style).expect("a layout");
    let rule = layout.decorations(DecorationLine::Underline, 0..1).next();
    let (rule, _) = rule.expect("a line");
    assert!(rule.y > 85.0 && close(rule.right(), 51.0), "{rule:?}");
    let ink = layout.ink();
    assert!(close(ink.x, -3.0) && close(ink.y, 12.0), "{ink:?}");
    assert!(close(ink.right(), 54.0) && close(ink.bottom(), rule.bottom() + 3.0));
    let empty = TextLayout::new(" ", &Style::new(&lato(), 10.0)).expect("a layout");
    assert!(empty.ink().is_empty());
    assert_eq!(empty.ink_anchor(Anchor::TOP), Anchor::TOP);
}

#[test]
fn spans_keep_their_styles_to_themselves() {
    let (sans, serif) = (lato(), averia());
    let small = Style::new(&sans, 10.0);
    let large = Style::new(&serif, 30.0).color(Color::BLACK);
    let spans = [
        Span::new("oil ", &small),
        Span::new("LOW", &large),
        Span::new(" now", &small),
    ];
    let layout = TextLayout::with_options(&spans, &LayoutOptions::default()).expect("a layout");
    assert_eq!(layout.text(), "oil LOW now");
    let of_span = |span| {
        layout
            .glyphs()
            .iter()
            .filter(move |glyph| glyph.span == span)
    };
    assert_eq!(
        (of_span(0).count(), of_span(1).count(), of_span(2).count()),
        (4, 3, 4)
    );
    assert_eq!(layout.style(2), &small);
    // One baseline, below the taller span's ascender.
    let alone = TextLayout::new("LOW", &large).expect("a layout");
    assert!(
        layout
            .glyphs()
            .iter()
            .all(|glyph| close(glyph.y, alone.first_baseline()))
    );
    // No kerning between faces, though “ L” may be kerned in either.
    assert_eq!(layout.glyphs()[3].kerning, 0.0);
}

#[test]
fn missing_characters_show_notdef_and_are_told() {
    let layout = TextLayout::new("a\u{13000}b", &Style::new(&lato(), 10.0)).expect("a layout");
    assert_eq!(layout.missing(), [1]);
    assert_eq!(layout.glyphs()[1].glyph, kerno::font::GlyphId::NOTDEF);
}

#[test]
fn numbers_out_of_range_are_refused() {
    let face = lato();
    let good = Style::new(&face, 10.0);
    let error = |style: Style, width| {
        let options = LayoutOptions::default().width(width);
        TextLayout::with_options(&[Span::new("a", &style)], &options).expect_err("out of range")
    };
    for size in [0.0, -4.0, f32::NAN, f32::INFINITY, 1e9] {
        let error = error(good.clone().size(size), None);
        assert!(
            matches!(
                error,
                TextError::OutOfRange {
                    what: "the text size",
                    ..
                }
            ),
            "{error}"
        );
    }
    let spacing = good.clone().letter_spacing(f32::NAN);
    assert!(matches!(error(spacing, None), TextError::OutOfRange { .. }));
    let height = good.clone().line_height(LineHeight::Multiple(-1.0));
    assert!(matches!(error(height, None), TextError::OutOfRange { .. }));
    assert_eq!(
        error(good, Some(-1.0)).to_string(),
        "the width is -1, it must be 0 to 1000000000"
    );
    // A damaged glyph: 'loca' says that it starts behind its end.
    let font = FontBuilder::new(&[polygon(&[(0, 0), (9, 0), (0, 9)])])
        .patch(b"loca", 0, &[0, 0, 1, 0])
        .face();
    let error = TextLayout::new("a", &Style::new(&font, 10.0)).expect_err("damaged");
    assert!(
        matches!(error, TextError::Font(FontError::Table { .. })),
        "{error}"
    );
}

proptest! {
    #[test]
    fn clusters_cover_the_text_and_glyphs_keep_to_lines(text in "\\PC{0,40}(\n\\PC{0,20}){0,3}") {
        let layout = TextLayout::new(&text, &Style::new(&lato(), 16.0)).expect("a layout");
        let mut end = 0;
        for cluster in layout.clusters() {
            prop_assert_eq!(cluster.start, end);
            end = cluster.end;
        }
        prop_assert_eq!(end as usize, text.len());
        for line in layout.lines() {
            for glyph in &layout.glyphs()[line.glyphs.clone()] {
                // Only marks may be raised, and they follow their base, which may be in a
                // ligature with the cluster before.
                let first = layout.glyphs().iter().find(|other| other.cluster == glyph.cluster);
                let cluster = layout.clusters()[glyph.cluster as usize];
                let own = &text[cluster.start as usize..cluster.end as usize];
                let has_base = own.chars().count() == 1
                    || line.clusters.start == glyph.cluster as usize;
                let is_first = has_base && first.is_some_and(|first| first == glyph);
                prop_assert!(!is_first || glyph.y == line.baseline);
                prop_assert!(line.clusters.contains(&(glyph.cluster as usize)));
            }
        }
        // Laid out again it is the same: nothing is remembered between texts.
        let again = TextLayout::new(&text, &Style::new(&lato(), 16.0)).expect("a layout");
        prop_assert_eq!(layout.glyphs(), again.glyphs());
    }
}
