//! Pages of a text that is longer than its box.

use std::cmp::Ordering;
use std::ops::Range;

use super::rest::Rest;
use crate::text::TextLayout;

/// A page of a text.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Page {
    /// Its lines.
    pub lines: Range<usize>,
    /// Its clusters.
    pub clusters: Range<usize>,
    /// Top of its first line, in design pixels from the top of the block: the text is drawn
    /// that much higher.
    pub top: f32,
}

/// Cuts a text into pages of a height in design pixels, or of a number of lines. Pages end at
/// line ends: where the page is at least half full by then at the end of a sentence, and where
/// it can be helped no page has but one line. A line higher than the box has a page of its own.
///
/// ```no_run
/// # use kerno::{Face, Style, TextLayout};
/// use kerno::dialogue::{PageSize, pages};
/// # let face = Face::from_file("fonts/Lato-Medium.ttf").unwrap();
/// let layout = TextLayout::new("Fog.\nAnd fog.\nAnd more fog.", &Style::new(&face, 16.0)).unwrap();
/// for page in pages(&layout, PageSize::Lines(2)) {
///     println!("lines {:?}, drawn {} px higher", page.lines, page.top);
/// }
/// ```
pub fn pages(layout: &TextLayout, size: PageSize) -> Vec<Page> {
    let lines = layout.lines();
    let mut pages = Vec::new();
    let mut first = 0;
    while first < lines.len() {
        let fitting = match size {
            PageSize::Lines(count) => count.max(1),
            PageSize::Height(height) => {
                let top = lines[first].top;
                let is_in =
                    |line: &&crate::text::Line| line.top + line.height - top <= height + 0.01;
                lines[first..].iter().take_while(is_in).count().max(1)
            }
        };
        let count = match lines.len() - first {
            left if left <= fitting => left,
            left => kept(layout, first, fitting, left),
        };
        let lines = first..first + count;
        let of = &layout.lines()[lines.clone()];
        pages.push(Page {
            clusters: of[0].clusters.start..of[count - 1].clusters.end,
            top: of[0].top,
            lines,
        });
        first += count;
    }
    pages
}

/// Cuts a text into pages that differ by a line: the text scrolls.
pub(super) fn scrolling(layout: &TextLayout, size: PageSize) -> Vec<Page> {
    let lines = layout.lines();
    let mut first = 0;
    let mut pages: Vec<Page> = Vec::new();
    for end in 1..=lines.len() {
        let last = &lines[end - 1];
        let is_out = |first: usize| match size {
            PageSize::Lines(count) => end - first > count.max(1),
            // Not by a comparison that fails for what is no number.
            PageSize::Height(height) => {
                let used = last.top + last.height - lines[first].top;
                used.partial_cmp(&(height + 0.01)) != Some(Ordering::Less)
            }
        };
        let is_full = is_out(first);
        while is_out(first) && first + 1 < end {
            first += 1;
        }
        if !is_full {
            pages.clear();
        }
        pages.push(Page {
            lines: first..end,
            clusters: lines[first].clusters.start..last.clusters.end,
            top: lines[first].top,
        });
    }
    pages
}

/// Size of a page.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum PageSize {
    /// Height in design pixels.
    Height(f32),
    /// A number of lines.
    Lines(usize),
}

/// The number of lines of a page, of those that fit, where more are left.
fn kept(layout: &TextLayout, first: usize, fitting: usize, left: usize) -> usize {
    let least = fitting.div_ceil(2);
    let sentence = (least..=fitting)
        .rev()
        .find(|count| ends_sentence(layout, first + count - 1));
    match sentence {
        Some(count) if left - count != 1 || count == 1 => count,
        // The last line is not alone.
        _ if left - fitting == 1 && fitting > 2 => fitting - 1,
        _ => fitting,
    }
}

/// Returns whether a sentence ends with a line.
fn ends_sentence(layout: &TextLayout, line: usize) -> bool {
    let line = &layout.lines()[line];
    let text = layout.text();
    let mut rest = Rest::None;
    let mut before = ' ';
    for cluster in &layout.clusters()[line.clusters.clone()] {
        let mark = text[cluster.start as usize..].chars().next().unwrap_or(' ');
        if !mark.is_whitespace() {
            rest = rest.after(mark, before);
            before = mark;
        }
    }
    rest.ends_sentence()
}
