//! Sprites: pictures drawn by hand, and the nine parts of a panel.

use super::{AtlasError, Slot};
use crate::base::{Image, Insets, Size};

/// Which sprite of an [`Atlas`](super::Atlas).
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct SpriteId(pub(super) u32);

/// How a sprite is brought to the size it has on the window.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Sampling {
    /// Averages texels when shrunk, blends neighbours when enlarged.
    #[default]
    Smooth,
    /// Takes the nearest texel: for pixel art.
    Nearest,
}

/// What an [`Image`] alone doesn't tell of a sprite.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct SpriteOptions {
    /// Image pixels per design pixel: 4 for art drawn at four times the size
    /// it has in the design. Above 0; default 1.
    pub density: f32,
    /// For a nine-slice: the width of the border, in image pixels, whose
    /// corners keep their shape when the sprite is drawn at another size.
    pub slices: Insets,
    /// How it is brought to another size.
    pub sampling: Sampling,
}

impl Default for SpriteOptions {
    fn default() -> Self {
        Self {
            density: 1.0,
            slices: Insets::default(),
            sampling: Sampling::Smooth,
        }
    }
}

/// A sprite as it was added: premultiplied, at its own size.
#[derive(Clone, Debug)]
pub(super) struct Sprite {
    pub(super) name: String,
    width: u32,
    height: u32,
    premultiplied: Vec<u8>,
    options: SpriteOptions,
}

/// A sprite's picture at one scale, on a page.
#[derive(Clone, Copy, Debug)]
pub(crate) struct SpritePicture {
    pub(crate) slot: Slot,
    /// Nine-slice borders of this picture, in texels: left, top, right, bottom.
    pub(crate) borders: [u16; 4],
    /// Device pixels in one texel: 1, or more for smooth sprites that are
    /// enlarged while they are drawn.
    pub(crate) enlarged: f32,
}

impl Sprite {
    pub(super) fn new(
        name: &str,
        image: &Image,
        options: SpriteOptions,
    ) -> Result<Self, AtlasError> {
        let bad = |what| {
            Err(AtlasError::BadSprite {
                name: name.to_owned(),
                what,
            })
        };
        let (width, height) = (image.width(), image.height());
        if width == 0 || height == 0 {
            return bad("the picture has no pixels");
        }
        if !(options.density > 0.0 && options.density.is_finite()) {
            return bad("the density must be above 0 and finite");
        }
        let borders = options.slices;
        let sides = [borders.left, borders.right, borders.top, borders.bottom];
        if !sides.iter().all(|side| *side >= 0.0)
            || borders.left + borders.right > width as f32
            || borders.top + borders.bottom > height as f32
        {
            return bad("the nine-slice borders must be 0 or more and fit into the picture");
        }
        let premultiplied = image
            .pixels()
            .as_chunks::<4>()
            .0
            .iter()
            .flat_map(|&[r, g, b, a]| {
                let by_alpha = |c: u8| ((u32::from(c) * u32::from(a) + 127) / 255) as u8;
                [by_alpha(r), by_alpha(g), by_alpha(b), a]
            })
            .collect();
        Ok(Self {
            name: name.to_owned(),
            width,
            height,
            premultiplied,
            options,
        })
    }

    /// Width and height in design pixels.
    pub(super) fn size(&self) -> Size {
        Size::new(
            self.width as f32 / self.options.density,
            self.height as f32 / self.options.density,
        )
    }

    /// Width and height in texels of the picture for `scale` device pixels per
    /// design pixel, and how much it is still to be enlarged. Shrinking happens
    /// on the page, where every texel can count; enlarging a smooth sprite is
    /// left to the renderer's filter, which does it as well and takes no room.
    pub(super) fn texels_at(&self, scale: f32) -> (u32, u32, f32) {
        let factor = scale / self.options.density;
        if self.options.sampling == Sampling::Smooth && factor > 1.0 {
            return (self.width, self.height, factor);
        }
        let texels = |length: u32| (length as f32 * factor).round().max(1.0) as u32;
        (texels(self.width), texels(self.height), 1.0)
    }

    /// The nine-slice borders of the picture at another size.
    pub(super) fn borders(&self, width: u32, height: u32) -> [u16; 4] {
        let at =
            |border: f32, own: u32, new: u32| (border * new as f32 / own as f32).round() as u16;
        let slices = self.options.slices;
        [
            at(slices.left, self.width, width),
            at(slices.top, self.height, height),
            at(slices.right, self.width, width),
            at(slices.bottom, self.height, height),
        ]
    }

    /// The picture at another size: premultiplied, four bytes a texel.
    pub(super) fn resized(&self, width: u32, height: u32) -> Vec<u8> {
        if (width, height) == (self.width, self.height) {
            return self.premultiplied.clone();
        }
        let columns = taps(self.width, width, self.options.sampling);
        let rows = taps(self.height, height, self.options.sampling);
        // Along the rows first, then down the columns.
        let (own_texels, _) = self.premultiplied.as_chunks::<4>();
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

/// Which source texels make up one new texel along an axis, and how much of
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
