//! The laid-out text and its measures.

use std::ops::Range;

use super::{Style, TextError, compose};
use crate::base::{Anchor, Rect, Size};
use crate::font::GlyphId;

/// A piece of text in one style.
#[derive(Clone, Copy, Debug)]
pub struct Span<'a> {
    /// The text.
    pub text: &'a str,
    /// How it looks.
    pub style: &'a Style,
}

impl<'a> Span<'a> {
    /// A piece of text in one style.
    pub fn new(text: &'a str, style: &'a Style) -> Self {
        Self { text, style }
    }
}

/// How the lines of a block stand to each other.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct LayoutOptions {
    /// Where lines shorter than the block go.
    pub align: TextAlign,
    /// The block's width in design pixels, 0 or more; by default that of its
    /// longest line.
    pub width: Option<f32>,
}

/// Where lines shorter than the block go (CSS `text-align`).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum TextAlign {
    /// To the side where reading starts.
    #[default]
    Start,
    /// To the middle.
    Center,
    /// To the side where reading ends.
    End,
}

impl TextAlign {
    /// The share of a line's free space that goes before it.
    pub(super) fn share(self) -> f32 {
        match self {
            Self::Start => 0.0,
            Self::Center => 0.5,
            Self::End => 1.0,
        }
    }
}

/// A glyph with its place, in design pixels from the block's top left corner.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PlacedGlyph {
    /// Which glyph of its span's face.
    pub glyph: GlyphId,
    /// Which cluster it belongs to.
    pub cluster: u32,
    /// Which span, and with it which style.
    pub span: u32,
    /// Pen position, rightwards.
    pub x: f32,
    /// Baseline, downwards.
    pub y: f32,
    /// How far the face says the pen moves; without kerning and spacing.
    pub advance: f32,
    /// What kerning adds before the next glyph; mostly negative or 0.
    pub kerning: f32,
}

/// A grapheme cluster (UAX #29): what a reader takes for one character.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Cluster {
    /// Where its bytes start in the text.
    pub start: u32,
    /// Where its bytes end.
    pub end: u32,
    /// Which line it is on; a line break is on the line that it ends.
    pub line: u32,
    /// Pen position at its start, rightwards from the block's left edge.
    pub x: f32,
    /// How far it moves the pen; 0 for a line break.
    pub advance: f32,
}

/// One line of a block, in design pixels from the block's top left corner.
#[derive(Clone, Debug, PartialEq)]
pub struct Line {
    /// Its clusters, with the break that ends it.
    pub clusters: Range<usize>,
    /// Its glyphs.
    pub glyphs: Range<usize>,
    /// Left edge.
    pub x: f32,
    /// Top edge.
    pub top: f32,
    /// Advance width.
    pub width: f32,
    /// Height, leading included.
    pub height: f32,
    /// Where the letters stand, downwards from the block's top.
    pub baseline: f32,
}

/// A text with the place of every glyph and every measure of it. Design
/// pixels, from the top left corner of the block.
///
/// The block is the box of advance widths and line heights; it does not depend
/// on which letters there are beyond their advances, so text that changes
/// keeps its baseline. The ink is the box of what is really drawn.
#[derive(Clone, Debug)]
pub struct TextLayout {
    pub(super) text: String,
    pub(super) styles: Vec<Style>,
    pub(super) glyphs: Vec<PlacedGlyph>,
    pub(super) clusters: Vec<Cluster>,
    pub(super) lines: Vec<Line>,
    pub(super) size: Size,
    pub(super) ink: Rect,
    /// Byte positions of clusters that a face has no glyph for.
    pub(super) missing: Vec<u32>,
    pub(super) resized: Vec<Resized>,
}

/// A span that is not set in the size of its style: a bitmap strike has whole
/// multiples of its pixels only.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Resized {
    /// Which span.
    pub span: u32,
    /// The size of its style, in design pixels per em.
    pub wanted: f32,
    /// The size it is set in.
    pub given: f32,
}

impl TextLayout {
    /// Lays out a text in one style; lines break at line breaks only.
    ///
    /// # Errors
    /// [`TextError::OutOfRange`] for a size that is not above 0 and finite or
    /// another number out of its range; [`TextError::Font`] for a damaged
    /// glyph; [`TextError::TooLong`] from 4 GiB of text.
    pub fn new(text: &str, style: &Style) -> Result<Self, TextError> {
        Self::with_options(&[Span::new(text, style)], &LayoutOptions::default())
    }

    /// Lays out spans of several styles as one text.
    ///
    /// # Errors
    /// As [`TextLayout::new`].
    pub fn with_options(spans: &[Span<'_>], options: &LayoutOptions) -> Result<Self, TextError> {
        compose::compose(spans, options)
    }

    /// The whole text.
    pub fn text(&self) -> &str {
        &self.text
    }

    /// The style of a span, by [`PlacedGlyph::span`].
    ///
    /// # Panics
    /// If there is no such span.
    pub fn style(&self, span: u32) -> &Style {
        &self.styles[span as usize]
    }

    /// The styles of all spans, in order.
    pub fn styles(&self) -> &[Style] {
        &self.styles
    }

    /// Every glyph, in reading order.
    pub fn glyphs(&self) -> &[PlacedGlyph] {
        &self.glyphs
    }

    /// Every grapheme cluster, in reading order.
    pub fn clusters(&self) -> &[Cluster] {
        &self.clusters
    }

    /// Every line, from the top.
    pub fn lines(&self) -> &[Line] {
        &self.lines
    }

    /// The block: its width (of the longest line, or as asked for) and the
    /// height of all lines.
    pub fn size(&self) -> Size {
        self.size
    }

    /// The box of what is drawn, from the block's top left corner. It may reach
    /// out of the block, and is empty where nothing has ink.
    pub fn ink(&self) -> Rect {
        self.ink
    }

    /// Byte positions of the clusters that show `.notdef`, because the face has
    /// no glyph for them.
    pub fn missing(&self) -> &[u32] {
        &self.missing
    }

    /// The spans of bitmap faces whose size is no whole multiple of the strike's:
    /// they are set in the nearest one, which [`TextLayout::style`] has.
    pub fn resized(&self) -> &[Resized] {
        &self.resized
    }

    /// From the block's top to the first baseline.
    pub fn first_baseline(&self) -> f32 {
        self.lines.first().map_or(0.0, |line| line.baseline)
    }

    /// The anchor that holds the text by its first baseline, at `x` of the
    /// block's width.
    pub fn baseline_anchor(&self, x: f32) -> Anchor {
        if self.size.height <= 0.0 {
            return Anchor::new(x, 0.0);
        }
        Anchor::new(x, self.first_baseline() / self.size.height)
    }

    /// The anchor that holds the text by a place of its ink rather than of its
    /// block: [`Anchor::CENTER`] centres a digit in a badge to the eye. Where
    /// there is no ink, that of the block.
    pub fn ink_anchor(&self, anchor: Anchor) -> Anchor {
        if self.ink.is_empty() || self.size.width <= 0.0 || self.size.height <= 0.0 {
            return anchor;
        }
        let place = self.ink.point(anchor);
        Anchor::new(place.x / self.size.width, place.y / self.size.height)
    }
}
