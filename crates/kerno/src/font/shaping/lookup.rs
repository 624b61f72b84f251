//! A lookup: its flags, its subtables, and which glyphs it passes over.

use std::sync::OnceLock;

use super::coverage::{GlyphSet, Work};
use super::definitions::{Definitions, GlyphClasses};
use super::row::{GlyphRow, RowGlyph, class};
use super::value::Varied;
use crate::font::GlyphId;
use crate::font::lazy_cells::PairCache;
use crate::font::table::{long, word};
use crate::font::tables::ItemVariations;

/// The table of a lookup.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Kind {
    Substitution,
    Positioning,
}

/// A lookup (OpenType, “Lookup Table”), its subtables after their extensions.
#[derive(Debug)]
pub(super) struct Lookup {
    pub(super) kind: u16,
    pub(super) flag: u16,
    mark_set: Option<u16>,
    /// Its subtables.
    pub(super) subtables: Vec<Subtable>,
    /// The glyphs that it may begin with; none where that is not known beforehand.
    covered: Option<GlyphSet>,
    /// Facts about pairs: the effect of one, whether a ligature begins with it.
    pub(super) pairs: PairCache,
}

/// A subtable of a lookup.
#[derive(Debug)]
pub(super) struct Subtable {
    /// The byte of its table at which it starts.
    pub(super) at: usize,
    /// The glyphs that it may begin with; none where the set would be large.
    covered: Option<GlyphSet>,
    /// For a context by coverages: what has to stand around its first glyph.
    around: Option<Box<Around>>,
}

/// The glyphs that may stand next to the first one of a context. Most rules of most
/// fonts are done with when these are asked.
#[derive(Debug, Default)]
struct Around {
    before: Option<GlyphSet>,
    after: Option<GlyphSet>,
    /// True if what comes after is only looked at: else it is matched itself.
    is_after_around: bool,
}

impl Around {
    /// Reads them from a chained context by coverages (OpenType, “Chained Sequence
    /// Context Format 3”), which begins at `at`; none where it says nothing of them.
    fn read(table: &[u8], at: usize, work: &Work) -> Option<Self> {
        let count = |place: usize| word(table, place).map(usize::from);
        let set = |place: usize| {
            let set = GlyphSet::from_coverage(table.get(at + count(place)?..)?, work)?;
            (set.len() <= SMALL).then_some(set)
        };
        let before = count(at + 2)?;
        let input_at = at + 4 + before * 2;
        let input = count(input_at)?;
        let after_at = input_at + 2 + input * 2;
        let is_after_around = input == 1;
        let after = if is_after_around {
            (count(after_at)? > 0).then_some(after_at + 2)
        } else {
            Some(input_at + 4)
        };
        Some(Self {
            before: if before > 0 { set(at + 4) } else { None },
            after: after.and_then(set),
            is_after_around,
        })
    }

    /// Returns whether a context may match at a glyph.
    fn allows(&self, with: &Applied<'_>, row: &GlyphRow, at: usize) -> bool {
        let has = |set: &Option<GlyphSet>, place: &dyn Fn() -> Option<usize>| match set {
            Some(set) => place().is_some_and(|place| set.has(row.glyphs[place].glyph)),
            None => true,
        };
        has(&self.after, &|| with.next(row, at, self.is_after_around))
            && has(&self.before, &|| with.previous(row, at, true))
    }
}

impl Subtable {
    /// Returns whether [`Subtable::may_begin`] knows for sure.
    pub(super) fn is_sure(&self) -> bool {
        self.covered.is_some()
    }

    /// Returns whether it may begin with a glyph.
    pub(super) fn may_begin(&self, glyph: GlyphId) -> bool {
        self.covered
            .as_ref()
            .is_none_or(|covered| covered.has(glyph))
    }
}

/// Glyphs up to this number have a set in each subtable.
const SMALL: usize = 8192;

/// Bits of the flag.
pub(super) mod flag {
    pub(in super::super) const RIGHT_TO_LEFT: u16 = 0x1;
    pub(in super::super) const IGNORE_BASES: u16 = 0x2;
    pub(super) const IGNORE_LIGATURES: u16 = 0x4;
    pub(super) const IGNORE_MARKS: u16 = 0x8;
    pub(super) const MARK_SET: u16 = 0x10;
    pub(super) const MARK_CLASS: u16 = 0xff00;
}

