//! Sprites: pictures drawn by hand, and the nine parts of a panel.

use super::pixels::{Pixels, cut_out, opaque_part};
use super::{AtlasError, Slot};
use crate::base::{Anchor, DeviceRect, Image, Insets, Size};

/// Number of a sprite in an [`Atlas`](super::Atlas).
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct SpriteId(pub(crate) u32);

/// Sampling of a sprite that is drawn at another size than its own.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum Sampling {
    /// Averages texels when shrunk, blends neighbours when enlarged.
    #[default]
    Smooth,
    /// Takes the nearest texel: for pixel art.
    Nearest,
}

/// Options of a sprite, which its [`Image`] alone does not tell.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct SpriteOptions {
    /// Image pixels per design pixel: 4 for art drawn at four times the size
    /// it has in the design. Above 0; default 1.
    pub density: f32,
    /// For a nine-slice: the width of the border, in image pixels, whose
    /// corners keep their shape when the sprite is drawn at another size.
    pub slices: Insets,
    /// Sampling at other sizes.
    pub sampling: Sampling,
    /// Filling of the four sides of a nine-slice.
    pub sides: SliceFill,
    /// Filling of its middle; that of a sprite without borders is all of it.
    pub middle: SliceFill,
    /// The point that the sprite is held and turned by, for
    /// [`Atlas::sprite_origin`](super::Atlas::sprite_origin). Default: its middle.
    pub origin: Anchor,
}

crate::base::setters! {
    SpriteOptions {
        density: f32,
        slices: Insets,
        sampling: Sampling,
        sides: SliceFill,
        middle: SliceFill,
        origin: Anchor,
    }
}

/// Filling of a part of a nine-slice.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
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
            sides: SliceFill::Stretch,
            middle: SliceFill::Stretch,
            origin: Anchor::CENTER,
        }
    }
}

/// A sprite as it was added.
#[derive(Clone, Debug)]
pub(crate) struct Sprite {
    pub(crate) name: String,
    /// The size of its image, in pixels.
    pub(crate) width: u32,
    pub(crate) height: u32,
    pub(crate) options: SpriteOptions,
    /// Its image; a baked one has its pictures on the pages only.
    pub(crate) source: Option<Pixels>,
}

/// A sprite's picture that has no place yet.
pub(crate) struct DrawnSprite {
    /// Width and height with what was trimmed off, in texels.
    pub(crate) whole: (u32, u32),
    /// The part that is left: left, top, width, height.
    pub(crate) part: [u32; 4],
    /// Nine-slice borders, in texels: left, top, right, bottom.
    pub(crate) borders: [u16; 4],
    /// That part, premultiplied, four bytes a texel.
    pub(crate) texels: Vec<u8>,
}

/// A sprite's picture at one scale, on a page.
#[derive(Clone, Copy, Debug, PartialEq)]
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
    /// Size of the whole sprite as it is drawn, in device pixels.
    pub(crate) fn device_size(&self) -> Size {
        let device = |texels: u32| (texels as f32 * self.enlarged).round();
        Size::new(device(self.whole.0.into()), device(self.whole.1.into()))
    }

    /// The part of the sprite that was not trimmed off, drawn from a place on.
    pub(crate) fn whole_at(&self, left: f32, top: f32) -> DeviceRect {
        let size = self.device_size();
        self.shown_part(DeviceRect {
            left,
            top,
            right: left + size.width,
            bottom: top + size.height,
        })
    }

    /// The part of a rectangle, filled by the whole sprite, for the texels that were
    /// not trimmed off.
    pub(crate) fn shown_part(&self, at: DeviceRect) -> DeviceRect {
        let (x, y) = (self.slot.left, self.slot.top);
        let (width, height) = self.slot.picture_size();
        let column = |x: f32| at.left + (at.right - at.left) * x / f32::from(self.whole.0);
        let row = |y: f32| at.top + (at.bottom - at.top) * y / f32::from(self.whole.1);
        DeviceRect {
            left: column(x),
            top: row(y),
            right: column(x + f32::from(width)),
            bottom: row(y + f32::from(height)),
        }
    }
}

impl Sprite {
    pub(crate) fn new(
        name: &str,
        image: &Image,
        options: SpriteOptions,
    ) -> Result<Self, AtlasError> {
        let sprite = Self {
            name: name.to_owned(),
            width: image.width(),
            height: image.height(),
            options,
            source: Some(Pixels::premultiplied(image)),
        };
        sprite.check()?;
        Ok(sprite)
    }

    /// Refuses numbers that no sprite can have.
    pub(crate) fn check(&self) -> Result<(), AtlasError> {
        let bad = |what| {
            Err(AtlasError::BadSprite {
                name: self.name.clone(),
                what,
            })
        };
        if self.width == 0 || self.height == 0 {
            return bad("the picture has no pixels");
        }
        if !(self.options.density > 0.0 && self.options.density.is_finite()) {
            return bad("the density must be above 0 and finite");
        }
        let origin = self.options.origin;
        if !origin.x.is_finite() || !origin.y.is_finite() {
            return bad("the origin must be finite");
        }
        let borders = self.options.slices;
        let sides = [borders.left, borders.right, borders.top, borders.bottom];
        if !sides.iter().all(|side| *side >= 0.0)
            || borders.left + borders.right > self.width as f32
            || borders.top + borders.bottom > self.height as f32
        {
            return bad("the nine-slice borders must be 0 or more and fit into the picture");
        }
        Ok(())
    }

    /// Returns whether clear borders may be left off: a panel is drawn as a whole.
    fn may_be_trimmed(&self) -> bool {
        let is_tiled = [self.options.sides, self.options.middle].contains(&SliceFill::Tile);
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
    pub(crate) fn texels_at(&self, scale: f32) -> (u32, u32, f32) {
        let factor = scale / self.options.density;
        if self.options.sampling == Sampling::Smooth && factor > 1.0 {
            return (self.width, self.height, factor);
        }
        let texels = |length: u32| (length as f32 * factor).round().max(1.0) as u32;
        (texels(self.width), texels(self.height), 1.0)
    }

    /// The nine-slice borders of the picture at another size.
    fn borders(&self, width: u32, height: u32) -> [u16; 4] {
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

    /// Its picture at a size in texels, from its image or from a baked picture.
    pub(crate) fn drawn(&self, source: &Pixels, width: u32, height: u32) -> DrawnSprite {
        let texels = source.resized(width, height, self.options.sampling);
        let mut drawn = DrawnSprite {
            whole: (width, height),
            part: [0, 0, width, height],
            borders: self.borders(width, height),
            texels,
        };
        if self.may_be_trimmed() {
            drawn.part = opaque_part(width, &drawn.texels);
            drawn.texels = cut_out(&drawn.texels, width, drawn.part);
        }
        drawn
    }
}
