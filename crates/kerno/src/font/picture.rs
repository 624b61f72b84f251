//! Glyphs that are pictures.

use crate::base::Image;
use crate::font::GlyphId;

/// A glyph that is a picture, at the strike's own size.
#[derive(Clone, Debug, PartialEq)]
pub struct GlyphPicture {
    /// From the pen to the picture's left edge, rightwards, in pixels.
    pub left: i32,
    /// From the baseline to the picture's top edge, downwards; mostly negative.
    pub top: i32,
    /// Its pixels: white where the text's colour is to take their place.
    pub image: Image,
    /// True if it takes the text's colour.
    pub is_tinted: bool,
}

/// The pictures of a face, by glyph number.
#[derive(Debug, Default)]
pub(crate) struct GlyphPictures(pub(crate) Vec<Option<GlyphPicture>>);

impl GlyphPictures {
    /// Every picture with its glyph.
    pub(crate) fn all(&self) -> impl Iterator<Item = (GlyphId, &GlyphPicture)> {
        let numbered = (0..).map(GlyphId).zip(&self.0);
        numbered.filter_map(|(glyph, picture)| Some((glyph, picture.as_ref()?)))
    }

    pub(in crate::font) fn get(&self, glyph: GlyphId) -> Option<&GlyphPicture> {
        self.0.get(usize::from(glyph.0))?.as_ref()
    }
}
