//! Bold and slant made from outlines.

use kerno::base::{Edges, Mapping};
use kerno::font::{FontError, GlyphId, Synthesis};
use kerno::outline::{Outline, OutlinePoint, Segment};
use kerno::raster::{GlyphRequest, Placement, Rasterizer};
use kerno::{Anchor, Atlas, Color, DrawText, FrameBuilder, Point, Style, TextLayout};

use crate::support::{FontBuilder, contour, glyph, lato, polygon};

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
    embolden: 0.1,
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
        let picture = rasterizer
            .glyph(&GlyphRequest::new(face, glyph(face, character), 100.0))
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

/// A square of 20 pixels with a hole of 10, grown by 2: one of 24 with one of 6.
#[test]
fn a_grown_shape_is_larger_by_as_much_on_all_sides() {
    let square = |outline: &mut Outline, corners: [(f32, f32); 4]| {
        outline.move_to(corners[0].0, corners[0].1);
        for (x, y) in &corners[1..] {
            outline.line_to(*x, *y);
        }
    };
    let mut rasterizer = Rasterizer::new();
    // Outer contours turn right in TrueType outlines and left in PostScript ones.
    for turned in [false, true] {
        let mut outline = Outline::new();
        let mut outer = [(0.0, 0.0), (0.0, 20.0), (20.0, 20.0), (20.0, 0.0)];
        let mut hole = [(5.0, 5.0), (15.0, 5.0), (15.0, 15.0), (5.0, 15.0)];
        if turned {
            outer.reverse();
            hole.reverse();
        }
        square(&mut outline, outer);
        square(&mut outline, hole);
        outline.outset(2.0);
        let placement = Placement {
            scale: 1.0,
            x: 0.0,
            y: 0.0,
        };
        let picture = rasterizer
            .fill(&outline, placement, Edges::Smooth)
            .expect("a picture");
        assert_eq!((picture.left, picture.top), (-2, -22));
        assert_eq!((picture.width, picture.height), (24, 24));
        let is_in_hole = |at: usize| (9..15).contains(&(at % 24)) && (9..15).contains(&(at / 24));
        for (at, texel) in picture.texels.iter().enumerate() {
            let expected = if is_in_hole(at) { 0 } else { 255 };
            assert_eq!(*texel, expected, "pixel {at}, turned {turned}");
        }
    }
}

/// An outline of one pixel around an `l` that is a plain bar: a bar two pixels wider
/// and higher, with the letter in its middle, and all outlines beneath all letters.
#[test]
fn outlines_lie_beneath_letters_and_take_no_room() {
    let style = Style::new(&lato(), 40.0).color(Color::WHITE);
    let outlined = style.clone().outline(1.0, Color::BLACK);
    let (plain, rimmed) = (
        TextLayout::new("AVA", &style).expect("a layout"),
        TextLayout::new("AVA", &outlined).expect("a layout"),
    );
    assert_eq!(plain.glyphs(), rimmed.glyphs());
    assert_eq!(plain.size(), rimmed.size());
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let at = Point::new(10.0, 10.0);
    frame
        .text(&rimmed, DrawText::at(at, Anchor::TOP_LEFT))
        .expect("room");
    let frame = builder.finish();
    let colors: Vec<[u8; 4]> = frame.vertices.chunks(4).map(|quad| quad[0].color).collect();
    assert_eq!(colors, [[[0, 0, 0, 255]; 3], [[255; 4]; 3]].concat());
    let edge = |quad: usize| frame.vertices[quad * 4].position;
    for letter in 0..3 {
        let (outline, letter) = (edge(letter), edge(letter + 3));
        // Half a pixel to one more, by where its edge meets the pixels.
        assert!(
            (1.0..=2.0).contains(&(letter[0] - outline[0])),
            "{outline:?} {letter:?}"
        );
    }
    for width in [0.0, -1.0, f32::NAN, 65.0] {
        let wrong = style.clone().outline(width, Color::BLACK);
        let error = TextLayout::new("A", &wrong).expect_err("no width");
        assert!(error.to_string().starts_with("the outline is"), "{error}");
    }
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
    assert!(face.is_same(&made(Synthesis::NONE)));
    assert!(!face.is_same(&made(Synthesis::BOLD)));
    for synthesis in [
        Synthesis {
            embolden: -0.1,
            ..Synthesis::NONE
        },
        Synthesis {
            embolden: f32::NAN,
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

#[test]
fn where_curves_join_a_grown_outline_is_as_far_out() {
    // Control points only; the curves join half-way between the two on the left, and
    // there the edge is upright.
    let corners = [
        (0, 80, false),
        (100, 120, false),
        (100, 0, false),
        (0, 0, false),
    ];
    let face = FontBuilder::new(&[contour(&corners)]).face();
    let mut outline = Outline::new();
    face.outline(GlyphId(0), &mut outline).expect("an outline");
    outline.outset(10.0);
    let join = Segment::Start(OutlinePoint::new(-10.0, 40.0));
    assert_eq!(outline.segments().next(), Some(join));
}
