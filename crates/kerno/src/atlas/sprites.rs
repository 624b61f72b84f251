//! The sprites of an atlas, by name and at any scale.

use super::pixels::Pixels;
use super::sprite::Sprite;
use super::{
    Atlas, AtlasError, PageKind, Sampling, SliceFill, Slot, SpriteId, SpriteOptions, SpritePicture,
};
use crate::base::{Anchor, Image, Size, nearest};

impl Atlas {
    /// Takes in a sprite under a name.
    ///
    /// # Errors
    /// [`AtlasError::DuplicateSprite`] where the name is taken,
    /// [`AtlasError::BadSprite`] where its numbers are out of range.
    pub fn add_sprite(
        &mut self,
        name: &str,
        image: &Image,
        options: SpriteOptions,
    ) -> Result<SpriteId, AtlasError> {
        if self.names.contains_key(name) {
            return Err(AtlasError::DuplicateSprite(name.to_owned()));
        }
        Ok(self.name_sprite(Sprite::new(name, image, options)?))
    }

    pub(super) fn name_sprite(&mut self, sprite: Sprite) -> SpriteId {
        let id = SpriteId(self.sprites.len() as u32);
        self.names.insert(sprite.name.clone(), id);
        self.sprites.push(sprite);
        id
    }

    /// The sprite of a name.
    ///
    /// # Errors
    /// [`AtlasError::NoSuchSprite`], with a name that is nearly the same.
    pub fn sprite(&self, name: &str) -> Result<SpriteId, AtlasError> {
        self.names.get(name).copied().ok_or_else(|| {
            let known = self.sprites.iter().map(|sprite| sprite.name.as_str());
            AtlasError::NoSuchSprite {
                name: name.to_owned(),
                nearest: nearest(name, known).map(str::to_owned),
            }
        })
    }

    /// Every sprite with its name.
    pub fn sprite_names(&self) -> impl Iterator<Item = (&str, SpriteId)> + '_ {
        let numbered = self.sprites.iter().enumerate();
        numbered.map(|(index, sprite)| (sprite.name.as_str(), SpriteId(index as u32)))
    }

    /// A sprite's own size, in design pixels.
    ///
    /// # Panics
    /// If the id is of another atlas that has more sprites.
    pub fn sprite_size(&self, sprite: SpriteId) -> Size {
        self.sprites[sprite.0 as usize].size()
    }

    /// The point that a sprite is held by, as its options have it.
    ///
    /// # Panics
    /// If the id is of another atlas that has more sprites.
    pub fn sprite_origin(&self, sprite: SpriteId) -> Anchor {
        self.sprites[sprite.0 as usize].options.origin
    }

    /// Filling of the edges and the middle of a nine-slice.
    pub(crate) fn slice_fills(&self, sprite: SpriteId) -> (SliceFill, SliceFill) {
        let options = &self.sprites[sprite.0 as usize].options;
        (options.sides, options.middle)
    }

    /// The picture of a sprite at `scale` device pixels per design pixel, which
    /// is made now if it is new.
    pub(crate) fn sprite_picture(
        &mut self,
        id: SpriteId,
        scale: f32,
    ) -> Result<SpritePicture, AtlasError> {
        let Some(sprite) = self.sprites.get(id.0 as usize) else {
            return Err(AtlasError::OtherAtlas(id.0));
        };
        let (width, height, enlarged) = sprite.texels_at(scale);
        if let Some(picture) = self.pictures.get(&(id, width, height)) {
            return Ok(SpritePicture {
                enlarged,
                ..*picture
            });
        }
        self.colors.check_size(width, height)?;
        let drawn = match &sprite.source {
            Some(source) => sprite.drawn(source, width, height),
            None => {
                let Some(largest) = self.largest_picture(id) else {
                    return Err(AtlasError::NotBaked(sprite.name.clone()));
                };
                let ratio = width as f32 / f32::from(largest.whole.0);
                if sprite.options.sampling == Sampling::Smooth && ratio > 1.0 {
                    return Ok(SpritePicture {
                        enlarged: enlarged * ratio,
                        ..largest
                    });
                }
                let rows = self.colors.rows(largest.slot.page, largest.slot.texels);
                let source = Pixels::stored(&largest.slot, largest.whole, rows);
                sprite.drawn(&source, width, height)
            }
        };
        let [left, top, part_width, part_height] = drawn.part;
        let (page, texels) = self.store_once((part_width, part_height), &drawn.texels)?;
        let picture = SpritePicture {
            slot: Slot::new(PageKind::Color, page, texels, false)
                .with_origin(left as f32, top as f32),
            whole: (width as u16, height as u16),
            borders: drawn.borders,
            enlarged,
        };
        self.pictures.insert((id, width, height), picture);
        Ok(picture)
    }
}
