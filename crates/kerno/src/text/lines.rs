//! Where lines end.

use std::ops::Range;

use super::segments::Measure;
use super::{OverflowWrap, TextError, Wrap};

/// Whether a line may or must end before a cluster.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(super) enum Break {
    #[default]
    No,
    Allowed,
    /// The cluster before ends its line whatever stands around it.
    Must,
}

/// What breaking needs to know of a cluster.
#[derive(Clone, Copy, Debug)]
pub(super) struct Piece {
    /// How much of its width does not count at a line's end, in design pixels: letter
    /// spacing, and kerning before a space.
    pub(super) hanging: f64,
    pub(super) kind: PieceKind,
}

impl Piece {
    /// Whether it does not count at a line's end.
    pub(super) fn hangs(&self) -> bool {
        matches!(self.kind, PieceKind::Space | PieceKind::LineBreak)
    }
}

/// What a cluster is to a line.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum PieceKind {
    Solid,
    /// It hangs at a line's end.
    Space,
    /// As wide as the next tab stop is far.
    Tab,
    /// A soft hyphen, seen only where a line ends with it.
    Hyphen,
    /// It ends a line.
    LineBreak,
}

/// A place where a line may end or has to.
#[derive(Clone, Copy, Debug)]
pub(super) struct Place {
    /// The cluster that the next line begins with.
    pub(super) cluster: usize,
    pub(super) breaks: Break,
    /// One past the last cluster before it that does not hang.
    pub(super) solid: usize,
    /// Where the pen stands behind that one, without the part of it that hangs.
    pub(super) pen: f64,
    /// Whether that one is a soft hyphen.
    pub(super) is_soft: bool,
    /// Whether letters are broken apart there that belong together: they are shaped anew,
    /// and may be wider or narrower then.
    pub(super) is_torn: bool,
}

/// What breaking needs to know of a text.
#[derive(Clone, Debug, Default)]
pub(super) struct Pieces {
    /// One for each cluster.
    pub(super) list: Vec<Piece>,
    /// Where the pen stands before each cluster and behind the last one, in design
    /// pixels, as if all stood in one line and tabs took no room: how wide a part of
    /// the text is takes two of them.
    pub(super) pens: Vec<f64>,
    /// Where lines may end, and where they have to.
    pub(super) places: Vec<Place>,
    /// Which clusters are tabs.
    pub(super) tabs: Vec<usize>,
    /// The room for plates before and behind clusters, which is part of their widths.
    pub(super) padding: Vec<(usize, [f32; 2])>,
    /// The first soft hyphen.
    pub(super) soft_hyphen: Option<usize>,
}

/// A line that is measured from place to place.
struct MeasuredLine {
    /// Its first cluster, and how far it is moved in.
    start: usize,
    indent: f64,
    /// The first of the tabs that was not passed yet.
    next_tab: usize,
    /// The cluster behind the last one that was, and where the pen stands before it.
    from: usize,
    pen: f64,
}

/// A line that is so much wider than twice its box is not measured to its end.
const FAR: f64 = 1000.0;

impl Pieces {
    /// The padding of some of the clusters.
    pub(super) fn padding_in(
        &self,
        clusters: &Range<usize>,
    ) -> impl Iterator<Item = (usize, [f32; 2])> + Clone {
        let first = self
            .padding
            .partition_point(|(cluster, _)| *cluster < clusters.start);
        let (own, end) = (self.padding[first..].iter(), clusters.end);
        own.take_while(move |(cluster, _)| *cluster < end).copied()
    }

    /// Where the first of the places is that lie behind a cluster.
    fn place_behind(&self, cluster: usize) -> usize {
        self.places
            .partition_point(|place| place.cluster <= cluster)
    }

    /// A line that is to be measured from a cluster on.
    #[inline]
    fn line(&self, start: usize, indent: f64) -> MeasuredLine {
        let next_tab = match self.tabs.is_empty() {
            true => 0,
            false => self.tabs.partition_point(|tab| *tab < start),
        };
        MeasuredLine {
            start,
            indent,
            next_tab,
            from: start,
            pen: indent,
        }
    }

    /// Where the pen of a line stands behind its clusters up to one; of a line that is
    /// far too wide, somewhere in it. As fast as the tabs are few that were not passed
    /// before.
    #[inline]
    fn pen_behind(&self, line: &mut MeasuredLine, end: usize, rules: &Rules) -> f64 {
        if line.from > end {
            *line = self.line(line.start, line.indent);
        }
        let far = rules.width.unwrap_or(f64::INFINITY) * 2.0 + FAR;
        while let Some(&tab) = self.tabs.get(line.next_tab).filter(|tab| **tab < end) {
            if line.pen > far {
                return line.pen;
            }
            line.pen += self.pens[tab] - self.pens[line.from];
            line.pen += tab_width(line.pen, rules);
            line.from = tab + 1;
            line.next_tab += 1;
        }
        line.pen + (self.pens[end] - self.pens[line.from])
    }

