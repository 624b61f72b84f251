//! Lines of clusters → glyphs and boxes in their places.

use std::ops::Range;

use super::align::align;
use super::attach::{find_origins, free_origin};
use super::ink::{Ink, add_rules};
use super::lines::{Piece, PieceKind, Rules, tab_width};
use super::segments::{Glyphs, Segment, reorder};
use super::shape::{Shaped, add_widths};
use super::signs::{Shown, Sign};
use super::workspace::Workspace;
use super::{Cluster, Line, Overflow, PlacedGlyph, TextError, TextLayout};
use crate::base::Size;

/// Everything that places lines.
pub(super) struct Placing<'a> {
    layout: &'a mut TextLayout,
    work: &'a mut Workspace,
    rules: Rules,
    /// How far down the next line begins.
    top: f32,
}

impl<'a> Placing<'a> {
    pub(super) fn new(layout: &'a mut TextLayout, work: &'a mut Workspace, rules: Rules) -> Self {
        layout.glyphs.clear();
        layout.glyphs.reserve(layout.prepared.shaped.len());
        layout.lines.clear();
        layout.cut = None;
        work.inks.clear();
        Self {
            layout,
            work,
            rules,
            top: 0.0,
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
        placing.work.fresh.clear();
        let with = (&mut placing.work.shaper, &mut placing.work.fresh);
        let shown = Shown::of(placing.layout, with, &placing.rules, &line, (indent, rest))?;
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
    align(placing.layout, placing.work, width);
    add_rules(placing.layout);
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
            let style = layout.style(run.span);
            let own = style.line_extent();
            let (above, below) = extent.unwrap_or(own);
            extent = Some((above.max(own.0), below.max(own.1)));
            if let (Some(sprite), Some((above, below))) = (layout.sprite_of(run.span), &mut extent)
            {
                let own = sprite.extent(style);
                (*above, *below) = (above.max(own.0), below.max(own.1));
            }
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
        let sign_at = self.find_segments(&shown, base)?;
        let trailing = shown.trailing(&self.layout.prepared.pieces, clusters.end);
        let baseline = self.top + above;
        let is_rtl = base % 2 == 1;
        let hanging: f64 = self.layout.prepared.pieces[trailing.clone()]
            .iter()
            .map(|piece| piece.width)
            .sum();
        let start = if is_rtl { -hanging } else { 0.0 };
        let last_solid = trailing.start.checked_sub(1);
        let last_solid = last_solid.filter(|_| shown.sign.is_none());
        let (mut pen, mut sign_pen) = (start, start);
        self.work.pens.clear();
        for at in 0..self.work.order.len() {
            match (self.work.order[at].1, &shown.sign) {
                (Some(index), _) => {
                    pen = self.place_clusters(index, pen, number, last_solid, indent);
                }
                (None, Some(sign)) => {
                    sign_pen = pen;
                    self.give_way(shown.head.end..shown.tail.start, number, pen);
                    pen += sign.width;
                }
                (None, None) => {}
            }
        }
        let width = pen - start - hanging;
        // In reading order, whatever order they stand in.
        let mut ink = Ink::default();
        for index in 0..=self.work.segments.len() {
            if let Some(sign) = shown.sign.as_ref().filter(|_| index == sign_at) {
                let cluster = shown.head.end.max(clusters.start + 1) - 1;
                self.place_sign(sign, sign_pen, baseline, cluster, &mut ink);
            }
            if index < self.work.segments.len() {
                self.place_glyphs(index, baseline, &mut ink);
            }
        }
        self.work.inks.push(ink.rect());
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

    /// Finds the parts of a line, and the order in which they stand; returns before
    /// which of them a sign is read.
    fn find_segments(&mut self, shown: &Shown, base: u8) -> Result<usize, TextError> {
        let Workspace {
            shaper,
            fresh,
            segments,
            order,
            ..
        } = &mut *self.work;
        segments.clear();
        let head = shown.head.clone();
        Segment::add_line(self.layout, (shaper, fresh), head, base, segments)?;
        let sign_at = segments.len();
        let tail = shown.tail.clone();
        Segment::add_line(self.layout, (shaper, fresh), tail, base, segments)?;
        order.clear();
        let levels = segments.iter().map(|segment| segment.level);
        order.extend(
            levels
                .enumerate()
                .map(|(index, level)| (level, Some(index))),
        );
        if shown.sign.is_some() {
            order.insert(sign_at, (base, None));
        }
        reorder(order);
        Ok(sign_at)
    }

    /// Places the clusters of a segment from a pen on, and finds the pens of its
    /// glyphs; returns where the pen is behind it.
    fn place_clusters(
        &mut self,
        index: usize,
        mut pen: f64,
        line: u32,
        last_solid: Option<usize>,
        indent: f64,
    ) -> f64 {
        let (layout, work) = (&mut *self.layout, &mut *self.work);
        let segment = &mut work.segments[index];
        let run = &layout.prepared.analysis.runs[segment.run];
        let unit = layout.styles[run.span as usize].unit_at(run.face);
        let glyphs = segment.glyphs.among(&layout.prepared.shaped, &work.fresh);
        let pieces = &layout.prepared.pieces[segment.clusters.clone()];
        let is_rtl = segment.level % 2 == 1;
        let is_fresh = matches!(segment.glyphs, Glyphs::Fresh(_));
        if is_fresh {
            // Shaped anew: their own widths, and the spacing that they had.
            work.numbers.clear();
            let spacing = |piece: &Piece| {
                let [before, behind] = piece.padding.map(f64::from);
                piece.hanging + before + behind
            };
            work.numbers.extend(pieces.iter().map(spacing));
            add_widths(glyphs, unit, |cluster, width| {
                let own = cluster - segment.clusters.start;
                if let Some(own) = work.numbers.get_mut(own) {
                    *own += width;
                }
            });
        }
        segment.pens = work.pens.len();
        work.pens.resize(segment.pens + glyphs.len(), 0.0);
        let pens = &mut work.pens[segment.pens..];
        let rules = &self.rules;
        let place = |index: usize, piece: &Piece, cluster: &mut Cluster, pen: f64| {
            let mut width = match piece.kind {
                PieceKind::Tab => tab_width(pen + indent, rules),
                _ if is_fresh => work.numbers[index - segment.clusters.start],
                _ => piece.width,
            };
            if last_solid == Some(index) {
                width -= piece.hanging;
            }
            let [before, behind] = piece.padding.map(f64::from);
            let start = pen + if is_rtl { behind } else { before };
            let advance = width - before - behind;
            cluster.line = line;
            cluster.x = start as f32;
            cluster.advance = advance as f32;
            cluster.is_rtl = is_rtl;
            // Where it begins and how wide it is, and where the next one begins.
            (start, advance, pen + width)
        };
        let clusters = &mut layout.clusters[segment.clusters.clone()];
        let all = segment.clusters.clone().zip(pieces).zip(clusters);
        // The glyphs are in reading order: from one cluster to the next they are the
        // next ones, or the ones before. A ligature that stands for more clusters runs
        // on over them.
        if is_rtl {
            let mut cursor = glyphs.len();
            for ((index, piece), cluster) in all.rev() {
                let (start, width, next) = place(index, piece, cluster, pen);
                let end = cursor;
                while cursor > 0 && glyphs[cursor - 1].cluster as usize >= index {
                    cursor -= 1;
                }
                let own = &glyphs[cursor..end];
                let advance: i32 = own.iter().map(|glyph| glyph.advance).sum();
                let mut at = start + width - f64::from(advance) * unit;
                for (glyph, pen) in own.iter().zip(&mut pens[cursor..end]).rev() {
                    *pen = at;
                    at += f64::from(glyph.advance) * unit;
                }
                pen = next;
            }
        } else {
            let mut own = glyphs.iter().zip(pens).peekable();
            for ((index, piece), cluster) in all {
                let (mut at, _, next) = place(index, piece, cluster, pen);
                let is_own = |(glyph, _): &(&Shaped, _)| glyph.cluster as usize <= index;
                while let Some((glyph, pen)) = own.next_if(is_own) {
                    *pen = at;
                    at += f64::from(glyph.advance) * unit;
                }
                pen = next;
            }
        }
        pen
    }

    /// Places the glyphs of a segment whose pens are known.
    fn place_glyphs(&mut self, index: usize, baseline: f32, ink: &mut Ink) {
        let (layout, work) = (&mut *self.layout, &mut *self.work);
        let segment = &work.segments[index];
        let run = &layout.prepared.analysis.runs[segment.run];
        let style = &layout.styles[run.span as usize];
        if let Some(sprite) = layout.sprite_of(run.span) {
            let cluster = &layout.clusters[segment.clusters.start];
            ink.add_sprite(sprite, cluster.x, baseline, style);
        }
        let unit = style.unit_at(run.face);
        let baseline = baseline - style.baseline_shift;
        let glyphs = segment.glyphs.among(&layout.prepared.shaped, &work.fresh);
        let pens = &work.pens[segment.pens..];
        let is_attached = glyphs.iter().any(|glyph| glyph.attachment.is_some());
        if is_attached {
            find_origins(glyphs, pens, unit, (&mut work.origins, &mut work.numbers));
        }
        let origins = &work.origins;
        let mut own = Ink::default();
        let placed = glyphs.iter().zip(pens).enumerate();
        let placed = placed.map(|(index, (glyph, pen))| {
            let stated = i32::from(glyph.stated);
            let (x, y) = if is_attached {
                origins[index]
            } else {
                free_origin(glyph, *pen, unit)
            };
            let (x, y) = (x as f32, baseline - y as f32);
            own.add(glyph, x, y, unit as f32);
            PlacedGlyph {
                glyph: glyph.glyph,
                cluster: glyph.cluster,
                span: run.span,
                face: run.face,
                x,
                y,
                advance: (f64::from(stated) * unit) as f32,
                kerning: (f64::from(glyph.advance - stated) * unit) as f32,
            }
        });
        layout.glyphs.extend(placed);
        ink.merge(&own, style);
    }

    /// Places a sign at a pen.
    fn place_sign(
        &mut self,
        sign: &Sign,
        mut pen: f64,
        baseline: f32,
        cluster: usize,
        ink: &mut Ink,
    ) {
        let style = &self.layout.styles[sign.span as usize];
        let unit = style.unit_at(0);
        let mut own = Ink::default();
        for glyph in &self.work.fresh[sign.glyphs.clone()] {
            let advance = f64::from(glyph.advance) * unit;
            own.add(glyph, pen as f32, baseline, unit as f32);
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
        ink.merge(&own, style);
    }
}
