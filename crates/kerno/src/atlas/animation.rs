//! Sprites that follow one another in time.

use super::{AtlasError, SpriteId};

/// Sprites that are shown one after another. Which one is a pure function of time,
/// so any moment can be asked for in any order.
///
/// ```no_run
/// use kerno::Atlas;
/// use kerno::atlas::{Animation, SpriteOptions};
/// use kerno::base::Image;
/// let mut atlas = Atlas::default();
/// let strip = Image::from_png_file("sprites/bell.png")?;
/// let frames = atlas.add_strip("bell", &strip, 64, &SpriteOptions::default())?;
/// let ringing = Animation::new(frames.into_iter().map(|frame| (frame, 0.25)), true)?;
/// let shown = ringing.sprite_at(1.4);
/// # let _ = shown;
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Debug, PartialEq)]
pub struct Animation {
    /// Each frame with when it ends, in seconds from the start.
    frames: Vec<(SpriteId, f64)>,
    repeats: bool,
}

impl Animation {
    /// An animation of frames, each with how long it is shown, in seconds: above 0
    /// and finite. It starts over after the last one where it `repeats`, and stays
    /// on it otherwise.
    ///
    /// # Errors
    /// [`AtlasError::BadAnimation`] without frames, or with a time out of range.
    pub fn new(
        frames: impl IntoIterator<Item = (SpriteId, f32)>,
        repeats: bool,
    ) -> Result<Self, AtlasError> {
        let mut end = 0.0;
        let mut ends = Vec::new();
        for (sprite, seconds) in frames {
            if !(seconds > 0.0 && seconds.is_finite()) {
                return Err(AtlasError::BadAnimation(
                    "each frame must be shown for a time above 0 and finite",
                ));
            }
            // The number that was written, not the nearest that has 24 bits.
            end += seconds.to_string().parse().unwrap_or(f64::from(seconds));
            ends.push((sprite, end));
        }
        if ends.is_empty() {
            return Err(AtlasError::BadAnimation("there must be a frame"));
        }
        Ok(Self {
            frames: ends,
            repeats,
        })
    }

    /// Duration of one run, in seconds.
    pub fn duration(&self) -> f64 {
        self.frames.last().map_or(0.0, |(_, end)| *end)
    }

    /// The sprite to show at a time in seconds from the start; the first one before
    /// that. At the very end of a frame it is the next one, however times were added up.
    pub fn sprite_at(&self, seconds: f64) -> SpriteId {
        let repeats = self.repeats && seconds.is_finite();
        let time = if repeats {
            seconds.max(0.0) % self.duration()
        } else {
            seconds
        };
        // Sums of decimal fractions are off by far less.
        let same = 1e-9 * (1.0 + seconds.abs().min(1e9));
        let index = self.frames.partition_point(|(_, end)| *end <= time + same);
        let last = self.frames.len() - 1;
        match index > last && repeats {
            true => self.frames[0].0,
            false => self.frames[index.min(last)].0,
        }
    }
}
