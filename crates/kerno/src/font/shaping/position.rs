//! `GPOS`: where glyphs stand.

use super::context;
use super::coverage::{class_of, covered, find_glyph};
use super::lookup::{Applied, Lookup, Subtable, flag};
use super::row::{Attachment, GlyphRow, RowGlyph, class};
use super::value::{Value, Varied, grown, value_size};
use crate::font::GlyphId;
use crate::font::table::word;

/// Applies a lookup at a glyph that it may begin with; returns where to go on.
pub(super) fn apply(with: &Applied<'_>, row: &mut GlyphRow, at: usize) -> Option<usize> {
    with.first_that(row, at, |row, own| match with.lookup.kind {
        1 => single(with, row, at, own.at),
        2 => pair(with, row, at, own),
        3 => cursive(with, row, at, own.at),
        4 => mark_to_base(with, row, at, own.at),
        5 => mark_to_ligature(with, row, at, own.at),
        6 => mark_to_mark(with, row, at, own.at),
        7 => context::apply(with, row, at, own.at, false),
        8 => context::apply(with, row, at, own.at, true),
        _ => None,
    })
}

/// The number of a glyph in the coverage that a subtable has at `place`.
fn index_of(table: &[u8], subtable: usize, place: usize, glyph: GlyphId) -> Option<usize> {
    let coverage = subtable + usize::from(word(table, subtable + place)?);
    covered(table.get(coverage..)?, glyph)
}

/// “Lookup Type 1: Single Adjustment Positioning”.
fn single(with: &Applied<'_>, row: &mut GlyphRow, at: usize, subtable: usize) -> Option<usize> {
    let table = with.table;
    let index = index_of(with.table, subtable, 2, row.glyphs[at].glyph)?;
    let format = word(table, subtable + 4)?;
    let value = match word(table, subtable)? {
        1 => subtable + 6,
        2 if index < usize::from(word(table, subtable + 6)?) => {
            subtable + 8 + index * value_size(format)
        }
        _ => return None,
    };
    let value = Value::read(table, subtable, value, format, with.varied())?;
    value.add_to(&mut row.glyphs[at]);
    Some(at + 1)
}

/// The record of one pair in a subtable of pairs: where its values are in the subtable, what
/// their tables for devices count from, and the formats of the first and the second.
struct PairValues {
    at: usize,
    base: usize,
    formats: [u16; 2],
}

impl PairValues {
    /// Finds the values of a pair whose first glyph the subtable covers (OpenType
    /// `GPOS`, “Lookup Type 2: Pair Adjustment Positioning”).
    fn find(subtable: &[u8], left: GlyphId, right: GlyphId) -> Option<Self> {
        let formats = [word(subtable, 4)?, word(subtable, 6)?];
        let size = value_size(formats[0]) + value_size(formats[1]);
        let (base, at) = match word(subtable, 0)? {
            1 => {
                let coverage = subtable.get(usize::from(word(subtable, 2)?)..)?;
                let covered = covered(coverage, left)?;
                let place = usize::from(word(subtable, 10 + covered * 2)?);
                let set = subtable.get(place..)?;
                let count = usize::from(word(set, 0)?);
                (
                    place,
                    place + find_glyph(set, 2, count, 2 + size, right)? + 2,
                )
            }
            2 => {
                let class_in = |place: usize, glyph| {
                    let classes = subtable.get(usize::from(word(subtable, place)?)..)?;
                    Some(usize::from(class_of(classes, glyph)))
                };
                let (row, column) = (class_in(8, left)?, class_in(10, right)?);
                let rows = usize::from(word(subtable, 12)?);
                let columns = usize::from(word(subtable, 14)?);
                if row >= rows || column >= columns {
                    return None;
                }
                (0, 16 + (row * columns + column) * size)
            }
            _ => return None,
        };
        Some(Self { at, base, formats })
    }

    /// The values of both glyphs.
    fn read(&self, subtable: &[u8], varied: Varied<'_>) -> Option<[Value; 2]> {
        let [first, second] = self.formats;
        let after = self.at + value_size(first);
        Some([
            Value::read(subtable, self.base, self.at, first, varied)?,
            Value::read(subtable, self.base, after, second, varied)?,
        ])
    }
}

/// The kept value of a pair that no subtable knows; ...
const NO_PAIR: u32 = 1;
/// ... that it changes the advance of its first glyph by the number in the lower half
/// and nothing else, ...
const ADVANCE: u32 = 2 << 16;
/// ... that it does more.
const MORE: u32 = 3 << 16;

