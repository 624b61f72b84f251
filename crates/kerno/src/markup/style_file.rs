//! Named styles and sprites from a TOML file (`docs/styles.md`).

use std::collections::BTreeMap;
use std::error::Error;
use std::fmt;
use std::io;
use std::marker::PhantomData;
use std::ops::Range;
use std::path::{Path, PathBuf};

use serde::Deserialize;
use serde::de::value::MapAccessDeserializer;
use serde::de::{Deserializer, MapAccess, Unexpected, Visitor};
use toml::Spanned;

use super::{EffectRecord, Markup, StyleChange};
use crate::base::{Color, Image, Limits, Size, TomlFault, line_of, parse, read_text};
use crate::font::Face;
use crate::text::{InlineSprite, Plate, SpriteAlign};

/// Names of texts with markup, as a file has them.
#[derive(Clone, Debug, Default)]
pub struct StyleFile {
    markup: Markup,
    pictures: Vec<(String, Image)>,
}

/// Why a style file can't be used.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum StyleFileError {
    /// The file could not be read.
    #[error("cannot read the style file “{}”", path.display())]
    Io {
        /// The file.
        path: PathBuf,
        /// What the system said.
        source: io::Error,
    },
    /// Something in it, or in a file that it names.
    #[error("{}, line {line}: {problem}", path.display())]
    Line {
        /// The file.
        path: PathBuf,
        /// The line, counted from 1.
        line: usize,
        /// What is wrong there.
        problem: String,
        /// What a file said that the line names.
        source: Option<Box<dyn Error + Send + Sync>>,
    },
}

crate::base::debug_in_full!(StyleFileError);

impl StyleFileError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::Io { .. } => "style-file-io",
            Self::Line { .. } => "style-file-line",
        }
    }
}

/// The name of the mark that sprites are arguments of.
const ICON: &str = "icon";

/// The whole file.
#[derive(Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
struct Entries {
    #[serde(default)]
    styles: BTreeMap<String, StyleEntry>,
    #[serde(default)]
    sprites: BTreeMap<String, SpriteEntry>,
    /// Names that mean something to the game alone.
    #[serde(default)]
    marks: Vec<String>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
struct StyleEntry {
    face: Option<Spanned<String>>,
    scale: Option<Spanned<f32>>,
    color: Option<Spanned<String>>,
    /// Layers of the letters' look, from the first that is painted.
    effects: Option<Vec<Spanned<EffectRecord>>>,
    plate: Option<OrNone<PlateEntry>>,
    underline: Option<bool>,
    line_through: Option<bool>,
    letter_spacing: Option<f32>,
    baseline_shift: Option<f32>,
}

/// A table, or the word `none`, which takes away what is around.
enum OrNone<T> {
    None,
    Some(T),
}

impl<'de, T: Deserialize<'de>> Deserialize<'de> for OrNone<T> {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
        struct Either<T>(PhantomData<T>);

        impl<'de, T: Deserialize<'de>> Visitor<'de> for Either<T> {
            type Value = OrNone<T>;

            fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                f.write_str("a table, or \"none\"")
            }

            fn visit_str<E: serde::de::Error>(self, word: &str) -> Result<OrNone<T>, E> {
                match word {
                    "none" => Ok(OrNone::None),
                    _ => Err(E::invalid_value(Unexpected::Str(word), &self)),
                }
            }

            fn visit_map<A: MapAccess<'de>>(self, map: A) -> Result<OrNone<T>, A::Error> {
                T::deserialize(MapAccessDeserializer::new(map)).map(OrNone::Some)
            }
        }

        from.deserialize_any(Either(PhantomData))
    }
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
struct PlateEntry {
    color: Spanned<String>,
    #[serde(default)]
    padding: f32,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
struct SpriteEntry {
    picture: Spanned<String>,
    height: Spanned<f32>,
    #[serde(default)]
    align: AlignEntry,
}

#[derive(Clone, Copy, Default, Deserialize)]
#[serde(rename_all = "kebab-case")]
enum AlignEntry {
    Baseline,
    #[default]
    Capitals,
    Middle,
    Top,
    Bottom,
}

/// Says where in the file something is wrong.
struct Reader<'a> {
    path: &'a Path,
    text: &'a str,
}

impl StyleFile {
    /// Reads a file with the faces and pictures that it names; their paths begin at its
    /// folder.
    ///
    /// # Errors
    /// [`StyleFileError`] with the line that is wrong, or that names a file that is.
    pub fn from_file(path: impl AsRef<Path>) -> Result<Self, StyleFileError> {
        let path = path.as_ref();
        let text =
            read_text(path, Limits::default().file_bytes).map_err(|source| StyleFileError::Io {
                path: path.to_owned(),
                source,
            })?;
        let reader = Reader { path, text: &text };
        let entries: Entries = parse(&text).map_err(|fault| reader.fault(fault))?;
        let mut file = Self::default();
        for mark in &entries.marks {
            file.markup = file.markup.mark(mark);
        }
        for (name, entry) in &entries.styles {
            file.markup = file.markup.style(name, reader.style(entry)?);
        }
        for (name, entry) in &entries.sprites {
            let (sprite, picture) = reader.sprite(name, entry)?;
            file.markup = file.markup.sprite(ICON, sprite);
            file.pictures.push((name.clone(), picture));
        }
        Ok(file)
    }

