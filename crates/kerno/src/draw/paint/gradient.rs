//! The colours of a quad's corners, mixed.

use super::super::Vertex;

/// The colours of a quad's corners.
pub(super) struct Gradient {
    corners: [[f32; 4]; 4],
}

/// The colours along a row.
pub(super) enum RowColors {
    /// One throughout.
    Plain([u8; 4]),
    /// From the start of the quad to its end.
    Mixed([f32; 4], [f32; 4]),
}

impl Gradient {
    pub(super) fn new(corners: &[Vertex; 4]) -> Self {
        Self {
            corners: corners.map(|corner| corner.color.map(f32::from)),
        }
    }

    /// The one colour of all corners.
    pub(super) fn plain(&self) -> Option<[u8; 4]> {
        let [first, others @ ..] = &self.corners;
        let is_plain = others.iter().all(|corner| corner == first);
        is_plain.then(|| first.map(|channel| channel as u8))
    }

    /// The colours at a share of 0 to 1 of the way down.
    pub(super) fn row(&self, down: f32) -> RowColors {
        let [top_left, top_right, bottom_right, bottom_left] = self.corners;
        let mix = |top: [f32; 4], bottom: [f32; 4]| -> [f32; 4] {
            std::array::from_fn(|channel| top[channel] + (bottom[channel] - top[channel]) * down)
        };
        let (left, right) = (mix(top_left, bottom_left), mix(top_right, bottom_right));
        if left == right {
            return RowColors::Plain(left.map(|channel| (channel + 0.5) as u8));
        }
        RowColors::Mixed(left, right)
    }
}
