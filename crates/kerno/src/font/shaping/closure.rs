//! The glyphs that a text may turn into.

use std::collections::{BTreeSet, HashMap};

use super::context::{Criterion, applied_lookups};
use super::coverage::covered_glyphs;
use super::lookup::{Kind, Lookups};
use crate::font::table::{long, word};
use crate::font::{GlyphId, Tag};

/// Features that are on without being asked for, in any script.
pub(crate) const USUAL_FEATURES: [Tag; 16] = [
    Tag::new(b"ccmp"),
    Tag::new(b"rlig"),
    Tag::new(b"rclt"),
    Tag::new(b"calt"),
    Tag::new(b"clig"),
    Tag::new(b"liga"),
    Tag::new(b"isol"),
    Tag::new(b"fina"),
    Tag::new(b"medi"),
    Tag::new(b"init"),
    Tag::new(b"mset"),
    Tag::new(b"ljmo"),
    Tag::new(b"vjmo"),
    Tag::new(b"tjmo"),
    Tag::new(b"ltra"),
    Tag::new(b"rtla"),
];

/// Features of numbers around a fraction slash, on without being asked for where there is one.
pub(crate) const FRACTION_FEATURES: [Tag; 3] =
    [Tag::new(b"frac"), Tag::new(b"numr"), Tag::new(b"dnom")];

/// The most rounds in which added glyphs are looked through again.
const ROUNDS: usize = 16;

/// Steps of reading for each byte of the table, whatever it claims of itself, and at least.
const WORK_PER_BYTE: usize = 64;
const LEAST_WORK: usize = 1 << 20;

/// Adds the glyphs that some features of a `GSUB` may make of some.
pub(super) fn close(
    table: &[u8],
    lookups: &Lookups,
    features: &BTreeSet<Tag>,
    glyphs: &mut BTreeSet<GlyphId>,
) {
    let mut work = table.len().saturating_mul(WORK_PER_BYTE) + LEAST_WORK;
    let Some(mut used) = lookups_of(table, features, &mut work) else {
        return;
    };
    // What a context applies depends on the glyphs, and what there is of these on that.
    for _ in 0..ROUNDS {
        let before = (used.len(), glyphs.len());
        add_applied(table, lookups, &mut used, glyphs, &mut work);
        close_by(table, lookups, &used, glyphs, &mut work);
        if (used.len(), glyphs.len()) == before {
            break;
        }
    }
}

/// The features of a `GSUB`.
pub(super) fn features(table: &[u8]) -> BTreeSet<Tag> {
    let record = |index: usize| {
        let features = usize::from(word(table, 6)?);
        Some(Tag(long(table, features + 2 + index * 6)?.to_be_bytes()))
    };
    let list = word(table, 6).map_or(0, usize::from);
    let count = word(table, list).map_or(0, usize::from);
    (0..count).map_while(record).collect()
}

/// Adds the lookups that contexts apply to text of some glyphs.
fn add_applied(
    table: &[u8],
    lookups: &Lookups,
    used: &mut BTreeSet<u16>,
    glyphs: &BTreeSet<GlyphId>,
    work: &mut usize,
) {
    let mut known: HashMap<Criterion, bool> = HashMap::new();
    let mut left: Vec<u16> = used.iter().copied().collect();
    while let Some(index) = left.pop() {
        let lookup = lookups.get(table, Kind::Substitution, index);
        let Some(lookup) = lookup.filter(|lookup| matches!(lookup.kind, 5 | 6)) else {
            continue;
        };
        let is_chained = lookup.kind == 6;
        for subtable in &lookup.subtables {
            for first in glyphs {
                let Some(rest) = work.checked_sub(1) else {
                    return;
                };
                *work = rest;
                let mut may_be = |criterion: Criterion| {
                    *known.entry(criterion).or_insert_with(|| {
                        *work = work.saturating_sub(glyphs.len());
                        let mut glyphs = glyphs.iter();
                        glyphs.any(|glyph| criterion.matches(table, *glyph))
                    })
                };
                let mut tell = |lookup: u16| {
                    if used.insert(lookup) {
                        left.push(lookup);
                    }
                };
                let place = (subtable.at, is_chained);
                applied_lookups(table, place, *first, &mut may_be, &mut tell);
            }
        }
    }
}