    /// Styles, sprites and marks by their names. Sprites are arguments of `@icon(…)`.
    pub fn markup(&self) -> &Markup {
        &self.markup
    }

    /// The sprites' names and pictures, for the atlas that texts are drawn from.
    pub fn pictures(&self) -> impl Iterator<Item = (&str, &Image)> {
        self.pictures
            .iter()
            .map(|(name, image)| (name.as_str(), image))
    }
}

impl Reader<'_> {
    fn fault(&self, TomlFault { line, problem }: TomlFault) -> StyleFileError {
        StyleFileError::Line {
            path: self.path.to_owned(),
            line,
            problem,
            source: None,
        }
    }

    fn error(&self, at: &Range<usize>, problem: String) -> StyleFileError {
        let line = line_of(self.text, at);
        self.fault(TomlFault { line, problem })
    }

    /// Something wrong in a file that a part of this one names.
    fn error_in<E>(&self, at: &Range<usize>, what: &str) -> impl FnOnce(E) -> StyleFileError
    where
        E: Error + Send + Sync + 'static,
    {
        let (path, line) = (self.path.to_owned(), line_of(self.text, at));
        let problem = format!("cannot use the {what}");
        move |error| StyleFileError::Line {
            path,
            line,
            problem,
            source: Some(Box::new(error)),
        }
    }

    fn color(&self, text: &Spanned<String>) -> Result<Color, StyleFileError> {
        let color = text.get_ref().parse();
        color.map_err(|error| self.error(&text.span(), format!("{error}")))
    }

    fn length(&self, length: &Spanned<f32>, what: &str) -> Result<f32, StyleFileError> {
        let value = *length.get_ref();
        if value > 0.0 && value.is_finite() {
            return Ok(value);
        }
        Err(self.error(&length.span(), format!("the {what} {value} is not above 0")))
    }

    /// The file that a text names, from the folder of this one.
    fn beside(&self, name: &str) -> PathBuf {
        self.path.parent().unwrap_or(Path::new("")).join(name)
    }

    fn style(&self, entry: &StyleEntry) -> Result<StyleChange, StyleFileError> {
        let face = entry.face.as_ref().map(|name| {
            let opened = Face::from_file(self.beside(name.get_ref()));
            opened.map_err(self.error_in(&name.span(), "face"))
        });
        let scale = entry.scale.as_ref();
        let color = entry.color.as_ref().map(|color| self.color(color));
        let effect = |record: &Spanned<EffectRecord>| {
            let wrong = |problem| self.error(&record.span(), problem);
            record.get_ref().effect(|color| self.color(color), wrong)
        };
        let effects = entry.effects.as_ref();
        let effects = effects.map(|records| records.iter().map(effect).collect());
        let plate = entry.plate.as_ref().map(|plate| match plate {
            OrNone::None => Ok(None),
            OrNone::Some(plate) => {
                let color = self.color(&plate.color)?;
                Ok::<_, StyleFileError>(Some(Plate::new(color, plate.padding)))
            }
        });
        Ok(StyleChange {
            face: face.transpose()?,
            scale: scale.map(|scale| self.length(scale, "scale")).transpose()?,
            color: color.transpose()?,
            effects: effects.transpose()?,
            underline: entry.underline,
            line_through: entry.line_through,
            plate: plate.transpose()?,
            letter_spacing: entry.letter_spacing,
            baseline_shift: entry.baseline_shift,
        })
    }

    fn sprite(
        &self,
        name: &str,
        entry: &SpriteEntry,
    ) -> Result<(InlineSprite, Image), StyleFileError> {
        let file = self.beside(entry.picture.get_ref());
        let picture = Image::from_png_file(file);
        let picture = picture.map_err(self.error_in(&entry.picture.span(), "picture"))?;
        let natural = Size::new(picture.width() as f32, picture.height() as f32);
        let height = self.length(&entry.height, "height")?;
        let align = match entry.align {
            AlignEntry::Baseline => SpriteAlign::Baseline,
            AlignEntry::Capitals => SpriteAlign::Capitals,
            AlignEntry::Middle => SpriteAlign::Middle,
            AlignEntry::Top => SpriteAlign::Top,
            AlignEntry::Bottom => SpriteAlign::Bottom,
        };
        let sprite = InlineSprite {
            align,
            ..InlineSprite::new(name, natural, height)
        };
        Ok((sprite, picture))
    }
}
