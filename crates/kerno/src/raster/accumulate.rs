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

use std::cell::Cell;

use wide::f32x4;

use super::flatten::{CHORDS, Chords, Ink, LANES, lanes, larger, set_lanes, smaller};

/// What chords change: the two rows' first columns, and three neighbouring
/// cells from there on.
#[derive(Clone, Debug)]
struct Changes {
    row: [u32; CHORDS],
    upper_column: [u32; CHORDS],
    lower_column: [u32; CHORDS],
    upper: [[f32; CHORDS]; 3],
    lower: [[f32; CHORDS]; 3],
}

impl Default for Changes {
    fn default() -> Self {
        Self {
            row: [0; CHORDS],
            upper_column: [0; CHORDS],
            lower_column: [0; CHORDS],
            upper: [[0.0; CHORDS]; 3],
            lower: [[0.0; CHORDS]; 3],
        }
    }
}

/// As many rows are summed together: each sum waits for the one before it, four
/// do not wait for each other.
const BAND: usize = 4;

/// Area changes of a picture: at least `width + 2` cells a row and a spare row
/// below, so that a chord on the right or lower border has a cell to spill into,
/// in whole groups both ways. All zero between two pictures.
#[derive(Clone, Debug, Default)]
pub(super) struct Accumulator {
    cells: Vec<f32>,
    stride: usize,
    width: usize,
    height: usize,
    changes: Changes,
}

/// The whole parts of numbers not below 0, as indices and as numbers.
#[inline(always)]
fn whole(value: f32x4) -> (wide::i32x4, f32x4) {
    let index = value.fast_trunc_int();
    (index, f32x4::from_i32x4(index))
}

/// The parts of chords inside one row, as changes of three neighbouring cells.
/// `rise` is their height, positive downwards.
#[inline(always)]
fn pieces(from: f32x4, to: f32x4, rise: f32x4, bulge: f32x4) -> (wide::i32x4, [f32x4; 3]) {
    // Places may be beyond the border by a rounding.
    let low = from.fast_min(to).fast_max(f32x4::ZERO);
    let high = from.fast_max(to);
    let (index, column) = whole(low);
    let (low, high) = (low - column, high - column);
    // How much of the piece lies in the second column, as a length and as a share.
    let past = (high - 1.0).fast_max(f32x4::ZERO);
    let share = past / (high - low + f32::MIN_POSITIVE);
    // The areas left of it, in both columns and in the second.
    let half = rise * 0.5;
    let left = half * (low + high) - bulge;
    let left_of_second = share * (half * past - bulge);
    let left_of_first = left - left_of_second;
    (
        index,
        [
            rise - left_of_first,
            left_of_first - left_of_second,
            left_of_second,
        ],
    )
}

impl Changes {
    /// Finds what every chord changes, as many at once as there are lanes. Those
    /// past the end are left over from before, and nobody reads what comes of
    /// them.
    #[inline(never)]
    fn of(&mut self, chords: &Chords) {
        for at in (0..chords.count()).step_by(LANES) {
            let (from_x, from_y) = (lanes(&chords.from.x, at), lanes(&chords.from.y, at));
            let (to_x, to_y) = (lanes(&chords.to.x, at), lanes(&chords.to.y, at));
            let bulge = lanes(&chords.bulge, at);
            let is_down = wide::CmpLt::cmp_lt(from_y, to_y);
            let top = is_down.blend(from_x, to_x);
            let bottom = from_x + to_x - top;
            let (row_index, row) = whole(from_y.fast_min(to_y).fast_max(f32x4::ZERO));
            // What lies in the upper row, and what in the lower.
            let border = row + 1.0;
            let rise = to_y - from_y;
            let upper = to_y.fast_min(border) - from_y.fast_min(border);
            let share = upper.abs() / (rise.abs() + f32::MIN_POSITIVE);
            let middle = top + (bottom - top) * share;
            let upper_bulge = bulge * share;
            let (upper_column, upper_changes) = pieces(top, middle, upper, upper_bulge);
            let (lower_column, lower_changes) =
                pieces(middle, bottom, rise - upper, bulge - upper_bulge);
            for (list, indices) in [
                (&mut self.row, row_index),
                (&mut self.upper_column, upper_column),
                (&mut self.lower_column, lower_column),
            ] {
                set_lanes(list, at, bytemuck::cast::<_, [u32; LANES]>(indices));
            }
            for (list, changes) in self.upper.iter_mut().zip(upper_changes) {
                set_lanes(list, at, changes);
            }
            for (list, changes) in self.lower.iter_mut().zip(lower_changes) {
                set_lanes(list, at, changes);
            }
        }
    }
}

impl Accumulator {
    pub(super) fn reset(&mut self, width: usize, height: usize) {
        self.width = width;
        self.height = height;
        self.stride = (width + 2).next_multiple_of(LANES);
        let rows = (height + 1).next_multiple_of(BAND);
        // A chord on the right border of the last row reaches past it, with nothing to add.
        self.cells.resize(self.stride * rows + LANES, 0.0);
    }

