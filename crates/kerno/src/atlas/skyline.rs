//! The packer: rectangles onto one page, one after another.

use super::TexelRect;

/// Places rectangles on a page as they come. It keeps the skyline, the upper
/// edge of what is taken, and puts each rectangle where its bottom ends up
/// lowest; among equals, where it wastes the least area beneath itself.
#[derive(Clone, Debug)]
pub struct Skyline {
    width: u16,
    height: u16,
    /// Level stretches from left to right without gaps.
    levels: Vec<Level>,
}

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
        }
    }

    /// Takes a place of `width` by `height` texels, or `None` where there is
    /// none left (or one of them is 0).
    pub fn place(&mut self, width: u16, height: u16) -> Option<TexelRect> {
        if width == 0 || height == 0 {
            return None;
        }
        let (first, y, _) = (0..self.levels.len())
            .filter_map(|first| {
                let (y, waste) = self.rest_on(first, width)?;
                let bottom = y.checked_add(height).filter(|b| *b <= self.height)?;
                Some((first, y, (bottom, waste)))
            })
            .min_by_key(|(_, _, cost)| *cost)?;
        let x = self.levels[first].x;
        self.raise(first, x, width, y + height);
        Some(TexelRect {
            x,
            y,
            width,
            height,
        })
    }

    /// How low a rectangle with its left edge on a level's can go, and the area
    /// it would shut off beneath.
    fn rest_on(&self, first: usize, width: u16) -> Option<(u16, u32)> {
        let left = self.levels[first].x;
        let right = left.checked_add(width).filter(|r| *r <= self.width)?;
        let under = || {
            self.levels[first..]
                .iter()
                .take_while(move |level| level.x < right)
        };
        let y = under().map(|level| level.y).max()?;
        let waste = under()
            .map(|level| {
                let end = (level.x + level.width).min(right);
                u32::from(y - level.y) * u32::from(end - level.x)
            })
            .sum();
        Some((y, waste))
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
