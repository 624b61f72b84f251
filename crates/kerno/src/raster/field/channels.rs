//! Channels of lines: between two corners of a contour, lines belong to two of the three
//! channels, and at a corner one of them changes, so that each channel alone is smooth there
//! (“Shape Decomposition for Multi-Channel Distance Fields”, 2015, section 3).

use super::lines::{Line, cross};
use super::strip::turn_reach;
use super::union::filled_side;

/// The channels of a line as bits.
const ALL: u8 = 0b111;
const PAIRS: [u8; 3] = [0b110, 0b101, 0b011];

/// The sine and cosine of the least turn that is a corner where contours cross: 8 degrees.
const TURN: f32 = 0.14;

/// The farthest that ends of lines lie apart that meet where others were cut, in texels.
const APART: f32 = 1.0 / 64.0;

/// A line of a contour, with what makes a field of it.
#[derive(Clone, Copy, Debug)]
pub(super) struct ChannelLine {
    pub(super) line: Line,
    pub(super) channels: u8,
    /// True where its start, or its end, is a corner.
    pub(super) corners: [bool; 2],
    /// The reach before its start and after its end of texels that are nearest to it, as a share
    /// of the reach.
    pub(super) beyond: [f32; 2],
}

/// Gives lines their channels; keeps its memory.
#[derive(Debug, Default)]
pub(super) struct Channels {
    is_taken: Vec<bool>,
    /// The lines by where they start, from left to right.
    starts: Vec<usize>,
    contour: Vec<usize>,
    /// True for the lines of the contour that begin at a corner.
    corners: Vec<bool>,
    pub(super) lines: Vec<ChannelLine>,
}

impl Channels {
    /// Takes lines that bound what is filled.
    pub(super) fn take(&mut self, lines: &[Line]) {
        self.lines.clear();
        self.is_taken.clear();
        self.is_taken.resize(lines.len(), false);
        self.starts.clear();
        self.starts.extend(0..lines.len());
        let left = |index: &usize| lines[*index].from[0];
        self.starts.sort_by(|a, b| left(a).total_cmp(&left(b)));
        let mut open = 0;
        while let Some(first) = self.is_taken[open..].iter().position(|taken| !taken) {
            open += first;
            let is_closed = self.follow(open, lines);
            self.color(lines, is_closed);
        }
    }

    /// Follows a contour from one of its lines on; returns whether it comes back there.
    fn follow(&mut self, first: usize, lines: &[Line]) -> bool {
        self.contour.clear();
        let mut now = first;
        loop {
            self.is_taken[now] = true;
            self.contour.push(now);
            let end = lines[now].to;
            if lines[first].from == end || is_near(lines[first].from, end) {
                return true;
            }
            let next = now + 1;
            let is_next = next < lines.len() && !self.is_taken[next] && lines[next].from == end;
            let found = is_next.then_some(next).or_else(|| {
                let left = |index: usize| lines[index].from[0];
                let first = self
                    .starts
                    .partition_point(|index| left(*index) < end[0] - APART);
                let near = self.starts[first..].iter().copied();
                let mut near = near.take_while(|index| left(*index) <= end[0] + APART);
                near.find(|index| !self.is_taken[*index] && is_near(lines[*index].from, end))
            });
            match found {
                Some(next) => now = next,
                None => return false,
            }
        }
    }

    /// Adds the lines of the contour with their channels.
    fn color(&mut self, lines: &[Line], is_closed: bool) {
        let contour = &self.contour;
        let line = |index: usize| &lines[contour[index % contour.len()]];
        self.corners.clear();
        self.corners.extend((0..contour.len()).map(|index| {
            let before = line(index + contour.len() - 1);
            (index == 0 && !is_closed) || is_corner(before, line(index))
        }));
        let longest = (0..contour.len()).max_by(|a, b| {
            let length = |index: usize| line(index).way().iter().map(|way| way * way).sum::<f32>();
            length(*a).total_cmp(&length(*b))
        });
        // All of a contour has one side, but where contours were cut.
        let known = longest.map(line).filter(|line| line.side == 0.0);
        let side = known
            .and_then(|line| filled_side(line, lines))
            .unwrap_or(1.0);
        let count = self.corners.iter().filter(|corner| **corner).count();
        let start = self.corners.iter().position(|corner| *corner).unwrap_or(0);
        let mut run = 0;
        for step in 0..contour.len() {
            let index = (start + step) % contour.len();
            let corners = [index, (index + 1) % contour.len()].map(|index| self.corners[index]);
            run += usize::from(corners[0] && step > 0);
            let channels = match count {
                0 => ALL,
                // A drop: from one pair over all to another one.
                1 => [PAIRS[1], ALL, PAIRS[2]][step * 3 / contour.len()],
                // The last one is not that of the first.
                _ if run + 1 == count && run.is_multiple_of(3) => PAIRS[1],
                _ => PAIRS[run % 3],
            };
            let neighbours = [
                line(index + contour.len() - 1),
                line(index),
                line(index + 1),
            ];
            let beyond = [0, 1].map(|end| match corners[end] {
                true => 1.0,
                false => turn_reach(Some(neighbours[end]), neighbours[end + 1], 1.0),
            });
            let line = *line(index);
            let side = if line.side == 0.0 { side } else { line.side };
            self.lines.push(ChannelLine {
                line: Line { side, ..line },
                channels,
                corners,
                beyond,
            });
        }
    }
}

fn is_near(a: [f32; 2], b: [f32; 2]) -> bool {
    (a[0] - b[0]).abs() <= APART && (a[1] - b[1]).abs() <= APART
}

/// Returns whether a line turns off at a corner from the one before.
fn is_corner(before: &Line, line: &Line) -> bool {
    let (a, b) = (before.way(), line.way());
    let squares = (a[0] * a[0] + a[1] * a[1]) * (b[0] * b[0] + b[1] * b[1]);
    let length = squares.sqrt();
    let along = (a[0] * b[0] + a[1] * b[1]) / length;
    if before.to == line.from && line.is_smooth {
        // Curves turn little from line to line but where they have a point.
        return along < 0.5;
    }
    along < 0.0 || (cross(a, b) / length).abs() > TURN
}
