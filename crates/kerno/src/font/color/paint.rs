//! The graph of paints of a glyph, walked into steps (`COLR` version 1, “Paint tables”).

use std::f32::consts::PI;

use super::colr::{ColorLayers, Paints, offset24};
use super::line::{ColorLine, Extend};
use super::palette::FOREGROUND;
use super::steps::{Brush, ColorGlyph, CompositeMode, Gradient, PaintStep};
use crate::base::{Affine, Offset, Point};
use crate::font::{FontError, GlyphId};

impl ColorLayers {
    /// The steps that paint a glyph; nothing for one without colours.
    pub(in crate::font) fn glyph(
        &self,
        paints: &Paints<'_>,
        glyph: GlyphId,
    ) -> Result<Option<ColorGlyph>, FontError> {
        let mut painted = ColorGlyph::default();
        if let Some(paint) = self.paint_of(&paints.colr, glyph) {
            painted.clip = self.clip_of(paints, glyph)?;
            Walk::new(self, paints, &mut painted).paint(paint, Affine::IDENTITY)?;
            return Ok(Some(painted));
        }
        let Some((first, count)) = self.flat_of(&paints.colr, glyph) else {
            return Ok(None);
        };
        for layer in first..first.saturating_add(count).min(self.flat_layer_count) {
            let at = self.flat_layers + usize::from(layer) * 4;
            let (shape, entry) = (paints.colr.u16(at)?, paints.colr.u16(at + 2)?);
            painted.uses_foreground |= entry == FOREGROUND;
            painted.steps.extend([
                PaintStep::Clip {
                    glyph: GlyphId(shape),
                    place: Affine::IDENTITY,
                },
                PaintStep::Fill(Brush::Solid(paints.color(entry, 1.0))),
                PaintStep::EndClip,
            ]);
        }
        Ok(Some(painted))
    }
}

/// A paint graph on its way into steps.
struct Walk<'a> {
    layers: &'a ColorLayers,
    paints: &'a Paints<'a>,
    into: &'a mut ColorGlyph,
    /// The paints that the walk is within.
    depth: u32,
    /// The paints that were met.
    count: u32,
}

/// The numbers of a paint, which may grow along the axes: the first is number 0 of its base.
struct Numbers<'a> {
    walk: &'a Walk<'a>,
    at: usize,
    /// The index of the variation of its first number; none of a paint that does not vary.
    base: Option<u32>,
}

impl Numbers<'_> {
    fn growth(&self, index: usize) -> f32 {
        let Walk { layers, paints, .. } = self.walk;
        self.base
            .map_or(0.0, |base| layers.growth(paints.bytes, base, index))
    }

    /// Number `index`, all of them of two bytes, in font units.
    fn units(&self, index: usize) -> Result<f32, FontError> {
        let stated = self.walk.paints.colr.i16(self.at + index * 2)?;
        Ok(f32::from(stated) + self.growth(index))
    }

    /// The same, a length from 0 to 65535.
    fn length(&self, index: usize) -> Result<f32, FontError> {
        let stated = self.walk.paints.colr.u16(self.at + index * 2)?;
        Ok((f32::from(stated) + self.growth(index)).max(0.0))
    }

    /// The same, in 1/16384.
    fn part(&self, index: usize) -> Result<f32, FontError> {
        Ok(self.units(index)? / 16384.0)
    }

    /// Number `index`, all of them of four bytes, in 1/65536.
    fn fixed(&self, index: usize) -> Result<f32, FontError> {
        let stated = self.walk.paints.colr.u32(self.at + index * 4)? as i32;
        Ok((stated as f32 + self.growth(index)) / 65536.0)
    }

    fn point(&self, index: usize) -> Result<Point, FontError> {
        Ok(Point::new(self.units(index)?, self.units(index + 1)?))
    }
}

impl<'a> Walk<'a> {
    fn new(layers: &'a ColorLayers, paints: &'a Paints<'a>, into: &'a mut ColorGlyph) -> Self {
        Self {
            layers,
            paints,
            into,
            depth: 0,
            count: 0,
        }
    }

    /// Adds what the paint at a byte of the table does, placed by a transform.
    fn paint(&mut self, at: usize, place: Affine) -> Result<(), FontError> {
        let limits = self.paints.limits;
        let colr = &self.paints.colr;
        self.count += 1;
        if self.depth >= limits.paint_depth || self.count > limits.paint_steps {
            let expected = "paints nest too deep, contain themselves, or are too many";
            return Err(colr.bad(at, "PaintTable", self.count.into(), expected));
        }
        self.depth += 1;
        let done = self.paint_of_format(at, place);
        self.depth -= 1;
        done
    }

