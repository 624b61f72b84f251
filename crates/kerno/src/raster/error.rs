//! Why a picture could not be made.

use crate::font::FontError;

/// Why a picture could not be made.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum RasterError {
    /// The glyph could not be read.
    #[error(transparent)]
    Font(#[from] FontError),
    /// An outline with a point that lies nowhere, or a pen that stands nowhere.
    #[error("a point of the outline, or the place of the pen, is infinite or no number")]
    NotFinite,
    /// A size that is no size.
    #[error("a glyph cannot be drawn at {0} pixels; the size must be above 0 and finite")]
    Size(f32),
    /// A font that the readers of its form would refuse.
    #[error(
        "{what} would be {value} pixels, and at most {most} can be read back; choose a smaller size or fewer characters"
    )]
    NotReadable {
        /// The measure.
        what: &'static str,
        /// Its value.
        value: i64,
        /// The most that the readers take.
        most: i64,
    },
    /// The picture would pass the cap of [`Limits`](crate::base::Limits).
    #[error(
        "the glyph would be {width} × {height} pixels, and at most {limit} a side are allowed; draw it smaller or raise Limits::picture_side"
    )]
    TooLarge {
        /// Width of the picture, in pixels.
        width: u64,
        /// Height of the picture, in pixels.
        height: u64,
        /// The cap in force.
        limit: u32,
    },
}

crate::base::debug_in_full!(RasterError);

impl RasterError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::Font(error) => error.code(),
            Self::NotFinite { .. } => "raster-not-finite",
            Self::Size { .. } => "raster-size",
            Self::NotReadable { .. } => "raster-not-readable",
            Self::TooLarge { .. } => "raster-too-large",
        }
    }
}
