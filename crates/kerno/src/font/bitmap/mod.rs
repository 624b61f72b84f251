//! Bitmap fonts: BDF, PCF and console fonts (PSF).
//!
//! What goes in: the bytes of such a file. What comes out: an OpenType font whose
//! outlines are the pixels' squares, so that everything else works as with any
//! face: at the strike's own size, and at its whole multiples, the rasteriser
//! gives back the very pixels, and [`Face::crisp_size`](super::Face::crisp_size)
//! knows these sizes.

mod bdf;
mod build;
mod pcf;
mod psf;
mod strike;

use std::io::Read;

use flate2::read::GzDecoder;

use super::FontError;
use crate::base::Limits;
use strike::Strike;

/// What kind of bitmap font some bytes are.
enum Format {
    Bdf,
    Pcf,
    Psf,
}

fn format_of(bytes: &[u8]) -> Option<Format> {
    if bytes.starts_with(b"STARTFONT") {
        return Some(Format::Bdf);
    }
    if bytes.starts_with(&pcf::MAGIC) {
        return Some(Format::Pcf);
    }
    let is_psf = bytes.starts_with(&psf::MAGIC_1) || bytes.starts_with(&psf::MAGIC_2);
    is_psf.then_some(Format::Psf)
}

/// The OpenType font made of a bitmap font, packed by gzip or not; `None` where
/// the bytes are no bitmap font.
pub(super) fn from_bitmap(bytes: &[u8], limits: &Limits) -> Result<Option<Vec<u8>>, FontError> {
    let unpacked;
    let bytes = if bytes.starts_with(&[0x1f, 0x8b]) {
        unpacked = unpack(bytes, limits)?;
        &unpacked
    } else {
        bytes
    };
    let strike = match format_of(bytes) {
        Some(Format::Bdf) => bdf::read(bytes)?,
        Some(Format::Pcf) => pcf::read(bytes)?,
        Some(Format::Psf) => psf::read(bytes)?,
        None => return Ok(None),
    };
    build::open_type(&strike).map(Some)
}

/// Unpacks a gzip file up to the cap on packed fonts.
fn unpack(bytes: &[u8], limits: &Limits) -> Result<Vec<u8>, FontError> {
    let mut unpacked = Vec::new();
    let limit = limits.font_bytes;
    GzDecoder::new(bytes)
        .take(limit.saturating_add(1))
        .read_to_end(&mut unpacked)
        .map_err(|_| FontError::NotAFont("it is packed by gzip and damaged"))?;
    if unpacked.len() as u64 > limit {
        let size = unpacked.len() as u64;
        return Err(FontError::Unpacked { size, limit });
    }
    Ok(unpacked)
}
