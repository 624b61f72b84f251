//! From spans to placed glyphs.

use super::align::align_vertically;
use super::analysis::{Analysis, analyze};
use super::lines::{Piece, PieceKind, Rules, line_ends};
use super::place::{Placing, place_lines};
use super::shape::{Shaped, Shaper, add_widths};
use super::signs::Sign;
use super::unicode::is_line_break;
use super::workspace::Workspace;
use super::{
    Cluster, LayoutOptions, LineHeight, Overflow, OverflowWrap, Resized, Span, Style, TextError,
    TextLayout, Wrap,
};
use crate::base::{Rect, Size, Treatment};
use crate::font::FontError;

/// Everything about a text that does not change with its box.
#[derive(Clone, Debug, Default)]
pub(super) struct Prepared {
    pub(super) analysis: Analysis,
    /// All glyphs in reading order.
    pub(super) shaped: Vec<Shaped>,
    /// Which of them are of which run.
    pub(super) run_glyphs: Vec<std::ops::Range<usize>>,
    /// One for each cluster.
    pub(super) pieces: Vec<Piece>,
}

/// Lays out spans as one block.
pub(super) fn compose(
    spans: &[Span<'_>],
    options: &LayoutOptions,
) -> Result<TextLayout, TextError> {
    check(spans, options)?;
    if let Overflow::Shrink { least } = options.overflow {
        return shrunk(spans, options, least);
    }
    let asked = spans
        .iter()
        .map(|span| (span.text.len(), span.style.clone()));
    let asked = asked.collect();
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
        options: *options,
        asked,
        ..TextLayout::empty()
    };
    if u32::try_from(layout.text.len()).is_err() {
        return Err(TextError::TooLong(layout.text.len()));
    }
    let mut work = Workspace::default();
    prepare(&mut layout, &spans, &mut work)?;
    arrange(&mut layout, &mut work)?;
    layout.workspace = work;
    Ok(layout)
}

