//! The laid-out text and its measures.

use std::ops::Range;

use super::compose::{self, rules};
use super::measure::line::Measure;
use super::measure::lines::Break;
use super::place::segments::Reshaped;
use super::prepared::KeptPrepared;
use super::shape::unshaped_script;
use super::span_record::SpanRecord;
use super::sprite::SIGN;
use super::{InlineSprite, LayoutContext, LayoutOptions, Mark, Overflow, Style, TextError, Wrap};
use crate::base::{Anchor, Rect, Size, Stamp};
use crate::font::{Face, GlyphId};

/// A part of a text in one style: letters, or a sprite between them.
#[derive(Clone, Copy, Debug)]
#[non_exhaustive]
pub struct Span<'a> {
    /// Letters or a sprite.
    pub content: SpanContent<'a>,
    /// The look of the letters. For a sprite it says how high the line is, how far the
    /// sprite is raised, and what plate is behind it.
    pub style: &'a Style,
}

/// The content of a [`Span`].
#[derive(Clone, Copy, Debug)]
#[non_exhaustive]
pub enum SpanContent<'a> {
    /// Letters.
    Text(&'a str),
    /// A sprite, which stands in the text as U+FFFC.
    Sprite(&'a InlineSprite),
}

impl<'a> Span<'a> {
    /// A piece of text in one style.
    pub fn new(text: &'a str, style: &'a Style) -> Self {
        Self {
            content: SpanContent::Text(text),
            style,
        }
    }

    /// A sprite in a line of text in one style.
    pub fn sprite(sprite: &'a InlineSprite, style: &'a Style) -> Self {
        Self {
            content: SpanContent::Sprite(sprite),
            style,
        }
    }

    /// Its part of the text.
    pub fn text(&self) -> &'a str {
        match self.content {
            SpanContent::Text(text) => text,
            SpanContent::Sprite(_) => SIGN,
        }
    }

    /// The sprite that it is, if it is one.
    pub(super) fn own_sprite(&self) -> Option<&'a InlineSprite> {
        match self.content {
            SpanContent::Sprite(sprite) => Some(sprite),
            SpanContent::Text(_) => None,
        }
    }
}

/// A glyph with its place, in design pixels from the block's top left corner.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct PlacedGlyph {
    /// The glyph, of the face of its span.
    pub glyph: GlyphId,
    /// Index of the cluster that it belongs to.
    pub cluster: u32,
    /// Index of the span, and with it of the style.
    pub span: u32,
    /// Index of the face in the style: see [`Style::face_at`].
    pub face: u16,
    /// The pen position, rightwards from the block's left edge.
    pub x: f32,
    /// Baseline, downwards.
    pub y: f32,
    /// The distance the face says the pen moves; without kerning and spacing.
    pub advance: f32,
    /// Kerning: the part of the advance that the font's tables add in this text; of a
    /// mark, which takes no room, all that it has.
    pub kerning: f32,
}

/// A grapheme cluster (UAX #29): what a reader takes for one character.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Cluster {
    /// First byte in the text.
    pub start: u32,
    /// One past the last byte in the text.
    pub end: u32,
    /// Index of its line; a line break is on the line that it ends.
    pub line: u32,
    /// Its left edge, rightwards from the block's left edge.
    pub x: f32,
    /// Its width; 0 for a line break. A ligature's is shared by its clusters.
    pub advance: f32,
    /// True if it is read from right to left.
    pub is_rtl: bool,
}

impl Cluster {
    /// Part of the text that it is.
    pub(super) fn part<'a>(&self, text: &'a str) -> &'a str {
        &text[self.start as usize..self.end as usize]
    }

    /// Puts it at a place of a line.
    #[inline]
    pub(super) fn place(&mut self, line: u32, x: f64, advance: f64, is_rtl: bool) {
        self.line = line;
        self.x = x as f32;
        self.advance = advance as f32;
        self.is_rtl = is_rtl;
    }

    pub(super) fn of(start: u32, end: u32) -> Self {
        Self {
            start,
            end,
            line: 0,
            x: 0.0,
            advance: 0.0,
            is_rtl: false,
        }
    }
}

