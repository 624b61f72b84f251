//! The outline of what is seen of a picture: for effects of glyphs that have no other one.

use super::super::Coverage;
use crate::outline::Outline;

/// Traces pictures, and keeps its memory between them.
#[derive(Debug, Default)]
pub(in crate::raster) struct Trace {
    /// The crossing at which the outline goes on: one more than its index, 0 for none.
    next: Vec<u32>,
    pub(in crate::raster) outline: Outline,
}

impl Trace {
    /// Draws the outline at which a mask is half covered, in pixels about the pen, y up.
    pub(in crate::raster) fn trace(&mut self, mask: &Coverage) {
        self.outline.clear();
        let (width, height) = (mask.width as usize, mask.height as usize);
        // Texels with an empty border: a crossing lies to the right of one, or below it.
        let stride = width + 2;
        self.next.clear();
        self.next.resize(stride * (height + 2) * 2, 0);
        let value = |x: usize, y: usize| {
            let inside = (1..=width).contains(&x) && (1..=height).contains(&y);
            match inside {
                true => i32::from(mask.texels[(y - 1) * width + x - 1]) * 2 - 255,
                false => -255,
            }
        };
        let (right, below) = (
            |x: usize, y: usize| (y * stride + x) * 2,
            |x: usize, y: usize| (y * stride + x) * 2 + 1,
        );
        for y in 0..=height {
            for x in 0..=width {
                let corners = [
                    value(x, y),
                    value(x + 1, y),
                    value(x + 1, y + 1),
                    value(x, y + 1),
                ];
                let sides = [right(x, y), below(x + 1, y), right(x, y + 1), below(x, y)];
                let middle: i32 = corners.iter().sum();
                link(
                    corners.map(|corner| corner > 0),
                    middle > 0,
                    sides,
                    |from, to| {
                        self.next[from] = to as u32 + 1;
                    },
                );
            }
        }
        for first in 0..self.next.len() {
            let mut now = first;
            let mut is_begun = false;
            while let Some(next) = self.next[now].checked_sub(1) {
                self.next[now] = 0;
                let (x, y) = ((now / 2) % stride, (now / 2) / stride);
                let (across, down) = if now % 2 == 0 { (1, 0) } else { (0, 1) };
                let (from, to) = (value(x, y) as f32, value(x + across, y + down) as f32);
                let share = from / (from - to);
                let place = |at: usize, step: usize| at as f32 - 0.5 + step as f32 * share;
                let px = mask.left as f32 + place(x, across);
                let py = -(mask.top as f32 + place(y, down));
                match is_begun {
                    true => self.outline.line_to(px, py),
                    false => self.outline.move_to(px, py),
                }
                is_begun = true;
                now = next as usize;
            }
            if is_begun {
                self.outline.close();
            }
        }
    }
}

/// Links the sides of a cell that the outline crosses, what is covered to its right: corners
/// and sides from the top left on, clockwise.
fn link(corners: [bool; 4], middle: bool, sides: [usize; 4], mut add: impl FnMut(usize, usize)) {
    // Into the cell where the corner before a side is empty and the one after is covered.
    let enters = |side: usize| !corners[side] && corners[(side + 1) % 4];
    let leaves = |side: usize| corners[side] && !corners[(side + 1) % 4];
    for from in (0..4).filter(|side| enters(*side)) {
        // Two corners across from each other: what the middle is decides whether they touch.
        let nearest = (1..4).map(|step| match middle {
            true => (from + 4 - step) % 4,
            false => (from + step) % 4,
        });
        if let Some(to) = { nearest }.find(|side| leaves(*side)) {
            add(sides[from], sides[to]);
        }
    }
}
