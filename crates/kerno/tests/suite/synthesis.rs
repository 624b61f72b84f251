//! Bold and slant made from outlines.

use kerno::{Edges, FontError, GlyphId, GlyphShape, Outline, Rasterizer, Segment, Synthesis};

use crate::support::{FontBuilder, glyph, lato, polygon};

fn corners(face: &kerno::Face) -> Vec<(f32, f32)> {
    let mut outline = Outline::new();
    face.outline(GlyphId(0), &mut outline).expect("an outline");
    let corner = |segment| match segment {
        Segment::Start(p) | Segment::Line(p) => (p.x, p.y),
        _ => panic!("a curve in a polygon"),
    };
    outline.segments().map(corner).collect()
}

const TENTH: Synthesis = Synthesis {
    bolder: 0.1,
    slant: 0.0,
};

#[test]
fn bolder_strokes_grow_on_both_sides() {
    // A square of 100 units in an em of 1000: a tenth of an em is 50 on each
    // side, and all of it moves 50 to the right so that the left edge stays.
    let mut square = vec![(0, 0), (100, 0), (100, 100), (0, 100)];
    for _ in 0..2 {
        let face = FontBuilder::new(&[polygon(&square)]).face();
        let bold = face.synthesized(TENTH).expect("in range");
        let moved = |&(x, y): &(i32, i32)| (x as f32 * 2.0, y as f32 * 2.0 - 50.0);
        assert_eq!(corners(&bold), square.iter().map(moved).collect::<Vec<_>>());
        assert_eq!(
            (face.advance(GlyphId(0)), bold.advance(GlyphId(0))),
            (500, 600)
        );
        assert_eq!(bold.left_side_bearing(GlyphId(0)), 0);
        let bounds = bold.bounds(GlyphId(0)).expect("an outline").expect("ink");
        assert_eq!((bounds.x_max, bounds.y_min, bounds.y_max), (200, -50, 150));
        // The same the other way round, as TrueType outlines turn.
        square.reverse();
    }
}

#[test]
fn slant_moves_what_is_high_to_the_right() {
    let face = FontBuilder::new(&[polygon(&[(0, -100), (100, 0), (0, 100)])]).face();
    let lean = Synthesis {
        slant: 45.0,
        ..Synthesis::NONE
    };
    let slanted = corners(&face.synthesized(lean).expect("in range"));
    for ((x, y), (wanted, same)) in
        slanted
            .iter()
            .zip([(-100.0, -100.0), (100.0, 0.0), (100.0, 100.0)])
    {
        assert!((x - wanted).abs() < 1e-3 && *y == same, "{slanted:?}");
    }
    assert_eq!(
        face.synthesized(lean)
            .expect("in range")
            .advance(GlyphId(0)),
        500
    );
}

#[test]
fn counters_stay_open_and_letters_gain_ink() {
    let (face, bold) = (
        lato(),
        lato().synthesized(Synthesis::BOLD).expect("in range"),
    );
    let mut rasterizer = Rasterizer::new();
    let mut ink = |face: &kerno::Face, character| {
        let shape = GlyphShape {
            size: 100.0,
            shift_x: 0.0,
            edges: Edges::Smooth,
        };
        let picture = rasterizer
            .glyph(face, glyph(face, character), shape)
            .expect("a picture");
        let middle = picture.height / 2 * picture.width + picture.width / 2;
        let sum: u64 = picture.texels.iter().map(|texel| u64::from(*texel)).sum();
        (sum, picture.texels[middle as usize])
    };
    for character in ['l', 'H', 'o', 'S', '8'] {
        let (regular, bold) = (ink(&face, character).0, ink(&bold, character).0);
        assert!(
            bold > regular * 5 / 4 && bold < regular * 2,
            "{character}: {regular} {bold}"
        );
    }
    assert_eq!(ink(&bold, 'o').1, 0, "the hole of an o");
}

#[test]
fn a_synthetic_face_says_so() {
    let face = lato();
    let made = |synthesis| face.synthesized(synthesis).expect("in range");
    assert_eq!(face.synthesis(), None);
    assert_eq!(made(Synthesis::BOLD).synthesis(), Some(Synthesis::BOLD));
    assert_eq!(
        made(Synthesis::BOLD).full_name(),
        "Lato Medium (synthetic bold)"
    );
    assert_eq!(
        made(Synthesis::OBLIQUE).full_name(),
        "Lato Medium (synthetic oblique)"
    );
    assert_eq!(made(Synthesis::NONE).full_name(), "Lato Medium");
    assert!(!face.is_same(&made(Synthesis::NONE)));
    for synthesis in [
        Synthesis {
            bolder: -0.1,
            ..Synthesis::NONE
        },
        Synthesis {
            bolder: f32::NAN,
            ..Synthesis::NONE
        },
        Synthesis {
            slant: 60.0,
            ..Synthesis::NONE
        },
    ] {
        assert!(matches!(
            face.synthesized(synthesis),
            Err(FontError::Synthesis { .. })
        ));
    }
}