/// One line of a block, in design pixels from the block's top left corner.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
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
    /// The baseline's distance from the top of the block.
    pub baseline: f32,
    /// True if its paragraph runs from right to left.
    pub is_rtl: bool,
    /// The distance it is moved in as the first of its paragraph.
    pub(super) indent: f32,
    /// The box of what is drawn of it, as [`TextLayout::ink`] has it for all lines.
    pub ink: Rect,
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
    /// The text as it is shown, where that is another: see [`TextLayout::shown`].
    pub(super) collapsed: Option<String>,
    pub(super) styles: Vec<Style>,
    pub(super) glyphs: Vec<PlacedGlyph>,
    pub(super) clusters: Vec<Cluster>,
    pub(super) lines: Vec<Line>,
    pub(super) size: Size,
    pub(super) ink: Rect,
    /// The farthest that what is drawn on a line reaches above its top and below its bottom, in
    /// design pixels.
    pub(super) overhang: [f32; 2],
    /// Byte positions of clusters that a face has no glyph for.
    pub(super) missing: Vec<u32>,
    pub(super) resized: Vec<Resized>,
    pub(super) options: LayoutOptions,
    pub(super) prepared: KeptPrepared,
    /// The byte from which on something is left out.
    pub(super) cut: Option<u32>,
    pub(super) spans: Vec<SpanRecord>,
    pub(super) marks: Vec<Mark>,
    /// Another one after every change.
    pub(super) stamp: Stamp,
}

/// A span that is not set in the size of its style: a bitmap strike has whole
/// multiples of its pixels only.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Resized {
    /// Index of the span.
    pub span: u32,
    /// The size of its style, in design pixels per em.
    pub wanted: f32,
    /// The size it is set in.
    pub given: f32,
}

impl TextLayout {
    /// The most bytes of a text: 16 MiB. Laying out takes time in proportion to the text, and
    /// about 150 bytes of memory for each of its bytes; a log is kept in parts.
    pub const LONGEST: usize = 16 << 20;

    /// Refuses a text that is too long.
    pub(super) fn check_length(bytes: usize) -> Result<(), TextError> {
        match bytes > Self::LONGEST {
            true => Err(TextError::TooLong(bytes)),
            false => Ok(()),
        }
    }

    /// Lays out a text in one style; lines break at line breaks only.
    ///
    /// # Errors
    /// [`TextError::OutOfRange`] for a size that is not above 0 and finite or
    /// another number out of its range; [`TextError::Font`] for a damaged
    /// glyph; [`TextError::TooLong`] over [`TextLayout::LONGEST`].
    pub fn new(text: &str, style: &Style) -> Result<Self, TextError> {
        Self::with_options(&[Span::new(text, style)], &LayoutOptions::default())
    }

