//! Colour pictures, and PNG in and out.

use std::io::{self, Cursor};
use std::path::{Path, PathBuf};

use super::{DeviceSize, Limits, read_file};

/// A colour picture: 8-bit sRGB with straight alpha, four bytes a pixel (red,
/// green, blue, alpha), row by row from the top, no padding.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Image {
    width: u32,
    height: u32,
    pixels: Vec<u8>,
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
    Decode(#[source] png::DecodingError),
    /// The PNG could not be written.
    #[error("the PNG could not be encoded")]
    Encode(#[source] png::EncodingError),
    /// The picture passes the cap of [`Limits`].
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

    /// Decodes a PNG of any colour type and depth.
    ///
    /// # Errors
    /// [`ImageError::Decode`] where the bytes are no PNG or a damaged one,
    /// [`ImageError::TooLarge`] over [`Limits::image_pixels`].
    pub fn from_png(bytes: &[u8]) -> Result<Self, ImageError> {
        Self::from_png_with(bytes, &Limits::default())
    }

    /// As [`Image::from_png`], under other [`Limits`].
    ///
    /// # Errors
    /// As [`Image::from_png`].
    pub fn from_png_with(bytes: &[u8], limits: &Limits) -> Result<Self, ImageError> {
        let mut decoder = png::Decoder::new(Cursor::new(bytes));
        decoder.set_transformations(png::Transformations::normalize_to_color8());
        let mut reader = decoder.read_info().map_err(ImageError::Decode)?;
        let (width, height) = (reader.info().width, reader.info().height);
        if u64::from(width) * u64::from(height) > limits.image_pixels {
            return Err(ImageError::TooLarge {
                width,
                height,
                limit: limits.image_pixels,
            });
        }
        let mut raw = vec![0; reader.output_buffer_size().unwrap_or(0)];
        let frame = reader.next_frame(&mut raw).map_err(ImageError::Decode)?;
        raw.truncate(frame.buffer_size());
        let pixels = match frame.color_type {
            png::ColorType::Rgba => raw,
            png::ColorType::Rgb => widen(raw.as_chunks::<3>().0, |&[r, g, b]| [r, g, b, 255]),
            png::ColorType::GrayscaleAlpha => widen(raw.as_chunks::<2>().0, |&[v, a]| [v, v, v, a]),
            // Indexed colour has been expanded by the decoder.
            png::ColorType::Grayscale | png::ColorType::Indexed => widen(&raw, |&v| [v, v, v, 255]),
        };
        Self::new(width, height, pixels)
    }

    /// Reads a PNG file.
    ///
    /// # Errors
    /// [`ImageError::Io`] where the file can't be read, else
    /// [`ImageError::InFile`] around what [`Image::from_png`] says.
    pub fn from_png_file(path: impl AsRef<Path>) -> Result<Self, ImageError> {
        let most = Limits::default().file_bytes;
        Self::from_png_read(path.as_ref(), |path| read_file(path, most))
    }

    /// As [`Image::from_png_file`], where `read` reads the file.
    pub(crate) fn from_png_read(
        path: &Path,
        read: impl FnOnce(&Path) -> io::Result<Vec<u8>>,
    ) -> Result<Self, ImageError> {
        let bytes = read(path).map_err(|source| ImageError::Io {
            path: path.to_owned(),
            source,
        })?;
        Self::from_png(&bytes).map_err(|error| ImageError::InFile {
            path: path.to_owned(),
            source: Box::new(error),
        })
    }

    /// The picture as the bytes of a PNG.
    ///
    /// # Errors
    /// [`ImageError::Encode`] for a picture without pixels.
    pub fn to_png(&self) -> Result<Vec<u8>, ImageError> {
        encode(self.width, self.height, png::ColorType::Rgba, &self.pixels)
    }

    /// One byte a pixel as the bytes of a grey PNG.
    pub(crate) fn grey_png(width: u32, height: u32, grey: &[u8]) -> Result<Vec<u8>, ImageError> {
        encode(width, height, png::ColorType::Grayscale, grey)
    }

    /// Writes a PNG file.
    ///
    /// # Errors
    /// [`ImageError::Io`] where the file can't be written, else as
    /// [`Image::to_png`].
    pub fn write_png_file(&self, path: impl AsRef<Path>) -> Result<(), ImageError> {
        let path = path.as_ref();
        std::fs::write(path, self.to_png()?).map_err(|source| ImageError::Io {
            path: path.to_owned(),
            source,
        })
    }
}

fn widen<T>(pixels: &[T], rgba: impl Fn(&T) -> [u8; 4]) -> Vec<u8> {
    pixels.iter().flat_map(rgba).collect()
}

fn encode(
    width: u32,
    height: u32,
    color: png::ColorType,
    bytes: &[u8],
) -> Result<Vec<u8>, ImageError> {
    let mut file = Vec::new();
    let mut encoder = png::Encoder::new(&mut file, width, height);
    encoder.set_color(color);
    encoder.set_depth(png::BitDepth::Eight);
    let mut writer = encoder.write_header().map_err(ImageError::Encode)?;
    writer
        .write_image_data(bytes)
        .and_then(|()| writer.finish())
        .map_err(ImageError::Encode)?;
    Ok(file)
}
