//! Faces and strikes as a pack writes them.

use super::binary::{Binary, binary_record};
use super::description::Description;
use crate::base::{Color, Treatment};
use crate::font::FaceId;

/// A face as a pack tells it.
#[derive(Debug)]
pub(crate) struct PackedFace {
    pub(crate) name: String,
    pub(crate) id: FaceId,
    /// Number of the section with its font.
    pub(crate) font: usize,
    /// Number of the face in the font.
    pub(crate) index: u32,
    /// Each axis of a variable font from -1 to 1.
    pub(crate) places: Vec<f32>,
    pub(crate) embolden: f32,
    pub(crate) slant: f32,
    /// Pixels per em of a bitmap strike.
    pub(crate) strike: Option<u16>,
    /// Number of the section with its pictures in colour.
    pub(crate) pictures: Option<usize>,
    /// The palette of a colour font.
    pub(crate) palette: u16,
    /// Entries of it with another colour: both bytes of the entry, red, green, blue, alpha.
    pub(crate) changed: Vec<[u8; 6]>,
}

impl PackedFace {
    /// The palette, and its entries that were changed, as a face has them.
    pub(crate) fn palette(&self) -> (u16, Vec<(u16, Color)>) {
        let changed = self
            .changed
            .iter()
            .map(|[low, high, red, green, blue, alpha]| {
                let color = Color::rgba(*red, *green, *blue, *alpha);
                (u16::from_le_bytes([*low, *high]), color)
            });
        (self.palette, changed.collect())
    }
}

/// A strike as a pack tells it: some of the records of glyphs.
#[derive(Debug)]
pub(crate) struct PackedStrike {
    pub(crate) face: u32,
    /// Device pixels per em.
    pub(crate) size: f32,
    pub(crate) treatment: Treatment,
    pub(crate) first: usize,
    pub(crate) count: usize,
}

binary_record!(PackedFace {
    name,
    id,
    font,
    index,
    places,
    embolden,
    slant,
    strike,
    pictures,
    palette,
    changed
});
binary_record!(PackedStrike {
    face,
    size,
    treatment,
    first,
    count
});

/// All that a pack holds beside pages, glyphs and fonts.
pub(crate) type PackDescription = Description<PackedFace, PackedStrike>;
binary_record!(PackDescription {
    padding,
    subpixel_positions,
    text_sizes,
    scales,
    pages,
    faces,
    stacks,
    strikes,
    sprites,
    animations,
});

impl PackDescription {
    /// The section of a pack.
    pub(crate) fn to_bytes(&self) -> Vec<u8> {
        let mut bytes = Vec::new();
        self.write(&mut bytes);
        bytes
    }

    /// Reads the section, all of which has to be it.
    pub(crate) fn from_bytes(mut bytes: &[u8]) -> Option<Self> {
        let description = Self::read(&mut bytes)?;
        bytes.is_empty().then_some(description)
    }
}
