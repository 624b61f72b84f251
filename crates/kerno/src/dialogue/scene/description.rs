//! A scene as it is described.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

use crate::base::{Color, FileError, hint};
use crate::markup::{TextSource, Value, ValueDeclaration};

/// Lines of dialogue with speakers, choices and jumps, as a file has them (`docs/scene.md`).
///
/// ```
/// use kerno::dialogue::Scene;
/// let scene = Scene::from_toml(r#"
///     [speakers.bram]
///     name = "Bram Tansy"
///     [[lines]]
///     speaker = "bram"
///     text = "Is that the bell?@pause(0.5) It is."
/// "#)?;
/// assert_eq!(scene.lines().len(), 1);
/// # Ok::<(), kerno::dialogue::SceneError>(())
/// ```
#[derive(Clone, Debug, PartialEq)]
pub struct Scene {
    pub(super) path: PathBuf,
    pub(super) styles: Option<String>,
    pub(super) strings: Option<String>,
    pub(super) language: Option<String>,
    /// The screen that it is played on.
    pub(super) screen: Option<String>,
    /// The style of lines that name none.
    pub(super) style: Option<String>,
    pub(super) values: Vec<ValueDeclaration>,
    pub(super) cues: Vec<String>,
    pub(super) speakers: BTreeMap<String, Speaker>,
    pub(super) lines: Vec<SceneLine>,
    /// Numbers of lines by their labels.
    pub(super) labels: BTreeMap<String, usize>,
}

/// Somebody who speaks.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Speaker {
    /// The name that is shown.
    pub name: TextSource,
    /// Name of the sprite that shows them.
    pub portrait: Option<String>,
    /// The style of their lines.
    pub style: Option<String>,
    /// The colour of their lines.
    pub color: Option<Color>,
    /// Factor of the pace; default 1.
    pub pace: f32,
    /// Name of the sound that goes with their letters, for the game.
    pub sound: Option<String>,
    /// Line of the file, counted from 1.
    pub line: usize,
}

/// A line of a scene: what somebody says, choices, a jump.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct SceneLine {
    /// Name to jump to.
    pub label: Option<String>,
    /// Who speaks; nobody for a narrator.
    pub speaker: Option<String>,
    /// Its words; nothing for a line that only jumps or tells the game.
    pub text: Option<TextSource>,
    /// Name of the sprite that shows the speaker in this line.
    pub portrait: Option<String>,
    /// The style of the text.
    pub style: Option<String>,
    /// Condition of the line; it is left out where that does not hold.
    pub condition: Option<Condition>,
    /// A cue for the game at its beginning.
    pub cue: Option<String>,
    /// Answers that the player chooses from when it is said.
    pub choices: Vec<Choice>,
    /// Label of the line that comes after it; default: the one below.
    pub jump: Option<String>,
    /// True if the scene ends with it.
    pub ends: bool,
    /// Line of the file, counted from 1.
    pub line: usize,
}

/// An answer.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Choice {
    /// Its words.
    pub text: TextSource,
    /// Label of the line that comes after it; default: the one below.
    pub jump: Option<String>,
    /// Condition on which it is offered.
    pub condition: Option<Condition>,
}

/// A condition on a value of the game.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Condition {
    /// The value's name.
    pub value: String,
    /// Its test.
    pub test: Test,
}

/// Test of a value.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum Test {
    /// It is true, not 0, not empty.
    IsTrue,
    /// It is not.
    IsNot,
    /// It is this number or more.
    AtLeast(f64),
    /// It is less than this number.
    Below(f64),
    /// It is this text.
    Is(String),
}

impl Condition {
    /// Returns whether it holds for a value.
    pub fn holds(&self, value: &Value) -> bool {
        match (&self.test, value) {
            (Test::IsTrue, value) => value.is_true(),
            (Test::IsNot, value) => !value.is_true(),
            (Test::AtLeast(least), value) => value.number() >= *least,
            (Test::Below(bound), value) => value.number() < *bound,
            (Test::Is(text), Value::Text(own)) => own == text,
            (Test::Is(_), _) => false,
        }
    }
}

impl SceneLine {
    /// Returns whether it shows nothing, so that the scene goes on at once.
    pub fn is_silent(&self) -> bool {
        self.text.is_none() && self.choices.is_empty()
    }
}

impl Scene {
    /// The most lines of a scene.
    pub const MOST_LINES: usize = 200_000;

    /// Its lines.
    pub fn lines(&self) -> &[SceneLine] {
        &self.lines
    }

    /// A speaker by the name that the lines give them.
    pub fn speaker(&self, name: &str) -> Option<&Speaker> {
        self.speakers.get(name)
    }

    /// All speakers by their names.
    pub fn speakers(&self) -> impl Iterator<Item = (&str, &Speaker)> {
        let speakers = self.speakers.iter();
        speakers.map(|(name, speaker)| (name.as_str(), speaker))
    }

    /// The values that the game hands in.
    pub fn values(&self) -> &[ValueDeclaration] {
        &self.values
    }

    /// Names of the cues that its texts may give.
    pub fn cues(&self) -> impl Iterator<Item = &str> {
        self.cues.iter().map(String::as_str)
    }

    /// The file that it is from; empty where it is from none.
    pub fn path(&self) -> &Path {
        &self.path
    }

    /// The style of its lines, where it names one.
    pub fn style(&self) -> Option<&str> {
        self.style.as_deref()
    }

    /// The style file that it names, from its folder.
    pub fn style_file(&self) -> Option<PathBuf> {
        self.beside(self.styles.as_deref()?)
    }

    /// The folder of string tables that it names.
    pub fn string_folder(&self) -> Option<PathBuf> {
        self.beside(self.strings.as_deref()?)
    }

    /// The screen file that it names, to be played on.
    pub fn screen_file(&self) -> Option<PathBuf> {
        self.beside(self.screen.as_deref()?)
    }

    fn beside(&self, name: &str) -> Option<PathBuf> {
        Some(self.path.parent().unwrap_or(Path::new("")).join(name))
    }

    /// The texts that are written in it, of lines, choices and speakers, with their markup.
    pub fn texts(&self) -> impl Iterator<Item = &str> {
        self.sources().filter_map(|source| match source {
            TextSource::Markup(text) => Some(text.as_str()),
            TextSource::Key(_) => None,
        })
    }

    /// All texts, of lines, choices and speakers.
    pub fn sources(&self) -> impl Iterator<Item = &TextSource> {
        let speakers = self.speakers.values().map(|speaker| &speaker.name);
        let lines = self.lines.iter().flat_map(|line| {
            let choices = line.choices.iter().map(|choice| &choice.text);
            line.text.iter().chain(choices)
        });
        speakers.chain(lines)
    }

    /// Something wrong in a line of the file.
    pub(super) fn fault(&self, line: usize, problem: impl Into<String>) -> FileError {
        FileError::line(&self.path, line, problem)
    }

    /// The number of a value that a line of the file names.
    pub(super) fn value_index(&self, line: usize, name: &str) -> Result<usize, FileError> {
        let found = self.values.iter().position(|value| value.name == name);
        found.ok_or_else(|| {
            let near = hint(name, self.values.iter().map(|value| value.name.as_str()));
            self.fault(line, format!("there is no value “{name}”{near}"))
        })
    }

    /// The number of the line with a label.
    pub(super) fn target(&self, line: usize, label: &str) -> Result<usize, FileError> {
        self.labels.get(label).copied().ok_or_else(|| {
            let near = hint(label, self.labels.keys().map(String::as_str));
            self.fault(
                line,
                format!("there is no label “{label}” to jump to{near}"),
            )
        })
    }
}
