//! Lookups that look around: contextual ones, chained or not (OpenType, “Sequence
//! Context” and “Chained Sequence Context”), for both tables alike.

use super::coverage::{class_of, covered};
use super::lookup::Applied;
use super::row::GlyphRow;
use crate::font::GlyphId;
use crate::font::table::word;

/// The longest sequence that is matched.
const LONGEST: usize = 64;

/// The greatest depth of nested lookups.
const DEEPEST: u8 = 8;

/// The criterion that a glyph of a sequence is compared with.
#[derive(Clone, Copy, PartialEq, Eq, Hash)]
enum Wanted {
    Glyph,
    /// A class by the definition at this place of the table.
    Class(usize),
    /// A coverage; offsets count from this place.
    Coverage(usize),
}

impl Wanted {
    fn matches(self, table: &[u8], value: u16, glyph: GlyphId) -> bool {
        let at = |place: usize| table.get(place..).unwrap_or_default();
        match self {
            Self::Glyph => value == glyph.0,
            Self::Class(place) => class_of(at(place), glyph) == value,
            Self::Coverage(place) => covered(at(place + usize::from(value)), glyph).is_some(),
        }
    }
}

/// A rule: what stands before, what is matched (its first glyph is), what follows,
/// and which lookups then apply. All are places of the table.
#[derive(Clone, Copy, Default)]
struct Rule {
    before: (usize, usize),
    /// The glyphs after the first.
    input: (usize, usize),
    after: (usize, usize),
    records: (usize, usize),
}

/// Applies a contextual subtable at a glyph; returns where to go on.
pub(super) fn apply(
    with: &Applied<'_>,
    row: &mut GlyphRow,
    at: usize,
    subtable: usize,
    is_chained: bool,
) -> Option<usize> {
    let first = row.glyphs[at].glyph;
    first_of_rules(with.table, (subtable, is_chained), first, |rule, wanted| {
        try_rule(with, row, at, rule, wanted)
    })
}

/// Returns whether any rule of a contextual subtable may match at a glyph before another one,
/// whatever stands around the two.
pub(super) fn may_match(
    table: &[u8],
    subtable: (usize, bool),
    first: GlyphId,
    next: Option<GlyphId>,
) -> bool {
    let mut asked = 0;
    let found = first_of_rules(table, subtable, first, |rule, [_, input, after]| {
        asked += 1;
        let (wanted, (place, _)) = match (rule.input.1, rule.after.1) {
            (0, 0) => return Some(()),
            (0, _) => (after, rule.after),
            _ => (input, rule.input),
        };
        let value = word(table, place)?;
        let matches = next.is_some_and(|next| wanted.matches(table, value, next));
        // If there are too many, the one that counts the steps is to find out.
        (matches || asked > MOST_ASKED).then_some(())
    });
    found.is_some()
}

/// Tells the lookups that a contextual subtable may apply to text that has a glyph first. `may_be`
/// says whether some glyph of the text is as a rule wants it.
pub(super) fn applied_lookups(
    table: &[u8],
    subtable: (usize, bool),
    first: GlyphId,
    may_be: &mut dyn FnMut(Criterion) -> bool,
    tell: &mut dyn FnMut(u16),
) {
    let _: Option<()> = first_of_rules(table, subtable, first, |rule, wanted| {
        let parts = [rule.before, rule.input, rule.after];
        let is_possible = parts.iter().zip(wanted).all(|((place, count), wanted)| {
            (0..*count).all(|index| {
                let value = word(table, place + index * 2);
                value.is_some_and(|value| may_be(Criterion { wanted, value }))
            })
        });
        let (place, count) = rule.records;
        for index in (0..count).filter(|_| is_possible) {
            if let Some(lookup) = word(table, place + index * 4 + 2) {
                tell(lookup);
            }
        }
        None
    });
}

