//! Sprites between letters.

use std::ops::Range;

use super::{Style, TextLayout};
use crate::base::{Rect, Size};

/// The character that stands for a sprite in a text: U+FFFC OBJECT REPLACEMENT CHARACTER.
pub(crate) const SIGN: &str = "\u{fffc}";

/// A sprite that stands in a line of text as a letter does: it takes its room, wraps,
/// and appears in its turn.
///
/// ```no_run
/// use kerno::{Face, Size, Style, TextLayout};
/// use kerno::text::{InlineSprite, LayoutOptions, Span};
/// # let face = Face::from_file("fonts/Lato-Medium.ttf").unwrap();
/// let style = Style::new(&face, 18.0);
/// // Two thirds of the size of the letters, in the middle of them.
/// let oar = InlineSprite::new("oar", Size::new(32.0, 32.0), 12.0);
/// let spans = [Span::new("Take the ", &style), Span::sprite(&oar, &style)];
/// let layout = TextLayout::with_options(&spans, &LayoutOptions::default())?;
/// # Ok::<(), kerno::text::TextError>(())
/// ```
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct InlineSprite {
    /// Its name in the atlas that the text is drawn from.
    pub name: String,
    /// The size that it was drawn in, in design pixels: see
    /// [`Atlas::sprite_size`](crate::Atlas::sprite_size). Only the ratio counts.
    pub intrinsic: Size,
    /// Height in the text, in design pixels; above 0, at most
    /// [`Style::LARGEST`]. It is never stretched.
    pub height: f32,
    /// Vertical alignment on the line.
    pub align: SpriteAlign,
}

crate::base::setters! {
    InlineSprite {
        align: SpriteAlign,
    }
}

/// Vertical alignment of a sprite on its line (CSS `vertical-align`). The baseline shift of its
/// style raises it from there.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum SpriteAlign {
    /// On the baseline, as letters do.
    Baseline,
    /// Its middle in the middle of capital letters: it looks centred beside text and
    /// numbers.
    #[default]
    Capitals,
    /// Its middle half of the height of small letters above the baseline.
    Middle,
    /// Its top edge at the ascender.
    Top,
    /// Its bottom edge at the descender.
    Bottom,
}

impl InlineSprite {
    /// A sprite by its name in the atlas, the size it was drawn in and the height that
    /// it is to have, both in design pixels.
    pub fn new(name: &str, intrinsic: Size, height: f32) -> Self {
        Self {
            name: name.to_owned(),
            intrinsic,
            height,
            align: SpriteAlign::default(),
        }
    }

    pub(super) fn width(&self) -> f32 {
        self.intrinsic.width * (self.height / self.intrinsic.height)
    }

    /// Returns whether there can be such a sprite.
    pub(super) fn is_sound(&self) -> bool {
        let is_length = |length: f32| length > 0.0 && length <= Style::LARGEST;
        is_length(self.intrinsic.width)
            && is_length(self.intrinsic.height)
            && is_length(self.height)
            && is_length(self.width())
    }

    /// From the baseline up to its top edge and down to its bottom edge.
    pub(super) fn extent(&self, style: &Style) -> (f32, f32) {
        let metrics = style.face.metrics();
        let unit = style.size / f32::from(metrics.units_per_em);
        let above = match self.align {
            SpriteAlign::Baseline => self.height,
            SpriteAlign::Capitals => (style.capital_height() + self.height) * 0.5,
            SpriteAlign::Middle => {
                let stated = metrics.x_height.map(|height| f32::from(height) * unit);
                (stated.unwrap_or(0.5 * style.size) + self.height) * 0.5
            }
            SpriteAlign::Top => f32::from(metrics.ascender) * unit,
            SpriteAlign::Bottom => f32::from(metrics.descender) * unit + self.height,
        };
        let above = above + style.baseline_shift;
        (above, self.height - above)
    }
}

impl TextLayout {
    /// The sprites among some clusters and where they are, in design
    /// pixels from the block's top left corner. Those that were left out are not among
    /// them.
    pub fn sprites(&self, shown: Range<usize>) -> impl Iterator<Item = (&InlineSprite, Rect)> {
        let sprites = self.placed_sprites(shown);
        sprites.map(|(_, sprite, at)| (sprite, at))
    }

    /// As [`TextLayout::sprites`], each with its cluster.
    pub(crate) fn placed_sprites(
        &self,
        shown: Range<usize>,
    ) -> impl Iterator<Item = (usize, &InlineSprite, Rect)> {
        let has_some = self.spans.iter().any(|span| span.sprite.is_some());
        let spans = has_some.then(|| self.span_clusters());
        let spans = spans.into_iter().flatten();
        let spans = spans.filter(move |(_, clusters)| shown.contains(&clusters.start));
        spans.filter_map(|(span, clusters)| {
            let sprite = self.sprite_of(span)?;
            let cluster = self.clusters[clusters.start];
            let is_shown = self.cut.is_none_or(|cut| cluster.start < cut) || cluster.advance > 0.0;
            let line = self.lines.get(cluster.line as usize).filter(|_| is_shown)?;
            let (above, _) = sprite.extent(self.style(span));
            let top = line.baseline - above;
            Some((
                clusters.start,
                sprite,
                Rect::new(cluster.x, top, sprite.width(), sprite.height),
            ))
        })
    }
}
