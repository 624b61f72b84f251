//! Paints a colour glyph by its steps.

use super::super::budget::Budget;
use super::super::filler::{Extent, Filler};
use super::super::overlap::overlaps;
use super::super::{Coverage, Placement, RasterError};
use super::blend::composite;
use crate::base::rows::{self, MaskedColor};
use crate::base::{Affine, Edges, Limits, Point};
use crate::font::{Brush, ColorGlyph, CompositeMode, Face, OuterClip, PaintStep};
use crate::outline::Outline;

/// Paints colour glyphs, and keeps its memory between them.
#[derive(Debug, Default)]
pub(in crate::raster) struct ColorPainter {
    outline: Outline,
    /// Outlines of the clips that lie in no other one, in their order: the first `kept`.
    outlines: Vec<Outline>,
    kept: usize,
    /// The coverage of each clip within the ones before.
    masks: Vec<Coverage>,
    /// Pictures that were begun, beside the whole one.
    layers: Vec<Vec<[u8; 4]>>,
    picture: Coverage,
}

/// The most pixels of all pictures that are begun at once: 16 MB.
const MOST_KEPT: usize = 1 << 22;

/// The most points of outlines that are kept between finding the extent and painting.
const MOST_KEPT_POINTS: usize = 1 << 16;

/// A paint on its way.
struct Painting<'a> {
    width: usize,
    height: usize,
    /// From pixels of the picture to font units.
    place: Affine,
    placement: Placement,
    /// The number of clips that nothing has ended yet.
    depth: usize,
    /// The number of kept outlines that were taken.
    outer: usize,
    /// True if there is a box beside which nothing is painted, so that no clip is needed.
    is_bounded: bool,
    /// Pixels that may still be painted.
    left: usize,
    /// True if something was left out that would take too long.
    is_cut: bool,
    /// True if a clip is coarser than it would be.
    is_coarse: bool,
    limits: &'a Limits,
}

impl Painting<'_> {
    /// Counts pixels that are painted; returns whether there are as many left.
    fn spend(&mut self, pixels: usize) -> bool {
        self.is_cut |= pixels > self.left;
        self.left = self.left.saturating_sub(pixels);
        !self.is_cut
    }
}

impl ColorPainter {
    /// The picture that was painted last.
    pub(in crate::raster) fn picture(&self) -> &Coverage {
        &self.picture
    }

    /// Paints a glyph of a face.
    pub(in crate::raster) fn paint(
        &mut self,
        filler: &mut Filler,
        (face, painted): (&Face, &ColorGlyph),
        (placement, budget): (Placement, Budget),
    ) -> Result<(), RasterError> {
        let limits = face.limits();
        let Some(extent) = self.extent(face, painted, placement)? else {
            self.picture.clear();
            return Ok(());
        };
        let (width, height) = extent.place(&mut self.picture, limits)?;
        self.picture.channels = 4;
        let placement = extent.local(placement);
        let inverse = 1.0 / placement.scale;
        let mut painting = Painting {
            width,
            height,
            // From the pixel's place back, y up.
            place: Affine::new([
                inverse,
                0.0,
                0.0,
                -inverse,
                -placement.x * inverse,
                placement.y * inverse,
            ]),
            placement,
            depth: 0,
            outer: 0,
            is_bounded: painted.clip.is_some(),
            left: budget.painted(),
            is_cut: false,
            is_coarse: false,
            limits,
        };
        self.layers.clear();
        let texels = &mut self.picture.texels;
        texels.clear();
        texels.resize(width * height * 4, 0);
        for step in &painted.steps {
            self.step(filler, face, step, &mut painting)?;
            if painting.is_cut {
                break;
            }
        }
        self.picture.is_coarse = painting.is_cut || painting.is_coarse;
        Ok(())
    }

