//! The parts of runs on a line, and the order in which they stand.

use std::ops::Range;

use super::lines::PieceKind;
use super::shape::{Run, Shaped, Shaper};
use super::{TextError, TextLayout};

/// What of a run is on a line.
#[derive(Debug)]
pub(super) struct Segment {
    pub(super) clusters: Range<usize>,
    pub(super) run: usize,
    pub(super) level: u8,
    pub(super) glyphs: Glyphs,
    /// Where among those of the line the pens of its glyphs are.
    pub(super) pens: usize,
}

/// Where its glyphs are.
#[derive(Clone, Debug)]
pub(super) enum Glyphs {
    /// Among those of the whole text.
    Shaped(Range<usize>),
    /// Among those that were shaped anew for the line.
    Fresh(Range<usize>),
}

impl Segment {
    /// Adds the parts of runs that are on a line, in reading order. Where a line breaks
    /// inside of what belongs together, that is shaped anew.
    pub(super) fn add_line(
        layout: &TextLayout,
        (shaper, fresh): (&mut Shaper, &mut Vec<Shaped>),
        clusters: Range<usize>,
        base: u8,
        segments: &mut Vec<Self>,
    ) -> Result<(), TextError> {
        let runs = &layout.prepared.analysis.runs;
        let first = runs.partition_point(|run| run.clusters.end <= clusters.start);
        let mut pieces = layout.prepared.pieces[clusters.clone()].iter();
        let solid = pieces.rposition(|piece| !piece.hangs());
        let solid_end = clusters.start + solid.map_or(0, |last| last + 1);
        for (index, run) in runs.iter().enumerate().skip(first) {
            if run.clusters.start >= clusters.end {
                break;
            }
            let part = run.clusters.start.max(clusters.start)..run.clusters.end.min(clusters.end);
            let glyphs = glyphs_of(layout, shaper, fresh, index, &part)?;
            // UAX #9, L1: what hangs at the end runs as the paragraph does.
            let middle = solid_end.clamp(part.start, part.end);
            let cut = glyphs
                .among(&layout.prepared.shaped, fresh)
                .partition_point(|glyph| (glyph.cluster as usize) < middle);
            let (head, tail) = glyphs.split(cut);
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
                        pens: 0,
                    });
                }
            }
        }
        Ok(())
    }
}

/// The glyphs of a part of a run.
fn glyphs_of(
    layout: &TextLayout,
    shaper: &mut Shaper,
    fresh: &mut Vec<Shaped>,
    index: usize,
    part: &Range<usize>,
) -> Result<Glyphs, TextError> {
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
    let start = fresh.len();
    let into = (&mut *fresh, &mut Vec::new());
    shaper.shape(&layout.text, &layout.clusters, &run, style, into)?;
    Ok(Glyphs::Fresh(start..fresh.len()))
}

/// The level and the number of a segment, or none for the sign.
pub(super) type Ordered = (u8, Option<usize>);

/// UAX #9, L2: from the highest level down to the lowest odd one, what is at that
/// level or above is reversed.
pub(super) fn reorder(order: &mut [Ordered]) {
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
    /// The glyphs themselves, of the text or of those shaped anew.
    pub(super) fn among<'a>(&self, text: &'a [Shaped], fresh: &'a [Shaped]) -> &'a [Shaped] {
        match self {
            Self::Shaped(range) => &text[range.clone()],
            Self::Fresh(range) => &fresh[range.clone()],
        }
    }

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
