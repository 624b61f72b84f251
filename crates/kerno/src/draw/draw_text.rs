//! Place, visible part and tint of a text.

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
    /// The number of clusters that are visible, from the first on; the rest keep their
    /// places. Default: all.
    pub visible: usize,
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
            tint: Color::WHITE,
        }
    }

    /// Sets [`DrawText::visible`].
    #[must_use]
    pub const fn visible(mut self, clusters: usize) -> Self {
        self.visible = clusters;
        self
    }

    /// Sets [`DrawText::tint`].
    #[must_use]
    pub const fn tint(mut self, tint: Color) -> Self {
        self.tint = tint;
        self
    }
}
