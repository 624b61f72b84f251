//! `GSUB`: other glyphs.

use super::context;
use super::coverage::covered;
use super::lookup::{Applied, Lookup};
use super::row::{GlyphRow, RowGlyph, class};
use crate::font::GlyphId;
use crate::font::table::word;

/// The longest ligature that is matched.
const LONGEST: usize = 64;

/// Applies a lookup at a glyph that it may begin with; returns where to go on.
pub(super) fn apply(with: &Applied<'_>, row: &mut GlyphRow, at: usize) -> Option<usize> {
    let mut first_ligature = 0;
    if with.lookup.kind == 4 {
        first_ligature = first_that_begins(with, row, at)?;
    }
    with.first_that(row, at, |row, own| match with.lookup.kind {
        1 => single(with, row, at, own.at),
        2 => multiple(with, row, at, own.at),
        3 => alternate(with, row, at, own.at),
        4 => {
            // It is the number of one of the first subtable.
            let from = std::mem::take(&mut first_ligature);
            ligature(with, row, at, (own.at, from))
        }
        5 => context::apply(with, row, at, own.at, false),
        6 => context::apply(with, row, at, own.at, true),
        8 => reverse(with, row, at, own.at),
        _ => None,
    })
}

/// Puts another glyph in the place of one.
fn put(with: &Applied<'_>, glyph: &mut RowGlyph, new: u16) {
    glyph.glyph = GlyphId(new);
    glyph.touched = u64::MAX;
    classify(with, glyph);
}

fn classify(with: &Applied<'_>, glyph: &mut RowGlyph) {
    if with.definitions.has_classes() {
        let classes = with.classes.get(with.definitions, with.font, glyph.glyph);
        (glyph.class, glyph.mark_class) = classes;
    }
}

/// The number of a glyph in the coverage of a subtable.
fn index_of(table: &[u8], subtable: usize, glyph: GlyphId) -> Option<usize> {
    let coverage = subtable + usize::from(word(table, subtable + 2)?);
    covered(table.get(coverage..)?, glyph)
}

/// OpenType `GSUB`, “Lookup Type 1: Single Substitution”.
fn single(with: &Applied<'_>, row: &mut GlyphRow, at: usize, subtable: usize) -> Option<usize> {
    let glyph = row.glyphs[at].glyph;
    let index = index_of(with.table, subtable, glyph)?;
    let new = match word(with.table, subtable)? {
        1 => glyph.0.wrapping_add(word(with.table, subtable + 4)?),
        2 if index < usize::from(word(with.table, subtable + 4)?) => {
            word(with.table, subtable + 6 + index * 2)?
        }
        _ => return None,
    };
    put(with, &mut row.glyphs[at], new);
    Some(at + 1)
}

/// “Lookup Type 2: Multiple Substitution”.
fn multiple(with: &Applied<'_>, row: &mut GlyphRow, at: usize, subtable: usize) -> Option<usize> {
    let table = with.table;
    let index = index_of(with.table, subtable, row.glyphs[at].glyph)?;
    if index >= usize::from(word(table, subtable + 4)?) {
        return None;
    }
    let sequence = subtable + usize::from(word(table, subtable + 6 + index * 2)?);
    let count = usize::from(word(table, sequence)?);
    let glyph_at = |index: usize| word(table, sequence + 2 + index * 2);
    let Some(last) = count.checked_sub(1) else {
        row.glyphs.remove(at);
        return Some(at);
    };
    glyph_at(last)?;
    if count > 1 && !row.may_grow(count - 1) {
        return None;
    }
    let old = row.glyphs[at];
    put(with, &mut row.glyphs[at], glyph_at(0)?);
    let more: Vec<RowGlyph> = (1..count)
        .filter_map(|index| {
            let mut new = old;
            put(with, &mut new, glyph_at(index)?);
            new.is_tied = true;
            if old.ligature == 0 {
                new.part = u8::try_from(index).unwrap_or(u8::MAX);
            }
            // The parts of a ligature that is taken apart are no ligatures.
            if new.class == class::LIGATURE {
                new.class = class::BASE;
            }
            Some(new)
        })
        .collect();
    let end = at + 1 + more.len();
    row.glyphs.splice(at + 1..at + 1, more);
    Some(end)
}

