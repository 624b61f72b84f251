//! A scene file read into a scene.

use std::collections::BTreeMap;
use std::ops::Range;
use std::path::Path;

use super::SceneError;
use super::description::{Choice, Condition, Scene, SceneLine, Speaker, Test};
use super::graph;
use super::records::{
    ChoiceRecord, ConditionRecord, Datum, LineRecord, SceneRecord, SpeakerRecord, ValueRecord,
};
use crate::base::{FileError, FileReader, LineIndex, Spanned, TomlFault, hint, parse};
use crate::markup::{TextSource, Value, ValueDeclaration};

impl Scene {
    /// Reads a scene file (`docs/scene.md`), but none of the files that it names. Speakers,
    /// jumps, values and cues that its lines name are looked up, and each line has to be
    /// reached by some way.
    ///
    /// # Errors
    /// [`SceneError::File`] with the line that is wrong.
    pub fn from_file(path: impl AsRef<Path>) -> Result<Self, SceneError> {
        Self::from_file_through(path, &FileReader::default())
    }

    /// As [`Scene::from_file`], where `files` says what may be read.
    ///
    /// # Errors
    /// As there.
    pub fn from_file_through(
        path: impl AsRef<Path>,
        files: &FileReader,
    ) -> Result<Self, SceneError> {
        let path = path.as_ref();
        let text = files.read_text(path).map_err(|source| {
            let path = path.to_owned();
            FileError::Io { path, source }
        })?;
        Self::read(path, &text)
    }

    /// Reads the text of a scene file.
    ///
    /// # Errors
    /// As [`Scene::from_file`].
    pub fn from_toml(text: &str) -> Result<Self, SceneError> {
        Self::read(Path::new("scene"), text)
    }

    fn read(path: &Path, text: &str) -> Result<Self, SceneError> {
        let reader = Reader {
            path,
            lines: LineIndex::of(text),
        };
        let record: SceneRecord = parse(text)
            .map_err(|TomlFault { line, problem }| FileError::line(path, line, problem))?;
        let mut scene = Self {
            path: path.to_owned(),
            styles: record.styles,
            strings: record.strings,
            language: record.language,
            screen: record.screen,
            style: record.style,
            values: Vec::new(),
            cues: record.cues,
            speakers: BTreeMap::new(),
            lines: Vec::with_capacity(record.lines.len()),
            labels: BTreeMap::new(),
        };
        for (name, record) in record.values {
            scene.values.push(reader.value(name, record)?);
        }
        for (name, record) in record.speakers {
            let speaker = reader.speaker(&name, record)?;
            scene.speakers.insert(name, speaker);
        }
        if record.lines.len() > Self::MOST_LINES {
            let most = Self::MOST_LINES;
            return Err(reader
                .fault(1, format!("a scene has at most {most} lines"))
                .into());
        }
        for record in record.lines {
            let line = reader.line(record)?;
            if let Some(label) = &line.label
                && scene
                    .labels
                    .insert(label.clone(), scene.lines.len())
                    .is_some()
            {
                let problem = format!("there is a line “{label}” already");
                return Err(reader.fault(line.line, problem).into());
            }
            scene.lines.push(line);
        }
        check_names(&scene)?;
        graph::check(&scene)?;
        Ok(scene)
    }
}

/// Says where in the file something is wrong.
struct Reader<'a> {
    path: &'a Path,
    lines: LineIndex,
}

