//! The script of every cluster (UAX #24, “Unicode Script Property”, 5.1 and 5.2).

use icu_properties::CodePointMapData;
use icu_properties::props::{BidiMirroringGlyph, BidiPairedBracketType, Script};

use crate::text::Cluster;
use crate::text::analysis::unicode::{is_line_break, script};

/// The scripts of a text's clusters.
pub(in crate::text) enum Scripts {
    /// All that have one have this one.
    Same(Script),
    /// One for each cluster.
    Each(Vec<Script>),
}

impl Scripts {
    /// Finds the scripts. What belongs to none goes with what is before it in its paragraph and
    /// runs the same way; else with what is after it; a bracket or a quotation mark that closes
    /// with the one that opened. Paragraphs without a letter go with the text's first one.
    pub(in crate::text) fn of(text: &str, clusters: &[Cluster], levels: &[u8]) -> Self {
        if !may_mix(text) {
            let is_latin = |character: char| script(character) == Script::Latin;
            let has_letter = text.bytes().any(|byte| byte.is_ascii_alphabetic());
            let has_letter = has_letter || (!text.is_ascii() && text.chars().any(is_latin));
            return Self::Same(if has_letter {
                Script::Latin
            } else {
                Script::Common
            });
        }
        let first = |cluster: &Cluster| cluster.part(text).chars().next().unwrap_or(' ');
        let mut scripts: Vec<Script> = clusters
            .iter()
            .map(|cluster| script(first(cluster)))
            .collect();
        let main = scripts.iter().copied().find(|script| !is_open(*script));
        let mut start = 0;
        while start < scripts.len() {
            let is_end = |cluster: &Cluster| ends_paragraph(first(cluster));
            let length = clusters[start..].iter().position(is_end);
            let end = length.map_or(scripts.len(), |length| start + length + 1);
            resolve(&mut scripts[start..end], &levels[start..], main, |index| {
                first(&clusters[start + index])
            });
            start = end;
        }
        Self::Each(scripts)
    }

    pub(in crate::text) fn at(&self, cluster: usize) -> Script {
        match self {
            Self::Same(script) => *script,
            Self::Each(scripts) => scripts[cluster],
        }
    }

    /// Returns whether a cluster of one ASCII character may be of a script: surely where all are.
    pub(in crate::text) fn is_at(&self, cluster: usize, script: Script) -> bool {
        match self {
            Self::Same(_) => true,
            Self::Each(scripts) => scripts[cluster] == script,
        }
    }
}

/// Returns whether letters may be of another script than Latin: any but those up to U+02FF, and
/// the marks, punctuation and symbols from U+2000 on that are of none.
fn may_mix(text: &str) -> bool {
    if text.is_ascii() {
        return false;
    }
    let is_other = |byte: u8| byte >= 0xcd && byte != 0xe2;
    if text.bytes().fold(false, |any, byte| any | is_other(byte)) {
        return true;
    }
    // The ohm sign, Braille, Tifinagh and others.
    let is_other = |character: char| {
        character >= '\u{2126}'
            && !matches!(script(character), Script::Latin)
            && !is_open(script(character))
    };
    text.chars().any(is_other)
}

fn is_open(script: Script) -> bool {
    matches!(script, Script::Common | Script::Inherited | Script::Unknown)
}

/// The most brackets that may be open at once.
const MOST_OPEN: usize = 64;

fn resolve(
    scripts: &mut [Script],
    levels: &[u8],
    main: Option<Script>,
    character: impl Fn(usize) -> char,
) {
    let way = |index: usize| usize::from(levels[index] % 2);
    // The script of the last letter that ran either way.
    let mut last: [Option<Script>; 2] = [None; 2];
    let mut open: Vec<(char, Script)> = Vec::new();
    // The start of the characters that wait for a letter.
    let mut waiting: [Option<usize>; 2] = [None; 2];
    for index in 0..scripts.len() {
        let own = way(index);
        // Numbers run from left to right in any text: they go with what is before them.
        let before = index.checked_sub(1).map(|before| scripts[before]);
        let is_number = character(index).is_numeric();
        let number_before = before.filter(|before| is_number && !is_open(*before));
        let pair = closing_of(character(index)).filter(|_| is_open(scripts[index]));
        if !is_open(scripts[index]) {
            last[own] = Some(scripts[index]);
            if let Some(start) = waiting[own].take() {
                give(&mut scripts[start..index], &levels[start..], own, last[own]);
            }
        } else if let Some(Pair::Closes(opening)) = pair
            && let Some(at) = open.iter().rposition(|(other, _)| *other == opening)
            && !is_open(open[at].1)
        {
            scripts[index] = open[at].1;
            open.truncate(at);
        } else if let Some(before) = number_before.or(last[own]) {
            scripts[index] = before;
            last[own] = Some(before);
        } else {
            waiting[own].get_or_insert(index);
        }
        if let Some(Pair::Opens(opening)) = pair {
            if open.len() == MOST_OPEN {
                open.remove(0);
            }
            open.push((opening, scripts[index]));
        }
    }
    // No letter runs that way: they go with those that run the other way.
    for own in [0, 1] {
        if let Some(start) = waiting[own] {
            let script = last[1 - own].or(main);
            give(&mut scripts[start..], &levels[start..], own, script);
        }
    }
}

/// Gives a script to those that have none and run one way.
fn give(scripts: &mut [Script], levels: &[u8], way: usize, script: Option<Script>) {
    for (own, level) in scripts.iter_mut().zip(levels) {
        if is_open(*own) && usize::from(level % 2) == way {
            *own = script.unwrap_or(*own);
        }
    }
}

enum Pair {
    Opens(char),
    /// With the character that opens.
    Closes(char),
}

/// Returns whether a character ends a paragraph.
fn ends_paragraph(character: char) -> bool {
    is_line_break(character.encode_utf8(&mut [0; 4]))
}

/// A bracket or a quotation mark of a pair.
fn closing_of(character: char) -> Option<Pair> {
    match character {
        '«' | '‹' | '“' | '‘' => return Some(Pair::Opens(character)),
        '»' => return Some(Pair::Closes('«')),
        '›' => return Some(Pair::Closes('‹')),
        '”' => return Some(Pair::Closes('“')),
        '’' => return Some(Pair::Closes('‘')),
        _ => {}
    }
    let mirroring = CodePointMapData::<BidiMirroringGlyph>::new().get(character);
    match mirroring.paired_bracket_type {
        BidiPairedBracketType::Open => Some(Pair::Opens(character)),
        BidiPairedBracketType::Close => mirroring.mirroring_glyph.map(Pair::Closes),
        _ => None,
    }
}
