//! Lines of clusters → glyphs and boxes in their places.

use std::ops::Range;

use crate::base::Size;
use crate::text::ink::{Ink, add_rules, sum_up};
use crate::text::measure::lines::{ClusterKind, Rules, tab_width};
use crate::text::place::align::align;
use crate::text::place::attach::attach;
use crate::text::place::insertions::{Insertion, VisibleParts};
use crate::text::place::segments::{Glyphs, Segment, reorder};
use crate::text::{Cluster, LayoutContext, Line, Overflow, PlacedGlyph, TextError, TextLayout};

/// Everything that places lines.
pub(in crate::text) struct Placing<'a> {
    layout: &'a mut TextLayout,
    work: &'a mut LayoutContext,
    rules: Rules,
    /// Distance down to the next line.
    top: f32,
}

impl<'a> Placing<'a> {
    pub(in crate::text) fn new(
        layout: &'a mut TextLayout,
        work: &'a mut LayoutContext,
        rules: Rules,
    ) -> Self {
        layout.glyphs.clear();
        layout.glyphs.reserve(layout.prepared.shaped.list.len());
        layout.lines.clear();
        layout.cut = None;
        let top = work.top;
        Self {
            layout,
            work,
            rules,
            top,
        }
    }
}

/// Places all lines, given by their ends.
pub(in crate::text) fn place_lines(
    placing: &mut Placing<'_>,
    ends: &[usize],
) -> Result<(), TextError> {
    let options = placing.layout.options;
    let first = match options.overflow {
        Overflow::EllipsisAtStart => placing.first_that_stays(ends),
        _ => 0,
    };
    let mut start = first.checked_sub(1).map_or(0, |last| ends[last]);
    let skipped = 0..start;
    let mut widest = 0.0_f32;
    for (index, end) in ends.iter().enumerate().skip(first) {
        let line = start..*end;
        let (above, below) = placing.extent(&line);
        let is_first = placing.begins_paragraph(start);
        if index > first && is_first {
            placing.top += options.paragraph_spacing;
        }
        // Lines that do not fit are left out where overflow asks for it.
        let more = placing.top + above + below;
        let cuts = matches!(
            options.overflow,
            Overflow::Ellipsis | Overflow::EllipsisInMiddle
        );
        let is_last_wanted = options.max_lines == Some(index + 1);
        let next_fits = || {
            let next = more + above + below;
            !cuts || options.height.is_none_or(|height| next <= height + 0.01)
        };
        let is_last = index + 1 == ends.len() || (is_last_wanted && first == 0) || !next_fits();
        let indent = if is_first { placing.rules.indent } else { 0.0 };
        let rest = is_last && index + 1 < ends.len();
        let is_torn = rest || (index == first && first > 0);
        let fresh = &mut placing.work.fresh;
        fresh.clear();
        let shown = VisibleParts::of(
            placing.layout,
            fresh,
            &placing.rules,
            &line,
            (indent, is_torn),
        )?;
        let width = placing.line(line.clone(), shown, indent, (above, below))?;
        widest = widest.max(width);
        start = *end;
        if rest {
            break;
        }
    }
    let width = options.width.unwrap_or(widest);
    placing.layout.size = Size::new(width, placing.top);
    align(placing.layout, placing.work, width);
    add_rules(placing.layout);
    sum_up(placing.layout);
    placing.leave_out(start..placing.layout.clusters.len());
    placing.leave_out_before(skipped);
    Ok(())
}

