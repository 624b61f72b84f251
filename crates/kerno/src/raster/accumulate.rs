//! The accumulation buffer: chords in, coverage out.
//!
//! Every pixel of a row holds by how much the filled area changes there from
//! its left neighbour; a running sum along the row gives the area itself. A
//! chord adds to the pixels it crosses only, with the exact area right of it.
//!
//! The sum is the winding number averaged over the pixel, and its magnitude
//! capped at 1 is the coverage. That is the non-zero rule exactly wherever the
//! winding number inside the pixel is 0 and one other value: of contours that overlap,
//! the edges inside are left out before ([`sweep`](super::sweep)).
//!
//! No chord is wider or higher than a pixel, so it touches two rows and
//! two columns at most. Whether it really does is anyone's guess, so all go the
//! same way, without a branch, and many side by side (`docs/performance.md`).

use std::cell::Cell;

use wide::{CmpLt, f32x4, i32x4};

use super::flatten::{Chords, Ink};
use super::lanes::{LANES, larger, smaller};

/// The changes made by chords: three neighbouring cells, from the cell of that number on, and
/// the three below them.
#[derive(Clone, Copy, Debug, Default)]
struct Changes {
    cell: [u32; LANES],
    upper: [[f32; LANES]; 3],
    lower: [[f32; LANES]; 3],
}

/// As many rows are summed together: each sum waits for the one before it, four
/// do not wait for each other.
const BAND: usize = 4;

/// Area changes of a picture: at least `width + 2` cells a row and a spare row
/// below, so that a chord on the right or lower border has a cell to spill into,
/// in whole groups both ways. All zero between two pictures.
#[derive(Clone, Debug, Default)]
pub(super) struct Accumulator {
    /// Those of the largest picture so far.
    cells: Vec<f32>,
    /// The number of cells of this picture.
    count: usize,
    stride: usize,
    width: usize,
    height: usize,
    changes: Vec<Changes>,
}

/// The whole parts of numbers above -1 (places may be beyond the border by a rounding),
/// as indices and as numbers.
#[inline(always)]
fn whole(value: f32x4) -> (i32x4, f32x4) {
    let index = value.fast_trunc_int();
    (index, f32x4::from_i32x4(index))
}

/// The part of a chord in one row as changes of three neighbouring cells: its height,
/// and the areas left of it, in both of its columns and in the second.
#[inline(always)]
fn changes_in_row(rise: f32x4, left: f32x4, left_of_second: f32x4) -> [[f32; LANES]; 3] {
    let left_of_first = left - left_of_second;
    let changes = [
        rise - left_of_first,
        left_of_first - left_of_second,
        left_of_second,
    ];
    changes.map(f32x4::to_array)
}

/// Finds what every chord changes, as many at once as there are lanes.
#[inline(never)]
fn find_changes(chords: &Chords, stride: usize, changes: &mut [Changes]) {
    let Chords {
        from, to, bulge, ..
    } = chords;
    let from = from.x.as_chunks().0.iter().zip(from.y.as_chunks().0);
    let to = to.x.as_chunks().0.iter().zip(to.y.as_chunks().0);
    let chords = from.zip(to).zip(bulge.as_chunks().0);
    for (changes, (((from_x, from_y), (to_x, to_y)), bulge)) in changes.iter_mut().zip(chords) {
        let [from_x, from_y, to_x, to_y, bulge] =
            [from_x, from_y, to_x, to_y, bulge].map(|list| f32x4::new(*list));
        let (_, row) = whole(from_y.fast_min(to_y));
        let (first, column) = whole(from_x.fast_min(to_x));
        // Exact, since the stride is a multiple of a power of two.
        let cell = (row * stride as f32).fast_trunc_int() + first;
        // Places count from the left edge of the first column.
        let (from_x, to_x) = (from_x - column, to_x - column);
        let top = from_y.cmp_lt(to_y).blend(from_x, to_x);
        let both_ends = from_x + to_x;
        let bottom = both_ends - top;
        let width = bottom - top;
        // The part in the upper row, and the place where the chord leaves it.
        let border = row + 1.0;
        let rise = to_y - from_y;
        let upper_rise = to_y.fast_min(border) - from_y.fast_min(border);
        let share = (upper_rise + f32::MIN_POSITIVE) / (rise + f32::MIN_POSITIVE);
        let middle = top + width * share;
        // The areas left of it, in both rows and in the upper.
        let half = rise * 0.5;
        let left = half * both_ends - bulge;
        let upper_left = share * (half * (top + middle) - bulge);
        // Its reach into the second column, and the areas left of it there:
        // a share of it lies there, as far in as the middle of its ends.
        let past = [top, middle, bottom].map(|x| (x - 1.0).fast_max(f32x4::ZERO));
        let per_width = f32x4::ONE / (width + f32::MIN_POSITIVE);
        let in_second = |from: f32x4, to: f32x4| {
            let share = (to - from) * per_width;
            share * (half * (from + to) - bulge)
        };
        *changes = Changes {
            cell: bytemuck::cast(cell),
            upper: changes_in_row(upper_rise, upper_left, in_second(past[0], past[1])),
            lower: changes_in_row(
                rise - upper_rise,
                left - upper_left,
                in_second(past[1], past[2]),
            ),
        };
    }
}

