//! Widths of lines to come.

use std::ops::Range;

use crate::text::measure::lines::{LineMeasures, Rules, Stop};
use crate::text::measure::torn::{first_of, is_torn};
use crate::text::place::segments::{Glyphs, Reshaped, glyphs_of};
use crate::text::{TextError, TextLayout};

/// Measures lines as they will be, what is broken apart being shaped anew.
pub(in crate::text) struct Measure<'a> {
    layout: &'a TextLayout,
    fresh: &'a mut Reshaped,
}

impl<'a> Measure<'a> {
    pub(in crate::text) fn new(layout: &'a TextLayout, fresh: &'a mut Reshaped) -> Self {
        Self { layout, fresh }
    }

    pub(in crate::text) fn measures(&self) -> &'a LineMeasures {
        &self.layout.prepared.measures
    }

    /// The run that a cluster is in, if a break before the cluster parts what belongs
    /// together.
    fn torn_run(&self, cluster: usize) -> Option<usize> {
        let prepared = &self.layout.prepared;
        let runs = &prepared.analysis.runs;
        let index = runs.partition_point(|run| run.clusters.end <= cluster);
        let run = runs.get(index)?;
        let own = &prepared.shaped.list[prepared.run_glyphs[index].clone()];
        let at = first_of(own, cluster, cluster.saturating_sub(run.clusters.start));
        is_torn(run, (own, at), &prepared.measures, cluster).then_some(index)
    }

    /// Returns whether a break before a cluster parts what belongs together.
    pub(in crate::text) fn is_torn(&self, cluster: usize) -> bool {
        self.torn_run(cluster).is_some()
    }

    /// The width of a line that is moved in, without what hangs at its end.
    ///
    /// # Errors
    /// A glyph that is shaped anew can't be read.
    pub(in crate::text) fn width(
        &mut self,
        clusters: Range<usize>,
        indent: f64,
        rules: &Rules,
    ) -> Result<f64, TextError> {
        let stop = self.measures().stop_at(clusters.start, clusters.end);
        self.width_to(clusters.start, &stop, indent, rules)
    }

    /// The same of a line whose end is known.
    ///
    /// # Errors
    /// As there.
    pub(in crate::text) fn width_to(
        &mut self,
        start: usize,
        stop: &Stop,
        indent: f64,
        rules: &Rules,
    ) -> Result<f64, TextError> {
        let measures = self.measures();
        let clusters = start..stop.cluster;
        let mut width = measures.width(&mut measures.line(start, indent), stop, rules);
        let (first, last) = (self.torn_run(clusters.start), self.torn_run(clusters.end));
        let last = last.filter(|last| Some(*last) != first);
        let solid_end = stop.solid.max(start);
        for index in [first, last].into_iter().flatten() {
            let own = &self.layout.prepared.analysis.runs[index].clusters;
            let part = own.start.max(clusters.start)..own.end.min(clusters.end);
            let seen = part.end.min(solid_end).max(part.start) - part.start;
            self.fresh.clear();
            if let Glyphs::Reshaped(_, pens) = glyphs_of(self.layout, self.fresh, index, &part)? {
                let pens = &self.fresh.pens[pens..];
                width += pens[seen] - pens[0];
                width -= measures.pens[part.start + seen] - measures.pens[part.start];
            }
        }
        Ok(width)
    }
}
