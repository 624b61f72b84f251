//! A screen at work: values in, boxes and a frame out.

use std::collections::BTreeMap;
use std::path::Path;

use icu_plurals::PluralRules;
use rustc_hash::FxHashMap;
use serde::Serialize;

use super::building::{Built, build};
use super::description::hint;
use super::element::Visibility;
use super::flow::{Flow, Room};
use super::node::{Body, Node};
use super::paint::Places;
use super::strings::{LanguageTable, PSEUDO, plural_rules};
use super::{ScreenDescription, ScreenError, StringTables, Value, Viewport};
use crate::atlas::Atlas;
use crate::base::{Point, Rect};
use crate::draw::{Frame, FrameBuilder, Scope};
use crate::markup::StyleFile;
use crate::text::{LayoutContext, TextLayout};

/// A screen at work: the game hands in values and time, and draws it. It holds nothing of the
/// game's state but the values that it shows. It stays on the thread that it was made on.
///
/// ```no_run
/// use kerno::{Atlas, DeviceSize};
/// use kerno::screen::Screen;
/// let mut atlas = Atlas::default();
/// atlas.add_sprites_from_folder("ferry/sprites", &Default::default())?;
/// let mut hud = Screen::from_file("ferry/hud.toml", &mut atlas)?;
/// // Every frame:
/// hud.set("fares", 1284.0)?;
/// hud.advance(1.0 / 60.0);
/// let view = hud.viewport(DeviceSize::new(1280, 720))?;
/// let frame = hud.frame(&mut atlas, &view)?;
/// println!("{} quads in {} draw calls", frame.quad_count(), frame.batches.len());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug)]
pub struct Screen {
    description: ScreenDescription,
    styles: StyleFile,
    strings: StringTables,
    language: String,
    rules: Option<PluralRules>,
    is_mirrored: bool,
    pub(super) nodes: Vec<Node>,
    /// Numbers of the elements by their names.
    names: BTreeMap<String, usize>,
    /// Elements in the window, in the order in which they are painted.
    pub(super) roots: Vec<usize>,
    values: Vec<Value>,
    /// Numbers of the values by their names.
    value_names: FxHashMap<String, usize>,
    /// The elements that show each value, by their numbers.
    users: Vec<Vec<usize>>,
    flow: Flow,
    pub(super) room: Room,
    text_scale: f32,
    context: LayoutContext,
    /// Seconds since it was made.
    pub(super) time: f64,
    /// True if boxes have to be found anew.
    is_loose: bool,
    /// True if a picture of it would be another one.
    is_changed: bool,
    /// Texts that say something else in the same room.
    changed_texts: Vec<usize>,
    /// Places of texts in the last frame.
    places: Places,
    /// Sprites whose names changed.
    renamed: Vec<usize>,
    laid_out: usize,
    builder: FrameBuilder,
    /// The window that the last frame was gathered for.
    shown: Option<Viewport>,
}

impl Screen {
    /// Opens a screen file with the style file and the string tables that it names. Its
    /// sprites are in the atlas already; those of the style file are added.
    ///
    /// # Errors
    /// [`ScreenError`] with the file and line that is wrong.
    pub fn from_file(path: impl AsRef<Path>, atlas: &mut Atlas) -> Result<Self, ScreenError> {
        let path = path.as_ref();
        let description = ScreenDescription::from_file(path)?;
        let folder = path.parent().unwrap_or(Path::new(""));
        let styles = match &description.styles {
            Some(file) => StyleFile::from_file(folder.join(file)),
            None => Ok(StyleFile::default()),
        };
        let styles = styles.map_err(|error| ScreenError::Line {
            path: path.to_owned(),
            line: 0,
            problem: "cannot use its style file".to_owned(),
            source: Some(Box::new(error)),
        })?;
        let strings = match &description.strings {
            Some(strings) => StringTables::from_folder(folder.join(strings))?,
            None => StringTables::default(),
        };
        Self::new(description, styles, strings, atlas)
    }

