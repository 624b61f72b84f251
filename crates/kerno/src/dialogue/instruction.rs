//! Names in a text that say how it is spoken.

use super::LetterMotion;
use crate::markup::Markup;
use crate::text::Mark;

/// The most seconds of a pause.
const LONGEST: f64 = 3600.0;

/// Names that stand between clusters.
const POINTS: [&str; 3] = ["pause", "wait", "cue"];

/// Names with content.
const RANGES: [&str; 8] = [
    "pace", "at-once", "wave", "shake", "pulse", "hue", "fade-in", "drop-in",
];

/// Adds the names that say how a text is spoken to those of a markup: `@pause(0.4)`, `@wait`,
/// `@cue(bell)`, `@pace(2){…}`, `@at-once{…}`, and the motions `@wave{…}`, `@shake{…}`,
/// `@pulse{…}`, `@hue{…}`, `@fade-in{…}`, `@drop-in{…}` (`docs/scene.md`).
///
/// ```
/// use kerno::markup::Markup;
/// let markup = kerno::dialogue::with_spoken_names(Markup::new().range("glimmer"));
/// // “Lamp oil is low@pause(0.4)… @shake{Ferryman!}”
/// # let _ = markup;
/// ```
#[must_use]
pub fn with_spoken_names(markup: Markup) -> Markup {
    let markup = POINTS.iter().fold(markup, |markup, name| markup.mark(name));
    RANGES
        .iter()
        .fold(markup, |markup, name| markup.range(name))
}

/// A mark of a text as the player takes it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) enum Instruction {
    /// Rests for some seconds.
    Pause(f64),
    /// Waits for a key.
    Wait,
    /// Tells the game.
    Cue,
    /// A factor of the pace.
    Pace(f64),
    /// All of it appears at once.
    AtOnce,
    /// Its letters move.
    Motion(LetterMotion),
    /// The game's own.
    Other,
}

impl Instruction {
    /// Reads a mark.
    ///
    /// # Errors
    /// The problem, in a sentence.
    pub(super) fn of(mark: &Mark) -> Result<Self, String> {
        let name = mark.name.as_str();
        let single = || match mark.arguments.as_slice() {
            [(None, value)] => Ok(value.as_str()),
            _ => Err(format!("`@{name}(…)` takes one argument")),
        };
        match name {
            "pause" => {
                let text = single()?;
                let seconds = text.parse::<f64>().ok();
                let seconds = seconds.filter(|seconds| (0.0..=LONGEST).contains(seconds));
                let wrong = || format!("“{text}” is no pause: write seconds from 0 to {LONGEST}");
                seconds.map(Self::Pause).ok_or_else(wrong)
            }
            "pace" => {
                let text = single()?;
                let factor = text.parse::<f64>().ok();
                let factor = factor.filter(|factor| (0.01..=100.0).contains(factor));
                let wrong = || format!("“{text}” is no pace: write a factor from 0.01 to 100");
                factor.map(Self::Pace).ok_or_else(wrong)
            }
            "cue" => match mark.arguments.as_slice() {
                [(None, _), ..] => Ok(Self::Cue),
                _ => Err("`@cue(…)` begins with the name of the cue".to_owned()),
            },
            "wait" if mark.arguments.is_empty() => Ok(Self::Wait),
            "at-once" if mark.arguments.is_empty() => Ok(Self::AtOnce),
            "wait" | "at-once" => Err(format!("`@{name}` takes no arguments")),
            _ => match LetterMotion::named(name) {
                None => Ok(Self::Other),
                Some(motion) => motion.with(&mark.arguments).map(Self::Motion),
            },
        }
    }
}
