//! Triangles: which pixels they hold, and what lies between their corners.

use super::{TEXEL_UNITS, Vertex};
use crate::base::DeviceSize;

/// A triangle, its corners in clockwise order on the window.
pub(super) struct Triangle {
    corners: [Vertex; 3],
    /// Twice its area.
    area: f64,
}

/// What a triangle has at the centre of a pixel.
pub(super) struct Point {
    /// In texels of the page.
    pub(super) texel: [f32; 2],
    /// Premultiplied.
    pub(super) color: [u8; 4],
}

impl Triangle {
    /// The triangle of three corners; none where it has no area.
    pub(super) fn new([a, b, c]: [Vertex; 3]) -> Option<Self> {
        let area = twice_area(place(&a), place(&b), place(&c));
        let corners = if area < 0.0 { [a, c, b] } else { [a, b, c] };
        (area != 0.0).then(|| Self {
            corners,
            area: area.abs(),
        })
    }

    /// Calls `draw` for every pixel of a window whose centre is in the triangle; those on
    /// its edge are in it where the edge is a left or a top one, so that triangles side by
    /// side share none.
    pub(super) fn each(&self, size: DeviceSize, mut draw: impl FnMut(usize, usize, Point)) {
        let places = self.corners.each_ref().map(place);
        let [columns, rows] = [(0, size.width), (1, size.height)].map(|(axis, most)| {
            let own = places.map(|place| place[axis]);
            let low = own.iter().fold(f64::INFINITY, |a, b| a.min(*b));
            let high = own.iter().fold(f64::NEG_INFINITY, |a, b| a.max(*b));
            let pixel = |at: f64| (at.max(0.0) as usize).min(most as usize);
            pixel((low - 0.5).floor())..pixel((high + 0.5).ceil())
        });
        for y in rows {
            for x in columns.clone() {
                let center = [x as f64 + 0.5, y as f64 + 0.5];
                // By the corner that each edge is opposite to.
                let [a, b, c] = places;
                let edges = [(b, c), (c, a), (a, b)];
                let depths = edges.map(|(from, to)| twice_area(from, to, center));
                let is_inside = edges.iter().zip(depths).all(|((from, to), depth)| {
                    let (across, down) = (to[0] - from[0], to[1] - from[1]);
                    let is_kept = down < 0.0 || (down == 0.0 && across > 0.0);
                    depth > 0.0 || (depth == 0.0 && is_kept)
                });
                if is_inside {
                    draw(
                        x,
                        y,
                        self.at(depths.map(|depth| (depth / self.area) as f32)),
                    );
                }
            }
        }
    }

    /// What it has where its corners have some weights.
    fn at(&self, weights: [f32; 3]) -> Point {
        let mixed = |value: &dyn Fn(&Vertex) -> f32| {
            let weighed = self.corners.iter().zip(weights);
            weighed
                .map(|(corner, weight)| value(corner) * weight)
                .sum::<f32>()
        };
        let units = f32::from(TEXEL_UNITS);
        let first = self.corners[0].color;
        let is_plain = self.corners.iter().all(|corner| corner.color == first);
        Point {
            texel: std::array::from_fn(|axis| {
                mixed(&|corner| f32::from(corner.texel[axis])) / units
            }),
            color: match is_plain {
                true => first,
                false => std::array::from_fn(|channel| {
                    (mixed(&|corner| f32::from(corner.color[channel])) + 0.5) as u8
                }),
            },
        }
    }
}

fn place(corner: &Vertex) -> [f64; 2] {
    corner.position.map(f64::from)
}

/// Twice the area of a triangle, above 0 where its corners go clockwise, y down.
fn twice_area(a: [f64; 2], b: [f64; 2], c: [f64; 2]) -> f64 {
    (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])
}
