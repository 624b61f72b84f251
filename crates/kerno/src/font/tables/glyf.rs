//! `glyf`: TrueType outlines, simple and composite.

use super::GlyphLocations;
use super::gvar::{GlyphVariations, Shape};
use crate::base::Limits;
use crate::font::table::Table;
use crate::font::{FontError, GlyphId, TableFault};
use crate::outline::{Contours, DeltaMemory, OutlinePoint, PointKind, ReaderMemory};

/// Flags of a point in a simple glyph.
mod point_flag {
    pub(super) const ON_CURVE: u8 = 0x01;
    pub(super) const X_SHORT: u8 = 0x02;
    pub(super) const Y_SHORT: u8 = 0x04;
    pub(super) const REPEAT: u8 = 0x08;
}

/// Flags of a component of a composite glyph. `ROUND_XY_TO_GRID` (0x0004) speaks of
/// hinted glyphs only: unhinted positions have no grid.
mod part_flag {
    pub(super) const ARGS_ARE_WORDS: u16 = 0x0001;
    pub(super) const ARGS_ARE_XY: u16 = 0x0002;
    pub(super) const ONE_SCALE: u16 = 0x0008;
    pub(super) const MORE_PARTS: u16 = 0x0020;
    pub(super) const TWO_SCALES: u16 = 0x0040;
    pub(super) const TWO_BY_TWO: u16 = 0x0080;
    pub(super) const USE_MY_METRICS: u16 = 0x0200;
    pub(super) const SCALED_OFFSET: u16 = 0x0800;
    pub(super) const UNSCALED_OFFSET: u16 = 0x1000;
}

/// The distance the ends of the advance move in a variable font: its first two
/// phantom points, rightwards.
#[derive(Clone, Copy, Debug, Default)]
pub(in crate::font) struct PhantomDeltas {
    pub(in crate::font) origin: f32,
    pub(in crate::font) advance: f32,
    /// By how much the upright advance grows: its other two, upwards.
    pub(in crate::font) height: f32,
}

/// A recursive walk through a glyph and its components. Composites match points by
/// number, so all of them go into one list.
struct Reading<'a> {
    locations: &'a GlyphLocations,
    bytes: &'a [u8],
    limits: &'a Limits,
    variations: Option<&'a GlyphVariations>,
    /// The glyph asked for: limits are reported against it.
    root: GlyphId,
    /// Components met so far.
    parts: u32,
    /// True if there are contours of one point or none.
    has_lone_points: bool,
    memory: &'a mut ReaderMemory,
    into: &'a mut Contours,
}

impl GlyphLocations {
    /// Reads the points of a glyph with all its components into empty contours.
    /// Returns the xMin of its header and how far its phantom points move, or `None`
    /// where there is no outline.
    pub(in crate::font) fn load(
        &self,
        bytes: &[u8],
        glyph: GlyphId,
        limits: &Limits,
        variations: Option<&GlyphVariations>,
        (memory, into): (&mut ReaderMemory, &mut Contours),
    ) -> Result<Option<(i16, PhantomDeltas)>, FontError> {
        let Some(data) = self.glyph(bytes, glyph)? else {
            return Ok(None);
        };
        memory.moves.clear();
        let mut reading = Reading {
            locations: self,
            bytes,
            limits,
            variations,
            root: glyph,
            parts: 0,
            has_lone_points: false,
            memory,
            into,
        };
        let phantoms = reading.append(glyph, &data, 0)?;
        if reading.has_lone_points {
            into.drop_lone_points();
        }
        Ok(Some((data.i16(2)?, phantoms)))
    }

    /// The components of a composite glyph; none of a simple one.
    pub(in crate::font) fn components(
        &self,
        bytes: &[u8],
        glyph: GlyphId,
    ) -> Result<Vec<GlyphId>, FontError> {
        let mut components = Vec::new();
        let Some(data) = self.glyph(bytes, glyph)? else {
            return Ok(components);
        };
        if data.i16(0)? >= 0 {
            return Ok(components);
        }
        let mut at = 10;
        loop {
            let part = Component::read(&data, &mut at)?;
            components.push(part.glyph);
            if part.flags & part_flag::MORE_PARTS == 0 {
                return Ok(components);
            }
        }
    }

