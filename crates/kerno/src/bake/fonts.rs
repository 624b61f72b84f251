//! The fonts that a pack carries, for what its pictures do not say: measures, kerning and
//! lookups, and letters at sizes that were not baked.

use std::collections::{BTreeSet, HashMap};

use xxhash_rust::xxh3::xxh3_128;

use super::Bake;
use super::error::BakeError;
use crate::base::SharedBytes;
use crate::font::{Face, GlyphId, Wanted, subset};

/// Characters that layouts ask for whatever the text: the hyphen and the ellipsis that they
/// put in, digits for the widths of others, and what marks without a letter stand on.
const ALWAYS: &str = " -.0123456789\u{2010}…\u{25cc}";

/// A font of a pack, and the faces that are of it.
#[derive(Debug)]
pub(super) struct CarriedFont {
    pub(super) bytes: SharedBytes,
    /// Index of the face; 0 but for a collection that is carried whole.
    pub(super) index: u32,
    /// The number of bytes the font has that it is a part of.
    pub(super) whole: usize,
    /// Their numbers in the manifest.
    pub(super) faces: Vec<usize>,
}

impl Bake<'_> {
    /// The fonts of all faces: of each file what its faces need, or all of it.
    pub(super) fn find_fonts(&self) -> Result<Vec<CarriedFont>, BakeError> {
        let mut known: HashMap<(u128, u32), usize> = HashMap::new();
        let mut fonts: Vec<CarriedFont> = Vec::new();
        for (number, (_, face)) in self.manifest.faces.iter().enumerate() {
            let parts = face.parts();
            let key = (xxh3_128(&parts.bytes), parts.index);
            let at = *known.entry(key).or_insert_with(|| {
                fonts.push(CarriedFont {
                    whole: parts.bytes.len(),
                    bytes: parts.bytes,
                    index: parts.index,
                    faces: Vec::new(),
                });
                fonts.len() - 1
            });
            fonts[at].faces.push(number);
        }
        if !self.manifest.carries_whole_fonts {
            // Paints of colour glyphs name other glyphs: such a font stays whole.
            let has_colors = |font: &CarriedFont| {
                let mut faces = font.faces.iter();
                faces.any(|number| self.face(*number).has_color_glyphs())
            };
            let plain = fonts.iter_mut().filter(|font| !has_colors(font));
            plain.into_iter().try_for_each(|font| self.cut(font))?;
        }
        Ok(fonts)
    }

    /// Leaves of a font what its faces need.
    fn cut(&self, font: &mut CarriedFont) -> Result<(), BakeError> {
        let mut glyphs: BTreeSet<GlyphId> = BTreeSet::new();
        let mut characters: BTreeSet<char> = ALWAYS.chars().collect();
        let mut varies = false;
        for number in &font.faces {
            let strikes = self.wanted.strikes.iter();
            let own = strikes.filter(|((face, ..), _)| face == number);
            glyphs.extend(own.flat_map(|(_, own)| own.keys().copied()));
            characters.extend(self.characters_of(*number));
            varies |= self
                .face(*number)
                .parts()
                .places
                .iter()
                .any(|place| *place != 0.0);
        }
        let Some(first) = font.faces.first() else {
            return Ok(());
        };
        let face = self.face(*first);
        let mapped = characters
            .into_iter()
            .filter_map(|c| Some((c, face.glyph(c)?)));
        let mapped: Vec<(char, GlyphId)> = mapped.collect();
        glyphs.extend(mapped.iter().map(|(_, glyph)| *glyph));
        face.close_all_glyphs(&mut glyphs);
        let wanted = Wanted {
            glyphs: &glyphs,
            characters: &mapped,
            varies,
        };
        let cut = subset(&font.bytes, font.index, &wanted).map_err(|error| BakeError::Encode {
            what: "the part of a font that the pack needs",
            source: Box::new(error),
        })?;
        if let Some(bytes) = cut.filter(|bytes| bytes.len() < font.whole) {
            (font.bytes, font.index) = (bytes.into(), 0);
        }
        Ok(())
    }

    fn face(&self, number: usize) -> &Face {
        &self.manifest.faces[number].1
    }
}
