//! Named styles and sprites from a TOML file (`docs/styles.md`).

#[cfg(feature = "installed-fonts")]
use std::cell::OnceCell;
use std::collections::{BTreeMap, BTreeSet};
use std::error::Error;
use std::fmt;
use std::marker::PhantomData;
use std::ops::Range;
use std::path::{Path, PathBuf};

use serde::Deserialize;
use serde::de::value::MapAccessDeserializer;
use serde::de::{Deserializer, MapAccess, Unexpected, Visitor};

use super::{EffectRecord, Markup, StyleChange};
use crate::base::{
    Color, Edges, FileError, FileReader, Image, Size, Spanned, TomlFault, line_of, nearest, parse,
};
use crate::font::Face;
#[cfg(feature = "installed-fonts")]
use crate::installed::{FaceQuery, InstalledFonts, Slant};
use crate::text::{InlineSprite, LineHeight, Plate, SpriteAlign};

/// Names of texts with markup, as a file has them.
#[derive(Clone, Debug, Default)]
pub struct StyleFile {
    /// Styles by their names, with what they inherit.
    styles: BTreeMap<String, StyleChange>,
    /// Styles that others inherit.
    bases: BTreeSet<String>,
    /// Faces by the names that the file gives them.
    faces: BTreeMap<String, Face>,
    /// The style that each kind of element has by default.
    defaults: BTreeMap<String, String>,
    markup: Markup,
    pictures: Vec<(String, Image)>,
}

/// The name of the mark that sprites are arguments of.
const ICON: &str = "icon";

/// The whole file.
#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
struct Entries {
    /// Files or families of faces by their names.
    #[serde(default)]
    faces: BTreeMap<String, Spanned<FaceEntry>>,
    /// The styles, by their names.
    #[serde(default)]
    styles: BTreeMap<Spanned<String>, StyleEntry>,
    /// Names of styles by kinds of elements.
    #[serde(default)]
    defaults: BTreeMap<String, Spanned<String>>,
    /// Sprites that stand in texts, by their names.
    #[serde(default)]
    sprites: BTreeMap<String, SpriteEntry>,
    /// Names that mean something to the game alone.
    #[serde(default)]
    marks: Vec<String>,
}

#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(
    untagged,
    expecting = "a font file, or an installed family such as { family = \"Lato\", weight = 500 }"
)]
enum FaceEntry {
    File(String),
    Installed(InstalledEntry),
}

/// An installed face by its family.
#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
#[cfg_attr(
    not(feature = "installed-fonts"),
    expect(dead_code, reason = "read for the error only")
)]
struct InstalledEntry {
    /// The name of the family.
    family: String,
    /// Weight from 1 to 1000, as in CSS. Default: 400.
    weight: Option<u16>,
    /// True: italic.
    #[serde(default)]
    italic: bool,
}

#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
struct StyleEntry {
    /// The style that it changes, where it is not the one around it.
    base: Option<Spanned<String>>,
    /// A face of `[faces]`.
    face: Option<Spanned<String>>,
    /// Faces for what that one lacks, in their order.
    fallback: Option<Vec<Spanned<String>>>,
    /// Design pixels per em.
    size: Option<Spanned<f32>>,
    /// The edges of the letters.
    #[serde(default, deserialize_with = "edges::deserialize")]
    #[cfg_attr(feature = "schemas", schemars(with = "Option<edges::Said>"))]
    edges: Option<Edges>,
    /// Factor of the size.
    scale: Option<Spanned<f32>>,
    /// Colour of the letters, as in CSS.
    color: Option<Spanned<String>>,
    /// Layers of the letters' look, from the first that is painted.
    effects: Option<Vec<Spanned<EffectRecord>>>,
    /// The ground behind the letters; `none` takes it away.
    plate: Option<OrNone<PlateEntry>>,
    /// True: a line beneath the letters.
    underline: Option<bool>,
    /// True: a line through the letters.
    line_through: Option<bool>,
    /// Space between clusters, in design pixels.
    letter_spacing: Option<f32>,
    /// Space added to each space, in design pixels.
    word_spacing: Option<f32>,
    /// Times the size.
    line_height: Option<Spanned<f32>>,
    /// True: digits of one width.
    tabular: Option<bool>,
    /// Design pixels that the letters are raised.
    baseline_shift: Option<f32>,
}

/// Kinds of edges, where they are said.
mod edges {
    use serde::{Deserialize, Deserializer};

