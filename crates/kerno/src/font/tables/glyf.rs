//! `glyf`: TrueType outlines, simple and composite.

use super::GlyphLocations;
use super::gvar::{DeltaBuffer, GlyphVariations, Shape};
use crate::base::Limits;
use crate::font::outline::Path;
use crate::font::table::Table;
use crate::font::{FontError, GlyphId, OutlinePoint, TableFault};

/// Flags of a point in a simple glyph.
mod point_flag {
    pub(super) const ON_CURVE: u8 = 0x01;
    pub(super) const X_SHORT: u8 = 0x02;
    pub(super) const Y_SHORT: u8 = 0x04;
    pub(super) const REPEAT: u8 = 0x08;
}

/// Flags of a component of a composite glyph. `ROUND_XY_TO_GRID` (0x0004) and
/// `USE_MY_METRICS` (0x0200) speak of hinted glyphs only: unhinted positions
/// have no grid, and `hmtx` already holds the metrics.
mod part_flag {
    pub(super) const ARGS_ARE_WORDS: u16 = 0x0001;
    pub(super) const ARGS_ARE_XY: u16 = 0x0002;
    pub(super) const ONE_SCALE: u16 = 0x0008;
    pub(super) const MORE_PARTS: u16 = 0x0020;
    pub(super) const TWO_SCALES: u16 = 0x0040;
    pub(super) const TWO_BY_TWO: u16 = 0x0080;
    pub(super) const SCALED_OFFSET: u16 = 0x0800;
    pub(super) const UNSCALED_OFFSET: u16 = 0x1000;
}

#[derive(Clone, Copy, Debug)]
struct GlyphPoint {
    at: OutlinePoint,
    flags: u8,
}

impl GlyphPoint {
    fn on_curve(&self) -> bool {
        self.flags & point_flag::ON_CURVE != 0
    }
}

/// The points of a glyph before they become curves: composites match points by
/// number, so these have to stand for a while.
#[derive(Clone, Debug, Default)]
pub(in crate::font) struct GlyphPoints {
    points: Vec<GlyphPoint>,
    /// One past the last point of each contour.
    ends: Vec<usize>,
    /// Components met so far in the glyph at hand.
    parts: u32,
    /// Places of points before they vary, and how far they move.
    places: Vec<OutlinePoint>,
    deltas: DeltaBuffer,
    /// How far the components of every composite at hand move, innermost last.
    moves: Vec<OutlinePoint>,
}

/// How far the ends of the advance move in a variable font: its first two
/// phantom points, rightwards.
#[derive(Clone, Copy, Debug, Default)]
pub(in crate::font) struct PhantomDeltas {
    pub(in crate::font) origin: f32,
    pub(in crate::font) advance: f32,
}

/// What a recursive walk through components needs at each level.
struct Source<'a> {
    locations: &'a GlyphLocations,
    bytes: &'a [u8],
    limits: &'a Limits,
    variations: Option<&'a GlyphVariations>,
    /// The glyph asked for: limits are reported against it.
    root: GlyphId,
}

impl Source<'_> {
    fn over(&self, what: &'static str, limit: usize) -> FontError {
        FontError::Limit {
            glyph: self.root,
            what,
            limit,
        }
    }
}

impl GlyphLocations {
    /// Reads the points of a glyph with all its components. Returns the xMin of
    /// its header and how far its phantom points move, or `None` where there is
    /// no outline.
    pub(in crate::font) fn load(
        &self,
        bytes: &[u8],
        glyph: GlyphId,
        limits: &Limits,
        variations: Option<&GlyphVariations>,
        into: &mut GlyphPoints,
    ) -> Result<Option<(i16, PhantomDeltas)>, FontError> {
        into.points.clear();
        into.ends.clear();
        into.moves.clear();
        into.parts = 0;
        let Some(data) = self.glyph(bytes, glyph)? else {
            return Ok(None);
        };
        let source = Source {
            locations: self,
            bytes,
            limits,
            variations,
            root: glyph,
        };
        let phantoms = into.append(&source, glyph, &data, 0)?;
        Ok(Some((data.i16(2)?, phantoms)))
    }

