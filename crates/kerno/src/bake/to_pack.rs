//! A bake as the bytes of a pack.

use std::collections::HashMap;

use xxhash_rust::xxh3::xxh3_128;

use super::{Bake, BakeError};
use crate::base::SharedBytes;
use crate::pack::{
    Description, PackedFace, PackedStrike, Section, SectionKind, write, write_glyph, write_pictures,
};

impl Bake<'_> {
    /// The bytes of a `.kpack`: the same on any machine and any number of threads.
    ///
    /// # Errors
    /// [`BakeError::Encode`] where what is in it can't be written.
    pub fn to_pack(&self) -> Result<Vec<u8>, BakeError> {
        let mut glyphs = Vec::new();
        let mut strikes = Vec::new();
        let mut first = 0;
        for ((face, size, treatment), placed) in &self.strikes {
            for glyph in placed {
                write_glyph(glyph, &mut glyphs);
            }
            strikes.push(PackedStrike {
                face: *face as u32,
                size: f32::from_bits(*size),
                treatment: *treatment,
                first,
                count: placed.len(),
            });
            first += placed.len();
        }
        // The description comes first, then pages and glyphs; fonts after them.
        let fonts_at = 2 + self.pages.len();
        let mut after: Vec<(SectionKind, SharedBytes)> = Vec::new();
        let mut known: HashMap<u128, usize> = HashMap::new();
        let mut keep = |kind: SectionKind, bytes: SharedBytes| {
            *known.entry(xxh3_128(&bytes)).or_insert_with(|| {
                after.push((kind, bytes));
                fonts_at + after.len() - 1
            })
        };
        let mut faces = Vec::new();
        for (number, (name, face)) in self.manifest.faces.iter().enumerate() {
            let parts = face.parts();
            let font = self.fonts.iter().find(|font| font.faces.contains(&number));
            let (bytes, index) = match font {
                Some(font) => (font.bytes.clone(), font.index),
                None => (parts.bytes, parts.index),
            };
            let pictures = parts
                .pictures
                .as_ref()
                .map(|pictures| write_pictures(pictures));
            let (palette, changed) = parts.palette;
            let changed = changed.into_iter().map(|(entry, color)| {
                let [low, high] = entry.to_le_bytes();
                [low, high, color.red, color.green, color.blue, color.alpha]
            });
            faces.push(PackedFace {
                palette,
                changed: changed.collect(),
                name: name.clone(),
                id: face.id(),
                font: keep(SectionKind::Font, bytes),
                index,
                places: parts.places,
                embolden: parts.synthesis.embolden,
                slant: parts.synthesis.slant,
                strike: parts.strike,
                pictures: pictures.map(|bytes| keep(SectionKind::Pictures, bytes.into())),
            });
        }
        let description = Description::of(self, faces, strikes);
        let description = description.to_bytes();
        let mut sections: Vec<Section<'_>> = vec![(SectionKind::Description, &description)];
        let pages = self.pages.iter();
        sections.extend(pages.map(|page| (SectionKind::Page, page.texels.as_slice())));
        sections.push((SectionKind::Glyphs, &glyphs));
        sections.extend(after.iter().map(|(kind, bytes)| (*kind, &**bytes)));
        Ok(write(self.manifest.fingerprint, &sections))
    }
}