/// A glyph that a rule asks for.
#[derive(Clone, Copy, PartialEq, Eq, Hash)]
pub(super) struct Criterion {
    wanted: Wanted,
    value: u16,
}

impl Criterion {
    pub(super) fn matches(self, table: &[u8], glyph: GlyphId) -> bool {
        self.wanted.matches(table, self.value, glyph)
    }
}

/// The most rules that are asked before they are tried on a text.
const MOST_ASKED: usize = 4096;

/// The first outcome among the rules of a contextual subtable that begin with a glyph.
fn first_of_rules<T>(
    table: &[u8],
    (subtable, is_chained): (usize, bool),
    first: GlyphId,
    mut outcome: impl FnMut(&Rule, [Wanted; 3]) -> Option<T>,
) -> Option<T> {
    let offset = |place: usize| Some(usize::from(word(table, place)?));
    match word(table, subtable)? {
        1 | 2 => {
            let index = covered(table.get(subtable + offset(subtable + 2)?..)?, first)?;
            let is_by_class = word(table, subtable)? == 2;
            let (wanted, set) = if is_by_class && is_chained {
                let class =
                    |place: usize| Some(Wanted::Class(subtable + offset(subtable + place)?));
                let wanted = [class(4)?, class(6)?, class(8)?];
                let Wanted::Class(input) = wanted[1] else {
                    return None;
                };
                let set = usize::from(class_of(table.get(input..)?, first));
                (wanted, (subtable + 10, set))
            } else if is_by_class {
                let input = subtable + offset(subtable + 4)?;
                let set = usize::from(class_of(table.get(input..)?, first));
                ([Wanted::Class(input); 3], (subtable + 6, set))
            } else {
                ([Wanted::Glyph; 3], (subtable + 4, index))
            };
            let (sets, set) = set;
            if set >= offset(sets)? {
                return None;
            }
            let set = match offset(sets + 2 + set * 2)? {
                0 => return None,
                set => subtable + set,
            };
            for index in 0..offset(set)? {
                let rule = set + offset(set + 2 + index * 2)?;
                let rule = if is_chained {
                    chained_rule(table, rule)?
                } else {
                    plain_rule(table, rule)?
                };
                let found = outcome(&rule, wanted);
                if found.is_some() {
                    return found;
                }
            }
            None
        }
        3 => {
            let coverage = [Wanted::Coverage(subtable); 3];
            let rule = coverage_rule(table, subtable, is_chained)?;
            let first_at = rule.input.0 - 2;
            if !coverage[1].matches(table, word(table, first_at)?, first) {
                return None;
            }
            outcome(&rule, coverage)
        }
        _ => None,
    }
}

/// OpenType, “Sequence Context Format 3” and “Chained Sequence Context Format 3”.
fn coverage_rule(table: &[u8], subtable: usize, is_chained: bool) -> Option<Rule> {
    let offset = |place: usize| Some(usize::from(word(table, place)?));
    if !is_chained {
        let input = offset(subtable + 2)?;
        return Some(Rule {
            input: (subtable + 8, input.checked_sub(1)?),
            records: (subtable + 6 + input * 2, offset(subtable + 4)?),
            ..Rule::default()
        });
    }
    let before = (subtable + 4, offset(subtable + 2)?);
    let input_at = before.0 + before.1 * 2;
    let input = offset(input_at)?;
    let after_at = input_at + 2 + input * 2;
    let after = (after_at + 2, offset(after_at)?);
    let records_at = after.0 + after.1 * 2;
    Some(Rule {
        before,
        input: (input_at + 4, input.checked_sub(1)?),
        after,
        records: (records_at + 2, offset(records_at)?),
    })
}

/// OpenType, “Sequence Rule Table”.
fn plain_rule(table: &[u8], at: usize) -> Option<Rule> {
    let input = usize::from(word(table, at)?).checked_sub(1)?;
    Some(Rule {
        input: (at + 4, input),
        records: (at + 4 + input * 2, usize::from(word(table, at + 2)?)),
        ..Rule::default()
    })
}

