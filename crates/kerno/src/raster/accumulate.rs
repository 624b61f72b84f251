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
//!
//! At text sizes nearly all edges are chords of less than a pixel, and whether
//! such a chord crosses the border of a column is anyone's guess: so every piece
//! of one takes the same way, as two columns, the second of them empty where it
//! does not reach (`docs/performance.md`).

use super::flatten::{Place, larger, smaller};

/// Area changes of a picture: `width + 2` cells a row and a spare row below, so
/// that a line on the right or lower border has a cell to spill into. All zero
/// between two pictures.
#[derive(Clone, Debug, Default)]
pub(super) struct Accumulator {
    cells: Vec<f32>,
    /// One byte a cell, before the spare cells are left out.
    shades: Vec<u8>,
    stride: usize,
    width: usize,
    height: usize,
    /// Where the pen stands.
    pen: Place,
}

/// The whole part of a number from 0 to 4 million, as a number and as an index;
/// for a whole number it may be one less. From 2²³ on neighbouring `f32` are 1
/// apart, so that an addition rounds: no conversion, no range check.
#[inline]
fn whole(value: f32) -> (f32, usize) {
    const MIDDLE: f32 = 12_582_912.0;
    let rounded = (value - 0.5) + MIDDLE;
    let index = rounded.to_bits() & 0x003f_ffff;
    (rounded - MIDDLE, index as usize)
}

impl Accumulator {
    pub(super) fn reset(&mut self, width: usize, height: usize) {
        self.width = width;
        self.height = height;
        self.stride = width + 2;
        self.cells.resize(self.stride * (height + 1), 0.0);
        self.pen = (0.0, 0.0);
    }

    /// Puts the pen down elsewhere.
    pub(super) fn move_to(&mut self, to: Place) {
        self.pen = to;
    }

    /// Adds a chord of a curve, at most a pixel wide and high, from the pen to
    /// `to`, y down, for exact areas. `bulge` is the area between the two,
    /// positive where the curve runs left of its chord going down. Places must
    /// lie in the picture.
    #[inline]
    pub(super) fn chord_to(&mut self, to: Place, bulge: f32) {
        let from = self.pen;
        self.pen = to;
        let is_down = from.1 < to.1;
        let (top, bottom) = if is_down { (from, to) } else { (to, from) };
        let sign = if is_down { 1.0 } else { -1.0 };
        let (row, row_index) = whole(top.1);
        // What lies in the upper row, and what in the lower.
        let height = bottom.1 - top.1;
        let upper = smaller(row + 1.0 - top.1, height);
        let share = upper / (height + f32::MIN_POSITIVE);
        let middle = top.0 + (bottom.0 - top.0) * share;
        let upper_bulge = bulge * share;
        let start = row_index * self.stride;
        self.piece(start, top.0, middle, sign * upper, upper_bulge);
        if upper < height {
            let below = start + self.stride;
            self.piece(
                below,
                middle,
                bottom.0,
                sign * (height - upper),
                bulge - upper_bulge,
            );
        }
    }

    /// Adds the part of an edge inside one row, whose cells begin at `start`, at
    /// most a pixel wide. `rise` is its height, positive downwards.
    #[inline]
    fn piece(&mut self, start: usize, from: f32, to: f32, rise: f32, bulge: f32) {
        let (low, high) = (smaller(from, to), larger(from, to));
        let (column, index) = whole(low);
        // The means over the edge of how much of the first and of the second
        // column lies left of it.
        let past = larger(high - column - 1.0, 0.0);
        let reach = smaller(past / (high - low + f32::MIN_POSITIVE), 1.0);
        let second = 0.5 * past * reach;
        let first = 0.5 * (low + high) - column - second;
        let left_of_first = rise * first - bulge * (1.0 - reach);
        let left_of_second = rise * second - bulge * reach;
        if let Some([here, next, last]) = self.cells_from(start + index) {
            *here += rise - left_of_first;
            *next += left_of_first - left_of_second;
            *last += left_of_second;
        }
    }

    /// Neighbouring cells; there are always as many, or nothing to add.
    #[inline]
    fn cells_from<const N: usize>(&mut self, at: usize) -> Option<&mut [f32; N]> {
        self.cells.get_mut(at..)?.first_chunk_mut()
    }

    /// Adds an edge of any length from the pen to `to`, y down, for exact areas.
    pub(super) fn line_to(&mut self, to: Place) {
        let from = self.pen;
        self.pen = to;
        if from.0 == to.0 {
            return self.upright(from.0, from.1, to.1);
        }
        let (sign, top, bottom) = if from.1 < to.1 {
            (1.0, from, to)
        } else {
            (-1.0, to, from)
        };
        let slope = (bottom.0 - top.0) / (bottom.1 - top.1);
        let (mut x, mut y) = top;
        let (mut row, index) = whole(top.1);
        let mut start = index * self.stride;
        while y < bottom.1 {
            let next_y = bottom.1.min(row + 1.0);
            let next_x = if next_y == bottom.1 {
                bottom.0
            } else {
                top.0 + slope * (next_y - top.1)
            };
            self.wide_piece(start, x, next_x, sign * (next_y - y));
            (x, y) = (next_x, next_y);
            row += 1.0;
            start += self.stride;
        }
    }

