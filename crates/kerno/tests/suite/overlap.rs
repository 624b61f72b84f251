//! Contours that overlap, against winding numbers counted line by line.

use kerno::Face;
use kerno::base::{Edges, Treatment};
use kerno::outline::{Outline, OutlinePoint};
use kerno::raster::{Coverage, GlyphRequest, Placement, Rasterizer, Subpixel};
use proptest::prelude::*;

use crate::raster::{Corner, polygons};
use crate::support::{FontBuilder, lato, words};

/// Lines on which the reference counts, for each row of pixels.
const LINES: u32 = 128;

/// Coverage by the non-zero rule, 0 to 255, of every pixel of a picture: along each of many
/// level lines exactly.
fn non_zero(polygons: &[Vec<Corner>], picture: &Coverage) -> Vec<f64> {
    let mut areas = vec![0.0; (picture.width * picture.height) as usize];
    for line in 0..picture.height * LINES {
        let y = f64::from(picture.top) + (f64::from(line) + 0.5) / f64::from(LINES);
        let mut crossings: Vec<(f64, i32)> = Vec::new();
        for polygon in polygons {
            for (index, to) in polygon.iter().enumerate() {
                let from = polygon[(index + polygon.len() - 1) % polygon.len()];
                if (from.1 <= y) != (to.1 <= y) {
                    let x = from.0 + (y - from.1) / (to.1 - from.1) * (to.0 - from.0);
                    crossings.push((x - f64::from(picture.left), if to.1 > y { 1 } else { -1 }));
                }
            }
        }
        crossings.sort_by(|a, b| a.0.total_cmp(&b.0));
        let row = (line / LINES * picture.width) as usize;
        let mut winding = 0;
        for pair in crossings.windows(2) {
            winding += pair[0].1;
            if winding == 0 {
                continue;
            }
            let (start, end) = (pair[0].0, pair[1].0);
            for column in start.max(0.0) as u32..picture.width.min(end.ceil() as u32) {
                let covered = end.min(f64::from(column) + 1.0) - start.max(f64::from(column));
                areas[row + column as usize] += covered.max(0.0) * 255.0 / f64::from(LINES);
            }
        }
    }
    areas
}

/// The largest and the mean difference of a picture from the reference.
fn difference(picture: &Coverage, polygons: &[Vec<Corner>]) -> (f64, f64) {
    let wanted = non_zero(polygons, picture);
    let off = picture
        .texels
        .iter()
        .zip(&wanted)
        .map(|(got, wanted)| (f64::from(*got) - wanted).abs());
    let (worst, sum) = off.fold((0.0, 0.0), |(worst, sum): (f64, f64), off| {
        (worst.max(off), sum + off)
    });
    (worst, sum / wanted.len().max(1) as f64)
}

/// Closed contours of lines.
fn outline(contours: &[Vec<(f32, f32)>]) -> Outline {
    let mut outline = Outline::new();
    for contour in contours {
        outline.move_to(contour[0].0, contour[0].1);
        for (x, y) in &contour[1..] {
            outline.line_to(*x, *y);
        }
    }
    outline
}

const AS_IT_IS: Placement = Placement {
    scale: 1.0,
    x: 0.0,
    y: 0.0,
};

#[test]
fn an_edge_that_two_contours_share_counts_once() {
    // Both cover the left half of the pixel.
    let half = vec![(0.0, 0.0), (0.5, 0.0), (0.5, 1.0), (0.0, 1.0)];
    let mut rasterizer = Rasterizer::new();
    let picture = rasterizer.fill(
        &outline(&[half.clone(), half.clone()]),
        AS_IT_IS,
        Edges::Smooth,
    );
    assert_eq!(picture.expect("a picture").texels, [128]);
    // The other way round they still are filled, and a hole is still a hole.
    let back: Vec<_> = half.iter().rev().copied().collect();
    let picture = rasterizer.fill(
        &outline(&[back.clone(), back.clone()]),
        AS_IT_IS,
        Edges::Smooth,
    );
    assert_eq!(picture.expect("a picture").texels, [128]);
    let picture = rasterizer.fill(&outline(&[half, back]), AS_IT_IS, Edges::Smooth);
    assert_eq!(picture.expect("a picture").texels, [0]);
    // A bar and a stem, half a pixel each, that cross in one pixel: 1 - 1/4.
    let bar = vec![(0.0, 0.0), (2.0, 0.0), (2.0, 0.5), (0.0, 0.5)];
    let stem = vec![(0.5, 0.0), (1.0, 0.0), (1.0, 1.0), (0.5, 1.0)];
    let picture = rasterizer.fill(&outline(&[bar, stem]), AS_IT_IS, Edges::Smooth);
    assert_eq!(picture.expect("a picture").texels, [191, 128]);
}