    use crate::base::{Edges, EdgesRecord};

    #[derive(Deserialize)]
    #[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
    pub(super) struct Said(#[serde(with = "EdgesRecord")] Edges);

    pub(super) fn deserialize<'de, D: Deserializer<'de>>(
        from: D,
    ) -> Result<Option<Edges>, D::Error> {
        Said::deserialize(from).map(|said| Some(said.0))
    }
}

/// A table, or the word `none`, which takes away what is around.
enum OrNone<T> {
    None,
    Some(T),
}

#[cfg(feature = "schemas")]
impl<T: schemars::JsonSchema> schemars::JsonSchema for OrNone<T> {
    fn schema_name() -> std::borrow::Cow<'static, str> {
        format!("{}OrNone", T::schema_name()).into()
    }

    fn json_schema(generator: &mut schemars::SchemaGenerator) -> schemars::Schema {
        let table = generator.subschema_for::<T>();
        schemars::json_schema!({ "anyOf": [table, { "const": "none" }] })
    }
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
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
struct PlateEntry {
    /// A colour as in CSS.
    color: Spanned<String>,
    /// Outset beyond the text, in design pixels.
    #[serde(default)]
    padding: f32,
}

#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
struct SpriteEntry {
    /// The PNG.
    picture: Spanned<String>,
    /// Height in design pixels.
    height: Spanned<f32>,
    /// Its place in the line.
    #[serde(default)]
    align: AlignEntry,
}

#[derive(Clone, Copy, Default, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
enum AlignEntry {
    Baseline,
    #[default]
    Capitals,
    Middle,
    Top,
    Bottom,
}

/// Things that are open already, by their names.
type Known<'a, T> = &'a dyn Fn(&str) -> Option<T>;

/// Says where in the file something is wrong.
struct Reader<'a> {
    path: &'a Path,
    text: &'a str,
    files: &'a FileReader,
    /// Faces by the names that the file gives them.
    faces: BTreeMap<String, Face>,
    /// Faces of the system, once they were asked for.
    #[cfg(feature = "installed-fonts")]
    installed: OnceCell<InstalledFonts>,
}

impl StyleFile {
    /// Reads a file with the faces and pictures that it names; their paths begin at its
    /// folder.
    ///
    /// # Errors
    /// [`FileError`] with the line that is wrong, or that names a file that is.
    pub fn from_file(path: impl AsRef<Path>) -> Result<Self, FileError> {
        Self::from_file_with(path, |_| None)
    }

    /// As [`StyleFile::from_file`], with faces that are open already: those of a pack, say.
    /// `known` is asked for each name of a face before its file is read.
    ///
    /// # Errors
    /// As there.
    pub fn from_file_with(
        path: impl AsRef<Path>,
        known: impl Fn(&str) -> Option<Face>,
    ) -> Result<Self, FileError> {
        Self::from_file_through(path, known, &FileReader::default())
    }

    /// As [`StyleFile::from_file_with`], where `files` says what may be read. Installed fonts
    /// are found by family all the same.
    ///
    /// # Errors
    /// As there.
    pub fn from_file_through(
        path: impl AsRef<Path>,
        known: impl Fn(&str) -> Option<Face>,
        files: &FileReader,
    ) -> Result<Self, FileError> {
        let path = path.as_ref();
        let text = files.read_text(path).map_err(|source| FileError::Io {
            path: path.to_owned(),
            source,
        })?;
        Self::read(path, &text, (&known, &|_| None), files)
    }

    /// Reads the text of a style file; other files that it names are found from the working
    /// directory. `known` is asked for faces as in [`StyleFile::from_file_with`].
    ///
    /// # Errors
    /// [`FileError`] with the line that is wrong.
    pub fn from_toml(text: &str, known: impl Fn(&str) -> Option<Face>) -> Result<Self, FileError> {
        Self::from_toml_with(text, known, |_| None)
    }

    /// As [`StyleFile::from_toml`], with pictures of its sprites that are read already: `drawn`
    /// is asked for the name of each before its file is read.
    ///
    /// # Errors
    /// As there.
    pub fn from_toml_with(
        text: &str,
        known: impl Fn(&str) -> Option<Face>,
        drawn: impl Fn(&str) -> Option<Image>,
    ) -> Result<Self, FileError> {
        let files = FileReader::default();
        Self::read(Path::new("styles"), text, (&known, &drawn), &files)
    }

