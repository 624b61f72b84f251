//! Coverage against an independent computation: every pixel's square is cut
//! out of the outline as a polygon, in 64 bits, and its area taken.

use kerno::{
    Coverage, Edges, Face, GlyphShape, Outline, OutlinePoint, Placement, RasterError, Rasterizer,
    Segment,
};

use proptest::prelude::*;

use crate::support::{averia, glyph, lato, misaki};

type Corner = (f64, f64);

/// The outline as polygons in device pixels, y down; curves in 64 chords.
fn polygons(outline: &Outline, scale: f64, shift_x: f64) -> Vec<Vec<Corner>> {
    const CHORDS: i32 = 64;
    let place = |p: OutlinePoint| (f64::from(p.x) * scale + shift_x, -f64::from(p.y) * scale);
    let mut polygons: Vec<Vec<Corner>> = Vec::new();
    for segment in outline.segments() {
        if let Segment::Start(point) = segment {
            polygons.push(vec![place(point)]);
            continue;
        }
        let polygon = polygons.last_mut().expect("a started contour");
        let from = polygon[polygon.len() - 1];
        match segment {
            Segment::Line(to) => polygon.push(place(to)),
            Segment::Quadratic(control, to) => {
                let (c, to) = (place(control), place(to));
                polygon.extend((1..=CHORDS).map(|step| {
                    let t = f64::from(step) / f64::from(CHORDS);
                    let bend = |a: f64, b: f64, c: f64| {
                        (1.0 - t) * (1.0 - t) * a + 2.0 * t * (1.0 - t) * b + t * t * c
                    };
                    (bend(from.0, c.0, to.0), bend(from.1, c.1, to.1))
                }));
            }
            Segment::Start(_) | Segment::Cubic(..) => unreachable!("not in TrueType outlines"),
        }
    }
    polygons
}

/// The part of a polygon on one side of a line, where `side` is not negative.
fn cut(polygon: &[Corner], side: impl Fn(Corner) -> f64) -> Vec<Corner> {
    let mut kept = Vec::new();
    for (index, &to) in polygon.iter().enumerate() {
        let from = polygon[(index + polygon.len() - 1) % polygon.len()];
        let (a, b) = (side(from), side(to));
        if (a < 0.0) != (b < 0.0) {
            let t = a / (a - b);
            kept.push((from.0 + (to.0 - from.0) * t, from.1 + (to.1 - from.1) * t));
        }
        if b >= 0.0 {
            kept.push(to);
        }
    }
    kept
}

fn signed_area(polygon: &[Corner]) -> f64 {
    let pairs = polygon.iter().zip(polygon.iter().cycle().skip(1));
    pairs.map(|(a, b)| a.0 * b.1 - b.0 * a.1).sum::<f64>() * 0.5
}

/// Exact coverage, 0 to 255, of every pixel of `picture`.
fn exact(polygons: &[Vec<Corner>], picture: &Coverage) -> Vec<f64> {
    let mut areas = Vec::new();
    for row in 0..picture.height {
        let y = f64::from(picture.top) + f64::from(row);
        let band = |p: &Vec<Corner>| cut(&cut(p, |c| c.1 - y), |c| y + 1.0 - c.1);
        let bands: Vec<Vec<Corner>> = polygons.iter().map(band).collect();
        for column in 0..picture.width {
            let x = f64::from(picture.left) + f64::from(column);
            let area: f64 = bands
                .iter()
                .map(|band| signed_area(&cut(&cut(band, |c| c.0 - x), |c| x + 1.0 - c.0)))
                .sum();
            areas.push(area.abs().min(1.0) * 255.0);
        }
    }
    areas
}

/// The largest and the mean difference from exact coverage over a text.
fn difference(face: &Face, text: &str, size: f32, shift_x: f32) -> (f64, f64) {
    let mut rasterizer = Rasterizer::new();
    let mut outline = Outline::new();
    let (mut worst, mut sum, mut count): (f64, f64, usize) = (0.0, 0.0, 0);
    for character in text.chars() {
        let id = glyph(face, character);
        face.outline(id, &mut outline).expect("an outline");
        let scale = f64::from(size) / f64::from(face.metrics().units_per_em);
        let polygons = polygons(&outline, scale, f64::from(shift_x));
        let shape = GlyphShape {
            size,
            shift_x,
            treatment: Edges::Smooth.into(),
        };
        let picture = rasterizer.glyph(face, id, shape).expect("a picture");
        for (got, wanted) in picture.texels.iter().zip(exact(&polygons, picture)) {
            let off = (f64::from(*got) - wanted).abs();
            if off > worst {
                worst = off;
            }
            sum += off;
            count += 1;
        }
    }
    (worst, sum / count as f64)
}