/// Applies a lookup of pairs wherever it may begin in a row. Nearly all of them move the
/// second glyph or do nothing, and were asked for before.
pub(super) fn apply_pairs(
    with: &Applied<'_>,
    row: &mut GlyphRow,
    may_begin: impl Fn(&RowGlyph) -> bool,
) {
    let is_plain = with.lookup.flag == 0;
    let mut at = 0;
    while at + 1 < row.glyphs.len() && row.steps > 0 {
        if !may_begin(&row.glyphs[at]) {
            at += 1;
            continue;
        }
        let other = match row.glyphs.get(at + 1) {
            Some(next) if is_plain && !next.may_join() => at + 1,
            _ => match with.next(row, at, false) {
                Some(other) => other,
                None => return,
            },
        };
        let (left, right) = (row.glyphs[at].glyph, row.glyphs[other].glyph);
        let find = || {
            row.steps = row.steps.saturating_sub(with.lookup.subtables.len());
            kept(with.lookup, with.table, with.varied(), left, right)
        };
        let known = with.lookup.pairs.get(left.0, right.0, find);
        at = match known & 0xffff_0000 {
            ADVANCE => {
                let units = i32::from(known as u16 as i16);
                row.glyphs[at].advance += units;
                if units != 0 {
                    row.tie(at, other);
                }
                other
            }
            MORE => apply(with, row, at).unwrap_or(at + 1),
            _ => at + 1,
        };
    }
}

/// The value to be kept of a pair, by the first subtable that knows it.
fn kept(lookup: &Lookup, table: &[u8], varied: Varied<'_>, left: GlyphId, right: GlyphId) -> u32 {
    let Some((value, moves_second)) = first_value(lookup, table, varied, left, right) else {
        return NO_PAIR;
    };
    let is_advance = (value.x, value.y) == (0, 0) && !moves_second;
    match i16::try_from(value.advance).ok().filter(|_| is_advance) {
        Some(units) => ADVANCE | u32::from(units as u16),
        None => MORE,
    }
}

/// The effect of a lookup on the first glyph of a pair, and whether it does anything to the
/// second, by the first subtable that knows them.
fn first_value(
    lookup: &Lookup,
    table: &[u8],
    varied: Varied<'_>,
    left: GlyphId,
    right: GlyphId,
) -> Option<(Value, bool)> {
    let (own, found) = lookup.subtables.iter().find_map(|own| {
        let found = pair_values(table, own, left, right)?;
        Some((own, found))
    })?;
    let [value, _] = found.read(table.get(own.at..)?, varied)?;
    Some((value, found.formats[1] != 0))
}

/// The number that a lookup of pairs adds to the advance of the first of two neighbours, if it
/// does nothing else to them.
pub(super) fn sole_advance(
    lookup: &Lookup,
    table: &[u8],
    varied: Varied<'_>,
    left: GlyphId,
    right: GlyphId,
) -> Option<i32> {
    let known = kept(lookup, table, varied, left, right);
    match known & 0xffff_0000 {
        ADVANCE => Some(i32::from(known as u16 as i16)),
        MORE => None,
        _ => Some(0),
    }
}

/// The number that a lookup of pairs adds to the advance of the first of two neighbours.
pub(super) fn pair_advance(
    lookup: &Lookup,
    table: &[u8],
    varied: Varied<'_>,
    left: GlyphId,
    right: GlyphId,
) -> i32 {
    let find = || kept(lookup, table, varied, left, right);
    let known = lookup.pairs.get(left.0, right.0, find);
    match known & 0xffff_0000 {
        ADVANCE => i32::from(known as u16 as i16),
        MORE => {
            first_value(lookup, table, varied, left, right).map_or(0, |(value, _)| value.advance)
        }
        _ => 0,
    }
}

/// The values of a pair in a subtable.
fn pair_values(table: &[u8], own: &Subtable, left: GlyphId, right: GlyphId) -> Option<PairValues> {
    if !own.may_begin(left) {
        return None;
    }
    if !own.is_sure() {
        index_of(table, own.at, 2, left)?;
    }
    PairValues::find(table.get(own.at..)?, left, right)
}

