//! The quads of a frame.

use super::clip::{Clip, Clips};
use super::group::{Group, GroupNumber};
use super::quad::Quad;
use super::space::Space;
use super::state::pixel_of;
use super::text_record::TextRecord;
use super::{ShadeKind, Vertex};
use crate::atlas::KeptId;
use crate::base::{Affine, Point};
use crate::raster::VeilLayer;

/// The quads of a frame in the order in which they came.
#[derive(Clone, Debug, Default)]
pub(super) struct Gathered {
    pub(super) vertices: Vec<Vertex>,
    /// The layer of each quad.
    pub(super) layers: Vec<i32>,
    /// The picture that each quad shows, so that it is kept.
    pub(super) pictures: Vec<KeptId>,
    /// The texts among them.
    pub(super) texts: Vec<TextRecord>,
    pub(super) clips: Clips,
    pub(super) groups: Vec<Group>,
    /// From which quad on they are of which group; before the first of none.
    pub(super) runs: Vec<(u32, GroupNumber)>,
    /// Memory for the layers of a letter.
    pub(super) veil: Vec<VeilLayer>,
}

impl Gathered {
    pub(super) fn clear(&mut self) {
        self.vertices.clear();
        self.layers.clear();
        self.pictures.clear();
        self.texts.clear();
        self.clips.clear();
        self.groups.clear();
        self.runs.clear();
    }

    /// Says which group what follows is of.
    pub(super) fn enter(&mut self, group: GroupNumber) {
        if self.runs.last().map_or(0, |run| run.1) != group {
            self.runs.push((self.layers.len() as u32, group));
        }
    }

    /// Adds a quad: cut in its space, turned, cut by the scope. What lies nowhere, by a
    /// place or a size that is no number, is not drawn.
    pub(super) fn push(
        &mut self,
        quad: Quad,
        space: &Space,
        (layer, clip): (i32, Clip),
        picture: KeptId,
    ) {
        if space.clip.is_none() && space.turn.is_none() && clip == Clip::default() {
            self.add(quad.vertices(), layer, picture);
            return;
        }
        let quad = match space.clip.map(|part| quad.cut(part)) {
            Some(None) => return,
            Some(Some(part)) => part,
            None => quad,
        };
        match space.turn {
            None if clip.turned.is_none() => {
                let quad = match clip.rect.map(|part| quad.cut(part)) {
                    Some(None) => return,
                    Some(Some(part)) => part,
                    None => quad,
                };
                self.add(quad.vertices(), layer, picture);
            }
            turn => {
                let pixel = turn.map_or([1.0; 2], pixel_of);
                let has_soft = quad.soft != [false; 4];
                let is_mask = quad.shade.kind == ShadeKind::Mask as u8
                    || quad.shade.kind == ShadeKind::VeiledMask as u8;
                if turn.is_none() || is_mask || !has_soft {
                    let corners = quad.vertices().map(|corner| turned(corner, turn));
                    self.push_turned(corners, (layer, clip), picture);
                    return;
                }
                quad.feathered(pixel[0], pixel[1], |corners| {
                    let corners = corners.map(|corner| turned(corner, turn));
                    self.push_turned(corners, (layer, clip), picture);
                });
            }
        }
    }

    /// Adds corners on the window, cut by the scope.
    pub(super) fn push_turned(
        &mut self,
        corners: [Vertex; 4],
        (layer, clip): (i32, Clip),
        picture: KeptId,
    ) {
        if clip.holds(&corners) {
            self.add(corners, layer, picture);
            return;
        }
        let mut clips = std::mem::take(&mut self.clips);
        clips.cut(&corners, clip, |part| self.add(part, layer, picture));
        self.clips = clips;
    }

    fn add(&mut self, corners: [Vertex; 4], layer: i32, picture: KeptId) {
        // Times 0 all is 0 but what is infinite or no number.
        let places = corners.iter().flat_map(|corner| corner.position);
        if places.map(|place| place * 0.0).sum::<f32>() != 0.0 {
            return;
        }
        self.vertices.extend_from_slice(&corners);
        self.layers.push(layer);
        self.pictures.push(picture);
    }
}

fn turned(corner: Vertex, turn: Option<Affine>) -> Vertex {
    let [x, y] = corner.position;
    let place = turn.map_or(Point::new(x, y), |turn| turn.point(Point::new(x, y)));
    Vertex {
        position: [place.x, place.y],
        ..corner
    }
}
