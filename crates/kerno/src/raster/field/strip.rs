//! The texels beside a line.

use std::ops::Range;

use super::lines::{Line, cross};

/// The texels that may lie nearer to a line than to its neighbours: those beside it, and a way
/// on beyond its ends.
#[derive(Clone, Copy, Debug)]
pub(super) struct Strip {
    from: [f32; 2],
    /// The direction of the line.
    way: [f32; 2],
    length: f32,
    /// Texels beside it.
    reach: f32,
    /// From the first of its texels to the last one, along the line from its start on.
    along: (f32, f32),
}

/// The way beyond the start of a line within which a texel may be nearest to that start, where
/// the line before ends there.
pub(super) fn turn_reach(before: Option<&Line>, line: &Line, reach: f32) -> f32 {
    let Some(before) = before.filter(|before| before.to == line.from) else {
        return reach;
    };
    let (a, b) = (before.way(), line.way());
    let length = (a[0] * a[0] + a[1] * a[1]) * (b[0] * b[0] + b[1] * b[1]);
    match a[0] * b[0] + a[1] * b[1] > 0.0 {
        true => reach * (cross(a, b) / length.sqrt()).abs().min(1.0),
        false => reach,
    }
}

impl Strip {
    /// The strip of a line, by what it reaches beside it and beyond its ends, in texels.
    pub(super) fn new(line: &Line, reach: f32, beyond: [f32; 2]) -> Self {
        let way = line.way();
        let length = (way[0] * way[0] + way[1] * way[1]).sqrt();
        Self {
            from: line.from,
            way: way.map(|axis| axis / length),
            length,
            reach,
            along: (-beyond[0], length + beyond[1]),
        }
    }

    /// The position of a place along the line, from its start on, and its distance to its right.
    pub(super) fn place(&self, [x, y]: [f32; 2]) -> (f32, f32) {
        let (across, down) = (x - self.from[0], y - self.from[1]);
        let [right, below] = self.way;
        (across * right + down * below, down * right - across * below)
    }

    /// Length of the line, in texels.
    pub(super) fn length(&self) -> f32 {
        self.length
    }

    /// Its rows, and the columns of each: too many rather than too few.
    pub(super) fn rows(
        &self,
        (width, height): (usize, usize),
    ) -> impl Iterator<Item = (usize, Range<usize>)> + use<> {
        let Self {
            from, way, reach, ..
        } = *self;
        let along = (self.along.0 - SLACK, self.along.1 + SLACK);
        let aside = (-reach - SLACK, reach + SLACK);
        // Its corners are ends along the line, plus the reach across it.
        let ends = [along.0, along.1].map(|along| from[1] + way[1] * along);
        let across = (way[0] * aside.1).abs();
        let top = ends[0].min(ends[1]) - across;
        let bottom = ends[0].max(ends[1]) + across;
        // A number below 0 is cut to 0.
        let rows = (top as usize).min(height)..((bottom + 1.0) as usize).min(height);
        // Along the line a texel lies at x way.x + y way.y, beside it at y way.x - x way.y.
        let first = Columns::new(along, way[0], -way[1]);
        let second = Columns::new(aside, -way[1], -way[0]);
        rows.map(move |row| {
            let down = row as f32 + 0.5 - from[1];
            let (first, second) = (first.at(down), second.at(down));
            let left = from[0] + first.0.max(second.0);
            let right = from[0] + first.1.min(second.1);
            let start = (left as usize).min(width);
            (row, start..((right + 1.0) as usize).min(width).max(start))
        })
    }

    /// Tells its texels how far they are from the line, as squares.
    pub(super) fn draw_near(&self, size: (usize, usize), near: &mut [f32]) {
        let Self {
            from, way, length, ..
        } = *self;
        for (row, columns) in self.rows(size) {
            let down = row as f32 + 0.5 - from[1];
            let start = columns.start as f32 + 0.5 - from[0];
            let texels = &mut near[row * size.0 + columns.start..row * size.0 + columns.end];
            for (column, near) in texels.iter_mut().enumerate() {
                let across = start + column as f32;
                let share = (across * way[0] + down * way[1]).clamp(0.0, length);
                let (dx, dy) = (across - way[0] * share, down - way[1] * share);
                *near = near.min(dx * dx + dy * dy);
            }
        }
    }
}

/// The margin on the sides of a strip, in texels, for rounding errors.
const SLACK: f32 = 1e-3;

/// The columns of a row between two parallels.
#[derive(Clone, Copy, Debug)]
struct Columns {
    from: f32,
    to: f32,
    /// The growth of the edges from row to row.
    slope: f32,
}

impl Columns {
    /// Those in which x times `across`, less y times `down`, lies between two values.
    fn new((low, high): (f32, f32), across: f32, down: f32) -> Self {
        if across.abs() < 1e-6 {
            // The same in all of a row: the rows themselves are as many as there are.
            return Self {
                from: f32::MIN,
                to: f32::MAX,
                slope: 0.0,
            };
        }
        let (a, b) = (low / across, high / across);
        Self {
            from: a.min(b),
            to: a.max(b),
            slope: down / across,
        }
    }

    #[inline]
    fn at(&self, y: f32) -> (f32, f32) {
        let middle = y * self.slope;
        (self.from + middle, self.to + middle)
    }
}
