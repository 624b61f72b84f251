//! Properties of characters, by Unicode.

use icu_normalizer::properties::{
    CanonicalCombiningClassMapBorrowed, CanonicalCompositionBorrowed,
    CanonicalDecompositionBorrowed, Decomposed,
};
use icu_properties::props::{
    BidiMirroringGlyph, DefaultIgnorableCodePoint, EmojiPresentation, GeneralCategory, JoiningType,
    Script,
};
use icu_properties::{CodePointMapData, CodePointSetData};

/// The script of a character; `Common` and `Inherited` for those of many.
pub(in crate::text) fn script(character: char) -> Script {
    if character.is_ascii() {
        return if character.is_ascii_alphabetic() {
            Script::Latin
        } else {
            Script::Common
        };
    }
    CodePointMapData::<Script>::new().get(character)
}

/// Returns whether a character is a mark that stands on another.
pub(in crate::text) fn is_mark(character: char) -> bool {
    !character.is_ascii()
        && matches!(
            CodePointMapData::<GeneralCategory>::new().get(character),
            GeneralCategory::NonspacingMark | GeneralCategory::EnclosingMark
        )
}

/// Returns whether a character is a mark that stands on another or beside it.
pub(in crate::text) fn is_any_mark(character: char) -> bool {
    !character.is_ascii()
        && matches!(
            CodePointMapData::<GeneralCategory>::new().get(character),
            GeneralCategory::NonspacingMark
                | GeneralCategory::EnclosingMark
                | GeneralCategory::SpacingMark
        )
}

/// Returns whether a character is not to be seen where nothing is known of it.
#[inline]
pub(in crate::text) fn is_ignorable(character: char) -> bool {
    character >= '\u{ad}' && is_ignorable_beyond(character)
}

/// Returns whether a character is shown as emoji where nothing else is said of it (UTS #51,
/// `Emoji_Presentation`).
pub(in crate::text) fn is_shown_as_emoji(character: char) -> bool {
    character >= '\u{231a}' && CodePointSetData::new::<EmojiPresentation>().contains(character)
}

/// Returns whether a character gives an emoji before it another colour of skin.
pub(in crate::text) fn is_emoji_modifier(character: char) -> bool {
    matches!(character, '\u{1f3fb}'..='\u{1f3ff}')
}

fn is_ignorable_beyond(character: char) -> bool {
    let is_one = || CodePointSetData::new::<DefaultIgnorableCodePoint>().contains(character);
    // All are in one of these groups of 32; most text never meets one.
    let may_be_one = matches!(
        u32::from(character) >> 5,
        0x5 | 0x1a
            | 0x30
            | 0x8a..=0x8b
            | 0xbd
            | 0xc0
            | 0x100..=0x103
            | 0x18b
            | 0x7f0
            | 0x7f7
            | 0x7fd
            | 0x7ff
            | 0xde5
            | 0xe8b
            | 0x7000..=0x707f
    );
    debug_assert!(may_be_one || !is_one(), "{character:?} is ignorable");
    may_be_one && is_one()
}

/// Returns whether a character stands for itself whatever is beside it, as letters of Latin,
/// Greek and Cyrillic, syllables of Hangul, Han, Kana and most signs do: no mark, joins
/// nothing, is not hidden. Others may be so too.
pub(in crate::text) fn is_plain(character: char) -> bool {
    matches!(character,
        ' '..='~' | '\u{a0}'..='\u{ac}' | '\u{ae}'..='\u{2ff}' | '\u{370}'..='\u{482}'
        | '\u{48a}'..='\u{52f}' | '\u{1e00}'..='\u{200a}' | '\u{2010}'..='\u{2027}'
        | '\u{2030}'..='\u{2043}' | '\u{20a0}'..='\u{20c0}' | '\u{3000}'..='\u{3029}'
        | '\u{3041}'..='\u{3096}' | '\u{309b}'..='\u{30ff}' | '\u{3400}'..='\u{4dbf}'
        | '\u{4e00}'..='\u{9fff}' | '\u{ac00}'..='\u{d7a3}' | '\u{ff01}'..='\u{ff60}')
}

/// Joining of a letter with its neighbours.
pub(in crate::text) fn joining(character: char) -> JoiningType {
    CodePointMapData::<JoiningType>::new().get(character)
}

/// The character that looks like the mirror image.
pub(in crate::text) fn mirrored(character: char) -> Option<char> {
    CodePointMapData::<BidiMirroringGlyph>::new()
        .get(character)
        .mirroring_glyph
}

/// The canonical combining class.
pub(in crate::text) fn combining_class(character: char) -> u8 {
    if character < '\u{300}' {
        return 0;
    }
    CanonicalCombiningClassMapBorrowed::new().get_u8(character)
}

/// One character that is canonically the same as two.
pub(in crate::text) fn composed(first: char, second: char) -> Option<char> {
    CanonicalCompositionBorrowed::new().compose(first, second)
}

/// Takes a character apart, canonically and all the way.
pub(in crate::text) fn decompose(character: char, into: &mut Vec<char>) {
    match CanonicalDecompositionBorrowed::new().decompose(character) {
        Decomposed::Default => into.push(character),
        Decomposed::Singleton(other) => decompose(other, into),
        Decomposed::Expansion(first, second) => {
            decompose(first, into);
            into.push(second);
        }
    }
}

/// Returns whether text with this character may run from right to left.
pub(in crate::text) fn may_be_rtl(character: char) -> bool {
    matches!(character, '\u{590}'..='\u{8ff}' | '\u{200f}' | '\u{202a}'..='\u{202e}'
        | '\u{2066}'..='\u{2069}' | '\u{fb1d}'..='\u{fdff}' | '\u{fe70}'..='\u{feff}'
        | '\u{10800}'..='\u{10fff}' | '\u{1e800}'..='\u{1efff}')
}

/// The characters that end a line whatever stands around them: UAX #14 classes
/// BK, CR, LF and NL.
pub(in crate::text) fn is_line_break(cluster: &str) -> bool {
    if let [byte] = cluster.as_bytes() {
        return is_ascii_line_break(*byte);
    }
    matches!(cluster, "\r\n" | "\u{85}" | "\u{2028}" | "\u{2029}")
}

/// Those of them that are ASCII and stand alone.
pub(in crate::text) fn is_ascii_line_break(byte: u8) -> bool {
    matches!(byte, b'\n' | b'\r' | 0xb | 0xc)
}
