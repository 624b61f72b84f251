//! Lines of clusters → glyphs and boxes in their places.

use std::ops::Range;

use super::lines::{PieceKind, Rules, tab_width};
use super::shape::{Run, Shaped, Shaper, add_widths};
use super::{Line, Overflow, PlacedGlyph, TextAlign, TextError, TextLayout};
use crate::base::{Rect, Size};
use crate::font::{Attachment, FontError};

/// Everything that places lines.
pub(super) struct Placing<'a> {
    layout: &'a mut TextLayout,
    shaper: &'a mut Shaper,
    rules: Rules,
    /// Glyphs that were shaped anew for the line at hand.
    fresh: Vec<Shaped>,
    /// How far down the next line begins.
    top: f32,
    /// What each line covers, before it is moved to its place.
    inks: Vec<Rect>,
}

/// A part of a line: what of a run is on it, or a sign that is not in the text.
struct Segment {
    clusters: Range<usize>,
    run: usize,
    level: u8,
    glyphs: Glyphs,
}

enum Glyphs {
    Shaped(Range<usize>),
    Fresh(Range<usize>),
}

/// A sign that is shown and not in the text: a hyphen, an ellipsis.
pub(super) struct Sign {
    glyphs: Vec<Shaped>,
    span: u32,
    pub(super) width: f64,
}

impl Sign {
    /// The first of some signs that the face of a span has, else the last.
    fn of(
        layout: &TextLayout,
        span: u32,
        shaper: &mut Shaper,
        signs: &[&str],
    ) -> Result<Self, FontError> {
        let style = layout.style(span);
        let has = |sign: &&&str| sign.chars().all(|c| style.face.glyph(c).is_some());
        let sign = signs
            .iter()
            .find(has)
            .or(signs.last())
            .copied()
            .unwrap_or("");
        let cluster = super::Cluster::of(0, sign.len() as u32);
        let run = Run {
            clusters: 0..1,
            span,
            face: 0,
            script: icu_properties::props::Script::Latin,
            level: 0,
        };
        let mut glyphs = Vec::new();
        let into = (&mut glyphs, &mut Vec::new());
        shaper.shape(sign, &[cluster], &run, style, into)?;
        let advance: i32 = glyphs.iter().map(|glyph: &Shaped| glyph.advance).sum();
        Ok(Self {
            glyphs,
            span,
            width: f64::from(advance) * style.unit_at(0),
        })
    }

    /// What a soft hyphen becomes at a line's end.
    pub(super) fn hyphen(
        layout: &TextLayout,
        span: u32,
        shaper: &mut Shaper,
    ) -> Result<Self, FontError> {
        Self::of(layout, span, shaper, &["\u{2010}", "-"])
    }

    fn ellipsis(layout: &TextLayout, span: u32, shaper: &mut Shaper) -> Result<Self, FontError> {
        Self::of(layout, span, shaper, &["\u{2026}", "..."])
    }
}

/// What of a line is shown: some of its clusters, and a sign between or behind them.
struct Shown {
    head: Range<usize>,
    sign: Option<Sign>,
    tail: Range<usize>,
}

impl<'a> Placing<'a> {
    pub(super) fn new(layout: &'a mut TextLayout, shaper: &'a mut Shaper, rules: Rules) -> Self {
        layout.glyphs.clear();
        layout.lines.clear();
        layout.cut = None;
        Self {
            layout,
            shaper,
            rules,
            fresh: Vec::new(),
            top: 0.0,
            inks: Vec::new(),
        }
    }
}

