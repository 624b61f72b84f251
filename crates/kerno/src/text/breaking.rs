//! Ends of lines.

use std::ops::Range;

use super::measure::line::Measure;
use super::measure::lines::{
    Break, ClusterKind, LineMeasures, MeasuredLine, Rules, Stop, partition_point,
};
use super::{OverflowWrap, TextError, Wrap};

/// Finds the ends of all lines: for each the cluster that the next one begins with. The
/// last one ends with the text. `tried` is working memory.
///
/// # Errors
/// A glyph that is shaped anew at a break can't be read.
pub(super) fn line_ends(
    rules: &Rules,
    measure: Measure<'_>,
    (ends, tried): (&mut Vec<usize>, &mut Vec<usize>),
) -> Result<(), TextError> {
    ends.clear();
    let mut breaker = Breaker {
        measures: measure.measures(),
        rules,
        measure,
        reshaping: MOST_RESHAPED,
    };
    let measures = breaker.measures;
    let count = measures.list.len();
    let mut start = 0;
    let musts = measures.places.iter();
    let musts = musts.filter(|place| place.breaks == Break::Must);
    for place in musts.map(|place| place.cluster).chain([count]) {
        if place > start {
            breaker.paragraph(start..place, ends, tried)?;
            start = place;
        }
    }
    let last = measures.list.last();
    if last.is_none_or(|piece| piece.kind == ClusterKind::LineBreak) {
        ends.push(count);
    }
    Ok(())
}

/// A rounding error is no overflow.
const EVEN: f64 = 1e-3;

/// Costs that differ by less are the same.
const SAME_COST: f64 = 1e-9;

/// Room left on a line, in sizes of its text, below which a line that breaks letters that
/// belong together is measured again.
const UNSURE: f64 = 2.0;

/// The most places at which a line may end, where the evenest lines are
/// looked for: in longer ones only the last of them.
const MOST_PLACES: usize = 128;

/// The most lines of a text that are shaped anew while the evenest ones are looked for: in the rest
/// of a longer one, letters that a break parts are taken to be as wide as they are joined.
const MOST_RESHAPED: usize = 1 << 14;

/// Breaks paragraphs into lines.
struct Breaker<'a> {
    measures: &'a LineMeasures,
    rules: &'a Rules,
    measure: Measure<'a>,
    /// The number of lines that may still be shaped anew to find the evenest ones.
    reshaping: usize,
}

/// A place where a line ends.
struct LineEnd {
    cluster: usize,
    /// The number of the first place after it.
    after: usize,
    /// True if letters are broken apart there that belong together.
    is_torn: bool,
}