    /// How far the phantom points of a glyph move, with or without an outline.
    pub(in crate::font) fn phantom_deltas(
        &self,
        bytes: &[u8],
        glyph: GlyphId,
        limits: &Limits,
        variations: &GlyphVariations,
    ) -> Result<PhantomDeltas, FontError> {
        let mut points = GlyphPoints::default();
        if let Some((_, deltas)) = self.load(bytes, glyph, limits, Some(variations), &mut points)? {
            return Ok(deltas);
        }
        points.vary(bytes, variations, glyph, 0)
    }
}

impl GlyphPoints {
    fn append(
        &mut self,
        source: &Source<'_>,
        glyph: GlyphId,
        data: &Table<'_>,
        depth: u32,
    ) -> Result<PhantomDeltas, FontError> {
        match usize::try_from(data.i16(0)?) {
            Ok(0) => Ok(PhantomDeltas::default()),
            Ok(contours) => self.append_simple(source, glyph, data, contours),
            Err(_) => self.append_composite(source, glyph, data, depth),
        }
    }

    /// Finds how far the points in `places` move, which make up the last so many
    /// contours, and the four phantom points behind them, whose own places make
    /// no difference.
    fn vary(
        &mut self,
        bytes: &[u8],
        variations: &GlyphVariations,
        glyph: GlyphId,
        contours: usize,
    ) -> Result<PhantomDeltas, FontError> {
        let count = self.places.len();
        self.places.resize(count + 4, OutlinePoint::default());
        let shape = Shape {
            points: &self.places,
            ends: &self.ends[self.ends.len() - contours..],
            first: self.points.len().saturating_sub(count),
        };
        variations.deltas(bytes, glyph, shape, &mut self.deltas)?;
        let (origin, end) = (self.deltas.total[count].x, self.deltas.total[count + 1].x);
        Ok(PhantomDeltas {
            origin,
            advance: end - origin,
        })
    }

    /// OpenType `glyf`, “Simple Glyph Description”.
    fn append_simple(
        &mut self,
        source: &Source<'_>,
        glyph: GlyphId,
        data: &Table<'_>,
        contours: usize,
    ) -> Result<PhantomDeltas, FontError> {
        let first = self.points.len();
        let mut count = 0;
        for contour in 0..contours {
            let at = 10 + contour * 2;
            let end = usize::from(data.u16(at)?) + 1;
            if end < count {
                let expected = "not above the contour before";
                return Err(data.bad(at, "endPtsOfContours", end as i64 - 1, expected));
            }
            count = end;
            self.ends.push(first + end);
        }
        if first + count > source.limits.outline_points {
            return Err(source.over("points", source.limits.outline_points));
        }
        let instructions = 10 + contours * 2;
        let at = instructions + 2 + usize::from(data.u16(instructions)?);
        self.read_points(data.from(at)?.bytes(), first, count)
            .ok_or_else(|| data.error(data.len(), TableFault::Truncated))?;
        let Some(variations) = source.variations else {
            return Ok(PhantomDeltas::default());
        };
        self.places.clear();
        self.places
            .extend(self.points[first..].iter().map(|point| point.at));
        let phantoms = self.vary(source.bytes, variations, glyph, contours)?;
        for (point, delta) in self.points[first..].iter_mut().zip(&self.deltas.total) {
            point.at.x += delta.x;
            point.at.y += delta.y;
        }
        Ok(phantoms)
    }

    /// The three arrays of a simple glyph: flags, x, y.
    fn read_points(&mut self, data: &[u8], first: usize, count: usize) -> Option<()> {
        let blank = GlyphPoint {
            at: OutlinePoint::default(),
            flags: 0,
        };
        self.points.resize(first + count, blank);
        let points = &mut self.points[first..];
        let at = read_flags(points, data)?;
        let at = read_axis::<X_AXIS>(points, data, at, |at| &mut at.x)?;
        read_axis::<Y_AXIS>(points, data, at, |at| &mut at.y)?;
        Some(())
    }

