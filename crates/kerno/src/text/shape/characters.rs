//! From the characters of a cluster to those that the face has glyphs for.

use std::cmp::Ordering;

use icu_properties::props::JoiningType;

use super::features::form;
use super::stand_ins::{glyph_or_stand_in, is_space};
use crate::font::{Face, GlyphId, GlyphRow, RowGlyph};
use crate::text::analysis::unicode::{
    combining_class, composed, decompose, is_any_mark, is_ignorable, joining, mirrored,
};

/// The surroundings of a letter in a text: whether it joins the one before and the
/// one after.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Joined {
    pub(super) before: bool,
    pub(super) after: bool,
}

/// Memory of the way from characters to glyphs.
#[derive(Debug, Default)]
pub(super) struct Characters {
    parts: Vec<char>,
    /// True if any glyph stands in for a space that the face lacks.
    pub(super) has_made_spaces: bool,
}

/// The most characters of a cluster that are shown, more than twice as many as text that
/// is safe for streams has (UAX #15, “Stream-Safe Text Format”).
const LONGEST: usize = 64;

impl Characters {
    /// Adds the glyphs of a cluster; `has_marks` tells whether the face says where marks
    /// stand. True where the face has them all.
    pub(super) fn add(
        &mut self,
        face: &Face,
        text: &str,
        cluster: u32,
        (is_rtl, has_marks): (bool, bool),
        row: &mut GlyphRow,
    ) -> bool {
        if text.chars().next().is_some_and(is_visible_mark) {
            // A mark without a letter (Unicode Standard, 2.11, “Dotted Circle”).
            let circle = face.glyph(DOTTED_CIRCLE);
            let circle = circle.map(|circle| RowGlyph::new(circle, DOTTED_CIRCLE, cluster));
            row.glyphs.extend(circle);
        }
        let mut characters = text.chars();
        if let (Some(one), None) = (characters.next(), characters.next()) {
            let one = if is_rtl { mirror(face, one) } else { one };
            if let Some(glyph) = face.glyph(one) {
                row.glyphs.push(RowGlyph::new(glyph, one, cluster));
                return true;
            }
        }
        let end = text
            .char_indices()
            .nth(LONGEST)
            .map_or(text.len(), |(end, _)| end);
        self.normalize(face, &text[..end], has_marks);
        self.lead_with_tone(face);
        let mut is_whole = true;
        let mut at = 0;
        while let Some(&character) = self.parts.get(at) {
            at += 1;
            let shown = if is_rtl {
                mirror(face, character)
            } else {
                character
            };
            let variant = self
                .parts
                .get(at)
                .and_then(|selector| face.variant_glyph(shown, *selector));
            at += usize::from(variant.is_some());
            let glyph = variant.or_else(|| glyph_or_stand_in(face, shown));
            self.has_made_spaces |= is_space(character);
            let glyph = glyph.unwrap_or_else(|| {
                is_whole &= is_ignorable(character);
                GlyphId::NOTDEF
            });
            let mut glyph = RowGlyph::new(glyph, character, cluster);
            glyph.mask = jamo_form(character);
            row.glyphs.push(glyph);
        }
        is_whole
    }

    /// Takes a cluster apart as far as the face needs it, and puts together what it
    /// has as one (Unicode Standard, 3.11; here in favour of the face).
    fn normalize(&mut self, face: &Face, text: &str, has_marks: bool) {
        self.parts.clear();
        for character in text.chars() {
            match character {
                // Thai and Lao AM: a ring above the letter and a vowel after it; the
                // ring goes before what else stands above the letter.
                '\u{e33}' | '\u{eb3}' => {
                    let ring = u32::from(character) + 0x1a;
                    let vowel = char::from_u32(u32::from(character) - 1);
                    let above = self.parts.iter().rev().take_while(|c| is_thai_above(**c));
                    let at = self.parts.len() - above.count();
                    self.parts
                        .insert(at, char::from_u32(ring).unwrap_or(character));
                    self.parts.extend(vowel);
                }
                _ => decompose(character, &mut self.parts),
            }
        }
        let mut start = 0;
        while start < self.parts.len() {
            let rest = &self.parts[start..];
            let marks = rest
                .iter()
                .take_while(|c| combining_class(**c) != 0)
                .count();
            order_marks(&mut self.parts[start..start + marks]);
            start += marks + 1;
        }
        self.compose(face, has_marks);
    }

