//! What was made ahead of time, for an atlas to begin with.

use std::sync::{Arc, OnceLock};

use rustc_hash::FxHashMap;

use super::sprite::Sprite;
use super::{Atlas, AtlasOptions, GlyphSpec, PageKind, Slot, SpriteId, SpritePicture};
use crate::base::{SharedBytes, Treatment};
use crate::font::{Face, GlyphId};

/// A face that is opened when it is first asked for.
pub(crate) type LazyFace = Arc<OnceLock<Face>>;

/// A page whose texels are there.
pub(crate) struct BakedPage {
    pub(crate) kind: PageKind,
    pub(crate) width: u16,
    pub(crate) height: u16,
    pub(crate) texels: SharedBytes,
}

/// The pictures of a face at one size, in the order of glyphs and steps.
#[derive(Clone, Debug)]
pub(crate) struct BakedStrike {
    /// Which of the faces.
    pub(crate) face: u32,
    /// Device pixels per em.
    pub(crate) size: f32,
    pub(crate) treatment: Treatment,
    pub(crate) glyphs: Arc<[BakedGlyph]>,
}

/// Where one of them is.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct BakedGlyph {
    pub(crate) glyph: GlyphId,
    pub(crate) step: u8,
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
    pub(crate) faces: Vec<LazyFace>,
    pub(crate) strikes: Vec<BakedStrike>,
    pub(crate) sprites: Vec<BakedSprite>,
}

impl Atlas {
    /// An atlas that begins with what was baked.
    pub(crate) fn of_baked(options: AtlasOptions, baked: Baked) -> Self {
        let mut atlas = Self::of(AtlasOptions {
            budget: None,
            ..options
        });
        for page in baked.pages {
            let pages = atlas.pages_mut(page.kind);
            pages.add_baked(page.width, page.height, page.texels);
        }
        if let Some(budget) = options.budget {
            atlas.set_budget(budget);
        }
        atlas.faces = baked.faces;
        atlas.strikes = BakedStrikes(
            baked
                .strikes
                .into_iter()
                .map(|strike| {
                    (
                        (strike.face, strike.size.to_bits(), strike.treatment),
                        strike.glyphs,
                    )
                })
                .collect(),
        );
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
pub(super) struct BakedStrikes(FxHashMap<(u32, u32, Treatment), Arc<[BakedGlyph]>>);

impl BakedStrikes {
    /// The place of a glyph of a face by its number in the atlas.
    pub(super) fn find(&self, face: u32, spec: &GlyphSpec<'_>) -> Option<Slot> {
        let glyphs = self.0.get(&(face, spec.size.to_bits(), spec.treatment))?;
        let wanted = (spec.glyph, spec.step);
        let index = glyphs
            .binary_search_by_key(&wanted, |baked| (baked.glyph, baked.step))
            .ok()?;
        Some(glyphs[index].slot)
    }

    /// The number of pictures.
    pub(super) fn len(&self) -> usize {
        self.0.values().map(|glyphs| glyphs.len()).sum()
    }
}
