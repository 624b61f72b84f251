//! Levels that formatting characters ask for (UAX #9, rules X1 to X8).

use icu_properties::props::BidiClass;

use super::Character;
use super::paragraphs::level_of;

/// Definition BD2.
const MAX_DEPTH: u8 = 125;

/// An entry of the directional status stack.
#[derive(Clone, Copy)]
struct Status {
    level: u8,
    /// The class that an override gives to all.
    class: Option<BidiClass>,
    is_isolate: bool,
}

/// The directional status stack with its counters (rule X1).
struct Stack {
    entries: Vec<Status>,
    overflowing_isolates: usize,
    overflowing_embeddings: usize,
    valid_isolates: usize,
}

impl Stack {
    fn top(&self) -> Status {
        // The first entry is never popped.
        self.entries[self.entries.len() - 1]
    }

    /// Rules X2 to X5c: a new entry, where there is room for its level.
    fn push(&mut self, is_rtl: bool, class: Option<BidiClass>, is_isolate: bool) {
        let level = self.top().level;
        let level = if is_rtl {
            (level + 1) | 1
        } else {
            (level + 2) & !1
        };
        let has_room = level <= MAX_DEPTH
            && self.overflowing_isolates == 0
            && self.overflowing_embeddings == 0;
        if has_room {
            self.valid_isolates += usize::from(is_isolate);
            self.entries.push(Status {
                level,
                class,
                is_isolate,
            });
        } else if is_isolate {
            self.overflowing_isolates += 1;
        } else if self.overflowing_isolates == 0 {
            self.overflowing_embeddings += 1;
        }
    }

    /// Rule X6a.
    fn end_isolate(&mut self) {
        if self.overflowing_isolates > 0 {
            self.overflowing_isolates -= 1;
        } else if self.valid_isolates > 0 {
            self.overflowing_embeddings = 0;
            while self.entries.pop().is_some_and(|status| !status.is_isolate) {}
            self.valid_isolates -= 1;
        }
    }

    /// Rule X7.
    fn end_embedding(&mut self) {
        if self.overflowing_isolates > 0 {
        } else if self.overflowing_embeddings > 0 {
            self.overflowing_embeddings -= 1;
        } else if !self.top().is_isolate && self.entries.len() > 1 {
            self.entries.pop();
        }
    }
}

/// Gives each character its explicit level, and the class that an override gives it.
pub(super) fn find_levels(paragraph: &mut [Character], base: u8, pairs: &[Option<usize>]) {
    let mut stack = Stack {
        entries: vec![Status {
            level: base,
            class: None,
            is_isolate: false,
        }],
        overflowing_isolates: 0,
        overflowing_embeddings: 0,
        valid_isolates: 0,
    };
    for index in 0..paragraph.len() {
        let own = paragraph[index].own;
        if own == BidiClass::PopDirectionalIsolate {
            stack.end_isolate();
        }
        let top = stack.top();
        let character = &mut paragraph[index];
        character.level = top.level;
        if !character.is_removed() && own != BidiClass::ParagraphSeparator {
            character.class = top.class.unwrap_or(own);
        }
        match own {
            BidiClass::RightToLeftEmbedding => stack.push(true, None, false),
            BidiClass::LeftToRightEmbedding => stack.push(false, None, false),
            BidiClass::RightToLeftOverride => stack.push(true, Some(BidiClass::RightToLeft), false),
            BidiClass::LeftToRightOverride => {
                stack.push(false, Some(BidiClass::LeftToRight), false);
            }
            BidiClass::RightToLeftIsolate => stack.push(true, None, true),
            BidiClass::LeftToRightIsolate => stack.push(false, None, true),
            BidiClass::FirstStrongIsolate => {
                let end = pairs[index].unwrap_or(paragraph.len());
                let is_rtl = level_of(&paragraph[index + 1..end]) == Some(1);
                stack.push(is_rtl, None, true);
            }
            BidiClass::PopDirectionalFormat => stack.end_embedding(),
            // Rule X8.
            BidiClass::ParagraphSeparator => character.level = base,
            _ => {}
        }
    }
}
