//! Everything that a manifest asks for, drawn and placed.

use super::BakeError;
use super::Manifest;
use super::fonts::CarriedFont;
use super::pages::{MadePage, place};
use super::pictures::{
    MadeGlyph, MadeSprite, Picture, StrikeKey, Wanted, Watched, draw_glyphs, draw_sprites,
};
use crate::atlas::{BakedGlyph, Slot, Sprite, SpritePicture};
use crate::base::span;
use std::collections::BTreeMap;
use std::sync::atomic::AtomicUsize;

/// Everything that a manifest asks for, drawn and placed.
#[derive(Debug)]
pub struct Bake<'a> {
    pub(super) manifest: &'a Manifest,
    pub(super) fonts: Vec<CarriedFont>,
    pub(super) wanted: Wanted,
    pub(super) pages: Vec<MadePage>,
    /// The glyphs of each strike, in the order of glyphs and subpixel positions.
    pub(super) strikes: Vec<(StrikeKey, Vec<BakedGlyph>)>,
    /// One for each sprite of the manifest.
    pub(super) sprites: Vec<(Sprite, Vec<SpritePicture>)>,
    /// The texels that each glyph or sprite takes, for the report.
    pub(super) shares: Vec<Share>,
}

/// The texels of a glyph or a sprite that looks like no other before it.
#[derive(Clone, Copy, Debug)]
pub(super) struct Share {
    pub(super) owner: Owner,
    pub(super) slot: Slot,
}

#[derive(Clone, Copy, Debug)]
pub(super) enum Owner {
    /// A glyph of the strike with that index.
    Glyph(usize, crate::font::GlyphId),
    Sprite(usize),
}

impl Bake<'_> {
    /// Notes where glyphs are; of the slots, each is told whether it is the first of its
    /// picture.
    fn keep_glyphs<'s>(
        &mut self,
        glyphs: &[MadeGlyph],
        slots: &mut impl Iterator<Item = (&'s Slot, bool)>,
    ) {
        for (glyph, (slot, is_first)) in glyphs.iter().zip(slots) {
            let strike = self
                .strikes
                .binary_search_by_key(&glyph.strike, |strike| strike.0);
            let Ok(strike) = strike else { continue };
            self.strikes[strike].1.push(BakedGlyph {
                glyph: glyph.glyph,
                subpixel: glyph.subpixel,
                slot: slot.reduced(glyph.left, glyph.top, glyph.reduction),
            });
            let owner = Owner::Glyph(strike, glyph.glyph);
            self.shares
                .extend(is_first.then_some(Share { owner, slot: *slot }));
        }
    }

    /// Notes where sprites are, as [`Self::keep_glyphs`] does.
    fn keep_sprites<'s>(
        &mut self,
        drawn: &[MadeSprite],
        slots: &mut impl Iterator<Item = (&'s Slot, bool)>,
    ) {
        for (picture, (slot, is_first)) in drawn.iter().zip(slots) {
            let (width, height) = picture.drawn.whole;
            self.sprites[picture.sprite].1.push(SpritePicture {
                slot: slot.with_origin(picture.drawn.part[0] as f32, picture.drawn.part[1] as f32),
                whole: (width as u16, height as u16),
                borders: picture.drawn.borders,
                enlarged: 1.0,
            });
            let owner = Owner::Sprite(picture.sprite);
            self.shares
                .extend(is_first.then_some(Share { owner, slot: *slot }));
        }
    }
}

impl Manifest {
    /// Draws and places everything, on as many threads as there are; the outcome is
    /// the same on any number. `watch` hears how many pictures are done, and of how
    /// many.
    ///
    /// # Errors
    /// [`BakeError::Picture`] where a glyph is damaged or a picture is larger than a
    /// page, [`BakeError::TooMuch`] where there are more pages than can be numbered.
    pub fn bake(&self, watch: &(dyn Fn(usize, usize) + Sync)) -> Result<Bake<'_>, BakeError> {
        span!("bake");
        let wanted = Wanted::of(self);
        let sprites: Vec<Sprite> = self
            .sprites
            .iter()
            .map(|plan| Sprite::new(&plan.name, &plan.image, plan.options))
            .collect::<Result<_, _>>()
            .map_err(|source| BakeError::Picture {
                what: "a sprite".to_owned(),
                source: Box::new(source),
            })?;
        let watched = Watched {
            done: AtomicUsize::new(0),
            total: wanted.strikes.values().map(BTreeMap::len).sum::<usize>()
                + sprites.len() * self.scales.len(),
            watch,
        };
        let glyphs = draw_glyphs(self, &wanted, &watched)?;
        let drawn = draw_sprites(self, &sprites, &watched)?;
        let pictures: Vec<&Picture> = glyphs
            .iter()
            .map(|glyph| &glyph.picture)
            .chain(drawn.iter().map(|sprite| &sprite.picture))
            .collect();
        let placed = place(&pictures, &self.packing)?;

        let mut bake = Bake {
            manifest: self,
            pages: placed.pages,
            strikes: wanted
                .strikes
                .keys()
                .map(|key| (*key, Vec::new()))
                .collect(),
            sprites: sprites
                .into_iter()
                .map(|sprite| (sprite, Vec::new()))
                .collect(),
            shares: Vec::new(),
            wanted,
            fonts: Vec::new(),
        };
        bake.fonts = bake.find_fonts()?;
        let mut slots = placed.slots.iter().zip(placed.is_first);
        bake.keep_glyphs(&glyphs, &mut slots);
        bake.keep_sprites(&drawn, &mut slots);
        Ok(bake)
    }

    /// The largest side of a picture that a page has room for.
    pub(super) fn largest_picture(&self) -> u16 {
        let side = self.packing.largest_page();
        side.saturating_sub(self.packing.padding * 2)
    }

    /// Refuses a picture that no page has room for.
    pub(super) fn check_size(
        &self,
        width: u32,
        height: u32,
        what: impl FnOnce() -> String,
    ) -> Result<(), BakeError> {
        if width.max(height) <= self.largest_picture().into() {
            return Ok(());
        }
        let side = self.packing.largest_page();
        Err(BakeError::Picture {
            what: what(),
            source: Box::new(crate::atlas::AtlasError::TooLarge {
                width,
                height,
                page: (side, side),
            }),
        })
    }
}
