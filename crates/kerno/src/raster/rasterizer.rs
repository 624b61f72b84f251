//! From a face and a glyph number to a picture.

use super::accumulate::{Accumulator, HardInk, SmoothInk};
use super::flatten::{Flattener, Ink, larger, smaller};
use super::{Coverage, RasterError};
use crate::base::{Edges, Limits, Treatment};
use crate::font::{Contours, Face, GlyphId, Outline, OutlinePoint, Step};

/// What decides how the picture of a glyph comes out.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct GlyphShape {
    /// Device pixels in the side of the em square; above 0.
    pub size: f32,
    /// How far right of a whole pixel the pen stands, 0 to 1 device pixel.
    pub shift_x: f32,
    /// What is made of its shape.
    pub treatment: Treatment,
}

/// Where an outline goes in device pixels: scaled, turned y down, shifted.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Placement {
    /// Device pixels in one unit of the outline; above 0.
    pub scale: f32,
    /// Where the outline's origin lies, rightwards.
    pub x: f32,
    /// Where the outline's origin lies, downwards.
    pub y: f32,
}

impl Placement {
    fn place(&self, point: OutlinePoint) -> (f32, f32) {
        (self.x + point.x * self.scale, self.y - point.y * self.scale)
    }
}

/// Makes pictures of outlines, and keeps its working memory between them: once
/// warm it allocates nothing.
#[derive(Debug, Default)]
pub struct Rasterizer {
    outline: Outline,
    flattener: Flattener,
    accumulator: Accumulator,
    picture: Coverage,
}

impl Rasterizer {
    /// A rasteriser without any memory yet.
    pub fn new() -> Self {
        Self::default()
    }

    /// Draws a glyph about a pen at the origin. The picture stays valid until
    /// the next call.
    ///
    /// # Errors
    /// [`RasterError::Size`] for a size that is not above 0 and finite,
    /// [`RasterError::TooLarge`] over the face's limit, [`RasterError::Font`]
    /// where the glyph is damaged.
    pub fn glyph(
        &mut self,
        face: &Face,
        glyph: GlyphId,
        shape: GlyphShape,
    ) -> Result<&Coverage, RasterError> {
        let mut outline = std::mem::take(&mut self.outline);
        let read = face.outline(glyph, &mut outline);
        let placement = Placement {
            scale: shape.size / f32::from(face.metrics().units_per_em),
            x: shape.shift_x,
            y: 0.0,
        };
        let Treatment { edges, grown } = shape.treatment;
        let drawn = match read {
            Ok(()) if !(shape.size > 0.0 && shape.size.is_finite()) => {
                Err(RasterError::Size(shape.size))
            }
            Ok(()) => {
                if grown > 0 {
                    outline.grow(shape.treatment.growth() / placement.scale);
                }
                self.draw(&outline, placement, edges, face.limits())
            }
            Err(error) => Err(error.into()),
        };
        self.outline = outline;
        drawn.map(|()| &self.picture)
    }

    /// Fills any outline by the non-zero winding rule. The picture stays valid
    /// until the next call.
    ///
    /// # Errors
    /// [`RasterError::Size`] for a scale that is not above 0 and finite,
    /// [`RasterError::TooLarge`] over the default limit, [`RasterError::NotFinite`]
    /// where a point lies nowhere.
    pub fn fill(
        &mut self,
        outline: &Outline,
        placement: Placement,
        edges: Edges,
    ) -> Result<&Coverage, RasterError> {
        if !(placement.scale > 0.0 && placement.scale.is_finite()) {
            return Err(RasterError::Size(placement.scale));
        }
        self.draw(outline, placement, edges, &Limits::default())?;
        Ok(&self.picture)
    }

