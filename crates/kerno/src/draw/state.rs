//! The state of a scope, and the way from its design pixels to the window.

use super::clip::{Clip, Clips};
use super::group::GroupNumber;
use super::request::Detail;
use super::space::Space;
use crate::base::{
    Affine, Anchor, DevicePoint, DeviceRect, Edges, Mapping, Offset, Point, Rect, Size,
};

/// All that a scope says.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct State {
    pub(super) mapping: Mapping,
    pub(super) way: Way,
    pub(super) layer: i32,
    pub(super) opacity: f32,
    pub(super) clip: Clip,
    /// The window, where it is known: what is drawn outside of it need not be gathered.
    pub(super) window: Option<DeviceRect>,
    pub(super) group: GroupNumber,
    /// By which light letters gain weight and dark ones lose it, -1 to 1.
    pub(super) contrast: f32,
}

/// The way of a scope's design pixels to the window.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Way {
    /// From the design pixels of the scope to those of the frame.
    transform: Affine,
    /// All the way.
    device: Affine,
    /// Device pixels in a design pixel for things that keep their shape; 0 where nothing
    /// is seen.
    scale: f32,
    is_upright: bool,
    /// True if it is upright, and both axes are scaled alike by the transform.
    keeps_shape: bool,
    is_moving: bool,
}

impl Way {
    /// The way by a transform; what moves is drawn between pixels, as if it were turned.
    pub(super) fn new(mapping: &Mapping, transform: Affine, is_moving: bool) -> Self {
        let scale = mapping.scale() * transform.largest_scale();
        let is_seen = scale > 0.0 && scale.is_finite() && transform.has_area();
        Self {
            transform,
            device: transform.then(mapping.affine()),
            scale: if is_seen { scale } else { 0.0 },
            is_upright: transform.is_upright() && !is_moving,
            keeps_shape: transform.keeps_shape() && !is_moving,
            is_moving,
        }
    }

    /// The same way after another transform.
    pub(super) fn after(&self, transform: Affine, mapping: &Mapping) -> Self {
        Self::new(mapping, transform.then(self.transform), self.is_moving)
    }

    /// The same way of what moves, or of what stands still.
    pub(super) fn moving(&self, is_moving: bool, mapping: &Mapping) -> Self {
        Self::new(mapping, self.transform, is_moving)
    }
}

impl State {
    /// Device pixels in a design pixel; 0 where nothing is seen.
    pub(super) fn scale(&self) -> f32 {
        self.way.scale
    }

    /// The part of the window that is drawn on, where it is known to be a part.
    fn bounds(&self) -> Option<DeviceRect> {
        match (self.clip.rect, self.window) {
            (Some(clip), Some(window)) => Some(clip.shared(window)),
            (clip, window) => clip.or(window),
        }
    }

    /// The heights between which something may be seen of what is held by a corner in a space, in
    /// design pixels down from the corner; none where all may.
    pub(super) fn seen_heights(&self, corner: DevicePoint, space: &Space) -> Option<[f32; 2]> {
        let bounds = self.bounds()?;
        let (mut top, mut bottom) = (bounds.top, bounds.bottom);
        if let Some(turn) = space.turn {
            let back = turn.inverse()?;
            let corners = [
                (bounds.left, bounds.top),
                (bounds.right, bounds.top),
                (bounds.left, bounds.bottom),
                (bounds.right, bounds.bottom),
            ];
            let heights = corners.map(|(x, y)| back.point(Point::new(x, y)).y);
            top = heights.into_iter().fold(f32::INFINITY, f32::min);
            bottom = heights.into_iter().fold(f32::NEG_INFINITY, f32::max);
        }
        // Pictures are put on whole pixels, and have soft edges.
        const ROUNDING: f32 = 2.0;
        let heights = [top - ROUNDING, bottom + ROUNDING].map(|y| (y - corner.y) / space.scale);
        heights.iter().all(|y| y.is_finite()).then_some(heights)
    }

    /// Returns whether what is drawn is neither turned, stretched nor cut.
    pub(super) fn keeps_shape_uncut(&self) -> bool {
        self.way.keeps_shape && self.clip == Clip::default()
    }

    /// The place of a point of the design on the window.
    pub(super) fn device(&self, point: Point) -> Point {
        self.way.device.point(point)
    }

