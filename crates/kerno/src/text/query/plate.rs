//! Plates: what lies behind text.

use std::ops::Range;

use crate::base::{Color, Insets, Rect};
use crate::text::TextLayout;

/// The ground behind a text or a part of one.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Plate {
    /// Its colour.
    pub color: Color,
    /// The distance it reaches beyond the text, in design pixels; may be negative. Behind a
    /// part of a text, what it reaches to the sides takes room, so that it covers no
    /// neighbours; what it reaches up and down takes none (CSS inline `padding`).
    pub padding: Insets,
}

crate::base::setters! {
    Plate {
        padding: Insets,
    }
}

impl Plate {
    /// A plate with the same padding on all sides.
    pub const fn new(color: Color, padding: f32) -> Self {
        Self {
            color,
            padding: Insets::all(padding),
        }
    }

    /// All lengths times a factor.
    pub(in crate::text) fn scaled(self, factor: f32) -> Self {
        Self {
            padding: self.padding.scaled(factor),
            ..self
        }
    }

    fn around(&self, text: Rect) -> Rect {
        text.inset(self.padding.scaled(-1.0))
    }
}

impl TextLayout {
    /// The plates behind some clusters in the order in which they are
    /// painted: that of the whole text, then those of its parts, one for each part and
    /// line. In design pixels from the block's top left corner, which the first reaches
    /// out of by its padding.
    pub fn plates(&self, shown: Range<usize>) -> impl Iterator<Item = (Rect, Color)> {
        let block = Rect::new(0.0, 0.0, self.size.width, self.size.height);
        let whole = self.options.plate.iter();
        let whole = whole.map(move |plate| (plate.around(block), plate.color));
        let has_some = self.styles.iter().any(|style| style.plate.is_some());
        let lines = self.lines_with(&shown).filter(move |_| has_some);
        whole.chain(lines.flat_map(move |line| self.plates_on(line, shown.clone())))
    }

    /// The plates of spans on a line, one for each that is there.
    fn plates_on(&self, line: usize, shown: Range<usize>) -> impl Iterator<Item = (Rect, Color)> {
        let own = &self.lines[line];
        let clusters = own.clusters.clone();
        self.span_clusters().filter_map(move |(span, all)| {
            let style = self.style(span);
            let plate = style.plate.as_ref()?;
            let within = all.start.max(clusters.start).max(shown.start)
                ..all.end.min(clusters.end).min(shown.end);
            let (mut left, mut right) = (f32::INFINITY, f32::NEG_INFINITY);
            for cluster in self.clusters.get(within)? {
                // Spaces that hang at the end of a line have none.
                let (start, end) = (cluster.x, cluster.x + cluster.advance);
                left = left.min(start.max(own.x));
                right = right.max(end.min(own.x + own.width));
            }
            let (above, below) = match self.sprite_of(span) {
                Some(sprite) => sprite.extent(style),
                None => style.content_extent(),
            };
            let text = Rect::new(left, own.baseline - above, right - left, above + below);
            (left < right).then(|| (plate.around(text), plate.color))
        })
    }
}
