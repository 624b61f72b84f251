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
//! Places are whole numbers of 1/1024 pixel, and a contour that ends where it
//! began adds up to exactly nothing behind its last pixel.

use super::flatten::Place;

/// Bits of a place behind the point.
const BITS: u32 = 10;
/// One pixel.
const ONE: i32 = 1 << BITS;
/// A fully covered pixel. Areas are kept doubled: the mean of two ends is then
/// their sum.
const FULL: i32 = 2 * ONE * ONE;

/// The widest and highest picture: what [`fixed`] can hold.
pub(super) const LARGEST: u32 = 4096;

/// The nearest whole number of 1/1024 pixel, for places from -4096 to 4096.
///
/// From 8192 up to 16384 neighbouring `f32` are 1/1024 apart, so that adding
/// the middle of that range leaves the wanted number in the lowest bits: three
/// instructions instead of a rounding, a conversion and its range checks.
fn fixed(value: f32) -> i32 {
    const MIDDLE: f32 = 12_288.0;
    (value + MIDDLE).to_bits() as i32 - MIDDLE.to_bits() as i32
}

/// A doubled area in the unit of the cells, for areas below 1024 pixels.
pub(super) fn fixed_area(area: f32) -> i32 {
    (area * FULL as f32) as i32
}

/// Area changes of a picture, `width + 2` cells a row: a line on the right
/// border spills into the cell behind it. All zero between two pictures.
#[derive(Clone, Debug, Default)]
pub(super) struct Accumulator {
    cells: Vec<i32>,
    /// One byte a cell, before the spare cells are left out.
    shades: Vec<u8>,
    stride: usize,
    width: usize,
    height: usize,
    /// Where the pen stands, in 1/1024 pixel.
    x: i32,
    y: i32,
}

impl Accumulator {
    /// Makes room for a picture of at most [`LARGEST`] pixels a side.
    pub(super) fn reset(&mut self, width: usize, height: usize) {
        self.width = width;
        self.height = height;
        self.stride = width + 2;
        self.cells.resize(self.stride * height, 0);
        self.move_to((0.0, 0.0));
    }

    /// Puts the pen down elsewhere.
    pub(super) fn move_to(&mut self, (x, y): Place) {
        self.x = fixed(x);
        self.y = fixed(y);
    }

    /// Adds an edge from the pen to `to`, y down, for exact areas. Places must
    /// lie in the picture.
    pub(super) fn line_to(&mut self, to: Place) {
        self.chord_to(to, 0);
    }

    /// As [`Accumulator::line_to`], for a chord of a curve: `bulge` is the
    /// doubled area between the two, positive where the curve runs left of its
    /// chord going down. The first and the last pixel of the chord get half of
    /// it each.
    pub(super) fn chord_to(&mut self, (x, y): Place, bulge: i32) {
        let (from_x, from_y) = (self.x, self.y);
        let (to_x, to_y) = (fixed(x), fixed(y));
        (self.x, self.y) = (to_x, to_y);
        let (row, to_row) = (from_y >> BITS, to_y >> BITS);
        let start = row as usize * self.stride;
        if row == to_row {
            self.in_row(start, from_x, to_x, to_y - from_y, bulge);
        } else {
            self.over_rows((from_x, from_y), (to_x, to_y), bulge);
        }
    }

    /// Adds the part of an edge inside one row, whose cells begin at `start`.
    /// `rise` is its height, positive downwards.
    fn in_row(&mut self, start: usize, from: i32, to: i32, rise: i32, bulge: i32) {
        let (column, last) = (from >> BITS, to >> BITS);
        if column == last {
            let ends = from + to - (column << (BITS + 1));
            self.add(start + column as usize, rise, rise * ends - bulge);
        } else if from < to {
            self.over_columns(start, (from, to), rise, bulge);
        } else {
            self.over_columns(start, (to, from), rise, bulge);
        }
    }

