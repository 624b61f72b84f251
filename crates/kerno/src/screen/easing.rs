//! Easing, by CSS.

/// Course of a motion over its time (CSS Easing Functions 1).
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[non_exhaustive]
pub enum Easing {
    /// At one speed.
    Linear,
    /// CSS `ease`.
    #[default]
    Ease,
    /// CSS `ease-in`.
    EaseIn,
    /// CSS `ease-out`.
    EaseOut,
    /// CSS `ease-in-out`.
    EaseInOut,
    /// CSS `cubic-bezier(x1, y1, x2, y2)`; x1 and x2 are kept within 0 to 1.
    CubicBezier(f32, f32, f32, f32),
}

impl Easing {
    /// The share of the way at a share of the time, both from 0 to 1; a curve may overshoot.
    ///
    /// ```
    /// use kerno::screen::Easing;
    /// assert_eq!(Easing::Linear.at(0.25), 0.25);
    /// assert!(Easing::EaseOut.at(0.5) > 0.5);
    /// ```
    pub fn at(self, time: f32) -> f32 {
        let time = if time > 0.0 { time.min(1.0) } else { 0.0 };
        let [x1, y1, x2, y2] = match self {
            Self::Linear => return time,
            Self::Ease => [0.25, 0.1, 0.25, 1.0],
            Self::EaseIn => [0.42, 0.0, 1.0, 1.0],
            Self::EaseOut => [0.0, 0.0, 0.58, 1.0],
            Self::EaseInOut => [0.42, 0.0, 0.58, 1.0],
            Self::CubicBezier(x1, y1, x2, y2) => [x1.clamp(0.0, 1.0), y1, x2.clamp(0.0, 1.0), y2],
        };
        if time == 0.0 || time == 1.0 {
            return time;
        }
        let curve = |a: f32, b: f32, t: f32| {
            let s = 1.0 - t;
            3.0 * s * s * t * a + 3.0 * s * t * t * b + t * t * t
        };
        // x grows with t: halving finds where it is the time.
        let (mut low, mut high) = (0.0_f32, 1.0_f32);
        for _ in 0..24 {
            let middle = (low + high) * 0.5;
            match curve(x1, x2, middle) < time {
                true => low = middle,
                false => high = middle,
            }
        }
        curve(y1, y2, (low + high) * 0.5)
    }
}
