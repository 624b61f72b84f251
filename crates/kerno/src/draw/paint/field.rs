//! Distance fields: from the values of a page to how much of a pixel is covered.

use super::super::{Shade, TEXEL_UNITS, Vertex};
use super::texture::{RowPlace, TextureSpan};
use crate::atlas::Page;

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
        match self.is_soft {
            true => share * share * (3.0 - 2.0 * share),
            false => share,
        }
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

/// Memory for rows of a field.
#[derive(Clone, Debug, Default)]
pub(super) struct FieldRows {
    first: Vec<[u8; 1]>,
    second: Vec<[u8; 1]>,
    mixed: Vec<f32>,
    covered: Vec<u8>,
}

impl FieldRows {
    /// The coverage of the pixels of a row.
    pub(super) fn covered(
        &mut self,
        span: &TextureSpan,
        page: &Page,
        place: RowPlace,
        edge: FieldEdge,
    ) -> &[u8] {
        let RowPlace { x, step, y, count } = place;
        let (x, y) = (x - 0.5, y - 0.5);
        let last = x + step * (count as f32 - 1.0);
        let column = x.min(last).floor() as i32;
        let line = (column, (x.max(last).floor() as i32 - column + 2) as usize);
        let (row, down) = (y.floor() as i32, y - y.floor());
        let above = span.line(page, row, line, &mut self.first);
        let below = span.line(page, row + 1, line, &mut self.second);
        self.mixed.clear();
        self.mixed
            .extend(above.iter().zip(below).map(|([above], [below])| {
                let (above, below) = (f32::from(*above), f32::from(*below));
                (above + (below - above) * down) / 255.0
            }));
        let values = self.mixed.as_slice();
        let most = values.len().saturating_sub(2) as f32;
        let start = x - column as f32;
        self.covered.clear();
        self.covered.extend((0..count).map(|pixel| {
            let at = (start + step * pixel as f32).clamp(0.0, most + 1.0);
            let index = at.min(most) as usize;
            let part = at - index as f32;
            let (left, right) = (values[index], values[index + 1]);
            (edge.seen(left + (right - left) * part) * 255.0 + 0.5) as u8
        }));
        &self.covered
    }
}

/// The value of a page at a place in texels, from 0 to 1; beyond its border the border goes
/// on.
pub(super) fn value(page: &Page, x: f32, y: f32) -> f32 {
    let (width, height) = (i32::from(page.width()), i32::from(page.height()));
    let (x, y) = (x - 0.5, y - 0.5);
    let (column, row) = (x.floor(), y.floor());
    let texel = |right: i32, down: i32| {
        let x = (column as i32 + right).clamp(0, width - 1);
        let y = (row as i32 + down).clamp(0, height - 1);
        f32::from(page.texels()[(y * width + x) as usize])
    };
    let mix = |from: f32, to: f32, share: f32| from + (to - from) * share;
    let above = mix(texel(0, 0), texel(1, 0), x - column);
    let below = mix(texel(0, 1), texel(1, 1), x - column);
    mix(above, below, y - row) / 255.0
}
