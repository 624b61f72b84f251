//! Premultiplied colours of 8 bits: one over another, and rows of them over rows.
//!
//! Four pixels are worked on at a time, as sixteen channels; what is left at the end of a
//! row is done one by one, by the same arithmetic.

use wide::{i16x8, u8x16, u16x8, u32x4};

/// a · b / 255, rounded to nearest, for all a and b up to 255.
#[inline(always)]
pub(crate) fn times(a: u8, b: u8) -> u8 {
    // At most 65,407 in all: it fits.
    let product = u16::from(a) * u16::from(b) + 128;
    ((product + (product >> 8)) >> 8) as u8
}

/// Porter–Duff “over”, both premultiplied.
#[inline(always)]
pub(crate) fn over(above: [u8; 4], below: [u8; 4]) -> [u8; 4] {
    let rest = 255 - above[3];
    std::array::from_fn(|channel| above[channel].saturating_add(times(below[channel], rest)))
}

/// Sixteen products divided by 255, rounded to nearest: as [`times`].
#[inline(always)]
fn times_lanes(a: u8x16, b: u8x16) -> u8x16 {
    // (p + 128) · 257 / 65536 is p / 255, rounded, for all products p.
    let (half, factor) = (u16x8::splat(128), u16x8::splat(257));
    let scaled =
        |a: u16x8, b: u16x8| -> i16x8 { bytemuck::cast((a * b + half).mul_keep_high(factor)) };
    u8x16::narrow_i16x8(
        scaled(u16x8::from_u8x16_low(a), u16x8::from_u8x16_low(b)),
        scaled(u16x8::from_u8x16_high(a), u16x8::from_u8x16_high(b)),
    )
}

/// Porter–Duff “over” for four pixels, with the alpha above in every channel.
#[inline(always)]
fn over_lanes(above: u8x16, alpha: u8x16, below: u8x16) -> u8x16 {
    let rest = u8x16::splat(255).saturating_sub(alpha);
    above.saturating_add(times_lanes(below, rest))
}

/// Four numbers, each in the four channels of its pixel.
#[inline(always)]
fn spread(numbers: [u8; 4]) -> u8x16 {
    let numbers: u8x16 = bytemuck::cast([u32::from_ne_bytes(numbers), 0, 0, 0]);
    let pairs = u8x16::unpack_low(numbers, numbers);
    u8x16::unpack_low(pairs, pairs)
}

/// The alpha of four pixels in all channels of each.
#[inline(always)]
fn alpha_of(pixels: u8x16) -> u8x16 {
    // In memory the alpha is the last byte.
    let pixels: u32x4 = bytemuck::cast(pixels);
    let one = if cfg!(target_endian = "little") {
        pixels >> 24
    } else {
        pixels & u32x4::splat(0xff)
    };
    let two = one | one << 8;
    bytemuck::cast(two | two << 16)
}

/// Lays one colour over a row.
pub(crate) fn blend(row: &mut [[u8; 4]], color: [u8; 4]) {
    match color[3] {
        255 => return row.fill(color),
        0 if color == [0; 4] => return,
        _ => {}
    }
    let (lanes, alpha) = (bytemuck::cast([color; 4]), u8x16::splat(color[3]));
    let (groups, rest) = row.as_chunks_mut::<4>();
    for pixels in groups {
        *pixels = bytemuck::cast(over_lanes(lanes, alpha, bytemuck::cast(*pixels)));
    }
    for pixel in rest {
        *pixel = over(color, *pixel);
    }
}

/// A colour that is laid over rows where masks cover them.
#[derive(Clone, Copy)]
pub(crate) struct MaskedColor {
    color: [u8; 4],
    lanes: u8x16,
    alpha: u8x16,
}

impl MaskedColor {
    pub(crate) fn new(color: [u8; 4]) -> Self {
        Self {
            color,
            lanes: bytemuck::cast([color; 4]),
            alpha: u8x16::splat(color[3]),
        }
    }

    /// Lays it over a row.
    #[inline]
    pub(crate) fn blend(&self, row: &mut [[u8; 4]], mask: &[u8]) {
        let (groups, rest) = row.as_chunks_mut::<4>();
        let (masks, rest_mask) = mask.as_chunks::<4>();
        for (pixels, mask) in groups.iter_mut().zip(masks) {
            if *mask != [0; 4] {
                *pixels = self.over(*pixels, *mask);
            }
        }
        let count = rest.len();
        if count > 0 {
            // As four, of which some are not shown.
            let (mut pixels, mut mask) = ([[0; 4]; 4], [0; 4]);
            pixels[..count].copy_from_slice(rest);
            mask[..count].copy_from_slice(&rest_mask[..count]);
            rest.copy_from_slice(&self.over(pixels, mask)[..count]);
        }
    }

