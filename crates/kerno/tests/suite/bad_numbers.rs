//! Numbers that are none, and ids of something else.

use std::io::Write;

use kerno::atlas::{Animation, AtlasError, SpriteOptions};
use kerno::base::{DevicePoint, Image, ImageError, Limits, Mapping};
use kerno::draw::DrawSprite;
use kerno::font::{FontError, Tag};
use kerno::markup::{NumberFormat, NumberOptions, NumberSign};
use kerno::raster::{Placement, RasterError, Rasterizer};
use kerno::text::Span;
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, Fit, FrameBuilder, Point, Rect, Size,
    Style, TextLayout, Viewport,
};

use crate::support::{LATO, lato};

fn sprite(
    atlas: &mut Atlas,
    name: &str,
    options: SpriteOptions,
) -> Result<kerno::atlas::SpriteId, AtlasError> {
    let image = Image::new(4, 4, vec![255; 64]).expect("an image");
    atlas.add_sprite(name, &image, options)
}

#[test]
fn what_lies_nowhere_is_not_drawn() {
    let score = TextLayout::new("Fares", &Style::new(&lato(), 16.0)).expect("a layout");
    let mut atlas = Atlas::default();
    let oar = sprite(&mut atlas, "oar", SpriteOptions::default()).expect("a sprite");
    for bad in [f32::NAN, f32::INFINITY, -f32::INFINITY, f32::MAX] {
        let mut builder = FrameBuilder::new();
        let mut frame = builder.begin(&mut atlas, Mapping::uniform(2.0));
        let mut layer = frame.scope();
        layer.rect(Rect::new(bad, 0.0, 5.0, 5.0), Color::WHITE);
        layer.rect(Rect::new(0.0, 0.0, 5.0, bad), Color::WHITE);
        let _ = layer.panel(oar, Rect::new(0.0, bad, 5.0, bad));
        let _ = layer.sprite(oar, DrawSprite::at(Point::new(bad, bad), Anchor::CENTER));
        let _ = layer.sprite(oar, DrawSprite::at(Point::ORIGIN, Anchor::new(bad, 0.5)));
        let _ = layer.text(&score, DrawText::at(Point::new(1.0, bad), Anchor::CENTER));
        let _ = layer.text(&score, DrawText::at(Point::ORIGIN, Anchor::new(bad, bad)));
        let frame = builder.finish();
        let mut places = frame.vertices.iter().flat_map(|vertex| vertex.position);
        assert!(places.all(f32::is_finite), "{bad}");
        let mut builder = FrameBuilder::new();
        let mut frame = builder.begin(
            &mut atlas,
            Mapping::new(bad, bad, DevicePoint::new(0.0, bad)),
        );
        let _ = frame.text(&score, DrawText::at(Point::ORIGIN, Anchor::CENTER));
        let frame = builder.finish();
        let mut places = frame.vertices.iter().flat_map(|vertex| vertex.position);
        assert!(places.all(f32::is_finite), "{bad}");
    }
}

#[test]
fn numbers_that_nothing_can_be_made_from_are_refused() {
    let style = Style::new(&lato(), 16.0);
    for bad in [f32::NAN, f32::INFINITY, 1e38] {
        let spaced = style.clone().letter_spacing(bad);
        assert!(TextLayout::new("ab", &spaced).is_err(), "{bad}");
        let options = SpriteOptions::default().origin(Anchor::new(bad, 0.0));
        let made = sprite(&mut Atlas::default(), "oar", options);
        assert_eq!(made.is_err(), !bad.is_finite(), "{bad}");
        let view = Viewport::new(Size::new(bad, 9.0), DeviceSize::new(64, 64), Fit::Fill);
        assert_eq!(view.is_err(), !bad.is_finite(), "{bad}");
    }
    let tiny = Viewport::new(
        Size::new(1e-45, 1e-45),
        DeviceSize::new(64, 64),
        Fit::Contain,
    );
    assert!(tiny.is_err());
    let mut outline = kerno::outline::Outline::new();
    outline.move_to(0.0, 0.0);
    outline.line_to(4.0, 0.0);
    outline.line_to(0.0, 4.0);
    let placement = Placement {
        scale: 1.0,
        x: f32::NAN,
        y: 0.0,
    };
    let error = Rasterizer::new()
        .fill(&outline, placement, kerno::base::Edges::Smooth)
        .map(drop);
    assert!(matches!(error, Err(RasterError::NotFinite)));
    // 2^31 × 2^31 × 4 is 0 in 64 bits.
    assert!(matches!(
        Image::new(1 << 31, 1 << 31, Vec::new()),
        Err(ImageError::Length { .. })
    ));
    let huge = Canvas::try_new(DeviceSize::new(u32::MAX, u32::MAX));
    assert!(matches!(huge, Err(ImageError::TooLarge { .. })));
}