    /// One past the last cluster of some that does not hang.
    #[inline]
    pub(super) fn solid_end(&self, start: usize, end: usize) -> usize {
        let last = self.list[start..end]
            .iter()
            .rposition(|piece| !piece.hangs());
        last.map_or(start, |last| start + last + 1)
    }

    /// One past the last cluster of some that is neither a soft hyphen nor hangs: of a line
    /// that shows no hyphen.
    pub(super) fn shown_end(&self, start: usize, end: usize) -> usize {
        let last = self.list[start..end]
            .iter()
            .rposition(|piece| !piece.hangs() && piece.kind != PieceKind::Hyphen);
        last.map_or(start, |last| start + last + 1)
    }

    /// How wide a line is up to a cluster, wherever it ends: a soft hyphen at its end may
    /// turn out not to be seen.
    fn least_width(&self, line: &mut MeasuredLine, end: usize, rules: &Rules) -> f64 {
        self.width(line, self.shown_end(line.start, end), rules)
    }

    /// The same up to a place, where there is one at the cluster.
    #[inline]
    fn least_width_to(
        &self,
        line: &mut MeasuredLine,
        (place, end): (Option<&Place>, usize),
        rules: &Rules,
    ) -> f64 {
        match place {
            Some(place)
                if place.cluster == end
                    && place.solid > line.start
                    && !place.is_soft
                    && self.tabs.is_empty() =>
            {
                line.indent + (place.pen - self.pens[line.start])
            }
            _ => self.least_width(line, end, rules),
        }
    }

    /// How wide the clusters of a line are, without what hangs at its end.
    pub(super) fn line_width(&self, start: usize, end: usize, indent: f64, rules: &Rules) -> f64 {
        self.width(&mut self.line(start, indent), end, rules)
    }

    /// How wide a line is up to a cluster, without what hangs there.
    fn width(&self, line: &mut MeasuredLine, end: usize, rules: &Rules) -> f64 {
        let solid = self.solid_end(line.start, end);
        if solid == line.start {
            return line.indent;
        }
        let last = self.list[solid - 1];
        if last.kind != PieceKind::Hyphen {
            return self.pen_behind(line, solid, rules) - last.hanging;
        }
        let hyphen = if solid == end { rules.hyphen } else { 0.0 };
        self.pen_behind(line, solid - 1, rules) + hyphen
    }

    /// How wide a line is that ends with the text or with a line break: a soft hyphen is not
    /// seen there.
    pub(super) fn last_line_width(
        &self,
        clusters: Range<usize>,
        indent: f64,
        rules: &Rules,
    ) -> f64 {
        let line = &mut self.line(clusters.start, indent);
        self.least_width(line, clusters.end, rules)
    }
}

/// How lines are broken.
#[derive(Clone, Copy, Debug)]
pub(super) struct Rules {
    /// The largest size of the text, in design pixels.
    pub(super) size: f64,
    /// The widest that a line may be; none where it may be any.
    pub(super) width: Option<f64>,
    pub(super) wrap: Wrap,
    pub(super) overflow_wrap: OverflowWrap,
    /// How far the first line of a paragraph is moved in.
    pub(super) indent: f64,
    /// Distance between tab stops.
    pub(super) tab: f64,
    /// The least width of a tab.
    pub(super) least_tab: f64,
    /// How wide the hyphen is that a soft one becomes.
    pub(super) hyphen: f64,
}

/// Finds the ends of all lines: for each the cluster that the next one begins with. The
/// last one ends with the text. `tried` is working memory.
///
/// # Errors
/// Where a glyph can't be read that is shaped anew at a break.
pub(super) fn line_ends(
    rules: &Rules,
    measure: Measure<'_>,
    (ends, tried): (&mut Vec<usize>, &mut Vec<usize>),
) -> Result<(), TextError> {
    ends.clear();
    let mut breaker = Breaker {
        pieces: measure.pieces(),
        rules,
        measure,
    };
    let pieces = breaker.pieces;
    let count = pieces.list.len();
    let mut start = 0;
    let musts = pieces.places.iter();
    let musts = musts.filter(|place| place.breaks == Break::Must);
    for place in musts.map(|place| place.cluster).chain([count]) {
        if place > start {
            breaker.paragraph(start..place, ends, tried)?;
            start = place;
        }
    }
    let last = pieces.list.last();
    if last.is_none_or(|piece| piece.kind == PieceKind::LineBreak) {
        ends.push(count);
    }
    Ok(())
}

/// To the next tab stop, or the one after it where that is too near (CSS Text,
/// `tab-size`).
pub(super) fn tab_width(pen: f64, rules: &Rules) -> f64 {
    let stop = rules.tab;
    if stop <= 0.0 {
        return 0.0;
    }
    let width = ((pen / stop + 1e-6).floor() + 1.0) * stop - pen;
    if width < rules.least_tab {
        width + stop
    } else {
        width
    }
}

/// A rounding error is no overflow.
const EVEN: f64 = 1e-3;

/// Where letters that belong together are broken apart, a line is measured again if it is
/// as wide as its box but for so many times the size of its text.
const UNSURE: f64 = 2.0;

/// A line may end at so many of the places before it ends, where the evenest lines are
/// looked for: in longer ones only the last of them.
const MOST_PLACES: usize = 128;

