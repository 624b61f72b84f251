//! Damaged and malicious fonts: every one ends in an error or in a face that
//! can be used, never in a panic or an endless loop.

use kerno::base::{Edges, Limits};
use kerno::font::{Axis, FontError, GlyphId};
use kerno::outline::Outline;
use kerno::raster::{GlyphRequest, RasterError, Rasterizer, Subpixel};
use kerno::{Face, Style, TextLayout};
use proptest::prelude::*;

use crate::support::{FontBuilder, LATO, cmap12, composite, contour, polygon, words};

/// A font with every table that is read, small enough to cut at each byte.
fn small_font() -> Vec<u8> {
    let round = contour(&[
        (0, 0, true),
        (300, -50, false),
        (300, 350, true),
        (0, 300, false),
    ]);
    let parts = composite(&[0x23, 1, 0, 0, 0x0b, 1, 50, 50, 0x2000]);
    let kern = words(&[0, 1, 0, 20, 1, 1, 6, 0, 0, 1, 2, -50]);
    let name = words(&[0, 1, 18, 3, 1, 0x409, 4, 2, 0, 0x41]);
    FontBuilder::new(&[polygon(&[(0, 0), (400, 0), (0, 700)]), round, parts])
        .table(b"cmap", cmap12(&[[0x41, 0x42, 1]]))
        .table(b"kern", kern)
        .table(b"name", name)
        .table(b"OS/2", vec![0; 96])
        .table(b"post", vec![0; 32])
        .build()
}

/// Asks a face for everything it has, and its instances likewise.
fn use_up(bytes: Vec<u8>) {
    let Ok(face) = Face::from_bytes(bytes) else {
        return;
    };
    use_up_face(&face);
    let axes = face.axes().unwrap_or_default();
    for end in [|axis: &Axis| axis.min, |axis: &Axis| axis.max] {
        let settings: Vec<_> = axes.iter().map(|axis| (axis.tag, end(axis))).collect();
        if let Ok(face) = face.instance(&settings) {
            use_up_face(&face);
        }
    }
    for size in face.strike_sizes().unwrap_or_default() {
        let _ = face.strike(size);
    }
}

/// Uses a font cut at every byte, and with every byte something else.
pub(crate) fn damage(font: &[u8]) {
    for at in 0..font.len() {
        use_up(font[..at].to_vec());
        for value in [0x00, 0x01, 0x7f, 0x80, 0xff] {
            let mut font = font.to_vec();
            font[at] = value;
            use_up(font);
        }
    }
}

fn use_up_face(face: &Face) {
    let mut outline = Outline::new();
    let mut rasterizer = Rasterizer::new();
    for glyph in (0..face.glyph_count().min(64)).map(GlyphId) {
        let _ = (
            face.advance(glyph),
            face.left_side_bearing(glyph),
            face.bounds(glyph),
        );
        let _ = face.outline(glyph, &mut outline);
        for edges in [Edges::Smooth, Edges::Hard] {
            let _ = rasterizer.glyph(
                &GlyphRequest::new(face, glyph, 20.0)
                    .subpixel(Subpixel::new(1, 2))
                    .treatment(edges),
            );
        }
        let _ = face.glyph_name(glyph);
    }
    let _ = face.characters().count();
    let _ = face.kerning(GlyphId(1), GlyphId(2));
    let _ = (face.full_name(), face.tables().count());
    let _ = TextLayout::new("AB\nBA", &Style::new(face, 12.0));
}

#[test]
fn a_font_cut_anywhere_is_an_error() {
    let font = small_font();
    assert!(Face::from_bytes(font.clone()).is_ok());
    for length in 0..font.len() {
        assert!(
            Face::from_bytes(font[..length].to_vec()).is_err(),
            "cut at {length}"
        );
    }
    for length in (0..LATO.len()).step_by(997) {
        assert!(
            Face::from_bytes(&LATO[..length]).is_err(),
            "cut at {length}"
        );
    }
}

#[test]
fn every_byte_may_be_anything() {
    damage(&small_font());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    #[test]
    fn noise_in_a_font_is_survived(
        noise in prop::collection::vec((any::<prop::sample::Index>(), any::<u8>()), 1..12),
    ) {
        let mut font = small_font();
        for (at, value) in noise {
            let at = at.index(font.len());
            font[at] = value;
        }
        use_up(font);
    }
}

#[test]
fn a_composite_that_contains_itself_is_refused() {
    let face = FontBuilder::new(&[composite(&[0x03, 0, 0, 0])]).face();
    let error = face
        .outline(GlyphId(0), &mut Outline::new())
        .expect_err("a circle");
    assert!(
        matches!(
            error,
            FontError::Limit {
                glyph: GlyphId(0),
                limit: 16,
                ..
            }
        ),
        "{error}"
    );
    assert!(error.to_string().contains("contains itself"), "{error}");
}

#[test]
fn components_that_multiply_are_refused() {
    // Each glyph holds the next one twice: 2^14 triangles without a limit.
    let mut glyphs: Vec<Vec<u8>> = (1..15)
        .map(|next| composite(&[0x23, next, 0, 0, 0x03, next, 0, 0]))
        .collect();
    glyphs.push(polygon(&[(0, 0), (9, 0), (0, 9)]));
    let error = FontBuilder::new(&glyphs)
        .face()
        .outline(GlyphId(0), &mut Outline::new())
        .expect_err("too many");
    assert!(
        matches!(error, FontError::Limit { limit: 1024, .. }),
        "{error}"
    );
}

#[test]
fn limits_hold_on_both_sides() {
    let glyphs = [
        polygon(&[(0, 0), (9, 0), (0, 9)]),
        composite(&[0x03, 0, 0, 0]),
    ];
    let font = FontBuilder::new(&glyphs).build();
    let outline_under = |limits: Limits| {
        let face = Face::from_bytes_with(font.clone(), 0, limits).expect("a font");
        face.outline(GlyphId(1), &mut Outline::new())
    };
    let mut limits = Limits::default();
    (limits.composite_depth, limits.outline_points) = (1, 3);
    assert!(outline_under(limits.clone()).is_ok());
    limits.outline_points = 2;
    assert!(matches!(
        outline_under(limits.clone()),
        Err(FontError::Limit { limit: 2, .. })
    ));
    (limits.composite_depth, limits.outline_points) = (0, 3);
    assert!(matches!(
        outline_under(limits),
        Err(FontError::Limit { limit: 0, .. })
    ));
}

#[test]
fn sizes_that_are_none_are_refused() {
    let face = Face::from_bytes(LATO).expect("a font");
    let glyph = face.glyph('A').expect("a letter");
    let mut rasterizer = Rasterizer::new();
    let mut draw = |size| {
        rasterizer
            .glyph(&GlyphRequest::new(&face, glyph, size))
            .map(|picture| picture.width)
    };
    for size in [0.0, -1.0, f32::NAN, f32::INFINITY] {
        assert!(matches!(draw(size), Err(RasterError::Size(_))), "{size}");
    }
    assert!(matches!(
        draw(1e9),
        Err(RasterError::TooLarge { limit: 4096, .. })
    ));
    assert!(draw(4000.0).is_ok());
}
