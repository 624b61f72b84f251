//! Text of files as it can be printed.

use std::borrow::Cow;
use std::fmt::Write as _;

/// Returns whether a character does something to a terminal, a log or the reading order in place
/// of being seen: control characters (C0, DEL, C1), separators of lines and paragraphs, and the
/// direction controls of UAX #9.
fn acts(character: char) -> bool {
    character.is_control()
        || matches!(
            character,
            '\u{61c}' | '\u{200e}' | '\u{200f}' | '\u{2028}'..='\u{202e}' | '\u{2066}'..='\u{2069}'
        )
}

/// A text as one line that can be printed: what comes from a file may hold escape sequences of
/// terminals, line ends that forge other lines, and direction controls that turn what follows.
/// They are written as Rust writes them: `\u{1b}`, `\n`.
///
/// ```
/// use kerno::base::printable;
/// assert_eq!(printable("Fog\u{1b}[2J\nbank"), "Fog\\u{1b}[2J\\nbank");
/// assert_eq!(printable("Überfahrt"), "Überfahrt");
/// ```
pub fn printable(text: &str) -> Cow<'_, str> {
    escaped(text, acts)
}

/// As [`printable`], for text of several lines: line ends and tabs stay.
pub fn printable_lines(text: &str) -> Cow<'_, str> {
    escaped(text, |character| {
        acts(character) && !matches!(character, '\n' | '\t')
    })
}

fn escaped(text: &str, is_escaped: impl Fn(char) -> bool) -> Cow<'_, str> {
    if !text.contains(&is_escaped) {
        return Cow::Borrowed(text);
    }
    let mut escaped = String::with_capacity(text.len() + 8);
    for character in text.chars() {
        if is_escaped(character) {
            // Writing to a text does not fail.
            let _ = match character {
                '\n' => escaped.write_str("\\n"),
                '\r' => escaped.write_str("\\r"),
                '\t' => escaped.write_str("\\t"),
                other => write!(escaped, "\\u{{{:x}}}", u32::from(other)),
            };
        } else {
            escaped.push(character);
        }
    }
    Cow::Owned(escaped)
}
