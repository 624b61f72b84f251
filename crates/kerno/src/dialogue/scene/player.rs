//! A scene at work.

use std::collections::VecDeque;
use std::path::Path;
use std::sync::Arc;

use serde::{Deserialize, Serialize};

use super::SceneError;
use super::description::{Condition, Scene, SceneLine};
use super::texts::Texts;
use super::wording::without_sprites;
use crate::base::{FileReader, Size};
use crate::dialogue::{Pace, SpeechEvent, SpeechPlayer};
use crate::markup::{StringTables, StyleFile, Value};
use crate::text::{LayoutContext, LayoutOptions, Wrap};

/// Plays a [`Scene`]: time, presses and choices in, events out. The game hands in its values.
/// Any split of the time gives the same events in the same order.
///
/// ```no_run
/// use kerno::Size;
/// use kerno::dialogue::{SceneEvent, ScenePlayer};
/// let mut player = ScenePlayer::from_file("ferry/crossing.toml", Size::new(416.0, 64.0))?;
/// // Every frame:
/// player.advance(1.0 / 60.0, &mut |event| match event {
///     SceneEvent::Line { speaker, .. } => println!("{speaker:?} speaks"),
///     SceneEvent::End => println!("it is over"),
///     _ => {}
/// })?;
/// // When the key is pressed, and when an answer is chosen:
/// player.press(&mut |_| {})?;
/// if !player.choices().is_empty() {
///     player.choose(0, &mut |_| {})?;
/// }
/// # Ok::<(), kerno::dialogue::SceneError>(())
/// ```
#[derive(Debug)]
pub struct ScenePlayer {
    pub(super) scene: Arc<Scene>,
    pub(super) styles: Arc<StyleFile>,
    pub(super) strings: Arc<StringTables>,
    pub(super) texts: Texts,
    pub(super) values: Vec<Value>,
    /// The box that lines are laid out in.
    pub(super) room: Size,
    pub(super) options: LayoutOptions,
    pub(super) scrolls: bool,
    pub(super) pace: Pace,
    pub(super) context: LayoutContext,
    /// The line at hand.
    pub(super) at: usize,
    /// Its speech; nothing where the scene is over, or has not begun.
    pub(super) speech: Option<SpeechPlayer>,
    /// Choices of the line that are offered, with their words.
    pub(super) offered: Vec<(usize, String)>,
    /// The name of who speaks in the line at hand.
    pub(super) speaker_name: Option<String>,
    pub(super) phase: Phase,
    /// Seconds that a line waits that is said.
    pub(super) waited: f64,
    pub(super) auto: Option<f64>,
    pub(super) is_at_once: bool,
    pub(super) hurry: f64,
    pub(super) history: VecDeque<Said>,
}

/// Place of a scene in a line.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub(super) enum Phase {
    Start,
    Speaking,
    Choosing,
    Over,
}

