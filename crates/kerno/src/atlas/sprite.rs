//! Sprites: pictures drawn by hand, and the nine parts of a panel.

use super::{AtlasError, Slot};
use crate::base::{Anchor, DeviceRect, Image, Insets, Size};

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
    /// How the edges of a nine-slice fill their room.
    pub edges: SliceFill,
    /// How its middle does; that of a sprite without borders is all of it.
    pub middle: SliceFill,
    /// The point that the sprite is held and turned by, for
    /// [`Atlas::sprite_origin`](super::Atlas::sprite_origin). Default: its middle.
    pub origin: Anchor,
}

/// How a part of a nine-slice fills its room.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum SliceFill {
    /// It is stretched.
    #[default]
    Stretch,
    /// It is repeated from the left and from the top at its own size, and cut off
    /// at the end.
    Tile,
}

impl Default for SpriteOptions {
    fn default() -> Self {
        Self {
            density: 1.0,
            slices: Insets::default(),
            sampling: Sampling::Smooth,
            edges: SliceFill::Stretch,
            middle: SliceFill::Stretch,
            origin: Anchor::CENTER,
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
    pub(super) options: SpriteOptions,
}

/// A sprite's picture at one scale, on a page.
#[derive(Clone, Copy, Debug)]
pub(crate) struct SpritePicture {
    /// Its texels; left and top are those of what was trimmed off.
    pub(crate) slot: Slot,
    /// Width and height with what was trimmed off, in texels.
    pub(crate) whole: (u16, u16),
    /// Nine-slice borders of this picture, in texels: left, top, right, bottom.
    pub(crate) borders: [u16; 4],
    /// Device pixels in one texel: 1, or more for smooth sprites that are
    /// enlarged while they are drawn.
    pub(crate) enlarged: f32,
}

impl SpritePicture {
    /// Where in a rectangle, filled by the whole sprite, those texels go that were
    /// not trimmed off.
    pub(crate) fn shown_part(&self, at: DeviceRect) -> DeviceRect {
        let (x, y) = (self.slot.left as f32, self.slot.top as f32);
        let texels = self.slot.texels;
        let column = |x: f32| at.left + (at.right - at.left) * x / f32::from(self.whole.0);
        let row = |y: f32| at.top + (at.bottom - at.top) * y / f32::from(self.whole.1);
        DeviceRect {
            left: column(x),
            top: row(y),
            right: column(x + f32::from(texels.width)),
            bottom: row(y + f32::from(texels.height)),
        }
    }
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

    /// Whether clear borders may be left off: a panel is drawn as a whole.
    pub(super) fn may_be_trimmed(&self) -> bool {
        let is_tiled = [self.options.edges, self.options.middle].contains(&SliceFill::Tile);
        self.options.slices == Insets::default() && !is_tiled
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
