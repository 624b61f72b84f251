//! Textures, sampled as a GPU does.

use super::super::{TEXEL_UNITS, Vertex};
use crate::atlas::Page;

/// Parts of a texel that linear filtering tells apart, as GPUs do at least.
const PARTS: u16 = 256;

/// One way across a quad's picture, along an axis of its page.
#[derive(Clone, Copy)]
struct Way {
    axis: usize,
    /// 1 where texels are counted up on the way, -1 where down.
    sign: i32,
    /// The whole texel of the page that it begins in.
    corner: i32,
    /// From there to where it really begins, in texels.
    first: f32,
    /// Its length, in texels.
    length: f32,
}

impl Way {
    fn new(axis: usize, from: u16, to: u16) -> Self {
        let whole = |units: u16| i32::from(units / TEXEL_UNITS);
        let texels = |units: u16| f32::from(units) / f32::from(TEXEL_UNITS);
        let length = texels(from.abs_diff(to));
        if to < from {
            // From the right edge of the texel that it begins in.
            let edge = from.div_ceil(TEXEL_UNITS);
            return Self {
                axis,
                sign: -1,
                corner: i32::from(edge) - 1,
                first: texels(edge * TEXEL_UNITS - from),
                length,
            };
        }
        Self {
            axis,
            sign: 1,
            corner: whole(from),
            first: texels(from % TEXEL_UNITS),
            length,
        }
    }
}

/// The picture of an upright quad on its page. Places in the picture are counted from
/// its own corner, so that a picture comes out the same wherever it was put, turned or
/// mirrored or not.
#[derive(Clone, Copy)]
pub(super) struct TextureSpan {
    /// To the right, and down.
    ways: [Way; 2],
}

impl TextureSpan {
    /// The span of a quad whose picture is turned by quarters and mirrored at most.
    pub(super) fn of(corners: &[Vertex; 4]) -> Option<Self> {
        let [first, right, last, left] = corners.map(|corner| corner.texel);
        // On its side, going right in a picture is going down the page.
        let is_on_side = first[0] == right[0] && first[1] != right[1];
        let (across, down) = if is_on_side { (1, 0) } else { (0, 1) };
        let is_straight = first[down] == right[down]
            && left[down] == last[down]
            && first[across] == left[across]
            && right[across] == last[across];
        is_straight.then(|| Self {
            ways: [
                Way::new(across, first[across], right[across]),
                Way::new(down, first[down], last[down]),
            ],
        })
    }

    /// The same span, moved down the page by a number of rows.
    pub(super) fn moved_down(mut self, rows: i32) -> Self {
        for way in &mut self.ways {
            way.corner += if way.axis == 1 { rows } else { 0 };
        }
        self
    }

    /// Start and length of the picture along an axis of the quad, in texels.
    pub(super) fn along(&self, axis: usize) -> (f32, f32) {
        (self.ways[axis].first, self.ways[axis].length)
    }

    /// The texels that pixels show one by one, where the picture lies upright on its page:
    /// given the first pixel and its texel, across and down.
    pub(super) fn whole_rows<'p>(
        &self,
        page: &'p Page,
        [across, down]: [Option<(usize, i32)>; 2],
    ) -> Option<WholeRows<'p>> {
        let ((x, column), (y, row)) = (across?, down?);
        let [right, under] = self.ways;
        let is_plain = right.axis == 0 && right.sign == 1 && under.sign == 1;
        let start = |way: Way, first: i32| usize::try_from(way.corner + first).ok();
        let (column, row) = (start(right, column)?, start(under, row)?);
        let end = |first: usize, length: f32| first + length.ceil() as usize;
        let is_inside = end(column, right.length) <= usize::from(page.width())
            && end(row, under.length) <= usize::from(page.height());
        (is_plain && is_inside).then(|| WholeRows {
            texels: page.texels(),
            width: page.width().into(),
            column: column.wrapping_sub(x),
            row: row.wrapping_sub(y),
        })
    }

    /// A line of the picture, from a column on; beyond the page its border goes on.
    pub(super) fn line<'p, const N: usize>(
        &self,
        page: &'p Page,
        row: i32,
        (column, count): (i32, usize),
        spare: &'p mut Vec<[u8; N]>,
    ) -> &'p [[u8; N]] {
        let (texels, _) = page.texels().as_chunks::<N>();
        let size = [i32::from(page.width()), i32::from(page.height())];
        let [across, down] = self.ways;
        let fixed = (down.corner + down.sign * row).clamp(0, size[down.axis] - 1);
        let first = across.corner + across.sign * column;
        let last = first + across.sign * (count as i32 - 1);
        let is_inside = first.min(last) >= 0 && first.max(last) < size[across.axis];
        if across.axis == 0 && across.sign == 1 && is_inside {
            let start = (fixed * size[0] + first) as usize;
            return &texels[start..start + count];
        }
        spare.clear();
        spare.extend((0..count as i32).map(|step| {
            let at = (first + across.sign * step).clamp(0, size[across.axis] - 1);
            let (x, y) = if across.axis == 0 {
                (at, fixed)
            } else {
                (fixed, at)
            };
            texels[(y * size[0] + x) as usize]
        }));
        spare
    }
}

