//! Item variation stores: how single numbers move along the axes; `HVAR` for
//! advances (`VVAR` for upright ones), `MVAR` for measures of the face, `GDEF` for where glyphs stand.

use std::ops::Range;

use super::Directory;
use super::fvar::f2dot14;
use super::gvar::axis_scale;
use crate::font::table::Table;
use crate::font::{FontError, GlyphId, Tag};

/// A table with an item variation store, for one setting of the axes. All of it is
/// checked when it is read, so that a delta is a few additions.
#[derive(Debug)]
pub(in crate::font) struct ItemVariations {
    tag: Tag,
    range: Range<usize>,
    data: Vec<Deltas>,
    /// `HVAR`: which item a glyph uses, where the table has a list.
    mapping: Option<Mapping>,
}

/// One set of items (OpenType, its item variation data): rows of deltas, a column for
/// each region.
#[derive(Debug)]
struct Deltas {
    /// The byte at which the first row starts in the table.
    start: usize,
    rows: usize,
    /// Bytes in a row.
    length: usize,
    /// The number of columns that are long, and how many bytes those have; the others
    /// have half of that.
    longs: usize,
    long: usize,
    /// The scalar of the region of each column.
    scales: Vec<f32>,
}

/// A list of items by glyph (OpenType, its delta set index map).
#[derive(Debug)]
struct Mapping {
    start: usize,
    /// Glyphs past the end share the last entry.
    last: usize,
    size: usize,
    inner_bits: u32,
}

/// The most columns in all of a store: one that says more says the same again.
const MOST_COLUMNS: usize = 1 << 16;

impl ItemVariations {
    pub(in crate::font) fn read(
        directory: &Directory,
        bytes: &[u8],
        tag: &'static [u8; 4],
        places: &[f32],
    ) -> Result<Option<Self>, FontError> {
        let (Some(range), Some(table)) = (directory.range(bytes, tag), directory.table(bytes, tag))
        else {
            return Ok(None);
        };
        let (store, map) = match tag {
            b"HVAR" | b"VVAR" => (table.u32(4)? as usize, table.u32(8)? as usize),
            // From version 1.3 on.
            b"GDEF" if table.u16(2)? < 3 => (0, 0),
            b"GDEF" => (table.u32(14)? as usize, 0),
            b"COLR" => (table.u32(30)? as usize, table.u32(26)? as usize),
            _ => (usize::from(table.u16(10)?), 0),
        };
        let data = match store {
            0 => Vec::new(),
            _ => read_store(&table.from(store)?, places)?,
        };
        let mapping = match map {
            0 => None,
            _ => Mapping::read(&table.from(map)?)?,
        };
        Ok(Some(Self {
            tag: Tag::new(tag),
            range,
            data,
            mapping,
        }))
    }

    /// `HVAR` and `VVAR`: how much an advance grows.
    pub(in crate::font) fn advance(&self, bytes: &[u8], glyph: GlyphId) -> f32 {
        let table = &bytes[self.range.clone()];
        let item = match &self.mapping {
            None => Some((0, usize::from(glyph.0))),
            Some(mapping) => mapping.item(table, glyph.0.into()),
        };
        let delta = item.and_then(|(outer, inner)| self.delta(table, outer, inner));
        delta.unwrap_or(0.0)
    }

    /// `MVAR`: how much a measure grows, by its tag.
    pub(in crate::font) fn measure(&self, bytes: &[u8], tag: &[u8; 4]) -> Result<f32, FontError> {
        let bytes = &bytes[self.range.clone()];
        let mvar = Table::new(self.tag, bytes);
        let (size, count) = (usize::from(mvar.u16(6)?), usize::from(mvar.u16(8)?));
        for record in (12..).step_by(size.max(8)).take(count) {
            if mvar.tag(record)?.0 == *tag {
                let (outer, inner) = (mvar.u16(record + 4)?, mvar.u16(record + 6)?);
                let delta = self.delta(bytes, outer.into(), inner.into());
                return Ok(delta.unwrap_or(0.0));
            }
        }
        Ok(0.0)
    }

    /// `GDEF`: how much a number grows that the other tables for layout name an item for.
    pub(in crate::font) fn item(&self, bytes: &[u8], outer: u16, inner: u16) -> f32 {
        let table = bytes.get(self.range.clone()).unwrap_or_default();
        let delta = self.delta(table, outer.into(), inner.into());
        delta.unwrap_or(0.0)
    }

    /// `COLR`: how much a number grows by its index, through the list where the table has one.
    pub(in crate::font) fn listed(&self, bytes: &[u8], index: u32) -> f32 {
        let table = bytes.get(self.range.clone()).unwrap_or_default();
        let item = match &self.mapping {
            None => Some(((index >> 16) as usize, (index & 0xffff) as usize)),
            Some(mapping) => mapping.item(table, index as usize),
        };
        let delta = item.and_then(|(outer, inner)| self.delta(table, outer, inner));
        delta.unwrap_or(0.0)
    }

