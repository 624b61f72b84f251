//! Numbers, and signs that go with them (UAX #9, rules W1 to W7).

use icu_properties::props::BidiClass;

use super::Character;
use super::sequences::Sequence;

/// Resolves the weak classes of a sequence.
pub(super) fn resolve(paragraph: &mut [Character], sequence: &Sequence) {
    let own = &sequence.characters;
    marks(paragraph, sequence);
    letters_and_numbers(paragraph, sequence);
    // W4: a single separator between two numbers of one kind.
    for around in own.windows(3) {
        let [before, class, after] =
            [around[0], around[1], around[2]].map(|at| paragraph[at].class);
        let joins = match class {
            BidiClass::EuropeanSeparator => before == BidiClass::EuropeanNumber,
            BidiClass::CommonSeparator => {
                matches!(before, BidiClass::EuropeanNumber | BidiClass::ArabicNumber)
            }
            _ => false,
        };
        if joins && before == after {
            paragraph[around[1]].class = before;
        }
    }
    terminators(paragraph, own);
    // W6 and W7.
    let mut strong = sequence.before;
    for index in own {
        let class = &mut paragraph[*index].class;
        match *class {
            BidiClass::EuropeanSeparator
            | BidiClass::CommonSeparator
            | BidiClass::EuropeanTerminator => *class = BidiClass::OtherNeutral,
            BidiClass::LeftToRight | BidiClass::RightToLeft => strong = *class,
            BidiClass::EuropeanNumber if strong == BidiClass::LeftToRight => *class = strong,
            _ => {}
        }
    }
}

/// W1: marks have the class of what they stand on.
fn marks(paragraph: &mut [Character], sequence: &Sequence) {
    let mut before = sequence.before;
    for index in &sequence.characters {
        let character = &mut paragraph[*index];
        if character.class == BidiClass::NonspacingMark {
            character.class = before;
        }
        before = if character.starts_isolate() || character.ends_isolate() {
            BidiClass::OtherNeutral
        } else {
            character.class
        };
    }
}

/// W2 and W3: numbers after Arabic letters are Arabic numbers, those letters are letters
/// from right to left.
fn letters_and_numbers(paragraph: &mut [Character], sequence: &Sequence) {
    let mut strong = sequence.before;
    for index in &sequence.characters {
        let class = &mut paragraph[*index].class;
        match *class {
            BidiClass::LeftToRight | BidiClass::RightToLeft => strong = *class,
            BidiClass::ArabicLetter => {
                strong = *class;
                *class = BidiClass::RightToLeft;
            }
            BidiClass::EuropeanNumber if strong == BidiClass::ArabicLetter => {
                *class = BidiClass::ArabicNumber;
            }
            _ => {}
        }
    }
}

/// W5: terminators beside a European number belong to it.
fn terminators(paragraph: &mut [Character], own: &[usize]) {
    let mut start = 0;
    while start < own.len() {
        let count = own[start..]
            .iter()
            .take_while(|index| paragraph[**index].class == BidiClass::EuropeanTerminator)
            .count();
        if count == 0 {
            start += 1;
            continue;
        }
        let end = start + count;
        let is_number = |at: Option<&usize>| {
            at.is_some_and(|index| paragraph[*index].class == BidiClass::EuropeanNumber)
        };
        if is_number(own[..start].last()) || is_number(own.get(end)) {
            for index in &own[start..end] {
                paragraph[*index].class = BidiClass::EuropeanNumber;
            }
        }
        start = end;
    }
}