/// Texels that pixels show one by one.
pub(super) struct WholeRows<'p> {
    texels: &'p [u8],
    width: usize,
    /// From the pixel's place to that of its texel, modulo the largest number.
    column: usize,
    row: usize,
}

impl<'p> WholeRows<'p> {
    /// The texels of some pixels from a place on.
    #[inline]
    pub(super) fn row(&self, x: usize, y: usize, count: usize) -> &'p [u8] {
        let (x, y) = (x.wrapping_add(self.column), y.wrapping_add(self.row));
        &self.texels[y * self.width + x..][..count]
    }
}

/// A row of a quad on the picture.
#[derive(Clone, Copy)]
pub(super) struct RowPlace {
    /// At its first pixel's centre, in texels from the corner of the picture.
    pub(super) x: f32,
    /// Texels from one pixel to the next.
    pub(super) step: f32,
    /// In texels down from the corner of the picture.
    pub(super) y: f32,
    /// The number of pixels.
    pub(super) count: usize,
}

/// Memory for rows of texels.
#[derive(Clone, Debug, Default)]
pub(super) struct TexelRows<const N: usize> {
    first: Vec<[u8; N]>,
    second: Vec<[u8; N]>,
    mixed: Vec<[u8; N]>,
    row: Vec<[u8; N]>,
}

impl<const N: usize> TexelRows<N> {
    /// The texels of a picture along a row, with linear filtering.
    pub(super) fn sampled<'r>(
        &'r mut self,
        span: &TextureSpan,
        page: &'r Page,
        place: RowPlace,
    ) -> &'r [[u8; N]] {
        let RowPlace { x, step, y, count } = place;
        let (x, y) = (x - 0.5, y - 0.5);
        let last = x + step * (count as f32 - 1.0);
        let column = x.min(last).floor() as i32;
        let (row, down) = parts(y);
        if step == 1.0 && x.fract() == 0.0 && down == 0 {
            return span.line(page, row, (column, count), &mut self.first);
        }
        let line = (column, (x.max(last).floor() as i32 - column + 2) as usize);
        let mut texels = span.line(page, row, line, &mut self.first);
        if down != 0 {
            let below = span.line(page, row + 1, line, &mut self.second);
            self.mixed.clear();
            self.mixed.extend(
                texels
                    .iter()
                    .zip(below)
                    .map(|(above, below)| mixed(*above, *below, down)),
            );
            texels = &self.mixed;
        }
        // 32 bits before the point and as many after it.
        let fixed = |length: f32| (f64::from(length) * 4_294_967_296.0) as i64;
        let (mut at, step) = (fixed(x - column as f32), fixed(step));
        self.row.clear();
        self.row.extend((0..count).map(|_| {
            let (index, share) = ((at >> 32).max(0) as usize, (at >> 24 & 0xff) as u16);
            at += step;
            match texels.get(index..index + 2) {
                Some([left, right]) => mixed(*left, *right, share),
                _ => texels[texels.len() - 1],
            }
        }));
        &self.row
    }
}

/// A length as whole texels and parts of one.
fn parts(length: f32) -> (i32, u16) {
    let whole = length.floor();
    let share = ((length - whole) * f32::from(PARTS)) as u16;
    (whole as i32, share)
}

/// The colour at a share of the way from one texel to another.
#[inline(always)]
fn mixed<const N: usize>(from: [u8; N], to: [u8; N], share: u16) -> [u8; N] {
    std::array::from_fn(|channel| {
        let sum = u16::from(from[channel]) * (PARTS - share) + u16::from(to[channel]) * share;
        ((sum + PARTS / 2) >> 8) as u8
    })
}

/// The colour at a place of a page, in texels, with linear filtering; beyond its border the
/// border goes on.
pub(super) fn sample<const N: usize>(page: &Page, x: f32, y: f32) -> [u8; N] {
    let (texels, _) = page.texels().as_chunks::<N>();
    let (width, height) = (i32::from(page.width()), i32::from(page.height()));
    let ((column, right), (row, down)) = (parts(x - 0.5), parts(y - 0.5));
    let texel =
        |x: i32, y: i32| texels[(y.clamp(0, height - 1) * width + x.clamp(0, width - 1)) as usize];
    let above = mixed(texel(column, row), texel(column + 1, row), right);
    if down == 0 {
        return above;
    }
    let below = mixed(texel(column, row + 1), texel(column + 1, row + 1), right);
    mixed(above, below, down)
}
