//! Brackets, spaces and signs between letters (UAX #9, rules N0 to N2).

use icu_properties::CodePointMapData;
use icu_properties::props::{BidiClass, BidiMirroringGlyph, BidiPairedBracketType};

use super::Character;
use super::direction_of;
use super::sequences::Sequence;

/// The most brackets that may be open at once (definition BD16).
const MOST_OPEN: usize = 63;

/// Resolves the neutral classes of a sequence.
pub(super) fn resolve(paragraph: &mut [Character], sequence: &Sequence) {
    let own = &sequence.characters;
    for pair in pairs(paragraph, own) {
        resolve_pair(paragraph, sequence, pair);
    }
    // N1 and N2: all that stand together have the direction of both sides, or else that of
    // the level.
    let mut before = sequence.before;
    let mut start = 0;
    while start < own.len() {
        let neutral = own[start..]
            .iter()
            .take_while(|index| direction(paragraph[**index].class).is_none())
            .count();
        if neutral == 0 {
            before = direction(paragraph[own[start]].class).unwrap_or(before);
            start += 1;
            continue;
        }
        let end = start + neutral;
        let after = own
            .get(end)
            .and_then(|index| direction(paragraph[*index].class));
        let after = after.unwrap_or(sequence.after);
        let class = if before == after {
            before
        } else {
            direction_of(sequence.level)
        };
        for index in &own[start..end] {
            paragraph[*index].class = class;
        }
        start = end;
    }
}

/// The direction of a class that has one; numbers count as letters from right to left.
fn direction(class: BidiClass) -> Option<BidiClass> {
    match class {
        BidiClass::LeftToRight => Some(class),
        BidiClass::RightToLeft | BidiClass::EuropeanNumber | BidiClass::ArabicNumber => {
            Some(BidiClass::RightToLeft)
        }
        _ => None,
    }
}

/// A bracket, with the opening one of its pair.
enum Bracket {
    Opening(char),
    Closing(char),
}

fn bracket(character: &Character) -> Option<Bracket> {
    if character.class != BidiClass::OtherNeutral {
        return None;
    }
    let mirroring = CodePointMapData::<BidiMirroringGlyph>::new().get(character.value);
    // Canonically the same (Unicode Character Database, “BidiBrackets”).
    let same = |bracket: char| {
        if bracket == '\u{2329}' {
            '\u{3008}'
        } else {
            bracket
        }
    };
    match mirroring.paired_bracket_type {
        BidiPairedBracketType::Open => Some(Bracket::Opening(same(character.value))),
        BidiPairedBracketType::Close => mirroring
            .mirroring_glyph
            .map(|other| Bracket::Closing(same(other))),
        _ => None,
    }
}

/// The pairs of brackets in a sequence, as places in it, in the order of their opening
/// ones (definition BD16).
fn pairs(paragraph: &[Character], own: &[usize]) -> Vec<[usize; 2]> {
    let (mut open, mut pairs) = (Vec::new(), Vec::new());
    for (place, index) in own.iter().enumerate() {
        match bracket(&paragraph[*index]) {
            Some(Bracket::Opening(_)) if open.len() == MOST_OPEN => break,
            Some(Bracket::Opening(opening)) => open.push((opening, place)),
            Some(Bracket::Closing(opening)) => {
                if let Some(at) = open.iter().rposition(|(other, _)| *other == opening) {
                    pairs.push([open[at].1, place]);
                    open.truncate(at);
                }
            }
            None => {}
        }
    }
    pairs.sort_unstable();
    pairs
}

/// N0: both brackets of a pair have the direction of what is between them.
fn resolve_pair(paragraph: &mut [Character], sequence: &Sequence, [start, end]: [usize; 2]) {
    let own = &sequence.characters;
    let embedding = direction_of(sequence.level);
    let mut has_opposite = false;
    let mut inside = own[start + 1..end]
        .iter()
        .filter_map(|index| direction(paragraph[*index].class));
    let has_embedding = inside.any(|direction| {
        has_opposite |= direction != embedding;
        direction == embedding
    });
    let class = if has_embedding {
        embedding
    } else if has_opposite {
        let before = own[..start].iter().rev();
        let mut before = before.filter_map(|index| direction(paragraph[*index].class));
        // Either the other direction, which goes on, or that of the level.
        before.next().unwrap_or(sequence.before)
    } else {
        return;
    };
    for place in [start, end] {
        paragraph[own[place]].class = class;
        // Marks go with the bracket that they stand on.
        for index in &own[place + 1..] {
            let character = &mut paragraph[*index];
            if character.own != BidiClass::NonspacingMark {
                break;
            }
            character.class = class;
        }
    }
}
