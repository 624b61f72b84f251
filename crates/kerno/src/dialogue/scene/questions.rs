//! Questions about a scene at work.

use super::description::{Scene, SceneLine};
use super::player::{Phase, Said, ScenePlayer};
use super::texts::speaker;
use crate::base::Color;
use crate::dialogue::{SpeechPlayer, Stop};

impl ScenePlayer {
    /// The scene.
    pub fn scene(&self) -> &Scene {
        &self.scene
    }

    /// Tag of the language that it speaks.
    pub fn language(&self) -> &str {
        self.texts.language()
    }

    /// Languages that it can speak.
    pub fn languages(&self) -> impl Iterator<Item = &str> {
        self.strings.languages()
    }

    /// The speech of the line at hand; nothing where only choices are shown, or the scene
    /// is over.
    pub fn speech(&self) -> Option<&SpeechPlayer> {
        self.speech.as_ref()
    }

    /// The line at hand, by its number; none where the scene has not begun, or is over.
    pub fn line(&self) -> Option<usize> {
        matches!(self.phase, Phase::Speaking | Phase::Choosing).then_some(self.at)
    }

    pub(super) fn line_at_hand(&self) -> Option<&SceneLine> {
        self.scene.lines.get(self.line()?)
    }

    /// The name of who speaks, in the language at hand.
    pub fn speaker_name(&self) -> Option<&str> {
        self.speaker_name
            .as_deref()
            .filter(|_| self.line().is_some())
    }

    /// The sprite that shows who speaks.
    pub fn portrait(&self) -> Option<&str> {
        let line = self.line_at_hand()?;
        let own = line.portrait.as_deref();
        own.or_else(|| speaker(&self.scene, line)?.portrait.as_deref())
    }

    /// The colour of who speaks.
    pub fn speaker_color(&self) -> Option<Color> {
        speaker(&self.scene, self.line_at_hand()?)?.color
    }

    /// The sound that goes with the letters of who speaks.
    pub fn sound(&self) -> Option<&str> {
        speaker(&self.scene, self.line_at_hand()?)?.sound.as_deref()
    }

    /// Answers to choose from, while it waits for a choice.
    pub fn choices(&self) -> Vec<&str> {
        self.choice_texts().collect()
    }

    /// As [`ScenePlayer::choices`], one after another.
    pub(crate) fn choice_texts(&self) -> impl Iterator<Item = &str> {
        let offered: &[(usize, String)] = match self.phase {
            Phase::Choosing => &self.offered,
            _ => &[],
        };
        offered.iter().map(|(_, text)| text.as_str())
    }

    /// Returns whether it waits for a press.
    pub fn is_waiting(&self) -> bool {
        let speech = self.speech.as_ref();
        self.phase == Phase::Speaking && speech.is_some_and(|speech| speech.stop().is_some())
    }

    /// Returns whether the scene is over.
    pub fn is_over(&self) -> bool {
        self.phase == Phase::Over
    }

    /// The lines and answers so far, oldest first: the last hundred.
    pub fn history(&self) -> impl Iterator<Item = &Said> {
        self.history.iter()
    }

    /// Why the line at hand waits, if it does.
    pub fn stop(&self) -> Option<Stop> {
        self.speech.as_ref()?.stop()
    }
}
