//! The parts of runs on a line, and the order in which they stand.

use std::ops::Range;

use crate::text::bidi::goes_with_paragraph;
use crate::text::measure::lines::LineMeasures;
use crate::text::measure::measures::{Spacing, pad_pens};
use crate::text::measure::torn::{first_of, is_torn};
use crate::text::shape::{Output, Run, ShapedGlyphs, Shaper, add_widths, set_pens};
use crate::text::{Cluster, TextError, TextLayout};

/// Part of a run that is on a line.
#[derive(Debug)]
pub(in crate::text) struct Segment {
    pub(in crate::text) clusters: Range<usize>,
    pub(in crate::text) run: usize,
    pub(in crate::text) level: u8,
    pub(in crate::text) glyphs: Glyphs,
    /// The place on the line where the pens of its run begin: a pen of the run is so far to the
    /// right of it, or to the left where the segment runs to the left.
    pub(in crate::text) origin: f64,
}

/// Places of its glyphs.
#[derive(Clone, Debug)]
pub(in crate::text) enum Glyphs {
    /// Among those of the whole text.
    Shaped(Range<usize>),
    /// Among those that were shaped anew for the line, with the first of the pens of
    /// their clusters.
    Reshaped(Range<usize>, usize),
}

/// Shapes anew the runs that a line cuts in two, and keeps the results.
#[derive(Debug, Default)]
pub(in crate::text) struct Reshaped {
    pub(in crate::text) shaper: Shaper,
    pub(in crate::text) glyphs: ShapedGlyphs,
    /// Places of the pen before each of their clusters.
    pub(in crate::text) pens: Vec<f64>,
}

impl Reshaped {
    /// Forgets what was shaped.
    pub(in crate::text) fn clear(&mut self) {
        self.glyphs.clear();
        self.pens.clear();
    }
}

impl Segment {
    /// Places of the pen before each of its clusters and after the last one.
    pub(in crate::text) fn pens<'a>(
        &self,
        measures: &'a LineMeasures,
        fresh: &'a [f64],
    ) -> &'a [f64] {
        match self.glyphs {
            Glyphs::Shaped(_) => &measures.pens[self.clusters.start..=self.clusters.end],
            Glyphs::Reshaped(_, first) => &fresh[first..=first + self.clusters.len()],
        }
    }

    /// The part of its width that does not count, where its last cluster is the last that is seen
    /// on the line.
    pub(in crate::text) fn hanging(
        &self,
        measures: &LineMeasures,
        last_solid: Option<usize>,
    ) -> f64 {
        let last = self.clusters.end - 1;
        match last_solid {
            Some(solid) if solid == last => measures.list[last].hanging,
            _ => 0.0,
        }
    }

    /// Adds the parts of runs that are on a line, in reading order. Where a line breaks
    /// inside of what belongs together, that is shaped anew.
    pub(in crate::text) fn add_line(
        layout: &TextLayout,
        fresh: &mut Reshaped,
        clusters: Range<usize>,
        base: u8,
        segments: &mut Vec<Self>,
    ) -> Result<(), TextError> {
        let prepared = &layout.prepared;
        let runs = &prepared.analysis.runs;
        let first = runs.partition_point(|run| run.clusters.end <= clusters.start);
        let seen_end = seen_end(layout, &clusters);
        for (index, run) in runs.iter().enumerate().skip(first) {
            if run.clusters.start >= clusters.end {
                break;
            }
            let part = run.clusters.start.max(clusters.start)..run.clusters.end.min(clusters.end);
            let glyphs = glyphs_of(layout, fresh, index, &part)?;
            // UAX #9, L1: what is not seen at the end runs as the paragraph does.
            let middle = seen_end.clamp(part.start, part.end);
            let (head, tail) = glyphs.split(middle - part.start, |range, is_fresh| {
                let all = if is_fresh {
                    &fresh.glyphs.list
                } else {
                    &prepared.shaped.list
                };
                first_of(&all[range], middle, middle - part.start)
            });
            for (clusters, level, glyphs) in [
                (part.start..middle, run.level, head),
                (middle..part.end, base, tail),
            ] {
                if !clusters.is_empty() {
                    segments.push(Self {
                        clusters,
                        run: index,
                        level,
                        glyphs,
                        origin: 0.0,
                    });
                }
            }
        }
        Ok(())
    }
}

