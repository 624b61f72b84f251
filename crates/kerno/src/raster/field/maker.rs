//! Distances of texels from lines.

use super::lines::{Line, add_lines};
use super::union::keep_boundary;
use crate::base::Limits;
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
    picture: Coverage,
}

impl FieldMaker {
    /// Makes the field of contours, whose lines may lie inside of what is filled where they
    /// overlap. The range is the number of texels from 0 to 255, the edge in its middle.
    pub(in crate::raster) fn make(
        &mut self,
        (contours, overlaps): (&Contours, bool),
        placement: Placement,
        range: u8,
        limits: &Limits,
    ) -> Result<&Coverage, RasterError> {
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
            draw_near(line, reach, (width, height), &mut self.near);
            add_turns(line, (width, height), &mut self.turns);
        }
        self.write(width, range);
        Ok(&self.picture)
    }

    fn write(&mut self, width: usize, range: u8) {
        let texels = &mut self.picture.texels;
        texels.clear();
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
}

/// Tells the texels near a line how far they are, row by row.
fn draw_near(line: &Line, reach: f32, (width, height): (usize, usize), near: &mut [f32]) {
    let (x, y) = (line.to[0] - line.from[0], line.to[1] - line.from[1]);
    let inverse = 1.0 / (x * x + y * y);
    let (top, bottom) = line.extent(1);
    let pixel = |at: f32, most: usize| (at.max(0.0) as usize).min(most);
    let rows =
        pixel((top - reach - 0.5).ceil(), height)..pixel((bottom + reach + 0.5).ceil(), height);
    for row in rows {
        let center = row as f32 + 0.5;
        // The part of the line that lies within reach above and below.
        let share = |edge: f32| ((edge - line.from[1]) / y).clamp(0.0, 1.0);
        let (from, to) = match y == 0.0 {
            true => (0.0, 1.0),
            false => (share(center - reach), share(center + reach)),
        };
        let (a, b) = (line.from[0] + x * from, line.from[0] + x * to);
        let start = pixel((a.min(b) - reach - 0.5).ceil(), width);
        let end = pixel((a.max(b) + reach + 0.5).ceil(), width).max(start);
        let down = center - line.from[1];
        let texels = &mut near[row * width + start..row * width + end];
        for (column, near) in texels.iter_mut().enumerate() {
            let across = (start + column) as f32 + 0.5 - line.from[0];
            let share = ((across * x + down * y) * inverse).clamp(0.0, 1.0);
            let (dx, dy) = (across - x * share, down - y * share);
            *near = near.min(dx * dx + dy * dy);
        }
    }
}

/// Tells each row that a line crosses where what is filled begins or ends.
fn add_turns(line: &Line, (width, height): (usize, usize), turns: &mut [i16]) {
    let ([x, y], [_, end]) = (line.from, line.to);
    let (top, bottom) = line.extent(1);
    let pixel = |at: f32, most: usize| (at.max(0.0) as usize).min(most);
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
