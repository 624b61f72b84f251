//! Memory that laying out takes and gives back.

use std::ops::Range;

use super::compose::compose;
use super::place::segments::{Ordered, Reshaped, Segment};
use super::prepared::Prepared;
use super::{LayoutOptions, Span, TextError, TextLayout};
use crate::font::Attachment;

/// Memory for laying out text, to be lent where speed matters: what is laid out or changed
/// in a warm context allocates nothing but what the layout itself needs, and a warm layout
/// that changes nothing at all. One context serves any number of layouts, one at a time.
///
/// ```no_run
/// use kerno::{Face, Style, TextLayout};
/// use kerno::text::LayoutContext;
/// # let face = Face::from_file("fonts/Lato-Medium.ttf").unwrap();
/// let mut context = LayoutContext::new();
/// let mut fares = TextLayout::new("0", &Style::new(&face, 24.0))?;
/// // Every frame:
/// context.set_text(&mut fares, 0, "1,284")?;
/// # Ok::<(), kerno::text::TextError>(())
/// ```
#[derive(Debug, Default)]
pub struct LayoutContext {
    /// The ends of lines, and others that are tried.
    pub(super) ends: Vec<usize>,
    pub(super) tried_ends: Vec<usize>,
    /// Runs that were shaped for the line at hand.
    pub(super) fresh: Reshaped,
    /// Its parts in reading order, and their order from left to right.
    pub(super) segments: Vec<Segment>,
    pub(super) order: Vec<Ordered>,
    /// Memory for what is known of the next text.
    pub(super) spare: Option<Box<Prepared>>,
    pub(super) old_missing: Vec<u32>,
    pub(super) levels: Vec<u8>,
    /// Glyphs of a part that stand on others.
    pub(super) attachments: Vec<(usize, Attachment)>,
    /// The top of the first line: below the paragraphs that stay as they are.
    pub(super) top: f32,
    /// The tabs of the line at hand with their widths, in reading order.
    pub(super) tabs: Vec<(usize, f64)>,
    /// The heights of letters, or the places of the spaces of a line.
    pub(super) numbers: Vec<f32>,
}

impl LayoutContext {
    /// A context without any memory yet.
    pub fn new() -> Self {
        Self::default()
    }

    /// As [`TextLayout::with_options`].
    ///
    /// # Errors
    /// As there.
    pub fn lay_out(
        &mut self,
        spans: &[Span<'_>],
        options: &LayoutOptions,
    ) -> Result<TextLayout, TextError> {
        compose(spans, options, self)
    }

    /// As [`TextLayout::set_text`].
    ///
    /// # Errors
    /// As there.
    pub fn set_text(
        &mut self,
        layout: &mut TextLayout,
        span: u32,
        text: &str,
    ) -> Result<(), TextError> {
        layout.set_text_in(self, span, text)
    }

    /// As [`TextLayout::edit`].
    ///
    /// # Errors
    /// As there.
    pub fn edit(
        &mut self,
        layout: &mut TextLayout,
        bytes: Range<usize>,
        text: &str,
    ) -> Result<(), TextError> {
        layout.edit_in(self, bytes, text)
    }

    /// As [`TextLayout::relayout`].
    ///
    /// # Errors
    /// As there.
    pub fn relayout(
        &mut self,
        layout: &mut TextLayout,
        options: &LayoutOptions,
    ) -> Result<(), TextError> {
        layout.relayout_in(self, options)
    }
}
