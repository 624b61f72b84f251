//! Arithmetic of colours in 8 bits.

use crate::base::Color;
use crate::base::rows::times;

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
