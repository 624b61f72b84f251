//! Texts of a game in several languages.

use std::collections::BTreeMap;
use std::fs;
use std::path::{Path, PathBuf};

use fixed_decimal::{Decimal, FloatPrecision};
use icu_locale_core::Locale;
use icu_plurals::{PluralCategory, PluralOperands, PluralRules};
use serde::Deserialize;

use super::{StyleFile, Value};
use crate::base::{FileError, FileReader, LineIndex, Spanned, TomlFault, hint, parse};
use crate::text::Style;

/// Texts by their keys, in several languages (`docs/screen.md`): a TOML file a language.
#[derive(Clone, Debug, Default)]
pub struct StringTables {
    languages: Vec<LanguageTable>,
}

/// The texts of a language.
#[derive(Clone, Debug)]
pub(crate) struct LanguageTable {
    tag: String,
    path: PathBuf,
    is_rtl: bool,
    /// Names of faces that its letters come from, before those of the styles.
    faces: Vec<String>,
    texts: BTreeMap<String, LocalText>,
}

/// A text of a language: one, or several by a value.
#[derive(Clone, Debug)]
pub(crate) struct LocalText {
    pub(crate) line: usize,
    pub(crate) forms: Forms,
}

#[derive(Clone, Debug)]
pub(crate) enum Forms {
    One(String),
    /// By the plural category of a number (Unicode CLDR), or by the number itself: `=0`.
    Plural(String, Vec<(String, String)>),
    /// By the text of a value.
    Select(String, Vec<(String, String)>),
}

#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
struct FileRecord {
    /// Language tag; default: the name of the file.
    language: Option<Spanned<String>>,
    /// The direction of reading. Default: that of the language.
    direction: Option<DirectionRecord>,
    /// Faces of the style file for letters that the styles lack.
    #[serde(default)]
    faces: Vec<String>,
    /// The texts, by their keys.
    texts: BTreeMap<String, Spanned<TextRecord>>,
}

#[derive(Clone, Copy, PartialEq, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
enum DirectionRecord {
    LeftToRight,
    RightToLeft,
}

#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(
    untagged,
    expecting = "a text, or a table with `plural` or `select` and its forms"
)]
enum TextRecord {
    One(String),
    Forms(BTreeMap<String, String>),
}

/// Languages that are written from right to left (by the scripts of Unicode CLDR).
const RIGHT_TO_LEFT: [&str; 14] = [
    "ar", "arc", "ckb", "dv", "fa", "he", "iw", "ks", "nqo", "ps", "sd", "syr", "ur", "yi",
];

/// The tag of a pseudo-language, by CLDR: English with accents, and longer.
pub(crate) const PSEUDO: &str = "en-XA";

impl StringTables {
    /// Reads all TOML files of a folder, in the order of their names: the first language is
    /// the one that a screen begins with.
    ///
    /// # Errors
    /// [`FileError`] with the file and line that is wrong.
    pub fn from_folder(folder: impl AsRef<Path>) -> Result<Self, FileError> {
        Self::from_folder_through(folder, &FileReader::default())
    }

    /// As [`StringTables::from_folder`], where `files` says what may be read.
    ///
    /// # Errors
    /// As there.
    pub fn from_folder_through(
        folder: impl AsRef<Path>,
        files: &FileReader,
    ) -> Result<Self, FileError> {
        let folder = folder.as_ref();
        let unreadable = |source| FileError::Io {
            path: folder.to_owned(),
            source,
        };
        files.check(folder).map_err(unreadable)?;
        let mut paths = Vec::new();
        for entry in fs::read_dir(folder).map_err(unreadable)? {
            let path = entry.map_err(unreadable)?.path();
            if path.extension().is_some_and(|ending| ending == "toml") {
                paths.push(path);
            }
        }
        paths.sort();
        let mut tables = Self::default();
        for path in paths {
            let text = files.read_text(&path).map_err(|source| {
                let path = path.clone();
                FileError::Io { path, source }
            })?;
            tables.languages.push(read(path, &text)?);
        }
        Ok(tables)
    }

    /// Adds the text of a file, whose language is `tag` where it says no other.
    ///
    /// # Errors
    /// [`FileError::Line`] with the line that is wrong.
    pub fn add(&mut self, tag: &str, text: &str) -> Result<(), FileError> {
        self.languages
            .push(read(PathBuf::from(format!("{tag}.toml")), text)?);
        Ok(())
    }

    /// Language tags in the order of their files.
    pub fn languages(&self) -> impl Iterator<Item = &str> {
        self.languages.iter().map(|table| table.tag.as_str())
    }

    /// All keys of the first language.
    pub fn keys(&self) -> impl Iterator<Item = &str> {
        let first = self.languages.first().into_iter();
        first.flat_map(|table| table.texts.keys().map(String::as_str))
    }

