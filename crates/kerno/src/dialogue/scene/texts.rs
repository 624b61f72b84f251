//! The texts of a scene in a language.

use std::borrow::Cow;
use std::path::Path;

use icu_plurals::PluralRules;

use super::description::{Scene, SceneLine, Speaker};
use super::reading::check_cue;
use crate::base::{FileError, hint};
use crate::dialogue::timetable::check_mark;
use crate::dialogue::with_spoken_names;
use crate::markup::{
    Formats, Forms, LanguageTable, Markup, PSEUDO, StringTables, StyleFile, StyledText, TextSource,
    VALUE, Value, chosen, number_language, plural_rules, pseudo, value_text,
};
use crate::text::{Direction, LayoutOptions, Style};

/// The kind of element that texts are, in the `[defaults]` of style files.
const TEXT: &str = "text";

/// Makes the texts of a scene in a language.
#[derive(Debug)]
pub(super) struct Texts {
    markup: Markup,
    language: String,
    formats: Formats,
    rules: Option<PluralRules>,
}

/// All that texts are made of.
#[derive(Clone, Copy)]
pub(super) struct Sources<'a> {
    pub(super) scene: &'a Scene,
    pub(super) styles: &'a StyleFile,
    pub(super) strings: &'a StringTables,
    pub(super) values: &'a [Value],
}

/// The words of a text, with the file and the line that they are of.
struct Words<'a> {
    text: Cow<'a, str>,
    path: &'a Path,
    line: usize,
}

/// The forms of a text.
struct FormsOf<'a> {
    /// The value that chooses one, by its number.
    by: Option<usize>,
    names: Vec<String>,
    words: Vec<Words<'a>>,
}

impl<'a> FormsOf<'a> {
    fn one(words: Words<'a>) -> Self {
        Self {
            by: None,
            names: Vec::new(),
            words: vec![words],
        }
    }
}

impl Texts {
    pub(super) fn new(styles: &StyleFile, language: &str) -> Self {
        let tag = number_language(language);
        Self {
            markup: with_spoken_names(styles.markup().clone()).mark(VALUE),
            language: language.to_owned(),
            formats: Formats::new(tag),
            rules: plural_rules(tag),
        }
    }

    pub(super) fn language(&self) -> &str {
        &self.language
    }

    /// The options that a language asks for.
    pub(super) fn options(&self, strings: &StringTables) -> LayoutOptions {
        let is_rtl = strings
            .table(&self.language)
            .is_some_and(LanguageTable::is_rtl);
        let mut options = LayoutOptions::default();
        if is_rtl {
            options.direction = Direction::RightToLeft;
        }
        options
    }