    /// Composes as many of the first parts as the face has as one: it may have a
    /// syllable of Hangul and not the one without its last letter.
    fn compose_all(&mut self, face: &Face) {
        let Some(&first) = self.parts.first() else {
            return;
        };
        let mut whole = first;
        let mut best = None;
        for (index, part) in self.parts.iter().enumerate().skip(1) {
            let Some(more) = composed(whole, *part) else {
                break;
            };
            whole = more;
            if face.glyph(whole).is_some() {
                best = Some((index, whole));
            }
        }
        if let Some((last, whole)) = best {
            self.parts.splice(..=last, [whole]);
        }
    }

    /// Returns whether the parts are a syllable of Hangul that the face has by its three letters
    /// only: composed in part, the last one would stand beside the others (Unicode
    /// Standard, 3.12; OpenType, “Developing Hangul fonts”).
    fn is_old_syllable(&self, face: &Face) -> bool {
        let &[leading, vowel, trailing, ..] = &*self.parts else {
            return false;
        };
        let forms = [leading, vowel, trailing].map(jamo_form);
        let whole = || composed(composed(leading, vowel)?, trailing);
        forms == [form::LEADING_JAMO, form::VOWEL_JAMO, form::TRAILING_JAMO]
            && whole().is_none_or(|whole| face.glyph(whole).is_none())
            && [leading, vowel, trailing]
                .iter()
                .all(|jamo| face.glyph(*jamo).is_some())
    }

    /// Puts a tone mark of Hangul that takes room before its syllable, where it is read
    /// (Unicode Standard, 18.6, “Hangul tone marks”).
    fn lead_with_tone(&mut self, face: &Face) {
        let takes_room = |tone: char| {
            face.glyph(tone)
                .is_some_and(|glyph| face.advance(glyph) > 0)
        };
        let tone = self.parts.iter().position(|part| is_hangul_tone(*part));
        if let Some(tone) = tone.filter(|tone| takes_room(self.parts[*tone])) {
            self.parts[..=tone].rotate_right(1);
        }
    }

    /// Composes each letter with the marks after it, where the face has the whole.
    fn compose(&mut self, face: &Face, has_marks: bool) {
        if self.is_old_syllable(face) {
            return;
        }
        self.compose_all(face);
        let mut starter = 0;
        let mut last_class = 0;
        let mut at = 1;
        while at < self.parts.len() {
            let (first, second) = (self.parts[starter], self.parts[at]);
            let class = combining_class(second);
            let is_free = at == starter + 1 || last_class < class;
            let whole = if is_free {
                composed(first, second)
                    .or_else(|| presented(first, second).filter(|_| !has_marks))
                    .filter(|whole| face.glyph(*whole).is_some())
            } else {
                None
            };
            if let Some(whole) = whole {
                self.parts[starter] = whole;
                self.parts.remove(at);
                continue;
            }
            if class == 0 {
                starter = at;
            }
            last_class = class;
            at += 1;
        }
    }
}

/// Puts marks that stand on one letter in the order of their classes (canonical
/// ordering), but as fonts for the script expect them.
fn order_marks(marks: &mut [char]) {
    marks.sort_by_key(|mark| rank(*mark));
    order_hebrew(marks);
    // Unicode Technical Report 53, “Unicode Arabic Mark Rendering”: marks that belong to
    // the letter go before its vowels.
    for class in [230, 220] {
        let is_of_class = |mark: &char| combining_class(*mark) == class;
        if let Some(first) = marks.iter().position(is_of_class) {
            let own = marks[first..].iter();
            let modifiers = own.take_while(|mark| is_of_class(mark) && is_modifier(**mark));
            let end = first + modifiers.count();
            if end > first {
                marks[..end].rotate_left(first);
            }
        }
    }
}

/// Hebrew patah or qamats with sheva or hiriq after it, and a meteg or another point
/// below: that one goes between the two, as fonts that stand them side by side expect it.
fn order_hebrew(marks: &mut [char]) {
    for at in 2..marks.len() {
        let classes = [at - 2, at - 1, at].map(|at| combining_class(marks[at]));
        if matches!(classes, [17 | 18, 10 | 14, 22 | 220]) {
            marks.swap(at - 1, at);
        }
    }
}

/// Thai and Lao signs above a letter, before which the ring of AM goes: upper vowels and
/// tone marks.
fn is_thai_above(character: char) -> bool {
    matches!(
        character,
        '\u{e31}' | '\u{e34}'..='\u{e37}' | '\u{e47}'..='\u{e4e}'
            | '\u{eb1}' | '\u{eb4}'..='\u{eb7}' | '\u{ebb}' | '\u{ec7}'..='\u{ece}'
    )
}

