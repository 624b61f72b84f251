//! Viewports: a design size shown in a window.

use crate::base::{Anchor, DevicePoint, DeviceSize, Insets, Mapping, Offset, Point, Rect, Size};

/// Fit of a design in a window of another shape (CSS `object-fit`, and a mode
/// for pixel art).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum Fit {
    /// As large as can be with all of the design inside the window.
    #[default]
    Contain,
    /// As small as can be with the window all inside the design.
    Cover,
    /// The design's corners are the window's. Places spread along both axes on
    /// their own; letters and sprites keep their shape.
    Fill,
    /// As [`Fit::Contain`], at a whole number of device pixels per design
    /// pixel, at least 1.
    Integer,
    /// Its own size (CSS `none`): a design pixel is a logical pixel of the monitor,
    /// [`Viewport::with_monitor_scale`] device pixels long. The window shows more of the design
    /// or less of it, from its middle.
    None,
}

/// A design shown in a window: where its places are in device pixels, and
/// where the window's own corners are in the design.
///
/// ```
/// use kerno::{Anchor, DeviceSize, Fit, Offset, Point, Size, Viewport};
/// // A 16:9 design in an ultrawide window: scaled by 4, centred.
/// let view = Viewport::new(Size::new(640.0, 360.0), DeviceSize::new(3440, 1440), Fit::Contain)?;
/// assert_eq!(view.mapping().scale(), 4.0);
/// // The score stays in the window's corner, not in the design's.
/// let corner = view.place(Anchor::TOP_RIGHT, Offset::new(-10.0, 10.0));
/// assert_eq!(corner, Point::new(740.0, 10.0));
/// # Ok::<(), kerno::screen::ViewportError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Viewport {
    design: Size,
    window: DeviceSize,
    fit: Fit,
    mapping: Mapping,
    safe: Insets,
    monitor_scale: f32,
    text_scale: f32,
}

/// A viewport that can't be.
#[derive(Clone, Copy, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum ViewportError {
    /// The design has no area, or its size is no number that a window can show.
    #[error("a design of {} × {} pixels has no shape; both sides must be above 0 and finite", .0.width, .0.height)]
    Design(Size),
    /// The window has no pixels; skip the frame (it is minimised).
    #[error("a window of {} × {} pixels shows nothing; skip the frame", .0.width, .0.height)]
    Window(DeviceSize),
}

crate::base::debug_in_full!(ViewportError);

impl ViewportError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::Design { .. } => "viewport-design",
            Self::Window { .. } => "viewport-window",
        }
    }
}

impl Viewport {
    /// Shows a design of `design` pixels in a window.
    ///
    /// # Errors
    /// [`ViewportError`] where one of the two has no area.
    pub fn new(design: Size, window: DeviceSize, fit: Fit) -> Result<Self, ViewportError> {
        let is_length = |length: f32| length > 0.0 && length.is_finite();
        if !is_length(design.width) || !is_length(design.height) {
            return Err(ViewportError::Design(design));
        }
        if window.width == 0 || window.height == 0 {
            return Err(ViewportError::Window(window));
        }
        let mut viewport = Self {
            design,
            window,
            fit,
            mapping: Mapping::IDENTITY,
            safe: Insets::all(0.0),
            monitor_scale: 1.0,
            text_scale: 1.0,
        };
        let [x, y] = viewport.scales();
        if !is_length(x) || !is_length(y) {
            return Err(ViewportError::Design(design));
        }
        viewport.mapping = viewport.centered([x, y]);
        Ok(viewport)
    }

    /// Device pixels in a design pixel, across and down.
    fn scales(&self) -> [f32; 2] {
        let across = self.window.width as f32 / self.design.width;
        let down = self.window.height as f32 / self.design.height;
        match self.fit {
            Fit::Contain => [across.min(down); 2],
            Fit::Cover => [across.max(down); 2],
            Fit::Fill => [across, down],
            Fit::Integer => [across.min(down).floor().max(1.0); 2],
            Fit::None => [self.monitor_scale; 2],
        }
    }

    /// The design in the middle of the window, by whole device pixels: what is on the grid of
    /// the design stays on that of the window.
    fn centered(&self, [x, y]: [f32; 2]) -> Mapping {
        let middle = |window: u32, design: f32| ((window as f32 - design) * 0.5).round();
        let shift = DevicePoint::new(
            middle(self.window.width, self.design.width * x),
            middle(self.window.height, self.design.height * y),
        );
        Mapping::new(x, y, shift)
    }

