//! `fvar` and `avar`: the axes of a variable font, and where a setting of them
//! lies between -1 and 1.

use super::Directory;
use crate::font::table::Table;
use crate::font::{FontError, Tag};

/// Length of an axis record, in bytes.
const AXIS: usize = 20;

/// One axis, as the file states it.
#[derive(Clone, Copy)]
pub(in crate::font) struct AxisRecord {
    pub(in crate::font) tag: Tag,
    pub(in crate::font) min: f32,
    pub(in crate::font) default: f32,
    pub(in crate::font) max: f32,
    pub(in crate::font) name: u16,
}

/// A named setting of all axes.
pub(in crate::font) struct InstanceRecord {
    pub(in crate::font) name: u16,
    pub(in crate::font) values: Vec<f32>,
}

/// Fixed-point 16.16.
fn fixed(table: &Table<'_>, at: usize) -> Result<f32, FontError> {
    table.u32(at).map(|value| value as i32 as f32 / 65536.0)
}

/// Fixed-point 2.14.
pub(super) fn f2dot14(table: &Table<'_>, at: usize) -> Result<f32, FontError> {
    table.i16(at).map(|value| f32::from(value) / 16384.0)
}

pub(in crate::font) fn read_axes(
    directory: &Directory,
    bytes: &[u8],
) -> Result<Vec<AxisRecord>, FontError> {
    let Some(fvar) = directory.table(bytes, b"fvar") else {
        return Ok(Vec::new());
    };
    let start = usize::from(fvar.u16(4)?);
    let axis = |index: usize| {
        let at = start + index * AXIS;
        Ok(AxisRecord {
            tag: fvar.tag(at)?,
            min: fixed(&fvar, at + 4)?,
            default: fixed(&fvar, at + 8)?,
            max: fixed(&fvar, at + 12)?,
            name: fvar.u16(at + 18)?,
        })
    };
    (0..usize::from(fvar.u16(8)?)).map(axis).collect()
}

pub(in crate::font) fn read_instances(
    directory: &Directory,
    bytes: &[u8],
) -> Result<Vec<InstanceRecord>, FontError> {
    let Some(fvar) = directory.table(bytes, b"fvar") else {
        return Ok(Vec::new());
    };
    let axes = usize::from(fvar.u16(8)?);
    let start = usize::from(fvar.u16(4)?) + axes * AXIS;
    let size = usize::from(fvar.u16(14)?);
    let instance = |index: usize| {
        let at = start + index * size;
        let values = (0..axes).map(|axis| fixed(&fvar, at + 4 + axis * 4));
        Ok(InstanceRecord {
            name: fvar.u16(at)?,
            values: values.collect::<Result<_, FontError>>()?,
        })
    };
    (0..usize::from(fvar.u16(12)?)).map(instance).collect()
}

/// Brings a setting of the axes to -1 … 1 (OpenType, “Coordinate Scales and
/// Normalization”), through the segments of `avar` where the font has them.
pub(in crate::font) fn normalize(
    directory: &Directory,
    bytes: &[u8],
    axes: &[AxisRecord],
    values: &[f32],
) -> Result<Vec<f32>, FontError> {
    let mut places: Vec<f32> = axes
        .iter()
        .zip(values)
        .map(|(axis, value)| place_on(axis, *value))
        .collect();
    let Some(avar) = directory.table(bytes, b"avar") else {
        return Ok(places);
    };
    let mut at = 8;
    for place in places.iter_mut().take(usize::from(avar.u16(6)?)) {
        let count = usize::from(avar.u16(at)?);
        *place = through_segments(&avar, at + 2, count, *place)?;
        at += 2 + count * 4;
    }
    Ok(places)
}

fn place_on(axis: &AxisRecord, value: f32) -> f32 {
    let value = value.max(axis.min).min(axis.max);
    let share = |from: f32, to: f32| {
        if to > from {
            (value - from) / (to - from)
        } else {
            0.0
        }
    };
    if value < axis.default {
        share(axis.min, axis.default) - 1.0
    } else {
        share(axis.default, axis.max)
    }
}

/// `avar`: a piecewise straight line through (from, to) pairs.
fn through_segments(
    avar: &Table<'_>,
    at: usize,
    count: usize,
    place: f32,
) -> Result<f32, FontError> {
    let pair = |index: usize| {
        Ok((
            f2dot14(avar, at + index * 4)?,
            f2dot14(avar, at + index * 4 + 2)?,
        ))
    };
    for index in 1..count {
        let ((from, to), (next_from, next_to)) = (pair(index - 1)?, pair(index)?);
        if place <= next_from && next_from > from {
            let share = ((place - from) / (next_from - from)).max(0.0);
            return Ok(to + (next_to - to) * share);
        }
    }
    Ok(place)
}
