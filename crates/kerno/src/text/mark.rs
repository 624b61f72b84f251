//! Marks between the clusters of a text.

use std::ops::Range;

use super::TextLayout;

/// Something between two clusters of a text, or along a part of it, that means something to
/// who plays the text: a pause, a cue, a motion.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Mark {
    /// The part of the text that it is about, in bytes; an empty one where it stands between
    /// two clusters.
    pub bytes: Range<usize>,
    /// Its name.
    pub name: String,
    /// Its arguments in their order, each with its key where it has one.
    pub arguments: Vec<(Option<String>, String)>,
}

impl Mark {
    /// A mark without arguments.
    pub fn new(name: &str, bytes: Range<usize>) -> Self {
        Self {
            bytes,
            name: name.to_owned(),
            arguments: Vec::new(),
        }
    }

    /// Moves with the text where a part of it is replaced by a number of bytes.
    fn shift(&mut self, replaced: &Range<usize>, length: usize) {
        let shift = |byte: usize| {
            if byte >= replaced.end && byte > replaced.start {
                byte - replaced.len() + length
            } else {
                byte.min(replaced.start + length)
            }
        };
        self.bytes = shift(self.bytes.start)..shift(self.bytes.end);
    }
}

impl TextLayout {
    /// Gives the text its marks, in place of those that it has. Changes of the text keep them
    /// in their places.
    pub fn set_marks(&mut self, marks: Vec<Mark>) {
        self.marks = marks;
    }

    /// The marks of the text.
    pub fn marks(&self) -> &[Mark] {
        &self.marks
    }

    /// Moves the marks where a part of the text is replaced by a number of bytes.
    pub(super) fn shift_marks(&mut self, replaced: &Range<usize>, length: usize) {
        for mark in &mut self.marks {
            mark.shift(replaced, length);
        }
    }
}