    #[inline(always)]
    fn over(&self, pixels: [[u8; 4]; 4], mask: [u8; 4]) -> [[u8; 4]; 4] {
        let mask = spread(mask);
        let above = times_lanes(self.lanes, mask);
        let alpha = match self.color[3] == 255 {
            true => mask,
            false => times_lanes(self.alpha, mask),
        };
        bytemuck::cast(over_lanes(above, alpha, bytemuck::cast(pixels)))
    }
}

/// Lays a row over another.
pub(crate) fn blend_colors(row: &mut [[u8; 4]], colors: &[[u8; 4]]) {
    let (groups, rest) = row.as_chunks_mut::<4>();
    let (above, rest_above) = colors.as_chunks::<4>();
    for (pixels, above) in groups.iter_mut().zip(above) {
        let above: u8x16 = bytemuck::cast(*above);
        let below = bytemuck::cast(*pixels);
        *pixels = bytemuck::cast(over_lanes(above, alpha_of(above), below));
    }
    for (pixel, above) in rest.iter_mut().zip(rest_above) {
        *pixel = over(*above, *pixel);
    }
}

/// Multiplies a row by a colour.
pub(crate) fn tint(row: &mut [[u8; 4]], color: [u8; 4]) {
    let lanes = bytemuck::cast([color; 4]);
    let (groups, rest) = row.as_chunks_mut::<4>();
    for pixels in groups {
        *pixels = bytemuck::cast(times_lanes(bytemuck::cast(*pixels), lanes));
    }
    for pixel in rest {
        *pixel = std::array::from_fn(|channel| times(pixel[channel], color[channel]));
    }
}

/// Multiplies a row by another.
pub(crate) fn tint_each(row: &mut [[u8; 4]], colors: &[[u8; 4]]) {
    let (groups, rest) = row.as_chunks_mut::<4>();
    let (others, rest_colors) = colors.as_chunks::<4>();
    for (pixels, others) in groups.iter_mut().zip(others) {
        let product = times_lanes(bytemuck::cast(*pixels), bytemuck::cast(*others));
        *pixels = bytemuck::cast(product);
    }
    for (pixel, color) in rest.iter_mut().zip(rest_colors) {
        *pixel = std::array::from_fn(|channel| times(pixel[channel], color[channel]));
    }
}

/// Multiplies a row by a mask.
pub(crate) fn mask(row: &mut [[u8; 4]], mask: &[u8]) {
    for (pixel, mask) in row.iter_mut().zip(mask) {
        *pixel = pixel.map(|channel| times(channel, *mask));
    }
}

/// Bits after the point of the channels on their way along a row.
const FRACTION: u32 = 16;

/// Fills a row with colours on the way from one to another: `share` of the way at its first
/// pixel, and `step` more at each.
pub(crate) fn fill(row: &mut [[u8; 4]], [from, to]: [[f32; 4]; 2], share: f32, step: f32) {
    let whole = (1 << FRACTION) as f32;
    let way: [f32; 4] = std::array::from_fn(|channel| to[channel] - from[channel]);
    let at = |pixel: f32| -> [i32; 4] {
        std::array::from_fn(|channel| {
            ((from[channel] + way[channel] * (share + step * pixel) + 0.5) * whole) as i32
        })
    };
    // Four pixels at a time, each channel by itself.
    let mut four = [0, 1, 2, 3].map(|pixel| wide::i32x4::new(at(pixel as f32)));
    let step = wide::i32x4::new(way.map(|way| (way * step * 4.0 * whole) as i32));
    let (groups, rest) = row.as_chunks_mut::<4>();
    for pixels in groups {
        let whole = four.map(|channels| channels >> FRACTION);
        let pair = |low: wide::i32x4, high: wide::i32x4| -> i16x8 {
            let both: [[i32; 4]; 2] = [low.to_array(), high.to_array()];
            i16x8::from_i32x8_saturate(bytemuck::cast(both))
        };
        let narrow = u8x16::narrow_i16x8(pair(whole[0], whole[1]), pair(whole[2], whole[3]));
        *pixels = bytemuck::cast(narrow);
        for channels in &mut four {
            *channels += step;
        }
    }
    for (pixel, channels) in rest.iter_mut().zip(four) {
        let channels = channels.to_array();
        *pixel = channels.map(|channel| (channel >> FRACTION).clamp(0, 255) as u8);
    }
}
