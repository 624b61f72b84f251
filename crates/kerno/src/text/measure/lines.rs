//! Measures of a text for breaking lines: widths of its parts, and places where lines may
//! end.

use std::ops::Range;

use crate::text::{OverflowWrap, Wrap};

/// True if a line may or must end before a cluster.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(in crate::text) enum Break {
    #[default]
    No,
    Allowed,
    /// The cluster before ends its line whatever stands around it.
    Must,
}

/// Measures of a cluster for breaking.
#[derive(Clone, Copy, Debug)]
pub(in crate::text) struct ClusterMeasure {
    /// Part of its width that does not count at a line's end, in design pixels: letter
    /// spacing, and kerning before a space.
    pub(in crate::text) hanging: f64,
    pub(in crate::text) kind: ClusterKind,
}

impl ClusterMeasure {
    /// Returns whether it does not count at a line's end.
    pub(in crate::text) fn hangs(&self) -> bool {
        matches!(
            self.kind,
            ClusterKind::Space | ClusterKind::LineBreak | ClusterKind::HangingTab
        )
    }

    /// Returns whether it is as wide as the next tab stop is far.
    pub(in crate::text) fn is_tab(&self) -> bool {
        matches!(self.kind, ClusterKind::Tab | ClusterKind::HangingTab)
    }
}

/// Role of a cluster in a line.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(in crate::text) enum ClusterKind {
    Solid,
    /// It hangs at a line's end.
    Space,
    /// As wide as the next tab stop is far, at a line's end too: nothing wraps.
    Tab,
    /// As wide as the next tab stop is far, and hangs at a line's end as spaces do (CSS Text,
    /// “Hanging white space”).
    HangingTab,
    /// A soft hyphen, seen only where a line ends with it.
    Hyphen,
    /// It ends a line.
    LineBreak,
}

/// A place where a line may end or has to.
#[derive(Clone, Copy, Debug)]
pub(in crate::text) struct Place {
    /// The cluster that the next line begins with.
    pub(in crate::text) cluster: usize,
    pub(in crate::text) breaks: Break,
    /// One past the last cluster before it that does not hang.
    pub(in crate::text) solid: usize,
    /// One past the last cluster before it that neither hangs nor is a soft hyphen.
    pub(in crate::text) shown: usize,
    /// Place of the pen after that one, without the part of it that hangs.
    pub(in crate::text) pen: f64,
    /// True if that one is a soft hyphen.
    pub(in crate::text) is_soft: bool,
    /// True if letters are broken apart there that belong together: they are shaped anew,
    /// and may be wider or narrower then.
    pub(in crate::text) is_torn: bool,
}

/// Measures of a text for breaking.
#[derive(Clone, Debug, Default)]
pub(in crate::text) struct LineMeasures {
    /// One for each cluster.
    pub(in crate::text) list: Vec<ClusterMeasure>,
    /// Places of the pen before each cluster and after the last one, in design
    /// pixels, as if all stood in one line and tabs took no room: how wide a part of
    /// the text is takes two of them.
    pub(in crate::text) pens: Vec<f64>,
    /// Places where lines may end, and where they have to.
    pub(in crate::text) places: Vec<Place>,
    /// Clusters that are tabs.
    pub(in crate::text) tabs: Vec<usize>,
    /// The room for plates before and after clusters, which is part of their widths.
    pub(in crate::text) padding: Vec<(usize, [f32; 2])>,
    /// The first soft hyphen.
    pub(in crate::text) soft_hyphen: Option<usize>,
}

/// A line that is measured from place to place.
pub(in crate::text) struct MeasuredLine {
    /// Its first cluster, and how far it is moved in.
    pub(in crate::text) start: usize,
    pub(in crate::text) indent: f64,
    /// The first of the tabs that was not passed yet.
    next_tab: usize,
    /// The cluster after the last one that was, and where the pen stands before it.
    from: usize,
    pen: f64,
}

/// A line that is so much wider than twice its box is not measured to its end.
const FAR: f64 = 1000.0;

impl LineMeasures {
    /// Those of no text.
    pub(in crate::text) const NOTHING: Self = Self {
        list: Vec::new(),
        pens: Vec::new(),
        places: Vec::new(),
        tabs: Vec::new(),
        padding: Vec::new(),
        soft_hyphen: None,
    };

    /// The padding of some of the clusters.
    pub(in crate::text) fn padding_in(
        &self,
        clusters: &Range<usize>,
    ) -> impl Iterator<Item = (usize, [f32; 2])> + Clone {
        let first = self
            .padding
            .partition_point(|(cluster, _)| *cluster < clusters.start);
        let (own, end) = (self.padding[first..].iter(), clusters.end);
        own.take_while(move |(cluster, _)| *cluster < end).copied()
    }

    /// Index of the first of the places that lie after a cluster.
    pub(in crate::text) fn place_after(&self, cluster: usize) -> usize {
        self.places
            .partition_point(|place| place.cluster <= cluster)
    }

