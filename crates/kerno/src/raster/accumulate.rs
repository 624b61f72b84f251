//! The accumulation buffer: lines in, coverage out.
//!
//! Every pixel of a row holds by how much the filled area changes there from
//! its left neighbour; a running sum along the row gives the area itself. A
//! line adds to the pixels it crosses only, with the exact area right of it.
//!
//! The sum is the winding number averaged over the pixel, and its magnitude
//! capped at 1 is the coverage. That is the non-zero rule exactly wherever the
//! winding number inside the pixel is 0 and one other value. Only where edges
//! of two overlapping contours cross within one pixel may that pixel be a
//! little off.

use super::flatten::Place;

/// A fully covered pixel: 20 bits of fraction leave room for a winding number
/// of 2047, and integer sums carry no rounding along the row.
const FULL: i32 = 1 << 20;

fn fixed(area: f32) -> i32 {
    (area * FULL as f32) as i32
}

/// Where the pen stands, and in which pixel.
#[derive(Clone, Copy, Debug, Default)]
struct Pen {
    x: f32,
    y: f32,
    column: i32,
    row: i32,
}

impl Pen {
    fn at((x, y): Place) -> Self {
        Self {
            x,
            y,
            column: x as i32,
            row: y as i32,
        }
    }
}

/// Area changes of a picture, `width + 2` cells a row: a line on the right
/// border spills into the cell behind it. All zero between two pictures.
#[derive(Clone, Debug, Default)]
pub(super) struct Accumulator {
    cells: Vec<i32>,
    stride: usize,
    width: usize,
    height: usize,
    pen: Pen,
}

impl Accumulator {
    pub(super) fn reset(&mut self, width: usize, height: usize) {
        self.width = width;
        self.height = height;
        self.stride = width + 2;
        self.cells.resize(self.stride * height, 0);
        self.move_to((0.0, 0.0));
    }

    /// Puts the pen down elsewhere.
    pub(super) fn move_to(&mut self, to: Place) {
        self.pen = Pen::at(to);
    }

    /// Adds an edge from the pen to `to`, y down. Places must lie in the
    /// picture; by what rounding carries them over, they are moved back in.
    pub(super) fn line_to(&mut self, to: Place) {
        let from = self.pen;
        let to = Pen::at(to);
        self.pen = to;
        // Most chords of a curve stay in one pixel.
        if from.row == to.row && from.column == to.column {
            let rise = to.y - from.y;
            let inside = rise * (0.5 * (from.x + to.x) - from.column as f32);
            let at = from.row as usize * self.stride + from.column as usize;
            add(&mut self.cells, at, rise, inside);
        } else if from.row == to.row {
            self.row(from.row as usize, from.x, to.x, to.y - from.y);
        } else {
            self.rows(from, to);
        }
    }

    /// Adds an edge over several rows.
    fn rows(&mut self, from: Pen, to: Pen) {
        let (sign, top, bottom) = if from.y < to.y {
            (1.0, from, to)
        } else {
            (-1.0, to, from)
        };
        let slope = (bottom.x - top.x) / (bottom.y - top.y);
        let (mut y, mut x) = (top.y, top.x);
        for row in top.row..bottom.row {
            let next_y = (row + 1) as f32;
            let next_x = top.x + slope * (next_y - top.y);
            self.row(row as usize, x, next_x, sign * (next_y - y));
            (y, x) = (next_y, next_x);
        }
        self.row(bottom.row as usize, x, bottom.x, sign * (bottom.y - y));
    }

    /// Adds the part of an edge inside one row, of signed height `rise`.
    fn row(&mut self, row: usize, from_x: f32, to_x: f32, rise: f32) {
        if row >= self.height {
            return; // The lower border itself: no height is left.
        }
        let most = self.width as f32;
        let low = from_x.min(to_x).max(0.0);
        let high = from_x.max(to_x).min(most);
        let (first, last) = (low as i32 as usize, high as i32 as usize);
        let row = row * self.stride;
        if first >= last {
            let inside = rise * (0.5 * (low + high) - first as f32);
            add(&mut self.cells, row + first, rise, inside);
            return;
        }
        // What the edge covers of column c is its height times the mean over
        // its length of how much of the column lies right of it: the integral
        // of clamp(t, 0, 1), t from c + 1 - high to c + 1 - low.
        let cells = &mut self.cells[row..row + self.stride];
        let per_x = rise / (high - low);
        let to_edge = (first + 1) as f32 - low;
        let mut covered = fixed(per_x * 0.5 * to_edge * to_edge);
        cells[first] += covered;
        for (column, cell) in (first + 1..).zip(&mut cells[first + 1..last]) {
            let before = covered;
            covered = fixed(per_x * (column as f32 + 0.5 - low));
            *cell += covered - before;
        }
        let past_edge = high - last as f32;
        let in_last = fixed(rise - per_x * 0.5 * past_edge * past_edge);
        cells[last] += in_last - covered;
        cells[last + 1] += fixed(rise) - in_last;
    }

    /// Adds an edge for hard fills: a crossing of every row's middle line,
    /// counted from the first pixel whose centre is not left of it. Top ends
    /// belong to an edge and bottom ends don't, so joints count once.
    pub(super) fn crossing_line_to(&mut self, to: Place) {
        let from = self.pen;
        let to = Pen::at(to);
        self.pen = to;
        let (sign, top, bottom) = if from.y < to.y {
            (FULL, from, to)
        } else {
            (-FULL, to, from)
        };
        let slope = (bottom.x - top.x) / (bottom.y - top.y);
        let last = (whole_from(bottom.y - 0.5) as usize).min(self.height);
        for row in whole_from(top.y - 0.5) as usize..last {
            let x = top.x + slope * (row as f32 + 0.5 - top.y);
            let column = (whole_from(x - 0.5) as usize).min(self.width);
            self.cells[row * self.stride + column] += sign;
        }
    }

    /// Sums the cells into one byte a pixel: exact area, capped at full.
    pub(super) fn write_smooth(&mut self, texels: &mut Vec<u8>) {
        self.write(texels, |area| {
            ((area.abs().min(FULL) * 255 + FULL / 2) / FULL) as u8
        });
    }

    /// Sums the cells into one byte a pixel: on where the winding is not zero.
    pub(super) fn write_hard(&mut self, texels: &mut Vec<u8>) {
        self.write(texels, |winding| if winding == 0 { 0 } else { 255 });
    }

    fn write(&mut self, texels: &mut Vec<u8>, shade: impl Fn(i32) -> u8) {
        texels.resize(self.width * self.height, 0);
        let rows = self.cells.chunks_exact_mut(self.stride);
        for (cells, texels) in rows.zip(texels.chunks_exact_mut(self.width)) {
            let mut sum = 0;
            for (cell, texel) in cells.iter_mut().zip(texels) {
                sum += std::mem::take(cell);
                *texel = shade(sum);
            }
            cells[self.width..].fill(0);
        }
    }
}

/// Adds the part of an edge inside one pixel: of its height `rise`, `inside`
/// is the area left of it, which only the next pixel gets.
fn add(cells: &mut [i32], at: usize, rise: f32, inside: f32) {
    let inside = fixed(inside);
    if let Some([here, next]) = cells.get_mut(at..at + 2) {
        *here += fixed(rise) - inside;
        *next += inside;
    }
}

/// The first whole number that is not below `value`; 0 for a negative one.
fn whole_from(value: f32) -> i32 {
    let below = value as i32;
    (below + i32::from(value > below as f32)).max(0)
}
