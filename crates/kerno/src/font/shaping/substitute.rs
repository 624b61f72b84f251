//! `GSUB`: other glyphs.

use super::context;
use super::coverage::{covered, covered_glyphs};
use super::lookup::{Applied, Lookup};
use super::row::{GlyphRow, RowGlyph, class};
use crate::font::GlyphId;
use crate::font::table::word;

/// The longest ligature that is matched.
const LONGEST: usize = 64;

/// Applies a lookup at a glyph that it may begin with; returns where to go on.
pub(super) fn apply(with: &Applied<'_>, row: &mut GlyphRow, at: usize) -> Option<usize> {
    if with.lookup.kind == 4 && !may_join(with, row, at) {
        return None;
    }
    with.first_that(row, at, |row, own| match with.lookup.kind {
        1 => single(with, row, at, own.at),
        2 => multiple(with, row, at, own.at),
        3 => alternate(with, row, at, own.at),
        4 => ligature(with, row, at, own.at),
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

/// True if a ligature may begin with two glyphs: what is kept of a pair.
const NONE_BEGINS: u32 = 1;
const SOME_BEGINS: u32 = 2;

/// Returns whether any ligature of a lookup begins with a glyph and the next one: for most
/// glyphs of most texts none does.
fn may_join(with: &Applied<'_>, row: &mut GlyphRow, at: usize) -> bool {
    let first = row.glyphs[at].glyph;
    let next = with.next(row, at, false).map(|next| row.glyphs[next].glyph);
    let mut find = || match begins(with.lookup, with.table, first, next, || row.step()) {
        true => SOME_BEGINS,
        false => NONE_BEGINS,
    };
    // The last glyph of a row is asked for alone.
    match next {
        Some(next) => with.lookup.pairs.get(first.0, next.0, find) == SOME_BEGINS,
        None => find() == SOME_BEGINS,
    }
}

/// Returns whether any ligature of a lookup begins with a glyph and the next one. Where there
/// are more than `step` allows, so that they are to be tried.
pub(super) fn begins(
    lookup: &Lookup,
    table: &[u8],
    first: GlyphId,
    next: Option<GlyphId>,
    mut step: impl FnMut() -> bool,
) -> bool {
    lookup.subtables.iter().any(|own| {
        let mut ligatures = ligatures(table, own.at, first).into_iter().flatten();
        ligatures.any(|ligature| match word(table, ligature + 2) {
            _ if !step() => true,
            Some(1) => true,
            Some(_) => word(table, ligature + 4) == next.map(|next| next.0),
            None => false,
        }) || !step()
    })
}

/// Returns whether any ligature of a lookup has a glyph behind its first one. Where there are
/// more than `step` allows it is taken to have one.
pub(super) fn has_component(
    lookup: &Lookup,
    table: &[u8],
    glyph: GlyphId,
    mut step: impl FnMut() -> bool,
) -> bool {
    lookup.subtables.iter().any(|own| {
        let coverage = word(table, own.at + 2).map(|offset| own.at + usize::from(offset));
        let coverage = coverage.and_then(|at| table.get(at..)).unwrap_or_default();
        covered_glyphs(coverage).into_iter().any(|first| {
            let mut ligatures = ligatures(table, own.at, first).into_iter().flatten();
            ligatures.any(|ligature| {
                let count = usize::from(word(table, ligature + 2).unwrap_or(0));
                let mut parts = (1..count).map(|part| word(table, ligature + 2 + part * 2));
                parts.any(|part| !step() || part == Some(glyph.0))
            }) || !step()
        })
    })
}

/// Where the ligatures are that a subtable has for a first glyph.
fn ligatures(table: &[u8], subtable: usize, first: GlyphId) -> Option<impl Iterator<Item = usize>> {
    let index = index_of(table, subtable, first)?;
    if index >= usize::from(word(table, subtable + 4)?) {
        return None;
    }
    let set = subtable + usize::from(word(table, subtable + 6 + index * 2)?);
    let ligature = move |index: usize| {
        let offset = word(table, set + 2 + index * 2)?;
        Some(set + usize::from(offset))
    };
    Some((0..usize::from(word(table, set)?)).map_while(ligature))
}

/// “Lookup Type 4: Ligature Substitution”.
fn ligature(with: &Applied<'_>, row: &mut GlyphRow, at: usize, subtable: usize) -> Option<usize> {
    let table = with.table;
    for ligature in ligatures(table, subtable, row.glyphs[at].glyph)? {
        if !row.step() {
            return None;
        }
        let count = usize::from(word(table, ligature + 2)?);
        let mut places = [at; LONGEST];
        if count == 0 || count > LONGEST {
            continue;
        }
        let is_matched = (1..count).all(|part| {
            let next = with.next(row, places[part - 1], false);
            let wanted = word(table, ligature + 2 + part * 2);
            let matches = |place: &usize| {
                let glyph = &row.glyphs[*place];
                wanted == Some(glyph.glyph.0) && (with.mask == 0 || glyph.mask & with.mask != 0)
            };
            next.filter(matches)
                .map(|next| places[part] = next)
                .is_some()
        });
        if is_matched {
            let new = word(table, ligature)?;
            return Some(join(with, row, &places[..count], new));
        }
    }
    None
}

/// Makes one glyph of several; marks between and behind them remember which part
/// they stand on. Returns where to go on.
fn join(with: &Applied<'_>, row: &mut GlyphRow, places: &[usize], new: u16) -> usize {
    let (first, last) = (places[0], places[places.len() - 1]);
    let are_marks = places.iter().all(|place| row.glyphs[*place].is_mark());
    let is_on_base = row.glyphs[first].class == class::BASE
        && places[1..].iter().all(|place| row.glyphs[*place].is_mark());
    row.tie(first, last);
    if !are_marks && !is_on_base {
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
        // What the last part was a ligature of, for the marks behind it.
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
            if at > last && !(glyph.is_mark() && glyph.ligature != 0 && glyph.ligature == before.0)
            {
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
