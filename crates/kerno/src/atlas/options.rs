//! Options for the pages of an atlas.

use super::AtlasError;
use crate::base::Treatment;
use crate::raster::SubpixelPositions;

/// Options for the pages of an [`Atlas`](super::Atlas).
///
/// ```
/// use kerno::Atlas;
/// use kerno::atlas::AtlasOptions;
/// let options = AtlasOptions::default().page_side(2048).budget(32 << 20);
/// let atlas = Atlas::new(options)?;
/// # Ok::<(), kerno::atlas::AtlasError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct AtlasOptions {
    /// Width and height of every page, in texels, 16 to 4096. Default 1024.
    pub page_side: u16,
    /// Free texels around every picture, so that filtering never meets a
    /// neighbour. Default 1.
    pub padding: u16,
    /// The number of positions between two pixels that a smooth glyph is kept in, 1 to 16:
    /// the more, the more evenly letters stand, and the more room they take; one for
    /// those exactly an em wide, as Han is. Default 4 at text sizes, fewer above.
    pub subpixel_positions: SubpixelPositions,
    /// Bytes of the pages of each kind from which on the glyphs that were not used for
    /// longest make room for new ones. What the frames in flight use and sprites stay, so a
    /// frame that needs more gets more. Rounded down to whole pages, at least one; pages of
    /// a pack do not count. Default 16 MiB.
    pub budget: usize,
    /// The largest number of pages of each kind, 1 to 256, for renderers with texture
    /// arrays of a fixed size. Default 256.
    pub max_pages: u16,
    /// The number of frames before the one at hand whose pictures stay as they are, because
    /// a renderer may still be drawing them. Default 2.
    pub frames_in_flight: u8,
    /// Texels in an em of distance fields, 8 to 256. Default 40.
    pub field_size: u16,
    /// The range of distance fields, in texels from the lowest value to the highest one, 2 to
    /// 31: outlines and shadows of half of it fit. Default 6.
    pub field_range: u8,
}

impl Default for AtlasOptions {
    fn default() -> Self {
        Self {
            page_side: 1024,
            padding: 1,
            subpixel_positions: SubpixelPositions::new(4),
            budget: 16 << 20,
            max_pages: 256,
            frames_in_flight: 2,
            field_size: 40,
            field_range: Treatment::DEFAULT_RANGE,
        }
    }
}

crate::base::setters! {
    AtlasOptions {
        page_side: u16,
        padding: u16,
        budget: usize,
        max_pages: u16,
        frames_in_flight: u8,
        field_size: u16,
        field_range: u8,
    }
}

impl AtlasOptions {
    /// Sets [`AtlasOptions::subpixel_positions`]: a number at text sizes, or a rule.
    #[must_use]
    pub fn subpixel_positions(mut self, positions: impl Into<SubpixelPositions>) -> Self {
        self.subpixel_positions = positions.into();
        self
    }

    /// Refuses what no atlas can have.
    pub(crate) fn check(&self) -> Result<(), AtlasError> {
        if !(16..=4096).contains(&self.page_side) {
            return Err(AtlasError::PageSide(self.page_side));
        }
        if !self.subpixel_positions.is_sound() {
            return Err(AtlasError::SubpixelPositions(self.subpixel_positions.count));
        }
        if !(1..=256).contains(&self.max_pages) {
            return Err(AtlasError::MaxPages(self.max_pages));
        }
        if !(8..=256).contains(&self.field_size) {
            return Err(AtlasError::FieldSize(self.field_size));
        }
        if !(2..=Treatment::LARGEST_RANGE).contains(&self.field_range) {
            return Err(AtlasError::FieldRange(self.field_range));
        }
        Ok(())
    }
}