    /// The glyph whose metrics a glyph has: its own, or those of a component that says so
    /// (`USE_MY_METRICS`), the last of several.
    pub(in crate::font) fn metrics_glyph(
        &self,
        bytes: &[u8],
        glyph: GlyphId,
        depth: u32,
    ) -> GlyphId {
        let component = || {
            let data = self.glyph(bytes, glyph).ok().flatten()?;
            if data.i16(0).ok()? >= 0 {
                return None;
            }
            let (mut at, mut found) = (10, None);
            loop {
                let part = Component::read(&data, &mut at).ok()?;
                if part.flags & part_flag::USE_MY_METRICS != 0 {
                    found = Some(part.glyph);
                }
                if part.flags & part_flag::MORE_PARTS == 0 {
                    return found;
                }
            }
        };
        match component().filter(|_| depth > 0) {
            Some(component) => self.metrics_glyph(bytes, component, depth - 1),
            None => glyph,
        }
    }

    /// The distance the phantom points of a glyph move, with or without an outline.
    pub(in crate::font) fn phantom_deltas(
        &self,
        bytes: &[u8],
        glyph: GlyphId,
        limits: &Limits,
        variations: &GlyphVariations,
    ) -> Result<PhantomDeltas, FontError> {
        let (mut memory, mut into) = (ReaderMemory::default(), Contours::default());
        let buffers = (&mut memory, &mut into);
        let loaded = self.load(bytes, glyph, limits, Some(variations), buffers)?;
        if let Some((_, deltas)) = loaded {
            return Ok(deltas);
        }
        let outline = (&mut into.points, 0, &[][..]);
        vary(bytes, variations, glyph, outline, &mut memory.deltas)
    }
}

/// Finds how far the points of an outline move, from the `first` on, and the four
/// phantom points after them, whose own places make no difference. The contours end
/// at `ends`; a composite has none, its points are its components.
fn vary(
    bytes: &[u8],
    variations: &GlyphVariations,
    glyph: GlyphId,
    (points, first, ends): (&mut Vec<OutlinePoint>, usize, &[usize]),
    deltas: &mut DeltaMemory,
) -> Result<PhantomDeltas, FontError> {
    let end = points.len();
    points.resize(end + 4, OutlinePoint::default());
    let shape = Shape {
        points: &points[first..],
        ends,
        first,
    };
    let found = variations.deltas(bytes, glyph, shape, deltas);
    points.truncate(end);
    found?;
    let phantoms = &deltas.total[end - first..];
    Ok(PhantomDeltas {
        origin: phantoms[0].x,
        advance: phantoms[1].x - phantoms[0].x,
        height: phantoms[2].y - phantoms[3].y,
    })
}