/// Places all lines, given by their ends.
pub(super) fn place_lines(placing: &mut Placing<'_>, ends: &[usize]) -> Result<(), TextError> {
    let options = placing.layout.options;
    let mut start = 0;
    let mut widest = 0.0_f64;
    let mut is_first = true;
    for (index, end) in ends.iter().enumerate() {
        let line = start..*end;
        let (above, below) = placing.extent(&line);
        if index > 0 && is_first {
            placing.top += options.paragraph_spacing;
        }
        // Lines that do not fit are left out where overflow asks for it.
        let more = placing.top + above + below;
        let cuts = !matches!(options.overflow, Overflow::Visible | Overflow::Clip);
        let is_last_wanted = options.max_lines == Some(index + 1);
        let next_fits = || {
            let next = more + above + below;
            !cuts || options.height.is_none_or(|height| next <= height + 0.01)
        };
        let is_last = index + 1 == ends.len() || is_last_wanted || !next_fits();
        let indent = if is_first { placing.rules.indent } else { 0.0 };
        let rest = is_last && index + 1 < ends.len();
        let shown = placing.shown(&line, indent, rest)?;
        let width = placing.line(line.clone(), shown, indent, (above, below))?;
        widest = widest.max(width);
        is_first = placing.layout.prepared.pieces[..*end]
            .last()
            .is_some_and(|piece| piece.kind == PieceKind::LineBreak);
        start = *end;
        if rest {
            let cut = placing
                .layout
                .clusters
                .get(*end)
                .map(|cluster| cluster.start);
            let known = placing.layout.cut;
            placing.layout.cut = known.or(cut);
            placing.hide(*end..placing.layout.clusters.len());
            break;
        }
    }
    let width = options.width.unwrap_or(widest as f32);
    placing.layout.size = Size::new(width, placing.top);
    placing.align(width);
    Ok(())
}

