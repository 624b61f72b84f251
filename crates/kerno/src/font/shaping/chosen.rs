//! The lookups that a text goes through: by script, language and features.

use std::collections::BTreeSet;
use std::convert::Infallible;
use std::ops::Range;
use std::sync::{Arc, Mutex, OnceLock};

use super::definitions::{Definitions, GlyphClasses};
use super::lookup::{Applied, Apply, Kind, Lookups};
use super::row::{GlyphRow, RowGlyph, class};
use super::value::Varied;
use super::{closure, position, substitute};
use crate::font::lazy_cells::{LazyCells, PairCache};
use crate::font::table::{long, word};
use crate::font::tables::{Directory, ItemVariations, find_lookups};
use crate::font::{FontError, GlyphId, Tag};

/// A feature that is asked for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub(crate) struct Feature {
    pub(crate) tag: Tag,
    /// 0 off, 1 on; which one, where a feature has alternates.
    pub(crate) value: u16,
    /// The bit of those glyphs that it is for; 0 where it is for all.
    pub(crate) mask: u32,
    /// Features of one stage go through the row together, lookup by lookup; a later
    /// stage begins when an earlier one is done.
    pub(crate) stage: u8,
}

/// The properties of a text that lookups are chosen by.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub(crate) struct TextKind {
    /// Script tags, the first that the font knows counts.
    pub(crate) scripts: [Tag; 2],
    /// A language system; the script's own one where the font does not know it.
    pub(crate) language: Option<Tag>,
    pub(crate) features: Vec<Feature>,
    pub(crate) is_rtl: bool,
}

/// A lookup that was chosen.
#[derive(Clone, Copy, Debug)]
pub(super) struct Chosen {
    stage: u8,
    pub(super) lookup: u16,
    pub(super) mask: u32,
    value: u16,
}

/// Lookups of one table in the order in which they apply.
#[derive(Debug, Default)]
pub(super) struct Sequence {
    pub(super) lookups: Vec<Chosen>,
    /// For each glyph that was asked for which of them may begin with it.
    touching: LazyCells,
}

/// This bit stands for all lookups from this one on: they are always asked.
const LAST_BIT: usize = 63;

impl Sequence {
    fn bit(index: usize) -> u64 {
        1 << index.min(LAST_BIT)
    }

    /// Tells each glyph of a row which lookups may begin with it; returns which may
    /// begin with any.
    fn touch(&self, row: &mut GlyphRow, covers: impl Fn(&Chosen, GlyphId) -> bool) -> u64 {
        let find = |glyph: GlyphId| {
            let lookups = self.lookups.iter().take(LAST_BIT).enumerate();
            let touching = lookups.filter(|(_, chosen)| covers(chosen, glyph));
            let bits = touching.map(|(index, _)| Self::bit(index));
            bits.fold(Self::bit(LAST_BIT), |all, bit| all | bit)
        };
        let mut any = 0;
        for glyph in &mut row.glyphs {
            let found = self
                .touching
                .get(glyph.glyph.0, || Ok::<u64, Infallible>(find(glyph.glyph)));
            glyph.touched = found.unwrap_or(u64::MAX);
            any |= glyph.touched;
        }
        any
    }
}

/// The lookups that a text goes through.
#[derive(Debug)]
pub(crate) struct ChosenLookups {
    pub(super) substitutions: Sequence,
    pub(super) positions: Sequence,
    /// True if `GPOS` kerns: else it is the table `kern` that does.
    pub(super) has_kerning: bool,
    /// True if kerning is asked for.
    is_kerned: bool,
    /// True if the font has digits of one width, and they are asked for.
    pub(crate) has_tabular: bool,
    /// True if letters that join have forms by their neighbours.
    pub(crate) has_forms: bool,
    /// True if joiners stand between letters as glyphs do: in scripts whose letters join,
    /// one forbids a ligature (Unicode Standard, 9.2, “Joining”).
    keeps_joiners: bool,
    /// True if `GPOS` stands marks on bases.
    pub(crate) has_marks: bool,
    /// The effects on neighbours that were asked for.
    pub(super) known_neighbours: PairCache,
}

impl ChosenLookups {
    /// Returns whether neighbours are kerned by the table `kern`.
    pub(in crate::font) fn uses_kern_table(&self) -> bool {
        self.is_kerned && !self.has_kerning
    }
}

