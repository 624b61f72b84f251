//! What stands beside the pages: in a pack as its description, in the other form as
//! the JSON file. The two differ in how faces and strikes are told.

use serde::{Deserialize, Serialize};

use super::Bake;
use super::pages::MadePage;
use crate::atlas::{
    PageKind, Sampling, SliceFill, Slot, Sprite, SpriteOptions, SpritePicture, TexelRect,
};
use crate::base::{Anchor, Insets};

/// All that is no picture, with faces told as `F` and strikes as `S`.
#[derive(Debug, Deserialize, Serialize)]
pub(super) struct Description<F, S> {
    /// Free texels around every picture.
    pub(super) padding: u16,
    /// Places between two pixels that a smooth glyph is kept for.
    pub(super) subpixel_positions: u8,
    /// Device pixels per design pixel that all was made for.
    pub(super) scales: Vec<f32>,
    pub(super) pages: Vec<PageRecord>,
    pub(super) faces: Vec<F>,
    pub(super) stacks: Vec<StackRecord>,
    pub(super) strikes: Vec<S>,
    pub(super) sprites: Vec<SpriteRecord>,
    pub(super) animations: Vec<AnimationRecord>,
}

#[derive(Debug, Deserialize, Serialize)]
pub(super) struct PageRecord {
    pub(super) kind: PageKind,
    pub(super) width: u16,
    pub(super) height: u16,
    /// The file with its picture, where it has one of its own.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(super) picture: Option<String>,
}

#[derive(Debug, Deserialize, Serialize)]
pub(super) struct StackRecord {
    pub(super) name: String,
    /// Which faces.
    pub(super) faces: Vec<usize>,
}

/// A place on the pages of a kind.
#[derive(Clone, Copy, Debug, Deserialize, Serialize)]
pub(super) struct SlotRecord {
    pub(super) page: u8,
    pub(super) x: u16,
    pub(super) y: u16,
    pub(super) width: u16,
    pub(super) height: u16,
    pub(super) left: f32,
    pub(super) top: f32,
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub(super) rotated: bool,
}

impl SlotRecord {
    pub(super) fn of(slot: &Slot) -> Self {
        let TexelRect {
            x,
            y,
            width,
            height,
        } = slot.texels;
        Self {
            page: slot.page,
            x,
            y,
            width,
            height,
            left: slot.left,
            top: slot.top,
            rotated: slot.is_rotated,
        }
    }

    pub(super) fn slot(&self, kind: PageKind) -> Slot {
        let texels = TexelRect {
            x: self.x,
            y: self.y,
            width: self.width,
            height: self.height,
        };
        Slot::new(kind, self.page, texels, self.rotated).with_origin(self.left, self.top)
    }
}

#[derive(Debug, Deserialize, Serialize)]
pub(super) struct SpriteRecord {
    pub(super) name: String,
    /// The size of the image that it was made from, in its pixels.
    pub(super) width: u32,
    pub(super) height: u32,
    /// Image pixels per design pixel.
    pub(super) density: f32,
    /// Nine-slice borders in image pixels: top, right, bottom, left.
    pub(super) slices: [f32; 4],
    pub(super) sampling: Sampling,
    pub(super) sides: SliceFill,
    pub(super) middle: SliceFill,
    pub(super) origin: [f32; 2],
    /// One for each scale at which it has another size.
    pub(super) pictures: Vec<SpritePictureRecord>,
}

#[derive(Debug, Deserialize, Serialize)]
pub(super) struct SpritePictureRecord {
    /// Texels of the whole picture, with what was trimmed off.
    pub(super) width: u16,
    pub(super) height: u16,
    /// Nine-slice borders in texels: left, top, right, bottom.
    pub(super) borders: [u16; 4],
    /// Where the rest of it is.
    pub(super) slot: SlotRecord,
}

#[derive(Debug, Deserialize, Serialize)]
pub(super) struct AnimationRecord {
    pub(super) name: String,
    pub(super) repeats: bool,
    pub(super) frames: Vec<FrameRecord>,
}

#[derive(Debug, Deserialize, Serialize)]
pub(super) struct FrameRecord {
    /// Which sprite.
    pub(super) sprite: usize,
    pub(super) seconds: f32,
}

impl<F, S> Description<F, S> {
    /// What both forms tell of a bake alike.
    pub(super) fn of(bake: &Bake<'_>, faces: Vec<F>, strikes: Vec<S>) -> Self {
        let manifest = bake.manifest;
        let stack = |(name, faces): &(String, Vec<usize>)| StackRecord {
            name: name.clone(),
            faces: faces.clone(),
        };
        let animations = manifest.animations.iter().map(|plan| AnimationRecord {
            name: plan.name.clone(),
            repeats: plan.repeats,
            frames: plan
                .frames
                .iter()
                .map(|&(sprite, seconds)| FrameRecord { sprite, seconds })
                .collect(),
        });
        Self {
            padding: manifest.packing.padding,
            subpixel_positions: manifest.subpixel_positions,
            scales: manifest.scales.clone(),
            pages: bake.pages.iter().map(PageRecord::of).collect(),
            faces,
            stacks: manifest.stacks.iter().map(stack).collect(),
            strikes,
            sprites: bake.sprites.iter().map(SpriteRecord::of).collect(),
            animations: animations.collect(),
        }
    }
}

impl PageRecord {
    fn of(page: &MadePage) -> Self {
        Self {
            kind: page.kind,
            width: page.width,
            height: page.height,
            picture: None,
        }
    }
}

impl SpriteRecord {
    fn of((sprite, pictures): &(Sprite, Vec<SpritePicture>)) -> Self {
        let options = &sprite.options;
        let picture = |picture: &SpritePicture| SpritePictureRecord {
            width: picture.whole.0,
            height: picture.whole.1,
            borders: picture.borders,
            slot: SlotRecord::of(&picture.slot),
        };
        Self {
            name: sprite.name.clone(),
            width: sprite.width,
            height: sprite.height,
            density: options.density,
            slices: [
                options.slices.top,
                options.slices.right,
                options.slices.bottom,
                options.slices.left,
            ],
            sampling: options.sampling,
            sides: options.sides,
            middle: options.middle,
            origin: [options.origin.x, options.origin.y],
            pictures: pictures.iter().map(picture).collect(),
        }
    }

    /// The sprite, whose image is on the pages only.
    pub(super) fn sprite(&self) -> Sprite {
        let [top, right, bottom, left] = self.slices;
        Sprite {
            name: self.name.clone(),
            width: self.width,
            height: self.height,
            options: SpriteOptions {
                density: self.density,
                slices: Insets {
                    top,
                    right,
                    bottom,
                    left,
                },
                sampling: self.sampling,
                sides: self.sides,
                middle: self.middle,
                origin: Anchor::new(self.origin[0], self.origin[1]),
            },
            source: None,
        }
    }
}
