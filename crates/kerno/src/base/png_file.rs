//! PNG in and out.

use std::io::{self, Cursor};
use std::path::Path;

use super::{FileReader, Image, ImageError, Limits};

impl Image {
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
        let mut reader = decoder
            .read_info()
            .map_err(|error| ImageError::Decode(Box::new(error)))?;
        let (width, height) = (reader.info().width, reader.info().height);
        if u64::from(width) * u64::from(height) > limits.image_pixels {
            return Err(ImageError::TooLarge {
                width,
                height,
                limit: limits.image_pixels,
            });
        }
        let mut raw = vec![0; reader.output_buffer_size().unwrap_or(0)];
        let frame = reader
            .next_frame(&mut raw)
            .map_err(|error| ImageError::Decode(Box::new(error)))?;
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
        Self::from_png_file_through(path, &FileReader::default())
    }

    /// As [`Image::from_png_file`], where `files` says what may be read.
    ///
    /// # Errors
    /// As there.
    pub fn from_png_file_through(
        path: impl AsRef<Path>,
        files: &FileReader,
    ) -> Result<Self, ImageError> {
        let limits = files.limits();
        Self::from_png_read(path.as_ref(), limits, |path| files.read(path))
    }

    /// As [`Image::from_png_file`], where `read` reads the file.
    pub(crate) fn from_png_read(
        path: &Path,
        limits: &Limits,
        read: impl FnOnce(&Path) -> io::Result<Vec<u8>>,
    ) -> Result<Self, ImageError> {
        let bytes = read(path).map_err(|source| ImageError::Io {
            path: path.to_owned(),
            source,
        })?;
        Self::from_png_with(&bytes, limits).map_err(|error| ImageError::InFile {
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
    let mut writer = encoder
        .write_header()
        .map_err(|error| ImageError::Encode(Box::new(error)))?;
    writer
        .write_image_data(bytes)
        .and_then(|()| writer.finish())
        .map_err(|error| ImageError::Encode(Box::new(error)))?;
    Ok(file)
}
