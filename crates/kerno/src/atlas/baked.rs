//! Pictures made ahead of time, for an atlas to begin with.

use std::sync::Arc;

use rustc_hash::FxHashMap;

use super::sprite::Sprite;
use super::{Atlas, AtlasOptions, PageKind, Slot, SpriteId, SpritePicture};
use crate::base::{SharedBytes, Treatment};
use crate::font::{FaceId, GlyphId};
use crate::raster::{GlyphRequest, Subpixel, SubpixelPositions};

/// A page whose texels are there.
pub(crate) struct BakedPage {
    pub(crate) kind: PageKind,
    pub(crate) width: u16,
    pub(crate) height: u16,
    pub(crate) texels: SharedBytes,
}

/// The pictures of a face at one size, in the order of glyphs and subpixel positions.
#[derive(Clone, Debug)]
pub(crate) struct BakedStrike {
    /// Number of the face.
    pub(crate) face: u32,
    /// Device pixels per em.
    pub(crate) size: f32,
    pub(crate) treatment: Treatment,
    pub(crate) glyphs: Arc<[BakedGlyph]>,
}

/// Place of one of them.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct BakedGlyph {
    pub(crate) glyph: GlyphId,
    /// Index of its subpixel position.
    pub(crate) subpixel: u8,
    pub(crate) slot: Slot,
}

/// A sprite with the pictures it has.
pub(crate) struct BakedSprite {
    pub(crate) sprite: Sprite,
    pub(crate) pictures: Vec<SpritePicture>,
}

/// All that was made ahead of time.
pub(crate) struct Baked {
    pub(crate) pages: Vec<BakedPage>,
    pub(crate) faces: Vec<FaceId>,
    pub(crate) strikes: Vec<BakedStrike>,
    pub(crate) sprites: Vec<BakedSprite>,
}

impl Atlas {
    /// An atlas that begins with what was baked.
    pub(crate) fn of_baked(options: AtlasOptions, baked: Baked) -> Self {
        let mut atlas = Self::of(options);
        for page in baked.pages {
            let pages = atlas.pages_mut(page.kind);
            pages.add_baked(page.width, page.height, page.texels);
        }
        atlas.set_budget();
        let faces = baked.faces.iter();
        let numbers: Vec<u32> = faces.map(|face| atlas.number_of(*face)).collect();
        for strike in baked.strikes {
            let face = numbers[strike.face as usize];
            let key = (face, strike.size.to_bits(), strike.treatment);
            atlas.strikes.add(key, strike.glyphs);
        }
        for BakedSprite { sprite, pictures } in baked.sprites {
            let id = atlas.name_sprite(sprite);
            atlas.pictures.extend(pictures.into_iter().map(|picture| {
                let (width, height) = picture.whole;
                ((id, width.into(), height.into()), picture)
            }));
        }
        atlas
    }

    /// The largest picture that was baked of a sprite.
    pub(super) fn largest_picture(&self, sprite: SpriteId) -> Option<SpritePicture> {
        let own = self.pictures.iter().filter(|((id, ..), _)| *id == sprite);
        own.map(|(_, picture)| *picture)
            .max_by_key(|picture| picture.whole)
    }
}

/// The glyphs that were baked, by face, size and treatment.
#[derive(Debug, Default)]
pub(super) struct BakedStrikes(FxHashMap<StrikeKey, Arc<[BakedGlyph]>>);

/// Number of the face in the atlas, size as bits, treatment.
type StrikeKey = (u32, u32, Treatment);

impl BakedStrikes {
    /// Adds glyphs to those of a strike: a pack may have one face under two names.
    fn add(&mut self, key: StrikeKey, glyphs: Arc<[BakedGlyph]>) {
        let known = self.0.entry(key).or_default();
        if known.is_empty() {
            *known = glyphs;
            return;
        }
        let mut all = [&known[..], &glyphs[..]].concat();
        all.sort_by_key(|baked| (baked.glyph, baked.subpixel));
        all.dedup_by_key(|baked| (baked.glyph, baked.subpixel));
        *known = all.into();
    }

    /// The place of a glyph of a face by its number in the atlas, which was baked in at
    /// most as many subpixel positions.
    pub(super) fn find(
        &self,
        face: u32,
        request: &GlyphRequest<'_>,
        positions: SubpixelPositions,
    ) -> Option<Slot> {
        let (subpixel, count) = request.subpixel.key();
        let GlyphRequest {
            face: font,
            glyph,
            size,
            treatment,
            ..
        } = *request;
        // Another one of as many is not the same place.
        if subpixel != 0 && count != Subpixel::positions(font, glyph, size, treatment, positions) {
            return None;
        }
        let key = (face, request.size.to_bits(), request.treatment);
        let glyphs = self.0.get(&key)?;
        let wanted = (request.glyph, subpixel);
        let index = glyphs
            .binary_search_by_key(&wanted, |baked| (baked.glyph, baked.subpixel))
            .ok()?;
        Some(glyphs[index].slot)
    }

    /// The number of pictures.
    pub(super) fn len(&self) -> usize {
        self.0.values().map(|glyphs| glyphs.len()).sum()
    }
}
