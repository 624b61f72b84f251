//! Lines beneath and through letters.

use std::ops::Range;

use crate::base::Rect;
use crate::text::{Line, Style, TextLayout};

/// A line that goes along with letters (CSS `text-decoration-line`).
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum DecorationLine {
    /// Beneath the baseline, where the face wants it (`post`).
    Underline,
    /// Through the middle of small letters, where the face wants it (`OS/2`).
    LineThrough,
}

impl DecorationLine {
    fn is_on(self, style: &Style) -> bool {
        match self {
            Self::Underline => style.underline,
            Self::LineThrough => style.line_through,
        }
    }

    /// From the baseline up to the rule's upper edge, and its thickness, in design
    /// pixels. Where the face says nothing, what looks right for most.
    fn place(self, style: &Style) -> (f32, f32) {
        let metrics = style.face.metrics();
        let em = f32::from(metrics.units_per_em);
        let (stated, height) = match self {
            Self::Underline => (metrics.underline, -0.1),
            Self::LineThrough => {
                let x_height = metrics.x_height.map_or(0.5, |x| f32::from(x) / em);
                (metrics.strikeout, x_height * 0.5 + 0.025)
            }
        };
        let stated = stated.filter(|rule| rule.thickness > 0);
        let (height, thickness) = stated.map_or((height, 0.05), |rule| {
            (
                f32::from(rule.position) / em,
                f32::from(rule.thickness) / em,
            )
        });
        (height * style.size, thickness * style.size)
    }
}

impl TextLayout {
    /// The rules of a kind along some clusters, with the style of
    /// each: in design pixels from the block's top left corner, one for each run of
    /// neighbours in one span. Spaces that hang at the end of a line have none.
    pub fn decorations(
        &self,
        kind: DecorationLine,
        shown: Range<usize>,
    ) -> impl Iterator<Item = (Rect, &Style)> {
        let is_asked = self.styles.iter().any(|style| kind.is_on(style));
        let lines = self.lines[self.lines_with(&shown)].iter();
        let lines = lines.filter(move |_| is_asked);
        lines.flat_map(move |line| {
            let shown = shown.clone();
            let runs = self.glyphs[line.glyphs.clone()].chunk_by(|a, b| a.span == b.span);
            runs.filter_map(move |run| {
                let style = self.style(run.first()?.span);
                kind.is_on(style)
                    .then(|| self.rule(kind, line, run, &shown))?
                    .map(|rule| (rule, style))
            })
        })
    }

    fn rule(
        &self,
        kind: DecorationLine,
        line: &Line,
        run: &[crate::text::PlacedGlyph],
        shown: &Range<usize>,
    ) -> Option<Rect> {
        let (mut left, mut right) = (f32::INFINITY, f32::NEG_INFINITY);
        for glyph in run
            .iter()
            .filter(|glyph| shown.contains(&(glyph.cluster as usize)))
        {
            let cluster = &self.clusters[glyph.cluster as usize];
            left = left.min(cluster.x);
            // A ligature reaches beyond the first of its clusters.
            right = right.max(cluster.x + cluster.advance);
            if glyph.advance > 0.0 && !cluster.is_rtl {
                right = right.max(glyph.x + glyph.advance);
            }
        }
        let (left, right) = (left.max(line.x), right.min(line.x + line.width));
        let style = self.style(run.first()?.span);
        let (height, thickness) = kind.place(style);
        let top = line.baseline - style.baseline_shift - height;
        (left < right).then(|| Rect::new(left, top, right - left, thickness))
    }
}
