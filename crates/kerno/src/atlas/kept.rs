//! The pictures that were made, by what was asked for.

use std::hash::{Hash, Hasher};

use rustc_hash::{FxHashMap, FxHasher};

use super::{BoxPicture, Slot};
use crate::base::Color;
use crate::raster::GlyphRequest;

/// Identity of a picture: what tells it from another.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub(super) enum PictureKey {
    /// A glyph of a face by its number in the atlas; the size as bits.
    Glyph {
        face: u32,
        size: u32,
        glyph: u16,
        subpixel: (u8, u8),
        treatment: u64,
    },
    /// The same with a veil, by a hash of its layers.
    Veiled {
        face: u32,
        size: u32,
        glyph: u16,
        layers: u64,
    },
    /// A colour glyph with a colour of the text in it.
    Tinted {
        face: u32,
        size: u32,
        glyph: u16,
        foreground: [u8; 4],
    },
    /// The top left quarter of a ring: outer and inner radius, in device pixels.
    Corner { outer: u16, inner: u16 },
    /// A blurred box.
    Box(BoxPicture),
}

impl PictureKey {
    /// The picture of a glyph of a face by its number in the atlas.
    pub(super) fn glyph(face: u32, request: &GlyphRequest<'_>) -> Self {
        let (size, glyph) = (request.size.to_bits(), request.glyph.0);
        if !request.veil.is_empty() {
            let mut hasher = FxHasher::default();
            request.veil.hash(&mut hasher);
            return Self::Veiled {
                face,
                size,
                glyph,
                layers: hasher.finish(),
            };
        }
        if request.treatment.is_in_color() && request.foreground != Color::BLACK {
            let Color {
                red,
                green,
                blue,
                alpha,
            } = request.foreground;
            return Self::Tinted {
                face,
                size,
                glyph,
                foreground: [red, green, blue, alpha],
            };
        }
        Self::Glyph {
            face,
            size,
            glyph,
            subpixel: request.subpixel.key(),
            // Never out of range: there is no other way to make one.
            treatment: request.treatment.key().unwrap_or_default(),
        }
    }
}

/// A picture; none for a glyph without ink.
#[derive(Clone, Copy, Debug)]
struct Kept {
    slot: Option<Slot>,
    key: PictureKey,
}

/// The frame in which glyphs of a pack are used, so that they are never evicted.
pub(super) const BAKED: u64 = u64::MAX;

/// Index of a picture that is kept, for as long as the atlas has the same stamp.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) struct KeptId(u32);

impl KeptId {
    /// Stands for no picture.
    pub(crate) const NONE: Self = Self(u32::MAX);
}

/// All pictures that are kept.
#[derive(Debug, Default)]
pub(super) struct KeptPictures {
    index: FxHashMap<PictureKey, u32>,
    kept: Vec<Kept>,
    /// The last frame that used each of them; [`BAKED`] for one that stays.
    frames: Vec<u64>,
    free: Vec<u32>,
}

impl KeptPictures {
    /// A picture that is there, used in a frame.
    pub(super) fn used(&mut self, key: &PictureKey, frame: u64) -> Option<(Option<Slot>, KeptId)> {
        let index = *self.index.get(key)?;
        let last = &mut self.frames[index as usize];
        *last = frame.max(*last);
        Some((self.kept[index as usize].slot, KeptId(index)))
    }

    /// Says that a frame uses pictures again.
    pub(super) fn touch(&mut self, ids: &[KeptId], frame: u64) {
        for id in ids {
            if let Some(last) = self.frames.get_mut(id.0 as usize) {
                *last = frame.max(*last);
            }
        }
    }

    pub(super) fn add(&mut self, key: PictureKey, slot: Option<Slot>, frame: u64) -> KeptId {
        let kept = Kept { slot, key };
        let index = match self.free.pop() {
            Some(index) => {
                self.kept[index as usize] = kept;
                self.frames[index as usize] = frame;
                index
            }
            None => {
                self.kept.push(kept);
                self.frames.push(frame);
                self.kept.len() as u32 - 1
            }
        };
        self.index.insert(key, index);
        KeptId(index)
    }

    pub(super) fn remove(&mut self, key: &PictureKey) {
        if let Some(index) = self.index.remove(key) {
            self.kept[index as usize].slot = None;
            self.free.push(index);
        }
    }

    /// Every picture that has a place, with the last frame that used it.
    pub(super) fn placed(&self) -> impl Iterator<Item = (PictureKey, Slot, u64)> {
        // Those that were freed have none.
        let known = self.kept.iter().zip(&self.frames);
        known.filter_map(|(kept, frame)| Some((kept.key, kept.slot?, *frame)))
    }
}