    /// Adds what chords change.
    fn add(&mut self, chords: &Chords) {
        self.changes.of(chords);
        let (stride, changes) = (self.stride as u32, &self.changes);
        let cells = &mut self.cells[..];
        for index in 0..chords.count() {
            let row = changes.row[index].wrapping_mul(stride);
            let upper = row.wrapping_add(changes.upper_column[index]) as usize;
            let lower = row.wrapping_add(stride);
            let lower = lower.wrapping_add(changes.lower_column[index]) as usize;
            if upper + 3 > cells.len() || lower + 3 > cells.len() {
                continue; // There are always as many, or nothing to add.
            }
            // One of each row in turn, so that each is loaded by itself: two that
            // are loaded together wait for what was stored apart.
            for place in 0..3 {
                cells[upper + place] += changes.upper[place][index];
                cells[lower + place] += changes.lower[place][index];
            }
        }
    }

    /// Adds an upright edge, of which every whole row gets the same.
    fn add_upright(&mut self, x: f32, from: f32, to: f32) {
        // Places may be beyond the border by a rounding.
        let (x, top) = (larger(x, 0.0), larger(smaller(from, to), 0.0));
        let bottom = larger(from, to);
        let sign = if from < to { 1.0 } else { -1.0 };
        let (column, first_row) = (x as i32, top as i32);
        let left_of_it = x - column as f32;
        let mut row = first_row as f32;
        let mut at = first_row as usize * self.stride + column as usize;
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
    fn cross(&mut self, from: (f32, f32), to: (f32, f32)) {
        if from.1 == to.1 {
            return;
        }
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
            let shade = area.abs().fast_min(f32x4::ONE) * 255.0;
            bytemuck::cast(shade.fast_round_int())
        });
    }

    /// Sums the cells into one byte a pixel: on where the winding is not zero.
    pub(super) fn write_hard(&mut self, texels: &mut Vec<u8>) {
        self.write(texels, |winding| {
            let is_on = wide::CmpGt::cmp_gt(winding.abs(), f32x4::HALF);
            bytemuck::cast::<f32x4, wide::u32x4>(is_on) & wide::u32x4::splat(0xff)
        });
    }

    fn write(&mut self, texels: &mut Vec<u8>, shade: impl Fn(f32x4) -> wide::u32x4) {
        let (width, groups) = (self.width, self.width.div_ceil(LANES));
        let rows = self.height.next_multiple_of(BAND);
        texels.resize(rows * width + LANES, 0);
        let (cells, _) = self.cells.as_chunks::<LANES>();
        let places = Cell::from_mut(&mut texels[..]).as_slice_of_cells();
        for (band, cells) in cells.chunks_exact(self.stride).enumerate() {
            // The last group of a row reaches into the next row, whose first
            // group is therefore written again.
            let row = |row: usize| {
                let places = places.get((band * BAND + row) * width..);
                places.map_or(&[][..], |places| places.as_chunks::<LANES>().0)
            };
            let places = (row(0), row(1), row(2), row(3));
            let places = places.0.iter().zip(places.1).zip(places.2).zip(places.3);
            let (upper, lower) = cells.split_at(self.stride / 2);
            let (first, second) = upper.split_at(self.stride / 4);
            let (third, fourth) = lower.split_at(self.stride / 4);
            // A lane is a row.
            let mut sum = f32x4::ZERO;
            let mut firsts = None;
            let rows = first.iter().zip(second).zip(third).zip(fourth);
            for ((((a, b), c), d), places) in rows.zip(places).take(groups) {
                let columns = f32x4::transpose([*a, *b, *c, *d].map(f32x4::new));
                let mut words = wide::u32x4::ZERO;
                for (place, cells) in columns.into_iter().enumerate() {
                    sum += cells;
                    words |= shade(sum) << (8 * place as u32);
                }
                let (((a, b), c), d) = places;
                let group = ([a, b, c, d], words.to_array());
                put_words(group);
                firsts.get_or_insert(group);
            }
            if let Some(firsts) = firsts {
                put_words(firsts);
            }
        }
        texels.truncate(width * self.height);
        self.cells.fill(0.0);
    }
}

/// Writes four bytes into each of four rows.
#[inline(always)]
fn put_words((places, words): ([&[Cell<u8>; LANES]; BAND], [u32; BAND])) {
    for (place, word) in places.into_iter().zip(words) {
        for (place, byte) in place.iter().zip(word.to_le_bytes()) {
            place.set(byte);
        }
    }
}

/// Neighbouring cells; there are always as many, or nothing to add.
#[inline(always)]
fn cells_from<const N: usize>(cells: &mut [f32], at: usize) -> Option<&mut [f32; N]> {
    cells.get_mut(at..)?.first_chunk_mut()
}

/// Adds areas.
pub(super) struct SmoothInk<'a>(pub(super) &'a mut Accumulator);

impl Ink for SmoothInk<'_> {
    fn chords(&mut self, chords: &Chords) {
        self.0.add(chords);
    }

    #[inline]
    fn upright(&mut self, x: f32, from: f32, to: f32) {
        self.0.add_upright(x, from, to);
    }
}

/// Adds crossings of the middles of rows.
pub(super) struct HardInk<'a>(pub(super) &'a mut Accumulator);

impl Ink for HardInk<'_> {
    fn chords(&mut self, chords: &Chords) {
        let (from, to) = (&chords.from, &chords.to);
        for index in 0..chords.count() {
            let ends = [(from.x[index], from.y[index]), (to.x[index], to.y[index])];
            self.0.cross(ends[0], ends[1]);
        }
    }

    fn upright(&mut self, x: f32, from: f32, to: f32) {
        self.0.cross((x, from), (x, to));
    }
}

/// The first row or column whose middle is not before a place.
fn middle_from(place: f32) -> usize {
    let before = larger(place - 0.5, 0.0);
    let index = before as usize;
    index + usize::from(before > index as f32)
}
