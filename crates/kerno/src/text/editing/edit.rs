//! Text that changes, and the box around it.

use std::ops::Range;

use crate::base::{Rect, Size, Stamp, span};
use crate::text::compose::{arrange, check, compose, prepare};
use crate::text::editing::reuse::Edit;
use crate::text::owned_span::OwnedSpan;
use crate::text::prepared::KeptPrepared;
use crate::text::{LayoutContext, LayoutOptions, TextError, TextLayout, Wrap};

impl TextLayout {
    /// Gives a span another text. What stands around it is kept as far as it does not
    /// change. For texts that change often lend a [`LayoutContext`]: once warm, text from
    /// left to right takes no memory there that was not there before.
    ///
    /// ```no_run
    /// use kerno::{Face, Style, TextLayout};
    /// # let face = Face::from_file("fonts/Lato-Medium.ttf").unwrap();
    /// let mut fares = TextLayout::new("0", &Style::new(&face, 24.0))?;
    /// fares.set_text(0, "1,284")?;
    /// # Ok::<(), kerno::text::TextError>(())
    /// ```
    ///
    /// # Errors
    /// As [`TextLayout::edit`].
    pub fn set_text(&mut self, span: u32, text: &str) -> Result<(), TextError> {
        self.set_text_in(&mut LayoutContext::new(), span, text)
    }

    pub(in crate::text) fn set_text_in(
        &mut self,
        work: &mut LayoutContext,
        span: u32,
        text: &str,
    ) -> Result<(), TextError> {
        span!("lay_out", bytes = text.len());
        self.stamp = Stamp::new();
        let span = span as usize;
        let is_text = self.spans.get(span).is_some_and(|own| own.sprite.is_none());
        if !is_text {
            return Err(TextError::NoSuchSpan(span));
        }
        let start: usize = self.spans[..span].iter().map(|own| own.length).sum();
        let old_end = start + self.spans[span].length;
        self.replaced(start..old_end, span, text, work)
    }

    /// Replaces a part of the text, given in bytes; an empty one to insert. The new text
    /// is of the span in which the part begins; between two of the one before, and where
    /// that is a sprite of a neighbour. As fast as [`TextLayout::set_text`]; text that is added at
    /// the end of a long one costs its last paragraph and what is new, as long as lines stay where
    /// they are: wrapped in a width or aligned to the start, from the top, in one script.
    ///
    /// # Errors
    /// [`TextError::BadRange`] where the part does not lie in the text or cuts a
    /// character in two, [`TextError::NoSuchSpan`] where new text stands between sprites
    /// and so is of no span. Else as [`TextLayout::new`]; the layout shows nothing then
    /// until it is changed again.
    pub fn edit(&mut self, bytes: Range<usize>, text: &str) -> Result<(), TextError> {
        self.edit_in(&mut LayoutContext::new(), bytes, text)
    }

    pub(in crate::text) fn edit_in(
        &mut self,
        work: &mut LayoutContext,
        bytes: Range<usize>,
        text: &str,
    ) -> Result<(), TextError> {
        span!("lay_out", bytes = text.len());
        self.stamp = Stamp::new();
        let is_sound = bytes.start <= bytes.end
            && self.text.is_char_boundary(bytes.start)
            && self.text.is_char_boundary(bytes.end);
        if !is_sound {
            return Err(TextError::BadRange {
                start: bytes.start,
                end: bytes.end,
            });
        }
        let mut end = 0;
        let ranges = self.spans.iter().enumerate().map(|(span, own)| {
            let start = end;
            end += own.length;
            (span, start..end, own.sprite.is_none())
        });
        // The one that holds the beginning, else one that touches the part.
        let (mut holding, mut touching) = (None, None);
        for (span, own, _) in ranges.filter(|(.., is_text)| *is_text) {
            let is_in = if bytes.is_empty() {
                own.start <= bytes.start && bytes.start <= own.end
            } else {
                own.contains(&bytes.start)
            };
            if is_in {
                holding = holding.or(Some(span));
            }
            if own.start <= bytes.end && bytes.start <= own.end {
                touching = touching.or(Some(span));
            }
        }
        let is_end = bytes.start == self.text.len();
        Self::check_length(self.text.len() + text.len())?;
        match holding.or(touching) {
            Some(span)
                if is_end && span + 1 == self.spans.len() && self.append_in(work, text)? =>
            {
                Ok(())
            }
            Some(span) => self.replaced(bytes, span, text, work),
            // Text that is only taken away is of no span.
            None if text.is_empty() => self.replaced(bytes, 0, text, work),
            None => Err(TextError::NoSuchSpan(self.spans.len())),
        }
    }