/// “Lookup Type 3: Alternate Substitution”: the value of the feature says which.
fn alternate(with: &Applied<'_>, row: &mut GlyphRow, at: usize, subtable: usize) -> Option<usize> {
    let index = index_of(with.table, subtable, row.glyphs[at].glyph)?;
    if index >= usize::from(word(with.table, subtable + 4)?) {
        return None;
    }
    let set = subtable + usize::from(word(with.table, subtable + 6 + index * 2)?);
    let which = with.value.checked_sub(1)?;
    if which >= word(with.table, set)? {
        return None;
    }
    let new = word(with.table, set + 2 + usize::from(which) * 2)?;
    put(with, &mut row.glyphs[at], new);
    Some(at + 1)
}

/// The kept value of a pair with which no ligature begins; from [`SOME_BEGIN`] on the number
/// of the first one that does.
const NONE_BEGINS: u32 = 1;
const SOME_BEGIN: u32 = 2;

/// The number of the first ligature of a lookup that begins with a glyph and the next one:
/// for most glyphs of most texts there is none.
fn first_that_begins(with: &Applied<'_>, row: &mut GlyphRow, at: usize) -> Option<usize> {
    let first = row.glyphs[at].glyph;
    if with.joiner_after(row, at).is_some() {
        return Some(0);
    }
    let next = with.next(row, at, false).map(|next| row.glyphs[next].glyph);
    let mut find = || {
        let begins = begins(with.lookup, with.table, first, next, || row.step());
        begins.map_or(NONE_BEGINS, |number| SOME_BEGIN + number as u32)
    };
    // The last glyph of a row is asked for alone.
    let known = match next {
        Some(next) => with.lookup.pairs.get(first.0, next.0, find),
        None => find(),
    };
    known.checked_sub(SOME_BEGIN).map(|number| number as usize)
}

/// The number of the first ligature of a lookup that begins with a glyph and the next one,
/// in the first subtable; 0 where it is in another one, or where there are more than `step`
/// allows, so that they are to be tried.
pub(super) fn begins(
    lookup: &Lookup,
    table: &[u8],
    first: GlyphId,
    next: Option<GlyphId>,
    mut step: impl FnMut() -> bool,
) -> Option<usize> {
    for (subtable, own) in lookup.subtables.iter().enumerate() {
        let mut ligatures = ligatures(table, own.at, first, 0).into_iter().flatten();
        let number = ligatures.position(|ligature| match word(table, ligature + 2) {
            _ if !step() => true,
            Some(1) => true,
            Some(_) => word(table, ligature + 4) == next.map(|next| next.0),
            None => false,
        });
        if !step() {
            return Some(0);
        }
        if let Some(number) = number {
            return Some(if subtable == 0 { number } else { 0 });
        }
    }
    None
}

/// The places of the ligatures that a subtable has for a first glyph, from a number on.
fn ligatures(
    table: &[u8],
    subtable: usize,
    first: GlyphId,
    from: usize,
) -> Option<impl Iterator<Item = usize>> {
    let index = index_of(table, subtable, first)?;
    if index >= usize::from(word(table, subtable + 4)?) {
        return None;
    }
    let set = subtable + usize::from(word(table, subtable + 6 + index * 2)?);
    let ligature = move |index: usize| {
        let offset = word(table, set + 2 + index * 2)?;
        Some(set + usize::from(offset))
    };
    Some((from..usize::from(word(table, set)?)).map_while(ligature))
}

/// “Lookup Type 4: Ligature Substitution”; the ligatures before number `from` are known not
/// to match.
fn ligature(
    with: &Applied<'_>,
    row: &mut GlyphRow,
    at: usize,
    (subtable, from): (usize, usize),
) -> Option<usize> {
    let table = with.table;
    let second = with.next(row, at, false);
    let second = second.map(|second| row.glyphs[second].glyph.0);
    let joiner = with.joiner_after(row, at);
    let joiner = joiner.map(|joiner| row.glyphs[joiner].glyph.0);
    let mut places = [at; LONGEST];
    for ligature in ligatures(table, subtable, row.glyphs[at].glyph, from)? {
        if !row.step() {
            return None;
        }
        let count = usize::from(word(table, ligature + 2)?);
        // Most begin with others than the two that are here.
        let named = word(table, ligature + 4);
        let begins = count < 2 || named == second || (joiner.is_some() && named == joiner);
        if count == 0 || count > LONGEST || !begins {
            continue;
        }
        let is_matched = (1..count).all(|part| {
            let joiner = with.joiner_after(row, places[part - 1]);
            let wanted = word(table, ligature + 2 + part * 2);
            let matches = |place: &usize| {
                let glyph = &row.glyphs[*place];
                wanted == Some(glyph.glyph.0) && (with.mask == 0 || glyph.mask & with.mask != 0)
            };
            let next = joiner.filter(matches).or_else(|| {
                let next = with.next(row, places[part - 1], false);
                next.filter(matches)
            });
            next.map(|next| places[part] = next).is_some()
        });
        if is_matched {
            let new = word(table, ligature)?;
            return Some(join(with, row, &places[..count], new));
        }
    }
    None
}

