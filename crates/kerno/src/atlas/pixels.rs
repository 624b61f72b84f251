//! Pictures in memory, and how they come to another size.

use super::{Sampling, Slot};
use crate::base::Image;

/// A picture: premultiplied, four bytes a texel.
#[derive(Clone, Debug)]
pub(crate) struct Pixels {
    pub(super) width: u32,
    pub(super) height: u32,
    bytes: Vec<u8>,
}

impl Pixels {
    /// An image with its colours multiplied by their alpha.
    pub(crate) fn premultiplied(image: &Image) -> Self {
        let (pixels, _) = image.pixels().as_chunks::<4>();
        let by_alpha = |c: u8, a: u8| ((u32::from(c) * u32::from(a) + 127) / 255) as u8;
        let bytes = pixels
            .iter()
            .flat_map(|&[r, g, b, a]| [by_alpha(r, a), by_alpha(g, a), by_alpha(b, a), a]);
        Self {
            width: image.width(),
            height: image.height(),
            bytes: bytes.collect(),
        }
    }

    /// The picture that was stored at a place, given row by row, upright again and
    /// with what was trimmed off around it.
    pub(super) fn stored<'a>(
        slot: &Slot,
        whole: (u16, u16),
        rows: impl Iterator<Item = &'a [u8]>,
    ) -> Self {
        let (width, height) = (u32::from(whole.0), u32::from(whole.1));
        let mut bytes = vec![0; width as usize * height as usize * 4];
        let (left, top) = (slot.left as usize, slot.top as usize);
        let tallest = usize::from(slot.picture_size().1);
        for (row, texels) in rows.enumerate() {
            for (column, texel) in texels.as_chunks::<4>().0.iter().enumerate() {
                let (x, y) = if slot.is_rotated {
                    (row, tallest - 1 - column)
                } else {
                    (column, row)
                };
                let at = ((top + y) * width as usize + left + x) * 4;
                bytes[at..at + 4].copy_from_slice(texel);
            }
        }
        Self {
            width,
            height,
            bytes,
        }
    }

    /// The picture at another size.
    pub(crate) fn resized(&self, width: u32, height: u32, sampling: Sampling) -> Vec<u8> {
        if (width, height) == (self.width, self.height) {
            return self.bytes.clone();
        }
        let columns = taps(self.width, width, sampling);
        let rows = taps(self.height, height, sampling);
        // Along the rows first, then down the columns.
        let (own_texels, _) = self.bytes.as_chunks::<4>();
        let wide: Vec<[f32; 4]> = own_texels
            .chunks_exact(self.width as usize)
            .flat_map(|row| {
                columns
                    .iter()
                    .map(|taps| taps.mix(|index| row[index].map(f32::from)))
            })
            .collect();
        let width = width as usize;
        rows.iter()
            .flat_map(|taps| {
                let wide = &wide;
                (0..width).flat_map(move |x| {
                    taps.mix(|index| wide[index * width + x])
                        .map(|channel| (channel + 0.5) as u8)
                })
            })
            .collect()
    }
}

/// A picture turned clockwise by a quarter; `texel` is how many bytes one takes.
pub(crate) fn turned(width: u32, bytes: &[u8], texel: usize) -> Vec<u8> {
    let width = width as usize;
    let height = bytes.len() / texel / width.max(1);
    let at = |x: usize, y: usize| (y * width + x) * texel;
    let turned = (0..width).flat_map(|x| (0..height).rev().map(move |y| at(x, y)));
    turned
        .flat_map(|start| &bytes[start..start + texel])
        .copied()
        .collect()
}

/// The source texels that make up one new texel along an axis, and the weight of
/// each; the weights add up to 1.
struct Taps {
    first: usize,
    weights: Vec<f32>,
}

impl Taps {
    fn mix(&self, texel: impl Fn(usize) -> [f32; 4]) -> [f32; 4] {
        let mut sum = [0.0; 4];
        for (index, weight) in (self.first..).zip(&self.weights) {
            let channels = texel(index);
            for (sum, channel) in sum.iter_mut().zip(channels) {
                *sum += channel * weight;
            }
        }
        sum
    }
}

/// The taps of every new texel along one axis.
fn taps(from: u32, to: u32, sampling: Sampling) -> Vec<Taps> {
    let ratio = from as f32 / to as f32;
    let last = from as usize - 1;
    let tap = |index: u32| {
        let center = (index as f32 + 0.5) * ratio;
        if sampling == Sampling::Nearest {
            return Taps {
                first: (center as usize).min(last),
                weights: vec![1.0],
            };
        }
        // The exact share of every texel under the new one.
        let (start, end) = (index as f32 * ratio, (index + 1) as f32 * ratio);
        let first = (start as usize).min(last);
        let stop = (end.ceil() as usize).clamp(first + 1, last + 1);
        let share = |texel: usize| {
            let covered = end.min((texel + 1) as f32) - start.max(texel as f32);
            covered.max(0.0)
        };
        let total: f32 = (first..stop).map(share).sum();
        Taps {
            first,
            weights: (first..stop).map(|texel| share(texel) / total).collect(),
        }
    };
    (0..to).map(tap).collect()
}

/// The part of a picture (four bytes a texel) that is not clear: left, top, width,
/// height; a corner of a picture that is all clear.
pub(super) fn opaque_part(width: u32, bytes: &[u8]) -> [u32; 4] {
    let mut part: Option<[u32; 4]> = None;
    let (texels, _) = bytes.as_chunks::<4>();
    for (index, _) in texels
        .iter()
        .enumerate()
        .filter(|(_, texel)| **texel != [0; 4])
    {
        let (x, y) = (index as u32 % width, index as u32 / width);
        let [left, top, right, bottom] = part.unwrap_or([x, y, x, y]);
        part = Some([left.min(x), top.min(y), right.max(x), bottom.max(y)]);
    }
    // One clear texel stays around it, for edges that fade when enlarged.
    let height = texels.len() as u32 / width.max(1);
    let [left, top, right, bottom] = part.unwrap_or_default();
    let (left, top) = (left.saturating_sub(1), top.saturating_sub(1));
    let (right, bottom) = ((right + 2).min(width), (bottom + 2).min(height));
    [left, top, right - left, bottom - top]
}

/// A part of a picture.
pub(super) fn cut_out(
    bytes: &[u8],
    width: u32,
    [x, y, part_width, part_height]: [u32; 4],
) -> Vec<u8> {
    let rows = (y..y + part_height).flat_map(|row| {
        let start = (row * width + x) as usize * 4;
        &bytes[start..start + part_width as usize * 4]
    });
    rows.copied().collect()
}
