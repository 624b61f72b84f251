//! Lines that bound what is filled, of contours that overlap.

use super::lines::Line;

/// From this number of lines on, outlines are taken as they are: those were made to take long.
const MOST: usize = 4096;

/// The distance at which it is asked what lies on a side of a line, in texels.
const ASIDE: f32 = 1.0 / 512.0;

/// Leaves out lines with the same on both sides, filled or empty, by the non-zero winding
/// rule; cuts lines where others cross them first.
pub(super) fn keep_boundary(lines: &mut Vec<Line>) {
    if lines.len() > MOST {
        return;
    }
    let whole = std::mem::take(lines);
    let mut cuts = Vec::new();
    for line in &whole {
        cuts.clear();
        cuts.extend([0.0, 1.0]);
        for other in &whole {
            cut(line, other, &mut cuts);
        }
        cuts.sort_unstable_by(f32::total_cmp);
        cuts.dedup();
        for pair in cuts.windows(2) {
            let (from, to) = (line.at(pair[0]), line.at(pair[1]));
            let part = Line { from, to };
            if from != to && is_boundary(&part, &whole) {
                lines.push(part);
            }
        }
    }
}

/// Adds the shares of the way at which another line meets one.
fn cut(line: &Line, other: &Line, cuts: &mut Vec<f32>) {
    for axis in 0..2 {
        let (own, theirs) = (line.extent(axis), other.extent(axis));
        if own.0 > theirs.1 || theirs.0 > own.1 {
            return;
        }
    }
    let way = |line: &Line| [0, 1].map(|axis| line.to[axis] - line.from[axis]);
    let cross = |a: [f32; 2], b: [f32; 2]| a[0] * b[1] - a[1] * b[0];
    let (own, theirs) = (way(line), way(other));
    let between = [0, 1].map(|axis| other.from[axis] - line.from[axis]);
    let area = cross(own, theirs);
    let mut add = |share: f32| {
        if share > 0.0 && share < 1.0 {
            cuts.push(share);
        }
    };
    if area != 0.0 {
        let (share, their_share) = (cross(between, theirs) / area, cross(between, own) / area);
        if (0.0..=1.0).contains(&their_share) {
            add(share);
        }
        return;
    }
    // Side by side: they may lie upon each other from end to end.
    let length = own[0] * own[0] + own[1] * own[1];
    for end in [other.from, other.to] {
        let to = [0, 1].map(|axis| end[axis] - line.from[axis]);
        add((to[0] * own[0] + to[1] * own[1]) / length);
    }
}

/// Returns whether one side of a line is filled, and the other one is not.
fn is_boundary(line: &Line, all: &[Line]) -> bool {
    let middle = line.at(0.5);
    let (x, y) = (line.to[0] - line.from[0], line.to[1] - line.from[1]);
    let length = x.hypot(y);
    let aside = ASIDE.min(length) / length;
    let left = [middle[0] + y * aside, middle[1] - x * aside];
    let right = [middle[0] - y * aside, middle[1] + x * aside];
    (winding(left, all) != 0) != (winding(right, all) != 0)
}

/// The winding number of a place.
fn winding(at: [f32; 2], lines: &[Line]) -> i32 {
    let mut winding = 0;
    for line in lines {
        let ([x, y], [_, below]) = (line.from, line.to);
        let direction = match (y <= at[1], below <= at[1]) {
            (true, false) => 1,
            (false, true) => -1,
            _ => continue,
        };
        let share = (at[1] - y) / (below - y);
        if x + (line.to[0] - x) * share > at[0] {
            winding += direction;
        }
    }
    winding
}
