//! The tests of the Unicode Character Database for UAX #9: samples of them ship, and the
//! whole files are run where the variable `UCD` names the folder that they are in:
//!
//! ```sh
//! UCD=/usr/share/unicode cargo test -p kerno --lib bidi
//! ```

use std::path::Path;

use super::{Levels, goes_with_paragraph};
use crate::text::place::segments::reorder;

static CHARACTERS: &str = include_str!("../../../tests/data/bidi_cases.txt");
static CLASSES: &str = include_str!("../../../tests/data/bidi_classes.txt");

/// The whole file of a name, or else a sample of it.
fn cases(name: &str, sample: &str) -> String {
    match std::env::var_os("UCD") {
        Some(folder) => {
            let path = Path::new(&folder).join(name);
            std::fs::read_to_string(&path).unwrap_or_else(|error| panic!("{path:?}: {error}"))
        }
        None => sample.to_owned(),
    }
}

/// Holds the levels of a text in one line, and the order of its characters, to those that
/// are wanted; a level of `x` is any.
fn check(text: &str, base: Option<u8>, levels: &str, order: &str, case: &str) {
    let found = Levels::of(text, base);
    let mut own: Vec<u8> = found.iter().map(|(_, level)| level).collect();
    // L1 for the end of the line.
    let level = found
        .paragraphs
        .last()
        .map_or(0, |paragraph| paragraph.level);
    let mut at_end = text.chars().collect::<Vec<_>>().into_iter().rev();
    let count = at_end
        .by_ref()
        .take_while(|c| goes_with_paragraph(*c))
        .count();
    let length = own.len();
    own[length - count..].fill(level);
    let wanted: Vec<Option<u8>> = levels.split_whitespace().map(|l| l.parse().ok()).collect();
    assert_eq!(own.len(), wanted.len(), "{case}");
    for (own, wanted) in own.iter().zip(&wanted) {
        assert!(
            wanted.is_none_or(|wanted| wanted == *own),
            "{case}: {own} for {wanted:?}"
        );
    }
    let seen = own.iter().zip(&wanted).enumerate();
    let seen = seen.filter(|(_, (_, wanted))| wanted.is_some());
    let mut line: Vec<_> = seen.map(|(at, (level, _))| (*level, Some(at))).collect();
    reorder(&mut line);
    let line: Vec<usize> = line.into_iter().filter_map(|(_, at)| at).collect();
    let order: Vec<usize> = order.split_whitespace().flat_map(str::parse).collect();
    assert_eq!(line, order, "{case}");
}

#[test]
fn characters_have_the_levels_of_the_standards_test() {
    let mut count = 0;
    let all = cases("BidiCharacterTest.txt", CHARACTERS);
    for case in all
        .lines()
        .filter(|line| !line.starts_with('#') && !line.is_empty())
    {
        let fields: Vec<&str> = case.split(';').collect();
        let [characters, direction, paragraph, levels, order] = fields[..] else {
            panic!("{case}");
        };
        let character = |code: &str| char::from_u32(u32::from_str_radix(code, 16).expect("a code"));
        let text: String = characters.split(' ').filter_map(character).collect();
        let base = direction.parse().ok().filter(|direction| *direction < 2);
        let found = Levels::of(&text, base);
        let first = found.paragraphs.first().map(|paragraph| paragraph.level);
        assert_eq!(first, paragraph.parse().ok(), "{case}");
        check(&text, base, levels, order, case);
        count += 1;
    }
    assert!(count > 900, "{count} cases");
}

/// A character of a class.
fn of_class(class: &str) -> char {
    match class {
        "L" => 'a',
        "R" => '\u{5d0}',
        "AL" => '\u{627}',
        "EN" => '1',
        "AN" => '\u{661}',
        "ES" => '+',
        "ET" => '#',
        "CS" => ',',
        "NSM" => '\u{300}',
        "BN" => '\u{ad}',
        "B" => '\u{2029}',
        "S" => '\t',
        "WS" => ' ',
        "ON" => '!',
        "LRE" => '\u{202a}',
        "RLE" => '\u{202b}',
        "PDF" => '\u{202c}',
        "LRO" => '\u{202d}',
        "RLO" => '\u{202e}',
        "LRI" => '\u{2066}',
        "RLI" => '\u{2067}',
        "FSI" => '\u{2068}',
        "PDI" => '\u{2069}',
        other => panic!("{other} is no class"),
    }
}

#[test]
fn classes_have_the_levels_of_the_standards_test() {
    let (mut levels, mut order, mut count) = ("", "", 0);
    let all = cases("BidiTest.txt", CLASSES);
    for line in all
        .lines()
        .filter(|line| !line.starts_with('#') && !line.is_empty())
    {
        if let Some(found) = line.strip_prefix("@Levels:") {
            levels = found;
        } else if let Some(found) = line.strip_prefix("@Reorder:") {
            order = found;
        } else {
            let (classes, directions) = line.split_once(';').expect("two fields");
            let text: String = classes.split_whitespace().map(of_class).collect();
            let directions: u8 = directions.trim().parse().expect("a number");
            for (bit, base) in [(1, None), (2, Some(0)), (4, Some(1))] {
                if directions & bit != 0 {
                    check(&text, base, levels, order, line);
                    count += 1;
                }
            }
        }
    }
    assert!(count > 900, "{count} cases");
}
