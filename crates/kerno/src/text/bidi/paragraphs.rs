//! Paragraphs, and the direction of each (UAX #9, rules P1 to P3).

use icu_properties::props::BidiClass;

use super::Character;

/// A paragraph of a text.
#[derive(Clone, Copy, Debug)]
pub(in crate::text) struct Paragraph {
    /// Its first byte.
    pub(in crate::text) start: u32,
    pub(in crate::text) level: u8,
}

/// One past the last character of the paragraph that begins at a character (rule P1).
pub(super) fn end_of(characters: &[Character], start: usize) -> usize {
    let own = characters[start..].iter();
    let mut separators = own
        .enumerate()
        .filter(|(_, character)| character.own == BidiClass::ParagraphSeparator);
    let Some((last, separator)) = separators.next() else {
        return characters.len();
    };
    let end = start + last + 1;
    let is_crlf = separator.value == '\r' && characters.get(end).is_some_and(|c| c.value == '\n');
    end + usize::from(is_crlf)
}

/// The level that the first letter with a direction gives, isolates being passed over
/// (rules P2 and P3).
pub(super) fn level_of(characters: &[Character]) -> Option<u8> {
    let mut depth = 0_usize;
    for character in characters {
        if character.starts_isolate() {
            depth += 1;
        } else if character.ends_isolate() {
            depth = depth.saturating_sub(1);
        } else if depth == 0 {
            match character.own {
                BidiClass::LeftToRight => return Some(0),
                BidiClass::RightToLeft | BidiClass::ArabicLetter => return Some(1),
                _ => {}
            }
        }
    }
    None
}

/// For each character that starts an isolate the one that ends it, and the other way round
/// (definition BD9).
pub(super) fn isolate_pairs(paragraph: &[Character]) -> Vec<Option<usize>> {
    let mut pairs = vec![None; paragraph.len()];
    let mut open = Vec::new();
    for (index, character) in paragraph.iter().enumerate() {
        if character.starts_isolate() {
            open.push(index);
        } else if character.ends_isolate()
            && let Some(start) = open.pop()
        {
            pairs[start] = Some(index);
            pairs[index] = Some(start);
        }
    }
    pairs
}
