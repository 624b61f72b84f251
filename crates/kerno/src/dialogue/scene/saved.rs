//! Scenes that are saved and restored.

use serde::{Deserialize, Serialize};
use xxhash_rust::xxh3::Xxh3;

use super::SceneError;
use super::description::{Scene, SceneLine};
use super::player::{HISTORY, Phase, Said, ScenePlayer};
use super::wording::without_sprites;
use crate::dialogue::{SpeechPlayer, SpeechState};
use crate::markup::TextSource;

/// State of a scene player: small data to save. The values are the game's to save.
///
/// It tells which line it is of, so that it goes on after a patch: by the label of the line, or of
/// the last one before it that has one, else by its number and by what is said in it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct SavedScene {
    version: u32,
    line: SavedLine,
    language: String,
    /// The words of the line, as they were shown.
    text: String,
    phase: Phase,
    speech: SpeechState,
    waited: f64,
    history: Vec<Said>,
}

/// The line that a scene was saved in.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct SavedLine {
    /// The last label at it or before it, and the number of lines from there.
    label: Option<String>,
    after_label: usize,
    /// Its number in the scene.
    number: usize,
    /// What is said in it, and in the lines before and after it.
    digest: u64,
    before: Option<u64>,
    after: Option<u64>,
}

/// The version of what is saved.
const VERSION: u32 = 2;

impl SavedScene {
    /// The tag of the language that it was saved in.
    pub fn language(&self) -> &str {
        &self.language
    }

    /// The words of the line that it was saved in: for a list of saves. Empty before the first
    /// line, after the last, and where only answers were shown.
    pub fn text(&self) -> &str {
        &self.text
    }

    /// The label of the line that it was saved in, or of the last one before it that has one.
    pub fn label(&self) -> Option<&str> {
        self.line.label.as_deref()
    }
}

impl ScenePlayer {
    /// Its state, to be saved.
    pub fn save(&self) -> SavedScene {
        let speech = self.speech.as_ref();
        SavedScene {
            version: VERSION,
            line: SavedLine::of(&self.scene, self.at),
            language: self.language().to_owned(),
            text: self.shown_words(),
            phase: self.phase,
            speech: speech.map_or_else(SpeechState::default, SpeechPlayer::state),
            waited: self.waited,
            history: self.history.iter().cloned().collect(),
        }
    }

    /// Goes on from where a player was saved: of the same scene, of one with other lines before
    /// or after, or with other words. A line whose words are others now, in another language say,
    /// begins anew; one that was all said stays said.
    ///
    /// # Errors
    /// [`SceneError::Saved`] for what is of another scene or version, or whose line is gone; the
    /// player stays as it was then. Else as [`ScenePlayer::advance`].
    pub fn restore(&mut self, saved: &SavedScene) -> Result<(), SceneError> {
        if saved.version != VERSION {
            let version = saved.version;
            return Err(SceneError::Saved(format!(
                "what was saved is of version {version}, and this is {VERSION}"
            )));
        }
        let at = saved.line.find(&self.scene, &saved.text)?;
        (self.at, self.phase) = (at, saved.phase);
        self.waited = if saved.waited.is_finite() {
            saved.waited.max(0.0)
        } else {
            0.0
        };
        self.history = saved.history.iter().take(HISTORY).cloned().collect();
        (self.speech, self.offered) = (None, Vec::new());
        let scene = self.scene.clone();
        if let Some(line) = self.line().and_then(|at| scene.lines.get(at)) {
            self.name_speaker(line)?;
            self.speech = self.spoken(line)?;
            self.offered = self.offer(line)?;
            self.settings();
            let is_said = saved.phase == Phase::Choosing || saved.speech.is_done();
            if self.shown_words() == saved.text {
                self.speech = self.speech.take().map(|speech| speech.at(&saved.speech));
            } else if is_said {
                self.say_all();
            } else {
                self.waited = 0.0;
            }
        }
        if self.phase == Phase::Choosing && self.offered.is_empty() {
            self.phase = Phase::Speaking;
        }
        Ok(())
    }

    /// The words of the line at hand.
    fn shown_words(&self) -> String {
        let speech = self.speech.as_ref().filter(|_| self.line().is_some());
        speech.map_or_else(String::new, |speech| {
            without_sprites(speech.speech().layout().text())
        })
    }

    /// Says all of the line at hand at once.
    pub(super) fn say_all(&mut self) {
        if let Some(speech) = &mut self.speech {
            while !speech.is_done() {
                speech.press(&mut |_| {});
            }
        }
    }
}

impl SavedLine {
    fn of(scene: &Scene, number: usize) -> Self {
        let lines = &scene.lines;
        let up_to = &lines[..lines.len().min(number + 1)];
        let labelled = up_to.iter().rposition(|line| line.label.is_some());
        let digest = |at: Option<usize>| Some(digest(lines.get(at?)?));
        Self {
            label: labelled.and_then(|at| lines[at].label.clone()),
            after_label: labelled.map_or(0, |at| number - at),
            number,
            digest: digest(Some(number)).unwrap_or_default(),
            before: digest(number.checked_sub(1)),
            after: digest(Some(number + 1)),
        }
    }

    /// Finds the line in a scene that may have changed since.
    fn find(&self, scene: &Scene, text: &str) -> Result<usize, SceneError> {
        let lines = &scene.lines;
        if lines.is_empty() && *self == Self::of(scene, 0) {
            return Ok(0);
        }
        let label = self.label.as_ref();
        let labelled = label.and_then(|label| scene.labels.get(label));
        let place = match labelled {
            Some(at) => at.saturating_add(self.after_label),
            None => self.number,
        };
        let is_own = |at: usize| {
            lines
                .get(at)
                .is_some_and(|line| digest(line) == self.digest)
        };
        // A label is a promise: its line may say something else now.
        if is_own(place) || labelled.is_some() && self.after_label == 0 {
            return Ok(place);
        }
        // Lines were added, taken away or put in another order.
        let mut others = (0..lines.len()).filter(|at| is_own(*at));
        if let (Some(only), None) = (others.next(), others.next()) {
            return Ok(only);
        }
        // Where its neighbours are as they were, it is the line that was written anew.
        let around = Self::of(scene, place);
        if place < lines.len() && (around.before, around.after) == (self.before, self.after) {
            return Ok(place);
        }
        Err(SceneError::Saved(format!(
            "what was saved is of another scene, or its line “{text}” is not where it was; a label \
             keeps a line's place"
        )))
    }
}

/// A number of what is said in a line: the same on every machine. Texts of string tables count by
/// their keys.
fn digest(line: &SceneLine) -> u64 {
    let mut hasher = Xxh3::new();
    let mut add = |part: &str| {
        hasher.update(&(part.len() as u64).to_le_bytes());
        hasher.update(part.as_bytes());
    };
    let source = |source: &TextSource| match source {
        TextSource::Markup(text) => format!("text {text}"),
        TextSource::Key(key) => format!("key {key}"),
    };
    add(line.speaker.as_deref().unwrap_or_default());
    add(&line.text.as_ref().map(source).unwrap_or_default());
    for choice in &line.choices {
        add(&source(&choice.text));
    }
    add(line.cue.as_deref().unwrap_or_default());
    add(line.jump.as_deref().unwrap_or_default());
    hasher.digest()
}
