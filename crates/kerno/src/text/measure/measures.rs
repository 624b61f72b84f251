//! Measures of a text for breaking its lines.

use crate::base::Insets;
use crate::text::analysis::unicode::{is_ascii_line_break, is_line_break};
use crate::text::measure::lines::{Break, ClusterKind, ClusterMeasure, LineMeasures, Place};
use crate::text::measure::torn::find_torn;
use crate::text::prepared::Prepared;
use crate::text::shape::{Run, Shaped, add_widths, set_pens};
use crate::text::{Cluster, Style, TextLayout, Wrap};

/// Finds the widths of clusters, what each is to a line, and where the pen stands for
/// every glyph.
pub(in crate::text) fn find_measures(layout: &TextLayout, prepared: &mut Prepared) {
    let Prepared {
        analysis,
        shaped,
        run_glyphs,
        measures,
    } = prepared;
    find_kinds(layout, measures);
    // Widths first, each after its cluster; what stands before is added up below.
    measures.pens.clear();
    measures.pens.resize(layout.clusters.len() + 1, 0.0);
    for (run, glyphs) in analysis.runs.iter().zip(&*run_glyphs) {
        let style = &layout.styles[run.span as usize];
        let unit = style.unit_at(run.face);
        let glyphs = &shaped.list[glyphs.clone()];
        let widths = &mut measures.pens[run.clusters.start + 1..=run.clusters.end];
        if let Some(sprite) = layout.sprite_of(run.span) {
            widths[0] += f64::from(sprite.width());
        }
        add_widths(glyphs, unit, run.clusters.start, widths);
        if style.letter_spacing != 0.0 || style.word_spacing != 0.0 {
            let clusters = &layout.clusters[run.clusters.clone()];
            let own = &mut measures.list[run.clusters.clone()];
            for ((piece, cluster), width) in own.iter_mut().zip(clusters).zip(widths) {
                let spacing = Spacing::of(style, piece.kind, cluster.part(layout.shown()));
                *width += spacing.all();
                piece.hanging += spacing.letter;
            }
        }
        hang_kerning(glyphs, &mut measures.list);
    }
    find_padding(layout, &analysis.runs, measures);
    let mut pen = 0.0;
    for width in &mut measures.pens {
        pen += *width;
        *width = pen;
    }
    for (run, glyphs) in analysis.runs.iter().zip(&*run_glyphs) {
        let unit = layout.styles[run.span as usize].unit_at(run.face);
        let glyphs = &mut shaped.list[glyphs.clone()];
        let pens = &measures.pens[run.clusters.clone()];
        set_pens(glyphs, unit, run, pens);
    }
    pad_pens(&mut shaped.list, measures.padding.iter().copied());
    find_places(&analysis.breaks, measures);
    find_torn(&analysis.runs, &shaped.list, run_glyphs, measures);
}

/// Finds where lines may end, and how far what is seen reaches there.
fn find_places(breaks: &[Break], measures: &mut LineMeasures) {
    let LineMeasures {
        list, pens, places, ..
    } = measures;
    places.clear();
    let breaks = breaks.iter().enumerate();
    let breaks = breaks.filter(|(_, breaks)| **breaks != Break::No);
    let (mut from, mut solid, mut shown) = (0, 0, 0);
    places.extend(breaks.map(|(cluster, breaks)| {
        let last = list[from..cluster].iter().rposition(|piece| !piece.hangs());
        solid = last.map_or(solid, |last| from + last + 1);
        // Mostly the same one.
        let is_shown = |piece: &ClusterMeasure| piece.kind != ClusterKind::Hyphen && !piece.hangs();
        let last = list[from..cluster.min(solid.max(from))]
            .iter()
            .rposition(is_shown);
        shown = last.map_or(shown, |last| from + last + 1);
        from = cluster;
        let last = solid.checked_sub(1).map(|last| list[last]);
        Place {
            cluster,
            breaks: *breaks,
            solid,
            shown,
            pen: pens[solid] - last.map_or(0.0, |last| last.hanging),
            is_soft: last.is_some_and(|last| last.kind == ClusterKind::Hyphen),
            is_torn: false,
        }
    }));
}

/// The space that a style adds to a cluster.
pub(in crate::text) struct Spacing {
    letter: f64,
    word: f64,
}

impl Spacing {
    pub(in crate::text) fn of(style: &Style, kind: ClusterKind, cluster: &str) -> Self {
        let has_some = matches!(kind, ClusterKind::Solid | ClusterKind::Space);
        let is_word_space = matches!(cluster, " " | "\u{a0}");
        let some = |length: f32, if_so: bool| if if_so { f64::from(length) } else { 0.0 };
        Self {
            letter: some(style.letter_spacing, has_some),
            word: some(style.word_spacing, has_some && is_word_space),
        }
    }