    /// Makes a screen of its description, in the first language of its strings. Every style,
    /// sprite, value and text that it names is looked up now.
    ///
    /// # Errors
    /// [`ScreenError`] that names the element with what it lacks.
    pub fn new(
        description: ScreenDescription,
        styles: StyleFile,
        strings: StringTables,
        atlas: &mut Atlas,
    ) -> Result<Self, ScreenError> {
        for (name, image) in styles.pictures() {
            if atlas.sprite(name).is_err() {
                atlas.add_sprite(name, image, crate::atlas::SpriteOptions::default())?;
            }
        }
        let first = description.language.as_deref();
        let language = first.unwrap_or_else(|| strings.first()).to_owned();
        check_language(&strings, &language)?;
        let mut context = LayoutContext::new();
        let values: Vec<Value> = description.values.iter().map(|v| v.start.clone()).collect();
        let built = build(
            (&description, &styles, &strings),
            &language,
            atlas,
            &mut context,
        )?;
        let flow = Flow::new(&built.nodes);
        let names = description.values.iter().map(|value| value.name.clone());
        let mut screen = Self {
            value_names: names.zip(0..).collect(),
            rules: None,
            is_mirrored: false,
            nodes: Vec::new(),
            names: BTreeMap::new(),
            roots: Vec::new(),
            users: vec![Vec::new(); values.len()],
            values,
            flow,
            room: Room {
                rect: Rect::default(),
                is_mirrored: false,
            },
            text_scale: 1.0,
            context,
            time: 0.0,
            is_loose: true,
            is_changed: true,
            changed_texts: Vec::new(),
            places: Places::new(),
            renamed: Vec::new(),
            laid_out: 0,
            builder: FrameBuilder::new(),
            shown: None,
            language: String::new(),
            description,
            styles,
            strings,
        };
        screen.take(built, language);
        Ok(screen)
    }

    fn take(&mut self, built: Built, language: String) {
        let Built {
            nodes,
            names,
            roots,
        } = built;
        self.is_mirrored = self
            .strings
            .table(&language)
            .is_some_and(LanguageTable::is_rtl);
        self.rules = plural_rules(number_language(&language));
        self.language = language;
        for users in &mut self.users {
            users.clear();
        }
        for (index, node) in nodes.iter().enumerate() {
            for value in node.body.values().into_iter().chain(node.shown_by) {
                self.users[value].push(index);
            }
        }
        for users in &mut self.users {
            users.dedup();
        }
        (self.nodes, self.names, self.roots) = (nodes, names, roots);
        (self.is_loose, self.is_changed) = (true, true);
    }

    /// The description that it was made of.
    pub fn description(&self) -> &ScreenDescription {
        &self.description
    }

    /// Tag of the language that it speaks.
    pub fn language(&self) -> &str {
        &self.language
    }

    /// Languages that it can speak, in the order of their files.
    pub fn languages(&self) -> impl Iterator<Item = &str> {
        self.strings.languages()
    }

    /// Says everything in another language; `en-XA` is English with accents and a third
    /// longer, to try out whether longer languages fit. Languages from right to left mirror the
    /// screen.
    ///
    /// # Errors
    /// [`ScreenError`] for a language without a table, and with the text that is missing.
    pub fn set_language(&mut self, language: &str, atlas: &mut Atlas) -> Result<(), ScreenError> {
        check_language(&self.strings, language)?;
        let parts = (&self.description, &self.styles, &self.strings);
        let built = build(parts, language, atlas, &mut self.context)?;
        self.flow = Flow::new(&built.nodes);
        self.take(built, language.to_owned());
        self.text_scale = 1.0;
        for value in 0..self.values.len() {
            self.spread(value)?;
        }
        Ok(())
    }

    /// Hands in a value. Numbers are clamped to the range that the screen states; one that is
    /// no number is the least of it, or 0.
    ///
    /// # Errors
    /// [`ScreenError::Value`] for a name that the screen does not have, or a value of another
    /// kind; [`ScreenError::Text`] where a text can't be laid out.
    pub fn set(&mut self, name: &str, value: impl Into<Value>) -> Result<(), ScreenError> {
        let Some(index) = self.value_names.get(name).copied() else {
            let names = self
                .description
                .values
                .iter()
                .map(|value| value.name.as_str());
            let near = hint(name, names);
            return Err(ScreenError::Value(format!(
                "there is no value “{name}”{near}"
            )));
        };
        let mut value = value.into();
        let declared = &self.description.values[index];
        if !value.is_like(&declared.start) {
            let (wanted, got) = (declared.start.kind(), value.kind());
            let problem = format!("the value “{name}” is {wanted}, and not {got}");
            return Err(ScreenError::Value(problem));
        }
        if let Value::Number(number) = &mut value {
            let [least, most] = declared.range.unwrap_or([f64::NEG_INFINITY, f64::INFINITY]);
            if number.is_nan() {
                *number = if least.is_finite() { least } else { 0.0 };
            }
            *number = number.clamp(least, most);
        }
        if self.values[index] == value {
            return Ok(());
        }
        self.values[index] = value;
        self.spread(index)
    }

