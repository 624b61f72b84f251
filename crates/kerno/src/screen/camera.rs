//! Places of a game's world on the screen, and labels that follow them.

use super::Viewport;
use crate::base::{Affine, Anchor, Insets, Offset, Point, Rect, Size};

/// A camera over a game's world: which place of it is in the middle of the window, how large
/// it is shown, and how it is turned.
///
/// ```
/// use kerno::screen::Camera;
/// use kerno::{Point, Rect};
/// let camera = Camera::new(Point::new(20.0, 0.0), 4.0).y_up(true);
/// let window = Rect::new(0.0, 0.0, 640.0, 360.0);
/// // Five units to the right of the middle and three above it.
/// let at = camera.design_point(Point::new(25.0, 3.0), window);
/// assert_eq!(at, Point::new(340.0, 168.0));
/// assert_eq!(camera.world_point(at, window), Point::new(25.0, 3.0));
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Camera {
    /// The place of the world in the middle of the window, in its units.
    pub center: Point,
    /// Design pixels in a unit of the world; above 0.
    pub zoom: f32,
    /// Turn of the camera, in degrees clockwise: the world turns the other way.
    pub rotation: f32,
    /// True if the world counts upwards.
    pub y_up: bool,
}

crate::base::setters! {
    Camera {
        rotation: f32,
        y_up: bool,
    }
}

impl Camera {
    /// A camera that is not turned, over a world that counts downwards.
    pub const fn new(center: Point, zoom: f32) -> Self {
        Self {
            center,
            zoom,
            rotation: 0.0,
            y_up: false,
        }
    }

    /// The way from the world to the design, into a part of the window: for what is drawn in
    /// the world's units ([`Scope::transform`](crate::draw::Scope::transform)). In a world
    /// that counts upwards it mirrors.
    pub fn transform(&self, inside: Rect) -> Affine {
        let up = if self.y_up { -self.zoom } else { self.zoom };
        let middle = inside.center();
        Affine::translation(Offset::new(-self.center.x, -self.center.y))
            .then(Affine::scaling(self.zoom, up))
            .then(Affine::rotation(-self.rotation.to_radians()))
            .then(Affine::translation(Offset::new(middle.x, middle.y)))
    }

    /// A place of the world in design pixels, in a part of the window.
    pub fn design_point(&self, at: Point, inside: Rect) -> Point {
        self.transform(inside).point(at)
    }

    /// The place of the world at a place in design pixels: under the pointer, say. The
    /// camera's own place where its zoom is 0 or no number.
    pub fn world_point(&self, at: Point, inside: Rect) -> Point {
        let back = self.transform(inside).inverse();
        back.map_or(self.center, |back| back.point(at))
    }
}

/// A label that follows a place of the world.
///
/// ```
/// use kerno::base::Insets;
/// use kerno::screen::{Camera, Follow, Fit, Viewport};
/// use kerno::{DeviceSize, Offset, Point, Size};
/// let view = Viewport::new(Size::new(640.0, 360.0), DeviceSize::new(1280, 720), Fit::Contain)?;
/// let camera = Camera::new(Point::new(0.0, 0.0), 2.0);
/// let follow = Follow::new(Point::new(900.0, 0.0))
///     .offset(Offset::new(0.0, -6.0))
///     .kept_inside(Insets::all(8.0));
/// let place = follow.place(&camera, Size::new(60.0, 14.0), &view);
/// assert_eq!(place.rect.right(), 632.0, "at the edge");
/// assert_eq!(place.pointer.map(|angle| angle.round()), Some(0.0), "it is to the right");
/// # Ok::<(), kerno::screen::ViewportError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Follow {
    /// The place of the world.
    pub at: Point,
    /// The point of the label that is put there. Default: the middle of its bottom edge.
    pub anchor: Anchor,
    /// Way from there, in design pixels.
    pub offset: Offset,
    /// True if it grows with the camera's zoom. Default: it keeps its size.
    pub scales: bool,
    /// Space to the edges of the safe area that it keeps when its place is out of sight;
    /// default: none, it goes out of sight as well.
    pub kept_inside: Option<Insets>,
}

crate::base::setters! {
    Follow {
        anchor: Anchor,
        offset: Offset,
        scales: bool,
    }
    optional {
        kept_inside: Insets,
    }
}

/// The place of a label that follows.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct LabelPlace {
    /// Its box, in design pixels.
    pub rect: Rect,
    /// Factor of its size.
    pub scale: f32,
    /// The way to its place, in degrees clockwise from the right, for a sprite that points
    /// there; none for a label that was not kept inside of the window.
    pub pointer: Option<f32>,
    /// True if some of it is in the window.
    pub is_seen: bool,
}

impl Follow {
    /// A label above a place of the world.
    pub const fn new(at: Point) -> Self {
        Self {
            at,
            anchor: Anchor::BOTTOM,
            offset: Offset::ZERO,
            scales: false,
            kept_inside: None,
        }
    }

    /// The place of a label of a size, in design pixels, under a camera over the whole
    /// window.
    pub fn place(&self, camera: &Camera, size: Size, view: &Viewport) -> LabelPlace {
        self.place_in(camera, size, (view.window_rect(), view.safe_rect()))
    }

    /// As [`Follow::place`], in a window with its safe area, in design pixels.
    pub(super) fn place_in(
        &self,
        camera: &Camera,
        size: Size,
        (window, safe): (Rect, Rect),
    ) -> LabelPlace {
        let scale = if self.scales { camera.zoom } else { 1.0 };
        let at = camera.design_point(self.at, window);
        let size = Size::new(size.width * scale, size.height * scale);
        let by = Offset::new(self.offset.x * scale, self.offset.y * scale);
        let rect = Rect::anchored(at + by, self.anchor, size);
        let mut place = LabelPlace {
            rect,
            scale,
            pointer: None,
            is_seen: rect.overlaps(window),
        };
        if let Some(space) = self.kept_inside {
            let kept = rect.kept_inside(safe.inset(space));
            if kept != rect {
                let middle = kept.center();
                place.pointer = Some((at.y - middle.y).atan2(at.x - middle.x).to_degrees());
            }
            (place.rect, place.is_seen) = (kept, true);
        }
        place
    }
}
