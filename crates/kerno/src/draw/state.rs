//! What a scope says, and where things of its design pixels are on the window.

use super::clip::{Clip, Clips};
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
}

impl Way {
    pub(super) fn new(mapping: &Mapping, transform: Affine) -> Self {
        let scale = mapping.scale() * transform.largest_scale();
        let is_seen = scale > 0.0 && scale.is_finite() && transform.has_area();
        Self {
            transform,
            device: transform.then(mapping.affine()),
            scale: if is_seen { scale } else { 0.0 },
            is_upright: transform.is_upright(),
            keeps_shape: transform.keeps_shape(),
        }
    }

    /// The same way after another transform.
    pub(super) fn after(&self, transform: Affine, mapping: &Mapping) -> Self {
        Self::new(mapping, transform.then(self.transform))
    }
}

impl State {
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
            space.turn = Some(Affine::scaling(1.0 / scale, 1.0 / scale).then(device));
            DeviceRect {
                left: rect.x * scale,
                top: rect.y * scale,
                right: rect.right() * scale,
                bottom: rect.bottom() * scale,
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
