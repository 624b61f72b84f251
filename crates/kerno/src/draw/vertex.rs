//! The vertex of the draw contract.

use bytemuck::{Pod, Zeroable};

use crate::atlas::PageKind;

/// Units of a texel coordinate in one texel: coordinates are fixed-point, so
/// that a clipped or stretched quad may begin inside a texel.
pub const TEXEL_UNITS: u16 = 8;

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
    /// For distance fields: the distance that counts as the edge.
    pub edge: u8,
    /// For distance fields: how wide the edge is softened.
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

    pub(super) fn of_page(kind: PageKind, page: u8) -> Self {
        match kind {
            PageKind::Mask => Self::new(ShadeKind::Mask, page),
            PageKind::Color => Self::new(ShadeKind::Color, page),
        }
    }
}
