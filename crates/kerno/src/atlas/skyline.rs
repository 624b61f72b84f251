//! The packer: rectangles onto one page, one after another.

use super::TexelRect;

/// Places rectangles on a page as they come. It keeps the skyline, the edge of
/// what is taken, and puts each rectangle where its bottom ends up lowest; among
/// equals, where it shuts off the least area beneath itself. What is shut off is
/// kept as holes, and a rectangle that fits one goes there.
#[derive(Clone, Debug)]
pub struct Skyline {
    width: u16,
    height: u16,
    /// Level stretches from left to right without gaps.
    levels: Vec<Level>,
    /// Free rectangles behind the skyline, apart from each other.
    holes: Vec<TexelRect>,
    /// No hole is wider, none higher, none has a shorter side that is longer: most
    /// rectangles need not ask them all.
    largest_hole: [u16; 3],
    /// No level is lower, as far as was seen when something last found no room: a
    /// page that is nearly full says no at once.
    lowest: u16,
    /// Working memory: levels where a rectangle may come to rest.
    edges: Vec<u16>,
}

/// The least side of a hole worth keeping, in texels.
const LEAST_HOLE: u16 = 3;

/// The narrowest level worth keeping between two higher ones, in texels.
const LEAST_GAP: u16 = 5;

/// The most holes that are kept: the search walks over all.
const MOST_HOLES: usize = 96;

/// A stretch of the skyline: everything above `y` is free.
#[derive(Clone, Copy, Debug)]
struct Level {
    x: u16,
    width: u16,
    y: u16,
}

impl Skyline {
    /// An empty page, in texels.
    pub fn new(width: u16, height: u16) -> Self {
        let floor = Level { x: 0, width, y: 0 };
        Self {
            width,
            height,
            levels: vec![floor],
            holes: Vec::new(),
            largest_hole: [0; 3],
            lowest: 0,
            edges: Vec::new(),
        }
    }

    /// A page on which some rectangles are taken, wherever they lie; they may not
    /// overlap. All that is free around them is kept as holes.
    pub(super) fn around(width: u16, height: u16, taken: &[TexelRect]) -> Self {
        let mut page = Self::new(width, height);
        page.levels[0].y = height;
        page.lowest = height;
        // Bands between neighbouring edges: in each, the gaps between rectangles,
        // which go on from the band above where they are the same.
        let mut edges: Vec<u16> = taken.iter().flat_map(|r| [r.y, r.y + r.height]).collect();
        edges.extend([0, height]);
        edges.sort_unstable();
        edges.dedup();
        let mut open: Vec<TexelRect> = Vec::new();
        for band in edges.windows(2) {
            let (top, bottom) = (band[0], band[1]);
            let mut inside: Vec<&TexelRect> = taken
                .iter()
                .filter(|rect| rect.y < bottom && rect.y + rect.height > top)
                .collect();
            inside.sort_unstable_by_key(|rect| rect.x);
            let mut gaps = Vec::new();
            let mut x = 0;
            for (start, end) in inside
                .iter()
                .map(|rect| (rect.x, rect.x + rect.width))
                .chain([(width, width)])
            {
                if start > x {
                    gaps.push((x, start - x));
                }
                x = end;
            }
            let going_on = |hole: &TexelRect| gaps.contains(&(hole.x, hole.width));
            let (mut kept, ended): (Vec<_>, Vec<_>) = open.drain(..).partition(going_on);
            for hole in &mut kept {
                hole.height = bottom - hole.y;
            }
            for (x, gap) in gaps {
                if !kept.iter().any(|hole| (hole.x, hole.width) == (x, gap)) {
                    kept.push(TexelRect {
                        x,
                        y: top,
                        width: gap,
                        height: bottom - top,
                    });
                }
            }
            page.holes.extend(ended);
            open = kept;
        }
        page.holes.extend(open);
        for hole in &page.holes {
            grow(&mut page.largest_hole, measures(hole.width, hole.height));
        }
        page
    }

