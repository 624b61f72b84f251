//! The accumulation buffer: chords in, coverage out.
//!
//! Every pixel of a row holds by how much the filled area changes there from
//! its left neighbour; a running sum along the row gives the area itself. A
//! chord adds to the pixels it crosses only, with the exact area right of it.
//!
//! The sum is the winding number averaged over the pixel, and its magnitude
//! capped at 1 is the coverage. That is the non-zero rule exactly wherever the
//! winding number inside the pixel is 0 and one other value. Only where edges
//! of two overlapping contours cross within one pixel may that pixel be a
//! little off.
//!
//! No chord is wider or higher than a pixel, so it touches two rows and in each
//! two columns at most. Whether it really does is anyone's guess, so all go the
//! same way, without a branch, and many side by side (`docs/performance.md`).

use super::Pen;
use super::flatten::{Chords, Place, larger, smaller};

/// As many chords wait before they are added together.
const BATCH: usize = 64;

/// As many chords of one curve are made side by side.
const LANES: usize = 4;

/// Chords on their way, one array for each of their numbers.
#[derive(Clone, Debug)]
struct Batch {
    len: usize,
    from_x: [f32; BATCH + LANES],
    from_y: [f32; BATCH + LANES],
    to_x: [f32; BATCH + LANES],
    to_y: [f32; BATCH + LANES],
    bulge: [f32; BATCH + LANES],
}

impl Default for Batch {
    fn default() -> Self {
        let zeros = [0.0; BATCH + LANES];
        Self {
            len: 0,
            from_x: zeros,
            from_y: zeros,
            to_x: zeros,
            to_y: zeros,
            bulge: zeros,
        }
    }
}

/// What the chords of a batch change: the two rows' first columns, and three
/// neighbouring cells from there on.
#[derive(Clone, Debug)]
struct Changes {
    row: [u32; BATCH],
    upper_column: [u32; BATCH],
    lower_column: [u32; BATCH],
    upper: [[f32; BATCH]; 3],
    lower: [[f32; BATCH]; 3],
}

impl Default for Changes {
    fn default() -> Self {
        Self {
            row: [0; BATCH],
            upper_column: [0; BATCH],
            lower_column: [0; BATCH],
            upper: [[0.0; BATCH]; 3],
            lower: [[0.0; BATCH]; 3],
        }
    }
}

/// Area changes of a picture: `width + 2` cells a row and a spare row below, so
/// that a chord on the right or lower border has a cell to spill into. All zero
/// between two pictures.
#[derive(Clone, Debug, Default)]
pub(super) struct Accumulator {
    cells: Vec<f32>,
    /// One byte a cell, before the spare cells are left out.
    shades: Vec<u8>,
    stride: usize,
    width: usize,
    height: usize,
    batch: Batch,
    changes: Changes,
}

/// The whole part of a number from 0 to 4 million, as a number and as an index;
/// for a whole number it may be one less. From 2²³ on neighbouring `f32` are 1
/// apart, so that an addition rounds: no conversion, no range check.
#[inline(always)]
fn whole(value: f32) -> (f32, u32) {
    const MIDDLE: f32 = 12_582_912.0;
    let rounded = (value - 0.5) + MIDDLE;
    (rounded - MIDDLE, rounded.to_bits() & 0x003f_ffff)
}

/// The part of a chord inside one row, as changes of three neighbouring cells.
/// `rise` is its height, positive downwards.
#[inline(always)]
fn piece(from: f32, to: f32, rise: f32, bulge: f32) -> (u32, [f32; 3]) {
    // Places may be beyond the border by a rounding.
    let low = larger(smaller(from, to), 0.0);
    let high = larger(from, to);
    let (column, index) = whole(low);
    // The means over the edge of how much of the first and of the second
    // column lies left of it.
    let past = larger(high - column - 1.0, 0.0);
    let reach = smaller(past / (high - low + f32::MIN_POSITIVE), 1.0);
    let second = 0.5 * past * reach;
    let first = 0.5 * (low + high) - column - second;
    let left_of_first = rise * first - bulge * (1.0 - reach);
    let left_of_second = rise * second - bulge * reach;
    (
        index,
        [
            rise - left_of_first,
            left_of_first - left_of_second,
            left_of_second,
        ],
    )
}

impl Batch {
    /// Takes as many chords of a curve from `done` on as fit side by side.
    #[inline(always)]
    fn take(&mut self, chords: &Chords, done: u32) {
        let at = self.len;
        let times: [f32; LANES] =
            std::array::from_fn(|lane| (done as f32 + lane as f32) * chords.step);
        let lanes = |of: fn(Place) -> f32, later: f32| -> [f32; LANES] {
            times.map(|time| of(chords.at(time + later)))
        };
        self.from_x[at..at + LANES].copy_from_slice(&lanes(|p| p.0, 0.0));
        self.from_y[at..at + LANES].copy_from_slice(&lanes(|p| p.1, 0.0));
        self.to_x[at..at + LANES].copy_from_slice(&lanes(|p| p.0, chords.step));
        self.to_y[at..at + LANES].copy_from_slice(&lanes(|p| p.1, chords.step));
        self.bulge[at..at + LANES].copy_from_slice(&[chords.bulge; LANES]);
        self.len += (chords.count - done).min(LANES as u32) as usize;
    }
}

