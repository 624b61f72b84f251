//! Scenes: files of lines with speakers, choices and jumps.
//!
//! In: a scene file (`docs/scene.md`), a style file, string tables. Out:
//! a [`Scene`], checked, that a [`ScenePlayer`] plays.

mod check;
mod description;
mod error;
mod graph;
mod player;
mod questions;
mod reading;
mod records;
mod saved;
mod settings;
mod texts;
mod wording;

pub use check::{SceneCheck, SceneFinding, SceneFindingKind};
pub use description::{Choice, Condition, Scene, SceneLine, Speaker, Test};
pub use error::SceneError;
pub use player::{Said, SceneEvent, ScenePlayer};
#[cfg(feature = "schemas")]
pub(crate) use records::file_schema;
pub use saved::SavedScene;
