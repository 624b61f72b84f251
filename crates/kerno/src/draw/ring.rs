//! Rounded rectangles, filled or as a line along their edge.

use super::TEXEL_UNITS;
use super::quad::Quad;
use super::scope::Scope;
use super::space::Space;
use crate::atlas::{AtlasError, KeptId, Slot};
use crate::base::{Color, DeviceRect};

/// A rectangle in whole pixels with rounded corners, filled or as a line along its edge.
#[derive(Clone, Copy)]
pub(super) struct Ring {
    pub(super) at: DeviceRect,
    /// Radii of the corners, clockwise from the top left.
    pub(super) radii: [f32; 4],
    /// Width of the line; none where it is filled.
    pub(super) width: Option<f32>,
}

impl Ring {
    /// Heights at which the strips between the corners begin and end, from the top.
    fn borders(&self) -> [f32; 8] {
        let [a, b, c, d] = self.radii;
        let (top, bottom) = (self.at.top, self.at.bottom);
        let width = self.width.unwrap_or(0.0);
        let inner = [top + width, bottom - width].map(|y| y.clamp(top, bottom));
        let corners = [top + a, top + b, bottom - c, bottom - d];
        let [first, second, third, fourth] = corners;
        let mut list = [
            top, first, second, third, fourth, inner[0], inner[1], bottom,
        ];
        list.sort_unstable_by(f32::total_cmp);
        list
    }

    /// The ends of a strip, between the corners that lie beside it.
    fn ends(&self, top: f32, bottom: f32) -> (f32, f32) {
        let [a, b, c, d] = self.radii;
        let at = self.at;
        let beside = |upper: f32, lower: f32| {
            let upper = if top < at.top + upper { upper } else { 0.0 };
            let lower = if bottom > at.bottom - lower {
                lower
            } else {
                0.0
            };
            upper.max(lower)
        };
        (at.left + beside(a, d), at.right - beside(b, c))
    }

    /// The straight parts.
    fn parts(&self, mut add: impl FnMut(DeviceRect)) {
        let at = self.at;
        let mut add = |left: f32, right: f32, top: f32, bottom: f32| {
            if left < right {
                add(DeviceRect {
                    left,
                    top,
                    right,
                    bottom,
                });
            }
        };
        let borders = self.borders();
        for (top, bottom) in borders.iter().copied().zip(borders.iter().copied().skip(1)) {
            if top >= bottom {
                continue;
            }
            let (left, right) = self.ends(top, bottom);
            let hole = self.width.map(|width| at.inset(width));
            match hole.filter(|hole| hole.top <= top && bottom <= hole.bottom) {
                Some(hole) if hole.left < hole.right => {
                    add(left, hole.left, top, bottom);
                    add(hole.right, right, top, bottom);
                }
                _ => add(left, right, top, bottom),
            }
        }
    }

    /// Places of the corners, with what turns the picture of a top left one into theirs.
    fn corners(&self) -> [(DeviceRect, bool, bool); 4] {
        let at = self.at;
        let mut corners = [(false, false), (true, false), (true, true), (false, true)]
            .map(|(flip_x, flip_y)| (at, flip_x, flip_y));
        for (radius, (part, flip_x, flip_y)) in self.radii.into_iter().zip(&mut corners) {
            part.left = if *flip_x { at.right - radius } else { at.left };
            part.top = if *flip_y { at.bottom - radius } else { at.top };
            part.right = part.left + radius;
            part.bottom = part.top + radius;
        }
        corners
    }
}

impl Scope<'_> {
    pub(super) fn ring(
        &mut self,
        ring: Ring,
        color: Color,
        space: &Space,
    ) -> Result<(), AtlasError> {
        let color = self.shaded(color);
        let hole = ring.width.map(|width| ring.at.inset(width));
        ring.parts(|part| {
            let quad = Quad::solid(part, [color; 4]).part_of(ring.at, hole);
            self.push(quad, space, KeptId::NONE);
        });
        let mut known: Option<(f32, Option<Slot>)> = None;
        for ((part, flip_x, flip_y), radius) in ring.corners().into_iter().zip(ring.radii) {
            if radius < 1.0 {
                continue;
            }
            let slot = match known {
                Some((same, slot)) if same == radius => slot,
                _ => {
                    let inner = ring.width.map_or(0.0, |width| (radius - width).max(0.0));
                    self.atlas.corner(radius as u16, inner as u16)?
                }
            };
            known = Some((radius, slot));
            let Some(slot) = slot else { continue };
            let side = radius as u16 * TEXEL_UNITS;
            let quad = Quad::picture(part, &slot, [0, 0, side, side], color);
            let quad = quad.mirrored(flip_x, flip_y).part_of(ring.at, None);
            let quad = match space.turn {
                Some(_) => quad.with_margin(1.0),
                None => quad,
            };
            self.push(quad, space, KeptId::NONE);
        }
        Ok(())
    }
}