#[test]
fn a_sprite_of_another_atlas_is_an_error() {
    let (mut atlas, mut other) = (Atlas::default(), Atlas::default());
    sprite(&mut other, "oar", SpriteOptions::default()).expect("a sprite");
    let bell = sprite(&mut other, "bell", SpriteOptions::default()).expect("a sprite");
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let error = frame.sprite(bell, DrawSprite::at(Point::ORIGIN, Anchor::CENTER));
    assert!(matches!(error, Err(AtlasError::OtherAtlas(1))), "{error:?}");
}

#[test]
fn files_are_read_within_limits_only() {
    let mut file = tempfile::NamedTempFile::new().expect("a file");
    file.write_all(LATO).expect("a file");
    let limits = |bytes| Limits::default().file_bytes(bytes);
    let length = LATO.len() as u64;
    assert!(Face::from_file_with(file.path(), 0, limits(length)).is_ok());
    let error = Face::from_file_with(file.path(), 0, limits(length - 1));
    assert!(matches!(error, Err(FontError::Io { .. })));
    // With holes it may claim to be any size; nothing of it is read.
    file.as_file().set_len(5 << 30).expect("a sparse file");
    let error = Face::from_file(file.path()).expect_err("too large");
    let cause = std::error::Error::source(&error)
        .expect("a cause")
        .to_string();
    assert!(cause.contains("more than the 1073741824"), "{cause}");
    #[cfg(unix)]
    assert!(Face::from_file("/dev/zero").is_err());
    assert!(Face::from_file(std::env::temp_dir()).is_err());
}

#[test]
fn thin_lines_are_seen_in_small_windows() {
    let mut atlas = Atlas::default();
    for scale in [0.02, 0.1, 0.3, 0.49, 0.7, 1.0] {
        let mut builder = FrameBuilder::new();
        let mut frame = builder.begin(&mut atlas, Mapping::uniform(scale));
        let mut layer = frame.scope();
        layer.rect(Rect::new(10.2, 10.4, 40.0, 1.0), Color::WHITE);
        layer.rect(Rect::new(10.0, 60.0, 1.0, 40.0), Color::WHITE);
        layer.rect(Rect::new(10.0, 60.0, 0.0, 40.0), Color::WHITE);
        assert_eq!(builder.finish().quad_count(), 2, "{scale}");
    }
}

#[test]
fn frames_change_at_exact_multiples() {
    let mut atlas = Atlas::default();
    let ids: Vec<_> = ["a", "b", "c"]
        .iter()
        .map(|name| sprite(&mut atlas, name, SpriteOptions::default()).expect("a sprite"))
        .collect();
    for seconds in [0.1_f32, 0.3, 1.0 / 3.0, 0.7] {
        let frames = ids.iter().map(|id| (*id, seconds));
        let rolling = Animation::new(frames.clone(), true).expect("an animation");
        let once = Animation::new(frames, false).expect("an animation");
        for step in 0..12_u32 {
            let exact: f64 = seconds.to_string().parse().expect("a number");
            let time = exact * f64::from(step);
            assert_eq!(
                rolling.sprite_at(time),
                ids[step as usize % 3],
                "{seconds} {step}"
            );
            assert_eq!(
                once.sprite_at(time),
                ids[(step as usize).min(2)],
                "{seconds} {step}"
            );
        }
    }
}

#[test]
fn infinity_has_the_sign_of_its_language() {
    let with = |language: &str, sign| {
        let options = NumberOptions::default().sign(sign);
        NumberFormat::new(language, options).expect("a language")
    };
    assert_eq!(with("en", NumberSign::Negative).format(f64::INFINITY), "∞");
    assert_eq!(
        with("en", NumberSign::Negative).format(f64::NEG_INFINITY),
        "-∞"
    );
    assert_eq!(with("en", NumberSign::Never).format(f64::NEG_INFINITY), "∞");
    assert_eq!(with("en", NumberSign::Always).format(f64::INFINITY), "+∞");
    // Swedish has a minus sign of its own, U+2212.
    assert_eq!(
        with("sv", NumberSign::Negative).format(f64::NEG_INFINITY),
        "\u{2212}∞"
    );
}

#[test]
fn what_takes_long_to_compare_is_not_compared() {
    let start = std::time::Instant::now();
    let style = Style::new(&lato(), 16.0).features(
        (0..70_000_u32)
            .map(|n| (Tag((0x2020_2020 + n).to_be_bytes()), 1))
            .collect(),
    );
    let layout = TextLayout::with_options(&[Span::new("ab", &style)], &Default::default());
    assert_eq!(layout.expect("a layout").glyphs().len(), 2);
    let mut atlas = Atlas::default();
    sprite(&mut atlas, &"x".repeat(70_000), SpriteOptions::default()).expect("a sprite");
    assert!(atlas.sprite(&"y".repeat(70_000)).is_err());
    assert!(start.elapsed().as_secs() < 10);
}