fn ascii() -> String {
    ('!'..='~').collect()
}

#[test]
fn coverage_is_the_exact_area() {
    for (face, size, shift) in [
        (lato(), 9.0, 0.0),
        (lato(), 16.0, 0.25),
        (lato(), 32.0, 0.5),
        (lato(), 33.7, 0.75),
        // The foot of the R ends in the very corner of its picture.
        (lato(), 32.0, 0.0),
        (averia(), 24.0, 0.0),
    ] {
        let (worst, mean) = difference(&face, &ascii(), size, shift);
        println!("{face:?} at {size}: worst {worst:.3}, mean {mean:.4} of 255");
        assert!(worst <= 2.0, "{face:?} at {size} px: {worst} of 255 off");
        assert!(
            mean < 0.3,
            "{face:?} at {size} px: {mean} of 255 off in the mean"
        );
    }
}

#[test]
fn large_glyphs_are_exact_too() {
    let (worst, mean) = difference(&lato(), "@&S8", 300.0, 0.0);
    println!("worst {worst:.3}, mean {mean:.4}");
    assert!(worst <= 2.0 && mean < 0.3, "{worst} {mean}");
}

/// Pixels of a picture as text, `#` for covered ones.
fn drawing(picture: &Coverage) -> Vec<String> {
    let rows = picture.texels.chunks(picture.width as usize);
    rows.map(|row| {
        let shades = row.iter().map(|texel| match texel {
            0 => '.',
            255 => '#',
            _ => '?',
        });
        shades.collect()
    })
    .collect()
}

#[test]
fn a_pixel_face_on_its_grid_is_the_same_smooth_and_hard() {
    // 8 pixels to the em: at 8 px every edge of the outline is a pixel edge,
    // so that exact coverage is 0 or 255 and both ways must agree.
    let face = misaki();
    let mut rasterizer = Rasterizer::new();
    let mut draw = |character, edges: Edges| {
        let shape = GlyphShape {
            size: 8.0,
            shift_x: 0.0,
            treatment: edges.into(),
        };
        let picture = rasterizer.glyph(&face, glyph(&face, character), shape);
        picture.expect("a picture").clone()
    };
    for character in '!'..='~' {
        let smooth = draw(character, Edges::Smooth);
        assert!(
            smooth.texels.iter().all(|texel| [0, 255].contains(texel)),
            "{character}"
        );
        assert_eq!(smooth, draw(character, Edges::Hard), "{character}");
    }
    // A stem, and a foot on the baseline.
    let letter = draw('L', Edges::Hard);
    assert_eq!(letter.top, -(letter.height as i32));
    let rows = drawing(&letter);
    let (foot, stem) = rows.split_last().expect("rows");
    assert!(
        stem.iter().all(|row| row == "#..") && foot == "###",
        "{rows:?}"
    );
}

#[test]
fn hard_pixels_are_those_whose_centres_lie_inside() {
    // A triangle with corners (0,0), (4,0), (0,4), y up, drawn 4 pixels high:
    // the centre (x + ½, y + ½) is inside when x + y + 1 < 4; on the slanted
    // edge itself (x + y + 1 = 4) a centre belongs to what lies right of it.
    let mut outline = Outline::new();
    outline.start(0.0, 0.0);
    outline.line(4.0, 0.0);
    outline.line(0.0, 4.0);
    let placement = Placement {
        scale: 1.0,
        x: 0.0,
        y: 4.0,
    };
    let mut rasterizer = Rasterizer::new();
    let hard = rasterizer
        .fill(&outline, placement, Edges::Hard)
        .expect("a picture");
    assert_eq!(drawing(hard), ["....", "#...", "##..", "###."]);
    // Smooth, the pixels on the edge are half covered.
    let smooth = rasterizer
        .fill(&outline, placement, Edges::Smooth)
        .expect("a picture");
    assert_eq!(smooth.texels[..8], [128, 0, 0, 0, 255, 128, 0, 0]);
    assert_eq!(
        (smooth.left, smooth.top, smooth.width, smooth.height),
        (0, 0, 4, 4)
    );
}

