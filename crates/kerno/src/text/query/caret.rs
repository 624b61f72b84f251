//! Places in a text and places on the screen: carets, hits, selections.

use std::ops::Range;

use crate::base::{Point, Rect};
use crate::text::{Cluster, Line, TextLayout};

/// The place of a caret, in design pixels from the block's top left corner.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Caret {
    /// Rightwards.
    pub x: f32,
    /// Its top edge, downwards.
    pub top: f32,
    /// As high as its line.
    pub height: f32,
    /// Index of its line.
    pub line: usize,
}

impl TextLayout {
    /// The caret before a byte of the text: at the side of its cluster where reading
    /// begins, so in text from right to left at the right. Inside a cluster it is the
    /// one before it; at the end of the text after its last cluster. A byte of text that is left
    /// out has the caret of where that begins: before the ellipsis.
    pub fn caret(&self, byte: usize) -> Caret {
        let clusters = self.clusters();
        let after = clusters.partition_point(|cluster| (cluster.end as usize) <= byte);
        if let Some(cluster) = clusters.get(after) {
            let line = &self.lines()[cluster.line as usize];
            return caret_on(line, cluster.line as usize, leading(cluster));
        }
        let number = self.lines().len().saturating_sub(1);
        let Some(line) = self.lines().last() else {
            return Caret {
                x: 0.0,
                top: 0.0,
                height: 0.0,
                line: 0,
            };
        };
        // Behind a line break begins a line without clusters.
        let last = clusters
            .last()
            .filter(|cluster| cluster.line as usize == number);
        let start = if line.is_rtl {
            line.x + line.width
        } else {
            line.x
        };
        caret_on(line, number, last.map_or(start, trailing))
    }

    /// The byte whose caret is nearest to a place, on the line that the place is on;
    /// above the first line and below the last one on these. Of text that is left out, its first
    /// byte.
    pub fn hit(&self, at: Point) -> usize {
        let below = self
            .lines()
            .partition_point(|line| line.top + line.height <= at.y);
        let index = below.min(self.lines().len().saturating_sub(1));
        let Some(line) = self.lines().get(index) else {
            return 0;
        };
        // By the carets of all bytes on the line: where directions meet, the end of a cluster is
        // not where the caret after it is.
        let mut nearest: Option<(f32, usize)> = None;
        let mut consider = |x: f32, byte: usize| {
            let distance = (x - at.x).abs();
            if nearest.is_none_or(|(best, _)| distance + 1e-3 < best) {
                nearest = Some((distance, byte));
            }
        };
        let clusters = &self.clusters()[line.clusters.clone()];
        for cluster in clusters {
            consider(leading(cluster), cluster.start as usize);
        }
        // The caret after what ends a line is on the next one, but for the end of the text.
        let ends_text = |cluster: &&Cluster| cluster.end as usize == self.text().len();
        if let Some(last) = clusters.last().filter(ends_text)
            && index + 1 == self.lines().len()
            && last.advance > 0.0
        {
            consider(trailing(last), last.end as usize);
        }
        // Text that is left out before the first line or after the last one.
        let before = self
            .clusters()
            .first()
            .filter(|_| index == 0 && line.clusters.start > 0);
        let is_last = index + 1 == self.lines().len();
        let after = self.clusters().get(line.clusters.end).filter(|_| is_last);
        for hidden in before.into_iter().chain(after) {
            consider(leading(hidden), hidden.start as usize);
        }
        nearest.map_or(self.end_of(line), |(_, byte)| byte)
    }

    /// The boxes of a range of bytes: for each line one, or more where its parts run
    /// in different directions.
    pub fn selection(&self, bytes: Range<usize>) -> Vec<Rect> {
        let mut boxes: Vec<Rect> = Vec::new();
        for line in self.lines() {
            let clusters = self.clusters()[line.clusters.clone()].iter();
            let mut parts: Vec<(f32, f32)> = clusters
                .filter(|cluster| {
                    bytes.start < cluster.end as usize && (cluster.start as usize) < bytes.end
                })
                .map(|cluster| (cluster.x, cluster.x + cluster.advance))
                .collect();
            parts.sort_by(|a, b| a.0.total_cmp(&b.0));
            let first = boxes.len();
            for (left, right) in parts {
                match boxes[first..].last_mut() {
                    Some(last) if left <= last.right() + 0.01 => {
                        last.width = last.width.max(right - last.x);
                    }
                    _ => boxes.push(Rect::new(left, line.top, right - left, line.height)),
                }
            }
        }
        boxes
    }

    /// The byte after a line.
    fn end_of(&self, line: &Line) -> usize {
        let last = self.clusters()[line.clusters.clone()].last();
        last.map_or(self.text().len(), |cluster| cluster.end as usize)
    }
}

fn caret_on(line: &Line, number: usize, x: f32) -> Caret {
    Caret {
        x,
        top: line.top,
        height: line.height,
        line: number,
    }
}

/// The edge of a cluster at which reading it begins.
fn leading(cluster: &Cluster) -> f32 {
    if cluster.is_rtl {
        cluster.x + cluster.advance
    } else {
        cluster.x
    }
}

/// And where it ends.
fn trailing(cluster: &Cluster) -> f32 {
    if cluster.is_rtl {
        cluster.x
    } else {
        cluster.x + cluster.advance
    }
}
