//! `gvar`: how the points of a TrueType outline move along the axes.

use std::ops::Range;

use super::Directory;
use super::fvar::f2dot14;
use crate::font::table::Table;
use crate::font::{FontError, GlyphId, Tag};
use crate::outline::{DeltaMemory, OutlinePoint};

const TAG: Tag = Tag::new(b"gvar");

/// Flags of a tuple's header (OpenType, `TupleVariationHeader`).
mod tuple_flag {
    pub(super) const EMBEDDED_PEAK: u16 = 0x8000;
    pub(super) const INTERMEDIATE: u16 = 0x4000;
    pub(super) const PRIVATE_POINTS: u16 = 0x2000;
    pub(super) const INDEX: u16 = 0x0fff;
}

/// The variations of all glyphs, for one setting of the axes.
pub(in crate::font) struct GlyphVariations {
    range: Range<usize>,
    /// Each axis from -1 to 1.
    places: Vec<f32>,
}

/// The outline that varies: its points with the phantom points after them, and
/// where its contours end.
#[derive(Clone, Copy)]
pub(super) struct Shape<'a> {
    pub(super) points: &'a [OutlinePoint],
    /// One past the last point of each contour; a composite has none.
    pub(super) ends: &'a [usize],
    /// The index of the first point in `ends`.
    pub(super) first: usize,
}

/// One tuple: where its serialized data starts, and how much it counts.
#[derive(Clone, Copy)]
struct Tuple {
    at: usize,
    flags: u16,
    /// The shared point numbers are all points.
    shares_all: bool,
    scale: f32,
}

impl GlyphVariations {
    /// Finds the table; `None` in a font without, which does not vary.
    pub(in crate::font) fn read(
        directory: &Directory,
        bytes: &[u8],
        places: &[f32],
    ) -> Result<Option<Self>, FontError> {
        let Some(gvar) = directory.table(bytes, b"gvar") else {
            return Ok(None);
        };
        let axes = gvar.u16(4)?;
        if usize::from(axes) != places.len() {
            return Err(gvar.bad(4, "axisCount", axes.into(), "it must be that of 'fvar'"));
        }
        Ok(Some(Self {
            range: directory.range(bytes, b"gvar").unwrap_or_default(),
            places: places.to_vec(),
        }))
    }

    /// Adds up how far each point moves, into `buffer.total`. Points that a tuple
    /// does not name are interpolated along their contour.
    pub(super) fn deltas(
        &self,
        bytes: &[u8],
        glyph: GlyphId,
        shape: Shape<'_>,
        buffer: &mut DeltaMemory,
    ) -> Result<(), FontError> {
        let points = shape.points;
        buffer.total.clear();
        buffer.total.resize(points.len(), OutlinePoint::default());
        let gvar = Table::new(TAG, &bytes[self.range.clone()]);
        let Some(data) = glyph_data(&gvar, glyph)? else {
            return Ok(());
        };
        let count = data.u16(0)?;
        let mut body = usize::from(data.u16(2)?);
        let mut header = 4;
        buffer.shared.clear();
        let mut names_all = true;
        if count & 0x8000 != 0 {
            (body, names_all) = read_points(&data, body, points.len(), &mut buffer.shared)?;
        }
        for _ in 0..count & 0x0fff {
            let size = usize::from(data.u16(header)?);
            let flags = data.u16(header + 2)?;
            let (scale, next) = self.scale(&gvar, &data, header + 4, flags)?;
            header = next;
            if scale != 0.0 {
                let tuple = Tuple {
                    at: body,
                    flags,
                    shares_all: names_all,
                    scale,
                };
                add_tuple(&data, tuple, shape, buffer)?;
            }
            body += size;
        }
        Ok(())
    }