    fn read(
        path: &Path,
        text: &str,
        (known, drawn): (Known<'_, Face>, Known<'_, Image>),
        files: &FileReader,
    ) -> Result<Self, FileError> {
        let mut reader = Reader {
            path,
            text,
            files,
            faces: BTreeMap::new(),
            #[cfg(feature = "installed-fonts")]
            installed: OnceCell::new(),
        };
        let entries: Entries = parse(text).map_err(|fault| reader.fault(fault))?;
        let mut file = Self::default();
        for (name, entry) in &entries.faces {
            let at = entry.span();
            let face = known(name).map_or_else(
                || match entry.get_ref() {
                    FaceEntry::File(file) => reader.open(file, &at),
                    FaceEntry::Installed(entry) => reader.installed(entry, &at),
                },
                Ok,
            )?;
            reader.faces.insert(name.clone(), face);
        }
        for mark in &entries.marks {
            file.markup = file.markup.mark(mark);
        }
        let bases = entries
            .styles
            .values()
            .filter_map(|entry| entry.base.as_ref());
        file.bases = bases.map(|base| base.get_ref().clone()).collect();
        for name in entries.styles.keys() {
            let change = reader.inherited(name, &entries.styles)?;
            file.markup = file.markup.style(name.get_ref(), change.clone());
            file.styles.insert(name.get_ref().clone(), change);
        }
        file.faces.clone_from(&reader.faces);
        for (kind, style) in &entries.defaults {
            reader.known(style, &entries.styles)?;
            file.defaults.insert(kind.clone(), style.get_ref().clone());
        }
        for (name, entry) in &entries.sprites {
            let (sprite, picture) = reader.sprite(name, entry, drawn(name))?;
            file.markup = file.markup.sprite(ICON, sprite);
            file.pictures.push((name.clone(), picture));
        }
        Ok(file)
    }

    /// A style by its name, with what it inherits.
    pub fn style(&self, name: &str) -> Option<&StyleChange> {
        self.styles.get(name)
    }

    /// A face by the name that the file gives it.
    pub fn face(&self, name: &str) -> Option<&Face> {
        self.faces.get(name)
    }

    /// The names of its styles.
    pub fn style_names(&self) -> impl Iterator<Item = &str> {
        self.styles.keys().map(String::as_str)
    }

    /// Returns whether a style is the default of a kind of element.
    #[cfg(feature = "screens")]
    pub(crate) fn is_default(&self, style: &str) -> bool {
        self.defaults.values().any(|name| name == style)
    }

    /// Returns whether other styles inherit a style.
    #[cfg(feature = "screens")]
    pub(crate) fn is_base(&self, style: &str) -> bool {
        self.bases.contains(style)
    }

    /// The name of the style that a kind of element has by default (`[defaults]`).
    pub fn default_style(&self, kind: &str) -> Option<&str> {
        self.defaults.get(kind).map(String::as_str)
    }

    /// Adds a style in code.
    #[must_use]
    pub fn with_style(mut self, name: &str, change: StyleChange) -> Self {
        self.markup = self.markup.style(name, change.clone());
        self.styles.insert(name.to_owned(), change);
        self
    }

