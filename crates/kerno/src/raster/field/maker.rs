//! Distances of texels from lines.

use super::channels::Channels;
use super::lines::{Line, add_lines};
use super::several::{self, Nearest};
use super::strip::{Strip, turn_reach};
use super::union::{MOST, keep_boundary};
use crate::base::{Edges, Limits, Treatment};
use crate::outline::Contours;
use crate::raster::filler::Extent;
use crate::raster::{Coverage, Placement, RasterError};

/// Makes distance fields, and keeps its memory between them.
#[derive(Debug, Default)]
pub(in crate::raster) struct FieldMaker {
    lines: Vec<Line>,
    /// The square of the distance of each texel's centre from the edge, as far as it is near.
    near: Vec<f32>,
    /// The turns that begin at each texel, from left to right.
    turns: Vec<i16>,
    channels: Channels,
    nearest: Vec<[Nearest; 3]>,
    plain: Vec<u8>,
    picture: Coverage,
}

impl FieldMaker {
    /// Makes the field of contours, whose lines may lie inside of what is filled where they
    /// overlap, with texels of a number of device pixels. The range is the number of texels from
    /// 0 to 255, the edge in its middle.
    pub(in crate::raster) fn make(
        &mut self,
        (contours, overlaps): (&Contours, bool),
        (placement, times): (Placement, u32),
        treatment: &Treatment,
        limits: &Limits,
    ) -> Result<&Coverage, RasterError> {
        let part = 1.0 / times as f32;
        let placement = Placement {
            scale: placement.scale * part,
            x: placement.x * part,
            y: placement.y * part,
        };
        let range = treatment.range();
        let reach = f32::from(range) * 0.5;
        let Some(extent) = Extent::of(&contours.points, placement)? else {
            self.picture.clear();
            return Ok(&self.picture);
        };
        let extent = extent.outset(reach.ceil());
        let (width, height) = extent.place(&mut self.picture, limits)?;
        self.lines.clear();
        add_lines(contours, extent.local(placement), &mut self.lines);
        if overlaps {
            keep_boundary(&mut self.lines);
        }
        self.near.clear();
        self.near.resize(width * height, reach * reach);
        self.turns.clear();
        self.turns.resize(width * height, 0);
        for line in &self.lines {
            add_turns(line, (width, height), &mut self.turns);
        }
        let is_several = treatment.edges == Edges::MultiChannelField;
        let has_channels = is_several && self.lines.len() <= 2 * MOST;
        match has_channels {
            true => self.draw_channels((width, height), reach),
            false => self.draw_near((width, height), reach),
        }
        self.write(width, range);
        if is_several {
            self.write_channels(width, (reach, has_channels));
        }
        self.picture.reduction = times;
        self.picture.is_coarse = times > 1;
        Ok(&self.picture)
    }

    fn draw_near(&mut self, size: (usize, usize), reach: f32) {
        for (index, line) in self.lines.iter().enumerate() {
            // Beyond the end of a line the next one is as near.
            let before = index.checked_sub(1).map(|index| &self.lines[index]);
            let strip = Strip::new(line, reach, [turn_reach(before, line, reach), 0.0]);
            strip.draw_near(size, &mut self.near);
        }
    }

    fn draw_channels(&mut self, (width, height): (usize, usize), reach: f32) {
        self.channels.take(&self.lines);
        self.nearest.clear();
        self.nearest.resize(width * height, [Nearest::NONE; 3]);
        let near = (&mut self.nearest[..], &mut self.near[..]);
        for line in &self.channels.lines {
            let near = (&mut *near.0, &mut *near.1);
            several::draw_near(line, reach + 1.0, (width, height), near);
        }
    }

    fn write(&mut self, width: usize, range: u8) {
        let texels = &mut self.picture.texels;
        texels.clear();
        self.picture.channels = 1;
        let step = 255.0 / f32::from(range);
        let rows = self.near.chunks_exact(width);
        for (near, turns) in rows.zip(self.turns.chunks_exact(width)) {
            let mut winding = 0_i32;
            texels.extend(near.iter().zip(turns).map(|(near, turn)| {
                winding += i32::from(*turn);
                let distance = near.sqrt() * step;
                let inside = if winding != 0 { distance } else { -distance };
                (127.5 + inside).round() as u8
            }));
        }
    }

    /// Makes a picture of four channels out of the plain one.
    fn write_channels(&mut self, width: usize, (reach, has_channels): (f32, bool)) {
        std::mem::swap(&mut self.plain, &mut self.picture.texels);
        self.picture.channels = 4;
        let texels = &mut self.picture.texels;
        if !has_channels {
            texels.clear();
            texels.extend(self.plain.iter().flat_map(|plain| [*plain; 4]));
            return;
        }
        let step = 127.5 / reach;
        several::write(&mut self.nearest, &self.plain, (width, reach, step), texels);
        several::mend(texels, width, &self.lines, step);
    }
}

/// A whole texel, of as many as there are.
fn pixel(at: f32, most: usize) -> usize {
    (at.max(0.0) as usize).min(most)
}

/// Tells each row that a line crosses where what is filled begins or ends.
fn add_turns(line: &Line, (width, height): (usize, usize), turns: &mut [i16]) {
    let ([x, y], [_, end]) = (line.from, line.to);
    let (top, bottom) = line.extent(1);
    let direction = if end > y { 1 } else { -1 };
    // Rows whose centres lie from one end to before the other one.
    for row in pixel((top - 0.5).ceil(), height)..pixel((bottom - 0.5).ceil(), height) {
        let share = (row as f32 + 0.5 - y) / (end - y);
        let cross = x + (line.to[0] - x) * share;
        let column = pixel((cross - 0.5).ceil(), width);
        if column < width {
            let turn = &mut turns[row * width + column];
            *turn = turn.saturating_add(direction);
        }
    }
}
