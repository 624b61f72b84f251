//! The glyphs that a text may turn into.

use std::collections::BTreeSet;

use super::coverage::covered_glyphs;
use super::lookup::{Kind, Lookups};
use crate::font::GlyphId;
use crate::font::table::{long, word};

/// Features that are on without being asked for, in any script.
const USUAL: [&[u8; 4]; 16] = [
    b"ccmp", b"rlig", b"rclt", b"calt", b"clig", b"liga", b"isol", b"fina", b"medi", b"init",
    b"mset", b"ljmo", b"vjmo", b"tjmo", b"ltra", b"rtla",
];

/// The most rounds in which added glyphs are looked through again.
const ROUNDS: usize = 16;

/// Steps of reading for each byte of the table, whatever it claims of itself, and at least.
const WORK_PER_BYTE: usize = 64;
const LEAST_WORK: usize = 1 << 20;

/// Adds the glyphs that the usual features of a `GSUB` may make of some.
pub(super) fn close(table: &[u8], lookups: &Lookups, glyphs: &mut BTreeSet<GlyphId>) {
    let mut work = table.len().saturating_mul(WORK_PER_BYTE) + LEAST_WORK;
    let Some(usual) = usual_lookups(table, &mut work) else {
        return;
    };
    close_by(table, lookups, &usual, glyphs, &mut work);
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

/// The lookups of the usual features, and those that their contexts apply.
fn usual_lookups(table: &[u8], work: &mut usize) -> Option<BTreeSet<u16>> {
    let (mut usual, mut named) = (BTreeSet::new(), BTreeSet::new());
    let features = usize::from(word(table, 6)?);
    for index in 0..usize::from(word(table, features)?) {
        let record = features + 2 + index * 6;
        let tag = long(table, record)?.to_be_bytes();
        let feature = features + usize::from(word(table, record + 4)?);
        let count = usize::from(word(table, feature + 2)?);
        *work = work.checked_sub(count)?;
        for index in 0..count {
            let lookup = word(table, feature + 4 + index * 2)?;
            named.insert(lookup);
            if USUAL.contains(&&tag) {
                usual.insert(lookup);
            }
        }
    }
    // A context may apply any lookup of the table: all that no feature names count where
    // there is one.
    let list = usize::from(word(table, 8)?);
    let kind_of = |index: u16| {
        let at = list + usize::from(word(table, list + 2 + usize::from(index) * 2)?);
        let kind = word(table, at)?;
        if kind != 7 {
            return Some(kind);
        }
        let subtable = at + usize::from(word(table, at + 6)?);
        word(table, subtable + 2)
    };
    let has_context = |index: &u16| matches!(kind_of(*index), Some(5 | 6));
    if usual.iter().any(has_context) {
        usual.extend((0..word(table, list)?).filter(|index| !named.contains(index)));
    }
    Some(usual)
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