    /// OpenType `glyf`, “Composite Glyph Description”.
    fn append_composite(
        &mut self,
        source: &Source<'_>,
        glyph: GlyphId,
        data: &Table<'_>,
        depth: u32,
    ) -> Result<PhantomDeltas, FontError> {
        if depth >= source.limits.composite_depth {
            let limit = source.limits.composite_depth as usize;
            return Err(source.over("levels of components (or contains itself)", limit));
        }
        let parent_moves = self.moves.len();
        let mut moves = parent_moves;
        let phantoms = self.component_deltas(source, glyph, data)?;
        let parent = self.points.len();
        let mut at = 10;
        loop {
            self.parts += 1;
            if self.parts > source.limits.composite_components {
                return Err(source.over("components", source.limits.composite_components as usize));
            }
            let part = Part::read(data, &mut at)?;
            if part.glyph.0 >= source.locations.glyph_count() {
                let expected = "the face has no such glyph";
                return Err(data.bad(part.start + 2, "glyphIndex", part.glyph.0.into(), expected));
            }
            let first = self.points.len();
            if let Some(child) = source.locations.glyph(source.bytes, part.glyph)? {
                self.append(source, part.glyph, &child, depth + 1)?;
            }
            let moved = self.moves.get(moves).copied().unwrap_or_default();
            moves += 1;
            self.place(data, &part, parent, first, moved)?;
            if part.flags & part_flag::MORE_PARTS == 0 {
                self.moves.truncate(parent_moves);
                return Ok(phantoms);
            }
        }
    }

    /// Finds how far the offset of each component moves: to `gvar` the components
    /// are the points of a composite.
    fn component_deltas(
        &mut self,
        source: &Source<'_>,
        glyph: GlyphId,
        data: &Table<'_>,
    ) -> Result<PhantomDeltas, FontError> {
        let Some(variations) = source.variations else {
            return Ok(PhantomDeltas::default());
        };
        self.places.clear();
        let mut at = 10;
        while Part::read(data, &mut at)?.flags & part_flag::MORE_PARTS != 0 {
            self.places.push(OutlinePoint::default());
        }
        self.places.push(OutlinePoint::default());
        let phantoms = self.vary(source.bytes, variations, glyph, 0)?;
        let parts = self.deltas.total.len() - 4;
        self.moves.extend(&self.deltas.total[..parts]);
        Ok(phantoms)
    }

    /// Moves the points of one component, from `first` on, to their place in
    /// the composite whose points begin at `parent`.
    fn place(
        &mut self,
        data: &Table<'_>,
        part: &Part,
        parent: usize,
        first: usize,
        moved: OutlinePoint,
    ) -> Result<(), FontError> {
        let [a, b, c, d] = part.matrix;
        let turned = |p: OutlinePoint| OutlinePoint::new(a * p.x + c * p.y, b * p.x + d * p.y);
        for point in &mut self.points[first..] {
            point.at = turned(point.at);
        }
        let shift = if part.flags & part_flag::ARGS_ARE_XY != 0 {
            let (x, y) = (part.args.0 as f32, part.args.1 as f32);
            let offset = OutlinePoint::new(x + moved.x, y + moved.y);
            let scaled = part.flags & (part_flag::SCALED_OFFSET | part_flag::UNSCALED_OFFSET)
                == part_flag::SCALED_OFFSET;
            if scaled { turned(offset) } else { offset }
        } else {
            let anchor = numbered(data, part, &self.points[parent..first], part.args.0)?;
            let child = numbered(data, part, &self.points[first..], part.args.1)?;
            OutlinePoint::new(anchor.x - child.x, anchor.y - child.y)
        };
        for point in &mut self.points[first..] {
            point.at.x += shift.x;
            point.at.y += shift.y;
        }
        Ok(())
    }

    /// Turns the points into curves, moved right by `shift`. Between two
    /// off-curve points lies an on-curve one half-way.
    pub(in crate::font) fn trace(&self, shift: f32, out: &mut impl Path) {
        let mut start = 0;
        for &end in &self.ends {
            trace_contour(&self.points[start..end], shift, out);
            start = end;
        }
    }
}

/// The point that a component is matched by (its arguments are point numbers).
fn numbered(
    data: &Table<'_>,
    part: &Part,
    points: &[GlyphPoint],
    number: i32,
) -> Result<OutlinePoint, FontError> {
    usize::try_from(number)
        .ok()
        .and_then(|number| points.get(number))
        .map(|point| point.at)
        .ok_or_else(|| {
            let expected = "the glyph has no such point to match";
            data.bad(part.start, "point number", number.into(), expected)
        })
}