/// The tables that shape text, and the lookups that were chosen from them.
#[derive(Debug, Default)]
pub(in crate::font) struct LayoutTables {
    pub(super) substitution: Option<Range<usize>>,
    pub(super) positioning: Option<Range<usize>>,
    pub(super) definitions: Definitions,
    pub(super) substitutions: Lookups,
    pub(super) positions: Lookups,
    /// The class in `GDEF` of each glyph that was asked for.
    pub(super) classes: GlyphClasses,
    /// The variations of positions along the axes, if any axis is not at its default.
    variation: Option<ItemVariations>,
    /// Each axis from -1 to 1.
    places: Vec<f32>,
    known_kinds: Mutex<Vec<(TextKind, Arc<ChosenLookups>)>>,
    /// The lookups that kern two glyphs without a text.
    pub(super) kerning: OnceLock<ChosenLookups>,
}

/// A table, and how its lookups are applied.
struct Through<'a> {
    font: &'a [u8],
    table: &'a [u8],
    kind: Kind,
    keeps_joiners: bool,
    lookups: &'a Lookups,
    apply: Apply,
}

/// The most kinds of text that are remembered: a game has few.
const MOST_KINDS: usize = 64;

impl LayoutTables {
    /// Finds the tables; nothing of them is read yet but their headers, and how they
    /// vary, with the axes at `places`.
    pub(in crate::font) fn read(
        directory: &Directory,
        bytes: &[u8],
        places: &[f32],
    ) -> Result<Self, FontError> {
        let is_varied = places.iter().any(|place| *place != 0.0);
        let variation = is_varied.then(|| ItemVariations::read(directory, bytes, b"GDEF", places));
        Ok(Self {
            // A damaged part is as if it were not there, as with the rest of the table.
            variation: variation.and_then(|read| read.ok().flatten()),
            places: places.to_vec(),
            substitution: find_lookups(directory, bytes, b"GSUB")?,
            positioning: find_lookups(directory, bytes, b"GPOS")?,
            definitions: Definitions::read(bytes, directory.range(bytes, b"GDEF")),
            ..Self::default()
        })
    }

    /// The additions of the axes of the font to numbers.
    pub(super) fn varied<'a>(&'a self, bytes: &'a [u8]) -> Varied<'a> {
        (bytes, self.variation.as_ref())
    }

    /// The lookups for a kind of text, chosen when they are first asked for.
    pub(in crate::font) fn chosen(&self, bytes: &[u8], key: &TextKind) -> Arc<ChosenLookups> {
        let lock = self.known_kinds.lock();
        let mut known_kinds = lock.unwrap_or_else(std::sync::PoisonError::into_inner);
        if let Some((_, chosen)) = known_kinds.iter().find(|(known, _)| known == key) {
            return Arc::clone(chosen);
        }
        let chosen = Arc::new(self.choose(bytes, key));
        if known_kinds.len() >= MOST_KINDS {
            known_kinds.remove(0);
        }
        known_kinds.push((key.clone(), Arc::clone(&chosen)));
        chosen
    }

    pub(super) fn choose(&self, bytes: &[u8], key: &TextKind) -> ChosenLookups {
        let lookups = |range: &Option<Range<usize>>| {
            let table = range.clone().and_then(|range| bytes.get(range));
            let found = table.map(|table| chosen(table, key, &self.places));
            found.unwrap_or_default()
        };
        let (substitutions, glyphs_for) = lookups(&self.substitution);
        let (positions, found) = lookups(&self.positioning);
        let sequence = |lookups| Sequence {
            lookups,
            touching: LazyCells::default(),
        };
        ChosenLookups {
            substitutions: sequence(substitutions),
            positions: sequence(positions),
            has_tabular: glyphs_for.contains(&Tag::new(b"tnum")),
            has_forms: [b"init", b"medi", b"fina"]
                .iter()
                .any(|form| glyphs_for.contains(&Tag::new(form))),
            has_kerning: found.contains(&Tag::new(b"kern")),
            is_kerned: key
                .features
                .iter()
                .any(|f| f.tag == Tag::new(b"kern") && f.value != 0),
            has_marks: found.contains(&Tag::new(b"mark")),
            keeps_joiners: key.features.iter().any(|f| f.tag == Tag::new(b"fina")),
            known_neighbours: PairCache::default(),
        }
    }