    /// The pixels that the glyph lies in.
    fn extent(
        &mut self,
        face: &Face,
        painted: &ColorGlyph,
        placement: Placement,
    ) -> Result<Option<Extent>, RasterError> {
        self.kept = 0;
        let whole = painted
            .clip
            .map(|sides| OuterClip::Box(sides, Affine::IDENTITY));
        let most = if whole.is_some() { 1 } else { usize::MAX };
        let mut extent: Option<Extent> = None;
        let mut room = MOST_KEPT_POINTS;
        for clip in whole.into_iter().chain(painted.outer_clips()).take(most) {
            face.clip_outline(clip, &mut self.outline)?;
            let points = &self.outline.contours.points;
            if let Some(own) = Extent::of(points, placement)? {
                extent = Some(extent.map_or(own, |all| all.union(own)));
            }
            room = room.saturating_sub(points.len());
            if room > 0 && whole.is_none() {
                if self.outlines.len() == self.kept {
                    self.outlines.push(Outline::default());
                }
                std::mem::swap(&mut self.outlines[self.kept], &mut self.outline);
                self.kept += 1;
            }
        }
        Ok(extent)
    }

    /// Reads the outline of a clip, or takes the one that was read for the extent.
    fn read(
        &mut self,
        face: &Face,
        clip: OuterClip,
        painting: &mut Painting<'_>,
    ) -> Result<(), RasterError> {
        if painting.depth == 0 && painting.outer < self.kept {
            std::mem::swap(&mut self.outlines[painting.outer], &mut self.outline);
            painting.outer += 1;
            return Ok(());
        }
        Ok(face.clip_outline(clip, &mut self.outline)?)
    }

    fn step(
        &mut self,
        filler: &mut Filler,
        face: &Face,
        step: &PaintStep,
        painting: &mut Painting<'_>,
    ) -> Result<(), RasterError> {
        let all = painting.width * painting.height;
        match step {
            PaintStep::Clip { glyph, place } => {
                self.read(face, OuterClip::Glyph(*glyph, *place), painting)?;
                let contours = &self.outline.contours;
                let overlaps = face.overlaps(*glyph, || overlaps(contours));
                self.clip(filler, overlaps, painting)
            }
            PaintStep::ClipBox { sides, place } => {
                self.read(face, OuterClip::Box(*sides, *place), painting)?;
                self.clip(filler, false, painting)
            }
            PaintStep::EndClip => {
                painting.depth = painting.depth.saturating_sub(1);
                Ok(())
            }
            PaintStep::Begin => {
                painting.is_cut |= (self.layers.len() + 1) * all > MOST_KEPT;
                if painting.spend(all) {
                    self.layers.push(vec![[0; 4]; all]);
                }
                Ok(())
            }
            PaintStep::End(mode) => {
                let above = self.layers.pop();
                if let Some(above) = above.filter(|_| painting.spend(all)) {
                    let below = top(&mut self.layers, &mut self.picture);
                    lay_over(*mode, &above, below);
                }
                Ok(())
            }
            PaintStep::Fill(brush) => self.fill(brush, painting),
        }
    }

    /// Begins a clip with the outline that was read.
    fn clip(
        &mut self,
        filler: &mut Filler,
        overlaps: bool,
        painting: &mut Painting<'_>,
    ) -> Result<(), RasterError> {
        let shape = (&self.outline.contours, overlaps);
        let (edges, limits) = (Edges::Smooth, painting.limits);
        let filled = filler.fill(shape, painting.placement, edges, limits)?;
        painting.is_coarse |= filled.is_coarse;
        if !painting.spend(filled.texels.len()) {
            return Ok(());
        }
        let depth = painting.depth;
        if self.masks.len() <= depth {
            self.masks.push(Coverage::default());
        }
        let (before, own) = self.masks.split_at_mut(depth);
        own[0].clone_from(filled);
        if let Some(outer) = before.last() {
            keep_within(&mut own[0], outer);
        }
        painting.depth += 1;
        Ok(())
    }

