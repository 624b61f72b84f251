//! Features that a script asks for, and those of the style.

use std::collections::BTreeMap;

use icu_properties::props::{NamedEnumeratedProperty, Script};

use crate::font::{Feature, Tag, TextKind};
use crate::text::Style;

/// The bits of glyphs that have a form by their neighbours.
pub(super) mod form {
    pub(in super::super) const ISOLATED: u32 = 1;
    pub(in super::super) const FINAL: u32 = 2;
    pub(in super::super) const MEDIAL: u32 = 4;
    pub(in super::super) const INITIAL: u32 = 8;
    pub(in super::super) const LEADING_JAMO: u32 = 16;
    pub(in super::super) const VOWEL_JAMO: u32 = 32;
    pub(in super::super) const TRAILING_JAMO: u32 = 64;
    /// Those that only the Syriac alaph has.
    pub(in super::super) const FINAL_2: u32 = 128;
    pub(in super::super) const FINAL_3: u32 = 256;
    pub(in super::super) const MEDIAL_2: u32 = 512;
    /// Numbers around a fraction slash.
    pub(in super::super) const NUMERATOR: u32 = 1024;
    pub(in super::super) const FRACTION: u32 = 2048;
    pub(in super::super) const DENOMINATOR: u32 = 4096;
}

/// Returns whether letters of a script join.
pub(super) fn joins(script: Script) -> bool {
    matches!(
        script,
        Script::Arabic
            | Script::Syriac
            | Script::Mongolian
            | Script::Nko
            | Script::Mandaic
            | Script::Manichaean
            | Script::PsalterPahlavi
            | Script::PhagsPa
            | Script::Adlam
            | Script::HanifiRohingya
            | Script::Sogdian
            | Script::Chorasmian
            | Script::OldUyghur
    )
}

/// Substitutions of scripts whose letters do not join.
const PLAIN: &[&[u8; 4]] = &[
    b"ccmp", b"locl", b"rlig", b"rclt", b"calt", b"clig", b"liga",
];

/// Positions of all scripts.
const POSITIONS: &[&[u8; 4]] = &[
    b"abvm", b"blwm", b"curs", b"dist", b"kern", b"mark", b"mkmk",
];

/// Adds the substitutions of a script whose letters join, each in its turn (OpenType,
/// “Developing Arabic fonts” and “… Syriac fonts”). Returns the last stage.
fn add_joining(script: Script, add: &mut impl FnMut(u8, u32, &[&[u8; 4]])) -> u8 {
    let is_syriac = script == Script::Syriac;
    if is_syriac {
        add(0, 0, &[b"stch"]);
    }
    add(1, 0, &[b"ccmp", b"locl"]);
    add(2, form::ISOLATED, &[b"isol"]);
    add(3, form::FINAL, &[b"fina"]);
    if is_syriac {
        add(4, form::FINAL_2, &[b"fin2"]);
        add(5, form::FINAL_3, &[b"fin3"]);
        add(7, form::MEDIAL_2, &[b"med2"]);
    }
    add(6, form::MEDIAL, &[b"medi"]);
    add(8, form::INITIAL, &[b"init"]);
    add(9, 0, &[b"rlig"]);
    add(10, 0, &[b"calt", b"rclt"]);
    add(11, 0, &[b"liga", b"clig", b"mset"]);
    11
}

/// Tells what lookups are chosen by, for text of a script in a style.
pub(super) fn describe(kind: &mut TextKind, style: &Style, script: Script, is_rtl: bool) {
    kind.scripts = script_tags(script);
    kind.language = style.language;
    kind.is_rtl = is_rtl;
    let features = &mut kind.features;
    features.clear();
    let mut add = |stage: u8, mask: u32, tags: &[&[u8; 4]]| {
        features.extend(tags.iter().map(|tag| Feature {
            tag: Tag::new(tag),
            value: 1,
            mask,
            stage,
        }));
    };
    add(0, 0, &[b"rvrn"]);
    let last = if joins(script) {
        add_joining(script, &mut add)
    } else {
        add(1, 0, PLAIN);
        if script == Script::Hangul {
            add(1, form::LEADING_JAMO, &[b"ljmo"]);
            add(1, form::VOWEL_JAMO, &[b"vjmo"]);
            add(1, form::TRAILING_JAMO, &[b"tjmo"]);
        }
        1
    };
    let by_direction: &[_] = if is_rtl {
        &[b"rtla", b"rtlm"]
    } else {
        &[b"ltra", b"ltrm"]
    };
    add(last, 0, by_direction);
    add(last, 0, POSITIONS);
    // OpenType, “frac”: for numbers around a fraction slash, without being asked.
    add(last, form::FRACTION, &[b"frac"]);
    add(last, form::NUMERATOR, &[b"numr"]);
    add(last, form::DENOMINATOR, &[b"dnom"]);
    if style.letter_spacing != 0.0 {
        // CSS Text, “letter-spacing”: no ligatures that are not needed.
        features.retain(|feature| !matches!(&feature.tag.0, b"liga" | b"clig"));
    }
    if style.tabular {
        features.push(Feature {
            tag: Tag::new(b"tnum"),
            value: 1,
            mask: 0,
            stage: last,
        });
    }
    let asked: BTreeMap<Tag, u16> = style.features.iter().copied().collect();
    features.retain(|feature| !asked.contains_key(&feature.tag));
    features.extend(asked.into_iter().map(|(tag, value)| Feature {
        tag,
        value,
        mask: 0,
        stage: last,
    }));
}

/// The tags of a script in fonts, the newer one first (OpenType, “Script Tags”).
fn script_tags(script: Script) -> [Tag; 2] {
    let other = |first: &[u8; 4], second: &[u8; 4]| [Tag::new(first), Tag::new(second)];
    match script {
        Script::Lao => other(b"lao ", b"lao "),
        Script::Yi => other(b"yi  ", b"yi  "),
        Script::Nko => other(b"nko ", b"nko "),
        Script::Vai => other(b"vai ", b"vai "),
        Script::Hiragana | Script::Katakana => other(b"kana", b"kana"),
        Script::Devanagari => other(b"dev2", b"deva"),
        Script::Bengali => other(b"bng2", b"beng"),
        Script::Tamil => other(b"tml2", b"taml"),
        Script::Myanmar => other(b"mym2", b"mymr"),
        _ => {
            let name: Result<[u8; 4], _> = script.short_name().as_bytes().try_into();
            let tag = name.map_or(Tag::new(b"DFLT"), |name| {
                Tag(name.map(|byte| byte.to_ascii_lowercase()))
            });
            [tag, tag]
        }
    }
}
