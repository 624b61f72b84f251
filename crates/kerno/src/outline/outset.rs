//! Shapes that grow on all sides.

use super::stroke::doubled_area;
use super::{Contour, Outline, OutlinePoint};

impl Outline {
    /// Moves every contour outwards by `reach`, in the outline's units, and holes
    /// inwards, so that the shape is larger by as much on all sides. Corners stay
    /// corners; those that would reach farther than twice as far are cut short.
    pub fn outset(&mut self, reach: f32) {
        self.spell_out_joins();
        let Self {
            contours,
            directions,
            ..
        } = self;
        // Outer contours turn left in PostScript outlines, right in TrueType ones;
        // what is filled tells which.
        let mut area = 0.0;
        contours.each_polygon(|points| area += doubled_area(points));
        let side = if area > 0.0 { reach } else { -reach };
        contours.each_polygon(|points| move_sides(points, side, directions));
    }

    /// Makes points of those that are implied between two control points: half-way
    /// between them once they are moved is not where these go.
    fn spell_out_joins(&mut self) {
        self.spare.clear();
        for segment in self.contours.each().flat_map(Contour::segments) {
            self.spare.draw(segment);
        }
        std::mem::swap(&mut self.contours, &mut self.spare);
    }
}

/// The direction from one point to another, with length 1; `None` where they are
/// the same.
fn direction(from: OutlinePoint, to: OutlinePoint) -> Option<OutlinePoint> {
    let (dx, dy) = (to.x - from.x, to.y - from.y);
    let length = dx.hypot(dy);
    (length > 0.0).then(|| OutlinePoint::new(dx / length, dy / length))
}

/// Moves all sides of a closed polygon to their right by `reach`, and its corners
/// to where they meet. `ahead` is working memory: the direction from each corner
/// to the next one that lies elsewhere.
fn move_sides(points: &mut [OutlinePoint], reach: f32, ahead: &mut Vec<OutlinePoint>) {
    let count = points.len();
    ahead.clear();
    ahead.resize(count, OutlinePoint::default());
    // Twice round: the first time finds what lies ahead of the last corners.
    let mut found = None;
    for index in (0..count).rev().chain((0..count).rev()) {
        found = direction(points[index], points[(index + 1) % count]).or(found);
        ahead[index] = found.unwrap_or_default();
    }
    let first = points[0];
    let Some(last) = points.iter().rposition(|point| *point != first) else {
        return; // All corners in one place: no sides.
    };
    let (mut before, mut after) = (points[count - 1], ahead[last]);
    for (point, ahead) in points.iter_mut().zip(ahead) {
        let here = *point;
        after = direction(before, here).unwrap_or(after);
        before = here;
        let sum = (after.y + ahead.y, -after.x - ahead.x);
        // The point where both moved sides meet; not farther than twice the reach.
        let share = 1.0 + after.x * ahead.x + after.y * ahead.y;
        let scale = reach / share.max(0.5);
        *point = OutlinePoint::new(here.x + sum.0 * scale, here.y + sum.1 * scale);
    }
}