impl Reading<'_> {
    fn over(&self, what: &'static str, limit: usize) -> FontError {
        FontError::Limit {
            glyph: self.root,
            what,
            limit,
        }
    }

    fn append(
        &mut self,
        glyph: GlyphId,
        data: &Table<'_>,
        depth: u32,
    ) -> Result<PhantomDeltas, FontError> {
        match usize::try_from(data.i16(0)?) {
            Ok(0) => Ok(PhantomDeltas::default()),
            Ok(contours) => self.append_simple(glyph, data, contours),
            Err(_) => self.append_composite(glyph, data, depth),
        }
    }

    /// OpenType `glyf`, “Simple Glyph Description”.
    fn append_simple(
        &mut self,
        glyph: GlyphId,
        data: &Table<'_>,
        contours: usize,
    ) -> Result<PhantomDeltas, FontError> {
        let first = self.into.points.len();
        let first_contour = self.into.ends.len();
        let mut count = 0;
        for contour in 0..contours {
            let at = 10 + contour * 2;
            let end = usize::from(data.u16(at)?) + 1;
            if end < count {
                let expected = "not above the contour before";
                return Err(data.bad(at, "endPtsOfContours", end as i64 - 1, expected));
            }
            self.has_lone_points |= end < count + 2;
            count = end;
            self.into.ends.push(first + end);
        }
        if first + count > self.limits.outline_points {
            return Err(self.over("points", self.limits.outline_points));
        }
        let instructions = 10 + contours * 2;
        let at = instructions + 2 + usize::from(data.u16(instructions)?);
        self.read_points(data.from(at)?.bytes(), count)
            .ok_or_else(|| data.error(data.len(), TableFault::Truncated))?;
        let Some(variations) = self.variations else {
            return Ok(PhantomDeltas::default());
        };
        let (points, ends) = (&mut self.into.points, &self.into.ends[first_contour..]);
        let deltas = &mut self.memory.deltas;
        let phantoms = vary(self.bytes, variations, glyph, (points, first, ends), deltas)?;
        for (point, delta) in points[first..].iter_mut().zip(&deltas.total) {
            point.x += delta.x;
            point.y += delta.y;
        }
        Ok(phantoms)
    }

    /// The three arrays of a simple glyph: flags, x, y.
    fn read_points(&mut self, data: &[u8], count: usize) -> Option<()> {
        let (flags, into) = (&mut self.memory.flags, &mut *self.into);
        let at = read_flags(flags, count, data)?;
        let flags = &flags[..count];
        let first = into.points.len();
        into.points.resize(first + count, OutlinePoint::default());
        let points = &mut into.points[first..];
        let at = read_axis::<X_AXIS>(points, flags, data, at, |point| &mut point.x)?;
        read_axis::<Y_AXIS>(points, flags, data, at, |point| &mut point.y)?;
        into.kinds.resize(first + count, PointKind::OnCurve);
        for (kind, flags) in into.kinds[first..].iter_mut().zip(flags) {
            *kind = match *flags & point_flag::ON_CURVE {
                0 => PointKind::Quadratic,
                _ => PointKind::OnCurve,
            };
        }
        Some(())
    }

    /// OpenType `glyf`, “Composite Glyph Description”.
    fn append_composite(
        &mut self,
        glyph: GlyphId,
        data: &Table<'_>,
        depth: u32,
    ) -> Result<PhantomDeltas, FontError> {
        if depth >= self.limits.composite_depth {
            let limit = self.limits.composite_depth as usize;
            return Err(self.over("levels of components (or contains itself)", limit));
        }
        let parent_moves = self.memory.moves.len();
        let mut moves = parent_moves;
        let phantoms = self.component_deltas(glyph, data)?;
        let parent = self.into.points.len();
        let mut at = 10;
        loop {
            self.parts += 1;
            if self.parts > self.limits.composite_components {
                return Err(self.over("components", self.limits.composite_components as usize));
            }
            let part = Component::read(data, &mut at)?;
            if part.glyph.0 >= self.locations.glyph_count() {
                let expected = "the face has no such glyph";
                return Err(data.bad(part.start + 2, "glyphIndex", part.glyph.0.into(), expected));
            }
            let first = self.into.points.len();
            if let Some(child) = self.locations.glyph(self.bytes, part.glyph)? {
                self.append(part.glyph, &child, depth + 1)?;
            }
            let moved = self.memory.moves.get(moves).copied().unwrap_or_default();
            moves += 1;
            place(
                data,
                &part,
                &mut self.into.points[parent..],
                first - parent,
                moved,
            )?;
            if part.flags & part_flag::MORE_PARTS == 0 {
                self.memory.moves.truncate(parent_moves);
                return Ok(phantoms);
            }
        }
    }

    /// Finds how far the offset of each component moves: to `gvar` the components
    /// are the points of a composite.
    fn component_deltas(
        &mut self,
        glyph: GlyphId,
        data: &Table<'_>,
    ) -> Result<PhantomDeltas, FontError> {
        let Some(variations) = self.variations else {
            return Ok(PhantomDeltas::default());
        };
        let (points, memory) = (&mut self.into.points, &mut *self.memory);
        let first = points.len();
        let mut at = 10;
        while Component::read(data, &mut at)?.flags & part_flag::MORE_PARTS != 0 {
            points.push(OutlinePoint::default());
        }
        points.push(OutlinePoint::default());
        let parts = points.len() - first;
        let outline = (&mut *points, first, &[][..]);
        let phantoms = vary(self.bytes, variations, glyph, outline, &mut memory.deltas);
        points.truncate(first);
        memory.moves.extend(&memory.deltas.total[..parts]);
        phantoms
    }
}

