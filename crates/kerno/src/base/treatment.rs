//! Treatments of the shape of a glyph.

use std::fmt;

use super::Edges;

/// Treatment of the shape of a glyph: together with its size it tells one strike
/// of a face from another.
///
/// ```
/// use kerno::base::{Edges, Join, Treatment};
/// let outline = Treatment::from(Edges::Smooth).with_outset(1.5).with_join(Join::Round);
/// assert_eq!(outline.outset_px(), 1.5);
/// let shadow = Treatment::from(Edges::Smooth).with_blur(2.0);
/// assert_eq!(shadow.blur_px(), 2.0);
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub struct Treatment {
    /// Smooth or hard edges.
    pub edges: Edges,
    /// Outset of the shape on all sides, in 1/64 device pixel: 0 for the letter itself,
    /// more for the outline that shows around it, less than 0 for a thinner letter.
    pub(crate) outset: i32,
    /// The part of the shape that is painted: all of it, or a band along its edge.
    pub(crate) band: Option<Band>,
    /// Shape of the corners of what is moved outwards.
    pub(crate) join: Join,
    /// Standard deviation of the Gaussian that the coverage is blurred by, in 1/64 device
    /// pixel.
    pub(crate) blur: u32,
    /// The range of a distance field, in texels from the lowest value to the highest one; 0
    /// for other pictures.
    pub(crate) range: u8,
    /// True for the colours of a colour glyph, not its shape.
    pub(crate) in_color: bool,
}

/// A band along the edge of a shape.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Band {
    /// Its width in 1/64 device pixel.
    pub(crate) width: u32,
    /// The side of the edge that it lies on.
    pub side: BandSide,
}

/// Position of a band about the edge of a shape.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum BandSide {
    /// Around the shape.
    #[default]
    Outside,
    /// Half inside, half outside.
    Centered,
    /// Within the shape.
    Inside,
}

/// Shape of corners that are moved outwards (SVG `stroke-linejoin`).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum Join {
    /// They stay corners, but where they would reach farther than twice as far.
    #[default]
    Miter,
    /// An arc around the corner.
    Round,
    /// They are cut off.
    Bevel,
}

/// From this standard deviation on, in pixels, a picture that is sampled between its texels
/// differs by less than 1/255 of an edge from one that was drawn there.
const SOFT: f32 = 3.0;

/// Units in a pixel.
const UNITS: f32 = 64.0;

/// The largest length in pixels.
const LARGEST: f32 = 1023.0;

/// A length in units, cut to what is in range.
fn units(pixels: f32) -> i32 {
    (pixels.clamp(-LARGEST, LARGEST) * UNITS).round() as i32
}

impl Treatment {
    /// The largest outset that a style or a manifest may ask for, in design pixels.
    pub const LARGEST_OUTSET: f32 = 64.0;

    /// The range of a distance field in texels, where none is asked for.
    pub const DEFAULT_RANGE: u8 = 6;

    /// The largest range of a distance field, in texels.
    pub const LARGEST_RANGE: u8 = 31;

    /// The largest blur radius that a style or a manifest may ask for, in design pixels.
    pub const LARGEST_BLUR: f32 = 128.0;

    /// The same treatment with an outset in device pixels: the nearest 1/64, from -1023 to
    /// 1023.
    #[must_use]
    pub fn with_outset(self, pixels: f32) -> Self {
        Self {
            outset: units(pixels),
            ..self
        }
    }

    /// The outset in device pixels.
    pub fn outset_px(&self) -> f32 {
        self.outset as f32 / UNITS
    }

    /// The same treatment of a band along the edge alone, its width in device pixels: the
    /// nearest 1/64, from 1/64 to 1023.
    #[must_use]
    pub fn with_band(self, side: BandSide, pixels: f32) -> Self {
        Self {
            band: Some(Band {
                width: units(pixels).max(1) as u32,
                side,
            }),
            ..self
        }
    }

    /// The same treatment with another shape of corners.
    #[must_use]
    pub fn with_join(self, join: Join) -> Self {
        Self { join, ..self }
    }

    /// The same treatment, blurred by a Gaussian with a standard deviation in device
    /// pixels: the nearest 1/64, from 0 to 1023.
    #[must_use]
    pub fn with_blur(self, deviation: f32) -> Self {
        Self {
            blur: units(deviation).max(0) as u32,
            ..self
        }
    }

    /// The distance field of the shape itself, with a range in texels from 1 to 31. All else
    /// is made of it when it is drawn.
    pub fn distance_field(range: u8) -> Self {
        Self::from(Edges::DistanceField).with_range(range)
    }

    /// The distance field of several channels, with a range in texels from 1 to 31: its corners
    /// are sharp.
    pub fn multi_channel_field(range: u8) -> Self {
        Self::from(Edges::MultiChannelField).with_range(range)
    }