proptest! {
    /// Wherever a rectangle lies and however its corners round, all of it is there.
    #[test]
    fn a_rectangle_has_its_area(
        left in -900_i16..900, bottom in -900_i16..900,
        width in 1_i16..900, height in 1_i16..900,
        scale in 0.003_f32..0.1, x in -40.0_f32..40.0, y in -40.0_f32..40.0,
    ) {
        let [left, bottom, width, height] = [left, bottom, width, height].map(f32::from);
        let mut outline = Outline::new();
        outline.start(left, bottom);
        outline.line(left, bottom + height);
        outline.line(left + width, bottom + height);
        outline.line(left + width, bottom);
        let placement = Placement { scale, x, y };
        let mut rasterizer = Rasterizer::new();
        let picture = rasterizer.fill(&outline, placement, Edges::Smooth).expect("a picture");
        let sum: f64 = picture.texels.iter().map(|texel| f64::from(*texel) / 255.0).sum();
        let area = f64::from(width * scale) * f64::from(height * scale);
        // Each texel of the border is rounded to a byte, and places to 24 bits.
        let border = 2.0 * f64::from(picture.width + picture.height);
        prop_assert!((sum - area).abs() < border * 0.5 / 255.0 + area * 1e-3, "{sum} for {area}");
    }
}

#[test]
fn winding_decides_what_is_inside() {
    // A square in a square: turning the same way it is filled, turning the
    // other way it is a hole.
    let square = |outline: &mut Outline, low: f32, high: f32, is_turned: bool| {
        let mut corners = [(low, low), (high, low), (high, high), (low, high)];
        if is_turned {
            corners.reverse();
        }
        outline.start(corners[0].0, corners[0].1);
        corners[1..].iter().for_each(|&(x, y)| outline.line(x, y));
    };
    let mut rasterizer = Rasterizer::new();
    let placement = Placement {
        scale: 1.0,
        x: 0.0,
        y: 0.0,
    };
    for edges in [Edges::Smooth, Edges::Hard] {
        for (is_turned, middle) in [(false, 255), (true, 0)] {
            let mut outline = Outline::new();
            square(&mut outline, 0.0, 9.0, false);
            square(&mut outline, 3.0, 6.0, is_turned);
            let picture = rasterizer
                .fill(&outline, placement, edges)
                .expect("a picture");
            assert_eq!(picture.top, -9, "y up becomes y down");
            assert_eq!(
                (picture.texels[0], picture.texels[4 * 9 + 4]),
                (255, middle)
            );
        }
    }
}

#[test]
fn a_cubic_circle_has_the_area_of_its_curve() {
    // Four cubics with handles of k = 4/3 (√2 - 1): the area under one is
    // r² (1/2 + 3k/5 - 3k²/20), from the integral of x dy over its polynomial.
    let (radius, k) = (20.0_f64, 0.552_284_749_8_f64);
    let wanted = 4.0 * radius * radius * (0.5 + 0.6 * k - 0.15 * k * k);
    let (r, h) = (radius as f32, (radius * k) as f32);
    let at = OutlinePoint::new;
    let mut outline = Outline::new();
    outline.start(r, 0.0);
    outline.cubic(at(r, h), at(h, r), at(0.0, r));
    outline.cubic(at(-h, r), at(-r, h), at(-r, 0.0));
    outline.cubic(at(-r, -h), at(-h, -r), at(0.0, -r));
    outline.cubic(at(h, -r), at(r, -h), at(r, 0.0));
    let placement = Placement {
        scale: 1.0,
        x: 0.3,
        y: 0.6,
    };
    let mut rasterizer = Rasterizer::new();
    let picture = rasterizer
        .fill(&outline, placement, Edges::Smooth)
        .expect("a picture");
    let area: f64 = picture
        .texels
        .iter()
        .map(|texel| f64::from(*texel) / 255.0)
        .sum();
    assert!((area - wanted).abs() < 0.25, "{area} for {wanted}");
}

#[test]
fn points_that_lie_nowhere_are_refused() {
    let placement = Placement {
        scale: 1.0,
        x: 0.0,
        y: 0.0,
    };
    for wrong in [f32::NAN, f32::INFINITY, f32::NEG_INFINITY] {
        for edges in [Edges::Smooth, Edges::Hard] {
            let mut outline = Outline::new();
            outline.start(0.0, 0.0);
            outline.quadratic(OutlinePoint::new(wrong, 3.0), OutlinePoint::new(9.0, 9.0));
            outline.line(9.0, 0.0);
            let mut rasterizer = Rasterizer::new();
            let error = rasterizer.fill(&outline, placement, edges);
            assert!(matches!(error, Err(RasterError::NotFinite)), "{wrong}");
        }
    }
}