impl Placing<'_> {
    /// From the baseline of a line up and down: the largest of its spans. One without
    /// any cluster is as high as the span around it.
    fn extent(&self, line: &Range<usize>) -> (f32, f32) {
        let layout = &*self.layout;
        let runs = &layout.prepared.analysis.runs;
        let first = runs.partition_point(|run| run.clusters.end <= line.start);
        let mut extent: Option<(f32, f32)> = None;
        for run in runs[first..]
            .iter()
            .take_while(|run| run.clusters.start < line.end)
        {
            let own = layout.style(run.span).line_extent();
            let (above, below) = extent.unwrap_or(own);
            extent = Some((above.max(own.0), below.max(own.1)));
        }
        let around = || {
            Some(
                layout
                    .styles
                    .get(layout.span_of(line.start) as usize)?
                    .line_extent(),
            )
        };
        extent.or_else(around).unwrap_or_default()
    }

    /// How wide some clusters are.
    fn width_of(&self, clusters: Range<usize>, indent: f64) -> f64 {
        let pieces = &self.layout.prepared.pieces;
        super::lines::line_width(pieces, clusters.start, clusters.end, indent, &self.rules)
    }

    /// What of a line is shown, where it does not fit or text behind it is cut off.
    fn shown(&mut self, line: &Range<usize>, indent: f64, rest: bool) -> Result<Shown, TextError> {
        let options = self.layout.options;
        let end = line.end..line.end;
        let last = self.layout.prepared.pieces[line.clone()].last();
        if last.is_some_and(|piece| piece.kind == PieceKind::Hyphen) && !rest {
            let is_broken = line.end < self.layout.clusters.len();
            let span = self.layout.span_of(line.end - 1);
            let sign = if is_broken {
                Some(Sign::hyphen(self.layout, span, self.shaper)?)
            } else {
                None
            };
            let (head, tail) = (line.clone(), end);
            return Ok(Shown { head, sign, tail });
        }
        let whole = Shown {
            head: line.clone(),
            sign: None,
            tail: end.clone(),
        };
        let (Some(width), true) = (self.rules.width, is_ellipsis(options.overflow)) else {
            return Ok(whole);
        };
        let is_wide = self.width_of(line.clone(), indent) > width + 0.01;
        if !is_wide && !rest {
            return Ok(whole);
        }
        let sign = Sign::ellipsis(self.layout, self.layout.span_of(line.start), self.shaper)?;
        let room = width - sign.width - indent;
        // As much of the start as fits, without spaces at its end; or of the end.
        let head = |most: f64| {
            let too_wide = |end: usize| self.width_of(line.start..end, 0.0) > most;
            let end = first_where(line.start..line.end + 1, too_wide).max(line.start + 1) - 1;
            let pieces = &self.layout.prepared.pieces[line.start..end];
            let solid = |piece: &super::lines::Piece| {
                !matches!(piece.kind, PieceKind::Space | PieceKind::LineBreak)
            };
            line.start..line.start + pieces.iter().rposition(solid).map_or(0, |last| last + 1)
        };
        let tail = |most: f64, from: usize| {
            let fits = |start: usize| self.width_of(start..line.end, 0.0) <= most;
            first_where(from..line.end, fits)..line.end
        };
        let (head, tail) = match options.overflow {
            Overflow::EllipsisAtStart => (line.start..line.start, tail(room, line.start)),
            Overflow::EllipsisInMiddle => {
                let head = head(room * 0.5);
                let left = room - self.width_of(head.clone(), 0.0);
                let tail = tail(left, head.end);
                (head, tail)
            }
            _ => (head(room), end),
        };
        let clusters = &self.layout.clusters;
        self.layout.cut = clusters.get(head.end).map(|cluster| cluster.start);
        self.hide(head.end..tail.start);
        let sign = Some(sign);
        Ok(Shown { head, sign, tail })
    }

    /// Clusters that are not shown stand where the last line ends.
    fn hide(&mut self, clusters: Range<usize>) {
        let line = self.layout.lines.len().saturating_sub(1) as u32;
        for cluster in &mut self.layout.clusters[clusters] {
            cluster.line = line;
            cluster.advance = 0.0;
        }
    }

    /// Places a line as if it began at x = 0; returns how wide it is, indent
    /// included.
    fn line(
        &mut self,
        clusters: Range<usize>,
        shown: Shown,
        indent: f64,
        (above, below): (f32, f32),
    ) -> Result<f64, TextError> {
        let number = self.layout.lines.len() as u32;
        let base = self.base_level(clusters.start);
        let first_glyph = self.layout.glyphs.len();
        self.fresh.clear();
        self.inks.push(Rect::default());
        let mut segments = self.segments(shown.head.clone(), base)?;
        let sign_at = segments.len();
        segments.extend(self.segments(shown.tail.clone(), base)?);
        let trailing = self.trailing(&shown, clusters.end);
        let mut order: Vec<Placed> = segments
            .into_iter()
            .map(|segment| (segment.level, Some(segment)))
            .collect();
        if shown.sign.is_some() {
            order.insert(sign_at, (base, None));
        }
        reorder(&mut order);
        let baseline = self.top + above;
        let is_rtl = base % 2 == 1;
        let hanging: f64 = self.layout.prepared.pieces[trailing.clone()]
            .iter()
            .map(|piece| piece.width)
            .sum();
        let mut pen = if is_rtl { -hanging } else { 0.0 };
        let start = pen;
        let last_solid = trailing.start.checked_sub(1);
        for (_, segment) in order {
            pen = match (segment, &shown.sign) {
                (Some(segment), _) => {
                    let last = last_solid.filter(|_| shown.sign.is_none());
                    self.segment(&segment, pen, baseline, number, last, indent)
                }
                (None, Some(sign)) => {
                    let cluster = shown.head.end.max(clusters.start + 1) - 1;
                    self.sign(sign, pen, baseline, cluster)
                }
                (None, None) => pen,
            };
        }
        let width = pen - start - hanging;
        // In reading order, whatever order they were placed in.
        self.layout.glyphs[first_glyph..].sort_by_key(|glyph| glyph.cluster);
        self.layout.lines.push(Line {
            clusters: clusters.clone(),
            glyphs: first_glyph..self.layout.glyphs.len(),
            x: 0.0,
            top: self.top,
            width: width as f32,
            height: above + below,
            baseline,
            is_rtl,
            indent: indent as f32,
        });
        self.top += above + below;
        Ok(width + indent)
    }

    /// The level of the paragraph that a cluster is in.
    fn base_level(&self, cluster: usize) -> u8 {
        let paragraphs = &self.layout.prepared.analysis.paragraphs;
        let after = paragraphs.partition_point(|(first, _)| *first <= cluster);
        paragraphs
            .get(after.saturating_sub(1))
            .map_or(0, |(_, level)| *level)
    }

    /// What hangs at the end of a line: spaces, and the break.
    fn trailing(&self, shown: &Shown, end: usize) -> Range<usize> {
        if shown.sign.is_some() {
            return end..end;
        }
        let pieces = &self.layout.prepared.pieces[shown.head.clone()];
        let hangs = |piece: &&super::lines::Piece| {
            matches!(piece.kind, PieceKind::Space | PieceKind::LineBreak)
        };
        let count = pieces.iter().rev().take_while(hangs).count();
        end - count..end
    }

    /// The parts of runs that are on a line, in reading order. Where a line breaks
    /// inside of what belongs together, that is shaped anew.
    fn segments(&mut self, clusters: Range<usize>, base: u8) -> Result<Vec<Segment>, TextError> {
        let mut segments = Vec::new();
        let runs = &self.layout.prepared.analysis.runs;
        let first = runs.partition_point(|run| run.clusters.end <= clusters.start);
        let pieces = &self.layout.prepared.pieces;
        let hangs = |piece: &super::lines::Piece| {
            matches!(piece.kind, PieceKind::Space | PieceKind::LineBreak)
        };
        let solid = pieces[clusters.clone()]
            .iter()
            .rposition(|piece| !hangs(piece));
        let solid_end = clusters.start + solid.map_or(0, |last| last + 1);
        for index in first..runs.len() {
            let run = &self.layout.prepared.analysis.runs[index];
            if run.clusters.start >= clusters.end {
                break;
            }
            let part = run.clusters.start.max(clusters.start)..run.clusters.end.min(clusters.end);
            let level = run.level;
            let glyphs = self.glyphs_of(index, &part)?;
            // UAX #9, L1: what hangs at the end runs as the paragraph does.
            let middle = solid_end.clamp(part.start, part.end);
            let shaped = match &glyphs {
                Glyphs::Shaped(range) => &self.layout.prepared.shaped[range.clone()],
                Glyphs::Fresh(range) => &self.fresh[range.clone()],
            };
            let cut = shaped.partition_point(|glyph| (glyph.cluster as usize) < middle);
            let (head, tail) = glyphs.split(cut);
            for (clusters, level, glyphs) in [
                (part.start..middle, level, head),
                (middle..part.end, base, tail),
            ] {
                if !clusters.is_empty() {
                    segments.push(Segment {
                        clusters,
                        run: index,
                        level,
                        glyphs,
                    });
                }
            }
        }
        Ok(segments)
    }

    /// The glyphs of a part of a run.
    fn glyphs_of(&mut self, index: usize, part: &Range<usize>) -> Result<Glyphs, TextError> {
        let layout = &*self.layout;
        let run = &layout.prepared.analysis.runs[index];
        let all = layout.prepared.run_glyphs[index].clone();
        let shaped = &layout.prepared.shaped[all.clone()];
        let place = |cluster: usize| {
            all.start + shaped.partition_point(|glyph| (glyph.cluster as usize) < cluster)
        };
        let (first, end) = (place(part.start), place(part.end));
        let pieces = &layout.prepared.pieces;
        let is_torn = |cluster: usize, at: usize| {
            // After a space nothing is joined that would be seen.
            let is_inside = cluster > run.clusters.start && cluster < run.clusters.end;
            let glyph = layout.prepared.shaped.get(at).filter(|_| at < all.end);
            let before = at.checked_sub(1).filter(|before| *before >= all.start);
            let before = before.map(|before| &layout.prepared.shaped[before]);
            let is_tied = glyph.is_some_and(|glyph| glyph.is_tied)
                || before.is_some_and(|glyph| glyph.last_cluster as usize >= cluster);
            is_inside && is_tied && pieces[cluster - 1].kind != PieceKind::Space
        };
        if !is_torn(part.start, first) && !is_torn(part.end, end) {
            return Ok(Glyphs::Shaped(first..end));
        }
        let style = layout.style(run.span);
        let run = Run {
            clusters: part.clone(),
            ..run.clone()
        };
        let start = self.fresh.len();
        let into = (&mut self.fresh, &mut Vec::new());
        self.shaper
            .shape(&layout.text, &layout.clusters, &run, style, into)?;
        Ok(Glyphs::Fresh(start..self.fresh.len()))
    }

    /// Places the glyphs and clusters of a segment from a pen on; returns where the
    /// pen is behind it.
    fn segment(
        &mut self,
        segment: &Segment,
        mut pen: f64,
        baseline: f32,
        line: u32,
        last_solid: Option<usize>,
        indent: f64,
    ) -> f64 {
        let layout = &mut *self.layout;
        let run = &layout.prepared.analysis.runs[segment.run];
        let style = &layout.styles[run.span as usize];
        let unit = style.unit_at(run.face);
        let face = style.face_at(run.face);
        let baseline = baseline - style.baseline_shift;
        let glyphs: &[Shaped] = match &segment.glyphs {
            Glyphs::Shaped(range) => &layout.prepared.shaped[range.clone()],
            Glyphs::Fresh(range) => &self.fresh[range.clone()],
        };
        let is_rtl = segment.level % 2 == 1;
        let mut widths: Vec<f64> = layout.prepared.pieces[segment.clusters.clone()]
            .iter()
            .map(|piece| piece.width)
            .collect();
        if matches!(segment.glyphs, Glyphs::Fresh(_)) {
            // Shaped anew: their own widths, and the spacing that they had.
            for (width, cluster) in widths.iter_mut().zip(segment.clusters.clone()) {
                *width = layout.prepared.pieces[cluster].hanging;
            }
            add_widths(glyphs, unit, |cluster, width| {
                if let Some(own) = widths.get_mut(cluster - segment.clusters.start) {
                    *own += width;
                }
            });
        }
        let count = segment.clusters.len();
        let mut pens = vec![0.0; glyphs.len()];
        let mut cursor = if is_rtl { glyphs.len() } else { 0 };
        for step in 0..count {
            let local = if is_rtl { count - 1 - step } else { step };
            let index = segment.clusters.start + local;
            let piece = &layout.prepared.pieces[index];
            let mut width = widths[local];
            if piece.kind == PieceKind::Tab {
                width = tab_width(pen + indent, self.rules.tab);
            }
            if last_solid == Some(index) {
                width -= piece.hanging;
            }
            let cluster = &mut layout.clusters[index];
            cluster.line = line;
            cluster.x = pen as f32;
            cluster.advance = width as f32;
            cluster.is_rtl = is_rtl;
            // The glyphs are in reading order: from one cluster to the next they are
            // the next ones, or the ones before.
            let (first, end);
            if is_rtl {
                end = cursor;
                while cursor > 0 && glyphs[cursor - 1].cluster as usize >= index {
                    cursor -= 1;
                }
                first = cursor;
            } else {
                first = cursor;
                while glyphs
                    .get(cursor)
                    .is_some_and(|g| g.cluster as usize <= index)
                {
                    cursor += 1;
                }
                end = cursor;
            }
            // A ligature that stands for more clusters runs on over them.
            let mut at = pen;
            if is_rtl {
                let own: i32 = glyphs[first..end].iter().map(|glyph| glyph.advance).sum();
                at = pen + width - f64::from(own) * unit;
                for glyph in (first..end).rev() {
                    pens[glyph] = at;
                    at += f64::from(glyphs[glyph].advance) * unit;
                }
            } else {
                for glyph in first..end {
                    pens[glyph] = at;
                    at += f64::from(glyphs[glyph].advance) * unit;
                }
            }
            pen += width;
        }
        let mut origins: Vec<(f64, f64)> = Vec::with_capacity(glyphs.len());
        for (index, glyph) in glyphs.iter().enumerate() {
            let own = (
                pens[index] + f64::from(glyph.x) * unit,
                f64::from(glyph.y) * unit,
            );
            let place = match glyph.attachment {
                Some(Attachment::Mark { back, x, y }) => {
                    let base = index.checked_sub(back as usize).map(|base| origins[base]);
                    base.map_or(own, |base| {
                        (base.0 + f64::from(x) * unit, base.1 + f64::from(y) * unit)
                    })
                }
                _ => own,
            };
            origins.push(place);
        }
        lift(glyphs, &mut origins, unit);
        for (glyph, (x, y)) in glyphs.iter().zip(origins) {
            let stated = i32::from(face.advance(glyph.glyph));
            add_ink(&mut self.inks, glyph, (x, f64::from(baseline) - y), unit);
            layout.glyphs.push(PlacedGlyph {
                glyph: glyph.glyph,
                cluster: glyph.cluster,
                span: run.span,
                face: run.face,
                x: x as f32,
                y: baseline - y as f32,
                advance: (f64::from(stated) * unit) as f32,
                kerning: (f64::from(glyph.advance - stated) * unit) as f32,
            });
        }
        pen
    }

    /// Places a sign; returns where the pen is behind it.
    fn sign(&mut self, sign: &Sign, mut pen: f64, baseline: f32, cluster: usize) -> f64 {
        let style = &self.layout.styles[sign.span as usize];
        let unit = style.unit_at(0);
        for glyph in &sign.glyphs {
            let advance = f64::from(glyph.advance) * unit;
            add_ink(&mut self.inks, glyph, (pen, f64::from(baseline)), unit);
            self.layout.glyphs.push(PlacedGlyph {
                glyph: glyph.glyph,
                cluster: cluster as u32,
                span: sign.span,
                face: 0,
                x: pen as f32,
                y: baseline,
                advance: advance as f32,
                kerning: 0.0,
            });
            pen += advance;
        }
        pen
    }

    /// Moves every line to its place in the block.
    fn align(&mut self, width: f32) {
        let layout = &mut *self.layout;
        let align = layout.options.align;
        let mut ink = Rect::default();
        let count = layout.lines.len();
        for index in 0..count {
            let line = &layout.lines[index];
            let free = width - line.width - line.indent;
            let is_last = index + 1 == count
                || layout.prepared.pieces[line.clusters.clone()]
                    .last()
                    .is_some_and(|piece| piece.kind == PieceKind::LineBreak);
            if align == TextAlign::Justify && !is_last && free > 0.0 {
                let before = layout.lines[index].width;
                justify(layout, index, free);
                // The last letter moves as far as all spaces have grown.
                self.inks[index].width += layout.lines[index].width - before;
            }
            let line = &mut layout.lines[index];
            let free = width - line.width - line.indent;
            let indent = if line.is_rtl { 0.0 } else { line.indent };
            line.x = indent + free * align.share(line.is_rtl);
            let x = line.x;
            for glyph in &mut layout.glyphs[line.glyphs.clone()] {
                glyph.x += x;
            }
            for cluster in &mut layout.clusters[line.clusters.clone()] {
                cluster.x += x;
            }
            ink = ink.union(Rect {
                x: self.inks[index].x + x,
                ..self.inks[index]
            });
        }
        layout.ink = ink;
    }
}