/// Something that happened in a scene.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum SceneEvent<'a> {
    /// A line begins.
    Line {
        /// Its number.
        index: usize,
        /// Who speaks, by the name that the lines give them; nobody for a narrator.
        speaker: Option<&'a str>,
    },
    /// Something in the line.
    Speech(SpeechEvent<'a>),
    /// A cue of a line: `cue = "…"`.
    Cue(&'a str),
    /// The player has to choose: [`ScenePlayer::choices`].
    Choices,
    /// An answer was chosen, by its number in the line.
    Chosen(usize),
    /// The scene is over.
    End,
}

/// Something that was said, for a log of messages.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[non_exhaustive]
pub struct Said {
    /// The name of who said it; nobody for a narrator, and for answers.
    pub speaker: Option<String>,
    /// The words.
    pub text: String,
    /// True for an answer that was chosen.
    pub is_answer: bool,
}

/// The most entries of the history.
pub(super) const HISTORY: usize = 100;

impl ScenePlayer {
    /// Opens a scene file with the style file and the string tables that it names, for a box
    /// in design pixels.
    ///
    /// # Errors
    /// [`SceneError`] with the file and line that is wrong.
    pub fn from_file(path: impl AsRef<Path>, room: Size) -> Result<Self, SceneError> {
        Self::from_file_through(path, room, &FileReader::default())
    }

    /// As [`ScenePlayer::from_file`], where `files` says what may be read.
    ///
    /// # Errors
    /// As there.
    pub fn from_file_through(
        path: impl AsRef<Path>,
        room: Size,
        files: &FileReader,
    ) -> Result<Self, SceneError> {
        let scene = Scene::from_file_through(path, files)?;
        let styles = match scene.style_file() {
            None => StyleFile::default(),
            Some(file) => StyleFile::from_file_through(file, |_| None, files)?,
        };
        let strings = match scene.string_folder() {
            Some(folder) => StringTables::from_folder_through(folder, files)?,
            None => StringTables::default(),
        };
        Self::new(scene, styles, strings, room)
    }

    /// A player at the start of a scene, in the scene's language. All texts of that language
    /// are read once: names that are not there are told now.
    ///
    /// # Errors
    /// [`SceneError`] with the file and line that is wrong.
    pub fn new(
        scene: impl Into<Arc<Scene>>,
        styles: impl Into<Arc<StyleFile>>,
        strings: impl Into<Arc<StringTables>>,
        room: Size,
    ) -> Result<Self, SceneError> {
        let (scene, styles, strings) = (scene.into(), styles.into(), strings.into());
        let language = scene.language.as_deref().unwrap_or_else(|| strings.first());
        let values = scene.values.iter().map(|value| value.start.clone());
        let player = Self {
            texts: Texts::new(&styles, language),
            values: values.collect(),
            room,
            options: LayoutOptions::default().wrap(Wrap::Greedy),
            scrolls: false,
            pace: Pace::default(),
            context: LayoutContext::new(),
            at: 0,
            speech: None,
            offered: Vec::new(),
            speaker_name: None,
            phase: Phase::Start,
            waited: 0.0,
            auto: None,
            is_at_once: false,
            hurry: 1.0,
            history: VecDeque::new(),
            scene,
            styles,
            strings,
        };
        player.read_all()?;
        Ok(player)
    }

    /// Moves on by some seconds. Returns the seconds that are left where a choice has to be made
    /// since then, or the scene is over; else 0.
    ///
    /// # Errors
    /// [`SceneError`] where a text can't be laid out.
    pub fn advance(
        &mut self,
        seconds: f64,
        on: &mut dyn FnMut(SceneEvent<'_>),
    ) -> Result<f64, SceneError> {
        self.advance_timed(seconds, &mut |_, event| on(event))
    }

    /// As [`ScenePlayer::advance`], with the seconds from now at which each event happens: the
    /// times are the same however long the steps are.
    ///
    /// # Errors
    /// As there.
    pub fn advance_timed(
        &mut self,
        seconds: f64,
        on: &mut dyn FnMut(f64, SceneEvent<'_>),
    ) -> Result<f64, SceneError> {
        let mut left = if seconds > 0.0 { seconds } else { 0.0 };
        // What of the step is over already.
        let mut past = 0.0;
        if self.phase == Phase::Start {
            self.enter(0, &mut |event| on(past, event))?;
        }
        while let Some(speech) = &mut self.speech {
            let waits = speech.is_done();
            let start = speech.elapsed();
            let over = speech.advance_timed(left, &mut |now, event| {
                on(past + (now - start), SceneEvent::Speech(event));
            });
            if !speech.is_done() {
                return Ok(0.0);
            }
            if self.phase != Phase::Speaking {
                break;
            }
            past += left - over;
            left = over;
            if !waits && !self.offered.is_empty() {
                self.phase = Phase::Choosing;
                on(past, SceneEvent::Choices);
                break;
            }
            let need = match (&self.speech, self.auto) {
                (Some(speech), Some(speed)) => speech.reading_time(speed) - self.waited,
                _ => f64::INFINITY,
            };
            if need > left {
                self.waited += left;
                return Ok(0.0);
            }
            past += need.max(0.0);
            left -= need.max(0.0);
            self.enter(self.after(self.at), &mut |event| on(past, event))?;
        }
        Ok(left)
    }

    /// The key was pressed: shows all of the page, or goes on. Returns false where a choice has
    /// to be made, or the scene is over.
    ///
    /// # Errors
    /// As [`ScenePlayer::advance`].
    pub fn press(&mut self, on: &mut dyn FnMut(SceneEvent<'_>)) -> Result<bool, SceneError> {
        match self.phase {
            Phase::Start => self.enter(0, on)?,
            Phase::Choosing | Phase::Over => return Ok(false),
            Phase::Speaking => {
                let speech = self.speech.as_mut();
                let is_played = speech
                    .is_some_and(|speech| speech.press(&mut |event| on(SceneEvent::Speech(event))));
                if !is_played {
                    self.enter(self.after(self.at), on)?;
                } else if self.speech.as_ref().is_some_and(SpeechPlayer::is_done)
                    && !self.offered.is_empty()
                {
                    self.phase = Phase::Choosing;
                    on(SceneEvent::Choices);
                }
            }
        }
        Ok(true)
    }

    /// Chooses an answer, by its number among [`ScenePlayer::choices`].
    ///
    /// # Errors
    /// [`SceneError::Value`] where there is no such answer now; else as
    /// [`ScenePlayer::advance`].
    pub fn choose(
        &mut self,
        answer: usize,
        on: &mut dyn FnMut(SceneEvent<'_>),
    ) -> Result<(), SceneError> {
        let offered = self
            .offered
            .get(answer)
            .filter(|_| self.phase == Phase::Choosing);
        let Some((index, text)) = offered.cloned() else {
            let count = self.choices().len();
            let problem = format!("there is no answer {answer} to choose; there are {count}");
            return Err(SceneError::Value(problem));
        };
        self.remember(Said {
            speaker: None,
            text,
            is_answer: true,
        });
        on(SceneEvent::Chosen(index));
        let jump = self.scene.lines[self.at].choices[index].jump.as_ref();
        let next = jump.and_then(|label| self.scene.labels.get(label).copied());
        self.enter(next.unwrap_or_else(|| self.after(self.at)), on)
    }

    fn remember(&mut self, said: Said) {
        if self.history.len() >= HISTORY {
            self.history.pop_front();
        }
        self.history.push_back(said);
    }

    pub(super) fn holds(&self, condition: Option<&Condition>) -> bool {
        condition.is_none_or(|condition| {
            let declared = &self.scene.values;
            let index = declared
                .iter()
                .position(|value| value.name == condition.value);
            index.is_some_and(|index| condition.holds(&self.values[index]))
        })
    }

    /// The line after one that is said.
    fn after(&self, at: usize) -> usize {
        let Some(line) = self.scene.lines.get(at) else {
            return usize::MAX;
        };
        match &line.jump {
            _ if line.ends => usize::MAX,
            Some(label) => self.scene.labels.get(label).copied().unwrap_or(usize::MAX),
            None => at + 1,
        }
    }

    /// Begins the next line that shows something, from one on.
    fn enter(&mut self, from: usize, on: &mut dyn FnMut(SceneEvent<'_>)) -> Result<(), SceneError> {
        let scene = self.scene.clone();
        let (mut at, mut passed) = (from, 0);
        loop {
            let line = scene.lines.get(at).filter(|_| passed <= scene.lines.len());
            let Some(line) = line else {
                self.speech = None;
                self.offered.clear();
                self.phase = Phase::Over;
                on(SceneEvent::End);
                return Ok(());
            };
            passed += 1;
            if !self.holds(line.condition.as_ref()) {
                at += 1;
                continue;
            }
            if let Some(cue) = line.cue.as_ref().filter(|_| line.is_silent()) {
                on(SceneEvent::Cue(cue));
            }
            if line.is_silent() {
                at = self.after(at);
                continue;
            }
            let offered = self.offer(line)?;
            if line.text.is_none() && offered.is_empty() {
                at = self.after(at);
                continue;
            }
            self.offered = offered;
            return self.begin(at, line, on);
        }
    }

    /// Begins a line whose answers are known.
    fn begin(
        &mut self,
        at: usize,
        line: &SceneLine,
        on: &mut dyn FnMut(SceneEvent<'_>),
    ) -> Result<(), SceneError> {
        self.at = at;
        self.waited = 0.0;
        self.phase = Phase::Speaking;
        self.name_speaker(line)?;
        self.speech = self.spoken(line)?;
        self.settings();
        on(SceneEvent::Line {
            index: at,
            speaker: line.speaker.as_deref(),
        });
        if let Some(cue) = &line.cue {
            on(SceneEvent::Cue(cue));
        }
        match &self.speech {
            Some(speech) => {
                let text = without_sprites(speech.speech().layout().text());
                let speaker = self.speaker_name.clone();
                self.remember(Said {
                    speaker,
                    text,
                    is_answer: false,
                });
                Ok(())
            }
            None => {
                self.phase = Phase::Choosing;
                on(SceneEvent::Choices);
                Ok(())
            }
        }
    }
}
