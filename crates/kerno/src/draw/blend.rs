//! Arithmetic of colours in 8 bits.

use crate::base::Color;

/// The colour space in which colours are blended.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum Blending {
    /// sRGB as it is stored: fades look even, and black on white weighs as much as white on
    /// black.
    #[default]
    Perceptual,
    /// Linear light, as light mixes: light letters on dark look heavier, dark ones on light
    /// thinner ([`Scope::text_contrast`](super::Scope::text_contrast) at -1 evens that out).
    LinearLight,
}

/// a · b / 255, rounded to nearest, for all a and b up to 255.
#[inline(always)]
pub(super) fn times(a: u8, b: u8) -> u8 {
    // At most 65,407 in all: it fits.
    let product = u16::from(a) * u16::from(b) + 128;
    ((product + (product >> 8)) >> 8) as u8
}

/// A straight colour at an opacity of 0 to 1, with its channels multiplied by
/// its alpha.
pub(super) fn premultiplied(color: Color, opacity: f32) -> [u8; 4] {
    let alpha = (f32::from(color.alpha) * opacity + 0.5) as u8;
    [
        times(color.red, alpha),
        times(color.green, alpha),
        times(color.blue, alpha),
        alpha,
    ]
}

/// Porter–Duff “over”, both premultiplied.
#[inline(always)]
pub(super) fn over(above: [u8; 4], below: [u8; 4]) -> [u8; 4] {
    let rest = 255 - above[3];
    std::array::from_fn(|channel| above[channel].saturating_add(times(below[channel], rest)))
}
