//! Styles that a family lacks, made from the outline of one that it has.

use super::{Contour, Face, FontError, Outline, OutlinePoint};

/// A style made from the outline, where the family has no face of it (CSS
/// `font-synthesis`). A drawn face is always better.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Synthesis {
    /// How much thicker strokes get, in em; 0 or more. The advance grows as much.
    pub embolden: f32,
    /// The angle at which letters lean to the right, in degrees from upright, -45 to 45.
    pub slant: f32,
}

impl Synthesis {
    /// As it is.
    pub const NONE: Self = Self {
        embolden: 0.0,
        slant: 0.0,
    };
    /// A regular face made bold.
    pub const BOLD: Self = Self {
        embolden: 0.036,
        slant: 0.0,
    };
    /// An upright face made oblique.
    pub const OBLIQUE: Self = Self {
        embolden: 0.0,
        slant: 12.0,
    };

    pub(super) fn is_none(&self) -> bool {
        *self == Self::NONE
    }

    /// What it makes, for messages: “synthetic bold oblique”.
    pub(super) fn name(&self) -> &'static str {
        match (self.embolden > 0.0, self.slant != 0.0) {
            (true, true) => "synthetic bold oblique",
            (true, false) => "synthetic bold",
            _ => "synthetic oblique",
        }
    }

    fn check(&self) -> Result<(), FontError> {
        let refuse = |what, value, expected| {
            Err(FontError::Synthesis {
                what,
                value,
                expected,
            })
        };
        if !(0.0..=0.25).contains(&self.embolden) {
            return refuse("embolden", self.embolden, "0 to 0.25 em");
        }
        if !(-45.0..=45.0).contains(&self.slant) {
            return refuse("slant", self.slant, "-45 to 45 degrees");
        }
        Ok(())
    }

    /// How much wider an advance gets, in font units.
    pub(super) fn widening(&self, units_per_em: u16) -> f32 {
        self.embolden * f32::from(units_per_em)
    }

    /// Changes an outline in place.
    pub(super) fn apply(&self, units_per_em: u16, outline: &mut Outline) {
        let widening = self.widening(units_per_em);
        if widening > 0.0 {
            embolden(outline, widening);
        }
        let lean = self.slant.to_radians().tan();
        if lean != 0.0 {
            for point in &mut outline.contours.points {
                point.x += lean * point.y;
            }
        }
    }
}

impl Face {
    /// The face with a style made from its outlines: a face of its own, over the
    /// same bytes, whose [`Face::synthesis`] and [`Face::full_name`] say so.
    /// Replaces what was made before.
    ///
    /// ```no_run
    /// # use kerno::{Face, Synthesis};
    /// # let face = Face::from_file("fonts/Lato-Medium.ttf").unwrap();
    /// let bold = face.synthesized(Synthesis::BOLD)?;
    /// assert_eq!(bold.full_name(), "Lato Medium (synthetic bold)");
    /// # Ok::<(), kerno::FontError>(())
    /// ```
    ///
    /// # Errors
    /// [`FontError::Synthesis`] for numbers out of range.
    pub fn synthesized(&self, synthesis: Synthesis) -> Result<Self, FontError> {
        synthesis.check()?;
        self.reopened(None, synthesis)
    }
}

/// Moves every contour outwards by half of `growth`, holes inwards, and all of
/// it right by as much, so that the left edge stays.
fn embolden(outline: &mut Outline, growth: f32) {
    let reach = growth * 0.5;
    outline.outset(reach);
    for point in &mut outline.contours.points {
        point.x += reach;
    }
}

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

/// Twice the signed area inside a polygon.
fn doubled_area(points: &[OutlinePoint]) -> f32 {
    let following = points.iter().cycle().skip(1);
    points
        .iter()
        .zip(following)
        .map(|(a, b)| a.x * b.y - b.x * a.y)
        .sum()
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
    let (mut before, mut behind) = (points[count - 1], ahead[last]);
    for (point, ahead) in points.iter_mut().zip(ahead) {
        let here = *point;
        behind = direction(before, here).unwrap_or(behind);
        before = here;
        let sum = (behind.y + ahead.y, -behind.x - ahead.x);
        // Where both moved sides meet; not farther than twice the reach.
        let share = 1.0 + behind.x * ahead.x + behind.y * ahead.y;
        let scale = reach / share.max(0.5);
        *point = OutlinePoint::new(here.x + sum.0 * scale, here.y + sum.1 * scale);
    }
}
