//! Where lines end.

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
    /// Its width with the space behind it, in design pixels.
    pub(super) width: f64,
    /// The part of it that does not count at a line's end: all of a space, letter
    /// spacing of others.
    pub(super) hanging: f64,
    /// How much of the width is room for plates: before it and behind it.
    pub(super) padding: [f32; 2],
    pub(super) breaks: Break,
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
/// last one ends with the text.
pub(super) fn line_ends(pieces: &[Piece], rules: &Rules, ends: &mut Vec<usize>) {
    ends.clear();
    let mut start = 0;
    while start < pieces.len() {
        let behind = &pieces[start + 1..];
        let must = behind.iter().position(|piece| piece.breaks == Break::Must);
        let end = start + 1 + must.unwrap_or(behind.len());
        paragraph(pieces, start, end, rules, ends);
        start = end;
    }
    if pieces.is_empty() || pieces[pieces.len() - 1].kind == PieceKind::LineBreak {
        ends.push(pieces.len());
    }
}

/// Breaks the clusters from `start` to `end`, which end with a break or the text.
fn paragraph(pieces: &[Piece], start: usize, end: usize, rules: &Rules, ends: &mut Vec<usize>) {
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
                let mut tried = Vec::new();
                greedy(pieces, start, end, middle, rules, &mut tried);
                let fits = tried.len() <= count && widest(pieces, start, &tried, rules) <= width;
                if fits && is_within(pieces, start, &tried, middle, rules) {
                    high = middle;
                    ends.truncate(first);
                    ends.extend(tried);
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

/// Whether no line is wider than asked for.
fn is_within(pieces: &[Piece], start: usize, ends: &[usize], width: f64, rules: &Rules) -> bool {
    widest(pieces, start, ends, rules) <= width + EVEN
}

fn widest(pieces: &[Piece], mut start: usize, ends: &[usize], rules: &Rules) -> f64 {
    let mut widest = 0.0_f64;
    let mut indent = rules.indent;
    for end in ends {
        widest = widest.max(line_width(pieces, start, *end, indent, rules));
        (start, indent) = (*end, 0.0);
    }
    widest
}

/// How wide the clusters of a line are, without what hangs at its end.
pub(super) fn line_width(
    pieces: &[Piece],
    start: usize,
    end: usize,
    indent: f64,
    rules: &Rules,
) -> f64 {
    let mut line = Measured::new(indent);
    for piece in &pieces[start..end] {
        line.add(piece, rules);
    }
    line.trimmed(rules)
}

/// A line that is being filled.
#[derive(Clone, Copy)]
struct Measured {
    /// All of it.
    pen: f64,
    /// Up to the last cluster that does not hang.
    solid: f64,
    ends_soft: bool,
}

impl Measured {
    fn new(indent: f64) -> Self {
        Self {
            pen: indent,
            solid: indent,
            ends_soft: false,
        }
    }

    fn add(&mut self, piece: &Piece, rules: &Rules) {
        let start = self.pen;
        self.pen += match piece.kind {
            PieceKind::Tab => tab_width(self.pen, rules),
            _ => piece.width,
        };
        if !piece.hangs() {
            self.solid = self.pen - piece.hanging;
        }
        self.ends_soft = piece.kind == PieceKind::Hyphen;
        if self.ends_soft {
            self.solid = start;
        }
    }

    /// Its width where it ends here.
    fn trimmed(&self, rules: &Rules) -> f64 {
        self.solid + if self.ends_soft { rules.hyphen } else { 0.0 }
    }
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

fn greedy(
    pieces: &[Piece],
    start: usize,
    end: usize,
    width: f64,
    rules: &Rules,
    ends: &mut Vec<usize>,
) {
    let mut line_start = start;
    let mut line = Measured::new(rules.indent);
    // The last place to break, where it still fitted.
    let mut chance: Option<usize> = None;
    let mut index = start;
    while index < end {
        let piece = &pieces[index];
        if index > line_start
            && piece.breaks == Break::Allowed
            && line.trimmed(rules) <= width + EVEN
        {
            chance = Some(index);
        }
        let before = line;
        line.add(piece, rules);
        let solid = match piece.kind {
            PieceKind::Hyphen => before.solid,
            _ => line.solid,
        };
        if solid <= width + EVEN || index == line_start {
            index += 1;
            continue;
        }
        let is_forced = rules.overflow_wrap == OverflowWrap::BreakWord;
        let Some(next) = chance.or(is_forced.then_some(index)) else {
            // It reaches out up to the next place to break, which may be here: behind a
            // first cluster that is too wide.
            while index < end && pieces[index].breaks != Break::Allowed {
                index += 1;
            }
            if index < end {
                ends.push(index);
                line_start = index;
                line = Measured::new(0.0);
            }
            continue;
        };
        ends.push(next);
        line_start = next;
        line = Measured::new(0.0);
        chance = None;
        index = next;
    }
    ends.push(end);
}

/// The breaks with the least sum of squared gaps, by way of the best ones for every
/// beginning of the text; none where a line can't be filled.
fn optimal(
    pieces: &[Piece],
    start: usize,
    end: usize,
    width: f64,
    rules: &Rules,
) -> Option<Vec<usize>> {
    let mut places = vec![start];
    places.extend((start + 1..end).filter(|index| pieces[*index].breaks == Break::Allowed));
    places.push(end);
    let last = places.len() - 1;
    let mut best: Vec<(f64, usize)> = vec![(f64::INFINITY, 0); places.len()];
    best[0].0 = 0.0;
    for from in 0..last {
        if !best[from].0.is_finite() {
            continue;
        }
        let indent = if from == 0 { rules.indent } else { 0.0 };
        let mut line = Measured::new(indent);
        let mut at = places[from];
        for to in from + 1..=last {
            for piece in &pieces[at..places[to]] {
                line.add(piece, rules);
            }
            at = places[to];
            let gap = width - line.trimmed(rules);
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
