//! From spans to placed glyphs, line by line.

use unicode_segmentation::UnicodeSegmentation;

use super::TextLayout;
use super::{
    Cluster, LayoutOptions, Line, LineHeight, PlacedGlyph, Resized, Span, Style, TextError,
};
use crate::base::{Rect, Size};
use crate::font::{FontError, GlyphId};

/// Lays out spans as one block.
pub(super) fn compose(
    spans: &[Span<'_>],
    options: &LayoutOptions,
) -> Result<TextLayout, TextError> {
    check(spans, options)?;
    let styles: Vec<Style> = spans.iter().map(|span| fitted(span.style)).collect();
    let pairs = spans.iter().zip(&styles);
    let spans: Vec<Span<'_>> = pairs
        .clone()
        .map(|(span, style)| Span::new(span.text, style))
        .collect();
    let resized = pairs
        .enumerate()
        .filter(|(_, (span, style))| span.style.size != style.size);
    let resized = resized.map(|(index, (span, style))| Resized {
        span: index as u32,
        wanted: span.style.size,
        given: style.size,
    });
    let mut layout = TextLayout {
        resized: resized.collect(),
        text: spans.iter().map(|span| span.text).collect(),
        styles: styles.clone(),
        glyphs: Vec::new(),
        clusters: Vec::new(),
        lines: Vec::new(),
        size: Size::default(),
        ink: Rect::default(),
        missing: Vec::new(),
    };
    if u32::try_from(layout.text.len()).is_err() {
        return Err(TextError::TooLong(layout.text.len()));
    }
    Composer::new(&spans, &mut layout).run();
    align(&mut layout, options);
    layout.ink = ink(&layout)?;
    Ok(layout)
}

/// The style at the nearest size that a bitmap strike has.
fn fitted(style: &Style) -> Style {
    let is_strike = style.face.strike_size().is_some();
    let crisp = style.face.crisp_size(style.size).filter(|_| is_strike);
    Style {
        size: crisp.unwrap_or(style.size),
        ..style.clone()
    }
}

/// Refuses numbers that no layout can be made from.
fn check(spans: &[Span<'_>], options: &LayoutOptions) -> Result<(), TextError> {
    let refuse = |what, value, expected| {
        Err(TextError::OutOfRange {
            what,
            value,
            expected,
        })
    };
    for Style {
        size,
        letter_spacing,
        line_height,
        ..
    } in spans.iter().map(|span| span.style)
    {
        if !(*size > 0.0 && *size <= Style::LARGEST) {
            return refuse("the text size", *size, "above 0 and at most 100000");
        }
        if !letter_spacing.is_finite() {
            return refuse("the letter spacing", *letter_spacing, "finite");
        }
        if let LineHeight::Multiple(height) | LineHeight::Length(height) = *line_height
            && !(height >= 0.0 && height.is_finite())
        {
            return refuse("the line height", height, "0 or more and finite");
        }
    }
    match options.width {
        Some(width) if !(width >= 0.0 && width.is_finite()) => {
            refuse("the width", width, "0 or more and finite")
        }
        _ => Ok(()),
    }
}

/// Walks the text once, cluster by cluster, and fills a layout whose lines all
/// start at x = 0.
struct Composer<'a, 'b> {
    layout: &'a mut TextLayout,
    /// Where each span ends in the text, in bytes.
    ends: Vec<usize>,
    spans: &'b [Span<'b>],
    /// The span at hand.
    span: usize,
    /// In 64 bits, so that a long line does not drift.
    pen: f64,
    /// Spacing after the last cluster; it counts only once another follows.
    pending: f64,
    top: f32,
    line_start: (usize, usize),
    /// The largest extents above and below the baseline on this line.
    extent: Option<(f32, f32)>,
}

impl<'a, 'b> Composer<'a, 'b> {
    fn new(spans: &'b [Span<'b>], layout: &'a mut TextLayout) -> Self {
        let ends = spans
            .iter()
            .scan(0, |end, span| {
                *end += span.text.len();
                Some(*end)
            })
            .collect();
        Self {
            layout,
            ends,
            spans,
            span: 0,
            pen: 0.0,
            pending: 0.0,
            top: 0.0,
            line_start: (0, 0),
            extent: None,
        }
    }

    fn run(mut self) {
        let text = std::mem::take(&mut self.layout.text);
        for (start, cluster) in text.grapheme_indices(true) {
            while self.ends[self.span] <= start {
                self.span += 1;
            }
            self.open_cluster(start, cluster);
            if is_line_break(cluster) {
                self.end_line();
            } else {
                self.add_glyphs(start, cluster);
            }
        }
        self.end_line();
        self.layout.text = text;
        self.layout.size.height = self.top;
    }

    /// Records a cluster at the pen, without any advance yet.
    fn open_cluster(&mut self, start: usize, text: &str) {
        let (above, below) = self.spans[self.span].style.line_extent();
        let (most_above, most_below) = self.extent.unwrap_or((above, below));
        self.extent = Some((most_above.max(above), most_below.max(below)));
        self.layout.clusters.push(Cluster {
            start: start as u32,
            end: (start + text.len()) as u32,
            line: self.layout.lines.len() as u32,
            x: self.pen as f32,
            advance: 0.0,
        });
    }

    /// Adds the glyphs of the cluster just opened.
    fn add_glyphs(&mut self, start: usize, text: &str) {
        let style = self.spans[self.span].style;
        let unit = f64::from(style.size) / f64::from(style.face.metrics().units_per_em);
        let index = self.layout.clusters.len() - 1;
        let mut is_missing = false;
        for (offset, character) in text.char_indices() {
            let glyph = style.face.glyph(character).unwrap_or_else(|| {
                is_missing = true;
                GlyphId::NOTDEF
            });
            self.pen += self.kern(style, glyph, unit);
            if offset == 0 {
                self.pen += self.pending;
                self.start_cluster(index);
            }
            let advance = f64::from(style.face.advance(glyph)) * unit;
            self.layout.glyphs.push(PlacedGlyph {
                glyph,
                cluster: index as u32,
                span: self.span as u32,
                x: self.pen as f32,
                y: 0.0,
                advance: advance as f32,
                kerning: 0.0,
            });
            self.pen += advance;
        }
        let cluster = &mut self.layout.clusters[index];
        cluster.advance = self.pen as f32 - cluster.x;
        self.pending = f64::from(style.letter_spacing);
        if is_missing {
            self.layout.missing.push(start as u32);
        }
    }

    /// Puts a cluster at the pen; the kerning and spacing before it belong to
    /// its neighbour on the line.
    fn start_cluster(&mut self, index: usize) {
        let x = self.pen as f32;
        self.layout.clusters[index].x = x;
        if index > self.line_start.0 {
            let before = &mut self.layout.clusters[index - 1];
            before.advance = x - before.x;
        }
    }

    /// What the pair of the last glyph on this line and the next one asks for,
    /// where both are of one face and size.
    fn kern(&mut self, style: &Style, next: GlyphId, unit: f64) -> f64 {
        let line_start = self.line_start.1;
        let Some(last) = self.layout.glyphs[line_start..].last_mut() else {
            return 0.0;
        };
        let last_style = self.spans[last.span as usize].style;
        if last_style.size != style.size || !last_style.face.is_same(&style.face) {
            return 0.0;
        }
        let kerning = f64::from(style.face.kerning(last.glyph, next)) * unit;
        last.kerning = kerning as f32;
        kerning
    }

    /// Closes the line at hand. One without any cluster is as high as the span
    /// around it.
    fn end_line(&mut self) {
        let extent = self.extent.take().or_else(|| {
            let span = self.spans.get(self.span).or(self.spans.last())?;
            Some(span.style.line_extent())
        });
        let (above, below) = extent.unwrap_or_default();
        let layout = &mut *self.layout;
        let (first_cluster, first_glyph) = self.line_start;
        let baseline = self.top + above;
        for glyph in &mut layout.glyphs[first_glyph..] {
            glyph.y = baseline;
        }
        self.line_start = (layout.clusters.len(), layout.glyphs.len());
        layout.lines.push(Line {
            clusters: first_cluster..self.line_start.0,
            glyphs: first_glyph..self.line_start.1,
            x: 0.0,
            top: self.top,
            width: self.pen as f32,
            height: above + below,
            baseline,
        });
        self.top += above + below;
        self.pen = 0.0;
        self.pending = 0.0;
    }
}

