//! Distance fields: from the values of a page to how much of a pixel is covered.

use super::super::{Shade, TEXEL_UNITS, Vertex};
use super::texture::{RowPlace, TextureSpan};
use crate::atlas::{Page, PageKind};

/// The edge of a quad's distance field.
#[derive(Clone, Copy)]
pub(super) struct FieldEdge {
    /// Coverage gained from the lowest value to the highest one.
    slope: f32,
    /// Coverage at the lowest value.
    start: f32,
    is_soft: bool,
}

impl FieldEdge {
    /// The edge of a quad with a field of a range; `corners` are three of its corners.
    pub(super) fn new(shade: Shade, range: u8, corners: [&Vertex; 3]) -> Self {
        let range = f32::from(range);
        let outset = f32::from(shade.edge as i8) / 256.0 * range;
        let softness = f32::from(shade.softness) / 255.0 * range;
        let width = softness.max(texels_per_pixel(corners)).max(1e-6);
        Self {
            slope: range / width,
            start: (outset - 0.5 * range) / width + 0.5,
            is_soft: softness > 0.0,
        }
    }

    /// The coverage at a value from 0 to 1.
    #[inline(always)]
    pub(super) fn seen(&self, value: f32) -> f32 {
        let share = (value * self.slope + self.start).clamp(0.0, 1.0);
        if !self.is_soft {
            return share;
        }
        share * share * (3.0 - 2.0 * share)
    }
}

/// The number of texels that a pixel is wide, on average of its two axes.
fn texels_per_pixel(corners: [&Vertex; 3]) -> f32 {
    let [first, second, third] = corners;
    let place = |corner: &Vertex| {
        [0, 1].map(|axis| f64::from(corner.position[axis]) - f64::from(first.position[axis]))
    };
    let texel = |corner: &Vertex| {
        let units = f64::from(TEXEL_UNITS);
        [0, 1].map(|axis| (f64::from(corner.texel[axis]) - f64::from(first.texel[axis])) / units)
    };
    let ([a, b], [c, d]) = (place(second), place(third));
    let (own, other) = (texel(second), texel(third));
    let area = a * d - b * c;
    if area == 0.0 {
        return 1.0;
    }
    // The texels that a pixel to the right goes on, and one down.
    let across = [0, 1].map(|axis| (own[axis] * d - other[axis] * b) / area);
    let down = [0, 1].map(|axis| (other[axis] * a - own[axis] * c) / area);
    let length = |way: [f64; 2]| way[0].hypot(way[1]);
    ((length(across) + length(down)) * 0.5) as f32
}

/// The part of a texel that tells the distance.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum FieldChannel {
    /// Its only byte.
    Mask,
    /// The middle one of red, green and blue.
    Middle,
    Alpha,
}

impl FieldChannel {
    pub(super) fn of(shade: Shade) -> Self {
        match shade.field_page() {
            PageKind::Mask => Self::Mask,
            PageKind::Color if shade.edge == 0 && shade.softness == 0 => Self::Middle,
            PageKind::Color => Self::Alpha,
        }
    }
}

/// Memory for rows of a field.
#[derive(Clone, Debug, Default)]
pub(super) struct FieldRows {
    masks: [Vec<[u8; 1]>; 2],
    colors: [Vec<[u8; 4]>; 2],
    single: Vec<[f32; 1]>,
    several: Vec<[f32; 4]>,
    covered: Vec<u8>,
}

impl FieldRows {
    /// The coverage of the pixels of a row.
    pub(super) fn covered(
        &mut self,
        span: &TextureSpan,
        page: &Page,
        place: RowPlace,
        (edge, channel): (FieldEdge, FieldChannel),
    ) -> &[u8] {
        let (masks, colors) = (&mut self.masks, &mut self.colors);
        let covered = &mut self.covered;
        let seen = |value: f32| (edge.seen(value) * 255.0 + 0.5) as u8;
        match channel {
            FieldChannel::Mask => {
                let texel = |[byte]: [u8; 1]| [f32::from(byte)];
                mix_rows(span, page, place, masks, &mut self.single, texel);
                step_along(&self.single, place, covered, |[value]| seen(value));
            }
            FieldChannel::Alpha => {
                let texel = |[.., alpha]: [u8; 4]| [f32::from(alpha)];
                mix_rows(span, page, place, colors, &mut self.single, texel);
                step_along(&self.single, place, covered, |[value]| seen(value));
            }
            FieldChannel::Middle => {
                let texel = |texel: [u8; 4]| texel.map(f32::from);
                mix_rows(span, page, place, colors, &mut self.several, texel);
                let middle = |[red, green, blue, _]: [f32; 4]| seen(middle([red, green, blue]));
                step_along(&self.several, place, covered, middle);
            }
        }
        covered
    }
}