    fn paint_of_format(&mut self, at: usize, place: Affine) -> Result<(), FontError> {
        let colr = self.paints.colr;
        match colr.u8(at)? {
            // PaintColrLayers
            1 => {
                let (count, first) = (colr.u8(at + 1)?, colr.u32(at + 2)? as usize);
                let list = self.layers.layers;
                let known = colr.u32(list)? as usize;
                for layer in first..first.saturating_add(count.into()) {
                    if list == 0 || layer >= known {
                        let expected = "the list of layers is shorter";
                        return Err(colr.bad(at + 2, "firstLayerIndex", layer as i64, expected));
                    }
                    let offset = colr.u32(list + 4 + layer * 4)? as usize;
                    self.paint(list.saturating_add(offset), place)?;
                }
            }
            // PaintSolid
            format @ (2 | 3) => {
                let base = self.base(format == 3, at + 5)?;
                let entry = colr.u16(at + 1)?;
                let alpha = self.numbers(at + 3, base).part(0)?;
                let color = self.color(entry, alpha);
                self.into.steps.push(PaintStep::Fill(Brush::Solid(color)));
            }
            4..=9 => self.gradient(at, place)?,
            // PaintGlyph
            10 => {
                let (paint, glyph) = (at + offset24(&colr, at + 1)?, colr.u16(at + 4)?);
                let glyph = GlyphId(glyph);
                self.into.steps.push(PaintStep::Clip { glyph, place });
                self.paint(paint, place)?;
                self.into.steps.push(PaintStep::EndClip);
            }
            // PaintColrGlyph
            11 => self.other_glyph(GlyphId(colr.u16(at + 1)?), place)?,
            12..=31 => {
                let own = self.transform(at)?;
                self.paint(at + offset24(&colr, at + 1)?, own.then(place))?;
            }
            // PaintComposite
            32 => {
                let number = colr.u8(at + 4)?;
                let Some(mode) = CompositeMode::of(number) else {
                    let expected = "it must be 0 to 27";
                    return Err(colr.bad(at + 4, "compositeMode", number.into(), expected));
                };
                let (source, backdrop) = (offset24(&colr, at + 1)?, offset24(&colr, at + 5)?);
                self.into.steps.push(PaintStep::Begin);
                self.paint(at + backdrop, place)?;
                self.into.steps.push(PaintStep::Begin);
                self.paint(at + source, place)?;
                self.into.steps.push(PaintStep::End(mode));
                let over = CompositeMode::SourceOver;
                self.into.steps.push(PaintStep::End(over));
            }
            format => {
                let expected = "it must be 1 to 32";
                return Err(colr.bad(at, "format", format.into(), expected));
            }
        }
        Ok(())
    }

