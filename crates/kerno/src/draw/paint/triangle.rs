//! Triangles: which pixels they hold, and what lies between their corners.

use super::super::{TEXEL_UNITS, Vertex};
use super::Target;

/// A triangle, its corners in clockwise order on the window.
pub(super) struct Triangle {
    corners: [Vertex; 3],
    edges: [Edge; 3],
    /// Twice its area.
    area: f64,
}

/// Values of a triangle at the centre of a pixel.
pub(super) struct Point {
    /// In texels of the page.
    pub(super) texel: [f32; 2],
    /// Premultiplied.
    pub(super) color: [u8; 4],
}

/// An edge, with the inside on its right.
#[derive(Clone, Copy)]
struct Edge {
    from: [f64; 2],
    to: [f64; 2],
    /// True if what is on it counts as inside: a left or a top edge.
    is_kept: bool,
}

impl Edge {
    fn new(from: [f64; 2], to: [f64; 2]) -> Self {
        let (across, down) = (to[0] - from[0], to[1] - from[1]);
        Self {
            from,
            to,
            is_kept: down < 0.0 || (down == 0.0 && across > 0.0),
        }
    }

    fn depth(&self, at: [f64; 2]) -> f64 {
        twice_area(self.from, self.to, at)
    }

    fn holds(&self, at: [f64; 2]) -> bool {
        let depth = self.depth(at);
        depth > 0.0 || (depth == 0.0 && self.is_kept)
    }
}

impl Triangle {
    /// The triangle of three corners; none where it has no area.
    pub(super) fn new([a, b, c]: [Vertex; 3]) -> Option<Self> {
        let area = twice_area(place(&a), place(&b), place(&c));
        let corners = if area < 0.0 { [a, c, b] } else { [a, b, c] };
        let [first, second, third] = corners.each_ref().map(place);
        (area != 0.0).then(|| Self {
            corners,
            // By the corner that each is opposite to.
            edges: [
                Edge::new(second, third),
                Edge::new(third, first),
                Edge::new(first, second),
            ],
            area: area.abs(),
        })
    }

    /// Calls `draw` for every pixel whose centre is in the triangle; those on
    /// its edge are in it where the edge is a left or a top one, so that triangles side by
    /// side share none.
    pub(super) fn each(&self, target: &mut Target<'_>, mut draw: impl FnMut(&mut [u8; 4], Point)) {
        let places = self.corners.each_ref().map(place);
        let bounds = |axis: usize, all: std::ops::Range<usize>| {
            let own = places.map(|place| place[axis]);
            let low = own.iter().fold(f64::INFINITY, |a, b| a.min(*b));
            let high = own.iter().fold(f64::NEG_INFINITY, |a, b| a.max(*b));
            let pixel = |at: f64| (at.max(0.0) as usize).clamp(all.start, all.end);
            pixel((low - 0.5).floor())..pixel((high + 0.5).ceil())
        };
        let (columns, rows) = (bounds(0, 0..target.width()), bounds(1, target.rows()));
        let first = self.corners[0].color;
        let plain = self.corners.iter().all(|corner| corner.color == first);
        let plain = plain.then_some(first);
        for y in rows {
            let columns = self.columns(y, columns.clone());
            let start = columns.start;
            for (index, pixel) in target.row(y, columns).iter_mut().enumerate() {
                let center = [(start + index) as f64 + 0.5, y as f64 + 0.5];
                let weights = self
                    .edges
                    .map(|edge| (edge.depth(center) / self.area) as f32);
                draw(pixel, self.at(weights, plain));
            }
        }
    }

    /// The columns of a row whose centres are inside.
    fn columns(&self, y: usize, all: std::ops::Range<usize>) -> std::ops::Range<usize> {
        let down = y as f64 + 0.5;
        let (mut start, mut end) = (all.start, all.end);
        for edge in &self.edges {
            let (from, to) = (edge.from, edge.to);
            let height = to[1] - from[1];
            if height == 0.0 {
                if !edge.holds([0.0, down]) {
                    return start..start;
                }
                continue;
            }
            // The edge's crossing of the row, to within a pixel: then it is asked itself.
            let x = from[0] + (down - from[1]) / height * (to[0] - from[0]);
            let near = (x - 0.5).clamp(-1.0, 1e9) as i64;
            let holds = |column: i64| edge.holds([column as f64 + 0.5, down]);
            let column = |at: i64| at.clamp(all.start as i64, all.end as i64) as usize;
            let inside = (near - 2..=near + 3).find(|column| holds(*column) == (height < 0.0));
            let found = inside.unwrap_or(near + 3);
            if height < 0.0 {
                start = start.max(column(found));
            } else {
                end = end.min(column(found));
            }
        }
        start..end.max(start)
    }

    /// Its values where its corners have some weights.
    fn at(&self, weights: [f32; 3], plain: Option<[u8; 4]>) -> Point {
        let mixed = |value: &dyn Fn(&Vertex) -> f32| {
            let weighed = self.corners.iter().zip(weights);
            weighed
                .map(|(corner, weight)| value(corner) * weight)
                .sum::<f32>()
        };
        let units = f32::from(TEXEL_UNITS);
        Point {
            texel: std::array::from_fn(|axis| {
                mixed(&|corner| f32::from(corner.texel[axis])) / units
            }),
            color: plain.unwrap_or_else(|| {
                std::array::from_fn(|channel| {
                    (mixed(&|corner| f32::from(corner.color[channel])) + 0.5) as u8
                })
            }),
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
