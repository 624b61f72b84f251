//! The places of everything on the pages, for a picture of them.

use std::collections::HashMap;

use super::{Bake, Owner};
use crate::atlas::{PageKind, Slot};
use crate::base::{Image, straight};
use crate::font::GlyphId;

/// A picture on a page, and whose it is.
#[derive(Clone, Debug, PartialEq)]
pub struct NamedSlot {
    /// Its place on a page.
    pub slot: Slot,
    /// The sprite's name, or the glyph's character, face and size.
    pub name: String,
    /// The same in less room: of a glyph the character, by its code point beyond
    /// ASCII.
    pub short_name: String,
}

impl Bake<'_> {
    /// Every picture on the pages; what looks the same is there once, with the name
    /// of the first.
    pub fn slots(&self) -> Vec<NamedSlot> {
        let faces = 0..self.manifest.faces.len();
        let characters: Vec<HashMap<GlyphId, char>> =
            faces.map(|face| self.letters(face)).collect();
        let named = self.shares.iter().map(|share| match share.owner {
            Owner::Glyph(strike, glyph) => {
                let (face, size, _) = self.strikes[strike].0;
                let short_name = match characters[face].get(&glyph) {
                    Some(character) if character.is_ascii_graphic() => character.to_string(),
                    Some(character) => format!("U+{:04X}", u32::from(*character)),
                    None if glyph == GlyphId::NOTDEF => ".notdef".to_owned(),
                    None => format!("#{}", glyph.0),
                };
                let face = &self.manifest.faces[face].0;
                NamedSlot {
                    slot: share.slot,
                    name: format!("{short_name} {face} {}", f32::from_bits(size)),
                    short_name,
                }
            }
            Owner::Sprite(sprite) => {
                let name = &self.sprites[sprite].0.name;
                NamedSlot {
                    slot: share.slot,
                    name: name.clone(),
                    short_name: name.rsplit('/').next().unwrap_or(name).to_owned(),
                }
            }
        });
        named.collect()
    }

    /// The pages of a kind as pictures, masks in white; in the order of
    /// [`Slot::page`].
    pub fn page_images(&self, kind: PageKind) -> impl Iterator<Item = Image> + '_ {
        let own = self.pages.iter().filter(move |page| page.kind == kind);
        own.map(move |page| {
            let pixels = match kind {
                PageKind::Mask => page
                    .texels
                    .iter()
                    .flat_map(|a| [255, 255, 255, *a])
                    .collect(),
                PageKind::Color => {
                    let (texels, _) = page.texels.as_chunks::<4>();
                    texels.iter().copied().flat_map(straight).collect()
                }
            };
            Image::of_size(
                crate::base::DeviceSize::new(page.width.into(), page.height.into()),
                pixels,
            )
        })
    }

    /// Characters by glyph, the first one of each.
    fn letters(&self, face: usize) -> HashMap<GlyphId, char> {
        let mut letters = HashMap::new();
        for character in self.characters_of(face) {
            if let Some(glyph) = self.manifest.faces[face].1.glyph(character) {
                letters.entry(glyph).or_insert(character);
            }
        }
        letters
    }
}
