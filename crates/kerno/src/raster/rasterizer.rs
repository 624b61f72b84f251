//! From a face and a glyph number to a picture.

use super::accumulate::Accumulator;
use super::flatten::{self, Pen, Place, larger, smaller};
use super::{Coverage, RasterError};
use crate::base::{Edges, Limits};
use crate::font::{Face, GlyphId, Outline, OutlinePoint, Segment};

/// What decides how the picture of a glyph comes out.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct GlyphShape {
    /// Device pixels in the side of the em square; above 0.
    pub size: f32,
    /// How far right of a whole pixel the pen stands, 0 to 1 device pixel.
    pub shift_x: f32,
    /// Smooth or hard edges.
    pub edges: Edges,
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
    fn place(&self, point: OutlinePoint) -> Place {
        (self.x + point.x * self.scale, self.y - point.y * self.scale)
    }
}

/// Makes pictures of outlines, and keeps its working memory between them: once
/// warm it allocates nothing.
#[derive(Debug, Default)]
pub struct Rasterizer {
    outline: Outline,
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
        let drawn = match read {
            Ok(()) if !(shape.size > 0.0 && shape.size.is_finite()) => {
                Err(RasterError::Size(shape.size))
            }
            Ok(()) => self.draw(&outline, placement, shape.edges, face.limits()),
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
    /// [`RasterError::TooLarge`] over the default limit.
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
        let Some(extent) = Extent::of(outline, placement) else {
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
        let texels = &mut self.picture.texels;
        match edges {
            Edges::Smooth => {
                trace(outline, local, &mut SmoothPen(&mut self.accumulator));
                self.accumulator.write_smooth(texels);
            }
            Edges::Hard => {
                trace(outline, local, &mut HardPen(&mut self.accumulator));
                self.accumulator.write_hard(texels);
            }
        }
        Ok(())
    }
}

/// Adds areas.
struct SmoothPen<'a>(&'a mut Accumulator);

impl Pen for SmoothPen<'_> {
    fn move_to(&mut self, to: Place) {
        self.0.move_to(to);
    }

    fn line_to(&mut self, to: Place) {
        self.0.line_to(to);
    }

    fn chord_to(&mut self, to: Place, bulge: f32) {
        self.0.chord_to(to, bulge);
    }
}

/// Adds crossings of the middles of rows.
struct HardPen<'a>(&'a mut Accumulator);

impl Pen for HardPen<'_> {
    fn move_to(&mut self, to: Place) {
        self.0.move_to(to);
    }

    fn line_to(&mut self, to: Place) {
        self.0.crossing_line_to(to);
    }

    fn chord_to(&mut self, to: Place, _: f32) {
        self.0.crossing_line_to(to);
    }
}

/// Walks the outline as closed chains of short lines.
fn trace(outline: &Outline, placement: Placement, pen: &mut impl Pen) {
    let (mut start, mut last) = ((0.0, 0.0), (0.0, 0.0));
    for segment in outline.segments() {
        last = match *segment {
            Segment::Start(point) => {
                pen.line_to(start);
                start = placement.place(point);
                pen.move_to(start);
                start
            }
            Segment::Line(point) => {
                let to = placement.place(point);
                pen.line_to(to);
                to
            }
            Segment::Quadratic(control, point) => {
                let to = placement.place(point);
                flatten::quadratic(last, placement.place(control), to, pen);
                to
            }
            Segment::Cubic(first, second, point) => {
                let to = placement.place(point);
                let (first, second) = (placement.place(first), placement.place(second));
                flatten::cubic(last, first, second, to, pen);
                to
            }
        };
    }
    pen.line_to(start);
}

/// The whole pixels around every point of an outline, control points too.
struct Extent {
    left: f32,
    top: f32,
    right: f32,
    bottom: f32,
}

impl Extent {
    fn of(outline: &Outline, placement: Placement) -> Option<Self> {
        let mut low = (f32::INFINITY, f32::INFINITY);
        let mut high = (f32::NEG_INFINITY, f32::NEG_INFINITY);
        let mut take = |point: OutlinePoint| {
            let (x, y) = placement.place(point);
            low = (smaller(x, low.0), smaller(y, low.1));
            high = (larger(x, high.0), larger(y, high.1));
        };
        for segment in outline.segments() {
            match *segment {
                Segment::Start(a) | Segment::Line(a) => take(a),
                Segment::Quadratic(a, b) => {
                    take(a);
                    take(b);
                }
                Segment::Cubic(a, b, c) => {
                    take(a);
                    take(b);
                    take(c);
                }
            }
        }
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
