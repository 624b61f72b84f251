//! Why something could not be put on a page, or found there.

use std::path::PathBuf;

use crate::base::ImageError;
use crate::font::GlyphId;
use crate::raster::RasterError;

/// Why something could not be put on a page, or found there.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum AtlasError {
    /// The glyph's picture could not be made.
    #[error(transparent)]
    Raster(#[from] RasterError),
    /// The PNG of a glyph in its font is damaged.
    #[error("the picture of glyph {} in its font (`CBDT`, `sbix`)", glyph.0)]
    GlyphPicture {
        /// The glyph.
        glyph: GlyphId,
        /// The fault.
        source: ImageError,
    },
    /// A picture that no page can hold.
    #[error(
        "a picture of {width} × {height} texels does not fit a page of {} × {}; allow larger pages or draw it smaller",
        page.0, page.1
    )]
    TooLarge {
        /// Width of the picture, in texels.
        width: u32,
        /// Height of the picture, in texels.
        height: u32,
        /// Width and height of a page, in texels.
        page: (u16, u16),
    },
    /// Every page there may be is full, and all that is on them is in use.
    #[error(
        "all {0} pages are full of what this frame uses; raise AtlasOptions::max_pages or AtlasOptions::page_side, up to 256 pages of 4096"
    )]
    Full(usize),
    /// A page side out of range.
    #[error("a page side of {0} texels is out of range; it must be 16 to 4096")]
    PageSide(u16),
    /// A number of subpixel positions out of range.
    #[error("{0} subpixel positions are out of range; there must be 1 to 16")]
    SubpixelPositions(u8),
    /// A number of pages out of range.
    #[error("{0} pages of a kind are out of range; there must be 1 to 256")]
    MaxPages(u16),
    /// A size of distance fields out of range.
    #[error("distance fields of {0} texels an em are out of range; they must have 8 to 256")]
    FieldSize(u16),
    /// A range of distance fields out of range.
    #[error("a range of {0} texels for distance fields is out of range; it must be 2 to 31")]
    FieldRange(u8),
    /// A baked sprite without a picture.
    #[error("the pack has no picture of sprite “{0}”; bake it again")]
    NotBaked(String),
    /// A sprite's numbers are out of range.
    #[error("sprite “{name}”: {what}")]
    BadSprite {
        /// The sprite's name.
        name: String,
        /// The problem.
        what: &'static str,
    },
    /// A folder of sprites that can't be read.
    #[error("cannot read the folder “{}”", path.display())]
    Folder {
        /// The folder.
        path: PathBuf,
        /// The system's error.
        source: std::io::Error,
    },
    /// A picture of a sprite that can't be read.
    #[error(transparent)]
    Image(#[from] ImageError),
    /// Frames that make no animation.
    #[error("not an animation: {0}")]
    BadAnimation(&'static str),
    /// Two sprites with one name.
    #[error("there is a sprite “{0}” already; give the second one another name")]
    DuplicateSprite(String),
    /// A sprite of another atlas, that has more of them.
    #[error("sprite number {0} is not of this atlas; ids belong to the atlas that gave them")]
    OtherAtlas(u32),
    /// A name that no sprite has.
    #[error("there is no sprite “{name}”{}", did_you_mean(nearest.as_deref()))]
    NoSuchSprite {
        /// The name asked for.
        name: String,
        /// A sprite with nearly that name.
        nearest: Option<String>,
    },
}

crate::base::debug_in_full!(AtlasError);

impl AtlasError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::Raster(error) => error.code(),
            Self::GlyphPicture { .. } => "atlas-glyph-picture",
            Self::TooLarge { .. } => "atlas-too-large",
            Self::Full { .. } => "atlas-full",
            Self::PageSide { .. } => "atlas-page-side",
            Self::SubpixelPositions { .. } => "atlas-subpixel-positions",
            Self::MaxPages { .. } => "atlas-max-pages",
            Self::FieldSize { .. } => "atlas-field-size",
            Self::FieldRange { .. } => "atlas-field-range",
            Self::NotBaked { .. } => "atlas-not-baked",
            Self::BadSprite { .. } => "atlas-bad-sprite",
            Self::Folder { .. } => "atlas-folder",
            Self::Image(error) => error.code(),
            Self::BadAnimation { .. } => "atlas-bad-animation",
            Self::DuplicateSprite { .. } => "atlas-duplicate-sprite",
            Self::OtherAtlas { .. } => "atlas-other-atlas",
            Self::NoSuchSprite { .. } => "atlas-no-such-sprite",
        }
    }
}

fn did_you_mean(nearest: Option<&str>) -> String {
    nearest.map_or_else(String::new, |name| format!("; did you mean “{name}”?"))
}
