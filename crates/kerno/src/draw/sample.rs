//! Textures, sampled as a GPU does.

use super::{TEXEL_UNITS, Vertex};
use crate::atlas::Page;

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

    /// Where the picture begins and how long it is along an axis of the quad, in texels.
    pub(super) fn along(&self, axis: usize) -> (f32, f32) {
        (self.ways[axis].first, self.ways[axis].length)
    }

    /// The texel of the page for one of the picture.
    fn on_page(&self, column: i32, row: i32) -> (i32, i32) {
        let mut place = [0; 2];
        for (way, count) in self.ways.iter().zip([column, row]) {
            place[way.axis] = way.corner + way.sign * count;
        }
        (place[0], place[1])
    }

    /// The colour at a place of the picture, in texels from its corner.
    pub(super) fn sample<const N: usize>(&self, page: &Page, x: f32, y: f32) -> [u8; N] {
        linear(x, y, |column, row| {
            let (x, y) = self.on_page(column, row);
            texel(page, x, y)
        })
    }
}

/// The colour at a place of a page, in texels.
pub(super) fn sample<const N: usize>(page: &Page, x: f32, y: f32) -> [u8; N] {
    linear(x, y, |x, y| texel(page, x, y))
}

/// A texel of a page; beyond its border the border goes on.
fn texel<const N: usize>(page: &Page, x: i32, y: i32) -> [u8; N] {
    let (texels, _) = page.texels().as_chunks::<N>();
    let (width, height) = (i32::from(page.width()), i32::from(page.height()));
    texels[(y.clamp(0, height - 1) * width + x.clamp(0, width - 1)) as usize]
}

/// Linear filtering between the centres of four texels.
fn linear<const N: usize>(x: f32, y: f32, texel: impl Fn(i32, i32) -> [u8; N]) -> [u8; N] {
    let (x, y) = (x - 0.5, y - 0.5);
    let (column, row) = (x.floor(), y.floor());
    let (share_x, share_y) = (x - column, y - row);
    let (column, row) = (column as i32, row as i32);
    if share_x == 0.0 && share_y == 0.0 {
        return texel(column, row);
    }
    let four = [
        (texel(column, row), (1.0 - share_x) * (1.0 - share_y)),
        (texel(column + 1, row), share_x * (1.0 - share_y)),
        (texel(column, row + 1), (1.0 - share_x) * share_y),
        (texel(column + 1, row + 1), share_x * share_y),
    ];
    std::array::from_fn(|channel| {
        let sum: f32 = four
            .iter()
            .map(|(texel, weight)| f32::from(texel[channel]) * weight)
            .sum();
        (sum + 0.5) as u8
    })
}
