//! Characters that a face lacks, and white space that is shown as something else.

use kerno::text::{LayoutOptions, LineHeight, Overflow, Span, TextAlign, WhiteSpace};
use kerno::{Face, Style, TextLayout};

use crate::support::{FontBuilder, cmap12, glyph, lato, misaki, polygon};

/// A face with glyphs for these characters, in order; glyph n is 500 + 10n units of 1000
/// wide.
fn face_of(characters: &[char]) -> Face {
    let shape = polygon(&[(0, 0), (400, 0), (0, 700)]);
    let mut groups: Vec<[u32; 3]> = (1..)
        .zip(characters)
        .map(|(glyph, c)| [u32::from(*c), u32::from(*c), glyph])
        .collect();
    groups.sort_unstable();
    FontBuilder::new(&vec![shape; characters.len() + 1])
        .table(b"cmap", cmap12(&groups))
        .face()
}

fn laid(face: &Face, text: &str) -> TextLayout {
    TextLayout::new(text, &Style::new(face, 1000.0)).expect("a layout")
}

#[test]
fn spaces_that_a_face_lacks_are_made_from_its_own() {
    // The space is glyph 1, 510 wide; 0 is 520, the full stop 530.
    let face = face_of(&[' ', '0', '.']);
    // Unicode Standard 6.2, table 6-2, of an em of 1000.
    for (space, width) in [
        ('\u{a0}', 510.0),
        ('\u{2000}', 500.0),
        ('\u{2003}', 1000.0),
        ('\u{2004}', 333.0),
        ('\u{2005}', 250.0),
        ('\u{2006}', 166.0),
        ('\u{2007}', 520.0),
        ('\u{2008}', 530.0),
        ('\u{2009}', 200.0),
        ('\u{200a}', 100.0),
        ('\u{202f}', 255.0),
        ('\u{205f}', 222.0),
        ('\u{3000}', 1000.0),
    ] {
        let layout = laid(&face, &format!("0{space}0"));
        assert!(layout.missing().is_empty(), "{space:?}");
        assert_eq!(layout.size().width, 1040.0 + width, "{space:?}");
        assert_eq!(layout.glyphs()[1].glyph, glyph(&face, ' '), "{space:?}");
    }
    // A space that the face has is its own, whatever Unicode says.
    let own = face_of(&[' ', '\u{2003}']);
    assert_eq!(laid(&own, "\u{2003}").size().width, 520.0);
}

#[test]
fn hyphens_and_ellipses_come_from_what_there_is() {
    let hyphen = face_of(&['a', '-']);
    assert_eq!(
        laid(&hyphen, "a\u{2011}a").glyphs()[1].glyph,
        glyph(&hyphen, '-')
    );
    assert!(laid(&hyphen, "a\u{2010}\u{2011}").missing().is_empty());
    let other = face_of(&['a', '\u{2010}', '-']);
    assert_eq!(
        laid(&other, "\u{2011}").glyphs()[0].glyph,
        glyph(&other, '\u{2010}')
    );

    // The ellipsis: of the second face of the stack before three full stops of the first.
    let (stops, dots) = (face_of(&['a', '.']), face_of(&['…']));
    let short = LayoutOptions::default()
        .width(2600.0)
        .overflow(Overflow::Ellipsis)
        .wrap(kerno::text::Wrap::None);
    let ending = |style: &Style| {
        let layout = TextLayout::with_options(&[Span::new("aaaaaaaa", style)], &short);
        let layout = layout.expect("a layout");
        let faces = layout
            .glyphs()
            .iter()
            .map(|glyph| (glyph.face, glyph.glyph.0));
        faces.skip_while(|own| *own == (0, 1)).collect::<Vec<_>>()
    };
    let alone = Style::new(&stops, 1000.0);
    assert_eq!(ending(&alone), [(0, 2); 3]);
    let stack = alone.fallback(vec![dots]);
    assert_eq!(ending(&stack), [(1, 1)]);
    // Without either, nothing is shown that means something else.
    assert_eq!(ending(&Style::new(&face_of(&['a']), 1000.0)), []);
}

#[test]
fn a_mark_without_a_letter_stands_on_a_dotted_circle() {
    let face = face_of(&['a', '\u{301}', '\u{25cc}']);
    let drawn = |text: &str| {
        let layout = laid(&face, text);
        let ids = layout.glyphs().iter().map(|glyph| glyph.glyph.0);
        ids.collect::<Vec<_>>()
    };
    assert_eq!(drawn("\u{301}"), [3, 2]);
    assert_eq!(drawn("a\u{301}"), [1, 2]);
    assert_eq!(drawn("a\n\u{301}"), [1, 3, 2]);
    assert_eq!(laid(&face_of(&['\u{301}']), "\u{301}").glyphs().len(), 1);
}

#[test]
fn white_space_that_collapses_is_a_space() {
    let face = face_of(&['a', 'b', ' ']);
    let style = Style::new(&face, 1000.0);
    let options = LayoutOptions::default()
        .white_space(WhiteSpace::Collapse)
        .indent(100.0)
        .paragraph_spacing(50.0)
        .align(TextAlign::Start);
    let laid = |text: &str, options: &LayoutOptions| {
        TextLayout::with_options(&[Span::new(text, &style)], options).expect("a layout")
    };
    let plain = laid("aa bb", &options);
    for text in ["aa\nbb", "aa\tbb", "aa\r\nbb", "aa \n\t bb", "\n aa\nbb\n"] {
        let layout = laid(text, &options);
        assert_eq!(layout.text(), text);
        assert_eq!(layout.size(), plain.size(), "{text:?}");
        assert_eq!(layout.glyphs().len(), 5, "{text:?}");
    }
    // A line that begins behind a collapsed break is no paragraph.
    let wrapped = options.width(1300.0);
    let (plain, layout) = (laid("aa bb", &wrapped), laid("aa\nbb", &wrapped));
    assert_eq!(layout.lines().len(), 2);
    assert_eq!(layout.lines(), plain.lines());
}

#[test]
fn a_line_is_as_high_as_the_faces_in_it() {
    let (lato, misaki) = (lato(), misaki());
    let style = Style::new(&lato, 20.0).fallback(vec![misaki.clone()]);
    let height = |text: &str, style: &Style| {
        TextLayout::new(text, style)
            .expect("a layout")
            .size()
            .height
    };
    let extent = |face: &Face| {
        let metrics = face.metrics();
        let unit = 20.0 / f32::from(metrics.units_per_em);
        let gap = f32::from(metrics.line_gap) * 0.5;
        let above = (f32::from(metrics.ascender) + gap) * unit;
        (above, (f32::from(-metrics.descender) + gap) * unit)
    };
    let ((above, below), (other_above, other_below)) = (extent(&lato), extent(&misaki));
    let both = above.max(other_above) + below.max(other_below);
    assert!((height("Lamp", &style) - above - below).abs() < 1e-3);
    assert!((height("Lamp ランプ", &style) - both).abs() < 1e-3);
    // A line height that is asked for holds whatever the face.
    let fixed = style.line_height(LineHeight::Length(17.0));
    assert_eq!(height("Lamp ランプ", &fixed), 17.0);
}