    /// Paints all that is seen.
    fn fill(&mut self, brush: &Brush, painting: &mut Painting<'_>) -> Result<(), RasterError> {
        let (width, height) = (painting.width, painting.height);
        let mask = painting
            .depth
            .checked_sub(1)
            .map(|depth| &self.masks[depth]);
        let cut = |from: i32, length: u32, most: usize| {
            let edge = |at: i64| at.clamp(0, most as i64) as usize;
            edge(from.into())..edge(i64::from(from) + i64::from(length))
        };
        let (columns, rows) = match mask {
            Some(mask) => (
                cut(mask.left, mask.width, width),
                cut(mask.top, mask.height, height),
            ),
            None if painting.is_bounded => (0..width, 0..height),
            // Without any shape a paint has no end.
            None => return Ok(()),
        };
        if columns.is_empty() {
            // A shape beside the picture.
            return Ok(());
        }
        if !painting.spend(columns.len() * rows.len()) {
            return Ok(());
        }
        let pixels = top(&mut self.layers, &mut self.picture);
        for row in rows {
            let seen = mask.map(|mask| {
                let down = (row as i32 - mask.top) as usize;
                let start =
                    down * mask.width as usize + (columns.start as i32 - mask.left) as usize;
                &mask.texels[start..start + columns.len()]
            });
            let pixels = &mut pixels[row * width + columns.start..row * width + columns.end];
            match brush {
                Brush::Solid(color) => {
                    let color = color.map(|channel| (channel * 255.0 + 0.5) as u8);
                    match seen {
                        Some(seen) => MaskedColor::new(color).blend(pixels, seen),
                        None => rows::blend(pixels, color),
                    }
                }
                Brush::Gradient { kind, line, place } => {
                    let Some(back) = place.inverse() else {
                        return Ok(());
                    };
                    let back = painting.place.then(back);
                    for (index, pixel) in pixels.iter_mut().enumerate() {
                        let share = seen.map_or(255, |seen| seen[index]);
                        if share == 0 {
                            continue;
                        }
                        let x = (columns.start + index) as f32 + 0.5;
                        let at = back.point(Point::new(x, row as f32 + 0.5));
                        let color = kind.at(at.x, at.y).map(|place| line.at(place));
                        let part = f32::from(share) / 255.0;
                        over(
                            pixel,
                            color.unwrap_or([0.0; 4]).map(|channel| channel * part),
                        );
                    }
                }
            }
        }
        Ok(())
    }
}

/// The picture that is painted on: the last that was begun, or the whole one.
fn top<'a>(layers: &'a mut [Vec<[u8; 4]>], picture: &'a mut Coverage) -> &'a mut [[u8; 4]] {
    match layers.last_mut() {
        Some(layer) => layer,
        None => picture.texels.as_chunks_mut::<4>().0,
    }
}

/// Lays a colour from 0 to 1 over a pixel.
fn over(pixel: &mut [u8; 4], color: [f32; 4]) {
    let hidden = 1.0 - color[3];
    for (channel, color) in pixel.iter_mut().zip(color) {
        *channel = (color * 255.0 + f32::from(*channel) * hidden + 0.5) as u8;
    }
}

/// Lays a picture over another one.
fn lay_over(mode: CompositeMode, above: &[[u8; 4]], below: &mut [[u8; 4]]) {
    if mode == CompositeMode::SourceOver {
        return rows::blend_colors(below, above);
    }
    let wide = |pixel: [u8; 4]| pixel.map(|channel| f32::from(channel) / 255.0);
    for (above, below) in above.iter().zip(below) {
        let mixed = composite(mode, wide(*above), wide(*below));
        *below = mixed.map(|channel| (channel * 255.0 + 0.5) as u8);
    }
}

/// Leaves of a mask what another one has as well.
fn keep_within(mask: &mut Coverage, outer: &Coverage) {
    let width = (mask.width as usize).max(1);
    for (row, texels) in mask.texels.chunks_exact_mut(width).enumerate() {
        for (column, texel) in texels.iter_mut().enumerate() {
            let (x, y) = (mask.left + column as i32, mask.top + row as i32);
            *texel = rows::times(*texel, outer.at(x, y));
        }
    }
}
