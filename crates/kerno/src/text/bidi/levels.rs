//! The levels of a text.

use super::Paragraph;
use super::{explicit, neutral, paragraphs, sequences, weak};
use icu_properties::CodePointMapData;
use icu_properties::props::BidiClass;

/// A character on its way through the rules.
#[derive(Clone, Copy, Debug)]
pub(super) struct Character {
    pub(super) value: char,
    /// Start in the text, in bytes.
    pub(super) byte: u32,
    /// Its own class, and the one that the rules have made of it.
    pub(super) own: BidiClass,
    pub(super) class: BidiClass,
    pub(super) level: u8,
}

impl Character {
    /// Rule X9: explicit formatting characters are as if they were not there.
    pub(super) fn is_removed(&self) -> bool {
        matches!(
            self.own,
            BidiClass::LeftToRightEmbedding
                | BidiClass::RightToLeftEmbedding
                | BidiClass::LeftToRightOverride
                | BidiClass::RightToLeftOverride
                | BidiClass::PopDirectionalFormat
                | BidiClass::BoundaryNeutral
        )
    }

    /// Definition BD8.
    pub(super) fn starts_isolate(&self) -> bool {
        matches!(
            self.own,
            BidiClass::LeftToRightIsolate
                | BidiClass::RightToLeftIsolate
                | BidiClass::FirstStrongIsolate
        )
    }

    pub(super) fn ends_isolate(&self) -> bool {
        self.own == BidiClass::PopDirectionalIsolate
    }
}

/// The class of a character that the Unicode Character Database gives it.
pub(super) fn class_of(character: char) -> BidiClass {
    CodePointMapData::<BidiClass>::new().get(character)
}

/// Returns whether a character at the end of a line, or before a tab, runs as the paragraph does
/// (rule L1), as what is not seen there does as well.
pub(in crate::text) fn goes_with_paragraph(character: char) -> bool {
    let own = class_of(character);
    let character = Character {
        value: character,
        byte: 0,
        own,
        class: own,
        level: 0,
    };
    character.is_removed() || resets(&character)
}

/// Rule L1: separators, white space and isolate formatting characters.
pub(super) fn resets(character: &Character) -> bool {
    matches!(
        character.own,
        BidiClass::WhiteSpace | BidiClass::SegmentSeparator | BidiClass::ParagraphSeparator
    ) || character.starts_isolate()
        || character.ends_isolate()
}

/// The class of letters that run as a level does.
pub(super) fn direction_of(level: u8) -> BidiClass {
    match level % 2 {
        0 => BidiClass::LeftToRight,
        _ => BidiClass::RightToLeft,
    }
}

/// The levels of a text.
#[derive(Debug, Default)]
pub(in crate::text) struct Levels {
    pub(super) characters: Vec<Character>,
    pub(in crate::text) paragraphs: Vec<Paragraph>,
}

impl Levels {
    /// Finds the levels of all characters; paragraphs are at level `base`, or at that of
    /// their first letter that has a direction.
    pub(in crate::text) fn of(text: &str, base: Option<u8>) -> Self {
        let mut characters: Vec<Character> = text
            .char_indices()
            .map(|(byte, value)| {
                let own = class_of(value);
                Character {
                    value,
                    byte: byte as u32,
                    own,
                    class: own,
                    level: 0,
                }
            })
            .collect();
        let mut paragraphs = Vec::new();
        let mut start = 0;
        while start < characters.len() {
            let end = paragraphs::end_of(&characters, start);
            let own = &mut characters[start..end];
            let level = base.unwrap_or_else(|| paragraphs::level_of(own).unwrap_or(0));
            paragraphs.push(Paragraph {
                start: own[0].byte,
                level,
            });
            resolve(own, level);
            start = end;
        }
        Self {
            characters,
            paragraphs,
        }
    }

    /// Every character's byte and level, in order.
    pub(in crate::text) fn iter(&self) -> impl Iterator<Item = (u32, u8)> {
        let all = self.characters.iter();
        all.map(|character| (character.byte, character.level))
    }
}

/// Finds the levels of the characters of a paragraph.
pub(super) fn resolve(paragraph: &mut [Character], level: u8) {
    let pairs = paragraphs::isolate_pairs(paragraph);
    explicit::find_levels(paragraph, level, &pairs);
    for sequence in sequences::find(paragraph, level, &pairs) {
        weak::resolve(paragraph, &sequence);
        neutral::resolve(paragraph, &sequence);
        // Rules I1 and I2.
        for index in &sequence.characters {
            let character = &mut paragraph[*index];
            let is_rtl = character.level % 2 == 1;
            character.level += match character.class {
                BidiClass::LeftToRight => u8::from(is_rtl),
                BidiClass::RightToLeft => u8::from(!is_rtl),
                _ => 2 - u8::from(is_rtl),
            };
        }
    }
    // Characters removed by rule X9 are not seen: each goes with the one before it.
    let mut before = level;
    for character in &mut *paragraph {
        if character.is_removed() {
            character.level = before;
        }
        before = character.level;
    }
    // Rule L1, but for the ends of lines.
    let mut is_before_separator = false;
    for character in paragraph.iter_mut().rev() {
        let is_separator = matches!(
            character.own,
            BidiClass::SegmentSeparator | BidiClass::ParagraphSeparator
        );
        let is_passed = is_before_separator && (resets(character) || character.is_removed());
        is_before_separator = is_separator || is_passed;
        if is_before_separator {
            character.level = level;
        }
    }
}