/// Moves the points of one component, from the `first` on, to their place in the
/// composite, whose points they are the last of.
fn place(
    data: &Table<'_>,
    part: &Component,
    composite: &mut [OutlinePoint],
    first: usize,
    moved: OutlinePoint,
) -> Result<(), FontError> {
    let (before, component) = composite.split_at_mut(first);
    let [a, b, c, d] = part.matrix;
    let turned = |p: OutlinePoint| OutlinePoint::new(a * p.x + c * p.y, b * p.x + d * p.y);
    for point in &mut *component {
        *point = turned(*point);
    }
    let shift = if part.flags & part_flag::ARGS_ARE_XY != 0 {
        let (x, y) = (part.args.0 as f32, part.args.1 as f32);
        let offset = OutlinePoint::new(x + moved.x, y + moved.y);
        let scaled = part.flags & (part_flag::SCALED_OFFSET | part_flag::UNSCALED_OFFSET)
            == part_flag::SCALED_OFFSET;
        if scaled { turned(offset) } else { offset }
    } else {
        let anchor = numbered(data, part, before, part.args.0)?;
        let child = numbered(data, part, component, part.args.1)?;
        OutlinePoint::new(anchor.x - child.x, anchor.y - child.y)
    };
    for point in component {
        point.x += shift.x;
        point.y += shift.y;
    }
    Ok(())
}

/// The point that a component is matched by (its arguments are point numbers).
fn numbered(
    data: &Table<'_>,
    part: &Component,
    points: &[OutlinePoint],
    number: i32,
) -> Result<OutlinePoint, FontError> {
    usize::try_from(number)
        .ok()
        .and_then(|number| points.get(number))
        .copied()
        .ok_or_else(|| {
            let expected = "the glyph has no such point to match";
            data.bad(part.start, "point number", number.into(), expected)
        })
}

/// As many flags are written at once.
const FLAGS: usize = 8;

/// Reads the flags of a number of points, and some more that mean nothing; returns where
/// they end.
fn read_flags(flags: &mut Vec<u8>, count: usize, data: &[u8]) -> Option<u32> {
    if flags.len() < count + FLAGS {
        flags.resize(count + FLAGS, 0);
    }
    let flags = &mut flags[..count + FLAGS];
    let (mut at, mut done) = (0, 0);
    while done < count {
        let flag = *data.get(at)?;
        flags[done] = flag;
        at += 1;
        done += 1;
        if flag & point_flag::REPEAT != 0 {
            let run = usize::from(*data.get(at)?);
            at += 1;
            if run > FLAGS {
                let end = (done + run).min(count);
                flags[done..end].fill(flag);
            } else {
                flags[done..done + FLAGS].fill(flag);
            }
            done += run;
        }
    }
    u32::try_from(at).ok()
}

/// Two bytes, or zeros where the data ends.
#[inline(always)]
fn pair(data: &[u8], at: u32) -> [u8; 2] {
    let at = at as usize;
    if at + 1 < data.len() {
        [data[at], data[at + 1]]
    } else {
        [data.get(at).copied().unwrap_or(0), 0]
    }
}

