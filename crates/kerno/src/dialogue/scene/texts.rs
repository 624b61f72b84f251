//! The texts of a scene in a language.

use std::borrow::Cow;

use icu_plurals::PluralRules;

use super::description::{Scene, SceneLine, Speaker};
use super::reading::check_cue;
use crate::base::{FileError, hint};
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
    ) -> Result<(Cow<'a, str>, (&'a std::path::Path, usize)), FileError> {
        let key = match source {
            TextSource::Markup(text) => {
                return Ok((Cow::Borrowed(text), (from.scene.path(), line)));
            }
            TextSource::Key(key) => key,
        };
        let fault = |problem: String| from.scene.fault(line, problem);
        let table = from.strings.table(&self.language);
        let table = table.ok_or_else(|| {
            fault(
                "its text is of a string table, and there is none; name their folder by `strings`"
                    .to_owned(),
            )
        })?;
        let text = table.text(key).map_err(fault)?;
        let words = match &text.forms {
            Forms::One(text) => text,
            Forms::Plural(by, forms) | Forms::Select(by, forms) => {
                let value = &from.values[from.scene.value_index(line, by)?];
                let names: Vec<String> = forms.iter().map(|(name, _)| name.clone()).collect();
                let form = chosen(&names, value, self.rules.as_ref()).unwrap_or(0);
                &forms[form].1
            }
        };
        let words = match self.language == PSEUDO {
            true => Cow::Owned(pseudo(words)),
            false => Cow::Borrowed(words.as_str()),
        };
        Ok((words, (table.path(), text.line)))
    }

    /// A text, with the present values in their places.
    pub(super) fn read(
        &self,
        from: Sources<'_>,
        line: usize,
        source: &TextSource,
        style: &Style,
    ) -> Result<StyledText, FileError> {
        let (words, (path, at)) = self.words(from, line, source)?;
        let say = |mark: &crate::text::Mark| match mark.name.as_str() {
            VALUE => {
                let declared = from.scene.values();
                Some(value_text(mark, (declared, from.values), &self.formats))
            }
            "cue" => {
                let name = mark.arguments.first().map_or("", |(_, name)| name.as_str());
                check_cue(from.scene, name).err().map(Err)
            }
            _ => None,
        };
        let read = self.markup.read_with(&words, style, &say);
        read.map_err(|error| FileError::line(path, at, error.to_string()))
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
