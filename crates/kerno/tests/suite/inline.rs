//! Sprites between letters, and plates behind them.

use kerno::atlas::SpriteOptions;
use kerno::base::{Image, Insets, Mapping};
use kerno::markup::Markup;
use kerno::text::{InlineSprite, LayoutOptions, Plate, Span, SpriteAlign, VerticalAlign};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, FrameBuilder, Point, Rect, Size, Style,
    TextLayout,
};

use crate::support::lato;

const RED: [u8; 4] = [200, 30, 20, 255];

fn style() -> Style {
    Style::new(&lato(), 20.0)
}

fn width(text: &str) -> f32 {
    let layout = TextLayout::new(text, &style()).expect("a layout");
    layout.size().width
}

fn close(a: f32, b: f32) -> bool {
    (a - b).abs() < 1e-3
}

fn canvas(layout: &TextLayout, atlas: &mut Atlas, at: Point, visible: usize) -> Canvas {
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(atlas, Mapping::uniform(1.0));
    let drawn = frame.text(layout, DrawText::at(at, Anchor::TOP_LEFT).visible(visible));
    drawn.expect("a frame");
    let mut canvas = Canvas::new(DeviceSize::new(160, 80));
    canvas.clear(Color::rgb(0, 0, 0));
    canvas.draw(builder.finish(), atlas);
    canvas
}

#[test]
fn a_sprite_takes_the_room_of_a_letter_and_stands_where_it_is_told() {
    let style = style();
    let metrics = style.face.metrics();
    let unit = 20.0 / f32::from(metrics.units_per_em);
    let up = |units: Option<i16>| f32::from(units.expect("a height")) * unit;
    // Twice as wide as high.
    let natural = Size::new(64.0, 32.0);
    let cases = [
        (SpriteAlign::Baseline, 12.0),
        (SpriteAlign::Capitals, up(metrics.cap_height) / 2.0 + 6.0),
        (SpriteAlign::Middle, up(metrics.x_height) / 2.0 + 6.0),
        (SpriteAlign::Top, f32::from(metrics.ascender) * unit),
        (
            SpriteAlign::Bottom,
            12.0 + f32::from(metrics.descender) * unit,
        ),
    ];
    for (align, above) in cases {
        let sprite = InlineSprite::new("oar", natural, 12.0).align(align);
        let spans = [
            Span::new("an ", &style),
            Span::sprite(&sprite, &style),
            Span::new("!", &style),
        ];
        let layout = TextLayout::with_options(&spans, &LayoutOptions::default()).expect("a layout");
        let whole = width("an ") + 24.0 + width("!");
        assert!(close(layout.size().width, whole), "{align:?}");
        let sprites: Vec<(&InlineSprite, Rect)> = layout.sprites(0..usize::MAX).collect();
        let [(_, at)] = sprites[..] else {
            panic!("one sprite");
        };
        let top = layout.first_baseline() - above;
        assert!(
            close(at.x, width("an ")) && close(at.y, top),
            "{align:?}: {at:?}"
        );
        assert_eq!((at.width, at.height), (24.0, 12.0));
        assert!(layout.missing().is_empty() && layout.glyphs().len() == 4);
        assert_eq!(
            layout.sprites(0..3).count(),
            0,
            "it is the fourth to appear"
        );
    }
}

#[test]
fn text_is_edited_around_sprites() {
    let style = style();
    let sprite = InlineSprite::new("oar", Size::new(10.0, 10.0), 10.0);
    let spans = [
        Span::sprite(&sprite, &style),
        Span::sprite(&sprite, &style),
        Span::new("ab", &style),
    ];
    let layout = TextLayout::with_options(&spans, &LayoutOptions::default()).expect("a layout");
    // Each sprite is three bytes of the text.
    let after = |bytes: std::ops::Range<usize>, text: &str| {
        let mut layout = layout.clone();
        layout.edit(bytes, text)?;
        let shown = layout.text().replace('\u{fffc}', "*");
        Ok::<_, kerno::text::TextError>((
            shown,
            layout.sprites(0..9).count(),
            layout.glyphs().len(),
        ))
    };
    let expect = |text: &str, sprites, glyphs| (text.to_owned(), sprites, glyphs);
    assert_eq!(after(0..3, "").expect("no text"), expect("*ab", 1, 2));
    assert_eq!(after(0..6, "").expect("no text"), expect("ab", 0, 2));
    assert_eq!(after(3..6, "x").expect("beside it"), expect("*xab", 1, 3));
    assert_eq!(after(6..6, "x").expect("beside it"), expect("**xab", 2, 3));
    assert_eq!(after(3..7, "").expect("both"), expect("*b", 1, 1));
    let error = after(0..3, "x").expect_err("between sprites");
    assert!(error.to_string().contains("no span"), "{error}");
    let mut layout = layout.clone();
    assert!(layout.set_text(1, "x").is_err(), "a sprite is no text");
    layout.set_text(2, "").expect("no text");
    assert_eq!(
        (layout.sprites(0..9).count(), layout.glyphs().len()),
        (2, 0)
    );
}

