//! Glyphs in the bytes of a pack: their places, and their pictures in colour.

use crate::atlas::{BakedGlyph, PageKind, Slot, TexelRect};
use crate::base::Image;
use crate::font::{GlyphId, GlyphPicture, GlyphPictures};

/// Bytes of the record of a glyph.
pub(crate) const RECORD: usize = 24;

/// The largest power of 2 that a picture may be reduced by.
const LARGEST_REDUCTION: u8 = 10;

/// glyph, subpixel position, flags, page, reduction (as a power of 2), (unused), x, y, width, height, left, top.
pub(crate) fn write_glyph(glyph: &BakedGlyph, into: &mut Vec<u8>) {
    let slot = &glyph.slot;
    let is_color = u8::from(slot.kind == PageKind::Color);
    let flags = is_color | u8::from(slot.is_rotated) << 1;
    into.extend(glyph.glyph.0.to_le_bytes());
    let reduction = slot.reduction().ilog2() as u8;
    into.extend([glyph.subpixel, flags, slot.page, reduction, 0, 0]);
    let TexelRect {
        x,
        y,
        width,
        height,
    } = slot.texels;
    for number in [x, y, width, height] {
        into.extend(number.to_le_bytes());
    }
    into.extend(slot.left.to_le_bytes());
    into.extend(slot.top.to_le_bytes());
}

pub(crate) fn read_glyph(record: &[u8; RECORD]) -> BakedGlyph {
    let number = |at: usize| u16::from_le_bytes([record[at], record[at + 1]]);
    let wide = |at: usize| {
        f32::from_le_bytes([record[at], record[at + 1], record[at + 2], record[at + 3]])
    };
    let flags = record[3];
    let kind = if flags & 1 == 1 {
        PageKind::Color
    } else {
        PageKind::Mask
    };
    let texels = TexelRect {
        x: number(8),
        y: number(10),
        width: number(12),
        height: number(14),
    };
    BakedGlyph {
        glyph: GlyphId(number(0)),
        subpixel: record[2],
        slot: Slot::new(kind, record[4], texels, flags & 2 == 2)
            .with_origin(wide(16), wide(20))
            .with_reduction(1 << record[5].min(LARGEST_REDUCTION)),
    }
}

/// Glyphs that are pictures: for each glyph number that is one, left, top, width,
/// height, whether it takes the text's colour, and its pixels.
pub(crate) fn write_pictures(pictures: &GlyphPictures) -> Vec<u8> {
    let mut bytes = Vec::new();
    for (glyph, picture) in pictures.0.iter().enumerate() {
        let Some(picture) = picture else { continue };
        let numbers = [
            glyph as i32,
            picture.left,
            picture.top,
            picture.image.width() as i32,
            picture.image.height() as i32,
            i32::from(picture.is_tinted),
        ];
        bytes.extend(numbers.iter().flat_map(|number| number.to_le_bytes()));
        bytes.extend_from_slice(picture.image.pixels());
    }
    bytes
}

pub(crate) fn read_pictures(mut bytes: &[u8]) -> Option<GlyphPictures> {
    let mut pictures = Vec::new();
    while !bytes.is_empty() {
        let mut number = || {
            let (head, rest) = bytes.split_first_chunk::<4>()?;
            bytes = rest;
            Some(i32::from_le_bytes(*head))
        };
        let glyph = usize::from(u16::try_from(number()?).ok()?);
        let (left, top) = (number()?, number()?);
        let (width, height) = (
            u16::try_from(number()?).ok()?,
            u16::try_from(number()?).ok()?,
        );
        let is_tinted = number()? != 0;
        let size = usize::from(width) * usize::from(height) * 4;
        let (pixels, rest) = bytes.split_at_checked(size)?;
        bytes = rest;
        if glyph >= pictures.len() {
            pictures.resize_with(glyph + 1, || None);
        }
        pictures[glyph] = Some(GlyphPicture {
            left,
            top,
            image: Image::new(width.into(), height.into(), pixels.to_vec()).ok()?,
            is_tinted,
        });
    }
    Some(GlyphPictures(pictures))
}
