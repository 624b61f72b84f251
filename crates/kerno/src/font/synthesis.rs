//! Styles that a family lacks, made from the outline of one that it has.

use super::{Face, FontError, OutlinePoint, Segment};

/// A style made from the outline, where the family has no face of it (CSS
/// `font-synthesis`). A drawn face is always better.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Synthesis {
    /// How much thicker strokes get, in em; 0 or more. The advance grows as much.
    pub bolder: f32,
    /// How far letters lean to the right, in degrees from upright, -45 to 45.
    pub slant: f32,
}

impl Synthesis {
    /// As it is.
    pub const NONE: Self = Self {
        bolder: 0.0,
        slant: 0.0,
    };
    /// A regular face made bold.
    pub const BOLD: Self = Self {
        bolder: 0.036,
        slant: 0.0,
    };
    /// An upright face made oblique.
    pub const OBLIQUE: Self = Self {
        bolder: 0.0,
        slant: 12.0,
    };

    pub(super) fn is_none(&self) -> bool {
        *self == Self::NONE
    }

    /// What it makes, for messages: “synthetic bold oblique”.
    pub(super) fn name(&self) -> &'static str {
        match (self.bolder > 0.0, self.slant != 0.0) {
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
        if !(0.0..=0.25).contains(&self.bolder) {
            return refuse("bolder", self.bolder, "0 to 0.25 em");
        }
        if !(-45.0..=45.0).contains(&self.slant) {
            return refuse("slant", self.slant, "-45 to 45 degrees");
        }
        Ok(())
    }

    /// How much wider an advance gets, in font units.
    pub(super) fn growth(&self, units_per_em: u16) -> f32 {
        self.bolder * f32::from(units_per_em)
    }

    /// Changes an outline in place.
    pub(super) fn apply(&self, units_per_em: u16, segments: &mut [Segment]) {
        let growth = self.growth(units_per_em);
        if growth > 0.0 {
            embolden(segments, growth);
        }
        let lean = self.slant.to_radians().tan();
        if lean != 0.0 {
            each_point(segments, |point| point.x += lean * point.y);
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

/// Every point of some segments, control points too.
fn each_point(segments: &mut [Segment], mut change: impl FnMut(&mut OutlinePoint)) {
    for segment in segments {
        match segment {
            Segment::Start(a) | Segment::Line(a) => change(a),
            Segment::Quadratic(a, b) => {
                change(a);
                change(b);
            }
            Segment::Cubic(a, b, c) => {
                change(a);
                change(b);
                change(c);
            }
        }
    }
}

/// Moves every contour outwards by half of `growth`, holes inwards, and all of
/// it right by as much, so that the left edge stays.
fn embolden(segments: &mut [Segment], growth: f32) {
    // Outer contours turn left in PostScript outlines, right in TrueType ones;
    // what is filled tells which.
    let side = if filled_area(segments) > 0.0 {
        1.0
    } else {
        -1.0
    };
    let reach = growth * 0.5;
    for contour in segments.chunk_by_mut(|_, next| !matches!(next, Segment::Start(_))) {
        let mut points = Vec::new();
        each_point(contour, |point| points.push(*point));
        let moved = offsets(&points, side * reach);
        let mut next = points.iter().zip(moved);
        each_point(contour, |point| {
            if let Some((old, offset)) = next.next() {
                *point = OutlinePoint::new(old.x + offset.x + reach, old.y + offset.y);
            }
        });
    }
}

/// Twice the signed area inside the polygons of all points.
fn filled_area(segments: &mut [Segment]) -> f32 {
    let mut area = 0.0;
    for contour in segments.chunk_by_mut(|_, next| !matches!(next, Segment::Start(_))) {
        let mut points = Vec::new();
        each_point(contour, |point| points.push(*point));
        let following = points.iter().cycle().skip(1);
        area += points
            .iter()
            .zip(following)
            .map(|(a, b)| a.x * b.y - b.x * a.y)
            .sum::<f32>();
    }
    area
}

/// How far each corner of a closed polygon moves when all its sides move to their
/// right by `reach`.
fn offsets(points: &[OutlinePoint], reach: f32) -> Vec<OutlinePoint> {
    let count = points.len();
    // The direction to the first other point, forwards or backwards.
    let direction = |from: usize, step: usize| {
        let start = points[from];
        (1..count)
            .map(|times| points[(from + step * times) % count])
            .map(|other| (other.x - start.x, other.y - start.y))
            .map(|(dx, dy)| (dx, dy, dx.hypot(dy)))
            .find(|(.., length)| *length > 0.0)
            .map(|(dx, dy, length)| (dx / length, dy / length))
    };
    let corner = |index: usize| {
        let (Some(back), Some(ahead)) = (direction(index, count - 1), direction(index, 1)) else {
            return OutlinePoint::default();
        };
        let (before, after) = ((-back.1, back.0), (ahead.1, -ahead.0));
        let sum = (before.0 + after.0, before.1 + after.1);
        // Where both moved sides meet; not farther than twice the reach.
        let share = 1.0 + before.0 * after.0 + before.1 * after.1;
        let scale = reach / share.max(0.5);
        OutlinePoint::new(sum.0 * scale, sum.1 * scale)
    };
    (0..count).map(corner).collect()
}
