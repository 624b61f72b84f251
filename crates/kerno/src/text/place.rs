//! Lines of clusters → glyphs and boxes in their places.

use std::ops::Range;

use super::align::align;
use super::attach::origins;
use super::lines::{PieceKind, Rules, tab_width};
use super::segments::{Glyphs, Ordered, Segment, reorder};
use super::shape::{Shaped, Shaper, add_widths};
use super::signs::{Shown, Sign};
use super::{Line, Overflow, PlacedGlyph, TextError, TextLayout};
use crate::base::{Rect, Size};

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
        let (layout, shaper) = (&*placing.layout, &mut *placing.shaper);
        let shown = Shown::of(layout, shaper, &placing.rules, &line, (indent, rest))?;
        let width = placing.line(line.clone(), shown, indent, (above, below))?;
        widest = widest.max(width);
        is_first = placing.layout.prepared.pieces[..*end]
            .last()
            .is_some_and(|piece| piece.kind == PieceKind::LineBreak);
        start = *end;
        if rest {
            break;
        }
    }
    let width = options.width.unwrap_or(widest as f32);
    placing.layout.size = Size::new(width, placing.top);
    align(placing.layout, &mut placing.inks, width);
    placing.leave_out(start..placing.layout.clusters.len());
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

    /// Clusters behind the last line that is shown stand where it ends.
    fn leave_out(&mut self, clusters: Range<usize>) {
        let layout = &mut *self.layout;
        let number = layout.lines.len().saturating_sub(1) as u32;
        let Some(line) = layout.lines.last() else {
            return;
        };
        let end = if line.is_rtl {
            line.x
        } else {
            line.x + line.width
        };
        let first = layout.clusters.get(clusters.start);
        layout.cut = layout.cut.or(first.map(|cluster| cluster.start));
        for cluster in &mut layout.clusters[clusters] {
            (cluster.line, cluster.x, cluster.advance) = (number, end, 0.0);
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
        let (layout, shaper, fresh) = (&*self.layout, &mut *self.shaper, &mut self.fresh);
        let head = shown.head.clone();
        let mut segments = Segment::on_line(layout, shaper, fresh, head, base)?;
        let sign_at = segments.len();
        let tail = shown.tail.clone();
        segments.extend(Segment::on_line(layout, shaper, fresh, tail, base)?);
        let trailing = shown.trailing(&layout.prepared.pieces, clusters.end);
        let mut order: Vec<Ordered> = segments
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
                    self.give_way(shown.head.end..shown.tail.start, number, pen);
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

    /// Clusters in whose place a sign is shown stand where it begins.
    fn give_way(&mut self, clusters: Range<usize>, line: u32, pen: f64) {
        let layout = &mut *self.layout;
        if let Some(first) = layout
            .clusters
            .get(clusters.start)
            .filter(|_| !clusters.is_empty())
        {
            layout.cut = Some(first.start);
        }
        for cluster in &mut layout.clusters[clusters] {
            (cluster.line, cluster.x, cluster.advance) = (line, pen as f32, 0.0);
        }
    }

    /// The level of the paragraph that a cluster is in.
    fn base_level(&self, cluster: usize) -> u8 {
        let paragraphs = &self.layout.prepared.analysis.paragraphs;
        let after = paragraphs.partition_point(|(first, _)| *first <= cluster);
        paragraphs
            .get(after.saturating_sub(1))
            .map_or(0, |(_, level)| *level)
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
        let glyphs = segment.glyphs.among(&layout.prepared.shaped, &self.fresh);
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
        let origins = origins(glyphs, &pens, unit);
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
