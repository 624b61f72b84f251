//! What is made of the shape of a glyph.

use std::fmt;

use super::Edges;

/// Treatment of the shape of a glyph: together with its size it tells one strike
/// of a face from another.
///
/// ```
/// use kerno::base::{Edges, Treatment};
/// let outline = Treatment::from(Edges::Smooth).with_outset(1.5);
/// assert_eq!(outline.outset_px(), 1.5);
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub struct Treatment {
    /// Smooth or hard edges.
    pub edges: Edges,
    /// Outset of the shape on all sides, in 1/64 device pixel: 0 for the letter itself,
    /// more for the outline that shows around it.
    pub outset: u16,
}

impl Treatment {
    /// The largest outset that a style or a manifest may ask for, in design pixels.
    pub const LARGEST_OUTSET: f32 = 64.0;

    /// The same treatment with an outset in device pixels: the nearest 1/64, from 0 to
    /// 1023.
    #[must_use]
    pub fn with_outset(self, pixels: f32) -> Self {
        Self {
            outset: (pixels * 64.0).round() as u16,
            ..self
        }
    }

    /// The outset in device pixels.
    pub fn outset_px(&self) -> f32 {
        f32::from(self.outset) / 64.0
    }
}

impl fmt::Display for Treatment {
    /// In words, for reports: “smooth, outset by 1.5 px”.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self.edges {
            Edges::Smooth => "smooth",
            Edges::Hard => "hard",
        })?;
        if self.outset > 0 {
            write!(f, ", outset by {} px", self.outset_px())?;
        }
        Ok(())
    }
}

impl From<Edges> for Treatment {
    /// The letter itself.
    fn from(edges: Edges) -> Self {
        Self { edges, outset: 0 }
    }
}