    /// Says in code which style a kind of element has by default.
    #[must_use]
    pub fn with_default(mut self, kind: &str, style: &str) -> Self {
        self.defaults.insert(kind.to_owned(), style.to_owned());
        self
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
    fn fault(&self, TomlFault { line, problem }: TomlFault) -> FileError {
        FileError::Line {
            path: self.path.to_owned(),
            line,
            problem,
            source: None,
        }
    }

    fn error(&self, at: &Range<usize>, problem: String) -> FileError {
        let line = line_of(self.text, at);
        self.fault(TomlFault { line, problem })
    }

    /// Something wrong in a file that a part of this one names.
    fn error_in<E>(&self, at: &Range<usize>, what: &str) -> impl FnOnce(E) -> FileError
    where
        E: Error + Send + Sync + 'static,
    {
        let (path, line) = (self.path.to_owned(), line_of(self.text, at));
        let problem = format!("cannot use the {what}");
        move |error| FileError::Line {
            path,
            line,
            problem,
            source: Some(Box::new(error)),
        }
    }

    fn color(&self, text: &Spanned<String>) -> Result<Color, FileError> {
        let color = text.get_ref().parse();
        color.map_err(|error| self.error(&text.span(), format!("{error}")))
    }

    fn length(&self, length: &Spanned<f32>, what: &str) -> Result<f32, FileError> {
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

    /// Opens the file that a text names.
    fn open(&self, name: &str, at: &Range<usize>) -> Result<Face, FileError> {
        let opened = Face::from_file_through(self.beside(name), 0, self.files);
        opened.map_err(self.error_in(at, "face"))
    }

    /// Finds a face among those that are installed.
    #[cfg(feature = "installed-fonts")]
    fn installed(&self, entry: &InstalledEntry, at: &Range<usize>) -> Result<Face, FileError> {
        let mut query = FaceQuery::new(&entry.family);
        query.weight = entry.weight.unwrap_or(query.weight);
        if entry.italic {
            query.slant = Slant::Italic;
        }
        let fonts = self
            .installed
            .get_or_init(InstalledFonts::from_system_folders);
        let found = fonts.find(&query).map_err(self.error_in(at, "face"))?;
        found
            .open_file_for(&query)
            .map_err(self.error_in(at, "face"))
    }

    #[cfg(not(feature = "installed-fonts"))]
    #[expect(clippy::unused_self, reason = "as with the feature")]
    fn installed(&self, _: &InstalledEntry, at: &Range<usize>) -> Result<Face, FileError> {
        let problem = "installed families need the feature `installed-fonts`; name a file";
        Err(self.error(at, problem.to_owned()))
    }

    /// The face of a name, or of a file.
    fn face(&self, name: &Spanned<String>) -> Result<Face, FileError> {
        let known = self.faces.get(name.get_ref());
        known.map_or_else(
            || self.open(name.get_ref(), &name.span()),
            |face| Ok(face.clone()),
        )
    }

    /// Finds a style that another one names.
    fn known<'e>(
        &self,
        name: &Spanned<String>,
        styles: &'e BTreeMap<Spanned<String>, StyleEntry>,
    ) -> Result<&'e StyleEntry, FileError> {
        styles.get(name).ok_or_else(|| {
            let names = styles.keys().map(|known| known.get_ref().as_str());
            let hint = nearest(name.get_ref(), names)
                .map_or_else(String::new, |near| format!("; did you mean “{near}”?"));
            let problem = format!("there is no style “{}”{hint}", name.get_ref());
            self.error(&name.span(), problem)
        })
    }

    /// A style with all that it inherits.
    fn inherited(
        &self,
        name: &Spanned<String>,
        styles: &BTreeMap<Spanned<String>, StyleEntry>,
    ) -> Result<StyleChange, FileError> {
        let mut change = StyleChange::default();
        let mut next = Some(name);
        let mut seen: Vec<&str> = Vec::new();
        while let Some(name) = next {
            if seen.contains(&name.get_ref().as_str()) {
                let problem = format!(
                    "the style “{}” inherits itself: {}",
                    name.get_ref(),
                    seen.join(" → ")
                );
                return Err(self.error(&name.span(), problem));
            }
            seen.push(name.get_ref());
            let entry = self.known(name, styles)?;
            change = change.over(&self.style(entry)?);
            next = entry.base.as_ref();
        }
        Ok(change)
    }

    fn style(&self, entry: &StyleEntry) -> Result<StyleChange, FileError> {
        let face = entry.face.as_ref().map(|name| self.face(name));
        let fallback = entry.fallback.as_ref();
        let fallback = fallback.map(|names| names.iter().map(|name| self.face(name)).collect());
        let size = entry.size.as_ref();
        let line_height = entry.line_height.as_ref();
        let line_height = line_height.map(|times| self.length(times, "line height"));
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
                Ok::<_, FileError>(Some(Plate::new(color, plate.padding)))
            }
        });
        Ok(StyleChange {
            face: face.transpose()?,
            fallback: fallback.transpose()?,
            size: size.map(|size| self.length(size, "size")).transpose()?,
            edges: entry.edges,
            word_spacing: entry.word_spacing,
            line_height: line_height.transpose()?.map(LineHeight::Multiple),
            tabular: entry.tabular,
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
        drawn: Option<Image>,
    ) -> Result<(InlineSprite, Image), FileError> {
        let picture = match drawn {
            Some(picture) => picture,
            None => {
                let file = self.beside(entry.picture.get_ref());
                let picture = Image::from_png_file_through(file, self.files);
                picture.map_err(self.error_in(&entry.picture.span(), "picture"))?
            }
        };
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

/// The schema of style files.
#[cfg(feature = "schemas")]
pub(crate) fn style_file_schema() -> schemars::Schema {
    schemars::schema_for!(Entries)
}