/// One past the last cluster of a line that is seen: after it are those that hang, and
/// where any runs against the paragraph also spaces and formatting characters that do not.
fn seen_end(layout: &TextLayout, clusters: &Range<usize>) -> usize {
    let prepared = &layout.prepared;
    let solid_end = prepared.measures.solid_end(clusters.start, clusters.end);
    if !prepared.analysis.is_bidirectional {
        return solid_end;
    }
    let is_unseen = |cluster: &Cluster| {
        let part = cluster.part(layout.shown());
        part.chars().all(goes_with_paragraph)
    };
    let own = &layout.clusters[clusters.start..solid_end];
    let last = own.iter().rposition(|cluster| !is_unseen(cluster));
    last.map_or(clusters.start, |last| clusters.start + last + 1)
}

/// The glyphs of a part of a run.
pub(in crate::text) fn glyphs_of(
    layout: &TextLayout,
    fresh: &mut Reshaped,
    index: usize,
    part: &Range<usize>,
) -> Result<Glyphs, TextError> {
    let prepared = &layout.prepared;
    let (run, measures) = (&prepared.analysis.runs[index], &prepared.measures);
    let all = prepared.run_glyphs[index].clone();
    let shaped = &prepared.shaped.list[all.clone()];
    let place = |cluster: usize| first_of(shaped, cluster, cluster - run.clusters.start);
    let (first, end) = (place(part.start), place(part.end));
    let is_torn = |cluster: usize, at: usize| is_torn(run, (shaped, at), measures, cluster);
    if !is_torn(part.start, first) && !is_torn(part.end, end) {
        return Ok(Glyphs::Shaped(all.start + first..all.start + end));
    }
    let style = layout.style(run.span);
    let run = Run {
        clusters: part.clone(),
        ..run.clone()
    };
    let (start, first_pen) = (fresh.glyphs.list.len(), fresh.pens.len());
    let into = &mut Output {
        glyphs: &mut fresh.glyphs,
        missing: &mut Vec::new(),
    };
    fresh
        .shaper
        .shape(layout.shown(), &layout.clusters, &run, style, into)?;
    // Their own widths, and the spacing that they had.
    let unit = style.unit_at(run.face);
    let glyphs = &mut fresh.glyphs.list[start..];
    fresh.pens.resize(first_pen + part.len() + 1, 0.0);
    let pens = &mut fresh.pens[first_pen..];
    let padding = measures.padding_in(part);
    for (index, width) in part.clone().zip(&mut pens[1..]) {
        let cluster = layout.clusters[index].part(layout.shown());
        *width = Spacing::of(style, measures.list[index].kind, cluster).all();
    }
    for (cluster, sides) in padding.clone() {
        pens[cluster - part.start + 1] += f64::from(sides[0]) + f64::from(sides[1]);
    }
    add_widths(glyphs, unit, part.start, &mut pens[1..]);
    let mut pen = 0.0;
    for width in &mut *pens {
        pen += *width;
        *width = pen;
    }
    set_pens(glyphs, unit, &run, pens);
    pad_pens(glyphs, padding);
    Ok(Glyphs::Reshaped(start..fresh.glyphs.list.len(), first_pen))
}

/// The level and the number of a segment, or none for the sign.
pub(in crate::text) type Ordered = (u8, Option<usize>);

/// UAX #9, L2: from the highest level down to the lowest odd one, what is at that
/// level or above is reversed.
pub(in crate::text) fn reorder(order: &mut [Ordered]) {
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

impl Glyphs {
    /// Cuts the glyphs in two before a cluster, counted from their first one; `place`
    /// tells how many are before it.
    fn split(self, clusters: usize, place: impl Fn(Range<usize>, bool) -> usize) -> (Self, Self) {
        match self {
            Self::Shaped(range) => {
                let middle = range.start + place(range.clone(), false);
                (
                    Self::Shaped(range.start..middle),
                    Self::Shaped(middle..range.end),
                )
            }
            Self::Reshaped(range, pens) => {
                let middle = range.start + place(range.clone(), true);
                (
                    Self::Reshaped(range.start..middle, pens),
                    Self::Reshaped(middle..range.end, pens + clusters),
                )
            }
        }
    }
}
