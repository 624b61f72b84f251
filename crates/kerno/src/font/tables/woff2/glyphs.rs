//! `glyf` and `loca`, rewritten as streams of numbers (sections 5.1 to 5.3).

use super::stream::Stream;
use crate::base::Limits;
use crate::font::FontError;
use crate::font::table::Table;

/// The tables, put together again.
#[derive(Default)]
pub(super) struct Glyphs {
    pub(super) glyf: Vec<u8>,
    /// The byte at which each glyph starts, and that at which the last one ends.
    starts: Vec<u32>,
    /// The left edge of each; 0 of one without ink.
    edges: Vec<i16>,
}

impl Glyphs {
    /// The table of places, with long offsets.
    pub(super) fn loca(&self) -> Vec<u8> {
        self.starts
            .iter()
            .flat_map(|start| start.to_be_bytes())
            .collect()
    }

    pub(super) fn left_edges(&self) -> Vec<i16> {
        self.edges.clone()
    }
}

/// The streams of the table.
struct Streams<'a> {
    contours: Stream<'a>,
    points: Stream<'a>,
    flags: Stream<'a>,
    glyphs: Stream<'a>,
    composites: Stream<'a>,
    /// A bit for each glyph that has its box in `boxes`.
    has_box: &'a [u8],
    boxes: Stream<'a>,
    instructions: Stream<'a>,
    /// A bit for each glyph whose contours overlap; empty where nothing is said.
    overlaps: &'a [u8],
}

impl<'a> Streams<'a> {
    /// The streams, and the number of glyphs.
    fn read(glyf: Table<'a>) -> Result<(Self, u16), FontError> {
        let mut whole = Stream::new(glyf);
        let (_, options, count) = (whole.u16()?, whole.u16()?, whole.u16()?);
        whole.u16()?;
        let mut lengths = [0; 7];
        for length in &mut lengths {
            *length = whole.u32()? as usize;
        }
        let [
            contours,
            points,
            flags,
            glyphs,
            composites,
            boxes,
            instructions,
        ] = lengths;
        let contours = whole.part(contours)?;
        let points = whole.part(points)?;
        let flags = whole.part(flags)?;
        let glyphs = whole.part(glyphs)?;
        let composites = whole.part(composites)?;
        let mut boxes = whole.part(boxes)?;
        let has_box = boxes.bytes(usize::from(count).div_ceil(32) * 4)?;
        let streams = Self {
            contours,
            points,
            flags,
            glyphs,
            composites,
            has_box,
            boxes,
            instructions: whole.part(instructions)?,
            overlaps: match options & 1 {
                0 => &[],
                _ => whole.bytes(usize::from(count).div_ceil(8))?,
            },
        };
        Ok((streams, count))
    }

    /// The box of a glyph, where it is said.
    fn own_box(&mut self, glyph: u16) -> Result<Option<[i16; 4]>, FontError> {
        if !has_bit(self.has_box, glyph) {
            return Ok(None);
        }
        let mut sides = [0; 4];
        for side in &mut sides {
            *side = self.boxes.u16()? as i16;
        }
        Ok(Some(sides))
    }
}

/// Bit `glyph` of a list, the highest one of each byte first.
fn has_bit(bits: &[u8], glyph: u16) -> bool {
    let byte = bits.get(usize::from(glyph / 8));
    byte.is_some_and(|byte| byte & (0x80 >> (glyph % 8)) != 0)
}

/// Puts the tables together.
pub(super) fn rebuild(glyf: Table<'_>, limits: &Limits) -> Result<Glyphs, FontError> {
    let (mut streams, count) = Streams::read(glyf)?;
    let mut glyphs = Glyphs::default();
    for glyph in 0..count {
        glyphs.starts.push(glyphs.glyf.len() as u32);
        let edge = match streams.contours.u16()? as i16 {
            0 => match streams.own_box(glyph)? {
                None => 0,
                Some(_) => {
                    let expected = "a glyph without contours has none";
                    return Err(streams.boxes.bad("bounding box", glyph.into(), expected));
                }
            },
            -1 => composite(glyph, &mut streams, &mut glyphs.glyf)?,
            contours => simple((glyph, contours), &mut streams, &mut glyphs.glyf)?,
        };
        glyphs.edges.push(edge);
        let length = glyphs.glyf.len().next_multiple_of(4);
        glyphs.glyf.resize(length, 0);
        let size = length as u64;
        if size > limits.font_bytes {
            let limit = limits.font_bytes;
            return Err(FontError::Unpacked { size, limit });
        }
    }
    glyphs.starts.push(glyphs.glyf.len() as u32);
    Ok(glyphs)
}

fn put(into: &mut Vec<u8>, numbers: &[i16]) {
    into.extend(numbers.iter().flat_map(|number| number.to_be_bytes()));
}