/// Breaks paragraphs into lines.
struct Breaker<'a> {
    pieces: &'a Pieces,
    rules: &'a Rules,
    measure: Measure<'a>,
}

/// A place where a line ends.
struct LineEnd {
    cluster: usize,
    /// The number of the first place behind it.
    behind: usize,
    /// Whether letters are broken apart there that belong together.
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
        let mut line = self.pieces.line(clusters.start, self.rules.indent);
        let mut last = LineEnd {
            cluster: clusters.start,
            behind: self.pieces.place_behind(clusters.start),
            is_torn: false,
        };
        while last.cluster < clusters.end {
            last = self.greedy_end(&mut line, &last, clusters.end, width + EVEN)?;
            ends.push(last.cluster);
            line = self.pieces.line(last.cluster, 0.0);
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
        let (pieces, rules) = (self.pieces, self.rules);
        // The last place to break where it still fits; the last one where it does but for
        // the hyphen; the first one that is too far.
        let (mut chance, mut soft) = (None, None);
        let mut at = before.behind;
        let too_far = loop {
            let known = pieces.places.get(at);
            let place = known.map_or(end, |place| place.cluster.min(end));
            let mut width = pieces.least_width_to(line, (known, place), rules);
            let is_torn = known.is_some_and(|known| known.is_torn && known.cluster == place);
            if (is_torn || before.is_torn) && (width - most).abs() < UNSURE * rules.size {
                width = self.measure.width(line.start..place, line.indent, rules)?;
            }
            if width > most {
                break place;
            }
            let found = LineEnd {
                cluster: place,
                behind: at + 1,
                is_torn,
            };
            if place == end {
                return Ok(found);
            }
            // A hyphen has to find room as well.
            let is_soft = pieces.list[place - 1].kind == PieceKind::Hyphen;
            if !is_soft || is_torn || pieces.width(line, place, rules) <= most {
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
            behind: pieces.place_behind(cluster),
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
        let (pieces, rules) = (self.pieces, self.rules);
        let line = &mut pieces.line(start, indent);
        let is_seen = |index: &usize| {
            let piece = &pieces.list[*index];
            !piece.hangs() && piece.kind != PieceKind::Hyphen
        };
        let mut seen = (start + 1..end).filter(is_seen);
        let found = seen.find(|index| {
            let pen = pieces.pen_behind(line, index + 1, rules);
            pen - pieces.list[*index].hanging > most
        });
        let mut found = found.unwrap_or(end);
        // Letters that are broken apart may take more room, and so does a hyphen that is seen.
        let is_soft = |found: usize| pieces.list[found - 1].kind == PieceKind::Hyphen;
        while found > start + 1
            && (self.measure.is_torn(found) || is_soft(found))
            && self.measure.width(start..found, indent, rules)? > most
        {
            found -= 1;
        }
        Ok(Some(found).filter(|found| *found < end))
    }

    /// The breaks with the least sum of squared gaps, by way of the best ones for every
    /// beginning of the text; none where a line can't be filled.
    fn optimal(
        &mut self,
        clusters: &Range<usize>,
        width: f64,
    ) -> Result<Option<Vec<usize>>, TextError> {
        let (pieces, rules) = (self.pieces, self.rules);
        let own = pieces.places[pieces.place_behind(clusters.start)..].iter();
        let own = own
            .map(|place| place.cluster)
            .take_while(|place| *place < clusters.end);
        let start = [clusters.start].into_iter();
        let places: Vec<usize> = start.chain(own).chain([clusters.end]).collect();
        let last = places.len() - 1;
        let mut best: Vec<(f64, usize)> = vec![(f64::INFINITY, 0); places.len()];
        best[0].0 = 0.0;
        for from in 0..last {
            if !best[from].0.is_finite() {
                continue;
            }
            let indent = if from == 0 { rules.indent } else { 0.0 };
            let fits = |to: &usize| {
                let mut line = pieces.line(places[from], indent);
                pieces.least_width(&mut line, places[*to], rules) <= width + EVEN
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
                let line = places[from]..places[to];
                let gap = width - self.measure.width(line, indent, rules)?;
                if gap < -EVEN {
                    break;
                }
                let cost = if to == last {
                    0.0
                } else {
                    (gap / width).powi(2) + 1e-4
                };
                if best[from].0 + cost < best[to].0 {
                    best[to] = (best[from].0 + cost, from);
                }
            }
        }
        Ok(best[last].0.is_finite().then(|| {
            let mut ends = Vec::new();
            let mut at = last;
            while at > 0 {
                ends.push(places[at]);
                at = best[at].1;
            }
            ends.reverse();
            ends
        }))
    }
}

/// The first number of a range for which something does not hold; its end where it holds
/// for all.
pub(super) fn partition_point(range: Range<usize>, holds: impl Fn(usize) -> bool) -> usize {
    let (mut low, mut high) = (range.start, range.end);
    while low < high {
        let middle = low.midpoint(high);
        if holds(middle) {
            low = middle + 1;
        } else {
            high = middle;
        }
    }
    low
}
