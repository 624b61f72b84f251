//! The parts of a face, to be kept and opened again.

use std::sync::Arc;

use super::strikes::StrikeOrigin;
use super::{Face, FaceData, FaceId, Setting};
use crate::base::{Color, Limits, SharedBytes};
use crate::font::color::PaletteChoice;
use crate::font::{FontError, GlyphPictures, Synthesis};

/// All that a face is made of: what was unpacked or made over stays so, so that
/// opening it again takes no longer than opening an OpenType font.
pub(crate) struct FaceParts {
    /// An OpenType font, or a collection of them.
    pub(crate) bytes: SharedBytes,
    /// The index of the face in the file.
    pub(crate) index: u32,
    /// The position of each axis of a variable font, from -1 to 1.
    pub(crate) places: Vec<f32>,
    pub(crate) synthesis: Synthesis,
    /// The palette of a colour font, and entries with another colour.
    pub(crate) palette: (u16, Vec<(u16, Color)>),
    /// Pixels per em, where the outlines are squares of a strike's pixels.
    pub(crate) strike: Option<u16>,
    /// The strike's glyphs that have colours or soft edges.
    pub(crate) pictures: Option<Arc<GlyphPictures>>,
}

impl Face {
    /// The parts of this face.
    pub(crate) fn parts(&self) -> FaceParts {
        let data = &**self.0;
        let strike = data.strike.as_ref();
        FaceParts {
            bytes: data.bytes.clone(),
            index: data.index,
            places: data.places.clone(),
            synthesis: data.synthesis,
            palette: data.colors.palette.parts(),
            strike: strike.map(|strike| strike.pixels),
            pictures: strike.and_then(|strike| strike.pictures.clone()),
        }
    }

    /// Opens a face from its parts: a part of the font of a face with an identity.
    pub(crate) fn from_parts(
        parts: FaceParts,
        id: FaceId,
        limits: &Limits,
    ) -> Result<Self, FontError> {
        let strike = parts.strike.map(|pixels| StrikeOrigin {
            pixels,
            pictures: parts.pictures,
            font: None,
        });
        let setting = Setting {
            places: parts.places,
            synthesis: parts.synthesis,
            palette: PaletteChoice::of(parts.palette),
        };
        let data = FaceData::open(parts.bytes, parts.index, limits.clone(), strike, setting)?;
        // It is new: there is none yet.
        data.id.get_or_init(|| id);
        Ok(data.into())
    }
}