    /// All texts of all languages, in all their forms.
    pub fn texts(&self) -> impl Iterator<Item = &str> {
        let texts = self.languages.iter().flat_map(|table| table.texts.values());
        texts.flat_map(|text| match &text.forms {
            Forms::One(text) => vec![text.as_str()],
            Forms::Plural(_, forms) | Forms::Select(_, forms) => {
                forms.iter().map(|(_, text)| text.as_str()).collect()
            }
        })
    }

    /// The table of a language; the pseudo-language has that of English, or the first one.
    pub(crate) fn table(&self, language: &str) -> Option<&LanguageTable> {
        let of = |tag: &str| self.languages.iter().find(|table| table.tag == tag);
        match language == PSEUDO {
            true => of("en").or(self.languages.first()),
            false => of(language),
        }
    }

    /// The language that screens begin with.
    pub(crate) fn first(&self) -> &str {
        self.languages.first().map_or("en", |table| &table.tag)
    }
}

impl LanguageTable {
    pub(crate) fn is_rtl(&self) -> bool {
        self.is_rtl
    }

    /// Puts the faces of the language before those that a style falls back to.
    ///
    /// # Errors
    /// The problem, in a sentence: a face that the style file has not.
    pub(crate) fn add_faces(&self, style: &mut Style, styles: &StyleFile) -> Result<(), String> {
        let mut faces = Vec::with_capacity(self.faces.len() + style.fallback.len());
        for name in &self.faces {
            let face = styles.face(name).ok_or_else(|| {
                let file = self.path.display();
                format!("{file} names a face “{name}” that the style file has not")
            })?;
            faces.push(face.clone());
        }
        faces.append(&mut style.fallback);
        style.fallback = faces;
        Ok(())
    }

    pub(crate) fn path(&self) -> &Path {
        &self.path
    }

    /// A text by its key.
    ///
    /// # Errors
    /// The problem, in a sentence.
    pub(crate) fn text(&self, key: &str) -> Result<&LocalText, String> {
        self.texts.get(key).ok_or_else(|| {
            let near = hint(key, self.texts.keys().map(String::as_str));
            let file = self.path.display();
            format!("there is no text “{key}” in {file}{near}")
        })
    }
}

fn read(path: PathBuf, text: &str) -> Result<LanguageTable, FileError> {
    let fault = |TomlFault { line, problem }: TomlFault| FileError::Line {
        path: path.clone(),
        line,
        problem,
        source: None,
    };
    let record: FileRecord = parse(text).map_err(fault)?;
    let stem = path.file_stem().unwrap_or_default().to_string_lossy();
    let lines = LineIndex::of(text);
    let (tag, line) = match &record.language {
        Some(tag) => (tag.get_ref().clone(), lines.line_of(&tag.span())),
        None => (stem.into_owned(), 1),
    };
    let locale = Locale::try_from_str(&tag).map_err(|_| {
        let problem = format!("“{tag}” is no language tag; write one as in BCP 47: en, pt-BR");
        fault(TomlFault { line, problem })
    })?;
    let rules = rules(&locale);
    let mut texts = BTreeMap::new();
    for (key, record) in record.texts {
        let line = lines.line_of(&record.span());
        let forms = forms(record.into_inner(), rules.as_ref()).map_err(|problem| {
            let problem = format!("“{key}”: {problem}");
            fault(TomlFault { line, problem })
        })?;
        texts.insert(key, LocalText { line, forms });
    }
    let base = tag.split('-').next().unwrap_or_default();
    let is_rtl = match record.direction {
        Some(direction) => direction == DirectionRecord::RightToLeft,
        None => RIGHT_TO_LEFT.contains(&base),
    };
    Ok(LanguageTable {
        tag,
        is_rtl,
        faces: record.faces,
        texts,
        path,
    })
}

fn rules(locale: &Locale) -> Option<PluralRules> {
    PluralRules::try_new_cardinal(locale.into()).ok()
}

/// The rules for plurals of a language tag.
pub(crate) fn plural_rules(tag: &str) -> Option<PluralRules> {
    rules(&Locale::try_from_str(tag).ok()?)
}

