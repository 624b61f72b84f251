//! Scenes that are saved and restored.

use std::hash::{Hash, Hasher};

use rustc_hash::FxHasher;
use serde::{Deserialize, Serialize};

use super::SceneError;
use super::description::Scene;
use super::player::{HISTORY, Phase, Said, ScenePlayer};
use crate::dialogue::SpeechState;

/// State of a scene player: small data to save. The values are the game's to save.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct SavedScene {
    version: u32,
    /// Of the scene's lines: another scene refuses it.
    scene: u32,
    line: usize,
    phase: Phase,
    speech: SpeechState,
    waited: f64,
    history: Vec<Said>,
}

/// The version of what is saved.
const VERSION: u32 = 1;

impl ScenePlayer {
    /// Its state, to be saved.
    pub fn save(&self) -> SavedScene {
        let speech = self.speech.as_ref();
        SavedScene {
            version: VERSION,
            scene: fingerprint(&self.scene),
            line: self.at,
            phase: self.phase,
            speech: speech.map_or_else(SpeechState::default, |speech| speech.state().clone()),
            waited: self.waited,
            history: self.history.iter().cloned().collect(),
        }
    }

    /// Goes on from where a player of the same scene was saved.
    ///
    /// # Errors
    /// [`SceneError::Saved`] for what is of another scene or version; else as
    /// [`ScenePlayer::advance`].
    pub fn restore(&mut self, saved: &SavedScene) -> Result<(), SceneError> {
        if saved.version != VERSION {
            let version = saved.version;
            return Err(SceneError::Saved(format!(
                "what was saved is of version {version}, and this is {VERSION}"
            )));
        }
        if saved.scene != fingerprint(&self.scene) || saved.line > self.scene.lines.len() {
            let problem = "what was saved is of another scene, or of this one before it changed";
            return Err(SceneError::Saved(problem.to_owned()));
        }
        (self.at, self.phase) = (saved.line, saved.phase);
        self.waited = if saved.waited.is_finite() {
            saved.waited
        } else {
            0.0
        };
        self.history = saved.history.iter().take(HISTORY).cloned().collect();
        (self.speech, self.offered) = (None, Vec::new());
        let scene = self.scene.clone();
        if let Some(line) = self.line().and_then(|at| scene.lines.get(at)) {
            self.name_speaker(line)?;
            self.speech = self.spoken(line)?.map(|speech| speech.at(&saved.speech));
            self.offered = self.offer(line)?;
            self.settings();
        }
        if self.phase == Phase::Choosing && self.offered.is_empty() {
            self.phase = Phase::Speaking;
        }
        Ok(())
    }
}

/// A number of a scene's lines, by which what was saved is known to be of it.
fn fingerprint(scene: &Scene) -> u32 {
    let mut hasher = FxHasher::default();
    for line in &scene.lines {
        (&line.label, &line.speaker, &line.jump, line.choices.len()).hash(&mut hasher);
        line.text.is_some().hash(&mut hasher);
    }
    scene.lines.len().hash(&mut hasher);
    hasher.finish() as u32
}
