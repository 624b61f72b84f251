//! Upright quads before they come to the window.

use super::request::FieldOptions;
use super::vertex::{Shade, ShadeKind, TEXEL_UNITS, Vertex};
use crate::atlas::{PageKind, Slot};
use crate::base::{DeviceRect, Treatment};

/// A rectangle of a page in units of 1 / [`TEXEL_UNITS`] texel: left, top,
/// right, bottom.
pub(super) type TexelUnits = [u16; 4];

/// Places of the corners of a quad on the page: top left, top right, bottom right,
/// bottom left.
pub(super) type TexelCorners = [[u16; 2]; 4];

/// The whole picture of a slot, from its top left corner.
pub(super) fn units(slot: &Slot) -> TexelUnits {
    let (width, height) = slot.picture_size();
    [0, 0, width * TEXEL_UNITS, height * TEXEL_UNITS]
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

/// An upright rectangle of a picture, of colours, or of both. Corners are in the order top
/// left, top right, bottom right, bottom left.
#[derive(Clone, Copy, Debug)]
pub(super) struct Quad {
    pub(super) at: DeviceRect,
    pub(super) texels: TexelCorners,
    /// Premultiplied.
    pub(super) colors: [[u8; 4]; 4],
    pub(super) shade: Shade,
    /// Sides that run along the edge of what is drawn, and so are softened where it is
    /// turned: left, top, right, bottom.
    pub(super) soft: [bool; 4],
}

impl Quad {
    /// A rectangle in colours alone.
    pub(super) fn solid(at: DeviceRect, colors: [[u8; 4]; 4]) -> Self {
        Self {
            at,
            texels: TexelCorners::default(),
            colors,
            shade: Shade::SOLID,
            soft: [false; 4],
        }
    }

    /// The picture of a slot, or a part of it, in a colour.
    pub(super) fn picture(at: DeviceRect, slot: &Slot, part: TexelUnits, color: [u8; 4]) -> Self {
        Self {
            at,
            texels: on_page(slot, part),
            colors: [color; 4],
            shade: Shade::of_page(slot.kind, slot.page),
            soft: [false; 4],
        }
    }

    /// The same, its sides soft where they are sides of a whole, or of a hole in it.
    pub(super) fn part_of(mut self, whole: DeviceRect, hole: Option<DeviceRect>) -> Self {
        let at = self.at;
        let is_hole = |side: fn(&DeviceRect) -> f32, own: f32| hole.as_ref().map(side) == Some(own);
        self.soft = [
            at.left == whole.left || is_hole(|hole| hole.right, at.left),
            at.top == whole.top || is_hole(|hole| hole.bottom, at.top),
            at.right == whole.right || is_hole(|hole| hole.left, at.right),
            at.bottom == whole.bottom || is_hole(|hole| hole.top, at.bottom),
        ];
        self
    }

    /// The same with all sides soft.
    pub(super) fn soft(self) -> Self {
        Self {
            soft: [true; 4],
            ..self
        }
    }

    /// The rectangle with its soft sides moved outwards by a length across and one down.
    fn moved(&self, across: f32, down: f32) -> DeviceRect {
        let by = |side: usize, length: f32| if self.soft[side] { length } else { 0.0 };
        DeviceRect {
            left: self.at.left - by(0, across),
            top: self.at.top - by(1, down),
            right: self.at.right + by(2, across),
            bottom: self.at.bottom + by(3, down),
        }
    }

    /// A mask with a margin of half a texel at its soft sides, in which it fades to the
    /// empty padding of its picture; `texel` is its length in the space.
    pub(super) fn with_margin(&self, texel: f32) -> Self {
        let half = TEXEL_UNITS / 2;
        let mut wide = *self;
        wide.at = self.moved(texel * 0.5, texel * 0.5);
        // The way that the picture runs: it may be mirrored.
        let [first, _, last, _] = self.texels;
        for (corner, texel) in wide.texels.iter_mut().enumerate() {
            for axis in 0..2 {
                let is_end = match axis {
                    0 => corner == 1 || corner == 2,
                    _ => corner >= 2,
                };
                let side = axis + if is_end { 2 } else { 0 };
                let is_up = (last[axis] > first[axis]) == is_end;
                texel[axis] = match (self.soft[side], is_up) {
                    (false, _) => texel[axis],
                    (true, true) => texel[axis] + half,
                    (true, false) => texel[axis].saturating_sub(half),
                };
            }
        }
        wide
    }

    /// The quad with edges that fade over a pixel at its soft sides: the quad itself, less
    /// half a pixel there, and a strip for each of them, as corners. A pixel is `across` by
    /// `down` long in its space.
    pub(super) fn feathered(&self, across: f32, down: f32, mut draw: impl FnMut([Vertex; 4])) {
        let (width, height) = (self.at.right - self.at.left, self.at.bottom - self.at.top);
        let reach = |length: f32, most: f32| (length * 0.5).min(most * 0.5);
        let inner = self.moved(-reach(across, width), -reach(down, height));
        let outer = self.moved(across * 0.5, down * 0.5);
        let core = self.corners_at(inner);
        let rim = self.corners_at(outer).map(|corner| Vertex {
            color: [0; 4],
            ..corner
        });
        if inner.left < inner.right && inner.top < inner.bottom {
            draw(core);
        }
        // Sides are left, top, right, bottom; corners from the top left on, clockwise.
        for (side, [from, to]) in [[3, 0], [0, 1], [1, 2], [2, 3]].into_iter().enumerate() {
            if self.soft[side] {
                draw([rim[from], rim[to], core[to], core[from]]);
            }
        }
    }

    /// Its corners moved to those of a rectangle, with what it has there; beyond its edge it
    /// goes on as at the edge.
    fn corners_at(&self, at: DeviceRect) -> [Vertex; 4] {
        let (width, height) = (self.at.right - self.at.left, self.at.bottom - self.at.top);
        let x = [at.left, at.right].map(|x| ((x - self.at.left) / width).clamp(0.0, 1.0));
        let y = [at.top, at.bottom].map(|y| ((y - self.at.top) / height).clamp(0.0, 1.0));
        let shares = [[x[0], y[0]], [x[1], y[0]], [x[1], y[1]], [x[0], y[1]]];
        let mut corners = Self { at, ..*self }.vertices();
        for (corner, share) in corners.iter_mut().zip(shares) {
            corner.texel = std::array::from_fn(|axis| {
                let own = self.texels.map(|texel| f32::from(texel[axis]));
                mix(own, share).round() as u16
            });
            corner.color = std::array::from_fn(|channel| {
                let own = self.colors.map(|color| f32::from(color[channel]));
                (mix(own, share) + 0.5) as u8
            });
        }
        corners
    }

    /// The same with a veil: the picture of a slot that has what hides it below, at an
    /// opacity of the whole, 0 to 255.
    pub(super) fn veiled(mut self, slot: &Slot, opacity: u8) -> Self {
        let (width, height) = (slot.texels.width, slot.height as u16);
        let shown = [0, 0, width * TEXEL_UNITS, height * TEXEL_UNITS];
        self.texels = on_page(slot, shown);
        self.shade = Shade::veiled(slot.page, slot.texels.height / 2, opacity);
        self
    }

    /// The same as a distance field of a range, with the lengths of a treatment in texels.
    pub(super) fn field(mut self, range: u8, treatment: &Treatment) -> Self {
        let softness = FieldOptions::softness(treatment);
        let kind = match self.shade.kind == ShadeKind::Color as u8 {
            true => PageKind::Color,
            false => PageKind::Mask,
        };
        let page = (kind, self.shade.page);
        self.shade = Shade::field(page, range, treatment.outset_px(), softness);
        self
    }

    /// The same mask with the weight that its colour takes at a contrast of -1 to 1.
    pub(super) fn contrasted(mut self, contrast: f32) -> Self {
        if self.shade.kind == ShadeKind::Mask as u8 && contrast != 0.0 {
            self.shade = self.shade.contrasted(contrast, self.colors[0]);
        }
        self
    }

    /// The same in a colour at its top and one at its bottom.
    pub(super) fn shaded(self, top: [u8; 4], bottom: [u8; 4]) -> Self {
        Self {
            colors: [top, top, bottom, bottom],
            ..self
        }
    }

    /// The same with its picture mirrored, from left to right and from top to bottom.
    pub(super) fn mirrored(mut self, across: bool, down: bool) -> Self {
        if across {
            self.texels.swap(0, 1);
            self.texels.swap(2, 3);
        }
        if down {
            self.texels.swap(0, 3);
            self.texels.swap(1, 2);
        }
        self
    }

    /// The part of it that lies in a rectangle; none where nothing does.
    pub(super) fn cut(&self, clip: DeviceRect) -> Option<Self> {
        let at = self.at.shared(clip);
        if !(at.left < at.right && at.top < at.bottom) {
            return None;
        }
        if at == self.at {
            return Some(*self);
        }
        let (width, height) = (self.at.right - self.at.left, self.at.bottom - self.at.top);
        let x = [at.left, at.right].map(|x| (x - self.at.left) / width);
        let y = [at.top, at.bottom].map(|y| (y - self.at.top) / height);
        let shares = [[x[0], y[0]], [x[1], y[0]], [x[1], y[1]], [x[0], y[1]]];
        let is_plain = self.colors.iter().all(|color| *color == self.colors[0]);
        Some(Self {
            at,
            texels: shares.map(|share| {
                std::array::from_fn(|axis| {
                    let own = self.texels.map(|texel| f32::from(texel[axis]));
                    mix(own, share).round() as u16
                })
            }),
            colors: match is_plain {
                true => self.colors,
                false => shares.map(|share| {
                    std::array::from_fn(|channel| {
                        let own = self.colors.map(|color| f32::from(color[channel]));
                        (mix(own, share) + 0.5) as u8
                    })
                }),
            },
            shade: self.shade,
            soft: self.soft,
        })
    }

    /// Its corners as they stand.
    pub(super) fn vertices(&self) -> [Vertex; 4] {
        let DeviceRect {
            left,
            top,
            right,
            bottom,
        } = self.at;
        let places = [[left, top], [right, top], [right, bottom], [left, bottom]];
        std::array::from_fn(|corner| Vertex {
            position: places[corner],
            texel: self.texels[corner],
            color: self.colors[corner],
            shade: self.shade,
        })
    }
}

/// A value between those of four corners, by the shares of the way right and down.
fn mix([top_left, top_right, bottom_right, bottom_left]: [f32; 4], [x, y]: [f32; 2]) -> f32 {
    let between = |from: f32, to: f32, share: f32| from + (to - from) * share;
    let top = between(top_left, top_right, x);
    let bottom = between(bottom_left, bottom_right, x);
    between(top, bottom, y)
}