/// OpenType, “Chained Sequence Rule Table”.
fn chained_rule(table: &[u8], at: usize) -> Option<Rule> {
    let before = (at + 2, usize::from(word(table, at)?));
    let input_at = before.0 + before.1 * 2;
    let input = usize::from(word(table, input_at)?).checked_sub(1)?;
    let after_at = input_at + 2 + input * 2;
    let after = (after_at + 2, usize::from(word(table, after_at)?));
    let records_at = after.0 + after.1 * 2;
    Some(Rule {
        before,
        input: (input_at + 2, input),
        after,
        records: (records_at + 2, usize::from(word(table, records_at)?)),
    })
}

/// Matches a rule at a glyph and applies its lookups.
fn try_rule(
    with: &Applied<'_>,
    row: &mut GlyphRow,
    at: usize,
    rule: &Rule,
    [before, input, after]: [Wanted; 3],
) -> Option<usize> {
    let table = with.table;
    if rule.input.1 >= LONGEST || !row.step() {
        return None;
    }
    let value = |(start, _): (usize, usize), index: usize| word(table, start + index * 2);
    let mut places = [0; LONGEST];
    places[0] = at;
    let mut last = at;
    for index in 0..rule.input.1 {
        last = with.next(row, last, false)?;
        let glyph = &row.glyphs[last];
        let is_wanted = with.mask == 0 || glyph.mask & with.mask != 0;
        if !is_wanted || !input.matches(table, value(rule.input, index)?, glyph.glyph) {
            return None;
        }
        places[index + 1] = last;
    }
    let mut first = at;
    for index in 0..rule.before.1 {
        first = with.previous(row, first, true)?;
        if !before.matches(table, value(rule.before, index)?, row.glyphs[first].glyph) {
            return None;
        }
    }
    let mut end = last;
    for index in 0..rule.after.1 {
        end = with.next(row, end, true)?;
        if !after.matches(table, value(rule.after, index)?, row.glyphs[end].glyph) {
            return None;
        }
    }
    row.tie(first, end);
    let length = rule.input.1 + 1;
    Some(apply_records(
        with,
        row,
        rule,
        &mut places[..length],
        last + 1,
    ))
}

/// Applies the lookups of a rule to the glyphs that it has matched; returns what
/// comes after them.
fn apply_records(
    with: &Applied<'_>,
    row: &mut GlyphRow,
    rule: &Rule,
    places: &mut [usize],
    mut end: usize,
) -> usize {
    let (records, count) = rule.records;
    for record in 0..count {
        let at = records + record * 4;
        let (Some(index), Some(lookup)) = (word(with.table, at), word(with.table, at + 2)) else {
            break;
        };
        let Some(place) = places.get(usize::from(index)).copied() else {
            continue;
        };
        if place >= row.glyphs.len() || with.depth >= DEEPEST || !row.step() {
            break;
        }
        let length = row.glyphs.len();
        nested(with, row, place, lookup);
        // A part that has grown or shrunk moves all after it.
        let change = row.glyphs.len() as isize - length as isize;
        if change != 0 {
            let moved = |at: usize| at.saturating_add_signed(change).max(place + 1);
            for other in places.iter_mut().filter(|other| **other > place) {
                *other = moved(*other);
            }
            end = moved(end);
        }
    }
    end.min(row.glyphs.len())
}

/// Applies another lookup at one glyph.
fn nested(with: &Applied<'_>, row: &mut GlyphRow, at: usize, index: u16) {
    let Some(lookup) = with.lookups.get(with.table, with.kind, index) else {
        return;
    };
    let with = Applied {
        lookup,
        mask: 0,
        depth: with.depth + 1,
        ..*with
    };
    if with.begins_at(&row.glyphs[at]) {
        (with.apply)(&with, row, at);
    }
}
