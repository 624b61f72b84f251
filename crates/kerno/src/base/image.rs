//! Colour pictures.

use std::error::Error;
use std::io;
use std::path::PathBuf;

use super::DeviceSize;

/// A colour picture: 8-bit sRGB with straight alpha, four bytes a pixel (red,
/// green, blue, alpha), row by row from the top, no padding.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Image {
    pub(super) width: u32,
    pub(super) height: u32,
    pub(super) pixels: Vec<u8>,
}

/// Why a picture could not be read or written.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum ImageError {
    /// The file system refused.
    #[error("cannot open the picture “{}”", path.display())]
    Io {
        /// The file.
        path: PathBuf,
        /// The system's error.
        source: io::Error,
    },
    /// The file was read, but something is wrong with the picture in it.
    #[error("the picture “{}”", path.display())]
    InFile {
        /// The file.
        path: PathBuf,
        /// The problem.
        source: Box<ImageError>,
    },
    /// The bytes are no PNG, or a damaged one.
    #[error("not a readable PNG; save it again as PNG")]
    Decode(#[source] Box<dyn Error + Send + Sync>),
    /// The PNG could not be written.
    #[error("the PNG could not be encoded")]
    Encode(#[source] Box<dyn Error + Send + Sync>),
    /// The picture passes the cap of [`Limits`](super::Limits).
    #[error(
        "the picture has {width} × {height} pixels, more than {limit} in all; raise Limits::image_pixels if it is trusted"
    )]
    TooLarge {
        /// Width in pixels.
        width: u32,
        /// Height in pixels.
        height: u32,
        /// The cap in force, in pixels.
        limit: u64,
    },
    /// The number of bytes is not that of the size.
    #[error("{width} × {height} pixels take {wanted} bytes, not {got}")]
    Length {
        /// Width in pixels.
        width: u32,
        /// Height in pixels.
        height: u32,
        /// Bytes that the size takes.
        wanted: u64,
        /// Bytes that were given.
        got: u64,
    },
}

crate::base::debug_in_full!(ImageError);

impl ImageError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::Io { .. } => "image-io",
            Self::InFile { source, .. } => source.code(),
            Self::Decode { .. } => "image-decode",
            Self::Encode { .. } => "image-encode",
            Self::TooLarge { .. } => "image-too-large",
            Self::Length { .. } => "image-length",
        }
    }
}

impl Image {
    /// A picture from its pixels.
    ///
    /// # Errors
    /// [`ImageError::Length`] unless there are `width * height * 4` bytes.
    pub fn new(width: u32, height: u32, pixels: Vec<u8>) -> Result<Self, ImageError> {
        let wanted = (u64::from(width) * u64::from(height)).saturating_mul(4);
        let got = pixels.len() as u64;
        if wanted != got {
            return Err(ImageError::Length {
                width,
                height,
                wanted,
                got,
            });
        }
        Ok(Self {
            width,
            height,
            pixels,
        })
    }

    /// A picture whose pixels are known to be as many as the size says.
    pub(crate) fn of_size(size: DeviceSize, pixels: Vec<u8>) -> Self {
        Self {
            width: size.width,
            height: size.height,
            pixels,
        }
    }

    /// Width in pixels.
    pub fn width(&self) -> u32 {
        self.width
    }

    /// Height in pixels.
    pub fn height(&self) -> u32 {
        self.height
    }

    /// All bytes, four a pixel.
    pub fn pixels(&self) -> &[u8] {
        &self.pixels
    }

    /// Red, green, blue and alpha of one pixel; `None` outside the picture.
    pub fn pixel(&self, x: u32, y: u32) -> Option<[u8; 4]> {
        if x >= self.width || y >= self.height {
            return None;
        }
        let at = (y as usize * self.width as usize + x as usize) * 4;
        self.pixels[at..].first_chunk::<4>().copied()
    }

    /// A part of the picture: from `x`, `y` on, as much of it as there is.
    pub fn part(&self, x: u32, y: u32, width: u32, height: u32) -> Self {
        let (x, y) = (x.min(self.width), y.min(self.height));
        let (width, height) = (width.min(self.width - x), height.min(self.height - y));
        let rows = (y..y + height).flat_map(|row| {
            let start = (row as usize * self.width as usize + x as usize) * 4;
            &self.pixels[start..start + width as usize * 4]
        });
        Self {
            width,
            height,
            pixels: rows.copied().collect(),
        }
    }
}