    /// Tells each glyph of a row what it is: by `GDEF`, or by its character.
    pub(in crate::font) fn classify(
        &self,
        bytes: &[u8],
        row: &mut GlyphRow,
        is_mark: impl Fn(char) -> bool,
    ) {
        let definitions = &self.definitions;
        for glyph in &mut row.glyphs {
            if definitions.has_classes() {
                let (class, mark_class) = self.classes.get(definitions, bytes, glyph.glyph);
                glyph.class = class;
                glyph.mark_class = mark_class;
            } else {
                let is_mark = is_mark(glyph.character);
                glyph.class = if is_mark { class::MARK } else { class::BASE };
            }
        }
    }

    /// Puts a row through the chosen substitutions.
    pub(in crate::font) fn substitute(
        &self,
        bytes: &[u8],
        chosen: &ChosenLookups,
        is_rtl: bool,
        row: &mut GlyphRow,
    ) {
        let table = self.substitution.clone().and_then(|range| bytes.get(range));
        let with = Through {
            font: bytes,
            table: table.unwrap_or_default(),
            kind: Kind::Substitution,
            keeps_joiners: chosen.keeps_joiners,
            lookups: &self.substitutions,
            apply: substitute::apply,
        };
        self.pass(with, &chosen.substitutions, is_rtl, row);
    }

    /// Puts a row through the chosen positions.
    pub(in crate::font) fn position(
        &self,
        bytes: &[u8],
        chosen: &ChosenLookups,
        is_rtl: bool,
        row: &mut GlyphRow,
    ) {
        let table = self.positioning.clone().and_then(|range| bytes.get(range));
        let with = Through {
            font: bytes,
            table: table.unwrap_or_default(),
            kind: Kind::Positioning,
            keeps_joiners: false,
            lookups: &self.positions,
            apply: position::apply,
        };
        self.pass(with, &chosen.positions, is_rtl, row);
    }

    /// Puts a row through lookups of one table.
    fn pass(&self, through: Through<'_>, sequence: &Sequence, is_rtl: bool, row: &mut GlyphRow) {
        let Through {
            font,
            table,
            kind,
            keeps_joiners,
            lookups,
            apply,
        } = through;
        let get = |index| lookups.get(table, kind, index);
        let mut any = sequence.touch(row, |chosen, glyph| {
            get(chosen.lookup).is_some_and(|lookup| lookup.may_begin(glyph))
        });
        // Substitutions hand masks on and make no new ones.
        let masks = row.glyphs.iter().fold(0, |all, glyph| all | glyph.mask);
        for (index, chosen) in sequence.lookups.iter().enumerate() {
            let bit = Sequence::bit(index);
            let is_for_some = chosen.mask == 0 || chosen.mask & masks != 0;
            let may_begin = is_for_some && any & bit != 0;
            let Some(lookup) = get(chosen.lookup).filter(|_| may_begin) else {
                continue;
            };
            let with = Applied {
                font,
                table,
                definitions: &self.definitions,
                classes: &self.classes,
                variation: self.variation.as_ref(),
                lookups,
                lookup,
                kind,
                keeps_joiners,
                mask: chosen.mask,
                value: chosen.value,
                is_rtl,
                depth: 0,
                apply,
            };
            let has_bit = |glyph: &RowGlyph| glyph.touched & bit != 0;
            let may_begin = |glyph: &RowGlyph| {
                let is_known = index < LAST_BIT && glyph.touched != u64::MAX;
                (is_known || lookup.may_begin(glyph.glyph)) && with.is_for(glyph)
            };
            if kind == Kind::Positioning && lookup.kind == 2 {
                position::apply_pairs(&with, row, |glyph| has_bit(glyph) && may_begin(glyph));
                continue;
            }
            let try_at = |row: &mut GlyphRow, at: usize| {
                may_begin(&row.glyphs[at]).then(|| apply(&with, row, at))?
            };
            let has_changed = if kind == Kind::Substitution && lookup.kind == 8 {
                walk_back(row, has_bit, try_at)
            } else {
                walk(row, has_bit, try_at)
            };
            if row.steps == 0 {
                return;
            }
            if has_changed && kind == Kind::Substitution {
                // The lookups that begin with the new glyphs are not known.
                any = u64::MAX;
            }
        }
    }

    /// Adds the glyphs that text may turn some into by some features.
    pub(in crate::font) fn close(
        &self,
        bytes: &[u8],
        features: &BTreeSet<Tag>,
        glyphs: &mut BTreeSet<GlyphId>,
    ) {
        if let Some(table) = self.substitution.clone().and_then(|range| bytes.get(range)) {
            closure::close(table, &self.substitutions, features, glyphs);
        }
    }

