//! Where lines end.

use std::ops::Range;

use super::{OverflowWrap, Wrap};

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

    /// How wide a line is up to a cluster, wherever it ends: a soft hyphen at its end may
    /// turn out not to be seen.
    fn least_width(&self, line: &mut MeasuredLine, end: usize, rules: &Rules) -> f64 {
        let soft = self.list[line.start..end].iter().rev();
        let soft = soft.take_while(|piece| piece.kind == PieceKind::Hyphen);
        self.width(line, end - soft.count(), rules)
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

    /// The widest part of the text between breaks of some kinds.
    pub(super) fn widest_between(&self, ends: impl Fn(Break) -> bool) -> f64 {
        let (mut start, mut widest) = (0, 0.0_f64);
        let places = self.places.iter().filter(|place| ends(place.breaks));
        let places = places.map(|place| place.cluster);
        for end in places.chain([self.list.len()]) {
            let solid = self.solid_end(start, end);
            if solid > start {
                let width = self.pens[solid] - self.pens[start];
                widest = widest.max(width - self.list[solid - 1].hanging);
            }
            start = end;
        }
        widest
    }
}

/// How lines are broken.
#[derive(Clone, Copy, Debug)]
pub(super) struct Rules {
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
pub(super) fn line_ends(
    pieces: &Pieces,
    rules: &Rules,
    (ends, tried): (&mut Vec<usize>, &mut Vec<usize>),
) {
    ends.clear();
    let count = pieces.list.len();
    let mut start = 0;
    let musts = pieces.places.iter();
    let musts = musts.filter(|place| place.breaks == Break::Must);
    for place in musts.map(|place| place.cluster).chain([count]) {
        if place > start {
            paragraph(pieces, start, place, rules, (ends, tried));
            start = place;
        }
    }
    let last = pieces.list.last();
    if last.is_none_or(|piece| piece.kind == PieceKind::LineBreak) {
        ends.push(count);
    }
}

/// Breaks the clusters from `start` to `end`, which end with a break or the text.
fn paragraph(
    pieces: &Pieces,
    start: usize,
    end: usize,
    rules: &Rules,
    (ends, tried): (&mut Vec<usize>, &mut Vec<usize>),
) {
    let (Some(width), false) = (rules.width, rules.wrap == Wrap::None) else {
        ends.push(end);
        return;
    };
    let first = ends.len();
    greedy(pieces, start, end, width, rules, ends);
    let count = ends.len() - first;
    if count < 2 {
        return;
    }
    match rules.wrap {
        Wrap::Balanced => {
            // The narrowest width that takes no more lines.
            let (mut low, mut high) = (0.0, width);
            for _ in 0..16 {
                let middle = f64::midpoint(low, high);
                tried.clear();
                greedy(pieces, start, end, middle, rules, tried);
                let fits = tried.len() <= count
                    && widest(pieces, start, tried, rules) <= (middle + EVEN).min(width);
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
            let lines = optimal(pieces, start, end, width, rules);
            if let Some(lines) = lines {
                ends.truncate(first);
                ends.extend(lines);
            }
        }
        Wrap::None | Wrap::Greedy => {}
    }
}

fn widest(pieces: &Pieces, mut start: usize, ends: &[usize], rules: &Rules) -> f64 {
    let mut widest = 0.0_f64;
    let mut indent = rules.indent;
    for end in ends {
        widest = widest.max(pieces.line_width(start, *end, indent, rules));
        (start, indent) = (*end, 0.0);
    }
    widest
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

/// Fills every line as far as it goes.
fn greedy(
    pieces: &Pieces,
    start: usize,
    end: usize,
    width: f64,
    rules: &Rules,
    ends: &mut Vec<usize>,
) {
    let most = width + EVEN;
    let mut line = pieces.line(start, rules.indent);
    let mut behind = pieces.place_behind(start);
    loop {
        // The last place to break where it still fits; the last one where it does but for
        // the hyphen; the first one that is too far.
        let (mut chance, mut soft) = (None, None);
        let mut at = behind;
        let too_far = loop {
            let known = pieces.places.get(at);
            let place = known.map_or(end, |place| place.cluster.min(end));
            if pieces.least_width_to(&mut line, (known, place), rules) > most {
                break place;
            }
            if place == end {
                ends.push(end);
                return;
            }
            // A hyphen has to find room as well.
            let is_soft = pieces.list[place - 1].kind == PieceKind::Hyphen;
            if !is_soft || pieces.width(&mut line, place, rules) <= most {
                chance = Some((place, at + 1));
            } else {
                soft = Some(place);
            }
            at += 1;
        };
        let forced = || {
            let is_forced = rules.overflow_wrap == OverflowWrap::BreakWord;
            let line = &mut pieces.line(line.start, line.indent);
            is_forced.then(|| first_too_far(pieces, line, (too_far, most), rules))?
        };
        let next = if let Some((place, next)) = chance {
            behind = next;
            place
        } else {
            // It reaches out, as little as may be.
            let place = forced().or(soft).unwrap_or(too_far);
            behind = pieces.place_behind(place);
            place
        };
        ends.push(next);
        if next == end {
            return;
        }
        line = pieces.line(next, 0.0);
    }
}

/// The first cluster but one of a line that has no room there, before the one at `end`.
fn first_too_far(
    pieces: &Pieces,
    line: &mut MeasuredLine,
    (end, most): (usize, f64),
    rules: &Rules,
) -> Option<usize> {
    let mut seen = (line.start + 1..end).filter(|index| {
        let piece = &pieces.list[*index];
        !piece.hangs() && piece.kind != PieceKind::Hyphen
    });
    seen.find(|index| {
        let pen = pieces.pen_behind(line, index + 1, rules);
        pen - pieces.list[*index].hanging > most
    })
}

/// The breaks with the least sum of squared gaps, by way of the best ones for every
/// beginning of the text; none where a line can't be filled.
fn optimal(
    pieces: &Pieces,
    start: usize,
    end: usize,
    width: f64,
    rules: &Rules,
) -> Option<Vec<usize>> {
    let own = pieces.places[pieces.place_behind(start)..].iter();
    let own = own
        .map(|place| place.cluster)
        .take_while(|place| *place < end);
    let places: Vec<usize> = [start].into_iter().chain(own).chain([end]).collect();
    let last = places.len() - 1;
    let mut best: Vec<(f64, usize)> = vec![(f64::INFINITY, 0); places.len()];
    best[0].0 = 0.0;
    for from in 0..last {
        if !best[from].0.is_finite() {
            continue;
        }
        let indent = if from == 0 { rules.indent } else { 0.0 };
        for to in from + 1..=last {
            let gap = width - pieces.line_width(places[from], places[to], indent, rules);
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
    best[last].0.is_finite().then(|| {
        let mut ends = Vec::new();
        let mut at = last;
        while at > 0 {
            ends.push(places[at]);
            at = best[at].1;
        }
        ends.reverse();
        ends
    })
}
