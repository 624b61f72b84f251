//! Signs that are shown and not in the text, and what of a line gives way to them.

use std::ops::Range;

use icu_properties::props::Script;

use crate::font::FontError;
use crate::text::measure::line::Measure;
use crate::text::measure::lines::{ClusterKind, Rules, partition_point};
use crate::text::measure::measures::kind;
use crate::text::place::segments::Reshaped;
use crate::text::shape::{Output, Run};
use crate::text::{Cluster, Overflow, TextError, TextLayout};

/// A sign that is shown and not in the text: a hyphen, an ellipsis.
pub(in crate::text) struct Insertion {
    /// Range of its glyphs among those that were shaped for the line.
    pub(in crate::text) glyphs: Range<usize>,
    pub(in crate::text) span: u32,
    /// Index of its face in the style.
    pub(in crate::text) face: u16,
    pub(in crate::text) width: f64,
}

impl Insertion {
    /// The first of some insertions that a face of the stack has, the stack being asked for one
    /// sign after another. Where no face has any, nothing is shown in its place.
    fn of(
        layout: &TextLayout,
        span: u32,
        fresh: &mut Reshaped,
        insertions: &[&str],
    ) -> Result<Self, FontError> {
        let style = layout.style(span);
        let faces = 0..=style.fallback.len() as u16;
        let has = |sign: &str, face: u16| {
            let face = style.face_at(face);
            sign.chars().all(|c| face.glyph(c).is_some())
        };
        let mut found = insertions.iter().filter_map(|sign| {
            let face = faces.clone().find(|face| has(sign, *face))?;
            Some((*sign, face))
        });
        let first = fresh.glyphs.list.len();
        let Some((sign, face)) = found.next() else {
            return Ok(Self {
                glyphs: first..first,
                span,
                face: 0,
                width: 0.0,
            });
        };
        let run = Run {
            clusters: 0..1,
            start: 0,
            end: sign.len() as u32,
            span,
            face,
            script: Script::Latin,
            level: 0,
        };
        let cluster = Cluster::of(0, sign.len() as u32);
        let into = &mut Output {
            glyphs: &mut fresh.glyphs,
            missing: &mut Vec::new(),
        };
        fresh.shaper.shape(sign, &[cluster], &run, style, into)?;
        let glyphs = &fresh.glyphs.list[first..];
        let advance: i32 = glyphs.iter().map(|glyph| glyph.advance).sum();
        Ok(Self {
            glyphs: first..fresh.glyphs.list.len(),
            span,
            face,
            width: f64::from(advance) * style.unit_at(face),
        })
    }

    /// A soft hyphen as it is at a line's end.
    pub(in crate::text) fn hyphen(
        layout: &TextLayout,
        span: u32,
        fresh: &mut Reshaped,
    ) -> Result<Self, FontError> {
        Self::of(layout, span, fresh, &["\u{2010}", "-"])
    }

    fn ellipsis(layout: &TextLayout, span: u32, fresh: &mut Reshaped) -> Result<Self, FontError> {
        Self::of(layout, span, fresh, &["\u{2026}", "..."])
    }
}

/// The part of a line that is shown: some of its clusters, and a sign between or after them.
pub(in crate::text) struct VisibleParts {
    pub(in crate::text) head: Range<usize>,
    pub(in crate::text) sign: Option<Insertion>,
    pub(in crate::text) tail: Range<usize>,
}

