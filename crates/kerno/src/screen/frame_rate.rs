//! Frame rates that can be read.

/// Frames a second, smoothed, and the worst of the last second: to be handed in as values.
///
/// ```
/// use kerno::screen::FrameRate;
/// let mut rate = FrameRate::new();
/// for _ in 0..120 {
///     rate.frame(1.0 / 60.0);
/// }
/// assert_eq!(rate.smoothed().round(), 60.0);
/// rate.frame(0.05);
/// assert_eq!(rate.worst().round(), 20.0);
/// ```
#[derive(Clone, Debug, Default, PartialEq)]
pub struct FrameRate {
    /// Seconds of a frame, smoothed.
    smoothed: f32,
    /// The longest frame of this half second and of the one before.
    longest: [f32; 2],
    /// Seconds of this half second.
    elapsed: f32,
}

impl FrameRate {
    /// A rate of no frames yet.
    pub fn new() -> Self {
        Self::default()
    }

    /// Takes a frame in that took some seconds; what is not above 0 is left out.
    pub fn frame(&mut self, seconds: f32) {
        if !(seconds > 0.0 && seconds.is_finite()) {
            return;
        }
        // Half of what is known is of the last third of a second.
        let share = 1.0 - (-2.0 * seconds).exp();
        self.smoothed = match self.smoothed == 0.0 {
            true => seconds,
            false => self.smoothed + (seconds - self.smoothed) * share,
        };
        self.longest[0] = self.longest[0].max(seconds);
        self.elapsed += seconds;
        if self.elapsed >= 0.5 {
            self.longest = [0.0, self.longest[0]];
            self.elapsed = 0.0;
        }
    }

    /// Frames a second, smoothed; 0 before the first.
    pub fn smoothed(&self) -> f32 {
        rate(self.smoothed)
    }

    /// Frames a second at the worst frame of the last second; 0 before the first.
    pub fn worst(&self) -> f32 {
        rate(self.longest[0].max(self.longest[1]))
    }
}

fn rate(seconds: f32) -> f32 {
    if seconds > 0.0 { 1.0 / seconds } else { 0.0 }
}