#[test]
fn a_high_sprite_makes_its_line_higher_and_wraps_as_an_image_does() {
    let style = style();
    let sprite = InlineSprite::new("oar", Size::new(10.0, 10.0), 50.0).align(SpriteAlign::Baseline);
    let spans = [Span::new("oar", &style), Span::sprite(&sprite, &style)];
    let narrow = LayoutOptions::default().width(60.0);
    let layout = TextLayout::with_options(&spans, &narrow).expect("a layout");
    let [first, second] = layout.lines() else {
        panic!("a line may end before an image (UAX #14, LB20)");
    };
    let plain = TextLayout::new("oar", &style).expect("a layout");
    let below = plain.size().height - plain.first_baseline();
    assert!(close(first.height, plain.size().height));
    assert!(close(second.height, 50.0 + below), "{second:?}");
    let ink = layout.ink();
    assert!(
        close(ink.bottom(), second.baseline),
        "it stands on its line"
    );
    assert!(close(ink.width, 50.0));
}

#[test]
fn a_sprite_is_drawn_at_its_size_once_it_is_visible() {
    let image = Image::new(16, 16, RED.repeat(256)).expect("a picture");
    let mut atlas = Atlas::default();
    let options = SpriteOptions::default();
    atlas.add_sprite("stub", &image, options).expect("a sprite");
    let sprite =
        InlineSprite::new("stub", Size::new(16.0, 16.0), 16.0).align(SpriteAlign::Baseline);
    let style = style();
    let spans = [Span::sprite(&sprite, &style), Span::new(" 3", &style)];
    let layout = TextLayout::with_options(&spans, &LayoutOptions::default()).expect("a layout");
    let at = Point::new(4.0, 6.0);
    let shown = canvas(&layout, &mut atlas, at, 1);
    // From the left edge, and as high above the baseline, on whole pixels.
    let bottom = (6.0 + layout.first_baseline()).round() as u32;
    let red = |canvas: &Canvas| {
        let pixels = canvas.pixels().iter().enumerate();
        let red = pixels.filter(|(_, pixel)| **pixel == RED);
        red.map(|(index, _)| (index as u32 % 160, index as u32 / 160))
            .collect::<Vec<_>>()
    };
    let pixels = red(&shown);
    assert_eq!(pixels.len(), 256, "not stretched, not blurred");
    assert_eq!(pixels[0], (4, bottom - 16));
    assert_eq!(pixels[255], (19, bottom - 1));
    assert!(red(&canvas(&layout, &mut atlas, at, 0)).is_empty());
    let unknown = InlineSprite::new("stab", Size::new(16.0, 16.0), 16.0);
    let layout =
        TextLayout::with_options(&[Span::sprite(&unknown, &style)], &LayoutOptions::default());
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::uniform(1.0));
    let error = frame
        .text(
            &layout.expect("a layout"),
            DrawText::at(at, Anchor::TOP_LEFT),
        )
        .expect_err("no such sprite");
    assert!(error.to_string().contains("stab"), "{error}");
}

