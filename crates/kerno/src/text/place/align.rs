//! Places of lines in their block.

use crate::text::measure::lines::ClusterKind;
use crate::text::{LayoutContext, TextAlign, TextLayout, VerticalAlign};

/// Moves every line to its place in a block of a width.
pub(in crate::text) fn align(layout: &mut TextLayout, work: &mut LayoutContext, width: f32) {
    let align = layout.options.align;
    let count = layout.lines.len();
    for index in 0..count {
        let line = &layout.lines[index];
        let free = width - line.width - line.indent;
        let is_last = index + 1 == count
            || layout.prepared.measures.list[line.clusters.clone()]
                .last()
                .is_some_and(|piece| piece.kind == ClusterKind::LineBreak);
        if align == TextAlign::Justify && !is_last && free > 0.0 {
            let before = layout.lines[index].width;
            justify(layout, index, free, &mut work.numbers);
            // The last letter moves as far as all spaces have grown.
            let line = &mut layout.lines[index];
            line.ink.width += line.width - before;
        }
        let line = &mut layout.lines[index];
        let free = width - line.width - line.indent;
        let indent = if line.is_rtl { 0.0 } else { line.indent };
        line.x = indent + free * align.share(line.is_rtl);
        let x = line.x;
        if x != 0.0 {
            for glyph in &mut layout.glyphs[line.glyphs.clone()] {
                glyph.x += x;
            }
            for cluster in &mut layout.clusters[line.clusters.clone()] {
                cluster.x += x;
            }
            line.ink.x += x;
        }
    }
}

/// Widens the spaces of a line by `free` together. `spaces` is working memory.
fn justify(layout: &mut TextLayout, index: usize, free: f32, spaces: &mut Vec<f32>) {
    let line = layout.lines[index].clone();
    let measures = &layout.prepared.measures.list;
    let is_space = |cluster: &usize| measures[*cluster].kind == ClusterKind::Space;
    let clusters = line.clusters.clone();
    let all = &layout.prepared.measures;
    // A soft hyphen is seen where the line ends with it, else it is not there.
    let solid_end = match measures[clusters.clone()].last() {
        Some(last) if last.kind == ClusterKind::Hyphen => clusters.end,
        _ => all.shown_end(clusters.start, clusters.end),
    };
    if solid_end == clusters.start {
        return;
    }
    let solid = solid_end - 1;
    spaces.clear();
    let within = (line.clusters.start..solid).filter(is_space);
    spaces.extend(within.map(|cluster| layout.clusters[cluster].x));
    spaces.sort_unstable_by(f32::total_cmp);
    if spaces.is_empty() {
        return;
    }
    let more = free / spaces.len() as f32;
    // Everything to the right of a space moves by what the space grows.
    let before = |x: f32| spaces.partition_point(|space| *space < x - 1e-4);
    let shift = |x: f32| before(x) as f32 * more;
    for glyph in &mut layout.glyphs[line.glyphs.clone()] {
        let cluster = &layout.clusters[glyph.cluster as usize];
        glyph.x += shift(cluster.x);
    }
    for cluster in line.clusters.clone() {
        let is_wider = is_space(&cluster) && cluster < solid;
        let cluster = &mut layout.clusters[cluster];
        cluster.x += shift(cluster.x);
        cluster.advance += if is_wider { more } else { 0.0 };
    }
    layout.lines[index].width += free;
}

/// Moves the lines to their place in a block that is higher.
pub(in crate::text) fn align_vertically(layout: &mut TextLayout) {
    let used = layout.size.height;
    let height = match (layout.options.height, layout.options.vertical_align) {
        (Some(height), _) => height,
        // As high as it takes.
        (None, VerticalAlign::FirstBaseline(place)) => used + place - layout.first_baseline(),
        (None, _) => return,
    };
    layout.size.height = height;
    let free = height - used;
    let down = match layout.options.vertical_align {
        VerticalAlign::Top => 0.0,
        VerticalAlign::Middle => free * 0.5,
        VerticalAlign::Bottom => free,
        VerticalAlign::MiddleOfInk if layout.ink.is_empty() => free * 0.5,
        VerticalAlign::FirstBaseline(place) => place - layout.first_baseline(),
        VerticalAlign::MiddleOfCapitals => height * 0.5 - layout.capitals_middle(),
        VerticalAlign::MiddleOfInk => (height - layout.ink.height) * 0.5 - layout.ink.y,
    };
    if down == 0.0 {
        return;
    }
    for glyph in &mut layout.glyphs {
        glyph.y += down;
    }
    for line in &mut layout.lines {
        line.top += down;
        line.baseline += down;
        line.ink.y += down;
    }
    layout.ink.y += down;
}