impl Reader<'_> {
    fn fault(&self, line: usize, problem: impl Into<String>) -> FileError {
        FileError::line(self.path, line, problem)
    }

    fn line_of(&self, at: &Range<usize>) -> usize {
        self.lines.line_of(at)
    }

    fn value(
        &self,
        name: String,
        record: Spanned<ValueRecord>,
    ) -> Result<ValueDeclaration, FileError> {
        let line = self.line_of(&record.span());
        let record = record.into_inner();
        let start = match record.start {
            Datum::Flag(flag) => Value::Flag(flag),
            Datum::Number(number) => Value::Number(number),
            Datum::Text(text) => Value::Text(text),
        };
        if let Some([least, most]) = record.range
            && !matches!(start, Value::Number(start) if least <= start && start <= most)
        {
            let problem = format!("the value “{name}” does not start within its range");
            return Err(self.fault(line, problem));
        }
        let mut value = ValueDeclaration::new(&name, start);
        value.range = record.range;
        Ok(value)
    }

    fn speaker(&self, name: &str, record: Spanned<SpeakerRecord>) -> Result<Speaker, FileError> {
        let line = self.line_of(&record.span());
        let record = record.into_inner();
        let shown = source(record.name, record.string);
        let shown = shown.map_err(|problem| self.fault(line, format!("“{name}”: {problem}")))?;
        let color = record.color.map(|color| color.parse());
        let color = color.transpose();
        let pace = record.pace.unwrap_or(1.0);
        if !(0.01..=100.0).contains(&pace) {
            let problem = format!("“{name}”: the pace {pace} is not 0.01 to 100");
            return Err(self.fault(line, problem));
        }
        Ok(Speaker {
            name: shown.unwrap_or_else(|| TextSource::Markup(name.to_owned())),
            portrait: record.portrait,
            style: record.style,
            color: color.map_err(|error| self.fault(line, format!("“{name}”: {error}")))?,
            pace,
            sound: record.sound,
            line,
        })
    }

    fn line(&self, record: Spanned<LineRecord>) -> Result<SceneLine, FileError> {
        let line = self.line_of(&record.span());
        let record = record.into_inner();
        let fault = |problem: String| self.fault(line, problem);
        let text = source(record.text, record.string).map_err(fault)?;
        let mut choices = Vec::new();
        for choice in record.choices {
            choices.push(self.choice(choice).map_err(fault)?);
        }
        let condition = condition(record.when, record.unless).map_err(fault)?;
        let says = text.is_some() || !choices.is_empty() || record.cue.is_some();
        if !says && record.jump.is_none() && !record.ends {
            return Err(fault(
                "the line says nothing: give it a `text`, a `string`, `choices`, a `cue`, a `jump` or `ends`"
                    .to_owned(),
            ));
        }
        if record.jump.is_some() && record.ends {
            return Err(fault(
                "a line that `ends` the scene has no `jump`".to_owned(),
            ));
        }
        Ok(SceneLine {
            label: record.label,
            speaker: record.speaker,
            text,
            portrait: record.portrait,
            style: record.style,
            condition,
            cue: record.cue,
            choices,
            jump: record.jump,
            ends: record.ends,
            line,
        })
    }

    #[expect(clippy::unused_self, reason = "read as the others are")]
    fn choice(&self, record: ChoiceRecord) -> Result<Choice, String> {
        let text = source(record.text, record.string)?;
        Ok(Choice {
            text: text.ok_or("a choice has a `text` or a `string`")?,
            jump: record.jump,
            condition: condition(record.when, record.unless)?,
        })
    }
}

/// The words of something: written there, or in the string tables.
fn source(text: Option<String>, key: Option<String>) -> Result<Option<TextSource>, String> {
    match (text, key) {
        (Some(text), None) if text.is_empty() => {
            Err("its text is empty; leave the key out".to_owned())
        }
        (Some(text), None) => Ok(Some(TextSource::Markup(text))),
        (None, Some(key)) => Ok(Some(TextSource::Key(key))),
        (None, None) => Ok(None),
        (Some(_), Some(_)) => Err("it has words of its own or a `string`, not both".to_owned()),
    }
}

fn condition(
    when: Option<ConditionRecord>,
    unless: Option<String>,
) -> Result<Option<Condition>, String> {
    let (value, test) = match (when, unless) {
        (None, None) => return Ok(None),
        (Some(_), Some(_)) => return Err("one of `when` and `unless` is its condition".to_owned()),
        (None, Some(value)) => (value, Test::IsNot),
        (Some(ConditionRecord::IsTrue(value)), None) => (value, Test::IsTrue),
        (Some(ConditionRecord::Test(test)), None) => {
            let kind = match (test.at_least, test.below, test.is) {
                (Some(least), None, None) => Test::AtLeast(least),
                (None, Some(bound), None) => Test::Below(bound),
                (None, None, Some(text)) => Test::Is(text),
                _ => {
                    let problem = "a condition has one of `at-least`, `below` and `is`";
                    return Err(problem.to_owned());
                }
            };
            (test.value, kind)
        }
    };
    Ok(Some(Condition { value, test }))
}

/// Looks up the speakers, labels, values and cues that lines name.
fn check_names(scene: &Scene) -> Result<(), FileError> {
    for line in &scene.lines {
        let at = line.line;
        if let Some(speaker) = &line.speaker
            && !scene.speakers.contains_key(speaker)
        {
            let near = hint(speaker, scene.speakers.keys().map(String::as_str));
            return Err(scene.fault(at, format!("there is no speaker “{speaker}”{near}")));
        }
        if let Some(cue) = &line.cue {
            check_cue(scene, cue).map_err(|problem| scene.fault(at, problem))?;
        }
        let jumps = line
            .choices
            .iter()
            .filter_map(|choice| choice.jump.as_ref());
        for label in jumps.chain(&line.jump) {
            scene.target(at, label)?;
        }
        let conditions = line
            .choices
            .iter()
            .filter_map(|choice| choice.condition.as_ref());
        for condition in conditions.chain(&line.condition) {
            scene.value_index(at, &condition.value)?;
        }
    }
    Ok(())
}

/// Refuses a cue that the scene does not list.
pub(super) fn check_cue(scene: &Scene, name: &str) -> Result<(), String> {
    if scene.cues.iter().any(|known| known == name) {
        return Ok(());
    }
    let near = hint(name, scene.cues.iter().map(String::as_str));
    Err(format!(
        "there is no cue “{name}” in the list of `cues`{near}"
    ))
}
