//! Speed of a typewriter text, and its rests.

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
    /// Rest after an ellipsis, in seconds, 0 or more. Default 0.4.
    pub ellipsis_rest: f32,
    /// Rest at the end of a line, in seconds, 0 or more. Default 0.
    pub line_rest: f32,
}

crate::base::setters! {
    Pace {
        clusters_per_second: f32,
        comma_rest: f32,
        sentence_rest: f32,
        ellipsis_rest: f32,
        line_rest: f32,
    }
}

impl Default for Pace {
    fn default() -> Self {
        Self {
            clusters_per_second: 30.0,
            comma_rest: 0.15,
            sentence_rest: 0.4,
            ellipsis_rest: 0.4,
            line_rest: 0.0,
        }
    }
}

impl Pace {
    /// The same pace, faster by a factor: rests are shorter as well.
    #[must_use]
    pub fn times(self, factor: f32) -> Self {
        Self {
            clusters_per_second: self.clusters_per_second * factor,
            comma_rest: self.comma_rest / factor,
            sentence_rest: self.sentence_rest / factor,
            ellipsis_rest: self.ellipsis_rest / factor,
            line_rest: self.line_rest / factor,
        }
    }

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
        let rests = [
            ("comma_rest", self.comma_rest),
            ("sentence_rest", self.sentence_rest),
            ("ellipsis_rest", self.ellipsis_rest),
            ("line_rest", self.line_rest),
        ];
        for (what, rest) in rests {
            if !(rest >= 0.0 && rest.is_finite()) {
                return refuse(what, rest, "0 or more seconds");
            }
        }
        Ok(())
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
