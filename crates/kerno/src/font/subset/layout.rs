//! `GSUB` and `GPOS` with the lookups that touch what stays.
//!
//! Lookups keep their numbers, so that scripts and features stay as they are; one that
//! touches nothing has no subtables. A table with a lookup of another kind that does touch
//! something is kept whole.

use super::Kept;
use super::pairs::pairs;
use super::subtable::{Subtable, value, value_size};
use super::writer::{Writer, coverage};
use crate::font::table::{long, word};

/// Returns whether a `GPOS` has the feature that kerns.
pub(super) fn kerns(table: &[u8]) -> bool {
    let find = || {
        let features = usize::from(word(table, 6)?);
        let count = usize::from(word(table, features)?);
        let tag = u32::from_be_bytes(*b"kern");
        Some((0..count).any(|index| long(table, features + 2 + index * 6) == Some(tag)))
    };
    find().unwrap_or(false)
}

/// A subtable as rewritten: nothing where it touches nothing that stays.
type Made = Option<Option<Vec<u8>>>;

pub(super) fn substitutions(table: &[u8], kept: &Kept) -> Option<Vec<u8>> {
    rebuilt(table, 7, |subtable| substitution(subtable, kept))
}

pub(super) fn positions(table: &[u8], kept: &Kept) -> Option<Vec<u8>> {
    rebuilt(table, 9, |subtable| position(subtable, kept))
}