/// “Lookup Type 2: Pair Adjustment Positioning”.
fn pair(with: &Applied<'_>, row: &mut GlyphRow, at: usize, own: &Subtable) -> Option<usize> {
    let (table, left) = (with.table, row.glyphs[at].glyph);
    let other = with.next(row, at, false)?;
    let found = pair_values(table, own, left, row.glyphs[other].glyph)?;
    let [first, second] = found.read(table.get(own.at..)?, with.varied())?;
    first.add_to(&mut row.glyphs[at]);
    second.add_to(&mut row.glyphs[other]);
    let moves_second = found.formats[1] != 0;
    if first != Value::default() || moves_second {
        row.tie(at, other);
    }
    Some(if moves_second { other + 1 } else { other })
}

/// A point of a glyph (OpenType, “Anchor Tables”), in font units.
fn anchor(with: &Applied<'_>, at: usize) -> Option<(i32, i32)> {
    let table = with.table;
    let is_varied = word(table, at)? == 3;
    let number = |place: usize, device: usize| {
        let number = i32::from(word(table, at + place)? as i16);
        let offset = word(table, at + device).filter(|_| is_varied).unwrap_or(0);
        Some(number + grown(table, at, offset, with.varied()))
    };
    Some((number(2, 6)?, number(4, 8)?))
}

/// The anchor after an offset from `from`; none where the offset is 0.
fn anchor_at(with: &Applied<'_>, from: usize, place: usize) -> Option<(i32, i32)> {
    match usize::from(word(with.table, place)?) {
        0 => None,
        offset => anchor(with, from + offset),
    }
}

/// “Lookup Type 3: Cursive Attachment Positioning”.
fn cursive(with: &Applied<'_>, row: &mut GlyphRow, at: usize, subtable: usize) -> Option<usize> {
    let table = with.table;
    // The entry of the next glyph, and the exit of this one.
    let record = |glyph: GlyphId, place: usize| {
        let index = index_of(with.table, subtable, 2, glyph)?;
        if index >= usize::from(word(table, subtable + 4)?) {
            return None;
        }
        anchor_at(with, subtable, subtable + 6 + index * 4 + place)
    };
    let exit = record(row.glyphs[at].glyph, 2)?;
    let next = with.next(row, at, false)?;
    let entry = record(row.glyphs[next].glyph, 0)?;
    row.tie(at, next);
    if with.is_rtl {
        let glyph = &mut row.glyphs[at];
        let shift = exit.0 + glyph.x;
        glyph.advance -= shift;
        glyph.x -= shift;
        let glyph = &mut row.glyphs[next];
        glyph.advance = entry.0 + glyph.x;
    } else {
        let glyph = &mut row.glyphs[at];
        glyph.advance = exit.0 + glyph.x;
        let glyph = &mut row.glyphs[next];
        let shift = entry.0 + glyph.x;
        glyph.advance -= shift;
        glyph.x -= shift;
    }
    let distance = (next - at) as i32;
    let (child, on, y) = if with.lookup.flag & flag::RIGHT_TO_LEFT != 0 {
        (at, distance, entry.1 - exit.1)
    } else {
        (next, -distance, exit.1 - entry.1)
    };
    // A glyph that already stands on this one does so no more: there are no circles.
    let parent = child.saturating_add_signed(on as isize);
    if let Some(Attachment::Cursive { on: other, .. }) = row.glyphs[parent].attachment
        && parent.saturating_add_signed(other as isize) == child
    {
        row.glyphs[parent].attachment = None;
    }
    row.glyphs[child].attachment = Some(Attachment::Cursive { on, y });
    Some(next)
}

/// Stands a mark on an earlier glyph.
fn attach(
    row: &mut GlyphRow,
    at: usize,
    base: usize,
    to: (i32, i32),
    by: (i32, i32),
) -> Option<usize> {
    row.tie(base, at);
    row.glyphs[at].attachment = Some(Attachment::Mark {
        back: (at - base) as u32,
        x: to.0 - by.0,
        y: to.1 - by.1,
    });
    Some(at + 1)
}

/// The class of a mark and the point that it is held by (“Mark Array Table”).
fn mark_record(with: &Applied<'_>, subtable: usize, index: usize) -> Option<(usize, (i32, i32))> {
    let table = with.table;
    let marks = subtable + usize::from(word(table, subtable + 8)?);
    if index >= usize::from(word(table, marks)?) {
        return None;
    }
    let class = usize::from(word(table, marks + 2 + index * 4)?);
    let held = anchor_at(with, marks, marks + 4 + index * 4)?;
    (class < usize::from(word(table, subtable + 6)?)).then_some((class, held))
}

