//! The spans of a layout.

use super::owned_span::OwnedSpan;
use super::{InlineSprite, Span, Style, TextLayout};

/// A span of a layout as it was asked for: its text is a part of that of the layout.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct SpanRecord {
    /// The number of bytes of the text it is.
    pub(super) length: usize,
    /// Its style as it was asked for, where the layout's own is another: one fitted to the
    /// sizes of a bitmap strike, or shrunk.
    pub(super) wanted: Option<Box<Style>>,
    /// The sprite that it is, where it is no text.
    pub(super) sprite: Option<Box<InlineSprite>>,
}

impl SpanRecord {
    /// The record of a span that is set in a style.
    pub(super) fn of(span: &Span<'_>, given: &Style) -> Self {
        let is_other = span.style != given;
        Self {
            length: span.text().len(),
            wanted: is_other.then(|| Box::new(span.style.clone())),
            sprite: span.own_sprite().cloned().map(Box::new),
        }
    }
}

impl TextLayout {
    /// The spans as they were asked for.
    pub(super) fn owned_spans(&self) -> Vec<OwnedSpan> {
        let records = self.spans.iter().zip(&self.styles);
        let owned = records.map(|(record, given)| OwnedSpan {
            length: record.length,
            style: record.wanted.as_deref().unwrap_or(given).clone(),
            sprite: record.sprite.as_deref().cloned(),
        });
        owned.collect()
    }

    /// The span of a cluster.
    pub(super) fn span_of(&self, cluster: usize) -> u32 {
        let Some(cluster) = self.clusters.get(cluster).or(self.clusters.last()) else {
            return 0;
        };
        let (mut span, mut end) = (0, self.spans.first().map_or(0, |first| first.length));
        while cluster.start as usize >= end && span + 1 < self.spans.len() {
            span += 1;
            end += self.spans[span].length;
        }
        span as u32
    }

    /// The spans that have clusters, each with its own.
    pub(super) fn span_clusters(&self) -> impl Iterator<Item = (u32, std::ops::Range<usize>)> {
        let (mut byte, mut first) = (0, 0);
        let last = self.spans.len() - 1.min(self.spans.len());
        let spans = self.spans.iter().enumerate();
        spans.filter_map(move |(index, span)| {
            byte += span.length;
            let rest = &self.clusters[first..];
            // A cluster is of the span that it begins in.
            let count = match index == last {
                true => rest.len(),
                false => rest.partition_point(|cluster| (cluster.start as usize) < byte),
            };
            let own = first..first + count;
            first = own.end;
            (!own.is_empty()).then_some((index as u32, own))
        })
    }

    /// The sprite that a span is, if it is one.
    pub(super) fn sprite_of(&self, span: u32) -> Option<&InlineSprite> {
        self.spans.get(span as usize)?.sprite.as_deref()
    }
}
