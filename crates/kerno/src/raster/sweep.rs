//! Fills contours that overlap, by the non-zero winding rule exactly.
//!
//! Row by row, the edges are cut wherever one ends or two cross. In the strips between,
//! they do not change their order: walking through them from the left, only those count at
//! which what is filled begins or ends. These parts go to the accumulator, whose sum is 0 or
//! 1 everywhere then.

use super::accumulate::{Accumulator, SmoothInk};
use super::flatten::{Chords, Ink};

type Place = (f32, f32);

/// Chords that leave out more area than this are cut in two.
const BULGE: f32 = 0.002;

/// The most edges in rows that are kept: about 20 MB. An outline with more was made to have them.
const MOST_EDGES: usize = 1 << 19;

/// Cuts closer together than this are one.
const SAME: f32 = 1e-5;

/// An edge or a part of one, in one row of pixels.
#[derive(Clone, Copy, Debug)]
struct Edge {
    row: u32,
    top: Place,
    bottom: Place,
    /// Change of the winding number to the right of it.
    winding: i32,
    /// The area between it and its curve, as if it went down.
    bulge: f32,
    /// Role in the strip at hand, and the height at which it began.
    role: Role,
    since: f32,
}

#[derive(Clone, Copy, Debug, PartialEq)]
enum Role {
    /// Inside or outside of what is filled.
    Neither,
    /// The filled side begins to the right of it.
    Begins,
    Ends,
}

/// Gathers edges, then fills.
#[derive(Debug, Default)]
pub(super) struct Sweep {
    edges: Vec<Edge>,
    /// The number of edges that may still be looked at, in all strips together.
    left: usize,
    cuts: Vec<f32>,
    /// The edges of a row by their upper ends, and those of them that reach into a strip, by
    /// their numbers.
    starts: Vec<usize>,
    active: Vec<usize>,
    /// The edges of a strip from left to right, by their numbers.
    order: Vec<(f32, usize)>,
    chords: Box<Chords>,
}

impl Edge {
    fn x_at(&self, y: f32) -> f32 {
        let (top, bottom) = (self.top, self.bottom);
        if y <= top.1 {
            return top.0;
        }
        if y >= bottom.1 {
            return bottom.0;
        }
        top.0 + (bottom.0 - top.0) * ((y - top.1) / (bottom.1 - top.1))
    }

    fn left(&self) -> f32 {
        self.top.0.min(self.bottom.0)
    }

    fn right(&self) -> f32 {
        self.top.0.max(self.bottom.0)
    }

    /// Height of the crossing with another one, strictly between the ends of both.
    fn crossing(&self, other: &Self) -> Option<f32> {
        let (from, to) = (
            self.top.1.max(other.top.1),
            self.bottom.1.min(other.bottom.1),
        );
        if from >= to {
            return None;
        }
        let distance = |y: f32| self.x_at(y) - other.x_at(y);
        let (start, end) = (distance(from), distance(to));
        (start * end < 0.0).then(|| from + (to - from) * (start / (start - end)))
    }
}

impl Sweep {
    /// Begins an outline, for which a number of edges may be looked at in all strips together: the
    /// other rows are summed as they are.
    pub(super) fn start(&mut self, steps: usize) {
        self.edges.clear();
        self.left = steps;
    }

    /// Returns whether there are more edges than are kept.
    pub(super) fn is_full(&self) -> bool {
        self.edges.len() >= MOST_EDGES
    }

    /// The number of edges that may still be looked at.
    pub(super) fn steps_left(&self) -> usize {
        self.left
    }

    /// Adds a chord, in halves where it leaves out much of its curve.
    fn add(&mut self, from: Place, to: Place, bulge: f32, halvings: u32) {
        let (width, rise) = (to.0 - from.0, to.1 - from.1);
        let square = width * width + rise * rise;
        if bulge.abs() > BULGE && halvings > 0 && square > 0.0 {
            // The curve is farthest away in its middle, by 3/2 of the area over the length.
            let away = 1.5 * bulge / square;
            let middle = (
                (from.0 + to.0) * 0.5 - rise * away,
                (from.1 + to.1) * 0.5 + width * away,
            );
            self.add(from, middle, bulge * 0.125, halvings - 1);
            self.add(middle, to, bulge * 0.125, halvings - 1);
            return;
        }
        let (winding, top, bottom) = if rise > 0.0 {
            (1, from, to)
        } else {
            (-1, to, from)
        };
        if rise == 0.0 {
            return;
        }
        let whole = Edge {
            row: 0,
            top,
            bottom,
            winding,
            bulge: bulge * winding as f32,
            role: Role::Neither,
            since: 0.0,
        };
        let mut start = top;
        let mut row = top.1.max(0.0) as u32;
        while start.1 < bottom.1 && !self.is_full() {
            let border = (row + 1) as f32;
            let end = if border < bottom.1 {
                (whole.x_at(border), border)
            } else {
                bottom
            };
            self.edges.push(Edge {
                row,
                top: start,
                bottom: end,
                bulge: whole.bulge * ((end.1 - start.1) / (bottom.1 - top.1)),
                ..whole
            });
            (start, row) = (end, row + 1);
        }
    }

