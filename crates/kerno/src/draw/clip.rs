//! Clips of scopes.

use super::Vertex;
use crate::base::{DeviceRect, Point};

/// The part of the window that a scope draws on.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(super) struct Clip {
    /// An upright part, on whole pixels; all of it where there is none.
    pub(super) rect: Option<DeviceRect>,
    /// The innermost of the parts that are turned.
    pub(super) turned: Option<ClipId>,
}

/// Index of a turned part of the window in a frame.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct ClipId(u32);

/// The side of a line that is drawn on: where x · `x` + y · `y` is at least `least`.
#[derive(Clone, Copy, Debug)]
struct HalfPlane {
    x: f32,
    y: f32,
    least: f32,
}

/// A turned part of the window, within those around it.
#[derive(Clone, Debug)]
struct Turned {
    sides: [HalfPlane; 4],
    around: Option<ClipId>,
}

/// A corner of a quad that is being cut.
#[derive(Clone, Copy, Debug)]
struct Corner {
    place: [f32; 2],
    /// Texel and colour.
    rest: [f32; 6],
}

/// The turned parts of a frame, and the memory for cutting.
#[derive(Clone, Debug, Default)]
pub(super) struct Clips {
    turned: Vec<Turned>,
    polygon: Vec<Corner>,
    spare: Vec<Corner>,
}

impl Clip {
    /// The part that is also in a rectangle of whole pixels.
    pub(super) fn within(self, rect: DeviceRect) -> Self {
        let rect = self.rect.map_or(rect, |own| own.shared(rect));
        Self {
            rect: Some(rect),
            ..self
        }
    }

    /// Returns whether all of a quad is drawn.
    pub(super) fn holds(&self, quad: &[Vertex; 4]) -> bool {
        self.turned.is_none()
            && self.rect.is_none_or(|rect| {
                quad.iter().all(|corner| {
                    let [x, y] = corner.position;
                    (rect.left..=rect.right).contains(&x) && (rect.top..=rect.bottom).contains(&y)
                })
            })
    }
}

impl HalfPlane {
    /// The side of the line from `from` to `to` on which `inside` lies.
    fn beside(from: Point, to: Point, inside: Point) -> Self {
        let (x, y) = (from.y - to.y, to.x - from.x);
        let side = Self {
            x,
            y,
            least: x * from.x + y * from.y,
        };
        if side.depth([inside.x, inside.y]) >= 0.0 {
            return side;
        }
        Self {
            x: -side.x,
            y: -side.y,
            least: -side.least,
        }
    }

    /// Distance of a place from the border, inside above 0.
    fn depth(&self, [x, y]: [f32; 2]) -> f32 {
        x * self.x + y * self.y - self.least
    }
}

impl Corner {
    fn of(vertex: &Vertex) -> Self {
        let [u, v] = vertex.texel.map(f32::from);
        let [red, green, blue, alpha] = vertex.color.map(f32::from);
        Self {
            place: vertex.position,
            rest: [u, v, red, green, blue, alpha],
        }
    }

    fn between(&self, other: &Self, share: f32) -> Self {
        let mix = |from: f32, to: f32| from + (to - from) * share;
        Self {
            place: std::array::from_fn(|axis| mix(self.place[axis], other.place[axis])),
            rest: std::array::from_fn(|index| mix(self.rest[index], other.rest[index])),
        }
    }

    fn vertex(&self, like: &Vertex) -> Vertex {
        let [u, v, color @ ..] = self.rest;
        Vertex {
            position: self.place,
            texel: [u, v].map(|units| units.round() as u16),
            color: color.map(|channel| (channel + 0.5) as u8),
            shade: like.shade,
        }
    }
}

impl Clips {
    pub(super) fn clear(&mut self) {
        self.turned.clear();
    }

    /// Adds the inside of a quadrangle, within a part that is there.
    pub(super) fn add(&mut self, corners: [Point; 4], clip: Clip) -> Clip {
        let middle = Point::new(
            corners.iter().map(|corner| corner.x).sum::<f32>() * 0.25,
            corners.iter().map(|corner| corner.y).sum::<f32>() * 0.25,
        );
        let side =
            |index: usize| HalfPlane::beside(corners[index], corners[(index + 1) % 4], middle);
        self.turned.push(Turned {
            sides: std::array::from_fn(side),
            around: clip.turned,
        });
        Clip {
            turned: Some(ClipId(self.turned.len() as u32 - 1)),
            ..clip
        }
    }

    /// Cuts a convex quad (Sutherland and Hodgman, one side after another), and hands over
    /// what is left as quads, which may have corners in one place.
    pub(super) fn cut(
        &mut self,
        quad: &[Vertex; 4],
        clip: Clip,
        mut draw: impl FnMut([Vertex; 4]),
    ) {
        let Self {
            turned,
            polygon,
            spare,
        } = self;
        polygon.clear();
        polygon.extend(quad.iter().map(Corner::of));
        if let Some(rect) = clip.rect {
            for side in sides(rect) {
                cut_by(side, polygon, spare);
            }
        }
        let mut next = clip.turned;
        while let Some(ClipId(index)) = next {
            let part = &turned[index as usize];
            for side in part.sides {
                cut_by(side, polygon, spare);
            }
            next = part.around;
        }
        // From its first corner, two triangles at a time.
        let vertex = |index: usize| polygon[index].vertex(&quad[0]);
        let last = polygon.len().wrapping_sub(1);
        for second in (1..polygon.len().saturating_sub(1)).step_by(2) {
            let fourth = (second + 2).min(last);
            draw([
                vertex(0),
                vertex(second),
                vertex(second + 1),
                vertex(fourth),
            ]);
        }
    }
}

/// The sides of an upright rectangle.
fn sides(rect: DeviceRect) -> [HalfPlane; 4] {
    let side = |x: f32, y: f32, least: f32| HalfPlane { x, y, least };
    [
        side(1.0, 0.0, rect.left),
        side(-1.0, 0.0, -rect.right),
        side(0.0, 1.0, rect.top),
        side(0.0, -1.0, -rect.bottom),
    ]
}

fn cut_by(side: HalfPlane, polygon: &mut Vec<Corner>, spare: &mut Vec<Corner>) {
    spare.clear();
    for (index, corner) in polygon.iter().enumerate() {
        let next = &polygon[(index + 1) % polygon.len()];
        let (own, other) = (side.depth(corner.place), side.depth(next.place));
        if own >= 0.0 {
            spare.push(*corner);
        }
        if (own >= 0.0) != (other >= 0.0) {
            spare.push(corner.between(next, own / (own - other)));
        }
    }
    std::mem::swap(polygon, spare);
}