    /// Hands in all values at once, by the names of fields or keys: any map or struct. What
    /// the screen has no name for is left out.
    ///
    /// # Errors
    /// [`ScreenError::Value`] where one of the screen's values is missing or of another kind,
    /// or something else than a map or a struct is handed in.
    pub fn set_all(&mut self, values: &impl Serialize) -> Result<(), ScreenError> {
        let table = toml::Table::try_from(values)
            .map_err(|error| ScreenError::Value(format!("these are no values: {error}")))?;
        let names: Vec<String> = self
            .description
            .values
            .iter()
            .map(|v| v.name.clone())
            .collect();
        for name in names {
            let value = match table.get(&name) {
                Some(toml::Value::Integer(number)) => Value::Number(*number as f64),
                Some(toml::Value::Float(number)) => Value::Number(*number),
                Some(toml::Value::Boolean(flag)) => Value::Flag(*flag),
                Some(toml::Value::String(text)) => Value::Text(text.clone()),
                Some(_) => {
                    let problem = format!("the value “{name}” is no number, text, true or false");
                    return Err(ScreenError::Value(problem));
                }
                None => {
                    let near = hint(&name, table.keys().map(String::as_str));
                    let problem = format!("the value “{name}” is missing{near}");
                    return Err(ScreenError::Value(problem));
                }
            };
            self.set(&name, value)?;
        }
        Ok(())
    }

    /// A value as it was handed in, by its name.
    pub fn value(&self, name: &str) -> Option<&Value> {
        self.values.get(*self.value_names.get(name)?)
    }

    /// Takes a new value to the elements that show it.
    fn spread(&mut self, value: usize) -> Result<(), ScreenError> {
        for at in 0..self.users[value].len() {
            let index = self.users[value][at];
            let node = &mut self.nodes[index];
            match &mut node.body {
                Body::Text(text) => {
                    let rules = self.rules.as_ref();
                    if text.change(value, &self.values, rules, &mut self.context)? {
                        self.flow.mark(index);
                        self.is_loose = true;
                    } else if !self.changed_texts.contains(&index) {
                        self.changed_texts.push(index);
                    }
                    self.laid_out += 1;
                }
                Body::Gauge(gauge) if gauge.value == value => {
                    gauge.change(&self.values[value]);
                    self.is_changed = true;
                }
                Body::Sprite(sprite) if sprite.value == Some(value) => self.renamed.push(index),
                _ => self.is_changed = true,
            }
            let is_true = self.values[value].is_true();
            let is_there = match &node.element.visible {
                Visibility::While(_) => is_true,
                Visibility::Unless(_) => !is_true,
                Visibility::Always | Visibility::Never => continue,
            };
            if node.shown_by == Some(value) && node.is_there != is_there {
                node.is_there = is_there;
                self.flow.show(index, &self.nodes);
                self.is_loose = true;
            }
        }
        Ok(())
    }

    /// Moves on by some seconds: what moves by itself. Any split of the time comes to the
    /// same; less than 0 is none.
    pub fn advance(&mut self, seconds: f64) {
        let seconds = if seconds > 0.0 { seconds } else { 0.0 };
        let before = self.time;
        self.time += seconds;
        for node in &mut self.nodes {
            let moved = match &mut node.body {
                Body::Gauge(gauge) => gauge.advance(seconds as f32),
                Body::Sprite(sprite) => sprite.animation.as_ref().is_some_and(|animation| {
                    animation.sprite_at(before) != animation.sprite_at(self.time)
                }),
                _ => false,
            };
            self.is_changed |= moved && node.is_there;
        }
    }

    /// Brings all that follows a value to where it goes, at once.
    pub fn settle(&mut self) {
        for node in &mut self.nodes {
            if let Body::Gauge(gauge) = &mut node.body {
                gauge.settle();
                self.is_changed = true;
            }
        }
    }