    /// Adds an upright edge, of which every whole row gets the same.
    fn upright(&mut self, x: f32, from: f32, to: f32) {
        let (top, bottom) = (smaller(from, to), larger(from, to));
        let sign = if from < to { 1.0 } else { -1.0 };
        let (column, index) = whole(x);
        let left_of_it = x - column;
        let (mut row, row_index) = whole(top);
        let mut at = row_index * self.stride + index;
        let mut y = top;
        while y < bottom {
            let next_y = smaller(bottom, row + 1.0);
            let rise = sign * (next_y - y);
            if let Some([here, next]) = self.cells_from(at) {
                *here += rise - rise * left_of_it;
                *next += rise * left_of_it;
            }
            y = next_y;
            row += 1.0;
            at += self.stride;
        }
    }

    /// As [`Accumulator::piece`], for any width.
    fn wide_piece(&mut self, start: usize, from: f32, to: f32, rise: f32) {
        let (low, high) = (smaller(from, to), larger(from, to));
        let slope = rise / (high - low);
        let mut left = low;
        while high - left > 1.0 {
            self.piece(start, left, left + 1.0, slope, 0.0);
            left += 1.0;
        }
        let done = if left > low {
            slope * (left - low)
        } else {
            0.0
        };
        self.piece(start, left, high, rise - done, 0.0);
    }

    /// Adds an edge from the pen to `to` for hard fills: a crossing of every
    /// row's middle line, counted from the first pixel whose centre is not left
    /// of it. Top ends belong to an edge and bottom ends don't, so joints count
    /// once.
    pub(super) fn crossing_line_to(&mut self, to: Place) {
        let from = self.pen;
        self.pen = to;
        let (sign, top, bottom) = if from.1 < to.1 {
            (1.0, from, to)
        } else {
            (-1.0, to, from)
        };
        let slope = (bottom.0 - top.0) / (bottom.1 - top.1);
        for row in middle_from(top.1)..middle_from(bottom.1).min(self.height) {
            let x = top.0 + slope * (row as f32 + 0.5 - top.1);
            let column = middle_from(x).min(self.width);
            self.cells[row * self.stride + column] += sign;
        }
    }

    /// Sums the cells into one byte a pixel: exact area, capped at full.
    pub(super) fn write_smooth(&mut self, texels: &mut Vec<u8>) {
        self.write(texels, |area| {
            // As in `whole`: from 2²³ on the last byte is the nearest integer.
            (area.abs().min(1.0) * 255.0 + 8_388_608.0).to_bits() as u8
        });
    }

    /// Sums the cells into one byte a pixel: on where the winding is not zero.
    pub(super) fn write_hard(&mut self, texels: &mut Vec<u8>) {
        self.write(texels, |winding| if winding.abs() < 0.5 { 0 } else { 255 });
    }

    /// Three plain passes: sums, bytes, and the rows without the spare cells.
    fn write(&mut self, texels: &mut Vec<u8>, shade: impl Fn(f32) -> u8) {
        let mut fours = self.cells.chunks_exact_mut(self.stride * 4);
        for four in &mut fours {
            sum_four_rows(four, self.stride);
        }
        for row in fours.into_remainder().chunks_exact_mut(self.stride) {
            let mut sum = 0.0;
            for cell in row {
                sum += *cell;
                *cell = sum;
            }
        }
        self.shades.resize(self.cells.len(), 0);
        for (shade_of_cell, sum) in self.shades.iter_mut().zip(&self.cells) {
            *shade_of_cell = shade(*sum);
        }
        self.cells.fill(0.0);
        for row in self.shades.chunks_exact(self.stride).take(self.height) {
            texels.extend_from_slice(&row[..self.width]);
        }
    }
}

/// Sums along four rows at once: each sum waits for the one before it, four do
/// not wait for each other.
fn sum_four_rows(rows: &mut [f32], stride: usize) {
    let (first, rest) = rows.split_at_mut(stride);
    let (second, rest) = rest.split_at_mut(stride);
    let (third, fourth) = rest.split_at_mut(stride);
    let mut sums = [0.0; 4];
    for (((a, b), c), d) in first.iter_mut().zip(second).zip(third).zip(fourth) {
        sums = [sums[0] + *a, sums[1] + *b, sums[2] + *c, sums[3] + *d];
        [*a, *b, *c, *d] = sums;
    }
}

/// The first row or column whose middle is not before a place.
fn middle_from(place: f32) -> usize {
    let before = larger(place - 0.5, 0.0);
    let index = before as usize;
    index + usize::from(before > index as f32)
}
