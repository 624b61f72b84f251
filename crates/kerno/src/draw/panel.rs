//! The nine parts of a panel.

use super::TEXEL_UNITS;
use super::quad::TexelUnits;
use crate::atlas::SliceFill;
use crate::base::DeviceRect;

/// One of three stretches along an axis: where it lies on the window, and
/// which texels (in units) it shows.
#[derive(Clone, Copy)]
struct AxisPart {
    from: f32,
    to: f32,
    first: u16,
    last: u16,
}

/// More repeats than these along an axis are a texture that nobody can see: it is
/// stretched instead.
const MOST_REPEATS: f32 = 256.0;

impl AxisPart {
    /// A stretched part shows texels from centre to centre, so that its ends are
    /// not mixed with the corners'.
    fn stretched(self) -> Self {
        let texels = f32::from(self.last - self.first) / f32::from(TEXEL_UNITS);
        let is_as_it_was = self.to - self.from == texels;
        let half = if is_as_it_was { 0 } else { TEXEL_UNITS / 2 };
        let half = half.min(self.last - self.first);
        Self {
            first: self.first + half,
            last: self.last - half,
            ..self
        }
    }

    /// The part repeated at `enlarged` device pixels per texel from its start, the
    /// last repeat cut off; once where that is infinite.
    fn pieces(self, enlarged: f32) -> impl Iterator<Item = Self> {
        let texels = f32::from(self.last - self.first) / f32::from(TEXEL_UNITS);
        let step = texels * enlarged;
        let repeats = ((self.to - self.from) / step).ceil();
        let is_tiled = enlarged.is_finite() && step > 0.0 && repeats <= MOST_REPEATS;
        let count = if is_tiled { repeats.max(0.0) as u32 } else { 1 };
        (0..count).map(move |index| {
            if !is_tiled {
                return self;
            }
            let from = (self.from + index as f32 * step).round();
            let whole = (self.from + (index + 1) as f32 * step).round();
            let to = whole.min(self.to);
            let share = (to - from) / (whole - from).max(1.0);
            let units = f32::from(self.last - self.first) * share;
            Self {
                from,
                to,
                first: self.first,
                last: self.first + units.round() as u16,
            }
        })
    }
}

/// The filling of the parts of a panel that are not corners.
#[derive(Clone, Copy)]
pub(super) struct Fills {
    pub(super) edges: SliceFill,
    pub(super) middle: SliceFill,
}

/// Cuts a picture of a size in texels, to be shown at `enlarged` device pixels per texel, into quads
/// that fill `at`: corners keep their shape, edges stretch or repeat along one
/// axis, the middle along both. Borders that together are larger than `at` shrink
/// in proportion.
pub(super) fn nine_parts(
    at: DeviceRect,
    (width, height): (u16, u16),
    [left, top, right, bottom]: [u16; 4],
    enlarged: f32,
    fills: Fills,
) -> impl Iterator<Item = (DeviceRect, TexelUnits)> {
    let columns = three(at.left, at.right, width, (left, right), enlarged);
    let rows = three(at.top, at.bottom, height, (top, bottom), enlarged);
    let pieces = move |part: AxisPart, index: usize, fill: SliceFill| match (index, fill) {
        (1, SliceFill::Tile) => part.pieces(enlarged),
        (1, SliceFill::Stretch) => part.stretched().pieces(f32::INFINITY),
        // The outer two are corners' sides, which keep their shape.
        _ => part.pieces(f32::INFINITY),
    };
    let cells = (0..9).map(|cell| (cell / 3, cell % 3));
    cells.flat_map(move |(row, column)| {
        let is_middle = (row, column) == (1, 1);
        let fill = if is_middle { fills.middle } else { fills.edges };
        pieces(rows[row], row, fill).flat_map(move |row| {
            pieces(columns[column], column, fill).filter_map(move |column| {
                let at = DeviceRect {
                    left: column.from,
                    top: row.from,
                    right: column.to,
                    bottom: row.to,
                };
                let is_empty = at.left >= at.right || at.top >= at.bottom;
                (!is_empty).then_some((at, [column.first, row.first, column.last, row.last]))
            })
        })
    })
}

fn three(
    from: f32,
    to: f32,
    length: u16,
    (before, after): (u16, u16),
    enlarged: f32,
) -> [AxisPart; 3] {
    let (head, tail) = (f32::from(before) * enlarged, f32::from(after) * enlarged);
    let squeeze = ((to - from) / (head + tail)).min(1.0);
    let (cut_head, cut_tail) = if head + tail > 0.0 {
        (
            (from + head * squeeze).round(),
            (to - tail * squeeze).round(),
        )
    } else {
        (from, to)
    };
    let units = |texel: u16| texel * TEXEL_UNITS;
    let (first, last) = (units(before), units(length - after));
    [
        AxisPart {
            from,
            to: cut_head,
            first: units(0),
            last: first,
        },
        AxisPart {
            from: cut_head,
            to: cut_tail,
            first,
            last,
        },
        AxisPart {
            from: cut_tail,
            to,
            first: last,
            last: units(length),
        },
    ]
}
