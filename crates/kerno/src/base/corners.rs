//! Radii of a rectangle's corners.

/// The largest radius that is looked at, in device pixels.
const MOST: f32 = 1e9;

/// Radii of the four corners of a rectangle, in design pixels (CSS `border-radius`).
///
/// ```
/// use kerno::base::Corners;
/// let tab = Corners { bottom_left: 0.0, bottom_right: 0.0, ..Corners::all(8.0) };
/// # let _ = tab;
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Corners {
    /// Radius of the top left corner.
    pub top_left: f32,
    /// Radius of the top right corner.
    pub top_right: f32,
    /// Radius of the bottom right corner.
    pub bottom_right: f32,
    /// Radius of the bottom left corner.
    pub bottom_left: f32,
}

impl Corners {
    /// The same radius at every corner.
    pub const fn all(radius: f32) -> Self {
        Self {
            top_left: radius,
            top_right: radius,
            bottom_right: radius,
            bottom_left: radius,
        }
    }

    /// Returns the radii in whole pixels at a scale, clockwise from the top left. Where two
    /// do not fit on a side of the box, all are made smaller by the same share (CSS
    /// Backgrounds and Borders 3, section 4.5); what is negative or no number is 0.
    pub(crate) fn fitted(self, scale: f32, width: f32, height: f32) -> [f32; 4] {
        let radii = [
            self.top_left,
            self.top_right,
            self.bottom_right,
            self.bottom_left,
        ];
        let [a, b, c, d] = radii.map(|radius| (radius * scale).clamp(0.0, MOST).max(0.0));
        let share = |length: f32, sum: f32| if sum > length { length / sum } else { 1.0 };
        let across = share(width, a + b).min(share(width, c + d));
        let down = share(height, a + d).min(share(height, b + c));
        let radii = [a, b, c, d].map(|radius| radius * across.min(down));
        let [a, b, c, d] = radii.map(f32::round);
        let fits = (a + b).max(c + d) <= width && (a + d).max(b + c) <= height;
        match fits {
            true => [a, b, c, d],
            false => radii.map(f32::floor),
        }
    }
}

impl From<f32> for Corners {
    fn from(radius: f32) -> Self {
        Self::all(radius)
    }
}
