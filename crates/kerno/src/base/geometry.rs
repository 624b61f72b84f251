//! Lengths and places in design pixels: origin top left, y down.

use std::ops::{Add, Neg, Sub};

/// A place, in design pixels.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Point {
    /// Rightwards from the left edge.
    pub x: f32,
    /// Downwards from the top edge.
    pub y: f32,
}

impl Point {
    /// The origin, top left.
    pub const ORIGIN: Self = Self::new(0.0, 0.0);

    /// A place at `x`, `y`.
    pub const fn new(x: f32, y: f32) -> Self {
        Self { x, y }
    }
}

/// A way from one place to another, in design pixels.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Offset {
    /// Rightwards.
    pub x: f32,
    /// Downwards.
    pub y: f32,
}

impl Offset {
    /// No way at all.
    pub const ZERO: Self = Self::new(0.0, 0.0);

    /// A way of `x` to the right and `y` down.
    pub const fn new(x: f32, y: f32) -> Self {
        Self { x, y }
    }
}

impl Add<Offset> for Point {
    type Output = Point;
    fn add(self, by: Offset) -> Point {
        Point::new(self.x + by.x, self.y + by.y)
    }
}

impl Sub for Point {
    type Output = Offset;
    fn sub(self, from: Point) -> Offset {
        Offset::new(self.x - from.x, self.y - from.y)
    }
}

impl Neg for Offset {
    type Output = Offset;
    fn neg(self) -> Offset {
        Offset::new(-self.x, -self.y)
    }
}

/// A width and a height, in design pixels.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Size {
    /// Left to right.
    pub width: f32,
    /// Top to bottom.
    pub height: f32,
}

impl Size {
    /// A size of `width` by `height`.
    pub const fn new(width: f32, height: f32) -> Self {
        Self { width, height }
    }
}

/// A half-open rectangle in design pixels: it holds its left and top edges,
/// not its right and bottom ones.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Rect {
    /// Left edge.
    pub x: f32,
    /// Top edge.
    pub y: f32,
    /// Left to right.
    pub width: f32,
    /// Top to bottom.
    pub height: f32,
}

impl Rect {
    /// A rectangle by its top left corner and its size.
    pub const fn new(x: f32, y: f32, width: f32, height: f32) -> Self {
        Self {
            x,
            y,
            width,
            height,
        }
    }

    /// The rectangle of `size` that has its `anchor` on `point`.
    ///
    /// ```
    /// use kerno::{Anchor, Point, Rect, Size};
    /// let r = Rect::anchored(Point::new(100.0, 10.0), Anchor::TOP_RIGHT, Size::new(30.0, 20.0));
    /// assert_eq!(r, Rect::new(70.0, 10.0, 30.0, 20.0));
    /// ```
    pub fn anchored(point: Point, anchor: Anchor, size: Size) -> Self {
        Self::new(
            point.x - anchor.x * size.width,
            point.y - anchor.y * size.height,
            size.width,
            size.height,
        )
    }

    /// Right edge.
    pub fn right(self) -> f32 {
        self.x + self.width
    }

    /// Bottom edge.
    pub fn bottom(self) -> f32 {
        self.y + self.height
    }

    /// Width and height.
    pub fn size(self) -> Size {
        Size::new(self.width, self.height)
    }

    /// The place of `anchor` in this rectangle.
    pub fn point(self, anchor: Anchor) -> Point {
        Point::new(
            self.x + anchor.x * self.width,
            self.y + anchor.y * self.height,
        )
    }

    /// This rectangle without its border; a border wider than the rectangle
    /// leaves an empty one in its middle.
    pub fn inset(self, by: Insets) -> Self {
        let (x, width) = shrink(self.x, self.width, by.left, by.right);
        let (y, height) = shrink(self.y, self.height, by.top, by.bottom);
        Self::new(x, y, width, height)
    }

    /// This rectangle with a border added around it.
    ///
    /// ```
    /// use kerno::Rect;
    /// use kerno::base::Insets;
    /// let plate = Rect::new(10.0, 10.0, 20.0, 8.0).outset(Insets::all(2.0));
    /// assert_eq!(plate, Rect::new(8.0, 8.0, 24.0, 12.0));
    /// ```
    pub fn outset(self, by: Insets) -> Self {
        self.inset(by.scaled(-1.0))
    }

    /// The middle of the rectangle.
    pub fn center(self) -> Point {
        self.point(Anchor::CENTER)
    }

    /// Returns whether a place lies in the rectangle: on its left and top edges, not on its right
    /// and bottom ones.
    pub fn contains(self, point: Point) -> bool {
        self.x <= point.x && point.x < self.right() && self.y <= point.y && point.y < self.bottom()
    }

    /// This rectangle moved as little as it takes to lie inside another: a label that stays
    /// in the window. Where it is larger than that one, their left and top edges meet.
    ///
    /// ```
    /// use kerno::Rect;
    /// let window = Rect::new(0.0, 0.0, 640.0, 360.0);
    /// let label = Rect::new(620.0, -5.0, 40.0, 12.0);
    /// assert_eq!(label.kept_inside(window), Rect::new(600.0, 0.0, 40.0, 12.0));
    /// ```
    pub fn kept_inside(self, outer: Self) -> Self {
        Self {
            x: self.x.min(outer.right() - self.width).max(outer.x),
            y: self.y.min(outer.bottom() - self.height).max(outer.y),
            ..self
        }
    }