    /// The viewport that shows the screen in a window.
    ///
    /// # Errors
    /// As [`Viewport::new`].
    pub fn viewport(&self, window: crate::base::DeviceSize) -> Result<Viewport, ScreenError> {
        Ok(Viewport::new(
            self.description.design,
            window,
            self.description.fit,
        )?)
    }

    /// Arranges the elements in a window, as far as something changed.
    ///
    /// # Errors
    /// [`ScreenError`] where a text can't be laid out, or a sprite has no picture.
    pub fn arrange(&mut self, view: &Viewport, atlas: &Atlas) -> Result<(), ScreenError> {
        for index in std::mem::take(&mut self.renamed) {
            let Body::Sprite(sprite) = &mut self.nodes[index].body else {
                continue;
            };
            let name = sprite.value.map(|value| &self.values[value]);
            if let Some(Value::Text(name)) = name.filter(|name| name.is_true()) {
                sprite.sprite = atlas.sprite(name)?;
                sprite.animation = None;
                sprite.size = atlas.sprite_size(sprite.sprite);
                self.flow.mark(index);
                self.is_loose = true;
            }
        }
        if self.text_scale != view.text_scale() {
            self.text_scale = view.text_scale();
            for (index, node) in self.nodes.iter_mut().enumerate() {
                if let Body::Text(text) = &mut node.body
                    && text.set_text_scale(self.text_scale)
                {
                    text.lay_out(&self.values, self.rules.as_ref(), &mut self.context)?;
                    self.laid_out += 1;
                    self.flow.mark(index);
                }
            }
            self.is_loose = true;
        }
        let room = Room {
            rect: view.safe_rect(),
            is_mirrored: self.is_mirrored,
        };
        if self.is_loose || room != self.room {
            self.room = room;
            self.flow
                .arrange(&mut self.nodes, room, &mut self.context)?;
            (self.is_loose, self.is_changed) = (false, true);
        }
        Ok(())
    }

    /// Draws the screen into a frame, where it is shown by a viewport: the one whose mapping
    /// the frame has.
    ///
    /// # Errors
    /// As [`Screen::arrange`], and where pictures find no room.
    pub fn draw(&mut self, scope: &mut Scope<'_>, view: &Viewport) -> Result<(), ScreenError> {
        self.arrange(view, scope.atlas())?;
        self.is_changed = false;
        self.changed_texts.clear();
        self.shown = None;
        let mut places = std::mem::take(&mut self.places);
        let painted = self.paint(scope, &mut places);
        self.places = places;
        painted
    }