    /// The features of its substitutions.
    pub(in crate::font) fn substitution_features(&self, bytes: &[u8]) -> BTreeSet<Tag> {
        let table = self.substitution.clone().and_then(|range| bytes.get(range));
        table.map_or_else(BTreeSet::new, closure::features)
    }

    /// Adds the glyphs that any feature may make of some.
    pub(in crate::font) fn close_all(&self, bytes: &[u8], glyphs: &mut BTreeSet<GlyphId>) {
        if let Some(table) = self.substitution.clone().and_then(|range| bytes.get(range)) {
            closure::close_all(table, &self.substitutions, glyphs);
        }
    }

    /// Takes all room from glyphs that are marks by `GDEF`, but from tone marks of Hangul,
    /// which stand before their syllable.
    pub(in crate::font) fn flatten_marks(&self, row: &mut GlyphRow) {
        if self.definitions.has_classes() {
            let is_tone = |glyph: &RowGlyph| matches!(glyph.character, '\u{302e}' | '\u{302f}');
            let marks = row.glyphs.iter_mut();
            let marks = marks.filter(|glyph| glyph.is_mark() && !is_tone(glyph));
            marks.for_each(|glyph| glyph.advance = 0);
        }
    }
}

/// Tries a lookup at the glyphs of a row that it may begin with, from the first to the last
/// (OpenType, “Lookup Table”). Returns whether it did anything.
fn walk(
    row: &mut GlyphRow,
    has_bit: impl Fn(&RowGlyph) -> bool,
    mut try_at: impl FnMut(&mut GlyphRow, usize) -> Option<usize>,
) -> bool {
    let mut has_changed = false;
    let mut at = 0;
    while let Some(step) = row
        .glyphs
        .get(at..)
        .unwrap_or_default()
        .iter()
        .position(&has_bit)
    {
        at += step;
        let done = try_at(row, at);
        has_changed |= done.is_some();
        at = done.unwrap_or(at + 1);
        if row.steps == 0 {
            break;
        }
    }
    has_changed
}

/// The same from the last glyph to the first (OpenType, “Reverse Chaining Contextual Single
/// Substitution Subtable”).
fn walk_back(
    row: &mut GlyphRow,
    has_bit: impl Fn(&RowGlyph) -> bool,
    mut try_at: impl FnMut(&mut GlyphRow, usize) -> Option<usize>,
) -> bool {
    let mut has_changed = false;
    let mut end = row.glyphs.len();
    while let Some(at) = row.glyphs[..end].iter().rposition(&has_bit) {
        has_changed |= try_at(row, at).is_some();
        end = at;
    }
    has_changed
}

/// The lookups of a table for a kind of text, in the order in which they apply, and
/// the features that were found.
fn chosen(table: &[u8], key: &TextKind, places: &[f32]) -> (Vec<Chosen>, Vec<Tag>) {
    let alternates = alternates(table, places);
    let mut lookups: Vec<Chosen> = Vec::new();
    let mut found = Vec::new();
    // Lists of features and lookups may lie on each other: what is read goes with the size
    // of the table. Real ones are read about once.
    let mut room = table.len() * 4;
    let mut find = |lookups: &mut Vec<Chosen>, found: &mut Vec<Tag>| {
        let language = language_system(table, key)?;
        let features = usize::from(word(table, 6)?);
        let mut add = |index: u16, is_required: bool| {
            let record = features + 2 + usize::from(index) * 6;
            if index >= word(table, features)? {
                return None;
            }
            let tag = Tag(long(table, record)?.to_be_bytes());
            let wanted = key.features.iter().find(|feature| feature.tag == tag);
            let required = Feature {
                tag,
                value: 1,
                mask: 0,
                stage: 0,
            };
            let wanted = match wanted {
                Some(wanted) => *wanted,
                None if is_required => required,
                None => return Some(()),
            };
            if wanted.value == 0 {
                return Some(());
            }
            found.push(tag);
            let alternate_count = alternates.and_then(|at| word(table, at + 4));
            room = room.checked_sub(alternate_count.map_or(0, usize::from))?;
            let own = features + usize::from(word(table, record + 4)?);
            let alternate = alternates.and_then(|alternates| alternate(table, alternates, index));
            let feature = alternate.unwrap_or(own);
            let count = usize::from(word(table, feature + 2)?);
            room = room.checked_sub(count)?;
            for index in 0..count {
                lookups.push(Chosen {
                    stage: wanted.stage,
                    lookup: word(table, feature + 4 + index * 2)?,
                    mask: wanted.mask,
                    value: wanted.value,
                });
            }
            Some(())
        };
        let required = word(table, language + 2)?;
        if required != 0xffff {
            add(required, true);
        }
        for index in 0..usize::from(word(table, language + 4)?) {
            add(word(table, language + 6 + index * 2)?, false);
        }
        Some(())
    };
    find(&mut lookups, &mut found);
    lookups.sort_by_key(|chosen| (chosen.stage, chosen.lookup));
    merge(&mut lookups);
    (lookups, found)
}

