//! Ways of a caret: by words, by lines, up and down.

use std::ops::Range;

use icu_segmenter::options::WordBreakInvariantOptions;
use icu_segmenter::{WordSegmenter, WordSegmenterBorrowed};

use crate::base::Point;
use crate::text::TextLayout;
use crate::text::analysis::unicode::is_line_break;

#[cfg(feature = "line-break-dictionaries")]
fn segmenter() -> WordSegmenterBorrowed<'static> {
    WordSegmenter::new_dictionary(WordBreakInvariantOptions::default())
}

/// Without dictionaries, a phrase of a script without spaces is one word.
#[cfg(not(feature = "line-break-dictionaries"))]
fn segmenter() -> WordSegmenterBorrowed<'static> {
    WordSegmenter::new_for_non_complex_scripts(WordBreakInvariantOptions::default())
}

impl TextLayout {
    /// The word at a byte, or the space or the mark that is there (UAX #29, “Word
    /// Boundaries”): what a double click selects. At the end of the text its last one; empty
    /// where there is no text.
    pub fn word_at(&self, byte: usize) -> Range<usize> {
        let paragraph = self.paragraph_at(byte);
        let mut found = paragraph.start..paragraph.start;
        for part in self.parts(&paragraph) {
            found = part;
            if byte < found.end {
                break;
            }
        }
        found
    }

    /// Start of the next word after a byte, or the end of the text.
    pub fn next_word(&self, byte: usize) -> usize {
        let mut from = byte;
        loop {
            let paragraph = self.paragraph_at(from);
            let mut words = self.parts(&paragraph).filter(|part| self.is_word(part));
            if let Some(word) = words.find(|word| word.start > byte) {
                return word.start;
            }
            if paragraph.end >= self.text().len() {
                return self.text().len();
            }
            from = paragraph.end;
        }
    }

    /// Start of the word that a byte is in or after, or of the text.
    pub fn previous_word(&self, byte: usize) -> usize {
        let mut before = byte.min(self.text().len());
        while before > 0 {
            let paragraph = self.paragraph_at(before - 1);
            let words = self.parts(&paragraph).filter(|part| self.is_word(part));
            if let Some(word) = words.take_while(|word| word.start < byte).last() {
                return word.start;
            }
            before = paragraph.start;
        }
        0
    }

    /// The first byte on the line of a byte's caret.
    pub fn line_start(&self, byte: usize) -> usize {
        let line = self.lines().get(self.caret(byte).line);
        let first = line.and_then(|line| self.clusters().get(line.clusters.start));
        first.map_or(self.text().len(), |cluster| cluster.start as usize)
    }

    /// The last byte whose caret is on the line of a byte's caret: before a line break, or before
    /// the last cluster of a line that wraps, mostly a space.
    pub fn line_end(&self, byte: usize) -> usize {
        let number = self.caret(byte).line;
        let line = self.lines().get(number);
        let last = line.and_then(|line| self.clusters()[line.clusters.clone()].last());
        match last {
            // A line without clusters is the last one.
            None => self.text().len(),
            Some(last) => {
                let ends_text = number + 1 == self.lines().len();
                let is_break = is_line_break(last.part(self.text()));
                match ends_text && !is_break {
                    true => last.end as usize,
                    false => last.start as usize,
                }
            }
        }
    }

    /// The byte whose caret is nearest to `x` on the line above that of a byte's caret; the start
    /// of the text on the first one. `x` is the caret's where the way up and down began, in
    /// design pixels from the block's left edge.
    pub fn caret_above(&self, byte: usize, x: f32) -> usize {
        match self.caret(byte).line.checked_sub(1) {
            Some(line) => self.nearest_on(line, x),
            None => 0,
        }
    }

    /// As [`TextLayout::caret_above`], on the line below; the end of the text on the last one.
    pub fn caret_below(&self, byte: usize, x: f32) -> usize {
        let line = self.caret(byte).line + 1;
        match line < self.lines().len() {
            true => self.nearest_on(line, x),
            false => self.text().len(),
        }
    }

    fn nearest_on(&self, line: usize, x: f32) -> usize {
        let line = &self.lines()[line];
        self.hit(Point::new(x, line.top + line.height * 0.5))
    }

    /// The bytes of the paragraph that a byte is in, with the break that ends it.
    fn paragraph_at(&self, byte: usize) -> Range<usize> {
        let text = self.text();
        let mut byte = byte.min(text.len());
        while !text.is_char_boundary(byte) {
            byte -= 1;
        }
        let is_break = |character: char| is_line_break(character.encode_utf8(&mut [0; 4]));
        let start = text[..byte].rfind(is_break).map_or(0, |at| {
            at + text[at..].chars().next().map_or(0, char::len_utf8)
        });
        let end = text[byte..].find(is_break).map_or(text.len(), |at| {
            let at = byte + at;
            at + text[at..].chars().next().map_or(0, char::len_utf8)
        });
        start..end
    }

    /// The words of a paragraph, and what is between them.
    fn parts(&self, paragraph: &Range<usize>) -> impl Iterator<Item = Range<usize>> {
        let first = paragraph.start;
        let ends = segmenter().segment_str(&self.text()[paragraph.clone()]);
        let mut start = first;
        ends.filter_map(move |end| {
            let part = start..first + end;
            start = part.end;
            (!part.is_empty()).then_some(part)
        })
    }

    fn is_word(&self, part: &Range<usize>) -> bool {
        let text = &self.text()[part.clone()];
        text.chars().any(char::is_alphanumeric)
    }
}
