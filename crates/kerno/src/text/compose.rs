//! From spans to placed glyphs.

use super::analysis::analyze::analyze;
use super::breaking::line_ends;
use super::editing::reuse::Edit;
use super::measure::line::Measure;
use super::measure::lines::Rules;
use super::measure::measures::find_measures;
use super::owned_span::OwnedSpan;
use super::place::align::align_vertically;
use super::place::insertions::Insertion;
use super::place::placing::{Placing, place_lines};
use super::place::segments::Reshaped;
use super::prepared::KeptPrepared;
use super::shape::Output;
use super::span_record::SpanRecord;
use super::{
    LayoutContext, LayoutOptions, LineHeight, Overflow, OverflowWrap, Resized, Span, Style,
    TextError, TextLayout, VerticalAlign, WhiteSpace,
};
use crate::base::{Insets, Rect, Size, Stamp, span};
use crate::font::FontError;

/// Lays out spans as one block.
pub(super) fn compose(
    spans: &[Span<'_>],
    options: &LayoutOptions,
    work: &mut LayoutContext,
) -> Result<TextLayout, TextError> {
    check(spans, options)?;
    if let Some(least) = options.shrink_to {
        return shrunk(spans, options, least, work);
    }
    let length = spans.iter().map(|span| span.text().len()).sum();
    span!("lay_out", bytes = length);
    TextLayout::check_length(length)?;
    let text: String = spans.iter().map(Span::text).collect();
    let styles: Vec<Style> = spans.iter().map(|span| fitted(span.style)).collect();
    let pairs = spans.iter().zip(&styles).enumerate();
    let resized = pairs.filter(|(_, (span, style))| span.style.size != style.size);
    let resized = resized.map(|(index, (span, style))| Resized {
        span: index as u32,
        wanted: span.style.size,
        given: style.size,
    });
    let records = spans.iter().zip(&styles);
    let mut layout = TextLayout {
        resized: resized.collect(),
        spans: records
            .map(|(span, given)| SpanRecord::of(span, given))
            .collect(),
        text,
        styles,
        options: *options,
        ..TextLayout::empty()
    };
    prepare(&mut layout, None, work)?;
    arrange(&mut layout, work)?;
    layout.finish(work);
    layout.clusters.shrink_to_fit();
    layout.glyphs.shrink_to_fit();
    layout.lines.shrink_to_fit();
    Ok(layout)
}

/// Texts of fewer clusters do not keep what they were prepared with.
const LEAST_KEPT: usize = 65;

impl TextLayout {
    /// Gives memory back that the layout does not need.
    pub(super) fn finish(&mut self, work: &mut LayoutContext) {
        if self.clusters.len() < LEAST_KEPT {
            work.spare = self.prepared.0.take().or(work.spare.take());
        }
    }

    /// The same layout with everything that it was prepared with.
    ///
    /// # Errors
    /// [`FontError`] where a glyph can't be read: the layout would have failed.
    pub(super) fn whole(&self, work: &mut LayoutContext) -> Result<Self, FontError> {
        let mut whole = self.clone();
        prepare(&mut whole, None, work)?;
        Ok(whole)
    }
}

/// Finds clusters and runs, and shapes them but those that an edit has not touched.
pub(super) fn prepare(
    layout: &mut TextLayout,
    edit: Option<&Edit>,
    work: &mut LayoutContext,
) -> Result<(), FontError> {
    // The old state is kept beside while the new one is found in other memory.
    let old = layout.prepared.0.take();
    let known = edit.zip(old.as_deref());
    std::mem::swap(&mut layout.missing, &mut work.old_missing);
    layout.missing.clear();
    let collapses = layout.options.white_space == WhiteSpace::Collapse;
    let collapsed = layout.collapsed.take();
    layout.collapsed = collapses.then(|| with_spaces(&layout.text, collapsed.unwrap_or_default()));
    let shown = layout.collapsed.as_deref().unwrap_or(&layout.text);
    let mut prepared = work.spare.take().unwrap_or_default();
    analyze(
        shown,
        (&layout.spans, &layout.styles),
        &layout.options,
        &mut layout.clusters,
        (&mut prepared.analysis, &mut work.levels),
    );
    prepared.shaped.clear();
    prepared.shaped.list.reserve(layout.clusters.len());
    prepared.run_glyphs.clear();
    for run in &prepared.analysis.runs {
        let first = prepared.shaped.list.len();
        let into = &mut Output {
            glyphs: &mut prepared.shaped,
            missing: &mut layout.missing,
        };
        let reused = known.and_then(|(edit, old)| Some((edit.known(run, old)?, old)));
        if let Some((reused, old)) = reused {
            reused.take(run, (old, &work.old_missing), into);
        } else if layout.spans[run.span as usize].sprite.is_none() {
            let style = &layout.styles[run.span as usize];
            let shaper = &mut work.fresh.shaper;
            shaper.shape(shown, &layout.clusters, run, style, into)?;
        }
        prepared.run_glyphs.push(first..prepared.shaped.list.len());
    }
    find_measures(layout, &mut prepared);
    layout.prepared.0 = Some(prepared);
    work.spare = old;
    Ok(())
}

/// A text with a space for each tab and each character of a line break, in memory that
/// there is.
fn with_spaces(text: &str, mut into: String) -> String {
    let is_space = |character: char| matches!(character, '\t' | '\n' | '\r');
    into.clear();
    into.extend(text.chars().map(|c| if is_space(c) { ' ' } else { c }));
    into
}

/// Breaks lines and places everything, by what is prepared.
pub(super) fn arrange(layout: &mut TextLayout, work: &mut LayoutContext) -> Result<(), TextError> {
    work.fresh.clear();
    let rules = rules(layout, &mut work.fresh)?;
    let mut ends = std::mem::take(&mut work.ends);
    let ends_of = (&mut ends, &mut work.tried_ends);
    line_ends(&rules, Measure::new(layout, &mut work.fresh), ends_of)?;
    place_lines(&mut Placing::new(layout, work, rules), &ends)?;
    work.ends = ends;
    align_vertically(layout);
    Ok(())
}

/// The rules for lines, with the measures that they need.
pub(super) fn rules(layout: &TextLayout, fresh: &mut Reshaped) -> Result<Rules, FontError> {
    let options = &layout.options;
    let (mut tab, mut least_tab, mut hyphen) = (0.0, 0.0, 0.0);
    if let Some(style) = layout.styles.first() {
        let advance = |character: char| {
            let glyph = style.face.glyph(character);
            let units = glyph.map_or(0, |glyph| style.face.advance(glyph));
            f64::from(units) * style.unit_at(0)
        };
        tab = advance(' ') * f64::from(options.tab_size);
        // Half of the width of a zero (CSS Values, the unit `ch`).
        least_tab = advance('0') * 0.5;
    }
    if let Some(index) = layout.prepared.measures.soft_hyphen {
        let span = layout.span_of(index);
        hyphen = Insertion::hyphen(layout, span, fresh)?.width;
    }
    let sizes = layout.styles.iter().map(|style| style.size);
    Ok(Rules {
        size: f64::from(sizes.fold(0.0, f32::max)),
        width: options.width.map(f64::from),
        wrap: options.wrap,
        overflow_wrap: options.overflow_wrap,
        indent: f64::from(options.indent),
        tab,
        least_tab,
        hyphen,
    })
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

/// The number of halvings that find the size at which a text fits.
const SHRINKING_STEPS: u32 = 10;

/// Lays a text out at the largest size, from `least` times its own on, at which it
/// fits; at the least where it does at none, and does with it what is asked for then.
fn shrunk(
    spans: &[Span<'_>],
    options: &LayoutOptions,
    least: f32,
    work: &mut LayoutContext,
) -> Result<TextLayout, TextError> {
    let at_least = LayoutOptions {
        shrink_to: None,
        ..*options
    };
    let tried = LayoutOptions {
        overflow: Overflow::Visible,
        overflow_wrap: OverflowWrap::Normal,
        ..at_least
    };
    let mut at = |factor: f32, options: &LayoutOptions| {
        let mut parts: Vec<OwnedSpan> = spans.iter().map(OwnedSpan::of).collect();
        for part in &mut parts {
            part.style = part.style.scaled(factor);
            if let Some(sprite) = &mut part.sprite {
                sprite.height *= factor;
            }
        }
        let scaled = spans.iter().zip(&parts);
        let scaled: Vec<Span<'_>> = scaled.map(|(span, part)| part.span(span.text())).collect();
        compose(&scaled, options, work)
    };
    let mut best = at(1.0, &tried)?;
    if !best.fits() {
        best = at(least, &tried)?;
        let (mut low, mut high) = (least, 1.0);
        if !best.fits() {
            best = at(least, &at_least)?;
            high = low;
        }
        for _ in 0..SHRINKING_STEPS {
            if low >= high {
                break;
            }
            let middle = f32::midpoint(low, high);
            let layout = at(middle, &tried)?;
            if layout.fits() {
                (low, best) = (middle, layout);
            } else {
                high = middle;
            }
        }
    }
    // In another box it may be larger again.
    best.options = *options;
    let records = spans.iter().zip(&best.styles);
    best.spans = records
        .map(|(span, given)| SpanRecord::of(span, given))
        .collect();
    Ok(best)
}

/// The farthest that anything may be from anything in a layout, in design pixels: sums of
/// such lengths are finite.
const FARTHEST: f32 = 1e9;

fn is_length(value: f32) -> bool {
    value.abs() <= FARTHEST
}

fn are_lengths(padding: &Insets) -> bool {
    let Insets {
        left,
        top,
        right,
        bottom,
    } = *padding;
    [left, top, right, bottom].into_iter().all(is_length)
}

/// The range of lengths that may be on either side of a place.
const FAR: &str = "-1000000000 to 1000000000";

fn refuse(what: &'static str, value: f32, expected: &'static str) -> Result<(), TextError> {
    Err(TextError::OutOfRange {
        what,
        value,
        expected,
    })
}

/// Refuses numbers that no layout can be made from.
pub(super) fn check(spans: &[Span<'_>], options: &LayoutOptions) -> Result<(), TextError> {
    for span in spans {
        check_style(span.style)?;
    }
    let mut sprites = spans.iter().filter_map(Span::own_sprite);
    if let Some(sprite) = sprites.find(|sprite| !sprite.is_sound()) {
        return refuse(
            "the height of a sprite in a text",
            sprite.height,
            "above 0 and at most 100000, as its intrinsic size is",
        );
    }
    check_options(options)
}

fn check_style(style: &Style) -> Result<(), TextError> {
    if let Some(plate) = style.plate.filter(|plate| !are_lengths(&plate.padding)) {
        return refuse("the padding of a plate", plate.padding.left, FAR);
    }
    if !(style.size > 0.0 && style.size <= Style::LARGEST) {
        return refuse("the text size", style.size, "above 0 and at most 100000");
    }
    if style.effects.len() > Style::MOST_EFFECTS {
        let count = style.effects.len() as f32;
        return refuse("the number of effects", count, "at most 32");
    }
    if let Some((what, value, expected)) = style
        .effects
        .iter()
        .find_map(|effect| effect.kind().fault())
    {
        return refuse(what, value, expected);
    }
    for (what, value) in [
        ("the letter spacing", style.letter_spacing),
        ("the word spacing", style.word_spacing),
        ("the baseline shift", style.baseline_shift),
    ] {
        if !is_length(value) {
            return refuse(what, value, FAR);
        }
    }
    if let LineHeight::Multiple(height) | LineHeight::Length(height) = style.line_height
        && !(height >= 0.0 && is_length(height))
    {
        return refuse("the line height", height, "0 to 1000000000");
    }
    Ok(())
}

fn check_options(options: &LayoutOptions) -> Result<(), TextError> {
    for (what, value) in [
        ("the width", options.width.unwrap_or(0.0)),
        ("the height", options.height.unwrap_or(0.0)),
        ("the paragraph spacing", options.paragraph_spacing),
        ("the tab size", options.tab_size),
    ] {
        if !(value >= 0.0 && is_length(value)) {
            return refuse(what, value, "0 to 1000000000");
        }
    }
    if let Some(plate) = options.plate.filter(|plate| !are_lengths(&plate.padding)) {
        return refuse("the padding of a plate", plate.padding.left, FAR);
    }
    if let VerticalAlign::FirstBaseline(place) = options.vertical_align
        && !is_length(place)
    {
        return refuse("the place of the first baseline", place, FAR);
    }
    if !is_length(options.indent) {
        return refuse("the indent", options.indent, FAR);
    }
    match options.shrink_to {
        Some(least) if !(least > 0.0 && least <= 1.0) => {
            refuse("the least size", least, "above 0 and at most 1")
        }
        _ => Ok(()),
    }
}

impl TextLayout {
    /// A layout of nothing.
    fn empty() -> Self {
        Self {
            text: String::new(),
            collapsed: None,
            styles: Vec::new(),
            glyphs: Vec::new(),
            clusters: Vec::new(),
            lines: Vec::new(),
            size: Size::default(),
            ink: Rect::default(),
            overhang: [0.0; 2],
            missing: Vec::new(),
            resized: Vec::new(),
            options: LayoutOptions::default(),
            prepared: KeptPrepared::default(),
            cut: None,
            spans: Vec::new(),
            marks: Vec::new(),
            stamp: Stamp::new(),
        }
    }

    /// The box that one glyph covers, from the block's top left corner; `None`
    /// for one without ink.
    ///
    /// # Errors
    /// [`FontError`] where the face's glyph table is damaged.
    ///
    /// # Panics
    /// If the glyph is of another layout that has more spans.
    pub fn glyph_ink(&self, glyph: &super::PlacedGlyph) -> Result<Option<Rect>, FontError> {
        let style = self.style(glyph.span);
        let unit = style.unit_at(glyph.face) as f32;
        let bounds = style.face_at(glyph.face).bounds(glyph.glyph)?;
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
