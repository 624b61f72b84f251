//! The vertex of the draw contract.

use bytemuck::{Pod, Zeroable};

use crate::atlas::PageKind;
use crate::raster::VEIL_ROWS;

/// Units of a texel coordinate in one texel: coordinates are fixed-point, so
/// that a clipped or stretched quad may begin inside a texel.
pub const TEXEL_UNITS: u16 = 8;

/// Texels in a unit of the distance from a mask to its veil.
pub const VEIL_UNITS: u16 = VEIL_ROWS as u16;

/// One corner of a quad: 20 bytes, as a GPU takes them.
#[repr(C)]
#[derive(Clone, Copy, Debug, Default, PartialEq, Pod, Zeroable)]
pub struct Vertex {
    /// Device pixels, rightwards and downwards from the window's top left.
    pub position: [f32; 2],
    /// Place on the page, in 1 / [`TEXEL_UNITS`] texel.
    pub texel: [u16; 2],
    /// Premultiplied sRGB.
    pub color: [u8; 4],
    /// The shading of the quad.
    pub shade: Shade,
}

/// Shading of a quad: how its pixels get their colour.
#[repr(C)]
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Pod, Zeroable)]
pub struct Shade {
    /// One of the numbers of [`ShadeKind`].
    pub kind: u8,
    /// Index of the page in the texture array that the kind reads.
    pub page: u8,
    /// For distance fields: the distance that counts as the edge. For masks: the weight w of
    /// the letter in 1 / [`WEIGHT_UNITS`], two's complement. For veiled masks: the distance down the page to the veil, in units of [`VEIL_UNITS`] texels.
    pub edge: u8,
    /// For distance fields: how wide the edge is softened. For veiled masks: the opacity of
    /// the whole letter.
    pub softness: u8,
}

/// The values of [`Shade::kind`]. The numbers are part of the draw contract.
#[repr(u8)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum ShadeKind {
    /// The vertex colour alone.
    Solid = 0,
    /// The vertex colour times m + w m (1 - m): m the mask page's texel, w the letter's
    /// weight, mostly 0; kept within 0 to 1.
    Mask = 1,
    /// The vertex colour times the colour page's texel.
    Color = 4,
    /// The vertex colour times c (1 - v) / (1 - a v): c the mask page's texel, v the one of
    /// its veil below it, which is what the letter's higher layers hide, and a the opacity
    /// of the letter. So a letter that fades is as its opaque picture, faded as a whole.
    VeiledMask = 5,
    /// From here to 63: a distance field whose range is the number of texels above 32. With d
    /// the mask page's texel less a half, times the range, plus the `edge` (a signed byte)
    /// times range / 256, and w the larger of the texels that a pixel is wide and `softness` / 255
    /// times the range: the vertex colour times t = d / w + 1/2, kept within 0 and 1, or where
    /// the softness is above 0 times t² (3 - 2t).
    Field = 32,
    /// From here to 95: a multi-channel distance field whose range is the number of texels
    /// above 64. As a field, with d of the colour page's texel: where `edge` and `softness` are
    /// 0 of the middle one of red, green and blue, else of alpha.
    MultiChannelField = 64,
}

/// Units of a letter's weight in 1.
pub const WEIGHT_UNITS: u8 = 64;

/// The weight of white with which the light of all coverages of sRGB is a half on average, as
/// that of linear blending is.
const TO_LINEAR: f32 = 0.95;

/// The weight the other way: with it the sRGB values of all coverages of light are a half on
/// average.
const FROM_LINEAR: f32 = 1.08;

impl Shade {
    pub(super) const SOLID: Self = Self::new(ShadeKind::Solid, 0);

    pub(super) const fn new(kind: ShadeKind, page: u8) -> Self {
        Self {
            kind: kind as u8,
            page,
            edge: 0,
            softness: 0,
        }
    }

    /// A mask with a veil a number of rows below it.
    pub(super) fn veiled(page: u8, rows: u16, opacity: u8) -> Self {
        Self {
            kind: ShadeKind::VeiledMask as u8,
            page,
            edge: (rows / VEIL_UNITS) as u8,
            softness: opacity,
        }
    }

    /// A distance field of a range in texels, its edge moved outwards and softened over a
    /// width, in texels.
    pub(super) fn field(
        (kind, page): (PageKind, u8),
        range: u8,
        outset: f32,
        softness: f32,
    ) -> Self {
        let texels = f32::from(range);
        let first = match kind {
            PageKind::Mask => ShadeKind::Field,
            PageKind::Color => ShadeKind::MultiChannelField,
        };
        Self {
            kind: first as u8 + range,
            page,
            edge: (outset / texels * 256.0).round() as i8 as u8,
            softness: (softness / texels * 255.0).round() as u8,
        }
    }

    /// The range of a distance field, in texels; none for other kinds.
    pub fn field_range(self) -> Option<u8> {
        matches!(self.kind / 32, 1 | 2).then_some(self.kind % 32)
    }

    /// The page that a distance field is on.
    pub(super) fn field_page(self) -> PageKind {
        match self.kind / 32 {
            1 => PageKind::Mask,
            _ => PageKind::Color,
        }
    }

    /// The same mask, heavier or lighter by the brightness of its premultiplied colour.
    pub(super) fn contrasted(self, contrast: f32, color: [u8; 4]) -> Self {
        let [red, green, blue, alpha] = color.map(f32::from);
        let brightness = (0.2126 * red + 0.7152 * green + 0.0722 * blue) / alpha.max(1.0);
        let most = if contrast > 0.0 {
            TO_LINEAR
        } else {
            FROM_LINEAR
        };
        let weight = contrast * most * (2.0 * brightness - 1.0);
        Self {
            edge: (weight * f32::from(WEIGHT_UNITS)).round() as i8 as u8,
            ..self
        }
    }

    pub(super) fn of_page(kind: PageKind, page: u8) -> Self {
        match kind {
            PageKind::Mask => Self::new(ShadeKind::Mask, page),
            PageKind::Color => Self::new(ShadeKind::Color, page),
        }
    }
}
