//! Place, visible part and tint of a text.

use std::ops::Range;

use crate::base::{Anchor, Color, Point};

/// Place, visible part and tint of a text that is drawn.
///
/// ```
/// use kerno::{Anchor, Color, DrawText, Point};
/// let corner = Point::new(628.0, 12.0);
/// let faded = DrawText::at(corner, Anchor::TOP_RIGHT).tint(Color::WHITE.with_alpha(128));
/// let half_typed = DrawText::at(corner, Anchor::TOP_RIGHT).visible(5);
/// # let _ = (faded, half_typed);
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct DrawText {
    /// The place that the text is held on, in design pixels.
    pub at: Point,
    /// The point of its block that is there: [`Anchor::TOP_RIGHT`] hangs it by its top right
    /// corner, so it grows to the left.
    pub anchor: Anchor,
    /// The number of clusters up to which they are visible, counted from the start; the rest
    /// keep their places. Default: all.
    pub visible: usize,
    /// The first cluster that is visible: a page of a longer text begins there. Default: 0.
    pub first: usize,
    /// A colour that all others are multiplied by. Default: white, which changes nothing.
    pub tint: Color,
}

impl DrawText {
    /// All of a text, held on a place by its anchor.
    pub const fn at(at: Point, anchor: Anchor) -> Self {
        Self {
            at,
            anchor,
            visible: usize::MAX,
            first: 0,
            tint: Color::WHITE,
        }
    }

    /// Sets [`DrawText::visible`].
    #[must_use]
    pub const fn visible(mut self, clusters: usize) -> Self {
        self.visible = clusters;
        self
    }

    /// Sets [`DrawText::first`].
    #[must_use]
    pub const fn first(mut self, cluster: usize) -> Self {
        self.first = cluster;
        self
    }

    /// The clusters that are visible.
    pub(super) const fn shown(&self) -> Range<usize> {
        self.first..self.visible
    }

    /// Sets [`DrawText::tint`].
    #[must_use]
    pub const fn tint(mut self, tint: Color) -> Self {
        self.tint = tint;
        self
    }
}