impl VisibleParts {
    /// Finds the part of a line that is shown, where it does not fit or where text after it is cut
    /// off (`rest`).
    pub(in crate::text) fn of(
        layout: &TextLayout,
        fresh: &mut Reshaped,
        rules: &Rules,
        line: &Range<usize>,
        (indent, rest): (f64, bool),
    ) -> Result<Self, TextError> {
        let (options, measures) = (&layout.options, &layout.prepared.measures);
        let width_of = |clusters: Range<usize>, indent: f64| {
            measures.line_width(clusters.start, clusters.end, indent, rules)
        };
        let end = line.end..line.end;
        let last = measures.list[line.clone()].last();
        if last.is_some_and(|piece| piece.kind == ClusterKind::Hyphen) && !rest {
            let is_broken = line.end < layout.clusters.len();
            let span = layout.span_of(line.end - 1);
            let sign = if is_broken {
                Some(Insertion::hyphen(layout, span, fresh)?)
            } else {
                None
            };
            let (head, tail) = (line.clone(), end);
            return Ok(Self { head, sign, tail });
        }
        let whole = Self {
            head: line.clone(),
            sign: None,
            tail: end.clone(),
        };
        let (Some(width), true) = (rules.width, is_ellipsis(options.overflow)) else {
            return Ok(whole);
        };
        let whole_width = Measure::new(layout, fresh).width(line.clone(), indent, rules)?;
        let is_wide = whole_width > width + 0.01;
        // A sign belongs to the cluster that it stands for: a line without any has none.
        if (!is_wide && !rest) || line.is_empty() {
            return Ok(whole);
        }
        let sign = Insertion::ellipsis(layout, layout.span_of(line.start), fresh)?;
        let room = width - sign.width - indent;
        // As much of the start as fits, without spaces at its end; or of the end.
        // The sign stands after the letter spacing of what is before it.
        let pen_after = |end: usize| {
            let last = measures.solid_end(line.start, end).checked_sub(1);
            let last = last.filter(|last| *last >= line.start);
            // Tab stops count from where the line begins; without any it makes no difference.
            let from = if measures.tabs.is_empty() {
                0.0
            } else {
                indent
            };
            let hanging = last.map_or(0.0, |last| measures.list[last].hanging);
            width_of(line.start..end, from) - from + hanging
        };
        let head = |most: f64| {
            let fits = |end: usize| pen_after(end) <= most;
            let end = partition_point(line.start..line.end + 1, fits).max(line.start + 1) - 1;
            line.start..measures.solid_end(line.start, end)
        };
        // Nor do spaces count at the end of the line, whether lines wrap or not.
        let tail_end = seen_end(layout, line);
        let tail = |pen: f64, from: usize| {
            // From where it stands: tabs are as wide as the next stop is far.
            let is_wide = |start: usize| width_of(start..tail_end.max(start), pen) > width;
            partition_point(from..line.end, is_wide)..line.end
        };
        let (head, tail) = match options.overflow {
            Overflow::EllipsisAtStart => (
                line.start..line.start,
                tail(indent + sign.width, line.start),
            ),
            Overflow::EllipsisInMiddle => {
                let head = head(room * 0.5);
                let pen = indent + pen_after(head.end) + sign.width;
                let tail = tail(pen, head.end);
                (head, tail)
            }
            _ => (head(room), end),
        };
        let sign = Some(sign);
        Ok(Self { head, sign, tail })
    }

    /// The clusters that hang at the end of a line that ends at a cluster: spaces, and the break.
    pub(in crate::text) fn trailing(&self, layout: &TextLayout, end: usize) -> Range<usize> {
        match self.sign {
            None => {
                let measures = &layout.prepared.measures;
                measures.shown_end(self.head.start, self.head.end)..end
            }
            Some(_) if self.tail.is_empty() => end..end,
            Some(_) => seen_end(layout, &self.tail)..end,
        }
    }
}

/// One past the last of some clusters that is neither a space, nor a tab, nor a line break.
fn seen_end(layout: &TextLayout, clusters: &Range<usize>) -> usize {
    let is_space = |cluster: &Cluster| {
        let kind = kind(cluster, layout.shown(), true);
        matches!(
            kind,
            ClusterKind::Space | ClusterKind::LineBreak | ClusterKind::HangingTab
        )
    };
    let own = &layout.clusters[clusters.clone()];
    let last = own.iter().rposition(|cluster| !is_space(cluster));
    last.map_or(clusters.start, |last| clusters.start + last + 1)
}

fn is_ellipsis(overflow: Overflow) -> bool {
    matches!(
        overflow,
        Overflow::Ellipsis | Overflow::EllipsisAtStart | Overflow::EllipsisInMiddle
    )
}