/// Hangul single and double dot tone marks.
pub(super) fn is_hangul_tone(character: char) -> bool {
    matches!(character, '\u{302e}' | '\u{302f}')
}

/// DOTTED CIRCLE, on which marks are shown that stand on no letter.
const DOTTED_CIRCLE: char = '\u{25cc}';

/// Returns whether a character is a mark that is to be seen.
fn is_visible_mark(character: char) -> bool {
    is_any_mark(character) && !is_ignorable(character)
}

/// By what marks are ordered: their class; but in Arabic the shadda before vowels (UTR
/// 53), and in Hebrew the dots of the letter, then the vowels that carry others, as
/// fonts for pointed text expect them.
fn rank(mark: char) -> u8 {
    match combining_class(mark) {
        // The classes of single Hebrew points, from 10 (sheva) to 25 (sin dot).
        class @ 10..=25 => {
            const RANKS: [u8; 16] = [
                22, 15, 16, 17, 23, 18, 19, 20, 21, 14, 24, 12, 25, 13, 10, 11,
            ];
            RANKS[usize::from(class - 10)]
        }
        33 => 26,
        class => class,
    }
}

/// Arabic marks that modify their letter (UTR 53, “Modifier Combining Marks”).
fn is_modifier(mark: char) -> bool {
    matches!(
        mark,
        '\u{654}'
            | '\u{655}'
            | '\u{658}'
            | '\u{6dc}'
            | '\u{6e3}'
            | '\u{6e7}'
            | '\u{6e8}'
            | '\u{8ca}'
            | '\u{8cb}'
            | '\u{8cd}'..='\u{8cf}' | '\u{8d3}' | '\u{8f3}'
    )
}

/// A Hebrew letter and a point as one character, which canonical composition leaves
/// apart: for faces that do not say where points stand.
fn presented(letter: char, point: char) -> Option<char> {
    if !matches!(letter, '\u{5d0}'..='\u{5f2}' | '\u{fb2a}'..='\u{fb49}') {
        return None;
    }
    let parts = |letter: char, point: Option<char>| {
        let mut parts = Vec::new();
        decompose(letter, &mut parts);
        parts.extend(point);
        parts.sort_by_key(|part| combining_class(*part));
        parts
    };
    let wanted = parts(letter, Some(point));
    ('\u{fb1d}'..='\u{fb4e}').find(|whole| parts(*whole, None) == wanted)
}

/// The mirror image of a bracket in text that runs to the left, where the face has
/// it.
fn mirror(face: &Face, character: char) -> char {
    mirrored(character)
        .filter(|other| face.glyph(*other).is_some())
        .unwrap_or(character)
}

/// The part of a Hangul syllable that a jamo is.
fn jamo_form(character: char) -> u32 {
    match character {
        '\u{1100}'..='\u{115f}' | '\u{a960}'..='\u{a97c}' => form::LEADING_JAMO,
        '\u{1160}'..='\u{11a7}' | '\u{d7b0}'..='\u{d7c6}' => form::VOWEL_JAMO,
        '\u{11a8}'..='\u{11ff}' | '\u{d7cb}'..='\u{d7fb}' => form::TRAILING_JAMO,
        _ => 0,
    }
}

/// Gives the letters of a row their forms (Unicode Standard, 9.2: rules R1 to R7),
/// and tells what is joined to what stands around the row.
pub(super) fn join(row: &mut GlyphRow, around: Joined) {
    // The letter before that is not passed over, and whether it joins on.
    let mut before: Option<usize> = None;
    let mut is_joining = around.before;
    for at in 0..row.glyphs.len() {
        let kind = joining(row.glyphs[at].character);
        if kind == JoiningType::Transparent {
            continue;
        }
        let takes = matches!(
            kind,
            JoiningType::RightJoining | JoiningType::DualJoining | JoiningType::JoinCausing
        );
        let joined = is_joining && takes;
        if joined && let Some(before) = before {
            let glyph = &mut row.glyphs[before];
            glyph.mask = match glyph.mask {
                form::ISOLATED => form::INITIAL,
                form::FINAL => form::MEDIAL,
                other => other,
            };
            row.glyphs[at].is_tied = true;
        }
        let has_form = matches!(kind, JoiningType::RightJoining | JoiningType::DualJoining);
        row.glyphs[at].mask = match (has_form, joined) {
            (false, _) => 0,
            (true, true) => form::FINAL,
            (true, false) => form::ISOLATED,
        };
        before = Some(at);
        is_joining = joins_on(kind);
    }
    if let Some(last) = before.filter(|_| is_joining && around.after) {
        let glyph = &mut row.glyphs[last];
        glyph.mask = match glyph.mask {
            form::ISOLATED => form::INITIAL,
            form::FINAL => form::MEDIAL,
            other => other,
        };
    }
}

