//! Rows of a picture that are drawn on.

use super::LinearLight;

/// Some rows of a picture, all of its width.
pub(in crate::draw) struct Target<'a> {
    pixels: &'a mut [[u8; 4]],
    width: usize,
    first: usize,
}

impl<'a> Target<'a> {
    /// Rows from a row of the picture on.
    pub(in crate::draw) fn new(pixels: &'a mut [[u8; 4]], width: usize, first: usize) -> Self {
        Self {
            pixels,
            width,
            first,
        }
    }

    /// A clear picture of the same rows.
    pub(super) fn like(&self) -> Vec<[u8; 4]> {
        vec![[0; 4]; self.pixels.len()]
    }

    /// The same rows of another picture.
    pub(super) fn of<'o>(&self, pixels: &'o mut [[u8; 4]]) -> Target<'o> {
        Target::new(pixels, self.width, self.first)
    }

    /// Lays another picture of the same rows over this one, at an opacity.
    pub(super) fn lay_over(
        &mut self,
        pixels: &mut [[u8; 4]],
        opacity: u8,
        light: Option<&LinearLight>,
    ) {
        crate::base::rows::tint(pixels, [opacity; 4]);
        match light {
            Some(light) => light.blend_colors(self.pixels, pixels),
            None => crate::base::rows::blend_colors(self.pixels, pixels),
        }
    }

    pub(super) fn width(&self) -> usize {
        self.width
    }

    /// The rows of the picture that it has.
    pub(super) fn rows(&self) -> std::ops::Range<usize> {
        let count = self.pixels.len().checked_div(self.width).unwrap_or(0);
        self.first..self.first + count
    }

    /// Lays a colour over some pixels of one of its rows.
    pub(in crate::draw) fn blend(
        &mut self,
        y: usize,
        columns: std::ops::Range<usize>,
        color: [u8; 4],
    ) {
        crate::base::rows::blend(self.row(y, columns), color);
    }

    /// Some pixels of one of its rows.
    pub(super) fn row(&mut self, y: usize, columns: std::ops::Range<usize>) -> &mut [[u8; 4]] {
        let start = (y - self.first) * self.width;
        &mut self.pixels[start..start + self.width][columns]
    }
}
