//! From a bitmap font to an OpenType font.

use super::super::tables::{Directory, GlyphMetrics, read_head};
use super::super::{FontError, GlyphPicture, GlyphPictures, Tag};
use super::embedded::Strikes;
use super::open_type;
use super::{Missing, Strike, StrikeGlyph};
use super::{bdf, build, pcf, psf};
use crate::base::{Image, Limits};
#[cfg(feature = "compressed-fonts")]
use flate2::read::GzDecoder;
#[cfg(feature = "compressed-fonts")]
use std::io::Read;
use std::sync::Arc;

/// The formats of bitmap fonts.
pub(in crate::font) enum Format {
    Bdf,
    Pcf,
    Psf,
}

/// The ways in which a font file is packed as a whole.
pub(in crate::font) enum Packing {
    Woff,
    Woff2,
    Gzip,
}

/// The packing of some bytes; `None` if they are not packed.
pub(in crate::font) fn packing_of(bytes: &[u8]) -> Option<Packing> {
    if bytes.starts_with(b"wOFF") {
        return Some(Packing::Woff);
    }
    if bytes.starts_with(b"wOF2") {
        return Some(Packing::Woff2);
    }
    bytes.starts_with(&[0x1f, 0x8b]).then_some(Packing::Gzip)
}

pub(in crate::font) fn format_of(bytes: &[u8]) -> Option<Format> {
    if bytes.starts_with(b"STARTFONT") {
        return Some(Format::Bdf);
    }
    if bytes.starts_with(&pcf::MAGIC) {
        return Some(Format::Pcf);
    }
    let is_psf = bytes.starts_with(&psf::MAGIC_1) || bytes.starts_with(&psf::MAGIC_2);
    is_psf.then_some(Format::Psf)
}

/// The OpenType font made of a strike.
pub(in crate::font) struct StrikeFont {
    pub(in crate::font) font: Vec<u8>,
    /// Pixels in the em.
    pub(in crate::font) pixels: u16,
    /// Its glyphs, where they have colours or soft edges.
    pub(in crate::font) pictures: Option<Arc<GlyphPictures>>,
    /// A remark on it.
    pub(in crate::font) note: Option<&'static str>,
}

/// Note on a font whose charset is unknown.
pub(super) const PRIVATE: &str = "the font is in a charset that is not known: its codes up to 255 are the \
    private characters from U+F000 on, others those from U+F0000";

/// Looks at the header of a bitmap font of a format that has one.
pub(in crate::font) fn check_header(bytes: &[u8], format: &Format) -> Result<(), FontError> {
    match format {
        Format::Pcf => pcf::check(bytes),
        Format::Bdf | Format::Psf => Ok(()),
    }
}

/// The OpenType font made of a bitmap font.
pub(in crate::font) fn from_bitmap(bytes: &[u8]) -> Result<StrikeFont, FontError> {
    let strike = match format_of(bytes) {
        Some(Format::Bdf) => bdf::read(bytes)?,
        Some(Format::Pcf) => pcf::read(bytes)?,
        Some(Format::Psf) => psf::read(bytes)?,
        None => return Err(FontError::NotAFont("it does not begin as one")),
    };
    Ok(StrikeFont {
        font: open_type(&strike, Vec::new())?,
        pixels: strike.pixels,
        pictures: None,
        note: strike.is_private.then_some(PRIVATE),
    })
}

/// A font without any glyph but that for missing ones, which is empty.
pub(in crate::font) fn empty_font() -> StrikeFont {
    let strike = Strike {
        family: String::new(),
        is_bold: false,
        is_private: false,
        pixels: 1,
        ascent: 1,
        descent: 0,
        line_gap: 0,
        glyphs: vec![StrikeGlyph::blank(0)],
        missing: Missing::First,
    };
    StrikeFont {
        font: open_type(&strike, Vec::new()).unwrap_or_default(),
        pixels: strike.pixels,
        pictures: None,
        note: None,
    }
}

/// Pixels per em of the strikes inside an OpenType font; none where it has none.
pub(in crate::font) fn embedded_sizes(
    directory: &Directory,
    bytes: &[u8],
) -> Result<Vec<u16>, FontError> {
    match Strikes::find(directory, bytes)? {
        Some(strikes) => strikes.sizes(),
        None => Ok(Vec::new()),
    }
}

/// The OpenType font made of one of the strikes inside another, the one of
/// `pixels` to the em. What that one says about characters and names stays.
pub(in crate::font) fn from_embedded(
    directory: &Directory,
    bytes: &[u8],
    pixels: u16,
    limits: &Limits,
) -> Result<StrikeFont, FontError> {
    let known = embedded_sizes(directory, bytes)?;
    let index = known.iter().position(|size| *size == pixels);
    let (Some(index), Some(strikes)) = (index, Strikes::find(directory, bytes)?) else {
        return Err(FontError::NoSuchStrike { pixels, known });
    };
    let metrics = GlyphMetrics::read(directory, bytes)?;
    let units = u32::from(read_head(directory, bytes)?.units_per_em);
    let advance_of = |glyph, pixels: u16| {
        let advance = u32::from(metrics.advance(bytes, glyph)) * u32::from(pixels);
        ((advance + units / 2) / units) as u16
    };
    let strike = strikes.read(index, metrics.count(), limits, advance_of)?;
    let kept = [b"cmap", b"name", b"post", b"GSUB"];
    let kept = kept.iter().filter_map(|tag| {
        let mut table = directory.table(bytes, tag)?.bytes().to_vec();
        if *tag == b"post" {
            // The only numbers in font units: place and thickness of the underline.
            for field in table.get_mut(8..12)?.as_chunks_mut::<2>().0 {
                *field = build::rescaled(i16::from_be_bytes(*field), units, pixels);
            }
        }
        Some((Tag::new(tag), table))
    });
    let pictures: Vec<_> = strike.glyphs.iter().map(soft_picture).collect();
    let is_soft = pictures.iter().any(Option::is_some);
    Ok(StrikeFont {
        font: open_type(&strike, kept.collect())?,
        pixels: strike.pixels,
        pictures: is_soft.then(|| Arc::new(GlyphPictures(pictures))),
        note: None,
    })
}

/// The picture of a glyph whose pixels are not all or nothing.
pub(super) fn soft_picture(glyph: &StrikeGlyph) -> Option<GlyphPicture> {
    let white = glyph
        .levels
        .iter()
        .flat_map(|level| [255, 255, 255, *level]);
    let image = Image::new(glyph.width.into(), glyph.height.into(), white.collect()).ok()?;
    (!glyph.levels.is_empty()).then(|| GlyphPicture {
        left: glyph.left.into(),
        top: -i32::from(glyph.bottom) - i32::from(glyph.height),
        image,
        is_tinted: true,
    })
}

/// Without the feature `compressed-fonts` nothing is unpacked.
#[cfg(not(feature = "compressed-fonts"))]
pub(in crate::font) fn unpack(_: &[u8], _: &Limits) -> Result<Vec<u8>, FontError> {
    Err(FontError::NotAFont(
        "it is packed by gzip, which is read with the feature `compressed-fonts`",
    ))
}

/// Unpacks a gzip file up to the cap on packed fonts.
#[cfg(feature = "compressed-fonts")]
pub(in crate::font) fn unpack(bytes: &[u8], limits: &Limits) -> Result<Vec<u8>, FontError> {
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
