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

    /// Where the pen stands behind some clusters of a line that it begins at `pen`.
    #[inline]
    fn pen_behind(&self, start: usize, end: usize, mut pen: f64, rules: &Rules) -> f64 {
        let mut from = start;
        if !self.tabs.is_empty() {
            let first = self.tabs.partition_point(|tab| *tab < start);
            for &tab in self.tabs[first..].iter().take_while(|tab| **tab < end) {
                pen += self.pens[tab] - self.pens[from];
                pen += tab_width(pen, rules);
                from = tab + 1;
            }
        }
        pen + (self.pens[end] - self.pens[from])
    }

    /// One past the last cluster of some that does not hang.
    #[inline]
    pub(super) fn solid_end(&self, start: usize, end: usize) -> usize {
        let last = self.list[start..end]
            .iter()
            .rposition(|piece| !piece.hangs());
        last.map_or(start, |last| start + last + 1)
    }

    /// How wide the clusters of a line are, wherever it ends: a soft hyphen at their end
    /// may turn out not to be seen.
    fn least_line_width(&self, start: usize, end: usize, indent: f64, rules: &Rules) -> f64 {
        let soft = self.list[start..end].iter().rev();
        let soft = soft.take_while(|piece| piece.kind == PieceKind::Hyphen);
        self.line_width(start, end - soft.count(), indent, rules)
    }

    /// How wide the clusters of a line are, without what hangs at its end.
    #[inline]
    pub(super) fn line_width(&self, start: usize, end: usize, indent: f64, rules: &Rules) -> f64 {
        let solid = self.solid_end(start, end);
        if solid == start {
            return indent;
        }
        let last = self.list[solid - 1];
        if last.kind != PieceKind::Hyphen {
            return self.pen_behind(start, solid, indent, rules) - last.hanging;
        }
        let hyphen = if solid == end { rules.hyphen } else { 0.0 };
        self.pen_behind(start, solid - 1, indent, rules) + hyphen
    }

    /// The same up to a place, which is the one behind the text where there is none.
    #[inline]
    fn least_width_to(
        &self,
        start: usize,
        (place, end): (Option<&Place>, usize),
        indent: f64,
        rules: &Rules,
    ) -> f64 {
        match place {
            Some(place)
                if place.cluster == end
                    && place.solid > start
                    && !place.is_soft
                    && self.tabs.is_empty() =>
            {
                indent + (place.pen - self.pens[start])
            }
            _ => self.least_line_width(start, end, indent, rules),
        }
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
    let (mut line, mut indent) = (start, rules.indent);
    let mut behind = pieces.place_behind(line);
    loop {
        // The last place to break where it still fits; the last one where it does but for
        // the hyphen; the first one that is too far.
        let (mut chance, mut soft) = (None, None);
        let mut at = behind;
        let too_far = loop {
            let known = pieces.places.get(at);
            let place = known.map_or(end, |place| place.cluster.min(end));
            if pieces.least_width_to(line, (known, place), indent, rules) > most {
                break place;
            }
            if place == end {
                ends.push(end);
                return;
            }
            // A hyphen has to find room as well.
            let is_soft = pieces.list[place - 1].kind == PieceKind::Hyphen;
            if !is_soft || pieces.line_width(line, place, indent, rules) <= most {
                chance = Some((place, at + 1));
            } else {
                soft = Some(place);
            }
            at += 1;
        };
        let forced = || {
            let is_forced = rules.overflow_wrap == OverflowWrap::BreakWord;
            let place = first_too_far(pieces, line, too_far, (indent, most), rules);
            place.filter(|_| is_forced)
        };
        if let Some((place, next)) = chance {
            (line, behind) = (place, next);
        } else {
            // It reaches out, as little as may be.
            line = forced().or(soft).unwrap_or(too_far);
            behind = pieces.place_behind(line);
        }
        ends.push(line);
        if line == end {
            return;
        }
        indent = 0.0;
    }
}

/// The first cluster but one of a line that has no room there.
fn first_too_far(
    pieces: &Pieces,
    start: usize,
    end: usize,
    (indent, most): (f64, f64),
    rules: &Rules,
) -> Option<usize> {
    let is_seen = |kind: PieceKind| !matches!(kind, PieceKind::Hyphen);
    let solid = (start + 1..end).filter(|index| {
        let piece = &pieces.list[*index];
        !piece.hangs() && is_seen(piece.kind)
    });
    let mut too_far = solid.filter(|index| {
        let pen = pieces.pen_behind(start, index + 1, indent, rules);
        pen - pieces.list[*index].hanging > most
    });
    too_far.next()
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