    fn replaced(
        &mut self,
        bytes: Range<usize>,
        span: usize,
        text: &str,
        work: &mut LayoutContext,
    ) -> Result<(), TextError> {
        let length = self.text.len() - bytes.len() + text.len();
        Self::check_length(length)?;
        self.text.replace_range(bytes.clone(), text);
        self.shift_marks(&bytes, text.len());
        let mut start = 0;
        for own in &mut self.spans {
            let end = start + own.length;
            let lost = bytes.end.min(end).saturating_sub(bytes.start.max(start));
            own.length -= lost;
            start = end;
        }
        if let Some(own) = self.spans.get_mut(span) {
            own.length += text.len();
        }
        if self.options.shrinks() {
            let options = self.options;
            return self.composed_anew(&options, work);
        }
        let edit = Edit {
            start: bytes.start,
            old_end: bytes.end,
            new_end: bytes.start + text.len(),
        };
        self.made_anew(Some(&edit), work)
    }

    /// Prepares and arranges the text anew; `edit` says what of it has changed, where only
    /// that has.
    fn made_anew(
        &mut self,
        edit: Option<&Edit>,
        work: &mut LayoutContext,
    ) -> Result<(), TextError> {
        let done = prepare(self, edit, work).map_err(TextError::from);
        let done = done.and_then(|()| arrange(self, work));
        self.end(done, work)
    }

    /// Ends a change: one that failed shows nothing.
    fn end(
        &mut self,
        done: Result<(), TextError>,
        work: &mut LayoutContext,
    ) -> Result<(), TextError> {
        match done {
            Ok(()) => self.finish(work),
            Err(_) => self.forget(),
        }
        done
    }

    /// Shows nothing, after a change that failed: what is kept is the text and its styles,
    /// from which all is made again by the next change.
    fn forget(&mut self) {
        self.prepared = KeptPrepared::default();
        self.size = Size::default();
        self.clusters.clear();
        self.glyphs.clear();
        self.lines.clear();
        self.missing.clear();
        self.ink = Rect::default();
        self.cut = None;
    }

    fn composed_anew(
        &mut self,
        options: &LayoutOptions,
        work: &mut LayoutContext,
    ) -> Result<(), TextError> {
        let owned = self.owned_spans();
        let spans = OwnedSpan::spans(&owned, &self.text);
        let done = compose(&spans, options, work);
        match done {
            Ok(layout) => {
                let marks = std::mem::take(&mut self.marks);
                *self = layout;
                self.marks = marks;
            }
            Err(error) => {
                self.forget();
                return Err(error);
            }
        }
        Ok(())
    }

    /// Lays the same text out in another box. What does not change with it is kept,
    /// so this takes a fraction of the time; where white space, direction or the
    /// rules for breaks change, all is done again.
    ///
    /// # Errors
    /// As [`TextLayout::with_options`]. For a number out of its range the layout stays as it
    /// was; for a damaged glyph it shows nothing until it is changed again.
    pub fn relayout(&mut self, options: &LayoutOptions) -> Result<(), TextError> {
        self.relayout_in(&mut LayoutContext::new(), options)
    }

    pub(in crate::text) fn relayout_in(
        &mut self,
        work: &mut LayoutContext,
        options: &LayoutOptions,
    ) -> Result<(), TextError> {
        // A text that a damaged glyph emptied is tried again.
        let is_laid_out = !self.clusters.is_empty();
        if is_laid_out && self.options == *options {
            return Ok(());
        }
        span!("lay_out", bytes = self.text.len());
        self.stamp = Stamp::new();
        let old = &self.options;
        let wraps = |options: &LayoutOptions| options.width.is_some() && options.wrap != Wrap::None;
        let is_same = old.white_space == options.white_space
            && old.direction == options.direction
            && old.line_break == options.line_break
            && old.word_break == options.word_break
            && wraps(old) == wraps(options);
        let shrinks = old.shrinks() || options.shrinks();
        check(&[], options)?;
        if shrinks {
            return self.composed_anew(options, work);
        }
        let before = std::mem::replace(&mut self.options, *options);
        let done = match !is_same || self.prepared.0.is_none() {
            true => self.made_anew(None, work),
            false => {
                let done = arrange(self, work);
                self.end(done, work)
            }
        };
        if done.is_err() {
            self.options = before;
        }
        done
    }
}