    /// The words of a text, with the file and line that they are of.
    fn words<'a>(
        &self,
        from: Sources<'a>,
        line: usize,
        source: &'a TextSource,
    ) -> Result<Words<'a>, FileError> {
        let mut forms = self.forms(from, line, source)?;
        let form = match &forms.by {
            Some(by) => {
                let value = &from.values[*by];
                chosen(&forms.names, value, self.rules.as_ref()).unwrap_or(0)
            }
            None => 0,
        };
        Ok(forms.words.swap_remove(form))
    }

    /// The forms of a text, of which a value chooses one where there are several.
    fn forms<'a>(
        &self,
        from: Sources<'a>,
        line: usize,
        source: &'a TextSource,
    ) -> Result<FormsOf<'a>, FileError> {
        let fault = |problem: String| from.scene.fault(line, problem);
        let key = match source {
            TextSource::Markup(text) => {
                let words = Words {
                    text: Cow::Borrowed(text),
                    path: from.scene.path(),
                    line,
                };
                return Ok(FormsOf::one(words));
            }
            TextSource::Key(key) => key,
        };
        let table = from.strings.table(&self.language);
        let table = table.ok_or_else(|| {
            fault(
                "its text is of a string table, and there is none; name their folder by `strings`"
                    .to_owned(),
            )
        })?;
        let local = table.text(key).map_err(fault)?;
        let words = |text: &'a String| Words {
            text: match self.language == PSEUDO {
                true => Cow::Owned(pseudo(text)),
                false => Cow::Borrowed(text.as_str()),
            },
            path: table.path(),
            line: local.line,
        };
        Ok(match &local.forms {
            Forms::One(text) => FormsOf::one(words(text)),
            Forms::Plural(by, forms) | Forms::Select(by, forms) => FormsOf {
                by: Some(from.scene.value_index(line, by)?),
                names: forms.iter().map(|(name, _)| name.clone()).collect(),
                words: forms.iter().map(|(_, text)| words(text)).collect(),
            },
        })
    }

    /// A text, with the present values in their places.
    pub(super) fn read(
        &self,
        from: Sources<'_>,
        line: usize,
        source: &TextSource,
        style: &Style,
    ) -> Result<StyledText, FileError> {
        let words = self.words(from, line, source)?;
        self.read_words(from, &words, style)
    }

    /// Every form of a text that can be read, and what is wrong in the others.
    pub(super) fn read_forms(
        &self,
        from: Sources<'_>,
        line: usize,
        source: &TextSource,
        style: &Style,
    ) -> Vec<Result<StyledText, FileError>> {
        match self.forms(from, line, source) {
            Err(error) => vec![Err(error)],
            Ok(forms) => {
                let words = forms.words.iter();
                words
                    .map(|words| self.read_words(from, words, style))
                    .collect()
            }
        }
    }

    /// Returns whether the language has a text; one that is written in the scene is of all.
    pub(super) fn has(&self, from: Sources<'_>, source: &TextSource) -> bool {
        let TextSource::Key(key) = source else {
            return true;
        };
        let table = from.strings.table(&self.language);
        table.is_some_and(|table| table.text(key).is_ok())
    }

    fn read_words(
        &self,
        from: Sources<'_>,
        words: &Words<'_>,
        style: &Style,
    ) -> Result<StyledText, FileError> {
        let say = |mark: &crate::text::Mark| match mark.name.as_str() {
            VALUE => {
                let declared = from.scene.values();
                Some(value_text(mark, (declared, from.values), &self.formats))
            }
            "cue" => {
                let name = mark.arguments.first().map_or("", |(_, name)| name.as_str());
                let known = check_cue(from.scene, name);
                known.and_then(|()| check_mark(mark)).err().map(Err)
            }
            _ => check_mark(mark).err().map(Err),
        };
        let read = self.markup.read_with(&words.text, style, &say);
        read.map_err(|error| FileError::line(words.path, words.line, error.to_string()))
    }

    /// The style of a line.
    pub(super) fn style(&self, from: Sources<'_>, line: &SceneLine) -> Result<Style, FileError> {
        let Sources {
            scene,
            styles,
            strings,
            ..
        } = from;
        let fault = |problem: String| Err(scene.fault(line.line, problem));
        let speaker = speaker(scene, line);
        let name = line
            .style
            .as_deref()
            .or_else(|| speaker.and_then(|speaker| speaker.style.as_deref()))
            .or(scene.style.as_deref())
            .or_else(|| styles.default_style(TEXT));
        let Some(name) = name else {
            return fault(
                "no style is named: give the scene a `style`, or the style file one for texts under [defaults]"
                    .to_owned(),
            );
        };
        let Some(change) = styles.style(name) else {
            let near = hint(name, styles.style_names());
            return fault(format!("there is no style “{name}”{near}"));
        };
        let Some(mut style) = change.style() else {
            return fault(format!(
                "the style “{name}” has no face; give it one, or a `base` that has"
            ));
        };
        if let Some(color) = speaker.and_then(|speaker| speaker.color) {
            style.color = color;
        }
        if let Some(table) = strings.table(&self.language) {
            let added = table.add_faces(&mut style, styles);
            added.map_err(|problem| scene.fault(line.line, problem))?;
        }
        Ok(style)
    }
}

/// Who speaks in a line.
pub(super) fn speaker<'a>(scene: &'a Scene, line: &SceneLine) -> Option<&'a Speaker> {
    scene.speaker(line.speaker.as_deref()?)
}
