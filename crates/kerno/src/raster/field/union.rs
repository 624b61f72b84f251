//! Lines that bound what is filled, of contours that overlap.

use super::lines::{Line, cross, difference};

/// From this number of lines on, outlines are taken as they are: those were made to take long.
pub(super) const MOST: usize = 4096;

/// The most looks at a line for what lies beside the parts of others: a hundredth of a second.
const MOST_LOOKS: usize = 1 << 22;

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
    let mut looks = 0;
    for line in &whole {
        cuts.clear();
        cuts.extend([0.0, 1.0]);
        for other in &whole {
            cut(line, other, &mut cuts);
        }
        cuts.sort_unstable_by(f32::total_cmp);
        cuts.dedup();
        // Once for where it is cut, then for each part.
        looks += (cuts.len() + 1) * whole.len();
        if looks > MOST_LOOKS {
            *lines = whole;
            return;
        }
        for pair in cuts.windows(2) {
            let (from, to) = (line.at(pair[0]), line.at(pair[1]));
            let mut part = Line {
                from,
                to,
                is_smooth: line.is_smooth || pair[0] > 0.0,
                side: 0.0,
            };
            if from == to {
                continue;
            }
            if let Some(side) = filled_side(&part, &whole) {
                part.side = side;
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
    let (own, theirs) = (line.way(), other.way());
    let between = difference(line.from, other.from);
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
        let to = difference(line.from, end);
        add((to[0] * own[0] + to[1] * own[1]) / length);
    }
}

/// The side of a line that is filled, where the other one is not: 1 for its right, as it runs
/// with y down, -1 for its left.
pub(super) fn filled_side(line: &Line, all: &[Line]) -> Option<f32> {
    let middle = line.at(0.5);
    let [x, y] = line.way();
    let length = x.hypot(y);
    let aside = ASIDE.min(length) / length;
    let left = [middle[0] + y * aside, middle[1] - x * aside];
    let right = [middle[0] - y * aside, middle[1] + x * aside];
    match (winding(left, all) != 0, winding(right, all) != 0) {
        (false, true) => Some(1.0),
        (true, false) => Some(-1.0),
        _ => None,
    }
}

/// The winding number of a place.
pub(super) fn winding(at: [f32; 2], lines: &[Line]) -> i32 {
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
