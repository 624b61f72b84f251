//! Encodings from before Unicode, as `name` uses them.

use crate::font::encodings::{
    BIG5, EUC_KR, Encoding, GBK, MACINTOSH, SHIFT_JIS, UTF_16BE, X_MAC_CYRILLIC,
};

/// The upper 128 characters of a set of single bytes, sixteen in a row; the lower
/// ones are ASCII.
type UpperHalf = [&'static str; 8];

/// The differences of a language from the set of its script.
type Exceptions = &'static [(u8, char)];

/// An encoding of text in a font.
#[derive(Clone, Copy, Debug)]
pub(super) enum TextEncoding {
    /// UTF-16, big-endian.
    Utf16,
    /// One that the WHATWG Encoding Standard has.
    Standard(&'static Encoding),
    /// Korean by the parts of its syllables.
    Johab,
    /// Single bytes.
    Bytes(&'static UpperHalf, Exceptions),
    /// Macintosh Roman with the letters of a language.
    Roman(Exceptions),
    /// Macintosh sets of India: ASCII, then the letters of ISCII, which stand in
    /// Unicode in the same order from this place on.
    Indian(u32),
}

use TextEncoding::{Bytes, Indian, Johab, Roman, Standard, Utf16};

impl TextEncoding {
    /// OpenType `name`, “Platform IDs”: the encodings of each platform; those of
    /// the Macintosh with the languages that have a set of their own. Scripts that
    /// the Macintosh numbered and never had a set for are missing.
    pub(super) fn of(platform: u16, encoding: u16, language: u16) -> Option<Self> {
        Some(match (platform, encoding, language) {
            (0, ..) | (3, 0 | 1 | 10, _) => Utf16,
            (1, 0, 15 | 30) => Roman(ICELANDIC),
            (1, 0, 17) => Roman(TURKISH),
            (1, 0, 18) => Roman(CROATIAN),
            (1, 0, 37) => Roman(ROMANIAN),
            (1, 0, _) => Standard(MACINTOSH),
            (1, 1, _) | (3, 2, _) => Standard(SHIFT_JIS),
            (1, 2, _) | (3, 4, _) => Standard(BIG5),
            (1, 3, _) | (3, 5, _) => Standard(EUC_KR),
            (1, 4, 31) => Bytes(&ARABIC, PERSIAN),
            (1, 4, _) => Bytes(&ARABIC, &[]),
            (1, 5, _) => Bytes(&HEBREW, &[]),
            (1, 6, _) => Bytes(&GREEK, &[]),
            (1, 7, _) => Standard(X_MAC_CYRILLIC),
            (1, 9, _) => Indian(0x0900),
            (1, 10, _) => Indian(0x0a00),
            (1, 11, _) => Indian(0x0a80),
            (1, 21, _) => Bytes(&THAI, &[]),
            (1, 25, _) | (3, 3, _) => Standard(GBK),
            (1, 29, _) => Bytes(&CENTRAL_EUROPEAN, &[]),
            (3, 6, _) => Johab,
            _ => return None,
        })
    }

    /// The text of these bytes; what stands for no character becomes U+FFFD.
    pub(super) fn decode(self, text: &[u8]) -> String {
        // On Windows single bytes stand in pairs as well, after a zero.
        let bytes = || -> Vec<u8> { text.iter().copied().filter(|byte| *byte != 0).collect() };
        match self {
            // Half a unit at the end is no text.
            Utf16 => standard(UTF_16BE, &text[..text.len() & !1]),
            Standard(encoding) => standard(encoding, &bytes()),
            Johab => johab(&bytes()),
            Bytes(upper, exceptions) => single_bytes(&bytes(), exceptions, |byte| {
                let row = upper.get(usize::from(byte >> 4) & 7)?;
                row.chars().nth(usize::from(byte & 15))
            }),
            Roman(exceptions) => single_bytes(&bytes(), exceptions, |byte| {
                standard(MACINTOSH, &[byte]).chars().next()
            }),
            Indian(block) => single_bytes(&bytes(), &[], |byte| indian(block, byte)),
        }
    }
}

fn standard(encoding: &'static Encoding, bytes: &[u8]) -> String {
    encoding.decode_without_bom_handling(bytes).0.into_owned()
}

fn single_bytes(
    bytes: &[u8],
    exceptions: Exceptions,
    upper: impl Fn(u8) -> Option<char>,
) -> String {
    let character = |byte: &u8| {
        let exception = exceptions.iter().find(|(other, _)| other == byte);
        match exception {
            Some((_, character)) => *character,
            None if byte.is_ascii() => char::from(*byte),
            None => upper(*byte).unwrap_or(char::REPLACEMENT_CHARACTER),
        }
    };
    bytes.iter().map(character).collect()
}

/// IS 13194 (ISCII) from A1 on, by the place of each letter in its Unicode block;
/// 0 where there is none.
fn indian(block: u32, byte: u8) -> Option<char> {
    const PLACES: [u8; 90] = [
        0x01, 0x02, 0x03, 0x05, 0x06, 0x07, 0x08, 0x09, 0x0a, 0x0b, 0x0e, 0x0f, 0x10, 0x0d, 0x12,
        0x13, 0x14, 0x11, 0x15, 0x16, 0x17, 0x18, 0x19, 0x1a, 0x1b, 0x1c, 0x1d, 0x1e, 0x1f, 0x20,
        0x21, 0x22, 0x23, 0x24, 0x25, 0x26, 0x27, 0x28, 0x29, 0x2a, 0x2b, 0x2c, 0x2d, 0x2e, 0x2f,
        0x5f, 0x30, 0x31, 0x32, 0x33, 0x34, 0x35, 0x36, 0x37, 0x38, 0x39, 0x00, 0x3e, 0x3f, 0x40,
        0x41, 0x42, 0x43, 0x46, 0x47, 0x48, 0x45, 0x4a, 0x4b, 0x4c, 0x49, 0x4d, 0x3c, 0x64, 0x00,
        0x00, 0x00, 0x00, 0x00, 0x00, 0x66, 0x67, 0x68, 0x69, 0x6a, 0x6b, 0x6c, 0x6d, 0x6e, 0x6f,
    ];
    let place = u32::from(*PLACES.get(usize::from(byte.checked_sub(0xa1)?))?);
    // The full stop is that of Devanagari in all of them.
    let block = if place == 0x64 { 0x0900 } else { block };
    (place != 0).then(|| char::from_u32(block + place))?
}

/// KS X 1001, annex 3 (Johab): two bytes with five bits each for the first
/// consonant, the vowel and the last consonant; beyond them the signs and the Han
/// characters of the standard's main part, in another order.
fn johab(bytes: &[u8]) -> String {
    let mut text = String::new();
    let mut bytes = bytes.iter().copied();
    while let Some(first) = bytes.next() {
        let character = match first {
            b'\\' => Some('₩'),
            0..0x80 => Some(char::from(first)),
            _ => bytes.next().and_then(|second| match first {
                ..0xd4 => johab_syllable(u16::from_be_bytes([first, second])),
                _ => johab_sign(first, second),
            }),
        };
        text.push(character.unwrap_or(char::REPLACEMENT_CHARACTER));
    }
    text
}

/// A syllable by its parts (Unicode, “Hangul Syllable Composition”); a part alone
/// is a letter.
fn johab_syllable(code: u16) -> Option<char> {
    const FIRST: &str = "ㄱㄲㄴㄷㄸㄹㅁㅂㅃㅅㅆㅇㅈㅉㅊㅋㅌㅍㅎ";
    const LAST: &str = "ㄱㄲㄳㄴㄵㄶㄷㄹㄺㄻㄼㄽㄾㄿㅀㅁㅂㅄㅅㅆㅇㅈㅊㅋㅌㅍㅎ";
    let part = |shift: u32| u32::from(code >> shift & 31);
    // From 1 on; 0 is none. Between the groups numbers are left out.
    let first = part(10).checked_sub(1).filter(|first| *first <= 19)?;
    let vowel = match part(5) {
        vowel @ 2..=7 => vowel - 2,
        vowel @ 10..=15 => vowel - 4,
        vowel @ 18..=23 => vowel - 6,
        vowel @ 26..=29 => vowel - 8,
        _ => return None,
    };
    let last = match part(0) {
        last @ 1..=17 => last - 1,
        last @ 19..=29 => last - 2,
        _ => return None,
    };
    match (first, vowel, last) {
        (1.., 1.., _) => char::from_u32(0xac00 + ((first - 1) * 21 + vowel - 1) * 28 + last),
        (1.., 0, 0) => FIRST.chars().nth(first as usize - 1),
        (0, 1.., 0) => char::from_u32('ㅏ' as u32 + vowel - 1),
        (0, 0, 1..) => LAST.chars().nth(last as usize - 1),
        _ => None,
    }
}

fn johab_sign(first: u8, second: u8) -> Option<char> {
    let row = match first {
        0xd9..=0xde => (first - 0xd9) * 2,
        0xe0..=0xf9 => (first - 0xe0) * 2 + 41,
        _ => return None,
    };
    let column = match second {
        0x31..=0x7e => second - 0x31,
        0x91..=0xfe => second - 0x43,
        _ => return None,
    };
    let bytes = [0xa1 + row + column / 94, 0xa1 + column % 94];
    let (text, had_errors) = EUC_KR.decode_without_bom_handling(&bytes);
    text.chars().next().filter(|_| !had_errors)
}

// The sets of the Macintosh, as the mappings in the Unicode Consortium's vendor
// directory give them; of a character with a variant of its own the plain one.

const ARABIC: UpperHalf = [
    "Ä\u{a0}ÇÉÑÖÜáàâä\u{6ba}«çéè",
    "êëí…îïñó»ôö÷úùûü",
    " !\u{22}#$\u{66a}&'()*+\u{60c}-./",
    "\u{660}\u{661}\u{662}\u{663}\u{664}\u{665}\u{666}\u{667}\u{668}\u{669}:\u{61b}<=>\u{61f}",
    "❊\u{621}\u{622}\u{623}\u{624}\u{625}\u{626}\u{627}\u{628}\u{629}\u{62a}\u{62b}\u{62c}\u{62d}\u{62e}\u{62f}",
    "\u{630}\u{631}\u{632}\u{633}\u{634}\u{635}\u{636}\u{637}\u{638}\u{639}\u{63a}[\u{5c}]^_",
    "\u{640}\u{641}\u{642}\u{643}\u{644}\u{645}\u{646}\u{647}\u{648}\u{649}\u{64a}\u{64b}\u{64c}\u{64d}\u{64e}\u{64f}",
    "\u{650}\u{651}\u{652}\u{67e}\u{679}\u{686}\u{6d5}\u{6a4}\u{6af}\u{688}\u{691}{|}\u{698}\u{6d2}",
];

const PERSIAN: Exceptions = &[
    (0xb0, '\u{6f0}'),
    (0xb1, '\u{6f1}'),
    (0xb2, '\u{6f2}'),
    (0xb3, '\u{6f3}'),
    (0xb4, '\u{6f4}'),
    (0xb5, '\u{6f5}'),
    (0xb6, '\u{6f6}'),
    (0xb7, '\u{6f7}'),
    (0xb8, '\u{6f8}'),
    (0xb9, '\u{6f9}'),
];

const HEBREW: UpperHalf = [
    "Ä\u{5f2}ÇÉÑÖÜáàâäãåçéè",
    "êëíìîïñóòôöõúùûü",
    " !\u{22}#$%₪')(*+,-./",
    "0123456789:;<=>?",
    "\u{5dc}„\u{fffd}\u{fffd}\u{fffd}\u{fffd}\u{5bc}\u{fb4b}\u{fb35}…\u{a0}\u{5b8}\u{5b7}\u{5b5}\u{5b6}\u{5b4}",
    "–—“”‘’\u{fb2a}\u{fb2b}\u{5bf}\u{5b0}\u{5b2}\u{5b1}\u{5bb}\u{5b9}\u{5b8}\u{5b3}",
    "\u{5d0}\u{5d1}\u{5d2}\u{5d3}\u{5d4}\u{5d5}\u{5d6}\u{5d7}\u{5d8}\u{5d9}\u{5da}\u{5db}\u{5dc}\u{5dd}\u{5de}\u{5df}",
    "\u{5e0}\u{5e1}\u{5e2}\u{5e3}\u{5e4}\u{5e5}\u{5e6}\u{5e7}\u{5e8}\u{5e9}\u{5ea}}]{[|",
];

const GREEK: UpperHalf = [
    "Ä¹²É³ÖÜ΅àâä΄¨çéè",
    "êë£™îï•½‰ôö¦€ùûü",
    "†ΓΔΘΛΞΠß®©ΣΪ§≠°·",
    "Α±≤≥¥ΒΕΖΗΙΚΜΦΫΨΩ",
    "άΝ¬ΟΡ≈Τ«»…\u{a0}ΥΧΆΈœ",
    "–―“”‘’÷ΉΊΌΎέήίόΏ",
    "ύαβψδεφγηιξκλμνο",
    "πώρστθωςχυζϊϋΐΰ\u{ad}",
];

const THAI: UpperHalf = [
    "«»…\u{e48}\u{e49}\u{e4a}\u{e4b}\u{e4c}\u{e48}\u{e49}\u{e4a}\u{e4b}\u{e4c}“”\u{e4d}",
    "\u{fffd}•\u{e31}\u{e47}\u{e34}\u{e35}\u{e36}\u{e37}\u{e48}\u{e49}\u{e4a}\u{e4b}\u{e4c}‘’\u{fffd}",
    "\u{a0}กขฃคฅฆงจฉชซฌญฎฏ",
    "ฐฑฒณดตถทธนบปผฝพฟ",
    "ภมยรฤลฦวศษสหฬอฮฯ",
    "ะ\u{e31}าำ\u{e34}\u{e35}\u{e36}\u{e37}\u{e38}\u{e39}\u{e3a}\u{2060}\u{200b}–—฿",
    "เแโใไๅๆ\u{e47}\u{e48}\u{e49}\u{e4a}\u{e4b}\u{e4c}\u{e4d}™๏",
    "๐๑๒๓๔๕๖๗๘๙®©\u{fffd}\u{fffd}\u{fffd}\u{fffd}",
];

const CENTRAL_EUROPEAN: UpperHalf = [
    "ÄĀāÉĄÖÜáąČäčĆćéŹ",
    "źĎíďĒēĖóėôöõúĚěü",
    "†°Ę£§•¶ß®©™ę¨≠ģĮ",
    "įĪ≤≥īĶ∂∑łĻļĽľĹĺŅ",
    "ņŃ¬√ńŇ∆«»…\u{a0}ňŐÕőŌ",
    "–—“”‘’÷◊ōŔŕŘ‹›řŖ",
    "ŗŠ‚„šŚśÁŤťÍŽžŪÓÔ",
    "ūŮÚůŰűŲųÝýķŻŁżĢˇ",
];

const ICELANDIC: Exceptions = &[
    (0xa0, 'Ý'),
    (0xdc, 'Ð'),
    (0xdd, 'ð'),
    (0xde, 'Þ'),
    (0xdf, 'þ'),
    (0xe0, 'ý'),
];

const CROATIAN: Exceptions = &[
    (0xa9, 'Š'),
    (0xae, 'Ž'),
    (0xb4, '∆'),
    (0xb9, 'š'),
    (0xbe, 'ž'),
    (0xc6, 'Ć'),
    (0xc8, 'Č'),
    (0xd0, 'Đ'),
    (0xd8, '\u{fffd}'),
    (0xd9, '©'),
    (0xde, 'Æ'),
    (0xdf, '»'),
    (0xe0, '–'),
    (0xe6, 'ć'),
    (0xe8, 'č'),
    (0xf0, 'đ'),
    (0xf9, 'π'),
    (0xfa, 'Ë'),
    (0xfd, 'Ê'),
    (0xfe, 'æ'),
];

const TURKISH: Exceptions = &[
    (0xda, 'Ğ'),
    (0xdb, 'ğ'),
    (0xdc, 'İ'),
    (0xdd, 'ı'),
    (0xde, 'Ş'),
    (0xdf, 'ş'),
    (0xf5, '\u{fffd}'),
];

const ROMANIAN: Exceptions = &[
    (0xae, 'Ă'),
    (0xaf, 'Ş'),
    (0xbd, 'Ω'),
    (0xbe, 'ă'),
    (0xbf, 'ş'),
    (0xdb, '¤'),
    (0xde, 'Ţ'),
    (0xdf, 'ţ'),
];
