//! Affine transforms of the plane.

use super::{Offset, Point};

/// Affine transform of places: moved, scaled, turned, skewed. In the order of CSS's
/// `matrix(a, b, c, d, e, f)`: x′ = a·x + c·y + e, y′ = b·x + d·y + f, y down.
///
/// ```
/// use kerno::Point;
/// use kerno::base::Affine;
/// let title = Affine::rotation(0.1).about(Point::new(320.0, 60.0));
/// assert_eq!(title.point(Point::new(320.0, 60.0)), Point::new(320.0, 60.0));
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Affine {
    a: f32,
    b: f32,
    c: f32,
    d: f32,
    e: f32,
    f: f32,
}

impl Default for Affine {
    fn default() -> Self {
        Self::IDENTITY
    }
}

impl Affine {
    /// Leaves every place where it is.
    pub const IDENTITY: Self = Self::new([1.0, 0.0, 0.0, 1.0, 0.0, 0.0]);

    /// A transform by its coefficients a, b, c, d, e, f.
    pub const fn new([a, b, c, d, e, f]: [f32; 6]) -> Self {
        Self { a, b, c, d, e, f }
    }

    /// Moves places by an offset.
    pub const fn translation(by: Offset) -> Self {
        Self::new([1.0, 0.0, 0.0, 1.0, by.x, by.y])
    }

    /// Scales places about the origin; 1 leaves an axis as it is.
    pub const fn scaling(x: f32, y: f32) -> Self {
        Self::new([x, 0.0, 0.0, y, 0.0, 0.0])
    }

    /// Turns places about the origin, clockwise on the screen, by an angle in radians.
    pub fn rotation(radians: f32) -> Self {
        let (sin, cos) = radians.sin_cos();
        Self::new([cos, sin, -sin, cos, 0.0, 0.0])
    }

    /// Skews places about the origin by angles in radians: `x` slants what is upright to
    /// the right the farther down it is, `y` lowers it the farther right it is.
    pub fn skewing(x: f32, y: f32) -> Self {
        Self::new([1.0, y.tan(), x.tan(), 1.0, 0.0, 0.0])
    }

    /// The same transform with `center` in the place of the origin.
    #[must_use]
    pub fn about(self, center: Point) -> Self {
        let back = Self::translation(Offset::new(-center.x, -center.y));
        back.then(self)
            .then(Self::translation(Offset::new(center.x, center.y)))
    }

    /// This transform, followed by another.
    #[must_use]
    pub fn then(self, next: Self) -> Self {
        let (x, y) = (next.vector(self.a, self.b), next.vector(self.c, self.d));
        let shift = next.point(Point::new(self.e, self.f));
        Self::new([x.x, x.y, y.x, y.y, shift.x, shift.y])
    }

    /// Transforms a place.
    pub fn point(self, at: Point) -> Point {
        Point::new(
            at.x * self.a + at.y * self.c + self.e,
            at.x * self.b + at.y * self.d + self.f,
        )
    }

    fn vector(self, x: f32, y: f32) -> Offset {
        Offset::new(x * self.a + y * self.c, x * self.b + y * self.d)
    }

    /// The transform that undoes this one; `None` where it flattens the plane to a line
    /// or a point, or has a coefficient that is no finite number.
    pub fn inverse(self) -> Option<Self> {
        if !self.has_area() {
            return None;
        }
        let determinant = self.determinant();
        let inverse = Self::new([
            self.d / determinant,
            -self.b / determinant,
            -self.c / determinant,
            self.a / determinant,
            0.0,
            0.0,
        ]);
        let back = inverse.vector(-self.e, -self.f);
        let inverse = Self {
            e: back.x,
            f: back.y,
            ..inverse
        };
        inverse
            .coefficients()
            .iter()
            .all(|c| c.is_finite())
            .then_some(inverse)
    }

    /// The factor by which areas grow; negative where the plane is mirrored.
    pub fn determinant(self) -> f32 {
        self.a * self.d - self.b * self.c
    }

    /// Its coefficients a, b, c, d, e, f.
    pub fn coefficients(self) -> [f32; 6] {
        [self.a, self.b, self.c, self.d, self.e, self.f]
    }

    /// Returns whether rectangles stay as they stand: neither turned, skewed, mirrored nor
    /// flattened.
    pub fn is_upright(self) -> bool {
        self.b == 0.0 && self.c == 0.0 && self.a > 0.0 && self.d > 0.0
    }

    /// Returns whether an area is left of what it transforms.
    pub(crate) fn has_area(self) -> bool {
        let determinant = self.determinant();
        determinant != 0.0 && determinant.is_finite()
    }

    /// Returns whether rectangles stay upright and keep their proportions.
    pub(crate) fn keeps_shape(self) -> bool {
        self.is_upright() && self.a == self.d
    }

    /// The most that a length may grow: the larger singular value.
    pub(crate) fn largest_scale(self) -> f32 {
        if self.is_upright() {
            return self.a.max(self.d);
        }
        let sum = self.a * self.a + self.b * self.b + self.c * self.c + self.d * self.d;
        let twice = 2.0 * self.determinant();
        let root = ((sum + twice).max(0.0)).sqrt() + ((sum - twice).max(0.0)).sqrt();
        root * 0.5
    }

    /// The transform without its shift.
    pub(crate) fn linear(self) -> Self {
        Self {
            e: 0.0,
            f: 0.0,
            ..self
        }
    }
}