/// SYRIAC LETTER ALAPH.
const ALAPH: char = '\u{710}';

/// Gives each alaph the form that it has by what stands around it (OpenType, the
/// features `fin2`, `fin3` and `med2`; Unicode Standard, 9.3): joined, one at the end of
/// a word and another inside; not joined, at the end of a word one after dalath and rish
/// and another after other letters.
pub(super) fn shape_alaphs(row: &mut GlyphRow) {
    let is_solid = |glyph: &RowGlyph| joining(glyph.character) != JoiningType::Transparent;
    let is_letter = |glyph: &RowGlyph| {
        let kind = joining(glyph.character);
        !matches!(kind, JoiningType::NonJoining | JoiningType::Transparent)
    };
    for at in 0..row.glyphs.len() {
        if row.glyphs[at].character != ALAPH {
            continue;
        }
        let before = row.glyphs[..at].iter().rev().find(|glyph| is_solid(glyph));
        let before = before.filter(|glyph| is_letter(glyph));
        let after = row.glyphs[at + 1..].iter().find(|glyph| is_solid(glyph));
        let is_last = !after.is_some_and(is_letter);
        let is_dotted = |glyph: &RowGlyph| {
            // Dalath, dotless dalath rish, rish, and Persian dhalath.
            matches!(
                glyph.character,
                '\u{715}' | '\u{716}' | '\u{72a}' | '\u{72f}'
            )
        };
        row.glyphs[at].mask = match (row.glyphs[at].mask, before, is_last) {
            (form::FINAL, _, false) => form::MEDIAL_2,
            (form::ISOLATED, Some(before), true) if is_dotted(before) => form::FINAL_3,
            (form::ISOLATED, Some(_), true) => form::FINAL_2,
            (other, ..) => other,
        };
    }
}

/// Marks the digits on both sides of each fraction slash as numerator and denominator.
pub(super) fn mark_fractions(row: &mut GlyphRow) {
    let is_slash = |glyph: &RowGlyph| glyph.character == '\u{2044}';
    let is_digit = |glyph: &RowGlyph| glyph.character.is_ascii_digit();
    let mut from = 0;
    while let Some(step) = row.glyphs[from..].iter().position(is_slash) {
        let at = from + step;
        from = at + 1;
        let before = row.glyphs[..at]
            .iter()
            .rev()
            .take_while(|g| is_digit(g))
            .count();
        let after = row.glyphs[at + 1..]
            .iter()
            .take_while(|g| is_digit(g))
            .count();
        if before == 0 || after == 0 {
            continue;
        }
        let (start, end) = (at - before, at + 1 + after);
        for (index, glyph) in row.glyphs[start..end].iter_mut().enumerate() {
            glyph.mask |= form::FRACTION;
            glyph.mask |= match index.cmp(&before) {
                Ordering::Less => form::NUMERATOR,
                Ordering::Equal => 0,
                Ordering::Greater => form::DENOMINATOR,
            };
            glyph.is_tied |= index > 0;
        }
    }
}

/// Returns whether a letter joins the one after it.
fn joins_on(kind: JoiningType) -> bool {
    matches!(
        kind,
        JoiningType::DualJoining | JoiningType::LeftJoining | JoiningType::JoinCausing
    )
}

/// Returns whether text before a place joins on, and whether text after it takes that.
pub(super) fn joined_around(before: &str, after: &str) -> Joined {
    let solid = |character: &char| joining(*character) != JoiningType::Transparent;
    let last = before.chars().rev().take(8).find(solid);
    let next = after.chars().take(8).find(solid);
    Joined {
        before: last.is_some_and(|character| joins_on(joining(character))),
        after: next.is_some_and(|character| {
            matches!(
                joining(character),
                JoiningType::RightJoining | JoiningType::DualJoining | JoiningType::JoinCausing
            )
        }),
    }
}
