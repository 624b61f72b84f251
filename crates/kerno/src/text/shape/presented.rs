//! Joined letters of Arabic in faces that know nothing of joining: by the characters
//! that Unicode has for their forms.

use icu_properties::props::JoiningType;

use super::features::form;
use crate::font::{Face, GlyphId, GlyphRow};
use crate::text::analysis::unicode::joining;

/// Letters in the order of their forms from U+FE80 on (Unicode, “Arabic Presentation
/// Forms-B”): each has its isolated and its final form, those that join on both sides
/// their initial and medial one as well.
const FORMS_B: [char; 36] = [
    'ء', 'آ', 'أ', 'ؤ', 'إ', 'ئ', 'ا', 'ب', 'ة', 'ت', 'ث', 'ج', 'ح', 'خ', 'د', 'ذ', 'ر', 'ز', 'س',
    'ش', 'ص', 'ض', 'ط', 'ظ', 'ع', 'غ', 'ف', 'ق', 'ك', 'ل', 'م', 'ن', 'ه', 'و', 'ى', 'ي',
];

/// The same in “Arabic Presentation Forms-A”, each with where its forms begin.
const FORMS_A: [(char, u32); 39] = [
    ('\u{671}', 0xfb50),
    ('\u{67b}', 0xfb52),
    ('\u{67e}', 0xfb56),
    ('\u{680}', 0xfb5a),
    ('\u{67a}', 0xfb5e),
    ('\u{67f}', 0xfb62),
    ('\u{679}', 0xfb66),
    ('\u{6a4}', 0xfb6a),
    ('\u{6a6}', 0xfb6e),
    ('\u{684}', 0xfb72),
    ('\u{683}', 0xfb76),
    ('\u{686}', 0xfb7a),
    ('\u{687}', 0xfb7e),
    ('\u{68d}', 0xfb82),
    ('\u{68c}', 0xfb84),
    ('\u{68e}', 0xfb86),
    ('\u{688}', 0xfb88),
    ('\u{698}', 0xfb8a),
    ('\u{691}', 0xfb8c),
    ('\u{6a9}', 0xfb8e),
    ('\u{6af}', 0xfb92),
    ('\u{6b3}', 0xfb96),
    ('\u{6b1}', 0xfb9a),
    ('\u{6ba}', 0xfb9e),
    ('\u{6bb}', 0xfba0),
    ('\u{6c0}', 0xfba4),
    ('\u{6c1}', 0xfba6),
    ('\u{6be}', 0xfbaa),
    ('\u{6d2}', 0xfbae),
    ('\u{6d3}', 0xfbb0),
    ('\u{6ad}', 0xfbd3),
    ('\u{6c7}', 0xfbd7),
    ('\u{6c6}', 0xfbd9),
    ('\u{6c8}', 0xfbdb),
    ('\u{6cb}', 0xfbde),
    ('\u{6c5}', 0xfbe0),
    ('\u{6c9}', 0xfbe2),
    ('\u{6d0}', 0xfbe4),
    ('\u{6cc}', 0xfbfc),
];

/// Lam with the alefs that it joins to one sign: the alef, and the isolated form; the
/// final one follows.
const LAM_ALEF: [(char, u32); 4] = [('آ', 0xfef5), ('أ', 0xfef7), ('إ', 0xfef9), ('ا', 0xfefb)];

const LAM: char = 'ل';

/// The character of a letter in a form; `None` where Unicode has none.
fn formed(letter: char, form: u32) -> Option<char> {
    let number = match form {
        form::ISOLATED => 0,
        form::FINAL => 1,
        form::INITIAL => 2,
        form::MEDIAL => 3,
        _ => return None,
    };
    // The one letter whose forms lie apart.
    if letter == 'ى' && number > 1 {
        return char::from_u32(0xfbe8 + number - 2);
    }
    let count = |letter: char| match joining(letter) {
        JoiningType::DualJoining if letter != 'ى' && letter != '\u{6ba}' => 4,
        JoiningType::DualJoining | JoiningType::RightJoining => 2,
        _ => 1,
    };
    let first = match FORMS_B.iter().position(|other| *other == letter) {
        Some(at) => {
            let before: u32 = FORMS_B[..at].iter().map(|letter| count(*letter)).sum();
            0xfe80 + before
        }
        None => FORMS_A.iter().find(|(other, _)| *other == letter)?.1,
    };
    (number < count(letter))
        .then(|| char::from_u32(first + number))
        .flatten()
}

/// Gives the letters of a row the glyphs of their forms, as far as the face has them,
/// and joins lam with an alef after it.
pub(super) fn present(face: &Face, row: &mut GlyphRow) {
    let glyph_of = |character: Option<char>| -> Option<GlyphId> { face.glyph(character?) };
    for glyph in &mut row.glyphs {
        if let Some(own) = glyph_of(formed(glyph.character, glyph.mask)) {
            glyph.glyph = own;
        }
    }
    let mut at = 0;
    while at < row.glyphs.len() {
        let lam = row.glyphs[at];
        at += 1;
        let number = match lam.mask {
            form::INITIAL => 0,
            form::MEDIAL => 1,
            _ => continue,
        };
        if lam.character != LAM {
            continue;
        }
        // Marks on the lam stand between the two.
        let is_solid = |character| joining(character) != JoiningType::Transparent;
        let rest = row.glyphs[at..].iter();
        let marks = rest.take_while(|glyph| !is_solid(glyph.character)).count();
        let Some(alef) = row.glyphs.get(at + marks).copied() else {
            continue;
        };
        let whole = LAM_ALEF.iter().find(|(other, _)| *other == alef.character);
        let whole = whole.and_then(|(_, first)| char::from_u32(first + number));
        if let Some(own) = glyph_of(whole) {
            let glyph = &mut row.glyphs[at - 1];
            glyph.glyph = own;
            glyph.last_cluster = alef.last_cluster;
            row.glyphs.remove(at + marks);
        }
    }
}