    /// The same viewport on a monitor with a number of device pixels in a logical one, as the
    /// window system tells it. It sets the size of [`Fit::None`]; the other fits follow from
    /// the window alone. From 0.25 to 16, default 1; what is outside is clamped, no number
    /// is 1.
    #[must_use]
    pub fn with_monitor_scale(mut self, scale: f32) -> Self {
        self.monitor_scale = in_range(scale, 0.25, 16.0);
        if self.fit == Fit::None {
            self.mapping = self.centered(self.scales());
        }
        self
    }

    /// The same viewport for a reader who wants larger text, by a factor: from 0.5 to 3,
    /// default 1; what is outside is clamped, no number is 1. Screens lay out their texts by
    /// it; a text of one's own takes it by
    /// [`Style::scaled`](crate::Style::scaled).
    #[must_use]
    pub fn with_text_scale(mut self, scale: f32) -> Self {
        self.text_scale = in_range(scale, 0.5, 3.0);
        self
    }

    /// The reader's own scale of text, from 0.5 to 3.
    pub fn text_scale(&self) -> f32 {
        self.text_scale
    }

    /// The way from design pixels to device pixels.
    pub fn mapping(&self) -> Mapping {
        self.mapping
    }

    /// The window, in device pixels.
    pub fn window(&self) -> DeviceSize {
        self.window
    }

    /// The design: 0,0 and its size.
    pub fn design_rect(&self) -> Rect {
        Rect::new(0.0, 0.0, self.design.width, self.design.height)
    }

    /// The whole window in design pixels: larger than the design where there
    /// is room around it, smaller where some of it is cut off.
    pub fn window_rect(&self) -> Rect {
        let start = self.mapping.design_point(DevicePoint::new(0.0, 0.0));
        let (width, height) = (self.window.width as f32, self.window.height as f32);
        let end = self.mapping.design_point(DevicePoint::new(width, height));
        Rect::new(start.x, start.y, end.x - start.x, end.y - start.y)
    }

    /// The same viewport, whose anchors keep off the edges of the window: by fractions of its
    /// sides, as televisions want it, and by device pixels, as a notch takes them, both
    /// together. What is out of 0 to 0.5, or of 0 to the window, is cut to that; what is no
    /// number is 0.
    #[must_use]
    pub fn safe_area(mut self, fractions: Insets, pixels: Insets) -> Self {
        let (width, height) = (self.window.width as f32, self.window.height as f32);
        // What is no number is none of it.
        let within = |value: f32, most: f32| value.max(0.0).min(most);
        let both = |fraction: f32, pixels: f32, length: f32| {
            within(fraction, 0.5) * length + within(pixels, length)
        };
        self.safe = Insets {
            top: both(fractions.top, pixels.top, height),
            right: both(fractions.right, pixels.right, width),
            bottom: both(fractions.bottom, pixels.bottom, height),
            left: both(fractions.left, pixels.left, width),
        };
        self
    }

    /// The part of the window that is sure to be seen, in design pixels: all of it where no
    /// [`Viewport::safe_area`] was said.
    pub fn safe_rect(&self) -> Rect {
        let [across, down] = [
            self.mapping.design_point(DevicePoint::new(1.0, 1.0)),
            self.mapping.design_point(DevicePoint::new(0.0, 0.0)),
        ];
        let (x, y) = (across.x - down.x, across.y - down.y);
        self.window_rect().inset(Insets {
            top: self.safe.top * y,
            right: self.safe.right * x,
            bottom: self.safe.bottom * y,
            left: self.safe.left * x,
        })
    }

    /// The place `offset` away from an anchor of the safe part of the window, in design
    /// pixels: what is placed by a corner stays in it at every size.
    pub fn place(&self, anchor: Anchor, offset: Offset) -> Point {
        self.safe_rect().point(anchor) + offset
    }

    /// The place in the design of a pixel of the window.
    pub fn design_point(&self, at: DevicePoint) -> Point {
        self.mapping.design_point(at)
    }

    /// The place in the design of a point that is counted from its bottom left corner, y up.
    pub fn from_y_up(&self, x: f32, y: f32) -> Point {
        Point::new(x, self.design.height - y)
    }

    /// A place of the design counted from its bottom left corner, y up.
    pub fn to_y_up(&self, at: Point) -> (f32, f32) {
        (at.x, self.design.height - at.y)
    }
}

fn in_range(value: f32, low: f32, high: f32) -> f32 {
    match value.is_nan() {
        true => 1.0,
        false => value.clamp(low, high),
    }
}