    fn numbers(&self, at: usize, base: Option<u32>) -> Numbers<'_> {
        let walk = self;
        Numbers { walk, at, base }
    }

    /// The index of the first variation of a paint that varies.
    fn base(&self, varies: bool, at: usize) -> Result<Option<u32>, FontError> {
        varies.then(|| self.paints.colr.u32(at)).transpose()
    }

    fn color(&mut self, entry: u16, alpha: f32) -> [f32; 4] {
        self.into.uses_foreground |= entry == FOREGROUND;
        self.paints.color(entry, alpha)
    }

    /// `PaintColrGlyph`: another glyph of the table, in its box.
    fn other_glyph(&mut self, glyph: GlyphId, place: Affine) -> Result<(), FontError> {
        let Some(paint) = self.layers.paint_of(&self.paints.colr, glyph) else {
            // A glyph that is not there paints nothing.
            return Ok(());
        };
        let sides = self.layers.clip_of(self.paints, glyph)?;
        if let Some(sides) = sides {
            self.into.steps.push(PaintStep::ClipBox { sides, place });
        }
        self.paint(paint, place)?;
        if sides.is_some() {
            self.into.steps.push(PaintStep::EndClip);
        }
        Ok(())
    }

    /// `PaintLinearGradient`, `PaintRadialGradient`, `PaintSweepGradient`.
    fn gradient(&mut self, at: usize, place: Affine) -> Result<(), FontError> {
        let colr = self.paints.colr;
        let format = colr.u8(at)?;
        let varies = format % 2 == 1;
        let length = if format >= 8 { 8 } else { 12 };
        let base = self.base(varies, at + 4 + length)?;
        let line = self.color_line(at + offset24(&colr, at + 1)?, varies)?;
        let numbers = self.numbers(at + 4, base);
        let kind = match format {
            4 | 5 => {
                let points = [numbers.point(0)?, numbers.point(2)?, numbers.point(4)?];
                let Some((from, to)) = straightened(points) else {
                    return Ok(());
                };
                Gradient::Linear { from, to }
            }
            6 | 7 => Gradient::Radial {
                centers: [numbers.point(0)?, numbers.point(3)?],
                radii: [numbers.length(2)?, numbers.length(5)?],
            },
            _ => {
                // Stored less a half turn.
                let turns = [numbers.part(2)?, numbers.part(3)?].map(|part| (part + 1.0) * 0.5);
                Gradient::Sweep {
                    center: numbers.point(0)?,
                    turns,
                }
            }
        };
        if line.is_seen() && kind.is_seen(line.extend) {
            let brush = Brush::Gradient { kind, line, place };
            self.into.steps.push(PaintStep::Fill(brush));
        }
        Ok(())
    }

    /// `ColorLine`, `VarColorLine`.
    fn color_line(&mut self, at: usize, varies: bool) -> Result<ColorLine, FontError> {
        let colr = self.paints.colr;
        let (extend, count) = (colr.u8(at)?, usize::from(colr.u16(at + 1)?));
        // An unknown mode counts as the first (“Extend enumeration”).
        let extend = match extend {
            1 => Extend::Repeat,
            2 => Extend::Reflect,
            _ => Extend::Pad,
        };
        let size = if varies { 10 } else { 6 };
        colr.slice(at + 3, count * size)?;
        let mut stops = Vec::with_capacity(count);
        for stop in (at + 3..).step_by(size).take(count) {
            let base = self.base(varies, stop + 6)?;
            let entry = colr.u16(stop + 2)?;
            let place = self.numbers(stop, base).part(0)?;
            // The place is number 0, alpha number 1, with the entry between.
            let growth = self.numbers(stop, base).growth(1);
            let alpha = (f32::from(colr.i16(stop + 4)?) + growth) / 16384.0;
            stops.push((place, self.color(entry, alpha)));
        }
        Ok(ColorLine::new(extend, stops))
    }

    /// The transform of a paint of format 12 to 31.
    fn transform(&self, at: usize) -> Result<Affine, FontError> {
        let colr = self.paints.colr;
        let format = colr.u8(at)?;
        let varies = format % 2 == 1;
        // The numbers of each, two bytes each; an even format and the odd one after are alike.
        let count = match format & !1 {
            14 | 16 | 28 => 2,
            18 | 30 => 4,
            20 | 24 => 1,
            22 | 26 => 3,
            _ => {
                let matrix = at + offset24(&colr, at + 4)?;
                let base = self.base(varies, matrix + 24)?;
                let numbers = self.numbers(matrix, base);
                let mut parts = [0.0; 6];
                for (index, part) in parts.iter_mut().enumerate() {
                    *part = numbers.fixed(index)?;
                }
                return Ok(Affine::new(parts));
            }
        };
        let base = self.base(varies, at + 4 + count * 2)?;
        let numbers = self.numbers(at + 4, base);
        let angle = |index: usize| Ok::<f32, FontError>(numbers.part(index)? * PI);
        let (own, center) = match format & !1 {
            14 => {
                let by = numbers.point(0)?;
                return Ok(Affine::translation(Offset::new(by.x, by.y)));
            }
            16 | 18 => (Affine::scaling(numbers.part(0)?, numbers.part(1)?), 2),
            20 | 22 => (Affine::scaling(numbers.part(0)?, numbers.part(0)?), 1),
            // Counter-clockwise where y is up, as the transform is clockwise where it is down.
            24 | 26 => (Affine::rotation(angle(0)?), 1),
            _ => (Affine::skewing(-angle(0)?, angle(1)?), 2),
        };
        match count > center {
            true => Ok(own.about(numbers.point(center)?)),
            false => Ok(own),
        }
    }
}

/// The way of a linear gradient: from its first point to the second, less what lies along the
/// line from the first to the third, on which its colours are turned; none where the three
/// say nothing.
fn straightened([from, to, turned]: [Point; 3]) -> Option<(Point, Point)> {
    let (x, y) = (to.x - from.x, to.y - from.y);
    let (across, down) = (turned.x - from.x, turned.y - from.y);
    // The part at a right angle to that line.
    let (nx, ny) = (-down, across);
    let length = nx * nx + ny * ny;
    let share = (x * nx + y * ny) / length;
    if length == 0.0 || share == 0.0 {
        return None;
    }
    let end = Point::new(from.x + nx * share, from.y + ny * share);
    Some((from, end))
}