/// The first number of a range from which on something holds; its end where it holds
/// for none.
fn first_where(range: Range<usize>, holds: impl Fn(usize) -> bool) -> usize {
    let (mut low, mut high) = (range.start, range.end);
    while low < high {
        let middle = low.midpoint(high);
        if holds(middle) {
            high = middle;
        } else {
            low = middle + 1;
        }
    }
    low
}

/// Adds what a glyph covers to the ink of the last line.
fn add_ink(inks: &mut [Rect], glyph: &Shaped, (x, y): (f64, f64), unit: f64) {
    let (Some(bounds), Some(ink)) = (glyph.bounds, inks.last_mut()) else {
        return;
    };
    let unit = unit as f32;
    *ink = ink.union(Rect::new(
        x as f32 + f32::from(bounds.x_min) * unit,
        y as f32 - f32::from(bounds.y_max) * unit,
        (f32::from(bounds.x_max) - f32::from(bounds.x_min)) * unit,
        (f32::from(bounds.y_max) - f32::from(bounds.y_min)) * unit,
    ));
}

/// A segment, or the sign, with its level.
type Placed = (u8, Option<Segment>);

/// UAX #9, L2: from the highest level down to the lowest odd one, what is at that
/// level or above is reversed.
fn reorder(order: &mut [Placed]) {
    let highest = order.iter().map(|(level, _)| *level).max().unwrap_or(0);
    let odd = order
        .iter()
        .map(|(level, _)| *level)
        .filter(|level| level % 2 == 1);
    let Some(lowest) = odd.min() else {
        return;
    };
    for level in (lowest..=highest).rev() {
        let mut start = 0;
        while start < order.len() {
            let run = order[start..]
                .iter()
                .take_while(|(own, _)| *own >= level)
                .count();
            order[start..start + run].reverse();
            start += run.max(1);
        }
    }
}