    /// The scalar of a tuple here (OpenType, “Algorithm for Interpolation of
    /// Instance Values”), and where the next header starts.
    fn scale(
        &self,
        gvar: &Table<'_>,
        data: &Table<'_>,
        mut at: usize,
        flags: u16,
    ) -> Result<(f32, usize), FontError> {
        let tuple_size = self.places.len() * 2;
        let (peaks, peak_at) = if flags & tuple_flag::EMBEDDED_PEAK != 0 {
            at += tuple_size;
            (data, at - tuple_size)
        } else {
            let shared = gvar.u32(8)? as usize;
            (
                gvar,
                shared + usize::from(flags & tuple_flag::INDEX) * tuple_size,
            )
        };
        let reach = (flags & tuple_flag::INTERMEDIATE != 0).then_some(at);
        if reach.is_some() {
            at += tuple_size * 2;
        }
        let mut scale = 1.0;
        for (axis, place) in self.places.iter().enumerate() {
            let peak = f2dot14(peaks, peak_at + axis * 2)?;
            let (start, end) = match reach {
                Some(reach) => (
                    f2dot14(data, reach + axis * 2)?,
                    f2dot14(data, reach + tuple_size + axis * 2)?,
                ),
                None => (peak.min(0.0), peak.max(0.0)),
            };
            scale *= axis_scale(*place, start, peak, end);
        }
        Ok((scale, at))
    }
}

/// Reads the deltas of one tuple and adds them, scaled.
fn add_tuple(
    data: &Table<'_>,
    tuple: Tuple,
    shape: Shape<'_>,
    buffer: &mut DeltaMemory,
) -> Result<(), FontError> {
    let points = shape.points;
    let DeltaMemory {
        total,
        tuple: moves,
        points: own,
        shared,
        values,
    } = buffer;
    let (mut at, mut names_all, mut named) = (tuple.at, tuple.shares_all, &*shared);
    if tuple.flags & tuple_flag::PRIVATE_POINTS != 0 {
        own.clear();
        (at, names_all) = read_points(data, at, points.len(), own)?;
        named = own;
    }
    let count = if names_all { points.len() } else { named.len() };
    values.clear();
    read_deltas(data, at, count * 2, values)?;
    let (xs, ys) = values.split_at(count);
    let deltas = xs.iter().zip(ys).map(|(x, y)| OutlinePoint::new(*x, *y));
    if names_all {
        for (total, delta) in total.iter_mut().zip(deltas) {
            add(total, delta, tuple.scale);
        }
        return Ok(());
    }
    moves.clear();
    moves.resize(points.len(), None);
    for (point, delta) in named.iter().zip(deltas) {
        if let Some(slot) = moves.get_mut(usize::from(*point)) {
            *slot = Some(delta);
        }
    }
    let mut start = 0;
    for end in shape.ends.iter().map(|end| end - shape.first) {
        interpolate(&points[start..end], &mut moves[start..end]);
        start = end;
    }
    for (total, delta) in total.iter_mut().zip(moves.iter()) {
        add(total, delta.unwrap_or_default(), tuple.scale);
    }
    Ok(())
}

fn add(total: &mut OutlinePoint, delta: OutlinePoint, scale: f32) {
    total.x += delta.x * scale;
    total.y += delta.y * scale;
}

/// The share of one axis in the scalar of a region.
pub(super) fn axis_scale(place: f32, start: f32, peak: f32, end: f32) -> f32 {
    // An axis that the region does not speak of, or speaks of in a way that the
    // standard tells to ignore.
    if peak == 0.0 || start > peak || peak > end || (start < 0.0 && end > 0.0) {
        return 1.0;
    }
    if place == peak {
        1.0
    } else if place <= start || place >= end {
        0.0
    } else if place < peak {
        (place - start) / (peak - start)
    } else {
        (end - place) / (end - peak)
    }
}