/// Reads the flags of all points; returns where they end.
fn read_flags(points: &mut [GlyphPoint], data: &[u8]) -> Option<usize> {
    let mut at = 0;
    let mut points = points.iter_mut();
    while let Some(point) = points.next() {
        let flags = *data.get(at)?;
        at += 1;
        point.flags = flags;
        if flags & point_flag::REPEAT != 0 {
            let run = usize::from(*data.get(at)?);
            at += 1;
            for point in points.by_ref().take(run) {
                point.flags = flags;
            }
        }
    }
    Some(at)
}

/// The lower of the two bits of the flags that tell how one coordinate is stored: in
/// a byte; and three bits above it with which sign, or not at all.
const X_AXIS: u32 = point_flag::X_SHORT.trailing_zeros();
const Y_AXIS: u32 = point_flag::Y_SHORT.trailing_zeros();

/// One of the ways in which a coordinate is stored.
#[derive(Clone, Copy)]
struct Stored {
    /// How many bytes it takes.
    len: u32,
    /// What counts of a word, and by what a byte is multiplied.
    word: i32,
    byte: i32,
}

/// Those ways, by the two bits, all bits between them being 0. Short: the upper one
/// is set for plus. Long: it is set for the same as the point before.
const STORED: [Stored; 16] = {
    let mut list = [Stored {
        len: 2,
        word: -1,
        byte: 0,
    }; 16];
    list[0b0001] = Stored {
        len: 1,
        word: 0,
        byte: -1,
    };
    list[0b1000] = Stored {
        len: 0,
        word: 0,
        byte: 0,
    };
    list[0b1001] = Stored {
        len: 1,
        word: 0,
        byte: 1,
    };
    list
};

/// Reads one coordinate of every point, each relative to the one before;
/// returns where they end. Which of the four ways comes next is anyone's guess,
/// so all go the same way, without a branch.
fn read_axis<const SHORT: u32>(
    points: &mut [GlyphPoint],
    data: &[u8],
    at: usize,
    axis: impl Fn(&mut OutlinePoint) -> &mut f32,
) -> Option<usize> {
    let mut at = u32::try_from(at).ok()?;
    let mut value = 0_i32;
    for point in points {
        let stored = STORED[usize::from(point.flags >> SHORT & 0b1001)];
        let start = at as usize;
        let word = if start + 1 < data.len() {
            u16::from_be_bytes([data[start], data[start + 1]])
        } else {
            u16::from(data.get(start).copied().unwrap_or(0)) << 8
        };
        value += i32::from(word as i16) & stored.word;
        value += i32::from(word >> 8) * stored.byte;
        at += stored.len;
        *axis(&mut point.at) = value as f32;
    }
    // Past the end only zeros were read.
    let at = at as usize;
    (at <= data.len()).then_some(at)
}

fn trace_contour(points: &[GlyphPoint], shift: f32, out: &mut impl Path) {
    let [head, .., tail] = points else {
        return; // A lone point fills nothing.
    };
    let moved = |point: OutlinePoint| OutlinePoint::new(point.x + shift, point.y);
    let (origin, rest) = if head.on_curve() {
        (moved(head.at), &points[1..])
    } else if tail.on_curve() {
        (moved(tail.at), &points[..points.len() - 1])
    } else {
        (moved(head.at.middle(tail.at)), points)
    };
    out.start(origin);
    let mut control: Option<OutlinePoint> = None;
    for point in rest {
        let at = moved(point.at);
        match (control.take(), point.on_curve()) {
            (None, true) => out.line(at),
            (None, false) => control = Some(at),
            (Some(control), true) => out.quadratic(control, at),
            (Some(previous), false) => {
                out.quadratic(previous, previous.middle(at));
                control = Some(at);
            }
        }
    }
    if let Some(control) = control {
        out.quadratic(control, origin);
    }
}

/// One component of a composite glyph.
struct Part {
    /// Where its record starts, for errors.
    start: usize,
    flags: u16,
    glyph: GlyphId,
    /// An offset or two point numbers.
    args: (i32, i32),
    /// xscale, scale01, scale10, yscale.
    matrix: [f32; 4],
}

impl Part {
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
