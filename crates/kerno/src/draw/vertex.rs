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
    /// For distance fields: the distance that counts as the edge. For veiled masks: the
    /// distance down the page to the veil, in units of [`VEIL_UNITS`] texels.
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
    /// The vertex colour times the mask page's texel.
    Mask = 1,
    /// The vertex colour times the colour page's texel.
    Color = 4,
    /// The vertex colour times c (1 - v) / (1 - a v): c the mask page's texel, v the one of
    /// its veil below it, which is what the letter's higher layers hide, and a the opacity
    /// of the letter. So a letter that fades is as its opaque picture, faded as a whole.
    VeiledMask = 5,
}

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

    pub(super) fn of_page(kind: PageKind, page: u8) -> Self {
        match kind {
            PageKind::Mask => Self::new(ShadeKind::Mask, page),
            PageKind::Color => Self::new(ShadeKind::Color, page),
        }
    }
}
