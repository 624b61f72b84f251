//! Neighbours to which a text's lookups do nothing but kern them, as is so with most
//! letters of most texts: those need not go through the lookups one by one.

use super::chosen::{ChosenLookups, LayoutTables};
use super::context::may_match;
use super::lookup::{Kind, Lookup};
use super::position::sole_advance;
use super::row::{RowGlyph, class};
use super::substitute::begins;
use crate::font::GlyphId;

/// The effect on a glyph that stands before another one, or at the end of a text.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Neighbours {
    /// Nothing, but that its advance grows by that many font units.
    Kerned(i16),
    /// More, or it depends on what stands around the two.
    Shaped,
}

/// Kept facts about two neighbours: with the units in the lower half; ...
const KERNED: u32 = 1 << 16;
/// ... or this.
const SHAPED: u32 = 2 << 16;

/// The most ligatures that are asked about two neighbours.
const MOST_STEPS: usize = 1 << 16;

/// The most subtables that are asked about two neighbours; past that text goes through the lookups,
/// whose steps are counted.
const MOST_SUBTABLES: usize = 1 << 13;

/// Stands for the end of a text in the place of a second glyph; none has this number.
const NOTHING: u16 = u16::MAX;

impl ChosenLookups {
    /// The effect on a glyph before another, found by `find` where that is not known.
    #[inline]
    pub(in crate::font) fn neighbours(
        &self,
        left: GlyphId,
        right: Option<GlyphId>,
        find: impl FnOnce() -> Neighbours,
    ) -> Neighbours {
        let right = right.map_or(NOTHING, |right| right.0);
        let kept = || match find() {
            Neighbours::Kerned(units) => KERNED | u32::from(units as u16),
            Neighbours::Shaped => SHAPED,
        };
        match self.known_neighbours.get(left.0, right, kept) {
            SHAPED => Neighbours::Shaped,
            known => Neighbours::Kerned(known as u16 as i16),
        }
    }
}

impl LayoutTables {
    /// The effect of the chosen lookups on a letter before another one, both of them glyphs of
    /// single characters that are no marks and join nothing.
    pub(in crate::font) fn find_neighbours(
        &self,
        bytes: &[u8],
        chosen: &ChosenLookups,
        left: GlyphId,
        right: Option<GlyphId>,
    ) -> Neighbours {
        let find = || {
            let (left, right) = (
                self.letter(bytes, left)?,
                match right {
                    Some(right) => Some(self.letter(bytes, right)?),
                    None => None,
                },
            );
            let (mut units, mut subtables) = (0, 0);
            for kind in [Kind::Substitution, Kind::Positioning] {
                for (lookup, table) in self.all_chosen(bytes, chosen, kind) {
                    let begins = lookup.may_begin(left.glyph)
                        && !lookup.ignores(&self.definitions, bytes, &left);
                    subtables += lookup.subtables.len();
                    if subtables > MOST_SUBTABLES {
                        return None;
                    }
                    if begins {
                        units += self.own_kerning(bytes, (lookup, table, kind), &left, &right)?;
                    }
                }
            }
            i16::try_from(units).ok()
        };
        find().map_or(Neighbours::Shaped, Neighbours::Kerned)
    }

    /// A glyph as it is before anything has touched it; none for a mark.
    fn letter(&self, bytes: &[u8], glyph: GlyphId) -> Option<RowGlyph> {
        let mut letter = RowGlyph::new(glyph, ' ', 0);
        letter.class = class::BASE;
        if self.definitions.has_classes() {
            (letter.class, letter.mark_class) = self.classes.get(&self.definitions, bytes, glyph);
        }
        (!letter.is_mark()).then_some(letter)
    }

    /// The chosen lookups of a table that are for all glyphs.
    fn all_chosen<'a>(
        &'a self,
        bytes: &'a [u8],
        chosen: &'a ChosenLookups,
        kind: Kind,
    ) -> impl Iterator<Item = (&'a Lookup, &'a [u8])> {
        let (sequence, range, lookups) = match kind {
            Kind::Substitution => {
                let (range, lookups) = (&self.substitution, &self.substitutions);
                (&chosen.substitutions, range, lookups)
            }
            Kind::Positioning => (&chosen.positions, &self.positioning, &self.positions),
        };
        let table = range.clone().and_then(|range| bytes.get(range));
        let all = sequence.lookups.iter().filter(|chosen| chosen.mask == 0);
        all.filter_map(move |chosen| {
            let table = table?;
            Some((lookups.get(table, kind, chosen.lookup)?, table))
        })
    }

    /// By how much a lookup kerns two letters, the first of which it may begin with;
    /// none where it may do more.
    fn own_kerning(
        &self,
        bytes: &[u8],
        (lookup, table, kind): (&Lookup, &[u8], Kind),
        left: &RowGlyph,
        right: &Option<RowGlyph>,
    ) -> Option<i32> {
        let is_skipped = |right: &RowGlyph| lookup.ignores(&self.definitions, bytes, right);
        if right.as_ref().is_some_and(is_skipped) {
            return None;
        }
        let right = right.as_ref().map(|right| right.glyph);
        if let Some(is_chained) = lookup.context(kind) {
            let mut subtables = lookup.subtables.iter();
            let does_nothing =
                !subtables.any(|own| may_match(table, (own.at, is_chained), left.glyph, right));
            return does_nothing.then_some(0);
        }
        match (kind, lookup.kind, right) {
            (Kind::Substitution, 4, _) => {
                let mut steps = MOST_STEPS;
                let step = || {
                    steps -= 1;
                    steps > 0
                };
                let begins = begins(lookup, table, left.glyph, right, step);
                begins.is_none().then_some(0)
            }
            (Kind::Positioning, 2, None) => Some(0),
            (Kind::Positioning, 2, Some(right)) => {
                sole_advance(lookup, table, self.varied(bytes), left.glyph, right)
            }
            _ => None,
        }
    }
}
