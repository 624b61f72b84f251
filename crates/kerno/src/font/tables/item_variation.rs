//! Item variation stores: how single numbers move along the axes; `HVAR` for
//! advances, `MVAR` for measures of the face.

use std::ops::Range;

use super::Directory;
use super::fvar::f2dot14;
use super::gvar::axis_scale;
use crate::font::table::Table;
use crate::font::{FontError, GlyphId, Tag};

/// A table with an item variation store, for one setting of the axes.
pub(in crate::font) struct ItemVariations {
    tag: Tag,
    range: Range<usize>,
    places: Vec<f32>,
}

impl ItemVariations {
    pub(in crate::font) fn read(
        directory: &Directory,
        bytes: &[u8],
        tag: &'static [u8; 4],
        places: &[f32],
    ) -> Option<Self> {
        Some(Self {
            tag: Tag::new(tag),
            range: directory.range(bytes, tag)?,
            places: places.to_vec(),
        })
    }

    /// Checks that all of `HVAR` is there, so that no advance can fail later.
    pub(in crate::font) fn check_advances(&self, bytes: &[u8]) -> Result<(), FontError> {
        let hvar = self.table(bytes);
        check_store(&hvar.from(hvar.u32(4)? as usize)?)?;
        match hvar.u32(8)? {
            0 => Ok(()),
            map => mapped(&hvar.from(map as usize)?, GlyphId(u16::MAX)).map(drop),
        }
    }

    fn table<'a>(&self, bytes: &'a [u8]) -> Table<'a> {
        Table::new(self.tag, &bytes[self.range.clone()])
    }

    /// `HVAR`: how much an advance grows.
    pub(in crate::font) fn advance(&self, bytes: &[u8], glyph: GlyphId) -> Result<f32, FontError> {
        let hvar = self.table(bytes);
        let (outer, inner) = match hvar.u32(8)? {
            0 => (0, usize::from(glyph.0)),
            map => mapped(&hvar.from(map as usize)?, glyph)?,
        };
        self.delta(&hvar.from(hvar.u32(4)? as usize)?, outer, inner)
    }

    /// `MVAR`: how much a measure grows, by its tag.
    pub(in crate::font) fn measure(&self, bytes: &[u8], tag: &[u8; 4]) -> Result<f32, FontError> {
        let mvar = self.table(bytes);
        let (size, count) = (usize::from(mvar.u16(6)?), usize::from(mvar.u16(8)?));
        for record in (12..).step_by(size.max(8)).take(count) {
            if mvar.tag(record)?.0 == *tag {
                let (outer, inner) = (mvar.u16(record + 4)?, mvar.u16(record + 6)?);
                let store = mvar.from(usize::from(mvar.u16(10)?))?;
                return self.delta(&store, outer.into(), inner.into());
            }
        }
        Ok(0.0)
    }

    /// OpenType, “Item Variation Store”.
    fn delta(&self, store: &Table<'_>, outer: usize, inner: usize) -> Result<f32, FontError> {
        if outer >= usize::from(store.u16(6)?) {
            return Ok(0.0);
        }
        let regions = store.from(store.u32(2)? as usize)?;
        let data = store.from(store.u32(8 + outer * 4)? as usize)?;
        if inner >= usize::from(data.u16(0)?) {
            return Ok(0.0);
        }
        let words = data.u16(2)?;
        let (wide, words) = (words & 0x8000 != 0, usize::from(words & 0x7fff));
        let count = usize::from(data.u16(4)?);
        let (long, short) = if wide { (4, 2) } else { (2, 1) };
        let row = 6 + count * 2 + inner * (words * long + count.saturating_sub(words) * short);
        let mut total = 0.0;
        for column in 0..count {
            let delta = if column < words {
                let at = row + column * long;
                if wide {
                    data.u32(at)? as i32 as f32
                } else {
                    f32::from(data.i16(at)?)
                }
            } else {
                let at = row + words * long + (column - words) * short;
                if wide {
                    f32::from(data.i16(at)?)
                } else {
                    f32::from(data.u8(at)? as i8)
                }
            };
            let region = usize::from(data.u16(6 + column * 2)?);
            total += delta * region_scale(&regions, region, &self.places)?;
        }
        Ok(total)
    }
}

