//! Faces made of bitmap strikes.

use std::borrow::Cow;
use std::sync::Arc;

use super::{Face, FaceData, Setting};
use crate::base::{Limits, SharedBytes};
use crate::font::bitmap::{StrikeFont, embedded_sizes, from_embedded};
use crate::font::tables::{Directory, face_offset};
use crate::font::{FaceNote, FontError, GlyphId, GlyphPicture, GlyphPictures, Tag};

/// The bitmap strike that a face was made of.
#[derive(Clone)]
pub(super) struct StrikeOrigin {
    pub(super) pixels: u16,
    /// Its glyphs, where they have colours or soft edges.
    pub(super) pictures: Option<Arc<GlyphPictures>>,
    /// The OpenType font that it is in, and which face of it.
    pub(super) font: Option<(SharedBytes, u32)>,
}

impl Face {
    /// For a face made of a bitmap strike, how many pixels its em has: it is drawn
    /// at whole multiples of them. `None` for a face of outlines.
    pub fn strike_size(&self) -> Option<u16> {
        Some(self.0.strike.as_ref()?.pixels)
    }

    /// Pixels per em of the bitmap strikes that the font has, ready for
    /// [`Face::strike`]: one for a bitmap font, any number inside an OpenType font
    /// (`EBLC`).
    ///
    /// # Errors
    /// [`FontError::Table`] where `EBLC` is damaged.
    pub fn strike_sizes(&self) -> Result<Vec<u16>, FontError> {
        self.0.usable()?;
        if let Some(StrikeOrigin {
            pixels, font: None, ..
        }) = &self.0.strike
        {
            return Ok(vec![*pixels]);
        }
        let (bytes, face) = self.strike_font();
        let directory = Directory::read(bytes, face_offset(bytes, face)?)?;
        embedded_sizes(&directory, bytes)
    }

    /// One of the bitmap strikes of the font as a face of its own, whose outlines
    /// are the squares of its pixels. A font without outlines is opened with its
    /// largest.
    ///
    /// # Errors
    /// [`FontError::NoSuchStrike`], with the sizes there are;
    /// [`FontError::Table`] where `EBLC` or `EBDT` is damaged.
    pub fn strike(&self, pixels: u16) -> Result<Self, FontError> {
        self.0.usable()?;
        match &self.0.strike {
            Some(strike) if strike.pixels == pixels => Ok(self.clone()),
            Some(StrikeOrigin {
                pixels: own,
                font: None,
                ..
            }) => Err(FontError::NoSuchStrike {
                pixels,
                known: vec![*own],
            }),
            _ => {
                let (bytes, face) = self.strike_font();
                let data = FaceData::of_embedded(bytes, face, &self.0.limits, pixels)?;
                Ok(data.into())
            }
        }
    }

    /// The picture of a glyph, in a face of a picture sheet whose colours are kept,
    /// or of a strike whose edges are soft; at [`Face::strike_size`] pixels per em.
    pub fn picture(&self, glyph: GlyphId) -> Option<&GlyphPicture> {
        let pictures = self.0.strike.as_ref()?.pictures.as_ref()?;
        // A style that was made is made of the outlines.
        pictures.get(glyph).filter(|_| self.0.synthesis.is_none())
    }

    /// The font that the strikes are in.
    fn strike_font(&self) -> (&SharedBytes, u32) {
        match &self.0.strike {
            Some(StrikeOrigin {
                font: Some((bytes, face)),
                ..
            }) => (bytes, *face),
            _ => (&self.0.bytes, self.0.index),
        }
    }
}

impl FaceData {
    /// Opens one of the strikes inside an OpenType font.
    pub(super) fn of_embedded(
        bytes: &SharedBytes,
        face: u32,
        limits: &Limits,
        pixels: u16,
    ) -> Result<Self, FontError> {
        let directory = Directory::read(bytes, face_offset(bytes, face)?)?;
        let strike = from_embedded(&directory, bytes, pixels, limits)?;
        Self::of_strike(strike, limits, Some((bytes.clone(), face)))
    }

    /// Opens the font that was made of a strike.
    pub(super) fn of_strike(
        strike: StrikeFont,
        limits: &Limits,
        font: Option<(SharedBytes, u32)>,
    ) -> Result<Self, FontError> {
        let origin = StrikeOrigin {
            pixels: strike.pixels,
            pictures: strike.pictures,
            font,
        };
        let bytes = strike.font.into();
        let mut data = Self::open(bytes, 0, limits.clone(), Some(origin), Setting::default())?;
        data.notes.extend(strike.note.map(|text| FaceNote {
            table: Tag::new(b"cmap"),
            text: Cow::Borrowed(text),
        }));
        Ok(data)
    }
}