#[test]
fn a_plate_makes_room_for_its_padding_and_lies_behind_its_letters() {
    let plain = style();
    let padding = Insets {
        left: 5.0,
        right: 3.0,
        top: 2.0,
        bottom: 1.0,
    };
    let color = Color::rgb(0, 90, 120);
    let key = plain.clone().plate(Plate::new(color, 0.0).padding(padding));
    let spans = [
        Span::new("Press ", &plain),
        Span::new("E", &key),
        Span::new(" to board", &plain),
    ];
    let layout = TextLayout::with_options(&spans, &LayoutOptions::default()).expect("a layout");
    let apart = width("Press ") + width("E") + width(" to board");
    assert!(close(layout.size().width, apart + 8.0));
    let plates: Vec<(Rect, Color)> = layout.plates(0..usize::MAX).collect();
    let [(plate, given)] = plates[..] else {
        panic!("one plate, not {plates:?}");
    };
    let unit = 20.0 / f32::from(plain.face.metrics().units_per_em);
    let top = layout.first_baseline() - f32::from(plain.face.metrics().ascender) * unit - 2.0;
    assert_eq!(given, color);
    assert!(
        close(plate.x, width("Press ")) && close(plate.y, top),
        "{plate:?}"
    );
    assert!(close(plate.right(), width("Press ") + width("E") + 8.0));
    let extent = f32::from(plain.face.metrics().ascender - plain.face.metrics().descender);
    assert!(close(plate.height, extent * unit + 3.0));
    assert_eq!(layout.plates(0..6).count(), 0, "it comes with its letter");
    // Between the padding's edge and the letter the plate alone is seen.
    let mut atlas = Atlas::default();
    let canvas = canvas(&layout, &mut atlas, Point::new(0.0, 10.0), usize::MAX);
    let (x, y) = ((plate.x + 1.5) as usize, 20);
    assert_eq!(canvas.pixels()[y * 160 + x], [0, 90, 120, 255]);
}

#[test]
fn the_plate_of_a_text_reaches_out_of_its_block() {
    let options = LayoutOptions::default().plate(Plate::new(Color::rgb(9, 9, 9), 4.0));
    let layout = TextLayout::with_options(&[Span::new("Fog\nahead", &style())], &options);
    let layout = layout.expect("a layout");
    let size = layout.size();
    let plates: Vec<(Rect, Color)> = layout.plates(0..0).collect();
    let expected = Rect::new(-4.0, -4.0, size.width + 8.0, size.height + 8.0);
    assert_eq!(plates, [(expected, Color::rgb(9, 9, 9))]);
}

#[test]
fn texts_in_several_sizes_stand_on_one_line() {
    for size in [12.0, 20.0, 33.0] {
        let style = style().size(size);
        let boxed = |height| {
            LayoutOptions::default()
                .height(height)
                .vertical_align(VerticalAlign::FirstBaseline(40.0))
        };
        let lay = |options| TextLayout::with_options(&[Span::new("Oil\n7", &style)], &options);
        let layout = lay(boxed(Some(100.0))).expect("a layout");
        assert!(close(layout.first_baseline(), 40.0));
        assert!(close(layout.glyphs()[0].y, 40.0));
        assert_eq!(layout.size().height, 100.0);
        // Without a height the block ends with its last line.
        let layout = lay(boxed(None)).expect("a layout");
        let last = layout.lines().last().expect("a line");
        assert!(close(layout.size().height, last.top + last.height));
    }
}

#[test]
fn markup_puts_sprites_and_plates_in_text() {
    let lantern = InlineSprite::new("lantern", Size::new(8.0, 12.0), 15.0);
    let key =
        kerno::markup::StyleChange::default().plate(Some(Plate::new(Color::rgb(1, 2, 3), 2.0)));
    let markup = Markup::new().style("key", key).sprite("icon", lantern);
    let read = markup
        .read("@icon(lantern) @key{E}", &style())
        .expect("good markup");
    let layout =
        TextLayout::with_options(&read.spans(), &LayoutOptions::default()).expect("a layout");
    let (sprite, at) = layout.sprites(0..9).next().expect("a sprite");
    assert_eq!((sprite.name.as_str(), at.width), ("lantern", 10.0));
    assert_eq!(layout.plates(0..9).count(), 1);
    let error = markup.read("Oil\n  @icon(lantren)", &style());
    let error = error.expect_err("no such sprite").to_string();
    assert!(
        error.starts_with("line 2, column 3") && error.contains("“lantern”?"),
        "{error}"
    );
    let error = markup.read("@icon", &style()).expect_err("no name");
    assert!(error.to_string().contains("@icon(…)"), "{error}");
}