/// The anchor of a class in a matrix of them (“Base Array” and its like).
fn in_matrix(
    with: &Applied<'_>,
    subtable: usize,
    matrix: usize,
    index: usize,
    class: usize,
) -> Option<(i32, i32)> {
    let classes = usize::from(word(with.table, subtable + 6)?);
    if index >= usize::from(word(with.table, matrix)?) {
        return None;
    }
    anchor_at(with, matrix, matrix + 2 + (index * classes + class) * 2)
}

/// “Lookup Type 4: Mark-to-Base Attachment Positioning”.
fn mark_to_base(
    with: &Applied<'_>,
    row: &mut GlyphRow,
    at: usize,
    subtable: usize,
) -> Option<usize> {
    let index = index_of(with.table, subtable, 2, row.glyphs[at].glyph)?;
    let (class, held) = mark_record(with, subtable, index)?;
    let base = first_part(row, base_before(row, at)?);
    let index = index_of(with.table, subtable, 4, row.glyphs[base].glyph)?;
    let bases = subtable + usize::from(word(with.table, subtable + 10)?);
    let to = in_matrix(with, subtable, bases, index, class)?;
    attach(row, at, base, to, held)
}

/// The nearest glyph before a mark that is none.
fn base_before(row: &GlyphRow, at: usize) -> Option<usize> {
    row.glyphs[..at]
        .iter()
        .rposition(|glyph| !glyph.is_mark() && !glyph.is_joiner() && !glyph.is_non_joiner())
}

/// Of glyphs that one was taken apart into, the first: marks after them stand on that one,
/// unless a mark stands between the parts.
fn first_part(row: &GlyphRow, mut base: usize) -> usize {
    while let Some([before, glyph]) = base.checked_sub(1).and_then(|at| row.glyphs.get(at..=base)) {
        let follows = glyph.part > 0 && before.part + 1 == glyph.part && !before.is_mark();
        if !follows || before.cluster != glyph.cluster {
            break;
        }
        base -= 1;
    }
    base
}

/// “Lookup Type 5: Mark-to-Ligature Attachment Positioning”.
fn mark_to_ligature(
    with: &Applied<'_>,
    row: &mut GlyphRow,
    at: usize,
    subtable: usize,
) -> Option<usize> {
    let table = with.table;
    let mark = row.glyphs[at];
    let index = index_of(with.table, subtable, 2, mark.glyph)?;
    let (class, held) = mark_record(with, subtable, index)?;
    let base = base_before(row, at)?;
    let index = index_of(with.table, subtable, 4, row.glyphs[base].glyph)?;
    let ligatures = subtable + usize::from(word(table, subtable + 10)?);
    if index >= usize::from(word(table, ligatures)?) {
        return None;
    }
    let matrix = ligatures + usize::from(word(table, ligatures + 2 + index * 2)?);
    let components = usize::from(word(table, matrix)?);
    let is_of_it = mark.ligature != 0 && mark.ligature == row.glyphs[base].ligature;
    let component = if is_of_it && mark.component > 0 {
        usize::from(mark.component).min(components)
    } else {
        components
    };
    let to = in_matrix(with, subtable, matrix, component.checked_sub(1)?, class)?;
    attach(row, at, base, to, held)
}

/// “Lookup Type 6: Mark-to-Mark Attachment Positioning”.
fn mark_to_mark(
    with: &Applied<'_>,
    row: &mut GlyphRow,
    at: usize,
    subtable: usize,
) -> Option<usize> {
    let mark = row.glyphs[at];
    let index = index_of(with.table, subtable, 2, mark.glyph)?;
    let (class, held) = mark_record(with, subtable, index)?;
    // The mark before, other kinds of marks passed over as the flags say.
    let base = with.previous(row, at, false)?;
    let other = row.glyphs[base];
    let is_same = mark.ligature == other.ligature
        && (mark.ligature == 0 || mark.component == other.component);
    let is_apart = mark.ligature != other.ligature
        && ((mark.ligature != 0 && mark.component == 0)
            || (other.ligature != 0 && other.component == 0));
    if other.class != class::MARK || !(is_same || is_apart) {
        return None;
    }
    let index = index_of(with.table, subtable, 4, other.glyph)?;
    let marks = subtable + usize::from(word(with.table, subtable + 10)?);
    let to = in_matrix(with, subtable, marks, index, class)?;
    attach(row, at, base, to, held)
}
