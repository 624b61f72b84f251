//! Outlines that were made to take long, or damaged: coarser pictures, and the rest as it was.

use kerno::base::{BandSide, Edges, Join, Mapping, Treatment};
use kerno::font::GlyphId;
use kerno::raster::{Coverage, GlyphRequest, RasterError, Rasterizer};
use kerno::{Anchor, Atlas, DrawText, Face, FrameBuilder, Point, Style, TextLayout};

use crate::support::{FontBuilder, averia, cmap12, contour, lato, misaki};

/// Numbers that have nothing to do with each other.
fn noise(seed: &mut u64) -> i32 {
    *seed = seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1);
    (*seed >> 40) as i32
}

/// A face whose one letter has a thousand points anywhere in `reach` units.
fn scribble(reach: i32) -> Face {
    let mut seed = 7;
    let mut place = || noise(&mut seed) % reach - reach / 2;
    let points: Vec<(i32, i32, bool)> = (0..1000)
        .map(|at| (place(), place(), at % 3 != 0))
        .collect();
    let glyphs = [contour(&points), contour(&points)];
    FontBuilder::new(&glyphs)
        .table(b"cmap", cmap12(&[[0x61, 0x61, 1]]))
        .face()
}

fn treatments() -> Vec<Treatment> {
    let plain = Treatment::default();
    let mut all: Vec<Treatment> = [
        Edges::Smooth,
        Edges::Hard,
        Edges::GridFitted,
        Edges::DistanceField,
        Edges::MultiChannelField,
    ]
    .map(Treatment::from)
    .to_vec();
    for join in [Join::Miter, Join::Round, Join::Bevel] {
        for outset in [2.0, 0.5, -0.5] {
            all.push(plain.with_outset(outset).with_join(join));
        }
        all.push(plain.with_band(BandSide::Centered, 1.5).with_join(join));
    }
    all.push(plain.with_blur(1.5));
    all.push(plain.with_outset(1.0).with_blur(6.0));
    all
}

fn draw(face: &Face, glyph: u16, size: f32, treatment: Treatment) -> Result<Coverage, RasterError> {
    let request = GlyphRequest::new(face, GlyphId(glyph), size).treatment(treatment);
    Rasterizer::new().glyph(&request).cloned()
}

#[test]
fn no_letter_of_a_sound_font_is_coarse() {
    for face in [lato(), averia(), misaki()] {
        for treatment in treatments() {
            for size in [7.0, 16.0, 40.0, 131.0] {
                for glyph in (0..face.glyph_count()).step_by(29) {
                    let drawn = draw(&face, glyph, size, treatment).expect("a picture");
                    assert!(
                        !drawn.is_coarse,
                        "glyph {glyph} at {size} px, {treatment:?}"
                    );
                }
            }
        }
    }
}

#[test]
fn what_asks_for_too_much_is_drawn_coarser_and_says_so() {
    let wild = scribble(30_000);
    let mut coarse = 0;
    for treatment in treatments() {
        let drawn = draw(&wild, 1, 12.0, treatment).expect("a picture");
        assert!(!drawn.is_empty(), "{treatment:?}");
        coarse += u32::from(drawn.is_coarse);
        // At most half a million texels, whatever is asked for at 12 px.
        let texels = drawn.width as usize * drawn.height as usize;
        assert!(texels <= 1 << 19, "{texels} texels, {treatment:?}");
        assert_eq!(drawn.texels.len(), texels * usize::from(drawn.channels));
        // In device pixels it is as large as it would be.
        let width = drawn.width * drawn.reduction;
        assert!((330..=460).contains(&width), "{width} px, {treatment:?}");
    }
    assert!(coarse >= 8, "{coarse} of them");
    // Its plain picture is within the budget, and covers what it covered.
    let plain = draw(&wild, 1, 12.0, Treatment::default()).expect("a picture");
    let ink = plain.texels.iter().filter(|texel| **texel > 0).count();
    assert!(ink * 2 > plain.texels.len());
    // The atlas counts them.
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let outline = kerno::text::Effect::outline(1.0, kerno::Color::BLACK);
    let style = Style::new(&wild, 12.0).effects(vec![outline]);
    let layout = TextLayout::new("a", &style).expect("a layout");
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let at = DrawText::at(Point::new(300.0, 300.0), Anchor::CENTER);
    frame.text(&layout, at).expect("drawn");
    builder.finish();
    assert!(atlas.usage().coarse > 0);
}

#[test]
fn sizes_without_an_end_are_refused_or_empty() {
    for face in [scribble(30_000), lato()] {
        let glyph = if face.glyph('a').is_some_and(|glyph| glyph.0 == 1) {
            1
        } else {
            face.glyph('A').expect("a letter").0
        };
        for size in [
            1e6,
            1e9,
            1e20,
            f32::MAX,
            f32::INFINITY,
            f32::NAN,
            0.0,
            -1.0,
            1e-30,
        ] {
            for treatment in treatments() {
                match draw(&face, glyph, size, treatment) {
                    // A point, and what is around it.
                    Ok(drawn) => assert!(size < 1.0 && drawn.texels.len() < 4096, "{size}"),
                    Err(
                        RasterError::TooLarge { .. }
                        | RasterError::Size(_)
                        | RasterError::NotFinite,
                    ) => {}
                    Err(error) => panic!("{error}"),
                }
            }
        }
    }
}