fn forms(record: TextRecord, rules: Option<&PluralRules>) -> Result<Forms, String> {
    let mut table = match record {
        TextRecord::One(text) => return Ok(Forms::One(text)),
        TextRecord::Forms(table) => table,
    };
    let (plural, select) = (table.remove("plural"), table.remove("select"));
    let forms: Vec<(String, String)> = table.into_iter().collect();
    let has = |form: &str| forms.iter().any(|(known, _)| known == form);
    if !has("other") {
        return Err("its forms must have one named `other`".to_owned());
    }
    match (plural, select) {
        (Some(value), None) => {
            let wanted = rules.into_iter().flat_map(PluralRules::categories);
            if let Some(missing) = wanted.map(word).find(|word| !has(word)) {
                return Err(format!(
                    "the language has the plural form `{missing}`, and the text does not"
                ));
            }
            let odd = forms.iter().find(|(form, _)| {
                let number = form.strip_prefix('=').map(str::parse::<f64>);
                !WORDS.contains(&form.as_str()) && !matches!(number, Some(Ok(_)))
            });
            match odd {
                Some((odd, _)) => Err(format!(
                    "`{odd}` is no plural form; there are {}, and numbers such as `=0`",
                    WORDS.join(", ")
                )),
                None => Ok(Forms::Plural(value, forms)),
            }
        }
        (None, Some(value)) => Ok(Forms::Select(value, forms)),
        _ => Err("forms go by a value: name it by `plural` or by `select`".to_owned()),
    }
}

/// The plural categories of CLDR.
const WORDS: [&str; 6] = ["zero", "one", "two", "few", "many", "other"];

fn word(category: PluralCategory) -> &'static str {
    match category {
        PluralCategory::Zero => "zero",
        PluralCategory::One => "one",
        PluralCategory::Two => "two",
        PluralCategory::Few => "few",
        PluralCategory::Many => "many",
        PluralCategory::Other => "other",
    }
}

/// The form that goes with a value, of those that there are by their names.
pub(crate) fn chosen(
    names: &[String],
    value: &Value,
    rules: Option<&PluralRules>,
) -> Option<usize> {
    let find = |name: &str| names.iter().position(|known| known == name);
    let by_value = match (value, rules) {
        (Value::Number(number), Some(rules)) => {
            let same = |name: &String| {
                let exact = name
                    .strip_prefix('=')
                    .and_then(|exact| exact.parse::<f64>().ok());
                exact == Some(*number)
            };
            let exact = names.iter().position(same);
            exact.or_else(|| find(word(rules.category_for(operands(*number)))))
        }
        (Value::Text(text), _) => find(text),
        (Value::Flag(flag), _) => find(if *flag { "true" } else { "false" }),
        (Value::Number(number), None) => find(&number.to_string()),
        (Value::Point(_), _) => None,
    };
    by_value.or_else(|| find("other"))
}

/// A number as the rules take it: by its digits.
fn operands(number: f64) -> PluralOperands {
    let written = Decimal::try_from_f64(number.abs(), FloatPrecision::RoundTrip);
    written.map_or_else(|_| 0_u32.into(), |number| PluralOperands::from(&number))
}

/// A text of the pseudo-language: letters with accents, and a third longer; what is markup
/// stays as it is.
pub(crate) fn pseudo(text: &str) -> String {
    let mut out = String::new();
    let mut letters = 0;
    let mut rest = text;
    while let Some(character) = rest.chars().next() {
        if character == '@' {
            // The name and its arguments.
            let is_name = |c: char| c.is_alphanumeric() || matches!(c, '-' | '_');
            let end = rest[1..]
                .find(|c| !is_name(c))
                .map_or(rest.len(), |end| end + 1);
            let end = match rest[end..].starts_with('(') {
                true => rest[end..]
                    .find(')')
                    .map_or(rest.len(), |close| end + close + 1),
                false => end,
            };
            let end = end.max(if rest[1..].starts_with(['@', '}']) {
                2
            } else {
                1
            });
            out.push_str(&rest[..end]);
            rest = &rest[end..];
            continue;
        }
        out.push(accented(character));
        letters += usize::from(character.is_alphabetic());
        rest = &rest[character.len_utf8()..];
    }
    let words = [
        "one", "two", "three", "four", "five", "six", "seven", "eight",
    ];
    let mut added = 0;
    for word in words.iter().cycle() {
        if added * 3 >= letters {
            break;
        }
        out.push(' ');
        out.extend(word.chars().map(accented));
        added += word.len();
    }
    out
}

fn accented(letter: char) -> char {
    const PLAIN: &str = "aceinouyACEINOUY";
    const MARKED: &str = "åçéîñöûýÅÇÉÎÑÖÛÝ";
    let at = PLAIN.chars().position(|plain| plain == letter);
    at.and_then(|at| MARKED.chars().nth(at)).unwrap_or(letter)
}

/// The language that numbers are written in: the pseudo-language is English.
pub(crate) fn number_language(language: &str) -> &str {
    if language == PSEUDO { "en" } else { language }
}

/// The schema of string tables.
#[cfg(feature = "schemas")]
pub(crate) fn string_table_schema() -> schemars::Schema {
    schemars::schema_for!(FileRecord)
}
