//! From a bake to its description.

use super::Bake;
use super::pages::MadePage;
use crate::atlas::{Sprite, SpritePicture};
use crate::pack::{
    AnimationRecord, Description, FrameRecord, PageRecord, SlotRecord, SpritePictureRecord,
    SpriteRecord, StackRecord,
};

impl<F, S> Description<F, S> {
    /// Describes the parts of a bake that both forms have in common.
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
            subpixel_positions: manifest.subpixel_positions.count,
            text_sizes: manifest.subpixel_positions.text_sizes,
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
            is_premultiplied: false,
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
}