    /// Takes a place of `width` by `height` texels, or `None` where there is
    /// none left (or one of them is 0).
    pub fn place(&mut self, width: u16, height: u16) -> Option<TexelRect> {
        if width == 0 || height == 0 {
            return None;
        }
        if let Some(found) = self.place_in_hole(width, height) {
            return Some(found);
        }
        if self.lowest.checked_add(height)? > self.height {
            return None;
        }
        let Some((first, y)) = self.lowest_rest(width, height) else {
            self.lowest = self.levels.iter().map(|level| level.y).min().unwrap_or(0);
            return None;
        };
        let x = self.levels[first].x;
        self.keep_holes(first, x + width, y);
        self.raise(first, x, width, y + height);
        Some(TexelRect {
            x,
            y,
            width,
            height,
        })
    }

    /// Takes a place in the hole that it fills best.
    fn place_in_hole(&mut self, width: u16, height: u16) -> Option<TexelRect> {
        let own = measures(width, height);
        if own
            .iter()
            .zip(&self.largest_hole)
            .any(|(own, most)| own > most)
        {
            return None;
        }
        let fits = |hole: &TexelRect| hole.width >= width && hole.height >= height;
        let spare = |hole: &TexelRect| {
            let area = u32::from(hole.width) * u32::from(hole.height);
            area - u32::from(width) * u32::from(height)
        };
        let holes = self.holes.iter().enumerate().filter(|(_, hole)| fits(hole));
        let found = holes
            .min_by_key(|(_, hole)| spare(hole))
            .map(|(index, hole)| (index, *hole));
        let Some((index, hole)) = found else {
            // Each measure fits some hole, but not the same: the holes may have
            // become smaller since they were measured.
            self.largest_hole = [0; 3];
            for hole in &self.holes {
                grow(&mut self.largest_hole, measures(hole.width, hole.height));
            }
            return None;
        };
        self.holes.swap_remove(index);
        // Cut along the side that leaves the larger whole rest.
        let (right, below) = (hole.width - width, hole.height - height);
        let beside = TexelRect {
            x: hole.x + width,
            width: right,
            height: if right > below { hole.height } else { height },
            ..hole
        };
        let under = TexelRect {
            y: hole.y + height,
            height: below,
            width: if right > below { width } else { hole.width },
            ..hole
        };
        self.keep_hole(beside);
        self.keep_hole(under);
        Some(TexelRect {
            width,
            height,
            ..hole
        })
    }

    fn keep_hole(&mut self, hole: TexelRect) {
        if hole.width >= LEAST_HOLE && hole.height >= LEAST_HOLE {
            if self.holes.len() >= MOST_HOLES {
                self.holes.remove(0);
            }
            grow(&mut self.largest_hole, measures(hole.width, hole.height));
            self.holes.push(hole);
        }
    }

    /// The place where a rectangle ends up lowest: the level of its left edge, and its top.
    fn lowest_rest(&mut self, width: u16, height: u16) -> Option<(usize, u16)> {
        let mut most = self.height - height;
        // It rests on the level of its left edge at best; and from a level that is
        // higher than the one before it could slide further left. Gathered without
        // a branch: a guess for every level would cost more than all the rest.
        self.edges.resize(self.levels.len(), 0);
        let (mut count, mut before) = (0, u16::MAX);
        for (first, level) in self.levels.iter().enumerate() {
            self.edges[count] = first as u16;
            count += usize::from((before > level.y) & (level.y <= most));
            before = level.y;
        }
        let mut best = None;
        let mut least_waste = 0;
        for first in &self.edges[..count] {
            let levels = &self.levels[usize::from(*first)..];
            let right = u32::from(levels[0].x) + u32::from(width);
            if right > u32::from(self.width) {
                break; // Further right there is still less room.
            }
            let Some(y) = rest_on(levels, right, most) else {
                continue;
            };
            let waste = shut_off(levels, right, y);
            if best.is_none() || y < most || waste < least_waste {
                best = Some((usize::from(*first), y));
                (most, least_waste) = (y, waste);
            }
        }
        best
    }