/// Makes one glyph of several; marks between and after them remember which part
/// they stand on. Returns where to go on.
fn join(with: &Applied<'_>, row: &mut GlyphRow, places: &[usize], new: u16) -> usize {
    let (first, last) = (places[0], places[places.len() - 1]);
    let are_marks = places.iter().all(|place| row.glyphs[*place].is_mark());
    let is_on_base = row.glyphs[first].class == class::BASE
        && places[1..].iter().all(|place| row.glyphs[*place].is_mark());
    row.tie(first, last);
    if !are_marks && !is_on_base {
        tie_marks(row, places);
    }
    put(with, &mut row.glyphs[first], new);
    let glyph = &mut row.glyphs[first];
    if !with.definitions.has_classes() && !are_marks {
        glyph.class = class::LIGATURE;
    }
    glyph.is_ligated = true;
    // All that lies between belongs to the cluster of the whole.
    let cluster = glyph.cluster;
    let ends = row.glyphs[first..=last]
        .iter()
        .map(|glyph| glyph.last_cluster);
    let last_cluster = ends.max().unwrap_or(cluster);
    for glyph in &mut row.glyphs[first..=last] {
        glyph.cluster = cluster;
    }
    row.glyphs[first].last_cluster = last_cluster;
    for place in places[1..].iter().rev() {
        row.glyphs.remove(*place);
    }
    last + 1 - (places.len() - 1)
}

/// Makes the first of some glyphs a ligature of all, and tells the marks between and after
/// them which part of it they stand on.
fn tie_marks(row: &mut GlyphRow, places: &[usize]) {
    let (first, last) = (places[0], places[places.len() - 1]);
    row.ligatures = row.ligatures.wrapping_add(1).max(1);
    let number = row.ligatures;
    let parts = |glyph: &RowGlyph| {
        if glyph.class == class::LIGATURE {
            glyph.component.max(1)
        } else {
            1
        }
    };
    let (mut component, mut part) = (0_u8, 0);
    // The parts that the last glyph was a ligature of, for the marks after it.
    let mut before = (0, 0_u8);
    for at in first..row.glyphs.len() {
        if places.get(part) == Some(&at) {
            let glyph = &row.glyphs[at];
            before = (glyph.ligature, component);
            component = component.saturating_add(parts(glyph));
            part += 1;
            continue;
        }
        let glyph = &mut row.glyphs[at];
        if at > last && !(glyph.is_mark() && glyph.ligature != 0 && glyph.ligature == before.0) {
            break;
        }
        if glyph.is_mark() {
            glyph.component = if glyph.ligature != 0 && glyph.ligature == before.0 {
                before.1.saturating_add(glyph.component)
            } else {
                component
            };
            glyph.ligature = number;
        }
    }
    let glyph = &mut row.glyphs[first];
    glyph.ligature = number;
    glyph.component = component;
    glyph.class = class::LIGATURE;
}

/// “Lookup Type 8: Reverse Chaining Contextual Single Substitution”.
fn reverse(with: &Applied<'_>, row: &mut GlyphRow, at: usize, subtable: usize) -> Option<usize> {
    let table = with.table;
    let index = index_of(with.table, subtable, row.glyphs[at].glyph)?;
    let matches = |place: usize, glyph: GlyphId| {
        let coverage = subtable + usize::from(word(table, place)?);
        covered(table.get(coverage..)?, glyph)
    };
    let (before, count) = (subtable + 6, usize::from(word(table, subtable + 4)?));
    let mut first = at;
    for index in 0..count {
        first = with.previous(row, first, true)?;
        matches(before + index * 2, row.glyphs[first].glyph)?;
    }
    let after = before + count * 2;
    let count = usize::from(word(table, after)?);
    let mut end = at;
    for index in 0..count {
        end = with.next(row, end, true)?;
        matches(after + 2 + index * 2, row.glyphs[end].glyph)?;
    }
    let substitutes = after + 2 + count * 2;
    if index >= usize::from(word(table, substitutes)?) {
        return None;
    }
    let new = word(table, substitutes + 2 + index * 2)?;
    row.tie(first, end);
    put(with, &mut row.glyphs[at], new);
    Some(at + 1)
}