/// Finds clusters and runs, and shapes them.
fn prepare(
    layout: &mut TextLayout,
    spans: &[Span<'_>],
    work: &mut Workspace,
) -> Result<(), FontError> {
    let analysis = analyze(&layout.text, spans, &layout.options, &mut layout.clusters);
    let mut prepared = Prepared::default();
    prepared.shaped.reserve(layout.clusters.len());
    for run in &analysis.runs {
        let first = prepared.shaped.len();
        let style = &layout.styles[run.span as usize];
        let into = (&mut prepared.shaped, &mut layout.missing);
        let shaper = &mut work.shaper;
        shaper.shape(&layout.text, &layout.clusters, run, style, into)?;
        prepared.run_glyphs.push(first..prepared.shaped.len());
    }
    prepared.analysis = analysis;
    prepared.pieces = pieces(layout, &prepared);
    layout.prepared = prepared;
    Ok(())
}

/// Breaks lines and places everything, by what is prepared.
pub(super) fn arrange(layout: &mut TextLayout, work: &mut Workspace) -> Result<(), TextError> {
    work.fresh.clear();
    let rules = rules(layout, (&mut work.shaper, &mut work.fresh))?;
    let mut ends = std::mem::take(&mut work.ends);
    line_ends(&layout.prepared.pieces, &rules, &mut ends);
    place_lines(&mut Placing::new(layout, work, rules), &ends)?;
    work.ends = ends;
    align_vertically(layout);
    Ok(())
}

/// The widths of clusters, and what each is to a line.
fn pieces(layout: &TextLayout, prepared: &Prepared) -> Vec<Piece> {
    let wraps = layout.options.width.is_some() && layout.options.wrap != Wrap::None;
    let mut pieces: Vec<Piece> = prepared
        .analysis
        .breaks
        .iter()
        .map(|breaks| Piece {
            width: 0.0,
            hanging: 0.0,
            breaks: *breaks,
            kind: PieceKind::Solid,
        })
        .collect();
    let runs = prepared.analysis.runs.iter().zip(&prepared.run_glyphs);
    for (run, glyphs) in runs {
        let style = &layout.styles[run.span as usize];
        let unit = style.unit_at(run.face);
        let has_spacing = style.letter_spacing != 0.0 || style.word_spacing != 0.0;
        let glyphs = &prepared.shaped[glyphs.clone()];
        add_widths(glyphs, unit, |cluster, width| {
            pieces[cluster].width += width;
        });
        let clusters = &layout.clusters[run.clusters.clone()];
        for (piece, cluster) in pieces[run.clusters.clone()].iter_mut().zip(clusters) {
            piece.kind = kind(cluster, &layout.text, wraps);
            match piece.kind {
                PieceKind::Tab | PieceKind::LineBreak | PieceKind::Hyphen => continue,
                PieceKind::Solid | PieceKind::Space => {}
            }
            if has_spacing {
                let spacing = f64::from(style.letter_spacing);
                if matches!(cluster.part(&layout.text), " " | "\u{a0}") {
                    piece.width += f64::from(style.word_spacing);
                }
                piece.width += spacing;
                piece.hanging += spacing;
            }
        }
        // Kerning before a space is none where the line ends there.
        for pair in glyphs.windows(2) {
            let (before, space) = (&pair[0], &pair[1]);
            let is_space = || pieces[space.cluster as usize].kind == PieceKind::Space;
            if space.is_tied && is_space() && before.attachment.is_none() {
                let kerning = before.advance - i32::from(before.stated);
                pieces[before.last_cluster as usize].hanging += f64::from(kerning) * unit;
            }
        }
    }
    pieces
}

fn kind(cluster: &Cluster, text: &str, wraps: bool) -> PieceKind {
    let bytes = &text.as_bytes()[cluster.start as usize..cluster.end as usize];
    if let [byte] = bytes {
        return match byte {
            b'\t' => PieceKind::Tab,
            b'\n' | b'\r' | 0xb | 0xc => PieceKind::LineBreak,
            b' ' if wraps => PieceKind::Space,
            _ => PieceKind::Solid,
        };
    }
    let text = cluster.part(text);
    match text {
        "\u{ad}" => PieceKind::Hyphen,
        _ if is_line_break(text) => PieceKind::LineBreak,
        "\u{a0}" | "\u{202f}" | "\u{2007}" => PieceKind::Solid,
        _ if wraps && text.chars().all(char::is_whitespace) => PieceKind::Space,
        _ => PieceKind::Solid,
    }
}

/// The rules for lines, with the measures that they need.
fn rules(layout: &TextLayout, with: (&mut Shaper, &mut Vec<Shaped>)) -> Result<Rules, FontError> {
    let options = &layout.options;
    let (mut tab, mut hyphen) = (0.0, 0.0);
    if let Some(style) = layout.styles.first() {
        let space = style
            .face
            .glyph(' ')
            .map_or(0, |glyph| style.face.advance(glyph));
        tab = f64::from(space) * style.unit_at(0) * f64::from(options.tab_size);
    }
    let has_soft = |piece: &Piece| piece.kind == PieceKind::Hyphen;
    if let Some(index) = layout.prepared.pieces.iter().position(has_soft) {
        let span = layout.span_of(index);
        hyphen = Sign::hyphen(layout, span, with)?.width;
    }
    Ok(Rules {
        width: options.width.map(f64::from),
        wrap: options.wrap,
        overflow_wrap: options.overflow_wrap,
        indent: f64::from(options.indent),
        tab,
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

/// How closely the size is found at which a text fits.
const SHRINKING_STEPS: u32 = 10;

/// Lays a text out at the largest size, from `least` times its own on, at which it
/// fits; at the least where it does at none.
fn shrunk(
    spans: &[Span<'_>],
    options: &LayoutOptions,
    least: f32,
) -> Result<TextLayout, TextError> {
    let tried = LayoutOptions {
        overflow: Overflow::Visible,
        overflow_wrap: OverflowWrap::Normal,
        ..*options
    };
    let at = |factor: f32| {
        let styles: Vec<Style> = spans.iter().map(|span| span.style.scaled(factor)).collect();
        let scaled = spans.iter().zip(&styles);
        let scaled: Vec<Span<'_>> = scaled
            .map(|(span, style)| Span::new(span.text, style))
            .collect();
        compose(&scaled, &tried)
    };
    let mut best = at(1.0)?;
    if !best.fits() {
        best = at(least)?;
        let (mut low, mut high) = (least, 1.0);
        for _ in 0..SHRINKING_STEPS {
            if !best.fits() {
                break;
            }
            let middle = f32::midpoint(low, high);
            let layout = at(middle)?;
            if layout.fits() {
                (low, best) = (middle, layout);
            } else {
                high = middle;
            }
        }
    }
    // In another box it may be larger again.
    best.options = *options;
    let given = best.asked.iter_mut().zip(spans);
    given.for_each(|((_, style), span)| *style = span.style.clone());
    Ok(best)
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
        word_spacing,
        baseline_shift,
        line_height,
        outline,
        ..
    } in spans.iter().map(|span| span.style)
    {
        if !(*size > 0.0 && *size <= Style::LARGEST) {
            return refuse("the text size", *size, "above 0 and at most 100000");
        }
        if let Some(outline) = outline
            && !(outline.width > 0.0 && outline.width <= Treatment::WIDEST)
        {
            return refuse("the outline", outline.width, "above 0 and at most 64");
        }
        for (what, value) in [
            ("the letter spacing", letter_spacing),
            ("the word spacing", word_spacing),
            ("the baseline shift", baseline_shift),
        ] {
            if !value.is_finite() {
                return refuse(what, *value, "finite");
            }
        }
        if let LineHeight::Multiple(height) | LineHeight::Length(height) = *line_height
            && !(height >= 0.0 && height.is_finite())
        {
            return refuse("the line height", height, "0 or more and finite");
        }
    }
    for (what, value) in [
        ("the width", options.width.unwrap_or(0.0)),
        ("the height", options.height.unwrap_or(0.0)),
        ("the paragraph spacing", options.paragraph_spacing),
        ("the tab size", options.tab_size),
    ] {
        if !(value >= 0.0 && value.is_finite()) {
            return refuse(what, value, "0 or more and finite");
        }
    }
    if !options.indent.is_finite() {
        return refuse("the indent", options.indent, "finite");
    }
    match options.overflow {
        Overflow::Shrink { least } if !(least > 0.0 && least <= 1.0) => {
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
            styles: Vec::new(),
            glyphs: Vec::new(),
            clusters: Vec::new(),
            lines: Vec::new(),
            size: Size::default(),
            ink: Rect::default(),
            missing: Vec::new(),
            resized: Vec::new(),
            options: LayoutOptions::default(),
            prepared: Prepared::default(),
            cut: None,
            asked: Vec::new(),
            workspace: Workspace::default(),
        }
    }

    /// The span of a cluster.
    pub(super) fn span_of(&self, cluster: usize) -> u32 {
        let runs = &self.prepared.analysis.runs;
        let run = runs.partition_point(|run| run.clusters.end <= cluster);
        runs.get(run).or(runs.last()).map_or(0, |run| run.span)
    }

    /// Lays the same text out in another box. What does not change with it is kept,
    /// so this takes a fraction of the time; where white space, direction or the
    /// rules for breaks change, all is done again.
    ///
    /// # Errors
    /// As [`TextLayout::with_options`].
    pub fn relaid(&mut self, options: &LayoutOptions) -> Result<(), TextError> {
        let old = &self.options;
        let wraps = |options: &LayoutOptions| options.width.is_some() && options.wrap != Wrap::None;
        let shrinks = |options: &LayoutOptions| matches!(options.overflow, Overflow::Shrink { .. });
        let is_same = old.white_space == options.white_space
            && old.direction == options.direction
            && old.line_break == options.line_break
            && old.word_break == options.word_break
            && wraps(old) == wraps(options)
            && !shrinks(old)
            && !shrinks(options);
        check(&[], options)?;
        if is_same {
            self.options = *options;
            let mut work = std::mem::take(&mut self.workspace);
            arrange(self, &mut work)?;
            self.workspace = work;
            return Ok(());
        }
        let mut rest = self.text.as_str();
        let mut spans = Vec::new();
        for (length, style) in &self.asked {
            let (part, behind) = rest.split_at(*length);
            spans.push(Span::new(part, style));
            rest = behind;
        }
        *self = compose(&spans, options)?;
        Ok(())
    }

    /// The box that one glyph covers, from the block's top left corner; `None`
    /// for one without ink.
    ///
    /// # Errors
    /// [`FontError`] where the face's glyph table is damaged.
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