/// Where a table keeps its item variation store, for one setting of the axes: what
/// charstrings need, which bring their deltas themselves.
pub(in crate::font) struct VariationRegions {
    /// Where the store starts in the table.
    pub(super) store: usize,
    /// Each axis from -1 to 1.
    pub(super) places: Vec<f32>,
}

impl VariationRegions {
    /// Writes down how much each region of one variation data counts; returns how
    /// many there are.
    pub(super) fn scales(
        &self,
        table: &Table<'_>,
        index: usize,
        into: &mut [f32],
    ) -> Result<usize, FontError> {
        let store = table.from(self.store)?;
        let count = store.u16(6)?;
        if index >= usize::from(count) {
            let expected = "the variation store has fewer data";
            return Err(table.bad(self.store, "vsindex", index as i64, expected));
        }
        let data = store.from(store.u32(8 + index * 4)? as usize)?;
        let regions = store.from(store.u32(2)? as usize)?;
        let count = usize::from(data.u16(4)?);
        let Some(scales) = into.get_mut(..count) else {
            let expected = "more than a charstring has room for";
            return Err(table.bad(self.store, "regionIndexCount", count as i64, expected));
        };
        for (column, scale) in scales.iter_mut().enumerate() {
            let region = usize::from(data.u16(6 + column * 2)?);
            *scale = region_scale(&regions, region, &self.places)?;
        }
        Ok(count)
    }
}

/// How much a region counts with the axes at `places` (at their defaults where
/// there are none).
fn region_scale(regions: &Table<'_>, region: usize, places: &[f32]) -> Result<f32, FontError> {
    let axes = usize::from(regions.u16(0)?);
    let mut scale = 1.0;
    for axis in 0..axes {
        let at = 4 + (region * axes + axis) * 6;
        let [start, peak, end] = [at, at + 2, at + 4].map(|at| f2dot14(regions, at));
        let place = places.get(axis).copied().unwrap_or(0.0);
        scale *= axis_scale(place, start?, peak?, end?);
    }
    Ok(scale)
}

/// Checks that every part of an item variation store lies in its table.
fn check_store(store: &Table<'_>) -> Result<(), FontError> {
    let regions = store.from(store.u32(2)? as usize)?;
    let (axes, region_count) = (usize::from(regions.u16(0)?), regions.u16(2)?);
    regions.slice(4, axes * 6 * usize::from(region_count))?;
    for outer in 0..usize::from(store.u16(6)?) {
        let data = store.from(store.u32(8 + outer * 4)? as usize)?;
        let (rows, words, count) = (data.u16(0)?, data.u16(2)?, usize::from(data.u16(4)?));
        for column in 0..count {
            let region = data.u16(6 + column * 2)?;
            if region >= region_count {
                let expected = "the store has fewer regions";
                return Err(data.bad(6 + column * 2, "regionIndexes", region.into(), expected));
            }
        }
        let size = if words & 0x8000 != 0 { 2 } else { 1 };
        let row = (count.max(usize::from(words & 0x7fff)) + usize::from(words & 0x7fff)) * size;
        data.slice(6 + count * 2, row * usize::from(rows))?;
    }
    Ok(())
}

/// `DeltaSetIndexMap`: which numbers of the store a glyph uses.
fn mapped(map: &Table<'_>, glyph: GlyphId) -> Result<(usize, usize), FontError> {
    let (format, entry) = (map.u8(0)?, map.u8(1)?);
    let (count, start) = if format == 0 {
        (usize::from(map.u16(2)?), 4)
    } else {
        (map.u32(2)? as usize, 6)
    };
    // Glyphs past the end share the last entry.
    let Some(index) = count.checked_sub(1).map(|last| last.min(glyph.0.into())) else {
        return Ok((0, usize::from(glyph.0)));
    };
    let size = usize::from(entry >> 4 & 3) + 1;
    let bytes = map.slice(start + index * size, size)?;
    let number = bytes
        .iter()
        .fold(0_usize, |number, byte| (number << 8) | usize::from(*byte));
    let inner_bits = u32::from(entry & 0x0f) + 1;
    Ok((number >> inner_bits, number & ((1 << inner_bits) - 1)))
}