    fn draw(
        &mut self,
        outline: &Outline,
        placement: Placement,
        edges: Edges,
        limits: &Limits,
    ) -> Result<(), RasterError> {
        self.picture.clear();
        let points = &outline.contours.points;
        // Times 0 all is 0 but what is infinite or no number.
        let nothing = points.iter().map(|p| p.x * 0.0 + p.y * 0.0);
        if nothing.sum::<f32>() != 0.0 {
            return Err(RasterError::NotFinite);
        }
        let Some(extent) = Extent::of(points, placement) else {
            return Ok(());
        };
        let (width, height) = extent.checked_size(limits)?;
        self.picture.left = extent.left as i32;
        self.picture.top = extent.top as i32;
        self.picture.width = width as u32;
        self.picture.height = height as u32;
        self.accumulator.reset(width, height);
        let local = Placement {
            x: placement.x - extent.left,
            y: placement.y - extent.top,
            ..placement
        };
        self.flattener.begin(local);
        let texels = &mut self.picture.texels;
        match edges {
            Edges::Smooth => {
                let mut ink = SmoothInk(&mut self.accumulator);
                trace(&outline.contours, &mut self.flattener, &mut ink);
                self.accumulator.write_smooth(texels);
            }
            Edges::Hard => {
                let mut ink = HardInk(&mut self.accumulator);
                trace(&outline.contours, &mut self.flattener, &mut ink);
                self.accumulator.write_hard(texels);
            }
        }
        Ok(())
    }
}

/// Walks an outline as closed chains of lines and curves.
fn trace(contours: &Contours, flattener: &mut Flattener, ink: &mut impl Ink) {
    let (mut start, mut last) = (OutlinePoint::default(), OutlinePoint::default());
    let mut points = contours.points.iter().copied();
    for step in &contours.steps {
        let from = last;
        let mut next = || points.next().unwrap_or_default();
        last = next();
        match step {
            Step::Start => {
                flattener.line(from, start, ink);
                flattener.jump(start, last, ink);
                start = last;
            }
            Step::Line => flattener.line(from, last, ink),
            Step::Quadratic => {
                let control = last;
                last = next();
                flattener.quadratic([from, control, last], ink);
            }
            Step::Cubic => {
                let (first, second) = (last, next());
                last = next();
                flattener.cubic([from, first, second, last], ink);
            }
        }
    }
    flattener.line(last, start, ink);
    flattener.finish(start, ink);
}

/// The whole pixels around every point of an outline, control points too.
struct Extent {
    left: f32,
    top: f32,
    right: f32,
    bottom: f32,
}

impl Extent {
    fn of(points: &[OutlinePoint], placement: Placement) -> Option<Self> {
        let mut low = OutlinePoint::new(f32::INFINITY, f32::INFINITY);
        let mut high = OutlinePoint::new(f32::NEG_INFINITY, f32::NEG_INFINITY);
        for point in points {
            low = OutlinePoint::new(smaller(point.x, low.x), smaller(point.y, low.y));
            high = OutlinePoint::new(larger(point.x, high.x), larger(point.y, high.y));
        }
        // What is up in the outline is down in the picture.
        let (low, high) = (
            placement.place(OutlinePoint::new(low.x, high.y)),
            placement.place(OutlinePoint::new(high.x, low.y)),
        );
        let extent = Self {
            left: low.0.floor(),
            top: low.1.floor(),
            right: high.0.ceil(),
            bottom: high.1.ceil(),
        };
        (extent.right > extent.left && extent.bottom > extent.top).then_some(extent)
    }

    fn checked_size(&self, limits: &Limits) -> Result<(usize, usize), RasterError> {
        let limit = limits.picture_side;
        let (width, height) = (self.right - self.left, self.bottom - self.top);
        // A pen far from the origin counts against the limit as well.
        let farthest = [self.left, self.top, self.right, self.bottom]
            .into_iter()
            .fold(0.0, |far: f32, edge| far.max(edge.abs()));
        if width <= limit as f32 && height <= limit as f32 && farthest < 1e7 {
            return Ok((width as usize, height as usize));
        }
        Err(RasterError::TooLarge {
            width: width as u64,
            height: height as u64,
            limit,
        })
    }
}