impl Changes {
    /// Finds what every chord changes: plain arithmetic on arrays, which the
    /// compiler does several at a time. Those past the end are left over from
    /// before, and nobody reads what comes of them.
    #[inline(never)]
    fn of(&mut self, batch: &Batch) {
        // Whole groups of side-by-side chords.
        for index in 0..batch.len.next_multiple_of(LANES).min(BATCH) {
            let (from_x, from_y) = (batch.from_x[index], batch.from_y[index]);
            let (to_x, to_y) = (batch.to_x[index], batch.to_y[index]);
            let bulge = batch.bulge[index];
            let is_down = from_y < to_y;
            let top = if is_down { from_x } else { to_x };
            let bottom = if is_down { to_x } else { from_x };
            let (row, row_index) = whole(larger(smaller(from_y, to_y), 0.0));
            // What lies in the upper row, and what in the lower.
            let border = row + 1.0;
            let rise = to_y - from_y;
            let upper = smaller(to_y, border) - smaller(from_y, border);
            let share = upper.abs() / (rise.abs() + f32::MIN_POSITIVE);
            let middle = top + (bottom - top) * share;
            let upper_bulge = bulge * share;
            let (column, changes) = piece(top, middle, upper, upper_bulge);
            self.row[index] = row_index;
            self.upper_column[index] = column;
            for (list, change) in self.upper.iter_mut().zip(changes) {
                list[index] = change;
            }
            let (column, changes) = piece(middle, bottom, rise - upper, bulge - upper_bulge);
            self.lower_column[index] = column;
            for (list, change) in self.lower.iter_mut().zip(changes) {
                list[index] = change;
            }
        }
    }
}

impl Accumulator {
    pub(super) fn reset(&mut self, width: usize, height: usize) {
        self.width = width;
        self.height = height;
        self.stride = width + 2;
        self.cells.resize(self.stride * (height + 1), 0.0);
    }

    /// Adds the chords that wait.
    fn flush(&mut self) {
        self.changes.of(&self.batch);
        let stride = self.stride;
        let mut add = |at: usize, changes: &[[f32; BATCH]; 3], index: usize| {
            if let Some([here, next, last]) = cells_from(&mut self.cells, at) {
                *here += changes[0][index];
                *next += changes[1][index];
                *last += changes[2][index];
            }
        };
        let changes = &self.changes;
        for index in 0..self.batch.len.min(BATCH) {
            let row = changes.row[index] as usize * stride;
            add(
                row + changes.upper_column[index] as usize,
                &changes.upper,
                index,
            );
            add(
                row + stride + changes.lower_column[index] as usize,
                &changes.lower,
                index,
            );
        }
        self.batch.len = 0;
    }

    /// Adds an upright edge, of which every whole row gets the same.
    fn upright(&mut self, x: f32, from: f32, to: f32) {
        // Places may be beyond the border by a rounding.
        let (x, top) = (larger(x, 0.0), larger(smaller(from, to), 0.0));
        let bottom = larger(from, to);
        let sign = if from < to { 1.0 } else { -1.0 };
        let (column, index) = whole(x);
        let index = index as usize;
        let left_of_it = x - column;
        let (mut row, row_index) = whole(top);
        let mut at = row_index as usize * self.stride + index;
        let mut y = top;
        while y < bottom {
            let next_y = smaller(bottom, row + 1.0);
            let rise = sign * (next_y - y);
            if let Some([here, next]) = cells_from(&mut self.cells, at) {
                *here += rise - rise * left_of_it;
                *next += rise * left_of_it;
            }
            y = next_y;
            row += 1.0;
            at += self.stride;
        }
    }

    /// Adds an edge for hard fills: a crossing of every
    /// row's middle line, counted from the first pixel whose centre is not left
    /// of it. Top ends belong to an edge and bottom ends don't, so joints count
    /// once.
    pub(super) fn crossing_line(&mut self, from: Place, to: Place) {
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
        self.flush();
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

/// Neighbouring cells; there are always as many, or nothing to add.
#[inline(always)]
fn cells_from<const N: usize>(cells: &mut [f32], at: usize) -> Option<&mut [f32; N]> {
    cells.get_mut(at..)?.first_chunk_mut()
}

/// Adds areas.
pub(super) struct SmoothPen<'a>(pub(super) &'a mut Accumulator);

impl Pen for SmoothPen<'_> {
    #[inline]
    fn line(&mut self, from: Place, to: Place) {
        if from.0 == to.0 {
            self.0.upright(from.0, from.1, to.1);
        } else if from.1 != to.1 {
            self.chords_to(&Chords::line(from, to), to);
        }
    }

    #[inline]
    fn chords_to(&mut self, chords: &Chords, _: Place) {
        let mut done = 0;
        while done < chords.count {
            if self.0.batch.len >= BATCH - LANES {
                self.0.flush();
            }
            self.0.batch.take(chords, done);
            done += LANES as u32;
        }
    }
}

/// Adds crossings of the middles of rows.
pub(super) struct HardPen<'a>(pub(super) &'a mut Accumulator);

impl Pen for HardPen<'_> {
    fn line(&mut self, from: Place, to: Place) {
        self.0.crossing_line(from, to);
    }

    fn chords_to(&mut self, chords: &Chords, to: Place) {
        let mut from = chords.from;
        for index in 1..chords.count {
            let next = chords.at(index as f32 * chords.step);
            self.line(from, next);
            from = next;
        }
        self.line(from, to);
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