impl Lookup {
    /// Reads lookup `index` of a table.
    fn read(table: &[u8], kind: Kind, index: u16, work: &Work) -> Option<Self> {
        let list = usize::from(word(table, 8)?);
        if index >= word(table, list)? {
            return None;
        }
        let at = list + usize::from(word(table, list + 2 + usize::from(index) * 2)?);
        let (mut own_kind, flag) = (word(table, at)?, word(table, at + 2)?);
        let count = usize::from(word(table, at + 4)?);
        let extension = if kind == Kind::Substitution { 7 } else { 9 };
        let mut subtables = Vec::new();
        let is_extension = own_kind == extension;
        for subtable in 0..count {
            let mut place = at + usize::from(word(table, at + 6 + subtable * 2)?);
            if is_extension {
                own_kind = word(table, place + 2)?;
                place += long(table, place + 4)? as usize;
            }
            subtables.push(Subtable {
                at: place,
                covered: None,
                around: None,
            });
        }
        let has_set = flag & flag::MARK_SET != 0;
        let mut lookup = Self {
            kind: own_kind,
            flag,
            mark_set: if has_set {
                Some(word(table, at + 6 + count * 2)?)
            } else {
                None
            },
            subtables,
            covered: Some(GlyphSet::default()),
            pairs: PairCache::default(),
        };
        for subtable in &mut lookup.subtables {
            let first = coverage_of(table, kind, lookup.kind, subtable.at);
            if let Some(first) = first.and_then(|at| table.get(at..)) {
                let own = GlyphSet::from_coverage(first, work);
                lookup.covered = lookup
                    .covered
                    .and_then(|mut all| all.add_all(own.as_ref()?, work).then_some(all));
                subtable.covered = own.filter(|own| own.len() <= SMALL);
            }
            let is_chained = lookup.kind == chained_kind(kind);
            if is_chained && word(table, subtable.at) == Some(3) {
                subtable.around = Around::read(table, subtable.at, work).map(Box::new);
            }
        }
        Some(lookup)
    }

    /// Returns whether it may begin with a glyph, where the glyphs are known beforehand.
    #[inline]
    pub(super) fn may_begin(&self, glyph: GlyphId) -> bool {
        self.covered
            .as_ref()
            .is_none_or(|covered| covered.has(glyph))
    }

    /// Returns whether the lookup passes over a glyph as if it were not there.
    pub(super) fn ignores(&self, definitions: &Definitions, font: &[u8], glyph: &RowGlyph) -> bool {
        let bit = match glyph.class {
            class::BASE => flag::IGNORE_BASES,
            class::LIGATURE => flag::IGNORE_LIGATURES,
            class::MARK => flag::IGNORE_MARKS,
            _ => 0,
        };
        if self.flag & bit != 0 {
            return true;
        }
        if glyph.class != class::MARK {
            return false;
        }
        if let Some(set) = self.mark_set {
            return !definitions.is_in_set(font, set, glyph.glyph);
        }
        let wanted = self.flag & flag::MARK_CLASS;
        wanted != 0 && wanted >> 8 != u16::from(glyph.mark_class)
    }

    /// Returns whether it is a contextual lookup, and whether that is chained.
    pub(super) fn context(&self, kind: Kind) -> Option<bool> {
        let chained = chained_kind(kind);
        (self.kind == chained || self.kind == chained - 1).then_some(self.kind == chained)
    }
}

/// The number of the chained contexts among the lookups of a table.
fn chained_kind(kind: Kind) -> u16 {
    match kind {
        Kind::Substitution => 6,
        Kind::Positioning => 8,
    }
}

/// The place of the coverage of the glyphs that a subtable may begin with.
fn coverage_of(table: &[u8], kind: Kind, lookup: u16, at: usize) -> Option<usize> {
    let format = word(table, at)?;
    let chained = chained_kind(kind);
    let offset = if lookup == chained - 1 && format == 3 {
        at + 6
    } else if lookup == chained && format == 3 {
        // Behind the coverages of what stands before.
        at + 2 + 2 + usize::from(word(table, at + 2)?) * 2 + 2
    } else {
        at + 2
    };
    Some(at + usize::from(word(table, offset)?))
}

/// The lookups of a table, each read when it is first asked for.
#[derive(Debug, Default)]
pub(super) struct Lookups(OnceLock<LookupList>);

#[derive(Debug)]
struct LookupList {
    lookups: Box<[OnceLock<Option<Lookup>>]>,
    work: Work,
}

impl LookupList {
    /// As many as the table says, and has room for: the lists of their subtables may
    /// lie on each other, but all in all they take no more than some times the table.
    fn read(table: &[u8]) -> Self {
        let list = word(table, 8).map_or(0, usize::from);
        let count = usize::from(word(table, list).unwrap_or(0));
        let mut room = table.len().saturating_mul(4);
        let has_room = |index: &usize| {
            let offset = word(table, list + 2 + index * 2).map_or(0, usize::from);
            let subtables = word(table, list + offset + 4).map_or(0, usize::from);
            room = room.saturating_sub(6 + subtables * 2);
            room > 0
        };
        let lookups = (0..count).take_while(has_room);
        Self {
            lookups: lookups.map(|_| OnceLock::new()).collect(),
            work: Work::for_table(table.len()),
        }
    }
}

impl Lookups {
    pub(super) fn get(&self, table: &[u8], kind: Kind, index: u16) -> Option<&Lookup> {
        let all = self.0.get_or_init(|| LookupList::read(table));
        let slot = all.lookups.get(usize::from(index))?;
        slot.get_or_init(|| Lookup::read(table, kind, index, &all.work))
            .as_ref()
    }
}

