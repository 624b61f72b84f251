//! Coverage against an independent computation: every pixel's square is cut
//! out of the outline as a polygon, in 64 bits, and its area taken.

use kerno::Face;
use kerno::base::Edges;
use kerno::font::GlyphId;
use kerno::outline::{Outline, OutlinePoint, Segment};
use kerno::raster::{Coverage, GlyphRequest, Placement, RasterError, Rasterizer, Subpixel};

use proptest::prelude::*;

use crate::support::{FontBuilder, averia, glyph, lato, misaki, polygon};

/// A unit is a pixel, and the origin a corner of one.
const AS_IT_IS: Placement = Placement {
    scale: 1.0,
    x: 0.0,
    y: 0.0,
};

pub(crate) type Corner = (f64, f64);

/// The outline as polygons in device pixels, y down; curves in 64 chords.
pub(crate) fn polygons(outline: &Outline, scale: f64, shift_x: f64) -> Vec<Vec<Corner>> {
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
fn difference(face: &Face, text: &str, size: f32, quarter: Subpixel) -> (f64, f64) {
    let mut rasterizer = Rasterizer::new();
    let mut outline = Outline::new();
    let (mut worst, mut sum, mut count): (f64, f64, usize) = (0.0, 0.0, 0);
    for character in text.chars() {
        let id = glyph(face, character);
        face.outline(id, &mut outline).expect("an outline");
        let scale = f64::from(size) / f64::from(face.metrics().units_per_em);
        let polygons = polygons(&outline, scale, f64::from(quarter.shift()));
        let picture = rasterizer
            .glyph(&GlyphRequest::new(face, id, size).subpixel(quarter))
            .expect("a picture");
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
    for (face, size, quarter) in [
        (lato(), 9.0, 0),
        (lato(), 16.0, 1),
        (lato(), 32.0, 2),
        (lato(), 33.7, 3),
        // The foot of the R ends in the very corner of its picture.
        (lato(), 32.0, 0),
        (averia(), 24.0, 0),
    ] {
        let (worst, mean) = difference(&face, &ascii(), size, Subpixel::new(quarter, 4));
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
    let (worst, mean) = difference(&lato(), "@&S8", 300.0, Subpixel::WHOLE);
    println!("worst {worst:.3}, mean {mean:.4}");
    assert!(worst <= 2.0 && mean < 0.3, "{worst} {mean}");
}

#[test]
fn the_tops_of_arches_lie_in_their_rows() {
    // The middle chord of an arch is level, and what the curve rises above it belongs
    // to its own row.
    let mut rasterizer = Rasterizer::new();
    for step in 4..400 {
        let (width, height) = (step as f32 * 0.1, step as f32 * 0.07);
        let mut outline = Outline::new();
        outline.move_to(0.0, 0.0);
        let control = OutlinePoint::new(width * 0.5, height);
        outline.quad_to(control, OutlinePoint::new(width, 0.0));
        let placement = Placement {
            scale: 1.0,
            x: 0.3,
            y: 0.0,
        };
        let picture = rasterizer.fill(&outline, placement, Edges::Smooth);
        let picture = picture.expect("a picture");
        let wanted = exact(&polygons(&outline, 1.0, f64::from(placement.x)), picture);
        for (got, wanted) in picture.texels.iter().zip(wanted) {
            let off = (f64::from(*got) - wanted).abs();
            assert!(off <= 1.5, "{width} × {height}: {off} of 255 off");
        }
    }
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
        let picture = rasterizer
            .glyph(&GlyphRequest::new(&face, glyph(&face, character), 8.0).treatment(edges));
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
    outline.move_to(0.0, 0.0);
    outline.line_to(4.0, 0.0);
    outline.line_to(0.0, 4.0);
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

#[test]
fn a_contour_begins_at_the_origin_unless_it_is_told_where() {
    let mut outline = Outline::new();
    outline.line_to(4.0, 0.0);
    outline.line_to(4.0, 2.0);
    let mut rasterizer = Rasterizer::new();
    let picture = rasterizer.fill(&outline, AS_IT_IS, Edges::Smooth);
    // Below the diagonal of a rectangle of 4 × 2: a quarter of the first square is
    // left of where it rises by a half.
    assert_eq!(
        picture.expect("a picture").texels,
        [0, 0, 64, 191, 64, 191, 255, 255]
    );
}

#[test]
fn a_long_curve_has_its_area() {
    // A parabola holds two thirds of the box around it (Archimedes); its curve falls
    // into some thousand chords. The second is in a picture as large as may be.
    let mut rasterizer = Rasterizer::new();
    for (width, height) in [(1800.0, 800.0), (4096.0, 2048.0)] {
        let mut outline = Outline::new();
        outline.move_to(0.0, 0.0);
        let control = OutlinePoint::new(width * 0.5, height * 2.0);
        outline.quad_to(control, OutlinePoint::new(width, 0.0));
        let wanted = 2.0 / 3.0 * f64::from(width * height);
        for (edges, tolerance) in [(Edges::Smooth, 2.0), (Edges::Hard, 200.0)] {
            let picture = rasterizer.fill(&outline, AS_IT_IS, edges);
            let texels = &picture.expect("a picture").texels;
            let area: f64 = texels.iter().map(|texel| f64::from(*texel) / 255.0).sum();
            assert!(
                (area - wanted).abs() < tolerance,
                "{edges:?}: {area} for {wanted}"
            );
        }
    }
}

#[test]
fn hard_edges_leave_no_streaks() {
    // At the joint of two edges a row must be crossed once: else it is
    // filled from there to the border, where smooth edges show nothing.
    let face = lato();
    let (mut smooth, mut hard) = (Rasterizer::new(), Rasterizer::new());
    for glyph in (0..face.glyph_count()).step_by(7).map(GlyphId) {
        for size in [9.0, 20.0, 200.0] {
            let request = GlyphRequest::new(&face, glyph, size);
            let smooth = smooth.glyph(&request);
            let hard = hard.glyph(&request.treatment(Edges::Hard));
            let (smooth, hard) = (smooth.expect("a picture"), hard.expect("a picture"));
            let wrong =
                |(smooth, hard): (&u8, &u8)| [(0, 255), (255, 0)].contains(&(*smooth, *hard));
            let wrong = smooth
                .texels
                .iter()
                .zip(&hard.texels)
                .filter(|pair| wrong(*pair));
            assert_eq!(wrong.count(), 0, "{glyph:?} at {size} px");
        }
    }
}

/// The sides of polygons.
fn sides(polygons: &[Vec<Corner>]) -> impl Iterator<Item = (Corner, Corner)> {
    polygons.iter().flat_map(|polygon| {
        let following = polygon.iter().cycle().skip(1);
        polygon.iter().copied().zip(following.copied())
    })
}

/// The distance of a place from the nearest side of polygons.
fn distance(polygons: &[Vec<Corner>], (x, y): Corner) -> f64 {
    let distances = sides(polygons).map(|(a, b)| {
        let (dx, dy) = (b.0 - a.0, b.1 - a.1);
        let along = ((x - a.0) * dx + (y - a.1) * dy) / (dx * dx + dy * dy).max(1e-12);
        let along = along.clamp(0.0, 1.0);
        (a.0 + along * dx - x).hypot(a.1 + along * dy - y)
    });
    distances.fold(f64::INFINITY, f64::min)
}

/// The winding number of polygons around a place.
fn winding(polygons: &[Vec<Corner>], (x, y): Corner) -> i32 {
    let mut winding = 0;
    for (a, b) in sides(polygons) {
        let is_down = a.1 <= y && y < b.1;
        let is_crossed = is_down || (b.1 <= y && y < a.1);
        if is_crossed && a.0 + (b.0 - a.0) * (y - a.1) / (b.1 - a.1) <= x {
            winding += if is_down { 1 } else { -1 };
        }
    }
    winding
}

proptest! {
    // Each case asks all pixels for the distance of all sides.
    #![proptest_config(ProptestConfig::with_cases(64))]

    /// Hard pixels are on where the contours wind around their centres, however these
    /// cross; only where an edge passes a centre closely it may be on either side.
    #[test]
    fn hard_pixels_are_those_that_are_wound_around(
        contours in prop::collection::vec(
            prop::collection::vec((-40_i16..40, -40_i16..40, any::<bool>()), 3..9),
            1..4,
        ),
        scale in prop::sample::select(vec![0.1_f32, 0.25, 0.5, 1.0, 1.7]),
        (x, y) in (-2.0_f32..2.0, -2.0_f32..2.0),
    ) {
        let at = |&(x, y, _): &(i16, i16, bool)| OutlinePoint::new(x.into(), y.into());
        let mut outline = Outline::new();
        for contour in &contours {
            let first = at(&contour[0]);
            outline.move_to(first.x, first.y);
            for pair in contour[1..].chunks(2) {
                match pair {
                    [control, end] if control.2 => outline.quad_to(at(control), at(end)),
                    _ => pair.iter().map(at).for_each(|to| outline.line_to(to.x, to.y)),
                }
            }
        }
        let mut rasterizer = Rasterizer::new();
        let placement = Placement { scale, x, y };
        let picture = rasterizer.fill(&outline, placement, Edges::Hard).expect("a picture");
        let mut polygons = polygons(&outline, scale.into(), x.into());
        polygons.iter_mut().flatten().for_each(|corner| corner.1 += f64::from(y));
        for (index, texel) in picture.texels.iter().enumerate() {
            let (column, row) = (index as u32 % picture.width, index as u32 / picture.width);
            let (x, y) = (picture.left as f64 + 0.5, picture.top as f64 + 0.5);
            let (x, y) = (x + f64::from(column), y + f64::from(row));
            if distance(&polygons, (x, y)) > 0.1 {
                let is_in = winding(&polygons, (x, y)) != 0;
                // A pixel that is on besides keeps something thin: an edge runs through it.
                let is_thin = *texel > 0 && distance(&polygons, (x, y)) < 0.75;
                prop_assert!((*texel > 0) == is_in || is_thin, "pixel {} {}", column, row);
            }
        }
    }

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
        outline.move_to(left, bottom);
        outline.line_to(left, bottom + height);
        outline.line_to(left + width, bottom + height);
        outline.line_to(left + width, bottom);
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
    let square = |outline: &mut Outline, low: f32, high: f32, is_rotated: bool| {
        let mut corners = [(low, low), (high, low), (high, high), (low, high)];
        if is_rotated {
            corners.reverse();
        }
        outline.move_to(corners[0].0, corners[0].1);
        corners[1..]
            .iter()
            .for_each(|&(x, y)| outline.line_to(x, y));
    };
    let mut rasterizer = Rasterizer::new();
    for edges in [Edges::Smooth, Edges::Hard] {
        for (is_rotated, middle) in [(false, 255), (true, 0)] {
            let mut outline = Outline::new();
            square(&mut outline, 0.0, 9.0, false);
            square(&mut outline, 3.0, 6.0, is_rotated);
            let picture = rasterizer
                .fill(&outline, AS_IT_IS, edges)
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
    outline.move_to(r, 0.0);
    outline.curve_to(at(r, h), at(h, r), at(0.0, r));
    outline.curve_to(at(-h, r), at(-r, h), at(-r, 0.0));
    outline.curve_to(at(-r, -h), at(-h, -r), at(0.0, -r));
    outline.curve_to(at(h, -r), at(r, -h), at(r, 0.0));
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
    for wrong in [f32::NAN, f32::INFINITY, f32::NEG_INFINITY] {
        for edges in [Edges::Smooth, Edges::Hard] {
            let mut outline = Outline::new();
            outline.move_to(0.0, 0.0);
            outline.quad_to(OutlinePoint::new(wrong, 3.0), OutlinePoint::new(9.0, 9.0));
            outline.line_to(9.0, 0.0);
            let mut rasterizer = Rasterizer::new();
            let error = rasterizer.fill(&outline, AS_IT_IS, edges);
            assert!(matches!(error, Err(RasterError::NotFinite)), "{wrong}");
        }
    }
}

/// The number of parts of a picture, of pixels that touch by a side or a corner.
fn parts(picture: &Coverage) -> usize {
    let (width, height) = (picture.width as i32, picture.height as i32);
    let mut left: Vec<bool> = picture.texels.iter().map(|texel| *texel > 127).collect();
    let mut count = 0;
    while let Some(first) = left.iter().position(|on| *on) {
        count += 1;
        left[first] = false;
        let mut open = vec![first as i32];
        while let Some(at) = open.pop() {
            for (x, y) in (-1..=1).flat_map(|x| (-1..=1).map(move |y| (x, y))) {
                let (x, y) = (at % width + x, at / width + y);
                let is_inside = (0..width).contains(&x) && (0..height).contains(&y);
                if is_inside && std::mem::take(&mut left[(y * width + x) as usize]) {
                    open.push(y * width + x);
                }
            }
        }
    }
    count
}

#[test]
fn hard_edges_lose_no_thin_part() {
    // A stem and a bow of 40 units, half a pixel at 12 px, wherever they stand.
    let stem = polygon(&[(0, 0), (40, 0), (40, 700), (0, 700)]);
    let slope = polygon(&[(0, 0), (40, 0), (400, 700), (360, 700)]);
    let bar = polygon(&[(0, 300), (700, 300), (700, 340), (0, 340)]);
    let face = FontBuilder::new(&[vec![], stem, slope, bar]).face();
    let mut rasterizer = Rasterizer::new();
    for glyph in 1..=3 {
        for index in 0..16 {
            let request = GlyphRequest::new(&face, GlyphId(glyph), 12.0)
                .subpixel(Subpixel::new(index, 16))
                .treatment(Edges::Hard);
            let picture = rasterizer.glyph(&request).expect("a picture");
            assert_eq!(parts(picture), 1, "glyph {glyph} at {index}/16");
            let on = picture.texels.iter().filter(|texel| **texel > 0).count();
            // One pixel in every row or column that it passes, but at its ends.
            assert!((6..=10).contains(&on), "glyph {glyph} at {index}/16: {on}");
        }
    }
    // Letters at small sizes have no more parts than the same drawn large.
    for face in [lato(), averia()] {
        for letter in ('a'..='z').chain('A'..='Z') {
            let glyph = face.glyph(letter).expect("a letter");
            let large = GlyphRequest::new(&face, glyph, 200.0);
            let wanted = parts(rasterizer.glyph(&large).expect("a picture"));
            for size in [9.0, 11.0, 12.0, 14.0, 17.0] {
                let request = GlyphRequest::new(&face, glyph, size).treatment(Edges::Hard);
                let found = parts(rasterizer.glyph(&request).expect("a picture"));
                assert!(
                    (1..=wanted).contains(&found),
                    "{letter} at {size}: {found} parts"
                );
            }
        }
    }
}

#[test]
fn grid_fitted_letters_end_on_whole_pixels() {
    let mut rasterizer = Rasterizer::new();
    let mut blurred = 0;
    for face in [lato(), averia()] {
        for size in 9..=24 {
            // Rows of a picture with the most that any of their pixels covers.
            let mut rows = |letter: char, edges: Edges| {
                let request = GlyphRequest::new(&face, glyph(&face, letter), size as f32);
                let picture = rasterizer
                    .glyph(&request.treatment(edges))
                    .expect("a picture");
                let rows = picture.texels.chunks(picture.width as usize);
                let most: Vec<u8> = rows.map(|row| *row.iter().max().expect("a row")).collect();
                (picture.top, most)
            };
            for (flat, round) in [('x', 'o'), ('H', 'O'), ('z', 'e')] {
                let (top, most) = rows(flat, Edges::GridFitted);
                let case = format!("{flat} at {size}: {most:?}");
                // It is no fainter where it ends than in the next row.
                assert!(i32::from(most[0]) + 60 >= i32::from(most[1]), "{case}");
                assert!(most[most.len() - 1] >= 60, "{case}");
                // It stands on the baseline.
                assert_eq!(top + most.len() as i32, 0, "{case}");
                let (top_round, most) = rows(round, Edges::GridFitted);
                assert_eq!(
                    (top_round, top_round + most.len() as i32),
                    (top, 0),
                    "{case}"
                );
                // The nearest whole pixel to the height that it is drawn in.
                let outline = {
                    let mut outline = Outline::new();
                    let glyph = glyph(&face, flat);
                    face.outline(glyph, &mut outline).expect("an outline");
                    outline
                };
                let scale = f64::from(size) / f64::from(face.metrics().units_per_em);
                let points = polygons(&outline, scale, 0.0);
                let height = points.iter().flatten().map(|(_, y)| -y).fold(0.0, f64::max);
                assert!((height + f64::from(top)).abs() <= 0.51, "{case}: {height}");
                let (_, plain) = rows(flat, Edges::Smooth);
                blurred += i32::from(plain[0] < 60);
            }
        }
    }
    assert!(blurred > 20, "smooth ones do not: {blurred}");
}
