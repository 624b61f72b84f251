//! The settings of a scene at work: values, the box, the language, how it is read.

use super::SceneError;
use super::player::ScenePlayer;
use super::texts::Texts;
use crate::base::{Size, hint};
use crate::dialogue::Pace;
use crate::markup::{StringTables, Value};
use crate::text::LayoutOptions;

impl ScenePlayer {
    /// Hands in a value of the game: conditions and texts that begin from now on go by it.
    ///
    /// # Errors
    /// [`SceneError::Value`] for a name that the scene does not have, or a value of another
    /// kind.
    pub fn set(&mut self, name: &str, value: impl Into<Value>) -> Result<(), SceneError> {
        let declared = &self.scene.values;
        let Some(index) = declared.iter().position(|value| value.name == name) else {
            let near = hint(name, declared.iter().map(|value| value.name.as_str()));
            let problem = format!("there is no value “{name}”{near}");
            return Err(SceneError::Value(problem));
        };
        let value = declared[index]
            .clamped(value.into())
            .map_err(SceneError::Value)?;
        self.values[index] = value;
        Ok(())
    }

    /// Sets the pace of all lines; that of their speakers multiplies it.
    pub fn set_pace(&mut self, pace: Pace) {
        self.pace = pace;
    }

    /// Sets the options of the layout but for its width and its direction. Default: wrapped.
    ///
    /// # Errors
    /// As [`ScenePlayer::set_room`].
    pub fn set_options(&mut self, options: LayoutOptions) -> Result<(), SceneError> {
        self.options = options;
        self.lay_out_again(false)
    }

    /// Scrolls long lines in place of going on to pages: [`Speech::scrolling`](crate::dialogue::Speech::scrolling).
    ///
    /// # Errors
    /// As [`ScenePlayer::set_room`].
    pub fn set_scrolling(&mut self, scrolls: bool) -> Result<(), SceneError> {
        self.scrolls = scrolls;
        self.lay_out_again(false)
    }

    /// Lays lines out in another box: the line at hand stays where it is in its text.
    ///
    /// # Errors
    /// [`SceneError`] where the text can't be laid out.
    pub fn set_room(&mut self, room: Size) -> Result<(), SceneError> {
        if room == self.room {
            return Ok(());
        }
        self.room = room;
        self.lay_out_again(false)
    }

    /// Speaks another language from now on: the line at hand begins anew, or stays said.
    ///
    /// # Errors
    /// [`SceneError`] for a language without texts, and with the text that is missing.
    pub fn set_language(&mut self, language: &str) -> Result<(), SceneError> {
        check_language(&self.strings, language)?;
        let texts = Texts::new(&self.styles, language);
        self.read_language(&texts, false)?;
        self.texts = texts;
        self.lay_out_again(true)
    }

    /// Goes on by itself where it waits: see
    /// [`SpeechPlayer::set_auto_advance`](crate::dialogue::SpeechPlayer::set_auto_advance). Choices
    /// wait for the player.
    pub fn set_auto_advance(&mut self, clusters_per_second: Option<f64>) {
        self.auto = clusters_per_second;
        self.settings();
    }

    /// Shows each page at once, for readers who want no typing.
    pub fn set_at_once(&mut self, is_at_once: bool) {
        self.is_at_once = is_at_once;
        self.settings();
    }

    /// Speeds lines up while a key is held, by a factor.
    pub fn set_hurry(&mut self, factor: f64) {
        self.hurry = factor;
        self.settings();
    }

    pub(super) fn settings(&mut self) {
        if let Some(speech) = &mut self.speech {
            speech.set_auto_advance(self.auto);
            speech.set_at_once(self.is_at_once);
            speech.set_hurry(self.hurry);
        }
    }

    /// Lays the line at hand out again, in another box or language.
    fn lay_out_again(&mut self, is_other_text: bool) -> Result<(), SceneError> {
        let scene = self.scene.clone();
        let Some(line) = self.line().and_then(|at| scene.lines.get(at)) else {
            return Ok(());
        };
        let before = self.speech.take();
        self.name_speaker(line)?;
        self.offered = self.offer(line)?;
        let spoken = self.spoken(line)?;
        self.speech = match (spoken, before) {
            (Some(speech), Some(before)) if !is_other_text => Some(speech.at(&before.state())),
            (spoken, Some(before)) if before.is_done() => {
                self.speech = spoken;
                self.say_all();
                self.speech.take()
            }
            (spoken, _) => spoken,
        };
        self.settings();
        Ok(())
    }
}

/// Refuses a language that has no table, where any has.
pub(super) fn check_language(strings: &StringTables, language: &str) -> Result<(), SceneError> {
    let known: Vec<&str> = strings.languages().collect();
    if known.is_empty() || strings.table(language).is_some() {
        return Ok(());
    }
    let near = hint(language, known.iter().copied());
    let known = known.join(", ");
    Err(SceneError::Value(format!(
        "there is no language “{language}”{near}; there are {known}"
    )))
}
