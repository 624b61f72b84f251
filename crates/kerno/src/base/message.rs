//! Errors in one line.

use std::error::Error;

use super::printable;

/// An error and what caused it, in one line: `the font “a.ttf”: table 'glyf', byte 8: …`.
///
/// What it quotes of files is [`printable`]. The errors of Kerno print the same as their debug form,
/// which is what a program shows whose `main` returns one.
pub fn full_message(error: &dyn Error) -> String {
    printable(&chained(error)).into_owned()
}

fn chained(error: &dyn Error) -> String {
    let mut text = error.to_string();
    let mut cause = error.source();
    while let Some(error) = cause {
        let more = error.to_string();
        // A transparent error repeats its cause.
        if !text.ends_with(&more) {
            text.push_str(": ");
            text.push_str(&more);
        }
        cause = error.source();
    }
    text
}

/// Gives errors a debug form that a player's log can show: the message with its causes.
macro_rules! debug_in_full {
    ($($error:ty),+) => {
        $(impl std::fmt::Debug for $error {
            fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
                f.write_str(&$crate::base::full_message(self))
            }
        })+
    };
}

pub(crate) use debug_in_full;
