//! The steps that paint a colour glyph.

use super::ColorLine;
use crate::base::{Affine, Point};
use crate::font::GlyphId;

/// The steps that paint a colour glyph, in font units, y up.
#[derive(Clone, Debug, Default)]
pub(crate) struct ColorGlyph {
    pub(crate) steps: Vec<PaintStep>,
    /// The box that all of it lies in, where the font says one: left, bottom, right, top.
    pub(crate) clip: Option<[f32; 4]>,
    /// True if it has the colour of the text in it.
    pub(crate) uses_foreground: bool,
}

/// A clip that lies in no other one.
#[derive(Clone, Copy, Debug)]
pub(crate) enum OuterClip {
    Glyph(GlyphId, Affine),
    Box([f32; 4], Affine),
}

impl ColorGlyph {
    /// The clips that lie in no other one: nothing is painted beside them.
    pub(crate) fn outer_clips(&self) -> impl Iterator<Item = OuterClip> {
        let mut depth = 0_u32;
        self.steps.iter().filter_map(move |step| {
            let clip = match step {
                PaintStep::Clip { glyph, place } => OuterClip::Glyph(*glyph, *place),
                PaintStep::ClipBox { sides, place } => OuterClip::Box(*sides, *place),
                PaintStep::EndClip => {
                    depth -= 1;
                    return None;
                }
                _ => return None,
            };
            depth += 1;
            (depth == 1).then_some(clip)
        })
    }
}

/// One step.
#[derive(Clone, Debug)]
pub(crate) enum PaintStep {
    /// Limits all steps up to its end to the shape of a glyph.
    Clip { glyph: GlyphId, place: Affine },
    /// Limits all steps up to its end to a box: left, bottom, right, top.
    ClipBox { sides: [f32; 4], place: Affine },
    /// The end of what the last clip that has none yet is for.
    EndClip,
    /// Begins a picture of its own.
    Begin,
    /// Lays the picture that was begun last over what was there before it.
    End(CompositeMode),
    /// Paints all that is seen.
    Fill(Brush),
}

/// The source of colour for a filled shape.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum Brush {
    /// Red, green, blue, alpha from 0 to 1, multiplied by alpha.
    Solid([f32; 4]),
    Gradient {
        kind: Gradient,
        line: ColorLine,
        place: Affine,
    },
}

/// The place on a colour line of a point.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Gradient {
    /// 0 at a point, 1 at another one, the same across that way.
    Linear { from: Point, to: Point },
    /// Circles from 0 to 1, their centres and radii.
    Radial {
        centers: [Point; 2],
        radii: [f32; 2],
    },
    /// Counter-clockwise about a centre, by the angles of 0 and 1 in turns.
    Sweep { center: Point, turns: [f32; 2] },
}

impl Gradient {
    /// Returns whether it paints anything at all.
    pub(super) fn is_seen(&self, extend: super::Extend) -> bool {
        match self {
            Self::Linear { from, to } => from != to,
            Self::Radial { centers, radii } => centers[0] != centers[1] || radii[0] != radii[1],
            Self::Sweep { turns, .. } => turns[0] != turns[1] || extend == super::Extend::Pad,
        }
    }

    /// The place of a point on the colour line; `None` where nothing is painted.
    pub(crate) fn at(&self, x: f32, y: f32) -> Option<f32> {
        match *self {
            Self::Linear { from, to } => {
                let (dx, dy) = (to.x - from.x, to.y - from.y);
                Some(((x - from.x) * dx + (y - from.y) * dy) / (dx * dx + dy * dy))
            }
            Self::Radial { centers, radii } => radial(centers, radii, x, y),
            Self::Sweep { center, turns } => {
                let angle = (y - center.y).atan2(x - center.x) / std::f32::consts::TAU;
                let angle = angle.rem_euclid(1.0);
                let [start, end] = turns;
                Some(match start == end {
                    // A line without length: its start before, its end after.
                    true if angle < start => f32::NEG_INFINITY,
                    true => f32::INFINITY,
                    false => (angle - start) / (end - start),
                })
            }
        }
    }
}

/// The largest place t at which the point lies on the circle about c0 + t (c1 - c0) with the
/// radius r0 + t (r1 - r0), which is not below 0.
fn radial(centers: [Point; 2], radii: [f32; 2], x: f32, y: f32) -> Option<f32> {
    let wide = f64::from;
    let [c0, c1] = centers;
    let (cx, cy) = (wide(c1.x) - wide(c0.x), wide(c1.y) - wide(c0.y));
    let (r0, dr) = (wide(radii[0]), wide(radii[1]) - wide(radii[0]));
    let (px, py) = (wide(x) - wide(c0.x), wide(y) - wide(c0.y));
    let a = cx * cx + cy * cy - dr * dr;
    let b = px * cx + py * cy + r0 * dr;
    let c = px * px + py * py - r0 * r0;
    let is_circle = |t: &f64| r0 + t * dr >= 0.0;
    if a.abs() < 1e-9 * (cx * cx + cy * cy + dr * dr) {
        // One circle touches the other one from inside: the equation is a line.
        return Some(c / (2.0 * b))
            .filter(|t| b != 0.0 && is_circle(t))
            .map(|t| t as f32);
    }
    let square = b * b - a * c;
    if square < 0.0 {
        return None;
    }
    let root = square.sqrt();
    let (first, second) = ((b + root) / a, (b - root) / a);
    let (high, low) = (first.max(second), first.min(second));
    [high, low].into_iter().find(is_circle).map(|t| t as f32)
}

/// The mode in which a picture is laid over another one (CSS Compositing and Blending).
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum CompositeMode {
    Clear,
    Source,
    Destination,
    SourceOver,
    DestinationOver,
    SourceIn,
    DestinationIn,
    SourceOut,
    DestinationOut,
    SourceAtop,
    DestinationAtop,
    Xor,
    Plus,
    Screen,
    Overlay,
    Darken,
    Lighten,
    ColorDodge,
    ColorBurn,
    HardLight,
    SoftLight,
    Difference,
    Exclusion,
    Multiply,
    Hue,
    Saturation,
    Color,
    Luminosity,
}

impl CompositeMode {
    /// The modes by their numbers in `PaintComposite`.
    const ALL: [Self; 28] = [
        Self::Clear,
        Self::Source,
        Self::Destination,
        Self::SourceOver,
        Self::DestinationOver,
        Self::SourceIn,
        Self::DestinationIn,
        Self::SourceOut,
        Self::DestinationOut,
        Self::SourceAtop,
        Self::DestinationAtop,
        Self::Xor,
        Self::Plus,
        Self::Screen,
        Self::Overlay,
        Self::Darken,
        Self::Lighten,
        Self::ColorDodge,
        Self::ColorBurn,
        Self::HardLight,
        Self::SoftLight,
        Self::Difference,
        Self::Exclusion,
        Self::Multiply,
        Self::Hue,
        Self::Saturation,
        Self::Color,
        Self::Luminosity,
    ];

    pub(super) fn of(number: u8) -> Option<Self> {
        Self::ALL.get(usize::from(number)).copied()
    }
}