/// The variation data of a glyph; `None` where it does not vary.
fn glyph_data<'a>(gvar: &Table<'a>, glyph: GlyphId) -> Result<Option<Table<'a>>, FontError> {
    if glyph.0 >= gvar.u16(12)? {
        return Ok(None);
    }
    let index = usize::from(glyph.0);
    let (start, end) = if gvar.u16(14)? & 1 != 0 {
        (
            gvar.u32(20 + index * 4)? as usize,
            gvar.u32(24 + index * 4)? as usize,
        )
    } else {
        (
            usize::from(gvar.u16(20 + index * 2)?) * 2,
            usize::from(gvar.u16(22 + index * 2)?) * 2,
        )
    };
    if end <= start {
        return Ok(None);
    }
    let base = gvar.u32(16)? as usize;
    gvar.from(base.saturating_add(start)).map(Some)
}

/// Packed point numbers: where they end, and whether they are all points.
fn read_points(
    data: &Table<'_>,
    mut at: usize,
    most: usize,
    into: &mut Vec<u16>,
) -> Result<(usize, bool), FontError> {
    let mut count = usize::from(data.u8(at)?);
    at += 1;
    if count == 0 {
        return Ok((at, true));
    }
    if count & 0x80 != 0 {
        count = ((count & 0x7f) << 8) | usize::from(data.u8(at)?);
        at += 1;
    }
    if count > most {
        return Err(data.bad(
            at,
            "point count",
            count as i64,
            "the glyph has fewer points",
        ));
    }
    let mut point = 0_u16;
    while into.len() < count {
        let control = data.u8(at)?;
        at += 1;
        for _ in 0..(usize::from(control & 0x7f) + 1).min(count - into.len()) {
            let step = if control & 0x80 != 0 {
                at += 2;
                data.u16(at - 2)?
            } else {
                at += 1;
                u16::from(data.u8(at - 1)?)
            };
            point = point.wrapping_add(step);
            into.push(point);
        }
    }
    Ok((at, false))
}

/// Packed deltas.
fn read_deltas(
    data: &Table<'_>,
    mut at: usize,
    count: usize,
    into: &mut Vec<f32>,
) -> Result<(), FontError> {
    while into.len() < count {
        let control = data.u8(at)?;
        at += 1;
        let run = (usize::from(control & 0x3f) + 1).min(count - into.len());
        for _ in 0..run {
            into.push(if control & 0x80 != 0 {
                0.0
            } else if control & 0x40 != 0 {
                at += 2;
                f32::from(data.i16(at - 2)?)
            } else {
                at += 1;
                f32::from(data.u8(at - 1)? as i8)
            });
        }
    }
    Ok(())
}

/// Moves the points of a contour that a tuple does not name with their named
/// neighbours (OpenType `gvar`, “Inferred deltas for un-referenced point
/// numbers”). A contour without any stays.
fn interpolate(points: &[OutlinePoint], deltas: &mut [Option<OutlinePoint>]) {
    let count = points.len();
    let Some(first) = deltas.iter().position(Option::is_some) else {
        return;
    };
    let mut before = first;
    for step in 1..=count {
        let after = (first + step) % count;
        let Some(after_delta) = deltas[after] else {
            continue;
        };
        let before_delta = deltas[before].unwrap_or_default();
        let mut at = (before + 1) % count;
        while at != after {
            let inferred = |axis: fn(&OutlinePoint) -> f32| {
                let (low, high) = (axis(&points[before]), axis(&points[after]));
                infer(
                    axis(&points[at]),
                    (low, axis(&before_delta)),
                    (high, axis(&after_delta)),
                )
            };
            let delta = OutlinePoint::new(inferred(|p| p.x), inferred(|p| p.y));
            deltas[at] = Some(delta);
            at = (at + 1) % count;
        }
        before = after;
        if after == first {
            return;
        }
    }
}

/// One coordinate between two named neighbours (place, delta).
fn infer(place: f32, a: (f32, f32), b: (f32, f32)) -> f32 {
    let (low, high) = if a.0 <= b.0 { (a, b) } else { (b, a) };
    if low.0 == high.0 {
        return if low.1 == high.1 { low.1 } else { 0.0 };
    }
    if place <= low.0 {
        low.1
    } else if place >= high.0 {
        high.1
    } else {
        low.1 + (high.1 - low.1) * (place - low.0) / (high.0 - low.0)
    }
}