    pub(in crate::text) fn all(&self) -> f64 {
        self.letter + self.word
    }
}

/// Makes room before glyphs of clusters that have padding.
pub(in crate::text) fn pad_pens(
    glyphs: &mut [Shaped],
    padding: impl Iterator<Item = (usize, [f32; 2])>,
) {
    for (cluster, [before, _]) in padding {
        let first = glyphs.partition_point(|glyph| (glyph.placed.cluster as usize) < cluster);
        let own = glyphs[first..].iter_mut();
        let own = own.take_while(|glyph| glyph.placed.cluster as usize == cluster);
        own.for_each(|glyph| glyph.pen += f64::from(before));
    }
}

/// Role of each cluster in a line.
fn find_kinds(layout: &TextLayout, measures: &mut LineMeasures) {
    let wraps = layout.options.width.is_some() && layout.options.wrap != Wrap::None;
    let text = layout.shown();
    let list = &mut measures.list;
    list.clear();
    list.extend(layout.clusters.iter().map(|cluster| {
        let first = text.as_bytes()[cluster.start as usize];
        // Whatever stands on a letter, it is one.
        let kind = match first {
            b'!'..=b'~' => ClusterKind::Solid,
            _ => kind(cluster, text, wraps),
        };
        ClusterMeasure { hanging: 0.0, kind }
    }));
    measures.tabs.clear();
    if text.contains('\t') {
        let kinds = list.iter().enumerate();
        let tabs = kinds.filter(|(_, piece)| piece.is_tab());
        measures.tabs.extend(tabs.map(|(index, _)| index));
    }
    let is_soft = |piece: &ClusterMeasure| piece.kind == ClusterKind::Hyphen;
    let may_have = !text.is_ascii();
    measures.soft_hyphen = may_have.then(|| list.iter().position(is_soft)).flatten();
}

/// Kerning before a space is none where the line ends there.
fn hang_kerning(glyphs: &[Shaped], measures: &mut [ClusterMeasure]) {
    for pair in glyphs.windows(2) {
        let (before, space) = (&pair[0], &pair[1]);
        if !space.is_tied || before.is_attached {
            continue;
        }
        if measures[space.placed.cluster as usize].kind == ClusterKind::Space {
            let kerning = f64::from(before.placed.kerning);
            measures[before.last_cluster as usize].hanging += kerning;
        }
    }
}

/// Makes room beside the clusters at both ends of a span that has a plate.
fn find_padding(layout: &TextLayout, runs: &[Run], measures: &mut LineMeasures) {
    measures.padding.clear();
    if !layout.styles.iter().any(|style| style.plate.is_some()) {
        return;
    }
    for part in runs.chunk_by(|a, b| a.span == b.span) {
        let (Some(first), Some(last)) = (part.first(), part.last()) else {
            continue;
        };
        let Some(plate) = &layout.styles[first.span as usize].plate else {
            continue;
        };
        let Insets { left, right, .. } = plate.padding;
        let sides = |is_rtl: bool| if is_rtl { [right, left] } else { [left, right] };
        let before = sides(first.is_rtl())[0];
        let after = sides(last.is_rtl())[1];
        let (start, end) = (first.clusters.start, last.clusters.end - 1);
        if start == end {
            measures.padding.push((start, [before, after]));
        } else {
            measures.padding.push((start, [before, 0.0]));
            measures.padding.push((end, [0.0, after]));
        }
    }
    for (cluster, sides) in &measures.padding {
        // A tab is as wide as it is.
        if !measures.list[*cluster].is_tab() {
            let sides = sides.map(f64::from);
            measures.pens[cluster + 1] += sides[0] + sides[1];
        }
    }
}

/// Kind of a cluster in a line; where nothing wraps, spaces are as letters are, and so are tabs
/// at its end.
pub(in crate::text) fn kind(cluster: &Cluster, text: &str, wraps: bool) -> ClusterKind {
    let bytes = &text.as_bytes()[cluster.start as usize..cluster.end as usize];
    if let [byte] = bytes {
        return match *byte {
            b'\t' if wraps => ClusterKind::HangingTab,
            b'\t' => ClusterKind::Tab,
            b' ' if wraps => ClusterKind::Space,
            byte if is_ascii_line_break(byte) => ClusterKind::LineBreak,
            _ => ClusterKind::Solid,
        };
    }
    let text = cluster.part(text);
    match text {
        "\u{ad}" => ClusterKind::Hyphen,
        _ if is_line_break(text) => ClusterKind::LineBreak,
        "\u{a0}" | "\u{202f}" | "\u{2007}" => ClusterKind::Solid,
        _ if wraps && text.chars().all(char::is_whitespace) => ClusterKind::Space,
        _ => ClusterKind::Solid,
    }
}