impl Breaker<'_> {
    /// Breaks the clusters of a paragraph, which end with a break or the text.
    fn paragraph(
        &mut self,
        clusters: Range<usize>,
        ends: &mut Vec<usize>,
        tried: &mut Vec<usize>,
    ) -> Result<(), TextError> {
        let (Some(width), false) = (self.rules.width, self.rules.wrap == Wrap::None) else {
            ends.push(clusters.end);
            return Ok(());
        };
        let first = ends.len();
        self.greedy(&clusters, width, ends)?;
        let count = ends.len() - first;
        if count < 2 {
            return Ok(());
        }
        match self.rules.wrap {
            Wrap::Balanced => {
                // The narrowest width that takes no more lines.
                let (mut low, mut high) = (0.0, width);
                for _ in 0..16 {
                    let middle = f64::midpoint(low, high);
                    tried.clear();
                    self.greedy(&clusters, middle, tried)?;
                    let fits = tried.len() <= count
                        && self.widest(clusters.start, tried)? <= (middle + EVEN).min(width);
                    if fits {
                        high = middle;
                        ends.truncate(first);
                        ends.extend_from_slice(tried);
                    } else {
                        low = middle;
                    }
                }
            }
            Wrap::Optimal => {
                if let Some(lines) = self.optimal(&clusters, width)? {
                    ends.truncate(first);
                    ends.extend(lines);
                }
            }
            Wrap::None | Wrap::Greedy => {}
        }
        Ok(())
    }

    fn widest(&mut self, mut start: usize, ends: &[usize]) -> Result<f64, TextError> {
        let mut widest = 0.0_f64;
        let mut indent = self.rules.indent;
        for end in ends {
            widest = widest.max(self.measure.width(start..*end, indent, self.rules)?);
            (start, indent) = (*end, 0.0);
        }
        Ok(widest)
    }

    /// Fills every line as far as it goes.
    fn greedy(
        &mut self,
        clusters: &Range<usize>,
        width: f64,
        ends: &mut Vec<usize>,
    ) -> Result<(), TextError> {
        let mut line = self.measures.line(clusters.start, self.rules.indent);
        let mut last = LineEnd {
            cluster: clusters.start,
            after: self.measures.place_after(clusters.start),
            is_torn: false,
        };
        while last.cluster < clusters.end {
            last = self.greedy_end(&mut line, &last, clusters.end, width + EVEN)?;
            ends.push(last.cluster);
            line = self.measures.line(last.cluster, 0.0);
        }
        Ok(())
    }

    /// The end of a line that takes as much as it can of what is `most` wide.
    fn greedy_end(
        &mut self,
        line: &mut MeasuredLine,
        before: &LineEnd,
        end: usize,
        most: f64,
    ) -> Result<LineEnd, TextError> {
        let (measures, rules) = (self.measures, self.rules);
        // The last place to break where it still fits; the last one where it does but for
        // the hyphen; the first one that is too far.
        let (mut chance, mut soft) = (None, None);
        let mut at = before.after;
        let too_far = loop {
            let known = measures.places.get(at).filter(|place| place.cluster <= end);
            let place = known.map_or(end, |place| place.cluster);
            let last = || measures.stop_at(line.start, end);
            let stop = known.map_or_else(last, Stop::of);
            let mut width = match known {
                Some(known) => measures.least_width_to(line, known, rules),
                None => measures.least_width(line, &stop, rules),
            };
            let is_torn = known.is_some_and(|known| known.is_torn);
            if (is_torn || before.is_torn) && (width - most).abs() < UNSURE * rules.size {
                width = self
                    .measure
                    .width_to(line.start, &stop, line.indent, rules)?;
            }
            if width > most {
                break place;
            }
            let found = LineEnd {
                cluster: place,
                after: at + 1,
                is_torn,
            };
            if place == end {
                return Ok(found);
            }
            // A hyphen has to find room as well.
            let is_soft = measures.list[place - 1].kind == ClusterKind::Hyphen;
            if !is_soft || is_torn || measures.width(line, &stop, rules) <= most {
                chance = Some(found);
            } else {
                soft = Some(place);
            }
            at += 1;
        };
        if let Some(chance) = chance {
            return Ok(chance);
        }
        // It reaches out, as little as may be.
        let forced = self.forced(line.start, line.indent, too_far, most)?;
        let cluster = forced.or(soft).unwrap_or(too_far);
        Ok(LineEnd {
            cluster,
            after: measures.place_after(cluster),
            is_torn: self.measure.is_torn(cluster),
        })
    }

    /// The first cluster but one of a line that has no room there, before the one at `end`;
    /// none where words are not to be broken.
    fn forced(
        &mut self,
        start: usize,
        indent: f64,
        end: usize,
        most: f64,
    ) -> Result<Option<usize>, TextError> {
        if self.rules.overflow_wrap != OverflowWrap::BreakWord {
            return Ok(None);
        }
        let (measures, rules) = (self.measures, self.rules);
        let line = &mut measures.line(start, indent);
        let is_seen = |index: &usize| {
            let piece = &measures.list[*index];
            !piece.hangs() && piece.kind != ClusterKind::Hyphen
        };
        let mut seen = (start + 1..end).filter(is_seen);
        let found = seen.find(|index| {
            let pen = measures.pen_behind(line, index + 1, rules);
            pen - measures.list[*index].hanging > most
        });
        let mut found = found.unwrap_or(end);
        // Letters that are broken apart may take more room, and so does a hyphen that is seen.
        let is_soft = |found: usize| measures.list[found - 1].kind == ClusterKind::Hyphen;
        let mut is_unsure = false;
        while found > start + 1
            && (is_unsure || self.measure.is_torn(found) || is_soft(found))
            && self.measure.width(start..found, indent, rules)? > most
        {
            found -= 1;
            is_unsure = true;
        }
        Ok(Some(found).filter(|found| *found < end))
    }

    /// The width of a line of which there are many to choose from.
    fn optimal_width(&mut self, start: usize, stop: &Stop, indent: f64) -> Result<f64, TextError> {
        let is_torn = self.measure.is_torn(start) || self.measure.is_torn(stop.cluster);
        self.reshaping = self.reshaping.saturating_sub(usize::from(is_torn));
        if self.reshaping > 0 {
            return self.measure.width_to(start, stop, indent, self.rules);
        }
        let mut line = self.measures.line(start, indent);
        Ok(self.measures.width(&mut line, stop, self.rules))
    }

    /// The breaks with the least sum of squared gaps, by way of the best ones for every
    /// beginning of the text; none where a line can't be filled.
    fn optimal(
        &mut self,
        clusters: &Range<usize>,
        width: f64,
    ) -> Result<Option<Vec<usize>>, TextError> {
        let (measures, rules) = (self.measures, self.rules);
        let first_place = measures.place_after(clusters.start);
        let own = measures.places[first_place..].iter();
        let own = own
            .map(Stop::of)
            .take_while(|place| place.cluster < clusters.end);
        let start = Stop {
            cluster: clusters.start,
            solid: clusters.start,
            shown: clusters.start,
        };
        let end = measures.stop_at(clusters.start, clusters.end);
        let places: Vec<Stop> = [start].into_iter().chain(own).chain([end]).collect();
        let last = places.len() - 1;
        let mut best: Vec<(f64, usize)> = vec![(f64::INFINITY, 0); places.len()];
        best[0].0 = 0.0;
        for from in 0..last {
            if !best[from].0.is_finite() {
                continue;
            }
            let start = places[from].cluster;
            let indent = if from == 0 { rules.indent } else { 0.0 };
            let fits = |to: &usize| {
                let mut line = measures.line(start, indent);
                measures.least_width(&mut line, &places[*to], rules) <= width + EVEN
            };
            // Of a line with very many places only the last ones may be its end.
            let far = (from + MOST_PLACES).min(last);
            let first = if far < last && fits(&far) {
                let fitting = partition_point(far..last + 1, |to| fits(&to));
                fitting.saturating_sub(MOST_PLACES).max(from + 1)
            } else {
                from + 1
            };
            for to in first..=last {
                let gap = width - self.optimal_width(start, &places[to], indent)?;
                if gap < -EVEN {
                    break;
                }
                let cost = if to == last {
                    0.0
                } else {
                    (gap / width).powi(2) + 1e-4
                };
                let cost = best[from].0 + cost;
                // Of equally good ones the first, however their sums are rounded.
                if cost + SAME_COST < best[to].0 {
                    best[to] = (cost, from);
                }
            }
        }
        Ok(best[last].0.is_finite().then(|| {
            let mut ends = Vec::new();
            let mut at = last;
            while at > 0 {
                ends.push(places[at].cluster);
                at = best[at].1;
            }
            ends.reverse();
            ends
        }))
    }
}