/// Gives glyphs that join cursively the height of those that they follow.
fn lift(glyphs: &[Shaped], origins: &mut [(f64, f64)], unit: f64) {
    let parent = |index: usize| match glyphs[index].attachment {
        Some(Attachment::Cursive { on, y }) => {
            let parent = index.checked_add_signed(on as isize)?;
            (parent < glyphs.len()).then_some((parent, y))
        }
        _ => None,
    };
    if !glyphs
        .iter()
        .any(|glyph| matches!(glyph.attachment, Some(Attachment::Cursive { .. })))
    {
        return;
    }
    let height = |index: usize| {
        // Chains lead on; they are as long as a word.
        let (mut at, mut sum) = (index, 0.0);
        for _ in 0..64 {
            let Some((next, y)) = parent(at) else { break };
            sum += f64::from(y) * unit;
            at = next;
        }
        sum
    };
    let lifted: Vec<f64> = (0..glyphs.len()).map(height).collect();
    for (index, glyph) in glyphs.iter().enumerate() {
        let base = match glyph.attachment {
            Some(Attachment::Mark { back, .. }) => index.saturating_sub(back as usize),
            _ => index,
        };
        origins[index].1 += lifted[base];
    }
}

/// Widens the spaces of a line by `free` together.
fn justify(layout: &mut TextLayout, index: usize, free: f32) {
    let line = layout.lines[index].clone();
    let pieces = &layout.prepared.pieces;
    let is_space = |cluster: &usize| pieces[*cluster].kind == PieceKind::Space;
    let solid = line
        .clusters
        .clone()
        .rev()
        .find(|cluster| !is_space(cluster));
    let Some(solid) = solid else { return };
    let spaces: Vec<f32> = (line.clusters.start..solid)
        .filter(is_space)
        .map(|cluster| layout.clusters[cluster].x)
        .collect();
    if spaces.is_empty() {
        return;
    }
    let more = free / spaces.len() as f32;
    // Everything to the right of a space moves by what the space grows.
    let shift = |x: f32| spaces.iter().filter(|space| **space < x - 1e-4).count() as f32 * more;
    for glyph in &mut layout.glyphs[line.glyphs.clone()] {
        let cluster = &layout.clusters[glyph.cluster as usize];
        glyph.x += shift(cluster.x);
    }
    for cluster in line.clusters.clone() {
        let is_wider = is_space(&cluster) && cluster < solid;
        let cluster = &mut layout.clusters[cluster];
        cluster.x += shift(cluster.x);
        cluster.advance += if is_wider { more } else { 0.0 };
    }
    layout.lines[index].width += free;
}

fn is_ellipsis(overflow: Overflow) -> bool {
    matches!(
        overflow,
        Overflow::Ellipsis | Overflow::EllipsisAtStart | Overflow::EllipsisInMiddle
    )
}

impl Glyphs {
    /// Cuts the glyphs in two.
    fn split(self, at: usize) -> (Self, Self) {
        match self {
            Self::Shaped(range) => {
                let middle = range.start + at;
                (
                    Self::Shaped(range.start..middle),
                    Self::Shaped(middle..range.end),
                )
            }
            Self::Fresh(range) => {
                let middle = range.start + at;
                (
                    Self::Fresh(range.start..middle),
                    Self::Fresh(middle..range.end),
                )
            }
        }
    }
}
