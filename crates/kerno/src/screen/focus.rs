//! Ways from entry to entry of a menu.

use crate::base::{Point, Rect};

/// A direction key.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum FocusDirection {
    /// To the left.
    Left,
    /// To the right.
    Right,
    /// Upwards.
    Up,
    /// Downwards.
    Down,
}

/// The entry that a direction key leads to from another one, by their boxes: the nearest in
/// that direction, what lies straight ahead before what lies aside; at the end the farthest
/// on the other side. None where there is no other.
///
/// ```
/// use kerno::Rect;
/// use kerno::screen::{FocusDirection, next_focus};
/// let entries: Vec<Rect> = Rect::new(0.0, 0.0, 80.0, 60.0).rows(3, 4.0).collect();
/// assert_eq!(next_focus(&entries, 0, FocusDirection::Down), Some(1));
/// assert_eq!(next_focus(&entries, 2, FocusDirection::Down), Some(0), "and round again");
/// assert_eq!(next_focus(&entries, 1, FocusDirection::Left), None);
/// ```
pub fn next_focus(entries: &[Rect], from: usize, direction: FocusDirection) -> Option<usize> {
    let start = entries.get(from)?.center();
    // Along the direction, and aside of it.
    let way = |at: Point| {
        let (x, y) = (at.x - start.x, at.y - start.y);
        match direction {
            FocusDirection::Left => (-x, y.abs()),
            FocusDirection::Right => (x, y.abs()),
            FocusDirection::Up => (-y, x.abs()),
            FocusDirection::Down => (y, x.abs()),
        }
    };
    let others = entries
        .iter()
        .enumerate()
        .filter(|(index, _)| *index != from);
    let ways = others.map(|(index, rect)| (index, way(rect.center())));
    let ahead = ways.clone().filter(|(_, (along, _))| *along > 0.01);
    let cost = |(along, aside): (f32, f32)| along + 2.0 * aside;
    let nearest = ahead.min_by(|a, b| cost(a.1).total_cmp(&cost(b.1)));
    let farthest = || {
        let behind = ways.filter(|(_, (along, _))| *along < -0.01);
        behind.min_by(|a, b| {
            let cost = |(along, aside): (f32, f32)| along + 2.0 * aside;
            cost(a.1).total_cmp(&cost(b.1))
        })
    };
    nearest.or_else(farthest).map(|(index, _)| index)
}
