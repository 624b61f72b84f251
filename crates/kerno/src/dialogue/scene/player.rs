//! A scene at work.

use std::collections::VecDeque;
use std::hash::{Hash, Hasher};
use std::path::Path;
use std::sync::Arc;

use rustc_hash::FxHasher;
use serde::{Deserialize, Serialize};

use super::SceneError;
use super::description::{Choice, Condition, Scene, SceneLine};
use super::texts::{Sources, Texts, speaker};
use crate::base::{Color, Size, hint};
use crate::dialogue::{Pace, PageSize, Speech, SpeechEvent, SpeechPlayer, SpeechState, Stop};
use crate::markup::{StringTables, StyleFile, TextSource, Value};
use crate::text::{LayoutContext, LayoutOptions, Style, Wrap};

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
    scene: Arc<Scene>,
    styles: Arc<StyleFile>,
    strings: Arc<StringTables>,
    texts: Texts,
    values: Vec<Value>,
    /// The box that lines are laid out in.
    room: Size,
    options: LayoutOptions,
    scrolls: bool,
    pace: Pace,
    context: LayoutContext,
    /// The line at hand.
    at: usize,
    /// What is said in it; nothing where the scene is over, or has not begun.
    speech: Option<SpeechPlayer>,
    /// Choices of the line that are offered, with their words.
    offered: Vec<(usize, String)>,
    /// The name of who speaks in the line at hand.
    speaker_name: Option<String>,
    phase: Phase,
    /// Seconds that a line waits that is said.
    waited: f64,
    auto: Option<f64>,
    is_at_once: bool,
    hurry: f64,
    history: VecDeque<Said>,
}

/// Where a scene is in a line.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
enum Phase {
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

/// Where a scene player is: small data to save. The values are the game's to save.
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

/// The most entries of the history.
const HISTORY: usize = 100;

impl ScenePlayer {
    /// Opens a scene file with the style file and the string tables that it names, for a box
    /// in design pixels.
    ///
    /// # Errors
    /// [`SceneError`] with the file and line that is wrong.
    pub fn from_file(path: impl AsRef<Path>, room: Size) -> Result<Self, SceneError> {
        let scene = Scene::from_file(path)?;
        let styles = match scene.style_file() {
            None => StyleFile::default(),
            Some(file) => {
                StyleFile::from_file(file).map_err(|error| crate::base::FileError::Line {
                    path: scene.path().to_owned(),
                    line: 0,
                    problem: "cannot use its style file".to_owned(),
                    source: Some(Box::new(error)),
                })?
            }
        };
        let strings = match scene.string_folder() {
            Some(folder) => StringTables::from_folder(folder)?,
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

    /// Reads all texts once.
    fn read_all(&self) -> Result<(), SceneError> {
        let from = self.sources();
        for (index, line) in self.scene.lines.iter().enumerate() {
            if line.is_silent() {
                continue;
            }
            let style = self.texts.style(from, line)?;
            let choices = line.choices.iter().map(|choice| &choice.text);
            for source in line.text.iter().chain(choices) {
                let text = self.texts.read(from, line.line, source, &style)?;
                // Marks that mean nothing are told before they are played.
                crate::dialogue::timetable::check_marks(text.marks())
                    .map_err(|problem| self.scene.fault(self.scene.lines[index].line, problem))?;
            }
        }
        for (_, speaker) in self.scene.speakers() {
            let style = self
                .scene
                .lines
                .first()
                .map(|line| self.texts.style(from, line));
            if let Some(style) = style {
                self.texts
                    .read(from, speaker.line, &speaker.name, &style?)?;
            }
        }
        Ok(())
    }

    fn sources(&self) -> Sources<'_> {
        Sources {
            scene: &self.scene,
            styles: &self.styles,
            strings: &self.strings,
            values: &self.values,
        }
    }

    /// The scene.
    pub fn scene(&self) -> &Scene {
        &self.scene
    }

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

    /// Scrolls long lines in place of going on to pages: [`Speech::scrolling`].
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
        let known: Vec<&str> = self.strings.languages().collect();
        if !known.is_empty() && self.strings.table(language).is_none() {
            let near = hint(language, known.iter().copied());
            let known = known.join(", ");
            return Err(SceneError::Value(format!(
                "there is no language “{language}”{near}; there are {known}"
            )));
        }
        self.texts = Texts::new(&self.styles, language);
        self.read_all()?;
        self.lay_out_again(true)
    }

    /// Tag of the language that it speaks.
    pub fn language(&self) -> &str {
        self.texts.language()
    }

    /// Languages that it can speak.
    pub fn languages(&self) -> impl Iterator<Item = &str> {
        self.strings.languages()
    }

    /// Goes on by itself where it waits: see
    /// [`SpeechPlayer::set_auto_advance`]. Choices wait for the player.
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

    fn settings(&mut self) {
        if let Some(speech) = &mut self.speech {
            speech.set_auto_advance(self.auto);
            speech.set_at_once(self.is_at_once);
            speech.set_hurry(self.hurry);
        }
    }

    /// What is said in the line at hand; nothing where only choices are shown, or the scene
    /// is over.
    pub fn speech(&self) -> Option<&SpeechPlayer> {
        self.speech.as_ref()
    }