    /// Keeps what a rectangle at `y`, from a level's left edge to `right`, shuts
    /// off.
    fn keep_holes(&mut self, first: usize, right: u16, y: u16) {
        for index in first..self.levels.len() {
            let level = self.levels[index];
            if level.x >= right {
                break;
            }
            self.keep_hole(TexelRect {
                x: level.x,
                y: level.y,
                width: (level.x + level.width).min(right) - level.x,
                height: y - level.y,
            });
        }
    }

    /// Lifts the skyline over `x..x + width` to `y`.
    fn raise(&mut self, first: usize, x: u16, width: u16, y: u16) {
        let right = x + width;
        let covered = self.levels[first..]
            .iter()
            .take_while(|level| level.x + level.width <= right)
            .count();
        if let Some(cut) = self.levels.get_mut(first + covered)
            && cut.x < right
        {
            cut.width -= right - cut.x;
            cut.x = right;
        }
        let raised = Level { x, width, y };
        self.levels.splice(first..first + covered, [raised]);
        self.close_gap(first + 1);
        if let Some(before) = first.checked_sub(1) {
            self.close_gap(before);
        }
        self.merge_around(first.min(self.levels.len() - 1));
    }

    /// Lifts a level that is too narrow for most to its lower neighbour.
    fn close_gap(&mut self, at: usize) {
        let y = |index: Option<usize>| Some(self.levels.get(index?)?.y);
        let Some(level) = self.levels.get(at).filter(|level| level.width < LEAST_GAP) else {
            return;
        };
        let before = y(at.checked_sub(1)).unwrap_or(u16::MAX);
        let after = y(Some(at + 1)).unwrap_or(u16::MAX);
        let lower = before.min(after);
        if level.y < lower && lower < u16::MAX {
            let Level { x, y, width } = *level;
            let height = lower - y;
            self.keep_hole(TexelRect {
                x,
                y,
                width,
                height,
            });
            self.levels[at].y = lower;
            self.merge_around(at);
        }
    }

    /// Joins a level with neighbours of the same height.
    fn merge_around(&mut self, at: usize) {
        if self
            .levels
            .get(at + 1)
            .is_some_and(|next| next.y == self.levels[at].y)
        {
            self.levels[at].width += self.levels.remove(at + 1).width;
        }
        if at > 0 && self.levels[at - 1].y == self.levels[at].y {
            self.levels[at - 1].width += self.levels.remove(at).width;
        }
    }
}

/// The lowest place of a rectangle that rests on the first levels, up to `right`. `None`
/// where that is not as low as `most`.
fn rest_on(levels: &[Level], right: u32, most: u16) -> Option<u16> {
    let mut y = 0;
    for level in levels {
        if u32::from(level.x) >= right {
            break;
        }
        if level.y > most {
            return None;
        }
        y = y.max(level.y);
    }
    Some(y)
}

/// The area that a rectangle at `y` on the first levels, up to `right`, would shut
/// off beneath.
fn shut_off(levels: &[Level], right: u32, y: u16) -> u32 {
    let beneath = levels.iter().take_while(|level| u32::from(level.x) < right);
    beneath
        .map(|level| {
            let end = right.min(u32::from(level.x) + u32::from(level.width));
            u32::from(y - level.y) * (end - u32::from(level.x))
        })
        .sum()
}

/// Width, height, and the shorter of the two.
fn measures(width: u16, height: u16) -> [u16; 3] {
    [width, height, width.min(height)]
}

fn grow(most: &mut [u16; 3], measures: [u16; 3]) {
    for (most, measure) in most.iter_mut().zip(measures) {
        *most = measure.max(*most);
    }
}