    /// OpenType, “Item Variation Store”; `None` for an item that there isn't, which
    /// does not vary.
    fn delta(&self, table: &[u8], outer: usize, inner: usize) -> Option<f32> {
        let data = self.data.get(outer).filter(|data| inner < data.rows)?;
        let start = data.start + inner * data.length;
        let row = table.get(start..start + data.length)?;
        let (longs, shorts) = row.split_at_checked(data.longs * data.long)?;
        let (long_scales, short_scales) = data.scales.split_at_checked(data.longs)?;
        let sums = match data.long {
            2 => {
                sum(longs, long_scales, i16::from_be_bytes)
                    + sum(shorts, short_scales, i8::from_be_bytes)
            }
            _ => {
                let wide = |bytes| i32::from_be_bytes(bytes) as f32;
                sum(longs, long_scales, wide) + sum(shorts, short_scales, i16::from_be_bytes)
            }
        };
        Some(sums)
    }
}

/// Reads the layout of an item variation store, and how much each region counts
/// with the axes at `places`.
fn read_store(store: &Table<'_>, places: &[f32]) -> Result<Vec<Deltas>, FontError> {
    let regions = store.from(store.u32(2)? as usize)?;
    let (axes, region_count) = (usize::from(regions.u16(0)?), regions.u16(2)?);
    regions.slice(4, axes * 6 * usize::from(region_count))?;
    let scales: Vec<f32> = (0..region_count.into())
        .map(|region| region_scale(&regions, region, places))
        .collect::<Result<_, _>>()?;
    let mut sets = Vec::new();
    let mut columns = 0;
    for outer in 0..usize::from(store.u16(6)?) {
        let data = store.from(store.u32(8 + outer * 4)? as usize)?;
        let (rows, words, count) = (data.u16(0)?, data.u16(2)?, usize::from(data.u16(4)?));
        columns += count;
        if columns > MOST_COLUMNS {
            let expected = "more than any font needs";
            return Err(data.bad(4, "regionIndexCount", count as i64, expected));
        }
        let (longs, long) = (
            usize::from(words & 0x7fff),
            if words & 0x8000 != 0 { 4 } else { 2 },
        );
        if longs > count {
            let expected = "there are not as many columns";
            return Err(data.bad(2, "wordDeltaCount", longs as i64, expected));
        }
        let length = longs * long + (count - longs) * (long / 2);
        data.slice(6 + count * 2, length * usize::from(rows))?;
        let scale = |column: usize| {
            let region = data.u16(6 + column * 2)?;
            scales.get(usize::from(region)).copied().ok_or_else(|| {
                let expected = "the store has fewer regions";
                data.bad(6 + column * 2, "regionIndexes", region.into(), expected)
            })
        };
        sets.push(Deltas {
            start: data.start() + 6 + count * 2,
            rows: rows.into(),
            length,
            longs,
            long,
            scales: (0..count).map(scale).collect::<Result<_, _>>()?,
        });
    }
    Ok(sets)
}

impl Mapping {
    /// Reads the header; `None` for an empty list.
    fn read(map: &Table<'_>) -> Result<Option<Self>, FontError> {
        let (format, entry) = (map.u8(0)?, map.u8(1)?);
        let (count, start) = if format == 0 {
            (usize::from(map.u16(2)?), 4)
        } else {
            (map.u32(2)? as usize, 6)
        };
        let size = usize::from(entry >> 4 & 3) + 1;
        map.slice(start, count.saturating_mul(size))?;
        Ok(count.checked_sub(1).map(|last| Self {
            start: map.start() + start,
            last,
            size,
            inner_bits: u32::from(entry & 0x0f) + 1,
        }))
    }

    /// The set of items of a glyph, or of another index, and which of them.
    fn item(&self, table: &[u8], index: usize) -> Option<(usize, usize)> {
        let at = self.start + self.last.min(index) * self.size;
        let bytes = table.get(at..at + self.size)?;
        let number = bytes
            .iter()
            .fold(0, |number, byte| (number << 8) | usize::from(*byte));
        let inner = number & ((1 << self.inner_bits) - 1);
        Some((number >> self.inner_bits, inner))
    }
}

/// Adds up deltas of `N` bytes, each as much as its region counts.
fn sum<const N: usize, T: Into<f32>>(
    deltas: &[u8],
    scales: &[f32],
    number: impl Fn([u8; N]) -> T,
) -> f32 {
    let (deltas, _) = deltas.as_chunks::<N>();
    let mut total = 0.0;
    for (delta, scale) in deltas.iter().zip(scales) {
        let delta: f32 = number(*delta).into();
        total += delta * scale;
    }
    total
}

/// The place of a table's item variation store, for one setting of the axes: for
/// charstrings, which bring their deltas themselves.
pub(in crate::font) struct VariationRegions {
    /// The byte at which the store starts in the table.
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

/// The scalar of a region with the axes at `places` (at their defaults where
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
