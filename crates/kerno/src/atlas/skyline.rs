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
    /// The lowest level: a page that is nearly full says no at once.
    lowest: u16,
}

/// The least side of a hole worth keeping, in texels.
const LEAST_HOLE: u16 = 4;

/// How many holes are kept: the search walks over all.
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
        let (first, y) = self.lowest_rest(width, height)?;
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

    /// Where a rectangle ends up lowest: the level of its left edge, and its top.
    fn lowest_rest(&self, width: u16, height: u16) -> Option<(usize, u16)> {
        let mut best: Option<(u16, u32, usize)> = None;
        let mut most = self.height - height;
        for (first, level) in self.levels.iter().enumerate() {
            // It rests on this level at best.
            if level.y > most {
                continue;
            }
            let Some(right) = level.x.checked_add(width).filter(|r| *r <= self.width) else {
                break; // Further right there is still less room.
            };
            let Some((y, waste)) = self.rest_on(first, right, most) else {
                continue;
            };
            if best.is_none_or(|(other, least, _)| (y, waste) < (other, least)) {
                best = Some((y, waste, first));
                most = y;
            }
        }
        best.map(|(y, _, first)| (first, y))
    }

    /// How low a rectangle from a level's left edge to `right` can go, and the area
    /// it would shut off beneath. `None` where that is not as low as `most`.
    fn rest_on(&self, first: usize, right: u16, most: u16) -> Option<(u16, u32)> {
        let left = self.levels[first].x;
        let (mut y, mut filled) = (0, 0);
        for level in &self.levels[first..] {
            if level.x >= right {
                break;
            }
            if level.y > most {
                return None;
            }
            let end = (level.x + level.width).min(right);
            y = y.max(level.y);
            filled += u32::from(level.y) * u32::from(end - level.x);
        }
        Some((y, u32::from(y) * u32::from(right - left) - filled))
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
        self.merge_around(first);
        self.lowest = self.levels.iter().map(|level| level.y).min().unwrap_or(0);
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

/// Width, height, and the shorter of the two.
fn measures(width: u16, height: u16) -> [u16; 3] {
    [width, height, width.min(height)]
}

fn grow(most: &mut [u16; 3], measures: [u16; 3]) {
    for (most, measure) in most.iter_mut().zip(measures) {
        *most = measure.max(*most);
    }
}
