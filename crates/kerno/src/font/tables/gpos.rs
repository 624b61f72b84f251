//! `GPOS`: of all it can do, the pair adjustment that the feature `kern` asks
//! for (lookup type 2, also behind the extension type 9).

use super::Directory;
use crate::font::shaping::{PairValues, Varied, covered};
use crate::font::table::{Table, word};
use crate::font::{FontError, GlyphId, Tag};

const TAG: Tag = Tag::new(b"GPOS");
const PAIR: u16 = 2;
const EXTENSION: u16 = 9;

/// The pair lookups of the feature `kern`.
pub(in crate::font) struct PairLookups {
    /// Where each subtable starts in the file, lookup by lookup.
    lookups: Vec<Vec<usize>>,
    /// Where the table ends in the file.
    end: usize,
}

impl PairLookups {
    /// Finds the lookups of `kern` in the script of Latin text, or the default
    /// one. `None` where there are none: then it is the table `kern` that counts.
    pub(in crate::font) fn read(
        directory: &Directory,
        bytes: &[u8],
    ) -> Result<Option<Self>, FontError> {
        let Some(range) = directory.range(bytes, b"GPOS") else {
            return Ok(None);
        };
        let gpos = Table::new(TAG, &bytes[range.clone()]);
        let lookup_list = gpos.from(usize::from(gpos.u16(8)?))?;
        let mut numbers = kern_lookups(&gpos)?;
        numbers.sort_unstable();
        numbers.dedup();
        let mut lookups = Vec::new();
        for number in numbers {
            let count = lookup_list.u16(0)?;
            if number >= count {
                let expected = "the table has fewer lookups";
                return Err(lookup_list.bad(0, "lookup", number.into(), expected));
            }
            let lookup =
                lookup_list.from(usize::from(lookup_list.u16(2 + 2 * usize::from(number))?))?;
            let subtables = pair_subtables(&lookup)?;
            if !subtables.is_empty() {
                lookups.push(subtables.iter().map(|at| range.start + at).collect());
            }
        }
        Ok((!lookups.is_empty()).then_some(Self {
            lookups,
            end: range.end,
        }))
    }

    /// What the lookups together add to the advance of the left glyph. Of a
    /// lookup the first subtable counts that knows the pair.
    pub(in crate::font) fn pair(&self, varied: Varied<'_>, left: GlyphId, right: GlyphId) -> i32 {
        let in_lookup = |subtables: &Vec<usize>| {
            subtables
                .iter()
                .find_map(|at| pair_in(varied.0.get(*at..self.end)?, left, right, varied))
        };
        self.lookups.iter().filter_map(in_lookup).sum()
    }

    /// Whether any subtable knows pairs that begin with a glyph.
    pub(in crate::font) fn knows(&self, bytes: &[u8], left: GlyphId) -> bool {
        let covers = |at: &usize| {
            let subtable = bytes.get(*at..self.end)?;
            covered(subtable.get(usize::from(word(subtable, 2)?)..)?, left)
        };
        let mut subtables = self.lookups.iter().flatten();
        subtables.any(|at| covers(at).is_some())
    }
}

/// The lookups that `kern` names in the default language of Latin or of no
/// particular script.
fn kern_lookups(gpos: &Table<'_>) -> Result<Vec<u16>, FontError> {
    let scripts = gpos.from(usize::from(gpos.u16(4)?))?;
    let features = gpos.from(usize::from(gpos.u16(6)?))?;
    let mut best: Option<(u8, usize)> = None;
    for record in 0..usize::from(scripts.u16(0)?) {
        let at = 2 + record * 6;
        let rank = match &scripts.tag(at)?.0 {
            b"latn" => 3,
            b"DFLT" => 2,
            _ => 1,
        };
        if best.is_none_or(|(other, _)| other < rank) {
            best = Some((rank, usize::from(scripts.u16(at + 4)?)));
        }
    }
    let Some((_, script)) = best else {
        return Ok(Vec::new());
    };
    let script = scripts.from(script)?;
    let default = match script.u16(0)? {
        0 => return Ok(Vec::new()),
        offset => script.from(usize::from(offset))?,
    };
    let mut lookups = Vec::new();
    for index in 0..usize::from(default.u16(4)?) {
        let feature = usize::from(default.u16(6 + index * 2)?);
        if feature >= usize::from(features.u16(0)?) {
            let expected = "the table has fewer features";
            return Err(default.bad(6 + index * 2, "feature", feature as i64, expected));
        }
        let at = 2 + feature * 6;
        if features.tag(at)?.0 != *b"kern" {
            continue;
        }
        let feature = features.from(usize::from(features.u16(at + 4)?))?;
        for lookup in 0..usize::from(feature.u16(2)?) {
            lookups.push(feature.u16(4 + lookup * 2)?);
        }
    }
    Ok(lookups)
}

/// Where the pair subtables of a lookup start in the table.
fn pair_subtables(lookup: &Table<'_>) -> Result<Vec<usize>, FontError> {
    let kind = lookup.u16(0)?;
    let mut found = Vec::new();
    for index in 0..usize::from(lookup.u16(4)?) {
        let offset = usize::from(lookup.u16(6 + index * 2)?);
        let subtable = lookup.from(offset)?;
        let place = match kind {
            PAIR => subtable,
            EXTENSION if subtable.u16(2)? == PAIR => subtable.from(subtable.u32(4)? as usize)?,
            _ => continue,
        };
        place.u16(0)?;
        found.push(place.start());
    }
    Ok(found)
}

/// What is added to the advance of the first glyph of a pair, where the subtable knows
/// it.
fn pair_in(subtable: &[u8], left: GlyphId, right: GlyphId, varied: Varied<'_>) -> Option<i32> {
    let coverage = subtable.get(usize::from(word(subtable, 2)?)..)?;
    covered(coverage, left)?;
    let [first, _] = PairValues::find(subtable, left, right)?.read(subtable, varied)?;
    Some(first.advance)
}