/// The context in which a lookup is applied.
#[derive(Clone, Copy)]
pub(super) struct Applied<'a> {
    /// The whole font, for `GDEF`.
    pub(super) font: &'a [u8],
    /// The table that the lookup is in.
    pub(super) table: &'a [u8],
    pub(super) definitions: &'a Definitions,
    pub(super) classes: &'a GlyphClasses,
    pub(super) variation: Option<&'a ItemVariations>,
    pub(super) lookups: &'a Lookups,
    pub(super) lookup: &'a Lookup,
    pub(super) kind: Kind,
    /// True if joiners are not passed over while something is matched.
    pub(super) keeps_joiners: bool,
    /// A mask of the glyphs that it may touch.
    pub(super) mask: u32,
    /// The value of the feature: which one of several alternates.
    pub(super) value: u16,
    pub(super) is_rtl: bool,
    /// The number of contexts it is nested in.
    pub(super) depth: u8,
    /// Applies a lookup of this table at a glyph; returns where to go on.
    pub(super) apply: Apply,
}

/// A function that applies a lookup at a glyph.
pub(super) type Apply = fn(&Applied<'_>, &mut GlyphRow, usize) -> Option<usize>;

impl Applied<'_> {
    /// The additions of the axes of the font to numbers.
    pub(super) fn varied(&self) -> Varied<'_> {
        (self.font, self.variation)
    }

    pub(super) fn ignores(&self, glyph: &RowGlyph) -> bool {
        self.lookup.ignores(self.definitions, self.font, glyph)
    }

    /// The outcome of the first subtable that does something at a glyph.
    pub(super) fn first_that(
        &self,
        row: &mut GlyphRow,
        at: usize,
        mut does: impl FnMut(&mut GlyphRow, &Subtable) -> Option<usize>,
    ) -> Option<usize> {
        for subtable in &self.lookup.subtables {
            let may_match = subtable.may_begin(row.glyphs[at].glyph)
                && subtable
                    .around
                    .as_ref()
                    .is_none_or(|around| around.allows(self, row, at));
            if !may_match {
                continue;
            }
            if !row.step() {
                return None;
            }
            let done = does(row, subtable);
            if done.is_some() {
                return done;
            }
        }
        None
    }

    /// Returns whether the lookup may begin at a glyph.
    pub(super) fn begins_at(&self, glyph: &RowGlyph) -> bool {
        self.lookup.may_begin(glyph.glyph) && self.is_for(glyph)
    }

    /// Returns whether it may begin at a glyph of those that it covers.
    pub(super) fn is_for(&self, glyph: &RowGlyph) -> bool {
        (self.mask == 0 || glyph.mask & self.mask != 0)
            && (self.lookup.flag == 0 || !self.ignores(glyph))
    }

    /// Returns whether a glyph is passed over while something is matched: joiners always,
    /// non-joiners where only the surroundings are looked at.
    fn skips(&self, glyph: &RowGlyph, is_around: bool) -> bool {
        if self.lookup.flag == 0 && !glyph.may_join() {
            return false;
        }
        self.ignores(glyph)
            || (self.kind == Kind::Substitution && glyph.is_joiner() && !self.keeps_joiners)
            || (self.kind == Kind::Positioning && (glyph.is_joiner() || glyph.is_non_joiner()))
            || (is_around && glyph.is_non_joiner())
    }

    /// The next glyph after one that counts.
    pub(super) fn next(&self, row: &GlyphRow, from: usize, is_around: bool) -> Option<usize> {
        // Nearly always it is the neighbour.
        if let Some(next) = row.glyphs.get(from + 1)
            && !self.skips(next, is_around)
        {
            return Some(from + 1);
        }
        let glyphs = row.glyphs.iter().enumerate().skip(from + 1);
        let mut counting = glyphs.filter(|(_, glyph)| !self.skips(glyph, is_around));
        let next = counting.next().map(|(index, _)| index);
        // A pair that is only kerned is found by whoever puts rows one after another.
        let is_pair = self.kind == Kind::Positioning && self.lookup.kind == 2;
        if next.is_none() && !is_pair {
            row.look_past_end();
        }
        next
    }

    /// The joiner after a glyph, which counts where a substitution names it itself, as those of
    /// emoji sequences do (UTS #51, “Emoji ZWJ Sequence”).
    pub(super) fn joiner_after(&self, row: &GlyphRow, from: usize) -> Option<usize> {
        let next = row.glyphs.get(from + 1)?;
        (next.is_joiner() && !self.ignores(next)).then_some(from + 1)
    }

    /// The one before.
    pub(super) fn previous(&self, row: &GlyphRow, from: usize, is_around: bool) -> Option<usize> {
        let before = row.glyphs.get(..from)?;
        let previous = before
            .iter()
            .rposition(|glyph| !self.skips(glyph, is_around));
        if previous.is_none() {
            row.look_past_start();
        }
        previous
    }
}
