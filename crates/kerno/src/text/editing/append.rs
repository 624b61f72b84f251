//! Text that is added at the end of a long one: only its last paragraph is laid out again.

use icu_properties::props::Script;

use crate::base::Stamp;
use crate::text::analysis::unicode::{is_line_break, script};
use crate::text::compose::compose;
use crate::text::ink::sum_up;
use crate::text::{
    LayoutContext, LayoutOptions, Overflow, Span, TextAlign, TextError, TextLayout, VerticalAlign,
    WhiteSpace,
};

/// Texts of fewer bytes are laid out whole.
const LEAST: usize = 256;

/// The most characters that are looked through for a letter.
const MOST_LOOKED_AT: usize = 256;

/// The part of a text that is laid out again, from its last paragraph on.
struct Tail {
    /// Its first byte, cluster and line.
    byte: usize,
    cluster: usize,
    line: usize,
}

impl TextLayout {
    /// Adds text at the end, in the last span, without touching the paragraphs before the last
    /// one. Returns false where what comes before has a say in what comes after, so that all has
    /// to be laid out again.
    ///
    /// # Errors
    /// As [`TextLayout::edit`]; nothing has changed then.
    pub(in crate::text) fn append_in(
        &mut self,
        work: &mut LayoutContext,
        text: &str,
    ) -> Result<bool, TextError> {
        let Some(tail) = self.tail_for(text) else {
            return Ok(false);
        };
        let last = self.spans.len() - 1;
        let mut options = self.options;
        options.height = None;
        let wanted = self.spans[last].wanted.as_deref();
        let style = wanted.unwrap_or(&self.styles[last]).clone();
        let words = [&self.text[tail.byte..], text].concat();
        work.top = self.next_top(&tail);
        let laid = compose(&[Span::new(&words, &style)], &options, work);
        work.top = 0.0;
        let laid = laid?;
        // Without a width, lines from right to left begin where the widest one ends.
        let mut lines = self.lines.iter().chain(&laid.lines);
        if self.options.width.is_none() && lines.any(|line| line.is_rtl) {
            return Ok(false);
        }
        self.splice(&tail, laid, last as u32);
        self.text.push_str(text);
        self.spans[last].length += text.len();
        self.stamp = Stamp::new();
        Ok(true)
    }

    /// The last paragraph, where it may be laid out apart from those before.
    fn tail_for(&self, text: &str) -> Option<Tail> {
        if self.text.len() < LEAST || self.lines.is_empty() || !has_own_lines(&self.options) {
            return None;
        }
        let is_plain = |overflow| matches!(overflow, Overflow::Visible | Overflow::Clip);
        if self.cut.is_some() || !is_plain(self.options.overflow) {
            return None;
        }
        let is_break = |character: char| is_line_break(character.encode_utf8(&mut [0; 4]));
        // A break at the very end may be half of one.
        if self.text.ends_with('\r') {
            return None;
        }
        let byte = self.text.rfind(is_break)?;
        let byte = byte + self.text[byte..].chars().next().map_or(0, char::len_utf8);
        let (last, before) = self.spans.split_last()?;
        let span_start: usize = before.iter().map(|span| span.length).sum();
        if last.sprite.is_some() || byte < span_start || !self.has_one_measure() {
            return None;
        }
        // A paragraph without a letter goes with the text's first one, an empty line at the end
        // runs as the paragraph before it does.
        let words = [&self.text[byte..], text].concat();
        let mut paragraphs = words
            .split(is_break)
            .filter(|paragraph| !paragraph.is_empty());
        let has_letter = |paragraph: &str| {
            let mut characters = paragraph.chars().take(MOST_LOOKED_AT);
            characters.any(|character| is_letter(script(character)))
        };
        let first = paragraphs.next()?;
        if !has_letter(first) || !paragraphs.all(has_letter) {
            return None;
        }
        let cluster = self
            .clusters
            .partition_point(|cluster| (cluster.start as usize) < byte);
        let line = self
            .lines
            .partition_point(|line| line.clusters.start < cluster);
        (line > 0).then_some(Tail {
            byte,
            cluster,
            line,
        })
    }

    /// Returns whether rules that are those of the whole text (tab stops of the first style, the
    /// largest size) are those of its last span too.
    fn has_one_measure(&self) -> bool {
        let (Some(first), Some(last)) = (self.styles.first(), self.styles.last()) else {
            return false;
        };
        first.face == last.face && self.styles.iter().all(|style| style.size == last.size)
    }

    /// The top of the first line of the last paragraph, as it is counted from the first one.
    fn next_top(&self, tail: &Tail) -> f32 {
        let line = &self.lines[tail.line - 1];
        line.top + line.height + self.options.paragraph_spacing
    }

    /// Puts a paragraph in the place of the last one.
    fn splice(&mut self, tail: &Tail, laid: TextLayout, span: u32) {
        let glyph_count = self.lines[tail.line - 1].glyphs.end;
        self.clusters.truncate(tail.cluster);
        self.lines.truncate(tail.line);
        self.glyphs.truncate(glyph_count);
        let missing = self
            .missing
            .partition_point(|at| (*at as usize) < tail.byte);
        self.missing.truncate(missing);
        let (bytes, clusters, lines) = (tail.byte as u32, tail.cluster, tail.line as u32);
        self.missing
            .extend(laid.missing.iter().map(|at| at + bytes));
        self.clusters.extend(laid.clusters.iter().map(|cluster| {
            let mut moved = *cluster;
            moved.start += bytes;
            moved.end += bytes;
            moved.line += lines;
            moved
        }));
        self.glyphs.extend(laid.glyphs.iter().map(|glyph| {
            let mut moved = *glyph;
            moved.cluster += clusters as u32;
            moved.span = span;
            moved
        }));
        self.lines.extend(laid.lines.into_iter().map(|mut line| {
            line.clusters = line.clusters.start + clusters..line.clusters.end + clusters;
            line.glyphs = line.glyphs.start + glyph_count..line.glyphs.end + glyph_count;
            line
        }));
        sum_up(self);
        if self.options.width.is_none() {
            let reaches = self.lines.iter().map(|line| line.width + line.indent);
            self.size.width = reaches.fold(0.0, f32::max);
        }
        if self.options.height.is_none() {
            self.size.height = laid.size.height;
        }
        // It is found again by the next change that needs it.
        self.prepared.0 = None;
    }
}

/// Returns whether lines are where they are whatever follows them.
fn has_own_lines(options: &LayoutOptions) -> bool {
    let is_at_start = options.width.is_some() || options.align == TextAlign::Start;
    is_at_start
        && options.max_lines.is_none()
        && !options.shrinks()
        && options.plate.is_none()
        && options.white_space == WhiteSpace::Keep
        && options.vertical_align == VerticalAlign::Top
}

fn is_letter(script: Script) -> bool {
    !matches!(script, Script::Common | Script::Inherited | Script::Unknown)
}