/// The lower of the two bits of the flags that tell how one coordinate is stored: in
/// a byte; and three bits above it with which sign, or not at all.
const X_AXIS: u32 = point_flag::X_SHORT.trailing_zeros();
const Y_AXIS: u32 = point_flag::Y_SHORT.trailing_zeros();

/// The ways in which a coordinate is stored: how many bytes it takes, by what the first
/// is multiplied, what counts of the second. By the two bits, all bits between them
/// being 0. Short: the upper one is set for plus. Long: it is set for the same as the
/// point before.
const STORED: [[u32; 4]; 16] = {
    let mut list = [[2, 256, 255, 0]; 16];
    list[0b0001] = [1, 1_u32.wrapping_neg(), 0, 0];
    list[0b1000] = [0; 4];
    list[0b1001] = [1, 1, 0, 0];
    list
};

/// Reads one coordinate of every point, each relative to the one before; returns where
/// they end. Which of the four ways comes next is anyone's guess, so all go the same
/// way, without a branch.
fn read_axis<const SHORT: u32>(
    points: &mut [OutlinePoint],
    flags: &[u8],
    data: &[u8],
    mut at: u32,
    axis: impl Fn(&mut OutlinePoint) -> &mut f32,
) -> Option<u32> {
    // Coordinates have 16 bits: above them anything may be.
    let mut value = 0_u32;
    for (point, flags) in points.iter_mut().zip(flags) {
        let [len, first_factor, second_mask, _] = STORED[usize::from(flags >> SHORT & 0b1001)];
        let [first, second] = pair(data, at).map(u32::from);
        value = value.wrapping_add(first.wrapping_mul(first_factor));
        value = value.wrapping_add(second & second_mask);
        at += len;
        *axis(point) = f32::from(value as i16);
    }
    // Past the end only zeros were read.
    (at as usize <= data.len()).then_some(at)
}

/// One component of a composite glyph.
struct Component {
    /// The byte at which its record starts, for errors.
    start: usize,
    flags: u16,
    glyph: GlyphId,
    /// An offset or two point numbers.
    args: (i32, i32),
    /// xscale, scale01, scale10, yscale.
    matrix: [f32; 4],
}

impl Component {
    fn read(data: &Table<'_>, at: &mut usize) -> Result<Self, FontError> {
        let start = *at;
        let flags = data.u16(start)?;
        let glyph = GlyphId(data.u16(start + 2)?);
        *at += 4;
        let is_offset = flags & part_flag::ARGS_ARE_XY != 0;
        let args = if flags & part_flag::ARGS_ARE_WORDS != 0 {
            let words = (data.u16(*at)?, data.u16(*at + 2)?);
            *at += 4;
            if is_offset {
                (i32::from(words.0 as i16), i32::from(words.1 as i16))
            } else {
                (i32::from(words.0), i32::from(words.1))
            }
        } else {
            let bytes = (data.u8(*at)?, data.u8(*at + 1)?);
            *at += 2;
            if is_offset {
                (i32::from(bytes.0 as i8), i32::from(bytes.1 as i8))
            } else {
                (i32::from(bytes.0), i32::from(bytes.1))
            }
        };
        // F2DOT14.
        let mut fraction = || {
            let value = data.i16(*at).map(|value| f32::from(value) / 16384.0);
            *at += 2;
            value
        };
        let matrix = if flags & part_flag::ONE_SCALE != 0 {
            let scale = fraction()?;
            [scale, 0.0, 0.0, scale]
        } else if flags & part_flag::TWO_SCALES != 0 {
            [fraction()?, 0.0, 0.0, fraction()?]
        } else if flags & part_flag::TWO_BY_TWO != 0 {
            [fraction()?, fraction()?, fraction()?, fraction()?]
        } else {
            [1.0, 0.0, 0.0, 1.0]
        };
        Ok(Self {
            start,
            flags,
            glyph,
            args,
            matrix,
        })
    }
}
