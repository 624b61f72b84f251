//! Typewriter text: which part of a laid-out text is visible at a time, and what happens
//! meanwhile.
//!
//! In: a [`TextLayout`](crate::TextLayout) with its marks, finished and never moved
//! again, and a [`Pace`]. Out: a [`Timetable`], pages of the text, and the poses of
//! letters in motion, all of them pure functions of time. A [`Speech`] holds them together, a
//! [`SpeechPlayer`] plays it: time and presses in, events out. A [`Scene`] is a file of lines
//! with speakers and choices, a [`ScenePlayer`] plays that.

mod instruction;
mod motion;
mod pace;
mod pages;
mod player;
mod rest;
#[cfg(feature = "screens")]
mod scene;
mod speech;
mod timetable;

pub use instruction::with_spoken_names;
pub use motion::{LetterMotion, LetterMotionKind, MotionMoment};
pub use pace::{Pace, PaceError};
pub use pages::{Page, PageSize, pages};
pub use player::{ClusterClass, SpeechEvent, SpeechPlayer, SpeechState, Stop};
#[cfg(feature = "schemas")]
pub(crate) use scene::file_schema;
#[cfg(feature = "screens")]
pub use scene::{
    Choice, Condition, Said, SavedScene, Scene, SceneCheck, SceneError, SceneEvent, SceneFinding,
    SceneFindingKind, SceneLine, ScenePlayer, Speaker, Test,
};
pub use speech::{OwnMotion, Speech};
pub use timetable::{Moment, MomentKind, Timetable, TimetableError};