/// The characters that end a line whatever stands around them: UAX #14 classes
/// BK, CR, LF and NL.
fn is_line_break(cluster: &str) -> bool {
    matches!(
        cluster,
        "\n" | "\r\n" | "\r" | "\u{b}" | "\u{c}" | "\u{85}" | "\u{2028}" | "\u{2029}"
    )
}

/// Finds the block's width and moves every line to its place in it.
fn align(layout: &mut TextLayout, options: &LayoutOptions) {
    let longest = layout
        .lines
        .iter()
        .map(|line| line.width)
        .fold(0.0, f32::max);
    layout.size.width = options.width.unwrap_or(longest);
    for line in &mut layout.lines {
        line.x = (layout.size.width - line.width) * options.align.share();
        for glyph in &mut layout.glyphs[line.glyphs.clone()] {
            glyph.x += line.x;
        }
        for cluster in &mut layout.clusters[line.clusters.clone()] {
            cluster.x += line.x;
        }
    }
}

/// The box around what the font states each glyph to cover.
fn ink(layout: &TextLayout) -> Result<Rect, FontError> {
    let mut ink = Rect::default();
    for glyph in &layout.glyphs {
        if let Some(bounds) = layout.glyph_ink(glyph)? {
            ink = ink.union(bounds);
        }
    }
    Ok(ink)
}

impl TextLayout {
    /// The box that one glyph covers, from the block's top left corner; `None`
    /// for one without ink.
    ///
    /// # Errors
    /// [`FontError`] where the face's glyph table is damaged.
    pub fn glyph_ink(&self, glyph: &PlacedGlyph) -> Result<Option<Rect>, FontError> {
        let style = self.style(glyph.span);
        let unit = style.unit();
        let bounds = style.face.bounds(glyph.glyph)?;
        Ok(bounds.map(|bounds| {
            Rect::new(
                glyph.x + f32::from(bounds.x_min) * unit,
                glyph.y - f32::from(bounds.y_max) * unit,
                (f32::from(bounds.x_max) - f32::from(bounds.x_min)) * unit,
                (f32::from(bounds.y_max) - f32::from(bounds.y_min)) * unit,
            )
        }))
    }
}
