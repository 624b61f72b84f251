//! The description beside the pages: in a pack as a section, in the other form as
//! the JSON file. The two differ in how faces and strikes are told.

use super::binary::{Binary, binary_record};
#[cfg(feature = "bake")]
use super::values::{PageKindRecord, SamplingRecord, SliceFillRecord};
use crate::atlas::{PageKind, Sampling, SliceFill, Slot, Sprite, SpriteOptions, TexelRect};
use crate::base::{Anchor, Insets};

/// All that is no picture, with faces told as `F` and strikes as `S`.
#[derive(Debug)]
#[cfg_attr(feature = "bake", derive(serde::Serialize))]
pub(crate) struct Description<F, S> {
    /// Free texels around every picture.
    pub(crate) padding: u16,
    /// Places between two pixels that a smooth glyph is kept for.
    pub(crate) subpixel_positions: u8,
    /// The size from which on there are fewer.
    pub(crate) text_sizes: f32,
    /// Device pixels per design pixel that all was made for.
    pub(crate) scales: Vec<f32>,
    pub(crate) pages: Vec<PageRecord>,
    pub(crate) faces: Vec<F>,
    pub(crate) stacks: Vec<StackRecord>,
    pub(crate) strikes: Vec<S>,
    pub(crate) sprites: Vec<SpriteRecord>,
    pub(crate) animations: Vec<AnimationRecord>,
}

#[derive(Debug)]
#[cfg_attr(feature = "bake", derive(serde::Serialize))]
pub(crate) struct PageRecord {
    #[cfg_attr(feature = "bake", serde(with = "PageKindRecord"))]
    pub(crate) kind: PageKind,
    pub(crate) width: u16,
    pub(crate) height: u16,
    /// The file with its picture, where it has one of its own.
    #[cfg_attr(feature = "bake", serde(skip_serializing_if = "Option::is_none"))]
    pub(crate) picture: Option<String>,
    /// True if that picture is not one with straight alpha; a page of a pack never is.
    #[cfg_attr(
        feature = "bake",
        serde(rename = "premultiplied", skip_serializing_if = "std::ops::Not::not")
    )]
    pub(crate) is_premultiplied: bool,
}

#[derive(Debug)]
#[cfg_attr(feature = "bake", derive(serde::Serialize))]
pub(crate) struct StackRecord {
    pub(crate) name: String,
    /// The faces.
    pub(crate) faces: Vec<usize>,
}

/// A place on the pages of a kind.
#[derive(Clone, Copy, Debug)]
#[cfg_attr(feature = "bake", derive(serde::Serialize))]
pub(crate) struct SlotRecord {
    pub(crate) page: u8,
    pub(crate) x: u16,
    pub(crate) y: u16,
    pub(crate) width: u16,
    pub(crate) height: u16,
    pub(crate) left: f32,
    pub(crate) top: f32,
    #[cfg_attr(feature = "bake", serde(skip_serializing_if = "std::ops::Not::not"))]
    pub(crate) rotated: bool,
    /// Device pixels that a texel is wide, where they are more than one.
    #[cfg_attr(feature = "bake", serde(skip_serializing_if = "is_one"))]
    pub(crate) reduction: u32,
}

#[cfg(feature = "bake")]
fn is_one(number: &u32) -> bool {
    *number == 1
}

binary_record!(StackRecord { name, faces });
binary_record!(SlotRecord {
    page,
    x,
    y,
    width,
    height,
    left,
    top,
    rotated,
    reduction,
});
binary_record!(SpriteRecord {
    name,
    width,
    height,
    density,
    slices,
    sampling,
    sides,
    middle,
    origin,
    pictures,
});
binary_record!(SpritePictureRecord {
    width,
    height,
    borders,
    slot,
});
binary_record!(AnimationRecord {
    name,
    repeats,
    frames,
});
binary_record!(FrameRecord { sprite, seconds });

impl Binary for PageRecord {
    fn write(&self, into: &mut Vec<u8>) {
        self.kind.write(into);
        self.width.write(into);
        self.height.write(into);
        self.picture.write(into);
    }

    fn read(from: &mut &[u8]) -> Option<Self> {
        Some(Self {
            kind: Binary::read(from)?,
            width: Binary::read(from)?,
            height: Binary::read(from)?,
            picture: Binary::read(from)?,
            is_premultiplied: false,
        })
    }
}

impl SlotRecord {
    pub(crate) fn of(slot: &Slot) -> Self {
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
            reduction: slot.reduction(),
        }
    }

    pub(crate) fn slot(&self, kind: PageKind) -> Slot {
        let texels = TexelRect {
            x: self.x,
            y: self.y,
            width: self.width,
            height: self.height,
        };
        Slot::new(kind, self.page, texels, self.rotated)
            .with_origin(self.left, self.top)
            .with_reduction(self.reduction)
    }
}

#[derive(Debug)]
#[cfg_attr(feature = "bake", derive(serde::Serialize))]
pub(crate) struct SpriteRecord {
    pub(crate) name: String,
    /// The size of the image that it was made from, in its pixels.
    pub(crate) width: u32,
    pub(crate) height: u32,
    /// Image pixels per design pixel.
    pub(crate) density: f32,
    /// Nine-slice borders in image pixels: top, right, bottom, left.
    pub(crate) slices: [f32; 4],
    #[cfg_attr(feature = "bake", serde(with = "SamplingRecord"))]
    pub(crate) sampling: Sampling,
    #[cfg_attr(feature = "bake", serde(with = "SliceFillRecord"))]
    pub(crate) sides: SliceFill,
    #[cfg_attr(feature = "bake", serde(with = "SliceFillRecord"))]
    pub(crate) middle: SliceFill,
    pub(crate) origin: [f32; 2],
    /// One for each scale at which it has another size.
    pub(crate) pictures: Vec<SpritePictureRecord>,
}

#[derive(Debug)]
#[cfg_attr(feature = "bake", derive(serde::Serialize))]
pub(crate) struct SpritePictureRecord {
    /// Texels of the whole picture, with what was trimmed off.
    pub(crate) width: u16,
    pub(crate) height: u16,
    /// Nine-slice borders in texels: left, top, right, bottom.
    pub(crate) borders: [u16; 4],
    /// Place of the rest of it.
    pub(crate) slot: SlotRecord,
}

#[derive(Debug)]
#[cfg_attr(feature = "bake", derive(serde::Serialize))]
pub(crate) struct AnimationRecord {
    pub(crate) name: String,
    pub(crate) repeats: bool,
    pub(crate) frames: Vec<FrameRecord>,
}

#[derive(Debug)]
#[cfg_attr(feature = "bake", derive(serde::Serialize))]
pub(crate) struct FrameRecord {
    /// The sprite.
    pub(crate) sprite: usize,
    pub(crate) seconds: f32,
}

impl SpriteRecord {
    /// The sprite, whose image is on the pages only.
    pub(crate) fn sprite(&self) -> Sprite {
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
