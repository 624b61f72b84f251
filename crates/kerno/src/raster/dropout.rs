//! Drop-out control: hard pictures keep what is thinner than a pixel (OpenType, “The scan
//! converter”, rules 2a, 2b, 3 and 4: stubs stay out).

use super::Coverage;
use super::placement::Placement;
use crate::base::Join;
use crate::outline::{Contours, Stroke};

/// The farthest that lines may lie from the curves they stand for, in pixels.
const TOLERANCE: f32 = 1.0 / 64.0;

/// A straight part of an outline, in pixels of the picture.
type Line = [(f32, f32); 2];

/// A stretch of the middle of a row or a column that lies inside.
type Stretch = (f32, f32);

/// Turns on the pixels of parts that lie between the centres of two neighbours and go on at
/// both ends, where neither of the two is on.
pub(super) fn keep_thin(contours: &Contours, placement: Placement, picture: &mut Coverage) {
    let lines = lines(contours, placement);
    let (width, height) = (picture.width as usize, picture.height as usize);
    let mut found: Vec<(usize, usize)> = Vec::new();
    let is_on = |x: usize, y: usize| x < width && y < height && picture.texels[y * width + x] != 0;
    let rows = stretches(&lines, height);
    each_thin(&rows, width, |row, column, other| {
        if !is_on(column, row) && !is_on(other, row) {
            found.push((column, row));
        }
    });
    let turned: Vec<Line> = lines.iter().map(|line| line.map(|(x, y)| (y, x))).collect();
    let columns = stretches(&turned, width);
    each_thin(&columns, height, |column, row, other| {
        if !is_on(column, row) && !is_on(column, other) {
            found.push((column, row));
        }
    });
    for (x, y) in found {
        picture.texels[y * width + x] = 255;
    }
}

fn lines(contours: &Contours, placement: Placement) -> Vec<Line> {
    let flat = Stroke {
        half: 0.0,
        join: Join::Bevel,
        tolerance: TOLERANCE / placement.scale,
    };
    let mut lines = Vec::new();
    for contour in contours.each() {
        let row = flat.flattened(contour);
        let places: Vec<(f32, f32)> = row.iter().map(|point| placement.place(*point)).collect();
        let following = places.iter().cycle().skip(1);
        lines.extend(places.iter().zip(following).map(|(from, to)| [*from, *to]));
    }
    lines
}

/// The stretches inside, by the non-zero rule, along the middle of each row.
fn stretches(lines: &[Line], count: usize) -> Vec<Vec<Stretch>> {
    let mut crossings: Vec<Vec<(f32, i32)>> = vec![Vec::new(); count];
    for [from, to] in lines {
        let (low, high, way) = match from.1 <= to.1 {
            true => (from, to, 1),
            false => (to, from, -1),
        };
        let first = (low.1 - 0.5).ceil().max(0.0) as usize;
        let last = ((high.1 - 0.5).ceil().max(0.0) as usize).min(count);
        for (row, crossings) in crossings.iter_mut().enumerate().take(last).skip(first) {
            let share = (row as f32 + 0.5 - low.1) / (high.1 - low.1);
            crossings.push((low.0 + (high.0 - low.0) * share, way));
        }
    }
    let inside = |mut row: Vec<(f32, i32)>| {
        row.sort_by(|a, b| a.0.total_cmp(&b.0));
        let (mut winding, mut start) = (0, 0.0);
        let mut stretches = Vec::new();
        for (x, way) in row {
            if winding == 0 {
                start = x;
            }
            winding += way;
            if winding == 0 {
                stretches.push((start, x));
            }
        }
        stretches
    };
    crossings.into_iter().map(inside).collect()
}

/// Finds the stretches that hold no centre and go on in both neighbouring rows: the row, the
/// pixel nearest to its middle, and the one on its other side.
fn each_thin(rows: &[Vec<Stretch>], count: usize, mut found: impl FnMut(usize, usize, usize)) {
    let goes_on = |row: Option<usize>, (start, end): Stretch| {
        let row = row.and_then(|row| rows.get(row));
        let mut near = row.into_iter().flatten();
        near.any(|other| other.0 <= end + 1.0 && other.1 >= start - 1.0)
    };
    for (row, stretches) in rows.iter().enumerate() {
        for stretch in stretches {
            let (start, end) = *stretch;
            let after = (start - 0.5).ceil();
            if after + 1.5 < end {
                continue; // There are centres.
            }
            if !goes_on(row.checked_sub(1), *stretch) || !goes_on(Some(row + 1), *stretch) {
                continue;
            }
            // A centre on the very edge may have counted as outside.
            let has_center = after + 0.5 < end;
            let pixel = match has_center {
                true => after,
                false => ((start + end) * 0.5).floor(),
            };
            let other = match pixel < after {
                _ if has_center => pixel,
                true => after,
                false => after - 1.0,
            };
            if pixel >= 0.0 && (pixel as usize) < count {
                // Beyond the picture nothing is on.
                let other = if other < 0.0 {
                    usize::MAX
                } else {
                    other as usize
                };
                found(row, pixel as usize, other);
            }
        }
    }
}
