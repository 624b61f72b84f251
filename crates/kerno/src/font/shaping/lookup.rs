//! A lookup: its flags, its subtables, and which glyphs it passes over.

use std::sync::OnceLock;

use super::coverage::GlyphSet;
use super::definitions::Definitions;
use super::row::{Row, RowGlyph, class};
use crate::font::GlyphId;
use crate::font::lazy_pages::LazyPages;
use crate::font::table::{long, word};

/// Which table a lookup is of.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Kind {
    Substitution,
    Positioning,
}

/// A lookup (OpenType, “Lookup Table”), its subtables behind their extensions.
#[derive(Debug)]
pub(super) struct Lookup {
    pub(super) kind: u16,
    pub(super) flag: u16,
    mark_set: Option<u16>,
    /// Its subtables.
    pub(super) subtables: Vec<Subtable>,
    /// The glyphs that it may begin with.
    pub(super) covered: GlyphSet,
}

/// A subtable of a lookup.
#[derive(Debug)]
pub(super) struct Subtable {
    /// Where it is in its table.
    pub(super) at: usize,
    /// The glyphs that it may begin with; none where the set would be large.
    covered: Option<GlyphSet>,
    /// For pairs by class: the classes of first and of second glyphs.
    pub(super) classes: Option<[LazyPages; 2]>,
}

impl Subtable {
    /// Whether [`Subtable::may_begin`] knows for sure.
    pub(super) fn is_sure(&self) -> bool {
        self.covered.is_some()
    }

    /// Whether it may begin with a glyph.
    pub(super) fn may_begin(&self, glyph: GlyphId) -> bool {
        self.covered
            .as_ref()
            .is_none_or(|covered| covered.has(glyph))
    }
}

/// As many glyphs as there can be.
const GLYPHS: usize = 1 << 16;

/// Glyphs up to this number have a set in each subtable.
const SMALL: usize = 8192;

/// Bits of the flag.
pub(super) mod flag {
    pub(in super::super) const RIGHT_TO_LEFT: u16 = 0x1;
    pub(super) const IGNORE_BASES: u16 = 0x2;
    pub(super) const IGNORE_LIGATURES: u16 = 0x4;
    pub(super) const IGNORE_MARKS: u16 = 0x8;
    pub(super) const MARK_SET: u16 = 0x10;
    pub(super) const MARK_CLASS: u16 = 0xff00;
}

impl Lookup {
    /// Reads lookup `index` of a table.
    pub(super) fn read(table: &[u8], kind: Kind, index: u16) -> Option<Self> {
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
                classes: None,
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
            covered: GlyphSet::default(),
        };
        let pairs = kind == Kind::Positioning && lookup.kind == 2;
        for subtable in &mut lookup.subtables {
            let first = coverage_of(table, kind, lookup.kind, subtable.at);
            if let Some(first) = first.and_then(|at| table.get(at..)) {
                let mut own = GlyphSet::default();
                own.add_coverage(first);
                lookup.covered.add_coverage(first);
                subtable.covered = (own.len() <= SMALL).then_some(own);
            }
            if pairs && word(table, subtable.at) == Some(2) {
                subtable.classes = Some([LazyPages::new(GLYPHS), LazyPages::new(GLYPHS)]);
            }
        }
        Some(lookup)
    }

    /// Whether the lookup passes over a glyph as if it were not there.
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
        wanted != 0 && wanted >> 8 != glyph.mark_class
    }
}

/// Where the coverage is of the glyphs that a subtable may begin with.
fn coverage_of(table: &[u8], kind: Kind, lookup: u16, at: usize) -> Option<usize> {
    let format = word(table, at)?;
    let (context, chained) = match kind {
        Kind::Substitution => (5, 6),
        Kind::Positioning => (7, 8),
    };
    let offset = if lookup == context && format == 3 {
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
pub(super) struct Lookups(OnceLock<Box<[OnceLock<Option<Lookup>>]>>);

impl Lookups {
    pub(super) fn get(&self, table: &[u8], kind: Kind, index: u16) -> Option<&Lookup> {
        let all = self.0.get_or_init(|| {
            let list = word(table, 8).map(usize::from);
            let count = list.and_then(|list| word(table, list)).unwrap_or(0);
            (0..count).map(|_| OnceLock::new()).collect()
        });
        let slot = all.get(usize::from(index))?;
        slot.get_or_init(|| Lookup::read(table, kind, index))
            .as_ref()
    }
}

/// What a lookup is applied with.
#[derive(Clone, Copy)]
pub(super) struct Applied<'a> {
    /// The whole font, for `GDEF`.
    pub(super) font: &'a [u8],
    /// The table that the lookup is in.
    pub(super) table: &'a [u8],
    pub(super) definitions: &'a Definitions,
    pub(super) lookups: &'a Lookups,
    pub(super) lookup: &'a Lookup,
    pub(super) kind: Kind,
    /// Which glyphs it may touch.
    pub(super) mask: u32,
    /// The value of the feature: which one of several alternates.
    pub(super) value: u16,
    pub(super) is_rtl: bool,
    /// How many contexts it is nested in.
    pub(super) depth: u8,
    /// Applies a lookup of this table at a glyph; returns where to go on.
    pub(super) apply: Apply,
}

/// What applies a lookup at a glyph.
pub(super) type Apply = fn(&Applied<'_>, &mut Row, usize) -> Option<usize>;

impl Applied<'_> {
    pub(super) fn ignores(&self, glyph: &RowGlyph) -> bool {
        self.lookup.ignores(self.definitions, self.font, glyph)
    }

    /// The outcome of the first subtable that does something at a glyph.
    pub(super) fn first_that(
        &self,
        row: &mut Row,
        at: usize,
        mut does: impl FnMut(&mut Row, &Subtable) -> Option<usize>,
    ) -> Option<usize> {
        for subtable in &self.lookup.subtables {
            if !subtable.may_begin(row.glyphs[at].glyph) {
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

    /// Whether the lookup may begin at a glyph.
    pub(super) fn begins_at(&self, glyph: &RowGlyph) -> bool {
        (self.mask == 0 || glyph.mask & self.mask != 0)
            && self.lookup.covered.has(glyph.glyph)
            && !self.ignores(glyph)
    }

    /// Whether a glyph is passed over while something is matched: joiners always,
    /// non-joiners where only the surroundings are looked at.
    fn skips(&self, glyph: &RowGlyph, is_around: bool) -> bool {
        self.ignores(glyph)
            || (self.kind == Kind::Substitution && glyph.is_joiner())
            || (self.kind == Kind::Positioning && (glyph.is_joiner() || glyph.is_non_joiner()))
            || (is_around && glyph.is_non_joiner())
    }

    /// The next glyph after one that counts.
    pub(super) fn next(&self, row: &Row, from: usize, is_around: bool) -> Option<usize> {
        let glyphs = row.glyphs.iter().enumerate().skip(from + 1);
        let mut counting = glyphs.filter(|(_, glyph)| !self.skips(glyph, is_around));
        counting.next().map(|(index, _)| index)
    }

    /// The one before.
    pub(super) fn previous(&self, row: &Row, from: usize, is_around: bool) -> Option<usize> {
        let before = row.glyphs.get(..from)?;
        before
            .iter()
            .rposition(|glyph| !self.skips(glyph, is_around))
    }
}
