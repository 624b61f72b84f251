//! Typewriter text: which part of a laid-out text is visible at a time.
//!
//! What goes in: a [`TextLayout`](crate::TextLayout), finished and never moved
//! again, and a [`Pace`]. What comes out: a [`Reveal`], from seconds to a
//! number of clusters. It has no clock and no state, so any time can be asked
//! for, in any order.

mod pace;
mod reveal;

pub use pace::{Pace, PaceError};
pub use reveal::Reveal;