proptest! {
    #[test]
    fn any_polygons_are_filled_by_the_rule(
        contours in prop::collection::vec(
            prop::collection::vec((0.0_f32..12.0, 0.0_f32..9.0), 3..7),
            1..5,
        ),
    ) {
        let outline = outline(&contours);
        let mut rasterizer = Rasterizer::new();
        let picture = rasterizer.fill(&outline, AS_IT_IS, Edges::Smooth).expect("a picture");
        let (worst, mean) = difference(picture, &polygons(&outline, 1.0, 0.0));
        prop_assert!(worst <= 4.0 && mean <= 0.5, "{worst} at most, {mean} in the mean");
    }

    #[test]
    fn curves_that_overlap_are_filled_by_the_rule(
        rings in prop::collection::vec((2.0_f32..10.0, 2.0_f32..10.0, 0.7_f32..4.0, any::<bool>()), 2..5),
    ) {
        let mut outline = Outline::new();
        for (x, y, radius, is_back) in rings {
            let turn = if is_back { -1.0 } else { 1.0 };
            let at = |dx: f32, dy: f32| OutlinePoint::new(x + dx * radius, y + dy * radius * turn);
            outline.move_to(x + radius, y);
            for (cx, cy, ex, ey) in
                [(1.0, 1.0, 0.0, 1.0), (-1.0, 1.0, -1.0, 0.0), (-1.0, -1.0, 0.0, -1.0), (1.0, -1.0, 1.0, 0.0)]
            {
                outline.quad_to(at(cx, cy), at(ex, ey));
            }
        }
        let mut rasterizer = Rasterizer::new();
        let picture = rasterizer.fill(&outline, AS_IT_IS, Edges::Smooth).expect("a picture");
        let (worst, mean) = difference(picture, &polygons(&outline, 1.0, 0.0));
        prop_assert!(worst <= 4.0 && mean <= 0.5, "{worst} at most, {mean} in the mean");
    }
}

/// The letters of a face at some sizes: the worst pixel and the mean.
fn of_letters(face: &Face, characters: impl Iterator<Item = char> + Clone) -> (f64, f64) {
    let (mut worst, mut sum, mut count): (f64, f64, f64) = (0.0, 0.0, 0.0);
    let (mut rasterizer, mut outline) = (Rasterizer::new(), Outline::new());
    for (size, quarter) in [(11.0, 1), (24.3, 3)] {
        for glyph in characters
            .clone()
            .filter_map(|character| face.glyph(character))
        {
            face.outline(glyph, &mut outline).expect("an outline");
            let picture = rasterizer
                .glyph(&GlyphRequest::new(face, glyph, size).subpixel(Subpixel::new(quarter, 4)))
                .expect("a picture");
            let scale = f64::from(size) / f64::from(face.metrics().units_per_em);
            let (own, mean) = difference(
                picture,
                &polygons(&outline, scale, f64::from(quarter) / 4.0),
            );
            worst = worst.max(own);
            (sum, count) = (sum + mean, count + 1.0);
        }
    }
    (worst, sum / count)
}

/// Other fonts are looked at where the variable `FONTS` names files, parted by colons:
///
/// ```sh
/// FONTS=one.ttf:two.ttf cargo test -p kerno --test suite letters_of_any_face
/// ```
#[test]
fn letters_of_any_face_are_filled_by_the_rule() {
    let mut faces = vec![lato()];
    if let Ok(paths) = std::env::var("FONTS") {
        faces.extend(
            paths
                .split(':')
                .map(|path| Face::from_file(path).expect("a font")),
        );
    }
    for face in faces {
        let (worst, mean) = of_letters(&face, ('!'..='~').chain('¡'..='¿'));
        println!(
            "{:?}: {worst:.2} of 255 at most, {mean:.3} in the mean",
            face.full_name()
        );
        assert!(
            worst <= 4.0 && mean <= 0.5,
            "{worst} at most, {mean} in the mean"
        );
    }
}

#[test]
fn an_outline_that_was_made_to_take_long_comes_to_an_end() {
    // A star of 60,000 lines, each of which crosses nearly all others.
    let count = 30_000;
    let place = |at: i32, step: i64| (i64::from(at) * step % 32_000) as i32;
    let points: Vec<i32> = (0..count)
        .flat_map(|at| [place(at, 7919), place(at, 104_729)])
        .collect();
    let mut glyph = words(&[1, 0, 0, 32_000, 32_000, count - 1, 0]);
    glyph.extend((0..count).map(|_| 1_u8));
    for axis in 0..2 {
        let mut last = 0;
        for point in points.chunks(2).take(count as usize) {
            glyph.extend(words(&[point[axis] - last]));
            last = point[axis];
        }
    }
    let face = FontBuilder::new(&[glyph]).face();
    let start = std::time::Instant::now();
    let mut rasterizer = Rasterizer::new();
    let _ = rasterizer.glyph(
        &GlyphRequest::new(&face, kerno::font::GlyphId(0), 60.0)
            .treatment(Treatment::from(Edges::Smooth)),
    );
    assert!(start.elapsed().as_secs() < 60);
}