impl Accumulator {
    pub(super) fn reset(&mut self, width: usize, height: usize) {
        self.width = width;
        self.height = height;
        // Rows times stride have 30 bits at most, of which a number keeps 24.
        let unit = if width.max(height) < 4096 { LANES } else { 64 };
        self.stride = (width + 2).next_multiple_of(unit);
        let rows = (height + 1).next_multiple_of(BAND);
        // A chord on the right border of the last row reaches past it, with nothing to add.
        self.count = self.stride * rows + LANES;
        if self.cells.len() < self.count {
            self.cells.resize(self.count, 0.0);
        }
    }

    /// Adds what chords change.
    fn add(&mut self, chords: &Chords) {
        let groups = chords.count().div_ceil(LANES);
        if self.changes.len() < groups {
            self.changes.resize(groups, Changes::default());
        }
        let changes = &mut self.changes[..groups];
        find_changes(chords, self.stride, changes);
        let cells = Cell::from_mut(&mut self.cells[..self.count]).as_slice_of_cells();
        // Small enough that the compiler sees that no sum of places overflows.
        let stride = self.stride as u32 as usize;
        // Neighbouring chords change the same cells, and would wait for each other: of
        // each group one in turn.
        for lane in 0..LANES {
            for changes in &*changes {
                // There are always as many cells, or nothing to add.
                let cell = changes.cell[lane] as usize;
                let Some(near) = cells.get(cell..cell + stride + 3) else {
                    continue;
                };
                // One of each row in turn, so that each is loaded by itself: two that
                // are loaded together wait for what was stored apart.
                for place in 0..3 {
                    let (upper, lower) = (&near[place], &near[stride + place]);
                    upper.set(upper.get() + changes.upper[place][lane]);
                    lower.set(lower.get() + changes.lower[place][lane]);
                }
            }
        }
    }

    /// Adds an upright edge, of which every whole row gets the same.
    #[inline(never)]
    fn add_upright(&mut self, x: f32, from: f32, to: f32) {
        // Places may be beyond the border by a rounding.
        let (x, top) = (larger(x, 0.0), larger(smaller(from, to), 0.0));
        let bottom = larger(from, to);
        let sign = if from < to { 1.0 } else { -1.0 };
        let (column, first, last) = (x as usize, top as usize, bottom as usize);
        let left_of_it = x - column as f32;
        let cells = self.cells[..self.count].get_mut(first * self.stride + column..);
        let mut rows = cells.unwrap_or_default().chunks_mut(self.stride);
        let mut add = |count: usize, rise: f32| {
            let (here, next) = (rise - rise * left_of_it, rise * left_of_it);
            for row in rows.by_ref().take(count) {
                if let [first, second, ..] = row {
                    *first += here;
                    *second += next;
                }
            }
        };
        add(1, sign * (smaller(bottom, (first + 1) as f32) - top));
        if last > first {
            add(last - first - 1, sign);
            add(1, sign * (bottom - last as f32));
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

    /// Sums the cells of each row, and makes all 0.
    #[inline(never)]
    fn write(&mut self, texels: &mut Vec<u8>, shade: impl Fn(f32x4) -> wide::u32x4) {
        let width = self.width;
        texels.resize(self.height.next_multiple_of(BAND) * width, 0);
        let cells = &mut self.cells[..self.count];
        let bands = cells.as_chunks_mut::<LANES>().0;
        let bands = bands.chunks_exact_mut(self.stride);
        for (band, texels) in bands.zip(texels.chunks_exact_mut(BAND * width)) {
            // A lane is a row.
            let mut sum = f32x4::ZERO;
            let mut next = |cells: [&[f32; LANES]; BAND]| -> [[u8; LANES]; BAND] {
                let columns = cells.map(|cells| f32x4::new(*cells));
                let [a, b, c, d] = f32x4::transpose(columns).map(|cells| {
                    sum += cells;
                    shade(sum)
                });
                let words: wide::u32x4 = a | b << 8 | c << 16 | d << 24;
                words.to_array().map(u32::to_le_bytes)
            };
            let [a, b, c, d] = rows(band);
            let mut cells = a.iter().zip(b).zip(c).zip(d);
            let texels = rows(texels).map(<[u8]>::as_chunks_mut);
            let [(a, a_rest), (b, b_rest), (c, c_rest), (d, d_rest)] = texels;
            let texels = a.iter_mut().zip(b).zip(c).zip(d);
            for ((((a, b), c), d), (((e, f), g), h)) in texels.zip(&mut cells) {
                [*a, *b, *c, *d] = next([e, f, g, h]);
            }
            if !a_rest.is_empty()
                && let Some((((e, f), g), h)) = cells.next()
            {
                let rests = [a_rest, b_rest, c_rest, d_rest];
                for (rest, bytes) in rests.into_iter().zip(next([e, f, g, h])) {
                    for (texel, byte) in rest.iter_mut().zip(bytes) {
                        *texel = byte;
                    }
                }
            }
        }
        texels.truncate(width * self.height);
        cells.fill(0.0);
    }
}

/// The rows of a band.
#[inline(always)]
fn rows<T>(band: &mut [T]) -> [&mut [T]; BAND] {
    let row = band.len() / BAND;
    let (upper, lower) = band.split_at_mut(row * 2);
    let ((a, b), (c, d)) = (upper.split_at_mut(row), lower.split_at_mut(row));
    [a, b, c, d]
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
