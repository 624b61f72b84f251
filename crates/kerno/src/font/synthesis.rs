//! Styles that a family lacks, made from the outline of one that it has.

use super::{Face, FontError};
use crate::outline::Outline;

/// A style made from the outline, where the family has no face of it (CSS
/// `font-synthesis`). A drawn face is always better.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Synthesis {
    /// Thickness added to strokes, in em; 0 or more. The advance grows as much.
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

    /// The name of the synthetic style, for messages: “synthetic bold oblique”.
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

    /// The widening of an advance, in font units.
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
    /// # use kerno::Face;
    /// # use kerno::font::Synthesis;
    /// # let face = Face::from_file("fonts/Lato-Medium.ttf").unwrap();
    /// let bold = face.synthesized(Synthesis::BOLD)?;
    /// assert_eq!(bold.full_name(), "Lato Medium (synthetic bold)");
    /// # Ok::<(), kerno::font::FontError>(())
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