/// A composite glyph, which is as in `glyf` but for its parts lying in streams; returns its
/// left edge.
fn composite(glyph: u16, streams: &mut Streams<'_>, into: &mut Vec<u8>) -> Result<i16, FontError> {
    let Some(sides) = streams.own_box(glyph)? else {
        let expected = "a composite glyph has one";
        return Err(streams.boxes.bad("bounding box", glyph.into(), expected));
    };
    put(into, &[-1]);
    put(into, &sides);
    let mut has_instructions = false;
    loop {
        let flags = streams.composites.u16()?;
        // Two numbers as words or bytes, then one, two or four numbers of a transform.
        let places = if flags & 0x0001 != 0 { 4 } else { 2 };
        let transform = match flags {
            _ if flags & 0x0008 != 0 => 2,
            _ if flags & 0x0040 != 0 => 4,
            _ if flags & 0x0080 != 0 => 8,
            _ => 0,
        };
        into.extend(flags.to_be_bytes());
        into.extend(streams.composites.bytes(2 + places + transform)?);
        has_instructions |= flags & 0x0100 != 0;
        if flags & 0x0020 == 0 {
            break;
        }
    }
    if has_instructions {
        let length = streams.glyphs.short()?;
        into.extend(length.to_be_bytes());
        into.extend(streams.instructions.bytes(length.into())?);
    }
    Ok(sides[0])
}

/// A glyph of contours; returns its left edge.
fn simple(
    (glyph, contours): (u16, i16),
    streams: &mut Streams<'_>,
    into: &mut Vec<u8>,
) -> Result<i16, FontError> {
    if contours < 0 {
        let expected = "it must be -1 or more";
        return Err(streams.contours.bad("nContour", contours.into(), expected));
    }
    let mut ends = Vec::new();
    let mut count = 0_usize;
    for _ in 0..contours {
        count += usize::from(streams.points.short()?);
        if count == 0 || count > usize::from(u16::MAX) {
            let expected = "a glyph has 1 to 65535 points";
            return Err(streams.points.bad("nPoints", count as i64, expected));
        }
        ends.push((count - 1) as u16 as i16);
    }
    let (mut flags, mut across, mut up) = (Vec::new(), Vec::new(), Vec::new());
    let mut at = [0_i16; 2];
    let mut sides = [i16::MAX, i16::MAX, i16::MIN, i16::MIN];
    for _ in 0..count {
        let flag = streams.flags.u8()?;
        let step = triplet(flag & 0x7f, &mut streams.glyphs)?;
        at = [0, 1].map(|axis| at[axis].wrapping_add(step[axis]));
        sides = [
            sides[0].min(at[0]),
            sides[1].min(at[1]),
            sides[2].max(at[0]),
            sides[3].max(at[1]),
        ];
        flags.push(u8::from(flag & 0x80 == 0));
        across.push(step[0]);
        up.push(step[1]);
    }
    if has_bit(streams.overlaps, glyph)
        && let Some(first) = flags.first_mut()
    {
        *first |= 0x40;
    }
    let length = streams.glyphs.short()?;
    let instructions = streams.instructions.bytes(length.into())?;
    let sides = streams.own_box(glyph)?.unwrap_or(sides);
    put(into, &[contours]);
    put(into, &sides);
    put(into, &ends);
    into.extend(length.to_be_bytes());
    into.extend(instructions);
    // All steps as words: flags say only what is on the curve.
    into.extend(&flags);
    put(into, &across);
    put(into, &up);
    Ok(sides[0])
}

/// A step from point to point, by the lower bits of its flag (section 5.2, “Triplet
/// Encoding”).
fn triplet(flag: u8, stream: &mut Stream<'_>) -> Result<[i16; 2], FontError> {
    let flag = i32::from(flag);
    let mut next = || stream.u8().map(i32::from);
    let sign = |flag: i32, value: i32| if flag & 1 == 1 { value } else { -value };
    let step = match flag {
        0..10 => [0, sign(flag, ((flag & 14) << 7) + next()?)],
        10..20 => [sign(flag, (((flag - 10) & 14) << 7) + next()?), 0],
        20..84 => {
            let (base, byte) = (flag - 20, next()?);
            [
                sign(flag, 1 + (base & 0x30) + (byte >> 4)),
                sign(flag >> 1, 1 + ((base & 0x0c) << 2) + (byte & 0x0f)),
            ]
        }
        84..120 => {
            let base = flag - 84;
            [
                sign(flag, 1 + ((base / 12) << 8) + next()?),
                sign(flag >> 1, 1 + (((base % 12) >> 2) << 8) + next()?),
            ]
        }
        120..124 => {
            let (first, middle, last) = (next()?, next()?, next()?);
            [
                sign(flag, (first << 4) + (middle >> 4)),
                sign(flag >> 1, ((middle & 0x0f) << 8) + last),
            ]
        }
        _ => {
            let mut word = || Ok::<i32, FontError>(next()? << 8 | next()?);
            [sign(flag, word()?), sign(flag >> 1, word()?)]
        }
    };
    Ok(step.map(|way| way as i16))
}