/// Mixes the two rows of texels that a row of pixels lies between, to values from 0 to 1.
#[inline(always)]
fn mix_rows<const N: usize, const M: usize>(
    span: &TextureSpan,
    page: &Page,
    place: RowPlace,
    [first, second]: &mut [Vec<[u8; N]>; 2],
    mixed: &mut Vec<[f32; M]>,
    texel: impl Fn([u8; N]) -> [f32; M],
) {
    let y = place.y - 0.5;
    let (row, down) = (y.floor() as i32, y - y.floor());
    let line = place.texels();
    let above = span.line(page, row, line, first);
    let below = span.line(page, row + 1, line, second);
    mixed.clear();
    mixed.extend(above.iter().zip(below).map(|(above, below)| {
        let (above, below) = (texel(*above), texel(*below));
        std::array::from_fn(|channel| {
            (above[channel] + (below[channel] - above[channel]) * down) * (1.0 / 255.0)
        })
    }));
}

/// Mixes neighbours of a row for each pixel of it.
#[inline(always)]
fn step_along<const M: usize>(
    mixed: &[[f32; M]],
    place: RowPlace,
    covered: &mut Vec<u8>,
    seen: impl Fn([f32; M]) -> u8,
) {
    let Some(most) = mixed.len().checked_sub(2) else {
        return;
    };
    let (column, _) = place.texels();
    // Texels in 1/2³² from the first one on.
    let fixed = |texels: f32| (f64::from(texels) * 4_294_967_296.0) as i64;
    let (start, step) = (fixed(place.x - 0.5 - column as f32), fixed(place.step));
    covered.clear();
    covered.extend((0..place.count as i64).map(|pixel| {
        let at = (start + step * pixel).max(0) as u64;
        let index = ((at >> 32) as usize).min(most);
        let part = (at as u32 >> 8) as f32 * (1.0 / 16_777_216.0);
        let (left, right) = (&mixed[index], &mixed[index + 1]);
        seen(std::array::from_fn(|channel| {
            left[channel] + (right[channel] - left[channel]) * part
        }))
    }));
}

impl RowPlace {
    /// The first texel of a row and the number of those that its pixels lie between.
    fn texels(&self) -> (i32, usize) {
        let x = self.x - 0.5;
        let last = x + self.step * (self.count as f32 - 1.0);
        let column = x.min(last).floor() as i32;
        (column, (x.max(last).floor() as i32 - column + 2) as usize)
    }
}

/// The middle one of three values.
#[inline(always)]
fn middle([a, b, c]: [f32; 3]) -> f32 {
    a.min(b).max(a.max(b).min(c))
}

/// The value of a page at a place in texels, from 0 to 1; beyond its border the border goes
/// on.
pub(super) fn value(page: &Page, channel: FieldChannel, x: f32, y: f32) -> f32 {
    let (x, y) = (x - 0.5, y - 0.5);
    let (column, row) = (x.floor(), y.floor());
    let shares = [x - column, y - row];
    let [width, height] = [page.width(), page.height()].map(i32::from);
    let columns = [0, 1].map(|right| (column as i32 + right).clamp(0, width - 1) as usize);
    let rows = [0, 1].map(|down| {
        let row = (row as i32 + down).clamp(0, height - 1) as usize;
        row * width as usize
    });
    let indices = rows.map(|row| columns.map(|column| row + column));
    match channel {
        FieldChannel::Mask => mixed(page.texels(), indices, shares),
        FieldChannel::Alpha => {
            let (texels, _) = page.texels().as_chunks::<4>();
            let alphas = indices.map(|row| row.map(|index| texels[index][3]));
            mixed(alphas.as_flattened(), [[0, 1], [2, 3]], shares)
        }
        FieldChannel::Middle => {
            let (texels, _) = page.texels().as_chunks::<4>();
            let four = indices.map(|row| row.map(|index| texels[index]));
            middle([0, 1, 2].map(|channel| {
                let bytes = four.map(|row| row.map(|texel| texel[channel]));
                mixed(bytes.as_flattened(), [[0, 1], [2, 3]], shares)
            }))
        }
    }
}

/// Four bytes, mixed by shares of the way right and down, from 0 to 1.
fn mixed(bytes: &[u8], indices: [[usize; 2]; 2], [right, down]: [f32; 2]) -> f32 {
    let mix = |from: f32, to: f32, share: f32| from + (to - from) * share;
    let [above, below] = indices.map(|row| {
        let [left, last] = row.map(|index| f32::from(bytes[index]));
        mix(left, last, right)
    });
    mix(above, below, down) * (1.0 / 255.0)
}