impl Placing<'_> {
    /// The first of the lines that stay where the text loses its beginning: from the last
    /// one up as many as there may be and have room.
    fn first_that_stays(&self, ends: &[usize]) -> usize {
        let options = &self.layout.options;
        let most = options.max_lines.unwrap_or(usize::MAX).max(1);
        let room = options.height.unwrap_or(f32::INFINITY) + 0.01;
        let mut used = 0.0;
        let mut first = ends.len();
        while first > 0 && ends.len() - first < most {
            let start = first.checked_sub(2).map_or(0, |before| ends[before]);
            let (above, below) = self.extent(&(start..ends[first - 1]));
            let is_after_paragraph = first < ends.len() && self.begins_paragraph(ends[first - 1]);
            let spacing = if is_after_paragraph {
                options.paragraph_spacing
            } else {
                0.0
            };
            used += above + below + spacing;
            if used > room && first < ends.len() {
                break;
            }
            first -= 1;
        }
        first
    }

    /// Returns whether a paragraph begins with a cluster.
    fn begins_paragraph(&self, cluster: usize) -> bool {
        let before = self.layout.prepared.measures.list[..cluster].last();
        before.is_none_or(|piece| piece.kind == ClusterKind::LineBreak)
    }

    /// From the baseline of a line up and down: the largest of its spans, and of the faces
    /// in them where their line height is that of the face (CSS Inline Layout, “Layout
    /// Bounds”: a fixed line height counts whatever the face). One without any cluster is
    /// as high as the span around it.
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
            let own = style.line_extent(run.face);
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
                    .line_extent(0),
            )
        };
        extent.or_else(around).unwrap_or_default()
    }

    /// Clusters after the last line that is shown stand where it ends, or with those of the line
    /// in whose place a sign is shown.
    fn leave_out(&mut self, clusters: Range<usize>) {
        let layout = &mut *self.layout;
        let number = layout.lines.len().saturating_sub(1) as u32;
        let Some(line) = layout.lines.last() else {
            return;
        };
        let is_rtl = line.is_rtl;
        let edge = if is_rtl { line.x } else { line.x + line.width };
        let is_cut = |cluster: &&Cluster| layout.cut.is_some_and(|cut| cluster.start >= cut);
        let before = clusters
            .start
            .checked_sub(1)
            .map(|last| &layout.clusters[last]);
        let before = before.filter(|_| !line.clusters.is_empty());
        let end = match before.filter(is_cut) {
            Some(hidden) => hidden.x,
            // The sign stands after all of the line.
            None if is_rtl => before.map_or(edge, |last| last.x),
            None => before.map_or(edge, |last| last.x + last.advance),
        };
        let first = layout.clusters.get(clusters.start);
        layout.cut = layout.cut.or(first.map(|cluster| cluster.start));
        for cluster in &mut layout.clusters[clusters] {
            cluster.place(number, f64::from(end), 0.0, is_rtl);
        }
    }

    /// Clusters before the first line that is shown stand where it begins.
    fn leave_out_before(&mut self, clusters: Range<usize>) {
        let layout = &mut *self.layout;
        if let (Some(line), Some(first)) = (layout.lines.first(), layout.clusters.first())
            && !clusters.is_empty()
        {
            let is_rtl = line.is_rtl;
            let start = if is_rtl { line.x + line.width } else { line.x };
            layout.cut = Some(first.start);
            for cluster in &mut layout.clusters[clusters] {
                cluster.place(0, f64::from(start), 0.0, is_rtl);
            }
        }
    }

    /// Places a line as if it began at x = 0; returns how wide it is, indent
    /// included.
    fn line(
        &mut self,
        clusters: Range<usize>,
        shown: VisibleParts,
        indent: f64,
        (above, below): (f32, f32),
    ) -> Result<f32, TextError> {
        let number = self.layout.lines.len() as u32;
        let base = self.base_level(clusters.start);
        let first_glyph = self.layout.glyphs.len();
        let sign_at = self.find_segments(&shown, base)?;
        let trailing = shown.trailing(self.layout, clusters.end);
        let measures = &self.layout.prepared.measures;
        let baseline = self.top + above;
        let is_rtl = base % 2 == 1;
        let mut hanging = measures.pens[trailing.end] - measures.pens[trailing.start];
        let last_solid = trailing.start.checked_sub(1);
        let ends_whole = shown.sign.is_none() || !shown.tail.is_empty();
        let last_solid = last_solid.filter(|_| ends_whole);
        if !measures.tabs.is_empty() {
            let sign = shown.sign.as_ref().map(|sign| (sign_at, sign.width));
            self.measure_tabs(sign, last_solid, indent);
            let tabs = self.work.tabs.iter();
            let own = tabs.filter(|(tab, _)| trailing.contains(tab));
            hanging += own.map(|(_, width)| width).sum::<f64>();
        }
        let start = if is_rtl { -hanging } else { 0.0 };
        let (mut pen, mut sign_pen) = (start, start);
        for at in 0..self.work.order.len() {
            match (self.work.order[at].1, &shown.sign) {
                (Some(index), _) => {
                    pen = self.place_clusters(index, pen, number, last_solid);
                }
                (None, Some(sign)) => {
                    sign_pen = pen;
                    let start = if is_rtl { pen + sign.width } else { pen };
                    self.give_way(shown.head.end..shown.tail.start, number, (start, is_rtl));
                    pen += sign.width;
                }
                (None, None) => {}
            }
        }
        let width = pen - start - hanging;
        // In reading order, whatever order they stand in.
        let mut ink = Ink::NONE;
        for index in 0..=self.work.segments.len() {
            if let Some(sign) = shown.sign.as_ref().filter(|_| index == sign_at) {
                let cluster = shown.head.end.max(clusters.start + 1) - 1;
                self.place_sign(sign, sign_pen, baseline, cluster, &mut ink);
            }
            if index < self.work.segments.len() {
                self.place_glyphs(index, baseline, &mut ink);
            }
        }
        let line = Line {
            clusters: clusters.clone(),
            glyphs: first_glyph..self.layout.glyphs.len(),
            x: 0.0,
            top: self.top,
            width: width as f32,
            height: above + below,
            baseline,
            is_rtl,
            indent: indent as f32,
            ink: ink.rect(),
        };
        let reach = line.width + line.indent;
        self.layout.lines.push(line);
        self.top += above + below;
        Ok(reach)
    }

    /// Clusters in whose place a sign is shown stand where it begins.
    fn give_way(&mut self, clusters: Range<usize>, line: u32, (pen, is_rtl): (f64, bool)) {
        let layout = &mut *self.layout;
        if let Some(first) = layout
            .clusters
            .get(clusters.start)
            .filter(|_| !clusters.is_empty())
        {
            layout.cut = Some(first.start);
        }
        for cluster in &mut layout.clusters[clusters] {
            cluster.place(line, pen, 0.0, is_rtl);
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
    fn find_segments(&mut self, shown: &VisibleParts, base: u8) -> Result<usize, TextError> {
        let LayoutContext {
            fresh,
            segments,
            order,
            ..
        } = &mut *self.work;
        segments.clear();
        let (head, tail) = (shown.head.clone(), shown.tail.clone());
        Segment::add_line(self.layout, fresh, head, base, segments)?;
        let sign_at = segments.len();
        Segment::add_line(self.layout, fresh, tail, base, segments)?;
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

    /// Finds the widths of the tabs of a line: stops count from where the line begins, in either
    /// direction. A sign of some width is read before the segment of its number.
    fn measure_tabs(&mut self, sign: Option<(usize, f64)>, last_solid: Option<usize>, indent: f64) {
        let measures = &self.layout.prepared.measures;
        let LayoutContext {
            fresh,
            segments,
            tabs,
            ..
        } = &mut *self.work;
        tabs.clear();
        let mut pen = 0.0;
        for (index, segment) in segments.iter().enumerate() {
            pen += sign.map_or(0.0, |(at, width)| if at == index { width } else { 0.0 });
            if measures.list[segment.clusters.start].is_tab() {
                for tab in segment.clusters.clone() {
                    let width = tab_width(pen + indent, &self.rules);
                    tabs.push((tab, width));
                    pen += width;
                }
            } else {
                let pens = segment.pens(measures, &fresh.pens);
                pen += pens[pens.len() - 1] - pens[0];
                pen -= segment.hanging(measures, last_solid);
            }
        }
    }

    /// Places the clusters of a segment from a pen on; returns where the pen is after
    /// it.
    fn place_clusters(
        &mut self,
        index: usize,
        pen: f64,
        line: u32,
        last_solid: Option<usize>,
    ) -> f64 {
        let (layout, work) = (&mut *self.layout, &mut *self.work);
        let segment = &mut work.segments[index];
        let measures = &layout.prepared.measures;
        let is_rtl = segment.level % 2 == 1;
        let clusters = &mut layout.clusters[segment.clusters.clone()];
        let set_apart = |clusters: &mut [Cluster]| {
            for (padded, sides) in measures.padding_in(&segment.clusters) {
                let cluster = &mut clusters[padded - segment.clusters.start];
                cluster.x += sides[usize::from(is_rtl)];
                cluster.advance -= sides[0] + sides[1];
            }
        };
        if measures.list[segment.clusters.start].is_tab() {
            let first = work
                .tabs
                .partition_point(|(tab, _)| *tab < segment.clusters.start);
            let pen = place_tabs(clusters, &work.tabs[first..], is_rtl, pen, line);
            set_apart(clusters);
            return pen;
        }
        let pens = segment.pens(measures, &work.fresh.pens);
        let width = pens[pens.len() - 1] - pens[0];
        let hanging = segment.hanging(measures, last_solid);
        let origin = if is_rtl {
            pen + width - hanging + pens[0]
        } else {
            pen - pens[0]
        };
        let (starts, ends) = (&pens[..clusters.len()], &pens[1..]);
        let edges = starts.iter().zip(ends);
        for (cluster, (start, end)) in clusters.iter_mut().zip(edges) {
            let x = if is_rtl { origin - end } else { origin + start };
            cluster.place(line, x, end - start, is_rtl);
        }
        // Spaces that hang at the line's end do not belong to the last cluster.
        if let (Some(cluster), true) = (clusters.last_mut(), hanging != 0.0) {
            cluster.advance -= hanging as f32;
            cluster.x += if is_rtl { hanging as f32 } else { 0.0 };
        }
        set_apart(clusters);
        segment.origin = origin;
        pen + width - hanging
    }

    /// Places the glyphs of a segment whose clusters are placed.
    fn place_glyphs(&mut self, index: usize, baseline: f32, ink: &mut Ink) {
        let (layout, work) = (&mut *self.layout, &mut *self.work);
        let segment = &work.segments[index];
        let prepared = &layout.prepared;
        let run = &prepared.analysis.runs[segment.run];
        let style = &layout.styles[run.span as usize];
        if let Some(sprite) = layout.sprite_of(run.span) {
            let cluster = &layout.clusters[segment.clusters.start];
            ink.add_sprite(sprite, cluster.x, baseline, style);
        }
        let (of, range) = match &segment.glyphs {
            Glyphs::Shaped(range) => (&prepared.shaped, range),
            Glyphs::Reshaped(range, _) => (&work.fresh.glyphs, range),
        };
        let glyphs = &of.list[range.clone()];
        if glyphs.is_empty() {
            return;
        }
        let unit = style.unit_at(run.face);
        let baseline = baseline - style.baseline_shift;
        let is_rtl = segment.level % 2 == 1;
        let sign = if is_rtl { -1.0 } else { 1.0 };
        let origin = segment.origin;
        // Spaces that hang may run the other way than their run.
        let turned = if is_rtl == run.is_rtl() { 0.0 } else { unit };
        let first = layout.glyphs.len();
        let mut own = Ink::NONE;
        layout.glyphs.extend(glyphs.iter().map(|glyph| {
            let pen = origin + sign * glyph.pen - turned * f64::from(glyph.advance);
            let (x, y) = (pen as f32 + glyph.placed.x, baseline + glyph.placed.y);
            own.add(glyph.ink, x, y);
            PlacedGlyph {
                x,
                y,
                ..glyph.placed
            }
        }));
        work.attachments.clear();
        work.attachments.extend(of.attachments_in(range.clone()));
        if !work.attachments.is_empty() {
            let placed = &mut layout.glyphs[first..];
            attach(placed, &work.attachments, unit);
            own = Ink::NONE;
            for (glyph, placed) in glyphs.iter().zip(placed) {
                own.add(glyph.ink, placed.x, placed.y);
            }
        }
        ink.merge(&own, style);
    }

    /// Places a sign at a pen.
    fn place_sign(
        &mut self,
        sign: &Insertion,
        mut pen: f64,
        baseline: f32,
        cluster: usize,
        ink: &mut Ink,
    ) {
        let style = &self.layout.styles[sign.span as usize];
        let unit = style.unit_at(sign.face);
        let mut own = Ink::NONE;
        for glyph in &self.work.fresh.glyphs.list[sign.glyphs.clone()] {
            own.add(glyph.ink, pen as f32, baseline);
            self.layout.glyphs.push(PlacedGlyph {
                cluster: cluster as u32,
                x: pen as f32,
                y: baseline,
                advance: (f64::from(glyph.advance) * unit) as f32,
                kerning: 0.0,
                ..glyph.placed
            });
            pen += f64::from(glyph.advance) * unit;
        }
        ink.merge(&own, style);
    }
}

/// Places tabs of known widths from a pen on; returns where the pen is after them.
fn place_tabs(
    clusters: &mut [Cluster],
    widths: &[(usize, f64)],
    is_rtl: bool,
    mut pen: f64,
    line: u32,
) -> f64 {
    let mut place = |(cluster, (_, width)): (&mut Cluster, &(usize, f64))| {
        cluster.place(line, pen, *width, is_rtl);
        pen += width;
    };
    let count = clusters.len();
    let own = clusters.iter_mut().zip(&widths[..count]);
    match is_rtl {
        true => own.rev().for_each(&mut place),
        false => own.for_each(&mut place),
    }
    pen
}