    /// The same distance field with another range in texels, from 1 to 31; other treatments
    /// stay as they are.
    #[must_use]
    pub fn with_range(self, range: u8) -> Self {
        match self.edges.is_field() {
            true => Self {
                range: range.clamp(1, Self::LARGEST_RANGE),
                ..self
            },
            false => self,
        }
    }

    /// The picture of a colour glyph in its own colours; other treatments are of its shape.
    pub fn in_color() -> Self {
        Self {
            in_color: true,
            ..Self::default()
        }
    }

    /// Returns whether it is a picture in the colours of a colour glyph.
    pub fn is_in_color(&self) -> bool {
        self.in_color
    }

    /// The range of a distance field in texels, from the lowest value to the highest one; 0
    /// for other pictures.
    pub fn range(&self) -> u8 {
        self.range
    }

    /// The standard deviation of the blur in device pixels.
    pub fn blur_px(&self) -> f32 {
        self.blur as f32 / UNITS
    }

    /// The band along the edge, where it is one alone.
    pub fn band(&self) -> Option<Band> {
        self.band
    }

    /// Shape of the corners of what is moved outwards.
    pub fn join(&self) -> Join {
        self.join
    }

    /// All of it as one number; `None` where a length is out of range.
    pub(crate) fn key(&self) -> Option<u64> {
        let most = (LARGEST * UNITS) as u32;
        let (width, side) = match self.band {
            None => (0, 0),
            Some(band) => (band.width, band.side as u64 + 1),
        };
        let is_sound = self.outset.unsigned_abs().max(width).max(self.blur) <= most
            && (self.band.is_none() || width > 0);
        let outset = (self.outset + most as i32) as u64;
        let choices =
            self.edges as u64 | (self.join as u64) << 3 | side << 5 | u64::from(self.in_color) << 7;
        let range = u64::from(self.range & Self::LARGEST_RANGE);
        let lengths = outset << 32 | u64::from(width) << 16 | u64::from(self.blur);
        is_sound.then_some(choices << 56 | range << 51 | lengths)
    }

    /// Returns whether it is the letter itself, as its outline is.
    pub fn is_plain(&self) -> bool {
        self.outset == 0 && self.band.is_none() && self.blur == 0
    }

    /// The same treatment of a picture that is no distance field.
    pub(crate) fn without_field(self) -> Self {
        match self.edges.is_field() {
            true => Self {
                edges: Edges::Smooth,
                range: 0,
                ..self
            },
            false => self,
        }
    }

    /// The same treatment, blurred further by a standard deviation in device pixels; hard
    /// edges stay as they are, and the grid does not count.
    pub(crate) fn softened(self, deviation: f32) -> Self {
        match self.edges {
            _ if self.in_color => self,
            Edges::Smooth | Edges::GridFitted => {
                let smooth = Self {
                    edges: Edges::Smooth,
                    ..self
                };
                smooth.with_blur(self.blur_px().hypot(deviation))
            }
            _ => self,
        }
    }

    /// Returns whether its pictures are so soft that they may be drawn between pixels.
    pub fn glides(&self) -> bool {
        self.blur_px() >= SOFT
    }

    /// The number of device pixels that a texel of its pictures is wide: what is blurred
    /// widely is kept small. A power of two, at most a third of the blur.
    pub(crate) fn reduction(&self) -> u32 {
        let thirds = (self.blur_px() / 3.0) as u32;
        1 << thirds.checked_ilog2().unwrap_or(0)
    }
}

impl Band {
    /// Its width in device pixels.
    pub fn width_px(&self) -> f32 {
        self.width as f32 / UNITS
    }
}

impl fmt::Display for Treatment {
    /// In words, for reports: “smooth, outset by 1.5 px, blurred by 2 px”.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if self.in_color {
            return f.write_str("in colour");
        }
        f.write_str(match self.edges {
            Edges::Smooth => "smooth",
            Edges::Hard => "hard",
            Edges::GridFitted => "grid-fitted",
            Edges::DistanceField => "distance field",
            Edges::MultiChannelField => "multi-channel distance field",
        })?;
        if self.outset != 0 {
            write!(f, ", outset by {} px", self.outset_px())?;
        }
        if let Some(band) = self.band {
            let side = match band.side {
                BandSide::Outside => "outside",
                BandSide::Centered => "centered",
                BandSide::Inside => "inside",
            };
            write!(f, ", band of {} px {side}", band.width_px())?;
        }
        match self.join {
            Join::Miter => {}
            Join::Round => f.write_str(", round")?,
            Join::Bevel => f.write_str(", bevelled")?,
        }
        if self.blur > 0 {
            write!(f, ", blurred by {} px", self.blur_px())?;
        }
        Ok(())
    }
}

impl From<Edges> for Treatment {
    /// The letter itself.
    fn from(edges: Edges) -> Self {
        Self {
            edges,
            range: if edges.is_field() {
                Self::DEFAULT_RANGE
            } else {
                0
            },
            ..Self::default()
        }
    }
}