    /// Lays out spans of several styles as one text.
    ///
    /// # Errors
    /// As [`TextLayout::new`].
    pub fn with_options(spans: &[Span<'_>], options: &LayoutOptions) -> Result<Self, TextError> {
        compose::compose(spans, options, &mut LayoutContext::new())
    }

    /// The state of the layout: another one after every change.
    pub(crate) fn stamp(&self) -> Stamp {
        self.stamp
    }

    /// The whole text.
    pub fn text(&self) -> &str {
        &self.text
    }

    /// The text as it is shown: where white space collapses, tabs and line breaks are
    /// spaces (CSS Text, “Collapsing: the Segment Break Transformation Rules”). Each of its
    /// bytes stands for that of the text.
    pub(super) fn shown(&self) -> &str {
        self.collapsed.as_deref().unwrap_or(&self.text)
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

    /// The lines with clusters of a range; none of an empty one.
    pub(super) fn lines_with(&self, clusters: &Range<usize>) -> Range<usize> {
        let lines = &self.lines;
        let first = lines.partition_point(|line| line.clusters.end <= clusters.start);
        let end = lines.partition_point(|line| line.clusters.start < clusters.end);
        first..end.max(first)
    }

    /// The glyphs of the lines with clusters of a range.
    pub(crate) fn glyphs_with(&self, clusters: &Range<usize>) -> &[PlacedGlyph] {
        match &self.lines[self.lines_with(clusters)] {
            [] => &[],
            [one] => &self.glyphs[one.glyphs.clone()],
            [one, .., last] => &self.glyphs[one.glyphs.start..last.glyphs.end],
        }
    }

    /// The clusters of the lines on which something may be drawn between two heights, in design
    /// pixels down from the block's top; found by a search.
    pub(crate) fn clusters_between(&self, top: f32, bottom: f32) -> Range<usize> {
        let [above, below] = self.overhang;
        let lines = &self.lines;
        let first = lines.partition_point(|line| line.top + line.height + below < top);
        let end = lines.partition_point(|line| line.top - above <= bottom);
        match lines.get(first..end) {
            Some([one, .., last]) => one.clusters.start..last.clusters.end,
            Some([one]) => one.clusters.clone(),
            _ => 0..0,
        }
    }

    /// The block: its width (of the longest line, or as asked for) and the
    /// height of all lines.
    pub fn size(&self) -> Size {
        self.size
    }

    /// The box of what is drawn, from the block's top left corner: letters and their
    /// outlines, sprites, lines beneath and through letters; no plates. It may reach
    /// out of the block, and is empty where nothing has ink.
    pub fn ink(&self) -> Rect {
        self.ink
    }

    /// Byte positions of the clusters that show `.notdef`, because the face has
    /// no glyph for them.
    pub fn missing(&self) -> &[u32] {
        &self.missing
    }

    /// The first letters that no face has, for messages.
    #[cfg(feature = "screens")]
    pub(crate) fn missing_letters(&self) -> String {
        const MOST: usize = 8;
        let cluster = |byte: &u32| {
            let at = self.clusters.binary_search_by_key(byte, |own| own.start);
            Some(self.clusters[at.ok()?].part(&self.text))
        };
        self.missing.iter().filter_map(cluster).take(MOST).collect()
    }

    /// The scripts of the text whose letters are not reordered, stacked or joined as they ought
    /// to be, by their names: see [`unshaped_script`](super::unshaped_script).
    pub fn unshaped_scripts(&self) -> Vec<&'static str> {
        let mut scripts = Vec::new();
        for script in self.text.chars().filter_map(unshaped_script) {
            if !scripts.contains(&script) {
                scripts.push(script);
            }
        }
        scripts
    }

    /// The spans of bitmap faces whose size is no whole multiple of the strike's:
    /// they are set in the nearest one, which [`TextLayout::style`] has.
    pub fn resized(&self) -> &[Resized] {
        &self.resized
    }

    /// The face that a glyph is of.
    ///
    /// # Panics
    /// If the glyph is of another layout that has more spans.
    pub fn face_of(&self, glyph: &PlacedGlyph) -> &Face {
        self.style(glyph.span).face_at(glyph.face)
    }

    /// The byte from which on text is left out, because it does not fit.
    pub fn truncated_at(&self) -> Option<usize> {
        self.cut.map(|byte| byte as usize)
    }

    /// Returns whether all of the text is in its block: no line is wider than it, all
    /// together are no higher, none are more than there may be.
    pub fn fits(&self) -> bool {
        let options = &self.options;
        let lines = options
            .max_lines
            .is_none_or(|most| self.lines.len() <= most);
        let line_ends = |line: &Line| line.width + line.indent;
        let width = options.width.unwrap_or(f32::INFINITY) + 0.01;
        let bottom = self.lines.last().map_or(0.0, |line| line.top + line.height);
        let top = self.lines.first().map_or(0.0, |line| line.top);
        lines
            && self.cut.is_none()
            && self.lines.iter().all(|line| line_ends(line) <= width)
            && options
                .height
                .is_none_or(|height| bottom - top <= height + 0.01)
    }

    /// Returns whether what reaches out of the block is cut off when it is drawn.
    pub fn is_clipped(&self) -> bool {
        self.options.overflow == Overflow::Clip
    }

    /// Width at which the text need not wrap: that of its longest line, with the indent
    /// of its paragraph (CSS Sizing, `max-content`).
    pub fn max_content_width(&self) -> f32 {
        self.widest_between(|breaks| breaks == Break::Must)
    }

    /// Least width of the text: that of its longest part that does not break, with the
    /// hyphen that is seen where it breaks (CSS Sizing, `min-content`). The same whether a width
    /// was asked for or not; that of the longest line where nothing wraps.
    pub fn min_content_width(&self) -> f32 {
        if self.options.width.is_some() || self.options.wrap == Wrap::None {
            return self.widest_between(|_| true);
        }
        // Where no width is asked for, breaks within lines are not looked for.
        let mut wrapped = self.clone();
        wrapped.options.width = Some(0.0);
        let wrapped = wrapped.whole(&mut LayoutContext::new());
        wrapped.map_or(0.0, |wrapped| wrapped.widest_between(|_| true))
    }

    /// The widest part of the text between breaks of some kinds, as wide as a line of it
    /// would be.
    fn widest_between(&self, ends: impl Fn(Break) -> bool) -> f32 {
        if self.prepared.0.is_none() {
            // Without it where it can't be made again: the layout would have failed.
            let whole = self.whole(&mut LayoutContext::new());
            return whole.map_or(0.0, |whole| whole.widest_between(ends));
        }
        let measures = &self.prepared.measures;
        let mut fresh = Reshaped::default();
        // Without its hyphen where that can't be read: the layout would have failed.
        let Ok(rules) = rules(self, &mut fresh) else {
            return 0.0;
        };
        let mut measure = Measure::new(self, &mut fresh);
        let (mut start, mut indent, mut widest) = (0, rules.indent, 0.0_f64);
        let places = measures.places.iter().filter(|place| ends(place.breaks));
        let places = places.map(|place| (place.cluster, place.breaks));
        for (end, breaks) in places.chain([(measures.list.len(), Break::Must)]) {
            let is_last = breaks == Break::Must;
            let width = match is_last && !measure.is_torn(start) {
                true => measures.last_line_width(start..end, indent, &rules),
                false => {
                    let width = measure.width(start..end, indent, &rules);
                    width.unwrap_or_default()
                }
            };
            widest = widest.max(width);
            start = end;
            indent = if is_last { rules.indent } else { 0.0 };
        }
        widest as f32
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

    /// The anchor that holds the text half-way between the top of the capitals in its first
    /// line and its last baseline, at `x` of the block's width: “Play” and “PLAY” sit alike.
    /// In the face of the first span; where that does not say how high its capitals are,
    /// they are 0.7 em.
    ///
    /// ```no_run
    /// # use kerno::{DrawText, Point, TextLayout};
    /// # use kerno::draw::Scope;
    /// # fn draw(frame: &mut Scope<'_>, label: &TextLayout) {
    /// let middle_of_button = Point::new(320.0, 180.0);
    /// let draw = DrawText::at(middle_of_button, label.capitals_anchor(0.5));
    /// frame.text(label, draw).expect("a label");
    /// # }
    /// ```
    pub fn capitals_anchor(&self, x: f32) -> Anchor {
        if self.size.height <= 0.0 {
            return Anchor::new(x, 0.0);
        }
        Anchor::new(x, self.capitals_middle() / self.size.height)
    }

    /// Half-way between the top of the first capitals and the last baseline, from the
    /// block's top.
    pub(super) fn capitals_middle(&self) -> f32 {
        let height = self.styles.first().map_or(0.0, Style::capital_height);
        let last = self.lines.last().map_or(0.0, |line| line.baseline);
        (self.first_baseline() - height + last) * 0.5
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