    /// A frame of the screen alone: the one before where nothing changed.
    ///
    /// # Errors
    /// As [`Screen::draw`].
    pub fn frame(&mut self, atlas: &mut Atlas, view: &Viewport) -> Result<Frame<'_>, ScreenError> {
        self.arrange(view, atlas)?;
        let is_same = !self.is_changed && self.shown == Some(*view);
        if !(is_same && self.builder.repeat(atlas) && self.replace_texts(atlas)?) {
            let mut builder = std::mem::take(&mut self.builder);
            let mut places = std::mem::take(&mut self.places);
            let painted = self.paint(&mut builder.begin(atlas, view.mapping()), &mut places);
            (self.builder, self.places) = (builder, places);
            painted?;
            self.is_changed = false;
            self.shown = Some(*view);
        }
        self.changed_texts.clear();
        Ok(self.builder.finish())
    }

    /// Makes the texts again that changed in a frame that is the same otherwise; returns
    /// false where that can't be.
    fn replace_texts(&mut self, atlas: &mut Atlas) -> Result<bool, ScreenError> {
        for at in 0..self.changed_texts.len() {
            let index = self.changed_texts[at];
            let Body::Text(text) = &self.nodes[index].body else {
                continue;
            };
            // What is not there, or not shown, has none.
            let Some(place) = &self.places[index] else {
                continue;
            };
            let draw = self.text_draw(index, text);
            if !self
                .builder
                .replace_text(atlas, place, (&text.layout, draw))?
            {
                // A half of the changes is in it.
                self.shown = None;
                return Ok(false);
            }
        }
        Ok(true)
    }

    /// The box of an element in design pixels, as it was arranged last; none where there is
    /// no such element, or it is not there.
    pub fn element_rect(&self, name: &str) -> Option<Rect> {
        let index = *self.names.get(name)?;
        self.is_seen(index).then(|| self.nodes[index].rect)
    }

    /// The layout of a text element, for typewriter text and for questions about it.
    pub fn text(&self, name: &str) -> Option<&TextLayout> {
        match &self.nodes[*self.names.get(name)?].body {
            Body::Text(text) => Some(&text.layout),
            _ => None,
        }
    }

    /// Shows the first clusters of a text element alone; `usize::MAX` for all. Nothing moves.
    ///
    /// # Errors
    /// [`ScreenError::Value`] where there is no text element of that name.
    pub fn reveal(&mut self, name: &str, clusters: usize) -> Result<(), ScreenError> {
        let index = self.names.get(name).copied();
        match index.map(|index| &mut self.nodes[index].body) {
            Some(Body::Text(text)) => {
                self.is_changed |= text.visible != clusters;
                text.visible = clusters;
                Ok(())
            }
            _ => {
                let near = hint(name, self.names.keys().map(String::as_str));
                Err(ScreenError::Value(format!(
                    "there is no text element “{name}”{near}"
                )))
            }
        }
    }

    /// The uppermost element at a place in design pixels, of those that show something.
    pub fn element_at(&self, at: Point) -> Option<&str> {
        let mut found = None;
        let mut open: Vec<usize> = self.roots.iter().rev().copied().collect();
        while let Some(index) = open.pop() {
            let node = &self.nodes[index];
            if !node.is_there {
                continue;
            }
            let is_empty = matches!(node.body, Body::None);
            if !is_empty && node.rect.contains(at) {
                found = Some(node.element.name.as_str());
            }
            open.extend(node.children.iter().rev());
        }
        found
    }

    /// Names and boxes of the elements that are there, parents before their children.
    pub fn elements(&self) -> impl Iterator<Item = (&str, Rect)> {
        let seen = (0..self.nodes.len()).filter(|index| self.is_seen(*index));
        seen.map(|index| {
            (
                self.nodes[index].element.name.as_str(),
                self.nodes[index].rect,
            )
        })
    }

    /// The number of texts that were laid out again since it was asked last.
    pub fn take_laid_out(&mut self) -> usize {
        std::mem::take(&mut self.laid_out)
    }

    /// Letters of its texts that no face has.
    pub fn missing(&self) -> usize {
        let texts = self.nodes.iter().map(|node| match &node.body {
            Body::Text(text) => text.missing(),
            _ => 0,
        });
        texts.sum()
    }

    /// Returns whether an element and all around it are there.
    pub(super) fn is_seen(&self, index: usize) -> bool {
        let mut next = Some(index);
        while let Some(index) = next {
            let node = &self.nodes[index];
            if !node.is_there {
                return false;
            }
            next = node.parent;
        }
        true
    }

    /// A frame of the screen alone, gathered anew.
    pub(super) fn fresh_frame(
        &mut self,
        atlas: &mut Atlas,
        view: &Viewport,
    ) -> Result<Frame<'_>, ScreenError> {
        self.shown = None;
        self.frame(atlas, view)?;
        // It may be of a screen that is shown otherwise.
        self.shown = None;
        Ok(self.builder.finish())
    }

    pub(super) fn styles(&self) -> &StyleFile {
        &self.styles
    }

    pub(super) fn strings(&self) -> &StringTables {
        &self.strings
    }

    /// Returns whether some element shows a value, or is shown by it.
    pub(super) fn is_used(&self, value: usize) -> bool {
        self.users.get(value).is_some_and(|users| !users.is_empty())
    }

    /// All texts with their markup, of all languages.
    pub(super) fn all_texts(&self) -> Vec<&str> {
        self.description
            .texts()
            .chain(self.strings.texts())
            .collect()
    }

    pub(super) fn values(&self) -> &[Value] {
        &self.values
    }
}

/// Refuses a language that there are no texts in; without any table all is the same.
fn check_language(strings: &StringTables, language: &str) -> Result<(), ScreenError> {
    let known: Vec<&str> = strings.languages().collect();
    if known.is_empty() || strings.table(language).is_some() {
        return Ok(());
    }
    let near = hint(language, known.iter().copied());
    let known = known.join(", ");
    Err(ScreenError::Value(format!(
        "there is no language “{language}”{near}; there are {known}"
    )))
}

/// The language that numbers are written in: the pseudo-language is English.
pub(super) fn number_language(language: &str) -> &str {
    if language == PSEUDO { "en" } else { language }
}