/// Adds the glyphs that any lookup of a `GSUB` may make of some.
pub(super) fn close_all(table: &[u8], lookups: &Lookups, glyphs: &mut BTreeSet<GlyphId>) {
    let mut work = table.len().saturating_mul(WORK_PER_BYTE) + LEAST_WORK;
    let list = word(table, 8).map_or(0, usize::from);
    let all = (0..word(table, list).unwrap_or(0)).collect();
    close_by(table, lookups, &all, glyphs, &mut work);
}

/// Adds what some lookups make, until there is no more.
fn close_by(
    table: &[u8],
    lookups: &Lookups,
    usual: &BTreeSet<u16>,
    glyphs: &mut BTreeSet<GlyphId>,
    work: &mut usize,
) {
    for _ in 0..ROUNDS {
        let before = glyphs.len();
        for index in usual {
            let Some(lookup) = lookups.get(table, Kind::Substitution, *index) else {
                continue;
            };
            for subtable in &lookup.subtables {
                let mut made = Vec::new();
                outputs(table, lookup.kind, subtable.at, glyphs, &mut made, work);
                glyphs.extend(made);
            }
        }
        if glyphs.len() == before {
            break;
        }
    }
}

/// The lookups of some features.
fn lookups_of(table: &[u8], wanted: &BTreeSet<Tag>, work: &mut usize) -> Option<BTreeSet<u16>> {
    let mut used = BTreeSet::new();
    let features = usize::from(word(table, 6)?);
    for index in 0..usize::from(word(table, features)?) {
        let record = features + 2 + index * 6;
        let tag = Tag(long(table, record)?.to_be_bytes());
        let feature = features + usize::from(word(table, record + 4)?);
        let count = usize::from(word(table, feature + 2)?);
        *work = work.checked_sub(count)?;
        for index in (0..count).filter(|_| wanted.contains(&tag)) {
            used.insert(word(table, feature + 4 + index * 2)?);
        }
    }
    Some(used)
}

/// The glyphs that a subtable makes of some glyphs.
fn outputs(
    table: &[u8],
    kind: u16,
    at: usize,
    glyphs: &BTreeSet<GlyphId>,
    made: &mut Vec<GlyphId>,
    work: &mut usize,
) -> Option<()> {
    *work = work.checked_sub(1)?;
    let coverage = at + usize::from(word(table, at + 2)?);
    let own = covered_glyphs(table.get(coverage..)?);
    *work = work.checked_sub(own.len())?;
    let own = own
        .into_iter()
        .enumerate()
        .filter(|(_, glyph)| glyphs.contains(glyph));
    for (index, glyph) in own {
        let part = |place: usize| Some(at + usize::from(word(table, at + place + index * 2)?));
        match (kind, word(table, at)?) {
            (1, 1) => made.push(GlyphId(glyph.0.wrapping_add(word(table, at + 4)?))),
            (1, 2) => made.push(GlyphId(word(table, at + 6 + index * 2)?)),
            (2 | 3, _) => {
                let sequence = part(6)?;
                let count = usize::from(word(table, sequence)?);
                *work = work.checked_sub(count)?;
                for index in 0..count {
                    made.push(GlyphId(word(table, sequence + 2 + index * 2)?));
                }
            }
            (4, _) => {
                let set = part(6)?;
                for index in 0..usize::from(word(table, set)?) {
                    let ligature = set + usize::from(word(table, set + 2 + index * 2)?);
                    let count = usize::from(word(table, ligature + 2)?);
                    *work = work.checked_sub(count.max(1))?;
                    let has_all = (1..count).all(|index| {
                        let part = word(table, ligature + 2 + index * 2);
                        part.is_some_and(|part| glyphs.contains(&GlyphId(part)))
                    });
                    if has_all {
                        made.push(GlyphId(word(table, ligature)?));
                    }
                }
            }
            _ => {}
        }
    }
    Some(())
}