/// Merges requests for one lookup: two features that ask for it ask once, for what either
/// touches.
fn merge(lookups: &mut Vec<Chosen>) {
    lookups.dedup_by(|later, kept| {
        let is_same = (later.stage, later.lookup) == (kept.stage, kept.lookup);
        if is_same {
            let is_for_all = later.mask == 0 || kept.mask == 0;
            kept.mask = if is_for_all {
                0
            } else {
                kept.mask | later.mask
            };
            kept.value = kept.value.max(later.value);
        }
        is_same
    });
}

/// The most sets of conditions that are looked through, and conditions in a set.
const MOST_SETS: usize = 1024;

/// The place of the features that replace others with the axes at `places`
/// (OpenType, “Feature Variations Table”): those of the first set of conditions that
/// hold.
fn alternates(table: &[u8], places: &[f32]) -> Option<usize> {
    let is_later = word(table, 0)? == 1 && word(table, 2)? >= 1;
    let offset = long(table, 10).filter(|offset| is_later && *offset != 0)?;
    let at = offset as usize;
    let count = (long(table, at + 4)? as usize).min(MOST_SETS);
    let holds = |set: usize| {
        let count = Some(usize::from(word(table, set)?)).filter(|count| *count <= MOST_SETS)?;
        let condition = |index: usize| {
            let at = set + long(table, set + 2 + index * 4)? as usize;
            let axis = usize::from(word(table, at + 2)?);
            let bound = |at: usize| Some(f32::from(word(table, at)? as i16) / 16384.0);
            let (least, most) = (bound(at + 4)?, bound(at + 6)?);
            let place = places.get(axis).copied().unwrap_or(0.0);
            (word(table, at)? == 1 && least <= place && place <= most).then_some(())
        };
        (0..count).try_for_each(condition)
    };
    (0..count).find_map(|index| {
        let record = at + 8 + index * 8;
        let (set, features) = (
            long(table, record)? as usize,
            long(table, record + 4)? as usize,
        );
        // Without any condition it always holds.
        (set == 0 || holds(at + set).is_some()).then_some(at + features)
    })
}

/// The table that takes the place of a feature, if one does.
fn alternate(table: &[u8], alternates: usize, feature: u16) -> Option<usize> {
    let count = usize::from(word(table, alternates + 4)?);
    let mut records = (0..count).map(|index| alternates + 6 + index * 6);
    let record = records.find(|record| word(table, *record) == Some(feature))?;
    Some(alternates + long(table, record + 2)? as usize)
}

/// The place of the language system of a text (OpenType, “Script List Table”).
fn language_system(table: &[u8], key: &TextKind) -> Option<usize> {
    let scripts = usize::from(word(table, 4)?);
    let record_of = |list: usize, tag: Tag| {
        let count = usize::from(word(table, list)?);
        let records = (0..count).map(|index| list + 2 + index * 6);
        let mut own = records.filter(|at| long(table, *at).map(u32::to_be_bytes) == Some(tag.0));
        own.next()
    };
    let tags =
        key.scripts
            .into_iter()
            .chain([Tag::new(b"DFLT"), Tag::new(b"dflt"), Tag::new(b"latn")]);
    let mut known = tags.filter_map(|tag| record_of(scripts, tag));
    let script = scripts + usize::from(word(table, known.next()? + 4)?);
    // The list of languages begins after the default one's offset.
    let own = key.language.and_then(|tag| record_of(script + 2, tag));
    if let Some(record) = own {
        return Some(script + usize::from(word(table, record + 4)?));
    }
    match usize::from(word(table, script)?) {
        0 => None,
        offset => Some(script + offset),
    }
}
