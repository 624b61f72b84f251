//! The nine parts of a panel.

use super::vertex::{TEXEL_UNITS, TexelUnits};
use crate::atlas::TexelRect;
use crate::base::DeviceRect;

/// One of three stretches along an axis: where it lies on the window, and
/// which texels (in units) it shows.
#[derive(Clone, Copy)]
struct Part {
    from: f32,
    to: f32,
    first: u16,
    last: u16,
}

/// Cuts a picture, to be shown at `enlarged` device pixels per texel, into up to
/// nine quads that fill `at`: corners keep their shape, edges stretch along one axis, the middle along both. Borders that
/// together are larger than `at` shrink in proportion.
pub(super) fn nine_parts(
    at: DeviceRect,
    texels: TexelRect,
    [left, top, right, bottom]: [u16; 4],
    enlarged: f32,
) -> impl Iterator<Item = (DeviceRect, TexelUnits)> {
    let columns = three(
        at.left,
        at.right,
        (texels.x, texels.width),
        (left, right),
        enlarged,
    );
    let rows = three(
        at.top,
        at.bottom,
        (texels.y, texels.height),
        (top, bottom),
        enlarged,
    );
    rows.into_iter().flat_map(move |row| {
        columns.into_iter().filter_map(move |column| {
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
}

fn three(
    from: f32,
    to: f32,
    (start, length): (u16, u16),
    (before, after): (u16, u16),
    enlarged: f32,
) -> [Part; 3] {
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
    let units = |texel: u16| (start + texel) * TEXEL_UNITS;
    let (first, last) = (units(before), units(length - after));
    // A stretched part shows texels from centre to centre: so its ends are not
    // mixed with the corners'.
    let is_stretched = cut_tail - cut_head != f32::from(length - before - after);
    let half = if is_stretched && last > first {
        TEXEL_UNITS / 2
    } else {
        0
    };
    [
        Part {
            from,
            to: cut_head,
            first: units(0),
            last: first,
        },
        Part {
            from: cut_head,
            to: cut_tail,
            first: first + half,
            last: last - half,
        },
        Part {
            from: cut_tail,
            to,
            first: last,
            last: units(length),
        },
    ]
}