    /// `count` rows of equal height from the top, with `gap` design pixels between them.
    ///
    /// ```
    /// use kerno::Rect;
    /// let rows: Vec<Rect> = Rect::new(0.0, 0.0, 50.0, 100.0).rows(3, 5.0).collect();
    /// assert_eq!(rows[1], Rect::new(0.0, 35.0, 50.0, 30.0));
    /// ```
    pub fn rows(self, count: u16, gap: f32) -> impl ExactSizeIterator<Item = Self> {
        let (length, step) = split(self.height, count, gap);
        (0..count).map(move |row| Self {
            y: self.y + f32::from(row) * step,
            height: length,
            ..self
        })
    }

    /// `count` columns of equal width from the left, with `gap` design pixels between them.
    pub fn columns(self, count: u16, gap: f32) -> impl ExactSizeIterator<Item = Self> {
        let (length, step) = split(self.width, count, gap);
        (0..count).map(move |column| Self {
            x: self.x + f32::from(column) * step,
            width: length,
            ..self
        })
    }

    /// This rectangle moved by `by`.
    pub fn moved(self, by: Offset) -> Self {
        Self::new(self.x + by.x, self.y + by.y, self.width, self.height)
    }

    /// The smallest rectangle around both; an empty one counts for nothing.
    pub fn union(self, other: Self) -> Self {
        if self.is_empty() {
            return other;
        }
        if other.is_empty() {
            return self;
        }
        let (x, y) = (self.x.min(other.x), self.y.min(other.y));
        Self::new(
            x,
            y,
            self.right().max(other.right()) - x,
            self.bottom().max(other.bottom()) - y,
        )
    }

    /// Returns whether the two share any area.
    pub fn overlaps(self, other: Self) -> bool {
        self.x < other.right()
            && other.x < self.right()
            && self.y < other.bottom()
            && other.y < self.bottom()
    }

    /// Returns whether it has no area.
    pub fn is_empty(self) -> bool {
        self.width <= 0.0 || self.height <= 0.0
    }
}

/// The length of each of some equal parts, at least 0, and from one to the next.
fn split(length: f32, count: u16, gap: f32) -> (f32, f32) {
    let count = f32::from(count.max(1));
    let part = ((length - gap * (count - 1.0)) / count).max(0.0);
    (part, part + gap)
}

/// One axis of [`Rect::inset`]: start and length after both ends moved in.
fn shrink(start: f32, length: f32, before: f32, after: f32) -> (f32, f32) {
    let left = length - before - after;
    if left >= 0.0 {
        (start + before, left)
    } else {
        (start + length * before / (before + after), 0.0)
    }
}

/// Four border widths, in design pixels unless the taker says otherwise.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Insets {
    /// Width of the top border.
    pub top: f32,
    /// Width of the right border.
    pub right: f32,
    /// Width of the bottom border.
    pub bottom: f32,
    /// Width of the left border.
    pub left: f32,
}

impl Insets {
    /// The same width on every side.
    pub const fn all(width: f32) -> Self {
        Self::sides(width, width)
    }

    /// `vertical` above and below, `horizontal` left and right.
    pub const fn sides(vertical: f32, horizontal: f32) -> Self {
        Self {
            top: vertical,
            right: horizontal,
            bottom: vertical,
            left: horizontal,
        }
    }

    /// Every width times a factor.
    #[must_use]
    pub fn scaled(self, factor: f32) -> Self {
        Self {
            top: self.top * factor,
            right: self.right * factor,
            bottom: self.bottom * factor,
            left: self.left * factor,
        }
    }

    /// Returns whether every width is a number and not infinite.
    pub fn is_finite(self) -> bool {
        let sides = [self.top, self.right, self.bottom, self.left];
        sides.iter().all(|side| side.is_finite())
    }
}

/// A place in a box as fractions of its width and height: 0,0 is the top left
/// corner, 1,1 the bottom right one. Nine have names; any other pair will do.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Anchor {
    /// Fraction of the width, from the left.
    pub x: f32,
    /// Fraction of the height, from the top.
    pub y: f32,
}

impl Anchor {
    /// Top left corner.
    pub const TOP_LEFT: Self = Self::new(0.0, 0.0);
    /// Middle of the top edge.
    pub const TOP: Self = Self::new(0.5, 0.0);
    /// Top right corner.
    pub const TOP_RIGHT: Self = Self::new(1.0, 0.0);
    /// Middle of the left edge.
    pub const LEFT: Self = Self::new(0.0, 0.5);
    /// The middle.
    pub const CENTER: Self = Self::new(0.5, 0.5);
    /// Middle of the right edge.
    pub const RIGHT: Self = Self::new(1.0, 0.5);
    /// Bottom left corner.
    pub const BOTTOM_LEFT: Self = Self::new(0.0, 1.0);
    /// Middle of the bottom edge.
    pub const BOTTOM: Self = Self::new(0.5, 1.0);
    /// Bottom right corner.
    pub const BOTTOM_RIGHT: Self = Self::new(1.0, 1.0);

    /// The place at `x` of the width and `y` of the height.
    pub const fn new(x: f32, y: f32) -> Self {
        Self { x, y }
    }
}