    /// Fills what was gathered.
    pub(super) fn fill(&mut self, accumulator: &mut Accumulator) {
        let mut edges = std::mem::take(&mut self.edges);
        edges.sort_unstable_by(|a, b| a.row.cmp(&b.row).then(a.left().total_cmp(&b.left())));
        for row in edges.chunk_by_mut(|a, b| a.row == b.row) {
            self.fill_row(row, accumulator);
        }
        self.edges = edges;
        self.chords.flush(&mut SmoothInk(accumulator));
    }

    /// Finds where edges of a row end or cross; false where that would take too long.
    fn find_cuts(&mut self, row: &[Edge]) -> bool {
        self.cuts.clear();
        for (index, edge) in row.iter().enumerate() {
            self.cuts.extend([edge.top.1, edge.bottom.1]);
            let right = edge.right();
            let others = row[index + 1..].iter();
            let near = others.take_while(|other| other.left() <= right);
            let mut looked_at = 1;
            self.cuts.extend(near.filter_map(|other| {
                looked_at += 1;
                edge.crossing(other)
            }));
            self.left = self.left.saturating_sub(looked_at);
            if self.left == 0 {
                return false;
            }
        }
        true
    }

    /// Sums what of a row lies below a height as it is.
    fn sum_row(&mut self, row: &mut [Edge], from: f32, accumulator: &mut Accumulator) {
        for edge in row {
            self.chords.push_part(edge, from, accumulator);
            edge.since = from.max(edge.top.1);
            edge.role = match edge.winding {
                1 => Role::Begins,
                _ => Role::Ends,
            };
            self.chords.push_part(edge, edge.bottom.1, accumulator);
        }
    }

    /// Fills a row whose edges are sorted by their left ends.
    fn fill_row(&mut self, row: &mut [Edge], accumulator: &mut Accumulator) {
        if !self.find_cuts(row) {
            return self.sum_row(row, f32::NEG_INFINITY, accumulator);
        }
        self.cuts.sort_unstable_by(f32::total_cmp);
        self.cuts
            .dedup_by(|later, earlier| *later - *earlier < SAME);
        self.starts.clear();
        self.starts.extend(0..row.len());
        self.starts
            .sort_unstable_by(|a, b| row[*a].top.1.total_cmp(&row[*b].top.1));
        self.active.clear();
        let mut next = 0;
        for at in 1..self.cuts.len() {
            let (from, to) = (self.cuts[at - 1], self.cuts[at]);
            let middle = (from + to) * 0.5;
            let begun = next;
            while let Some(number) = self.starts.get(next)
                && row[*number].top.1 < middle
            {
                self.active.push(*number);
                next += 1;
            }
            if begun < next {
                self.active.sort_unstable();
            }
            self.left = self.left.saturating_sub(self.active.len());
            if self.left == 0 {
                return self.sum_row(row, from, accumulator);
            }
            self.order.clear();
            let (chords, order) = (&mut self.chords, &mut self.order);
            self.active.retain(|number| {
                let edge = &mut row[*number];
                let is_there = middle < edge.bottom.1;
                if is_there {
                    order.push((edge.x_at(middle), *number));
                } else if edge.role != Role::Neither {
                    // It has ended.
                    chords.push_part(edge, edge.bottom.1, accumulator);
                    edge.role = Role::Neither;
                }
                is_there
            });
            self.order.sort_unstable_by(|a, b| a.0.total_cmp(&b.0));
            let mut winding = 0;
            for (_, number) in &self.order {
                let edge = &mut row[*number];
                let before = winding;
                winding += edge.winding;
                let role = match (before != 0, winding != 0) {
                    (false, true) => Role::Begins,
                    (true, false) => Role::Ends,
                    _ => Role::Neither,
                };
                if role != edge.role {
                    if edge.role != Role::Neither {
                        self.chords.push_part(edge, from, accumulator);
                    }
                    edge.role = role;
                    edge.since = from;
                }
            }
        }
        for edge in row.iter_mut().filter(|edge| edge.role != Role::Neither) {
            let end = edge.bottom.1;
            self.chords.push_part(edge, end, accumulator);
        }
    }
}

impl Chords {
    /// Adds the part of an edge that has had its role down to a place.
    fn push_part(&mut self, edge: &Edge, end: f32, accumulator: &mut Accumulator) {
        let (start, end) = (edge.since.max(edge.top.1), end.min(edge.bottom.1));
        if end <= start {
            return;
        }
        let (top, bottom) = ((edge.x_at(start), start), (edge.x_at(end), end));
        let bulge = edge.bulge * ((end - start) / (edge.bottom.1 - edge.top.1));
        let ink = &mut SmoothInk(accumulator);
        match edge.role {
            Role::Neither => {}
            Role::Ends => self.push(bottom, top, -bulge, ink),
            _ => self.push(top, bottom, bulge, ink),
        }
    }
}

/// Most halvings of a chord.
const HALVINGS: u32 = 2;

impl Ink for Sweep {
    fn chords(&mut self, chords: &Chords) {
        let (from, to) = (&chords.from, &chords.to);
        for index in 0..chords.count() {
            let ends = [(from.x[index], from.y[index]), (to.x[index], to.y[index])];
            self.add(ends[0], ends[1], chords.bulge[index], HALVINGS);
        }
    }

    fn upright(&mut self, x: f32, from: f32, to: f32) {
        self.add((x, from), (x, to), 0.0, 0);
    }
}