    /// Adds an edge inside one row over several columns, `low` to `high`. Which
    /// of its ends is the upper one makes no difference to the areas.
    fn over_columns(&mut self, start: usize, (low, high): (i32, i32), rise: i32, bulge: i32) {
        let (first, last) = (low >> BITS, high >> BITS);
        let slope = rise as f32 / (high - low) as f32;
        self.add(start + first as usize, 0, -(bulge >> 1));
        let bulge = bulge - (bulge >> 1);
        let mut left = low;
        let mut done = 0;
        for column in first..last {
            let edge = (column + 1) << BITS;
            let reached = ((edge - low) as f32 * slope) as i32;
            let step = reached - done;
            let ends = left + edge - (column << (BITS + 1));
            self.add(start + column as usize, step, step * ends);
            (left, done) = (edge, reached);
        }
        let step = rise - done;
        let ends = left + high - (last << (BITS + 1));
        self.add(start + last as usize, step, step * ends - bulge);
    }

    /// Adds an edge over several rows.
    fn over_rows(&mut self, from: (i32, i32), to: (i32, i32), bulge: i32) {
        let (sign, top, bottom) = if from.1 < to.1 {
            (1, from, to)
        } else {
            (-1, to, from)
        };
        let slope = (bottom.0 - top.0) as f32 / (bottom.1 - top.1) as f32;
        let (mut x, mut y) = top;
        let (first, last) = (top.1 >> BITS, bottom.1 >> BITS);
        let mut start = first as usize * self.stride;
        for row in first..last {
            let edge = (row + 1) << BITS;
            let reached = top.0 + ((edge - top.1) as f32 * slope) as i32;
            let bulge = if row == first { bulge >> 1 } else { 0 };
            self.in_row(start, x, reached, sign * (edge - y), bulge);
            (x, y) = (reached, edge);
            start += self.stride;
        }
        self.in_row(
            start,
            x,
            bottom.0,
            sign * (bottom.1 - y),
            bulge - (bulge >> 1),
        );
    }

    /// Adds the part of an edge inside one pixel: its height, and the doubled
    /// area left of it, which only the next pixel gets.
    fn add(&mut self, at: usize, rise: i32, left_of_it: i32) {
        // A level edge on the lower border has no cell, and nothing to add.
        if let Some([here, next]) = self.cells.get_mut(at..at + 2) {
            *here += rise * (2 * ONE) - left_of_it;
            *next += left_of_it;
        }
    }

    /// Adds an edge from the pen to `to` for hard fills: a crossing of every
    /// row's middle line, counted from the first pixel whose centre is not left
    /// of it. Top ends belong to an edge and bottom ends don't, so joints count
    /// once.
    pub(super) fn crossing_line_to(&mut self, to: Place) {
        let from = (self.x, self.y);
        self.move_to(to);
        let to = (self.x, self.y);
        let (sign, top, bottom) = if from.1 < to.1 {
            (FULL, from, to)
        } else {
            (-FULL, to, from)
        };
        // The first row or column whose middle is not before a place.
        let middle_from = |place: i32| (place + ONE / 2 - 1) >> BITS;
        let slope = (bottom.0 - top.0) as f32 / (bottom.1 - top.1) as f32;
        for row in middle_from(top.1)..middle_from(bottom.1) {
            let down = (row << BITS) + ONE / 2 - top.1;
            let x = top.0 + (down as f32 * slope) as i32;
            let at = row as usize * self.stride + middle_from(x) as usize;
            if let Some(cell) = self.cells.get_mut(at) {
                *cell += sign;
            }
        }
    }

    /// Sums the cells into one byte a pixel: exact area, capped at full.
    pub(super) fn write_smooth(&mut self, texels: &mut Vec<u8>) {
        self.write(texels, |area| {
            ((area.abs().min(FULL) * 255 + FULL / 2) >> (2 * BITS + 1)) as u8
        });
    }

    /// Sums the cells into one byte a pixel: on where the winding is not zero.
    pub(super) fn write_hard(&mut self, texels: &mut Vec<u8>) {
        self.write(texels, |winding| if winding == 0 { 0 } else { 255 });
    }

    fn write(&mut self, texels: &mut Vec<u8>, shade: impl Fn(i32) -> u8) {
        // Three plain passes, of which all but the sum run many cells at once.
        for row in self.cells.chunks_exact_mut(self.stride) {
            let mut sum = 0;
            for cell in row {
                sum += *cell;
                *cell = sum;
            }
        }
        self.shades.resize(self.cells.len(), 0);
        for (shade_of_cell, sum) in self.shades.iter_mut().zip(&self.cells) {
            *shade_of_cell = shade(*sum);
        }
        self.cells.fill(0);
        for row in self.shades.chunks_exact(self.stride) {
            texels.extend_from_slice(&row[..self.width]);
        }
    }
}