    /// The line at hand, by its number; none where the scene has not begun, or is over.
    pub fn line(&self) -> Option<usize> {
        matches!(self.phase, Phase::Speaking | Phase::Choosing).then_some(self.at)
    }

    fn line_at_hand(&self) -> Option<&SceneLine> {
        self.scene.lines.get(self.line()?)
    }

    /// The name of who speaks, in the language at hand.
    pub fn speaker_name(&self) -> Option<&str> {
        self.speaker_name
            .as_deref()
            .filter(|_| self.line().is_some())
    }

    /// Finds the name of who speaks in a line.
    fn name_speaker(&mut self, line: &SceneLine) -> Result<(), SceneError> {
        let speaker = speaker(&self.scene, line);
        let name = speaker.map(|speaker| {
            let style = self.texts.style(self.sources(), line)?;
            self.plain(speaker.line, &speaker.name, &style)
        });
        self.speaker_name = name.transpose()?;
        Ok(())
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

    /// What was said so far, oldest first: the last hundred lines and answers.
    pub fn history(&self) -> impl Iterator<Item = &Said> {
        self.history.iter()
    }

    /// Moves on by some seconds.
    ///
    /// # Errors
    /// [`SceneError`] where a text can't be laid out.
    pub fn advance(
        &mut self,
        seconds: f64,
        on: &mut dyn FnMut(SceneEvent<'_>),
    ) -> Result<(), SceneError> {
        if self.phase == Phase::Start {
            self.enter(0, on)?;
        }
        let mut left = seconds;
        while let Some(speech) = &mut self.speech {
            let waits = speech.is_done();
            let over = speech.advance(left, &mut |event| on(SceneEvent::Speech(event)));
            if !speech.is_done() || self.phase != Phase::Speaking {
                break;
            }
            if !waits && !self.offered.is_empty() {
                self.phase = Phase::Choosing;
                on(SceneEvent::Choices);
                break;
            }
            let need = match (&self.speech, self.auto) {
                (Some(speech), Some(speed)) => speech.reading_time(speed) - self.waited,
                _ => f64::INFINITY,
            };
            if need > over {
                self.waited += over;
                break;
            }
            left = over - need.max(0.0);
            self.enter(self.after(self.at), on)?;
        }
        Ok(())
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

    fn holds(&self, condition: Option<&Condition>) -> bool {
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
            return self.begin(at, line, on);
        }
    }

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
        self.offered = self.offer(line)?;
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
            None if self.offered.is_empty() => self.enter(self.after(at), on),
            None => {
                self.phase = Phase::Choosing;
                on(SceneEvent::Choices);
                Ok(())
            }
        }
    }

    /// What is said in a line.
    fn spoken(&mut self, line: &SceneLine) -> Result<Option<SpeechPlayer>, SceneError> {
        let Some(source) = &line.text else {
            return Ok(None);
        };
        let style = self.texts.style(self.sources(), line)?;
        let text = self.texts.read(self.sources(), line.line, source, &style)?;
        let options = LayoutOptions {
            direction: self.texts.options(&self.strings).direction,
            ..self.options
        };
        let options = options.width(self.room.width);
        let layout = text.lay_out(&options, &mut self.context)?;
        let factor = speaker(&self.scene, line).map_or(1.0, |speaker| speaker.pace);
        let pace = self.pace.times(factor);
        let size = PageSize::Height(self.room.height);
        let speech = Speech::new(layout, &pace, size)?;
        Ok(Some(SpeechPlayer::new(match self.scrolls {
            true => speech.scrolling(size),
            false => speech,
        })))
    }

    /// The words of something in a style.
    fn plain(&self, line: usize, source: &TextSource, style: &Style) -> Result<String, SceneError> {
        let read = self.texts.read(self.sources(), line, source, style)?;
        Ok(without_sprites(read.text()))
    }

    /// The choices of a line that are offered now.
    fn offer(&self, line: &SceneLine) -> Result<Vec<(usize, String)>, SceneError> {
        let holds = |choice: &Choice| self.holds(choice.condition.as_ref());
        let offered = line.choices.iter().enumerate();
        let offered: Vec<_> = offered.filter(|(_, choice)| holds(choice)).collect();
        if offered.is_empty() {
            return Ok(Vec::new());
        }
        let style = self.texts.style(self.sources(), line)?;
        let words = |(index, choice): (usize, &Choice)| {
            Ok((index, self.plain(line.line, &choice.text, &style)?))
        };
        offered.into_iter().map(words).collect()
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
            (Some(speech), Some(before)) if !is_other_text => Some(speech.at(before.state())),
            (Some(mut speech), Some(before)) if before.is_done() => {
                while !speech.is_done() {
                    speech.press(&mut |_| {});
                }
                Some(speech)
            }
            (spoken, _) => spoken,
        };
        self.settings();
        Ok(())
    }

    /// Where it is, to be saved.
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

    /// Why the line at hand waits, if it does.
    pub fn stop(&self) -> Option<Stop> {
        self.speech.as_ref()?.stop()
    }
}

/// A text without the signs that stand for sprites, and the space after them.
fn without_sprites(text: &str) -> String {
    text.replace("\u{fffc} ", "").replace('\u{fffc}', "")
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
