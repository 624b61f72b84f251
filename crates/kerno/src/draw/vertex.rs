//! The vertex of the draw contract.

use bytemuck::{Pod, Zeroable};

use super::blend::premultiplied;
use crate::atlas::{PageKind, Slot};
use crate::base::{Color, DeviceRect};

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

/// A rectangle of a page in units of 1 / [`TEXEL_UNITS`] texel: left, top,
/// right, bottom.
pub(super) type TexelUnits = [u16; 4];

/// Where the corners of a quad lie on the page: top left, top right, bottom right,
/// bottom left.
pub(super) type TexelCorners = [[u16; 2]; 4];

/// The whole picture of a slot, from its top left corner.
pub(super) fn units(slot: &Slot) -> TexelUnits {
    let (width, height) = slot.picture_size();
    [0, 0, width * TEXEL_UNITS, height * TEXEL_UNITS]
}

/// The part of a picture that lies in a rectangle, and the part of the rectangle on
/// the window that shows it; none where nothing does. Without a rectangle all of it.
pub(super) fn clipped(
    at: DeviceRect,
    [left, top, right, bottom]: TexelUnits,
    clip: Option<DeviceRect>,
) -> Option<(DeviceRect, TexelUnits)> {
    let Some(clip) = clip.map(DeviceRect::snapped) else {
        return Some((at, [left, top, right, bottom]));
    };
    let inside = DeviceRect {
        left: at.left.max(clip.left),
        top: at.top.max(clip.top),
        right: at.right.min(clip.right),
        bottom: at.bottom.min(clip.bottom),
    };
    let across = f32::from(right - left) / (at.right - at.left);
    let down = f32::from(bottom - top) / (at.bottom - at.top);
    let column = |x: f32| left + ((x - at.left) * across).round() as u16;
    let row = |y: f32| top + ((y - at.top) * down).round() as u16;
    let units = [
        column(inside.left),
        row(inside.top),
        column(inside.right),
        row(inside.bottom),
    ];
    (inside.left < inside.right && inside.top < inside.bottom).then_some((inside, units))
}

/// A part of a slot's picture, given from the picture's top left corner, on the
/// page.
pub(super) fn on_page(slot: &Slot, [left, top, right, bottom]: TexelUnits) -> TexelCorners {
    let corners = [[left, top], [right, top], [right, bottom], [left, bottom]];
    let (x, y) = (slot.texels.x * TEXEL_UNITS, slot.texels.y * TEXEL_UNITS);
    if slot.is_rotated {
        let far = x + slot.texels.width * TEXEL_UNITS;
        return corners.map(|[across, down]| [far - down, y + across]);
    }
    corners.map(|[across, down]| [x + across, y + down])
}

/// The corners of a quad: top left, top right, bottom right, bottom left.
pub(super) fn quad(
    at: DeviceRect,
    texels: TexelCorners,
    colors: [Color; 4],
    opacity: f32,
    shade: Shade,
) -> [Vertex; 4] {
    let places = [
        [at.left, at.top],
        [at.right, at.top],
        [at.right, at.bottom],
        [at.left, at.bottom],
    ];
    std::array::from_fn(|corner| Vertex {
        position: places[corner],
        texel: texels[corner],
        color: premultiplied(colors[corner], opacity),
        shade,
    })
}
