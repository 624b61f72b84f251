//! The core of a shipped game, without default features.

use kerno::base::Mapping;
use kerno::text::LayoutOptions;
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Pack, Point, Style,
    TextLayout,
};

static LATO: &[u8] = include_bytes!("../demo/ferry/fonts/Lato-Medium.ttf");

#[test]
fn text_is_shaped_measured_and_drawn() {
    let face = Face::from_bytes(LATO).expect("a font");
    let style = Style::new(&face, 20.0).color(Color::rgb(255, 207, 112));
    let text = TextLayout::new("Heron Steps", &style).expect("a layout");
    // As wide as the advances and the kerning of its glyphs are together.
    let sum: f32 = text
        .glyphs()
        .iter()
        .map(|glyph| glyph.advance + glyph.kerning)
        .sum();
    assert!((text.size().width - sum).abs() < 1e-3, "{sum}");
    let spans = [kerno::text::Span::new("Heron Steps", &style)];
    let boxed = LayoutOptions::default().width(70.0);
    let boxed = TextLayout::with_options(&spans, &boxed).expect("a layout");
    assert_eq!(boxed.lines().len(), 2);
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut frame = builder.begin(&mut atlas, Mapping::uniform(2.0));
    let corner = DrawText::at(Point::new(4.0, 4.0), Anchor::TOP_LEFT);
    frame.text(&text, corner).expect("room");
    let mut canvas = Canvas::new(DeviceSize::new(260, 60));
    canvas.draw(builder.finish(), &atlas);
    let inked = canvas.pixels().iter().filter(|pixel| pixel[3] > 0).count();
    assert!(inked > 500, "{inked} pixels");
}

#[test]
fn packs_are_read_and_errors_have_codes() {
    let error = Pack::from_bytes(LATO).expect_err("a font is no pack");
    assert_eq!(error.code(), "pack-not-a-pack");
    let error = Face::from_bytes(&b"oar"[..]).expect_err("no font");
    assert!(error.code().starts_with("font-"), "{}", error.code());
    let wrong = Style::new(&Face::from_bytes(LATO).expect("a font"), -1.0);
    let error = TextLayout::new("oar", &wrong).expect_err("no size");
    assert_eq!(error.code(), "text-out-of-range");
}

#[cfg(feature = "mint")]
#[test]
fn transforms_go_to_other_crates_and_back() {
    use kerno::base::Affine;
    // x' = 1x + 3y + 5, y' = 2x + 4y + 6: CSS Transforms, matrix(a, b, c, d, e, f).
    let own = Affine::new([1.0, 2.0, 3.0, 4.0, 5.0, 6.0]);
    let rows = mint::RowMatrix2x3::from(own);
    let expected: [[f32; 3]; 2] = [[1.0, 3.0, 5.0], [2.0, 4.0, 6.0]];
    assert_eq!(<[[f32; 3]; 2]>::from(rows), expected);
    assert_eq!(Affine::from(rows), own);
    let place: Point = mint::Point2 { x: 12.0, y: 40.0 }.into();
    assert_eq!(own.point(place), Point::new(137.0, 190.0));
}