/// Makes all lookups anew; none where one can't be.
fn rebuilt(table: &[u8], extension: u16, make: impl Fn(&Subtable<'_>) -> Made) -> Option<Vec<u8>> {
    let [scripts, features, list] = [4, 6, 8].map(|at| word(table, at).map(usize::from));
    let list = list?;
    // The bytes before the lookups stay in their place.
    let is_behind = word(table, 2)? >= 1 && long(table, 10)? as usize > list;
    if scripts? > list || features? > list || is_behind {
        return None;
    }
    let mut lookups = Writer::default();
    let count = usize::from(word(table, list)?);
    lookups.word(count as u16);
    for index in 0..count {
        let at = list + usize::from(word(table, list + 2 + index * 2)?);
        lookups.part(Some(lookup(table, at, extension, &make)?));
    }
    let mut made = table.get(..list)?.to_vec();
    made.extend(lookups.finish()?);
    Some(made)
}

fn lookup(
    table: &[u8],
    at: usize,
    extension: u16,
    make: &impl Fn(&Subtable<'_>) -> Made,
) -> Option<Vec<u8>> {
    let (mut kind, flag) = (word(table, at)?, word(table, at + 2)?);
    let count = usize::from(word(table, at + 4)?);
    let mut subtables = Vec::new();
    let is_extension = kind == extension;
    for index in 0..count {
        let mut place = at + usize::from(word(table, at + 6 + index * 2)?);
        if is_extension {
            kind = word(table, place + 2)?;
            place += long(table, place + 4)? as usize;
        }
        let subtable = Subtable {
            table: table.get(place..)?,
            kind,
        };
        subtables.extend(make(&subtable)?);
    }
    let mut made = Writer::default();
    made.words([kind, flag, subtables.len() as u16]);
    let set = word(table, at + 6 + count * 2);
    subtables
        .into_iter()
        .for_each(|subtable| made.part(Some(subtable)));
    if flag & 0x10 != 0 {
        made.word(set?);
    }
    made.finish()
}

/// `GSUB`, types 1 to 4; other kinds only where they touch nothing.
fn substitution(own: &Subtable<'_>, kept: &Kept) -> Made {
    let table = own.table;
    if own.kind > 4 {
        return context_touches(own, kept)
            .filter(|touches| !touches)
            .map(|_| None);
    }
    let format = word(table, 0)?;
    let mut entries: Vec<(u16, Entry)> = Vec::new();
    for (index, glyph) in own.covered(2, kept)? {
        let part = || own.part(6 + index * 2);
        let entry = match (own.kind, format) {
            (1, 1) => Entry::Glyph(glyph.wrapping_add(word(table, 4)?)),
            (1, 2) => Entry::Glyph(word(table, 6 + index * 2)?),
            (2 | 3, _) => Entry::Part(glyph_list(part()?, own.kind == 2, kept)?),
            (4, _) => Entry::Part(ligature_set(part()?, kept)?),
            _ => return None,
        };
        let stays = match &entry {
            Entry::Glyph(made) => kept.has(*made),
            Entry::Part(part) => part.is_some(),
        };
        if stays {
            entries.push((glyph, entry));
        }
    }
    if entries.is_empty() {
        return Some(None);
    }
    let glyphs: Vec<u16> = entries.iter().map(|(glyph, _)| *glyph).collect();
    let mut made = Writer::default();
    made.word(if own.kind == 1 { 2 } else { 1 });
    made.part(Some(coverage(&glyphs)));
    made.word(glyphs.len() as u16);
    for (_, entry) in entries {
        match entry {
            Entry::Glyph(glyph) => made.word(glyph),
            Entry::Part(part) => made.part(part),
        }
    }
    made.finish().map(Some)
}

/// The glyphs put in the place of one.
enum Entry {
    Glyph(u16),
    Part(Option<Vec<u8>>),
}

/// The glyphs that one is taken apart into, of which all have to stay, or its alternates.
/// The number of an alternate counts, so they stay or go together as well.
fn glyph_list(list: &[u8], may_be_empty: bool, kept: &Kept) -> Option<Option<Vec<u8>>> {
    let count = usize::from(word(list, 0)?);
    let glyphs = list.get(..2 + count * 2)?;
    let all_stay = (0..count).all(|index| word(list, 2 + index * 2).is_some_and(|g| kept.has(g)));
    Some((all_stay && (count > 0 || may_be_empty)).then(|| glyphs.to_vec()))
}

fn ligature_set(set: &[u8], kept: &Kept) -> Option<Option<Vec<u8>>> {
    let mut ligatures = Vec::new();
    for index in 0..usize::from(word(set, 0)?) {
        let ligature = set.get(usize::from(word(set, 2 + index * 2)?)..)?;
        let parts = usize::from(word(ligature, 2)?).max(1);
        let whole = ligature.get(..4 + (parts - 1) * 2)?;
        let glyphs = (2..=parts)
            .map(|part| word(ligature, part * 2))
            .chain([word(ligature, 0)]);
        if glyphs
            .into_iter()
            .all(|glyph| glyph.is_some_and(|glyph| kept.has(glyph)))
        {
            ligatures.push(whole.to_vec());
        }
    }
    if ligatures.is_empty() {
        return Some(None);
    }
    let mut made = Writer::default();
    made.word(ligatures.len() as u16);
    ligatures
        .into_iter()
        .for_each(|ligature| made.part(Some(ligature)));
    made.finish().map(Some)
}

/// Returns whether a context may begin with a glyph that stays.
fn context_touches(own: &Subtable<'_>, kept: &Kept) -> Option<bool> {
    let table = own.table;
    let at = match (own.kind, word(table, 0)?) {
        // Sequence contexts of format 3 begin with counts; chained ones with what is before.
        (5 | 7, 3) => 6,
        (6 | 8, 3) if own.kind == 6 || word(table, 0)? == 3 => {
            4 + usize::from(word(table, 2)?) * 2 + 2
        }
        _ => 2,
    };
    Some(!own.covered(at, kept)?.is_empty())
}

/// `GPOS`, types 1 to 6; other kinds only where they touch nothing.
fn position(own: &Subtable<'_>, kept: &Kept) -> Made {
    match own.kind {
        1 => single(own, kept),
        2 => pairs(own, kept),
        3 => cursive(own, kept),
        4..=6 => marks(own, kept),
        7 | 8 => context_touches(own, kept)
            .filter(|touches| !touches)
            .map(|_| None),
        _ => None,
    }
}

fn single(own: &Subtable<'_>, kept: &Kept) -> Made {
    let (table, format) = (own.table, word(own.table, 4)?);
    let covered = own.covered(2, kept)?;
    if covered.is_empty() {
        return Some(None);
    }
    let glyphs: Vec<u16> = covered.iter().map(|(_, glyph)| *glyph).collect();
    let mut made = Writer::default();
    made.word(2);
    made.part(Some(coverage(&glyphs)));
    made.words([format & 0xf, glyphs.len() as u16]);
    for (index, _) in covered {
        let at = match word(table, 0)? {
            1 => 6,
            _ => 8 + index * value_size(format),
        };
        made.bytes.extend_from_slice(value(table, at, format)?);
    }
    made.finish().map(Some)
}

/// An anchor without tables for devices and points of hinting (format 1); none at 0.
fn anchor(table: &[u8], at: usize) -> Option<Option<Vec<u8>>> {
    let offset = usize::from(word(table, at)?);
    if offset == 0 {
        return Some(None);
    }
    let (x, y) = (word(table, offset + 2)?, word(table, offset + 4)?);
    let mut made = Writer::default();
    made.words([1, x, y]);
    Some(Some(made.bytes))
}

fn cursive(own: &Subtable<'_>, kept: &Kept) -> Made {
    let covered = own.covered(2, kept)?;
    if covered.is_empty() {
        return Some(None);
    }
    let glyphs: Vec<u16> = covered.iter().map(|(_, glyph)| *glyph).collect();
    let mut made = Writer::default();
    made.word(1);
    made.part(Some(coverage(&glyphs)));
    made.word(glyphs.len() as u16);
    for (index, _) in covered {
        made.part(anchor(own.table, 6 + index * 4)?);
        made.part(anchor(own.table, 8 + index * 4)?);
    }
    made.finish().map(Some)
}

/// Marks on bases, ligatures and marks.
fn marks(own: &Subtable<'_>, kept: &Kept) -> Made {
    let (marks, bases) = (own.covered(2, kept)?, own.covered(4, kept)?);
    if marks.is_empty() || bases.is_empty() {
        return Some(None);
    }
    let classes = word(own.table, 6)?;
    let numbers = |list: &[(usize, u16)]| list.iter().map(|(_, glyph)| *glyph).collect::<Vec<_>>();
    let mut mark_array = Writer::default();
    mark_array.word(marks.len() as u16);
    let array = own.part(8)?;
    for (index, _) in &marks {
        mark_array.word(word(array, 2 + index * 4)?);
        mark_array.part(anchor(array, 4 + index * 4)?);
    }
    let matrix = |array: &[u8], rows: &mut dyn Iterator<Item = usize>, into: &mut Writer| {
        for row in rows {
            for class in 0..usize::from(classes) {
                into.part(anchor(array, 2 + (row * usize::from(classes) + class) * 2)?);
            }
        }
        Some(())
    };
    let array = own.part(10)?;
    let mut base_array = Writer::default();
    base_array.word(bases.len() as u16);
    if own.kind == 5 {
        for (index, _) in &bases {
            let ligature = array.get(usize::from(word(array, 2 + index * 2)?)..)?;
            let parts = word(ligature, 0)?;
            let mut made = Writer::default();
            made.word(parts);
            matrix(ligature, &mut (0..parts.into()), &mut made)?;
            base_array.part(Some(made.finish()?));
        }
    } else {
        matrix(
            array,
            &mut bases.iter().map(|(index, _)| *index),
            &mut base_array,
        )?;
    }
    let mut made = Writer::default();
    made.word(1);
    made.part(Some(coverage(&numbers(&marks))));
    made.part(Some(coverage(&numbers(&bases))));
    made.word(classes);
    made.part(Some(mark_array.finish()?));
    made.part(Some(base_array.finish()?));
    made.finish().map(Some)
}