    /// A rectangle of the design, in the space that it is drawn in; none where nothing of
    /// it is seen.
    pub(super) fn rect(&self, rect: Rect) -> Option<(DeviceRect, Space)> {
        let Way {
            device,
            scale,
            is_upright,
            ..
        } = self.way;
        if scale == 0.0 {
            return None;
        }
        let mut space = Space {
            scale,
            turn: None,
            clip: None,
            detail: None,
        };
        let at = if is_upright {
            let start = device.point(Point::new(rect.x, rect.y));
            let end = device.point(Point::new(rect.right(), rect.bottom()));
            let at = DeviceRect {
                left: start.x,
                top: start.y,
                right: end.x,
                bottom: end.y,
            };
            at.snapped()
        } else {
            let turn = Affine::scaling(1.0 / scale, 1.0 / scale).then(device);
            space.turn = Some(turn);
            let [across, down] = pixel_of(turn);
            let (left, right) = at_least(rect.x * scale, rect.right() * scale, across);
            let (top, bottom) = at_least(rect.y * scale, rect.bottom() * scale, down);
            DeviceRect {
                left,
                top,
                right,
                bottom,
            }
        };
        (at.left < at.right && at.top < at.bottom).then_some((at, space))
    }

    /// The top left corner of something with a size of its own that is held by an anchor,
    /// in the space that it is drawn in; none where nothing of it is seen. Nothing is
    /// stretched but by a transform that does so.
    pub(super) fn held(
        &self,
        at: Point,
        anchor: Anchor,
        size: Size,
        edges: Edges,
    ) -> Option<(DevicePoint, Space)> {
        let held = self.way.device.point(at);
        if self.way.scale == 0.0 || !held.x.is_finite() || !held.y.is_finite() {
            return None;
        }
        let scale = edges.drawn_scale(self.way.scale);
        let mut space = Space {
            scale,
            turn: None,
            clip: None,
            detail: None,
        };
        let (across, down) = (
            anchor.x * size.width * scale,
            anchor.y * size.height * scale,
        );
        if self.way.keeps_shape {
            return Some((DevicePoint::new(held.x - across, held.y - down), space));
        }
        // Whatever the window stretches, what the scope does not keeps its shape.
        let factor = self.mapping.scale() / self.way.scale;
        let turn = self.way.transform.linear();
        let turn = turn.then(Affine::scaling(factor, factor));
        let shift = Affine::translation(Offset::new(held.x, held.y));
        space.turn = Some(turn.then(shift));
        space.detail = Some(Detail {
            usual: edges.drawn_scale(self.mapping.scale()),
            is_moving: self.way.is_moving,
        });
        Some((DevicePoint::new(-across, -down), space))
    }

    /// The part of the window that is left of the scope's where it is cut to a rectangle.
    pub(super) fn clipped(&self, rect: Rect, clips: &mut Clips) -> Clip {
        if self.way.is_upright {
            let at = self.rect(rect).map(|(at, _)| at);
            return self.clip.within(at.unwrap_or_default());
        }
        let corners = [
            (rect.x, rect.y),
            (rect.right(), rect.y),
            (rect.right(), rect.bottom()),
            (rect.x, rect.bottom()),
        ];
        let corners = corners.map(|(x, y)| self.way.device.point(Point::new(x, y)));
        let is_area = self.way.scale > 0.0 && rect.width > 0.0 && rect.height > 0.0;
        let is_finite = |corner: &Point| corner.x.is_finite() && corner.y.is_finite();
        if !is_area || !corners.iter().all(is_finite) {
            return self.clip.within(DeviceRect::default());
        }
        clips.add(corners, self.clip)
    }
}

/// The lengths of a pixel of the window in a space, along its axes.
pub(super) fn pixel_of(turn: Affine) -> [f32; 2] {
    let [a, b, c, d, ..] = turn.coefficients();
    [a.hypot(b), c.hypot(d)].map(|length| 1.0 / length.max(1e-6))
}

/// A stretch that is at least so long, about its middle; what is empty stays so.
fn at_least(from: f32, to: f32, least: f32) -> (f32, f32) {
    if to <= from || to - from >= least {
        return (from, to);
    }
    let middle = (from + to) * 0.5;
    (middle - least * 0.5, middle + least * 0.5)
}