    /// A line that is to be measured from a cluster on.
    #[inline]
    pub(in crate::text) fn line(&self, start: usize, indent: f64) -> MeasuredLine {
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

    /// Place of the pen of a line after its clusters up to one; of a line that is
    /// far too wide, somewhere in it. As fast as the tabs are few that were not passed
    /// before.
    #[inline]
    pub(in crate::text) fn pen_behind(
        &self,
        line: &mut MeasuredLine,
        end: usize,
        rules: &Rules,
    ) -> f64 {
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

    /// A cluster as the end of a line.
    pub(in crate::text) fn stop_at(&self, start: usize, end: usize) -> Stop {
        let own = || self.list[start..end].iter();
        let solid = own().rposition(|piece| !piece.hangs());
        let is_shown = |piece: &ClusterMeasure| !piece.hangs() && piece.kind != ClusterKind::Hyphen;
        Stop {
            cluster: end,
            solid: solid.map_or(start, |last| start + last + 1),
            shown: own()
                .rposition(is_shown)
                .map_or(start, |last| start + last + 1),
        }
    }

    /// One past the last cluster of some that does not hang.
    #[inline]
    pub(in crate::text) fn solid_end(&self, start: usize, end: usize) -> usize {
        let last = self.list[start..end]
            .iter()
            .rposition(|piece| !piece.hangs());
        last.map_or(start, |last| start + last + 1)
    }

    /// One past the last cluster of some that is neither a soft hyphen nor hangs: of a line
    /// that shows no hyphen.
    pub(in crate::text) fn shown_end(&self, start: usize, end: usize) -> usize {
        self.stop_at(start, end).shown
    }

    /// Width of a line that ends somewhere, as if a soft hyphen at its end was not seen.
    pub(in crate::text) fn least_width(
        &self,
        line: &mut MeasuredLine,
        stop: &Stop,
        rules: &Rules,
    ) -> f64 {
        match stop.shown.checked_sub(1).filter(|last| *last >= line.start) {
            None => line.indent,
            Some(last) => self.pen_behind(line, stop.shown, rules) - self.list[last].hanging,
        }
    }

    /// The same up to a place.
    #[inline]
    pub(in crate::text) fn least_width_to(
        &self,
        line: &mut MeasuredLine,
        place: &Place,
        rules: &Rules,
    ) -> f64 {
        if place.solid > line.start && !place.is_soft && self.tabs.is_empty() {
            return line.indent + (place.pen - self.pens[line.start]);
        }
        self.least_width(line, &Stop::of(place), rules)
    }

    /// Width of the clusters of a line, without what hangs at its end.
    pub(in crate::text) fn line_width(
        &self,
        start: usize,
        end: usize,
        indent: f64,
        rules: &Rules,
    ) -> f64 {
        let stop = self.stop_at(start, end);
        self.width(&mut self.line(start, indent), &stop, rules)
    }

    /// Width of a line up to its end, without what hangs there.
    pub(in crate::text) fn width(
        &self,
        line: &mut MeasuredLine,
        stop: &Stop,
        rules: &Rules,
    ) -> f64 {
        let solid = stop.solid;
        if solid <= line.start {
            return line.indent;
        }
        let last = self.list[solid - 1];
        if last.kind != ClusterKind::Hyphen {
            return self.pen_behind(line, solid, rules) - last.hanging;
        }
        let hyphen = if solid == stop.cluster {
            rules.hyphen
        } else {
            0.0
        };
        self.pen_behind(line, solid - 1, rules) + hyphen
    }

    /// Width of a line that ends with the text or with a line break: a soft hyphen is not
    /// seen there.
    pub(in crate::text) fn last_line_width(
        &self,
        clusters: Range<usize>,
        indent: f64,
        rules: &Rules,
    ) -> f64 {
        let stop = self.stop_at(clusters.start, clusters.end);
        self.least_width(&mut self.line(clusters.start, indent), &stop, rules)
    }
}

/// The end of a line: the cluster that the next one begins with, and what is seen before it.
#[derive(Clone, Copy, Debug)]
pub(in crate::text) struct Stop {
    pub(in crate::text) cluster: usize,
    /// One past the last cluster before it that does not hang; at most the line's first one
    /// where all do.
    pub(in crate::text) solid: usize,
    /// One past the last one that neither hangs nor is a soft hyphen.
    pub(in crate::text) shown: usize,
}

impl Stop {
    /// A place as the end of a line.
    pub(in crate::text) fn of(place: &Place) -> Self {
        Self {
            cluster: place.cluster,
            solid: place.solid,
            shown: place.shown,
        }
    }
}

/// Ways of breaking lines.
#[derive(Clone, Copy, Debug)]
pub(in crate::text) struct Rules {
    /// The largest size of the text, in design pixels.
    pub(in crate::text) size: f64,
    /// The widest that a line may be; none where it may be any.
    pub(in crate::text) width: Option<f64>,
    pub(in crate::text) wrap: Wrap,
    pub(in crate::text) overflow_wrap: OverflowWrap,
    /// The distance the first line of a paragraph is moved in.
    pub(in crate::text) indent: f64,
    /// Distance between tab stops.
    pub(in crate::text) tab: f64,
    /// The least width of a tab.
    pub(in crate::text) least_tab: f64,
    /// Width of the hyphen that a soft one becomes.
    pub(in crate::text) hyphen: f64,
}

/// To the next tab stop, or the one after it where that is too near (CSS Text,
/// `tab-size`).
pub(in crate::text) fn tab_width(pen: f64, rules: &Rules) -> f64 {
    let stop = rules.tab;
    if stop <= 0.0 {
        return 0.0;
    }
    let width = ((pen / stop + 1e-6).floor() + 1.0) * stop - pen;
    if width + 1e-6 < rules.least_tab {
        width + stop
    } else {
        width
    }
}

/// The first number of a range for which something does not hold; its end where it holds
/// for all.
pub(in crate::text) fn partition_point(
    range: Range<usize>,
    holds: impl Fn(usize) -> bool,
) -> usize {
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
