//! How fast a typewriter text appears and where it rests.

/// Pace of a typewriter text: its speed and its rests.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Pace {
    /// Grapheme clusters a second; above 0. Default 30.
    pub clusters_per_second: f32,
    /// Rest after a comma, semicolon, colon or dash, in seconds, 0 or more.
    /// Default 0.15.
    pub comma_rest: f32,
    /// Rest after the end of a sentence, in seconds, 0 or more. Default 0.4.
    pub sentence_rest: f32,
}

crate::base::setters! {
    Pace {
        clusters_per_second: f32,
        comma_rest: f32,
        sentence_rest: f32,
    }
}

impl Default for Pace {
    fn default() -> Self {
        Self {
            clusters_per_second: 30.0,
            comma_rest: 0.15,
            sentence_rest: 0.4,
        }
    }
}

/// A pace whose numbers are out of range.
#[derive(Clone, Copy, PartialEq, thiserror::Error)]
#[error("{what} is {value}, it must be {expected}")]
pub struct PaceError {
    what: &'static str,
    value: f32,
    expected: &'static str,
}

crate::base::debug_in_full!(PaceError);

impl PaceError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        "pace-out-of-range"
    }
}

impl Pace {
    /// Refuses a pace that no timetable can be made from.
    pub(super) fn check(&self) -> Result<(), PaceError> {
        let refuse = |what, value, expected| {
            Err(PaceError {
                what,
                value,
                expected,
            })
        };
        let speed = self.clusters_per_second;
        if !(speed > 0.0 && speed.is_finite()) {
            return refuse("clusters_per_second", speed, "above 0 and finite");
        }
        for (what, rest) in [
            ("comma_rest", self.comma_rest),
            ("sentence_rest", self.sentence_rest),
        ] {
            if !(rest >= 0.0 && rest.is_finite()) {
                return refuse(what, rest, "0 or more seconds");
            }
        }
        Ok(())
    }
}
