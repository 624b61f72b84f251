//! A screen at work: values in, boxes and a frame out.

use std::collections::BTreeMap;
use std::path::Path;

use icu_plurals::PluralRules;
use rustc_hash::FxHashMap;

use super::building::{Built, build, check_other_languages, unreadable_texts};
use super::flow::{Flow, Room, follow};
use super::node::{Body, Node};
use super::paint::Places;
use super::rolling::Roll;
use super::{Camera, ScreenDescription, ScreenError, Viewport};
use crate::atlas::Atlas;
use crate::base::{FileReader, Mapping, Point, Rect, hint, span};
use crate::draw::{Frame, FrameBuilder, Scope};
use crate::markup::{LanguageTable, StringTables, StyleFile, Value, number_language, plural_rules};
use crate::text::{LayoutContext, TextError};

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
    pub(super) description: ScreenDescription,
    pub(super) styles: StyleFile,
    pub(super) strings: StringTables,
    pub(super) language: String,
    pub(super) rules: Option<PluralRules>,
    pub(super) is_mirrored: bool,
    pub(super) nodes: Vec<Node>,
    /// Numbers of the elements by their names.
    pub(super) names: BTreeMap<String, usize>,
    /// Elements in the window, in the order in which they are painted.
    pub(super) roots: Vec<usize>,
    /// Values as they are shown, and as the game handed them in.
    pub(super) values: Vec<Value>,
    pub(super) handed: Vec<Value>,
    /// Numbers that are on their way from the one to the other.
    pub(super) rolls: Vec<Roll>,
    pub(super) camera: Camera,
    /// True if the camera moved, or something that elements follow.
    pub(super) has_moved: bool,
    /// Numbers of the values by their names.
    pub(super) value_names: FxHashMap<String, usize>,
    /// The elements that show each value, by their numbers.
    pub(super) users: Vec<Vec<usize>>,
    pub(super) flow: Flow,
    pub(super) room: Room,
    pub(super) text_scale: f32,
    pub(super) reduces_motion: bool,
    pub(super) context: LayoutContext,
    /// Seconds since it was made.
    pub(super) time: f64,
    /// True if boxes have to be found anew.
    pub(super) is_loose: bool,
    /// True if a picture of it would be another one.
    pub(super) is_changed: bool,
    /// Texts that say something else in the same room.
    pub(super) changed_texts: Vec<usize>,
    /// Places of texts in the last frame.
    pub(super) places: Places,
    /// Elements that may look otherwise as time goes by: gauges, animations, those in motion.
    pub(super) living: Vec<usize>,
    /// Sprites whose names changed.
    pub(super) renamed: Vec<usize>,
    pub(super) laid_out: usize,
    pub(super) builder: FrameBuilder,
    /// The window that the last frame was gathered for.
    pub(super) shown: Option<Viewport>,
}

impl Screen {
    /// Opens a screen file with the style file and the string tables that it names. Its
    /// sprites are in the atlas already; those of the style file are added.
    ///
    /// # Errors
    /// [`ScreenError`] with the file and line that is wrong.
    pub fn from_file(path: impl AsRef<Path>, atlas: &mut Atlas) -> Result<Self, ScreenError> {
        Self::from_file_through(path, atlas, &FileReader::default())
    }

    /// As [`Screen::from_file`], where `files` says what may be read.
    ///
    /// # Errors
    /// As there.
    pub fn from_file_through(
        path: impl AsRef<Path>,
        atlas: &mut Atlas,
        files: &FileReader,
    ) -> Result<Self, ScreenError> {
        let (description, styles, strings) = read_files(path.as_ref(), files)?;
        Self::new(description, styles, strings, atlas)
    }

    /// All that is wrong in the texts of a screen's file, in all forms and languages, where
    /// [`Screen::from_file_through`] tells what it meets first.
    ///
    /// # Errors
    /// [`ScreenError::File`] where something else than a text can't be read.
    pub fn unreadable_texts(
        path: impl AsRef<Path>,
        files: &FileReader,
    ) -> Result<Vec<ScreenError>, ScreenError> {
        let (description, styles, strings) = read_files(path.as_ref(), files)?;
        let language = first_language(&description, &strings).to_owned();
        let description = description.with_dialogue_values();
        Ok(unreadable_texts(
            (&description, &styles, &strings),
            &language,
        ))
    }

    /// Makes a screen of its description, in the first language of its strings. Every style,
    /// sprite, value and text that it names is looked up now; texts are read in all their forms
    /// and in all languages.
    ///
    /// # Errors
    /// [`ScreenError`] that names the element with what it lacks.
    pub fn new(
        description: ScreenDescription,
        styles: StyleFile,
        strings: StringTables,
        atlas: &mut Atlas,
    ) -> Result<Self, ScreenError> {
        let description = description.with_dialogue_values();
        for (name, image) in styles.pictures() {
            if atlas.sprite(name).is_err() {
                atlas.add_sprite(name, image, crate::atlas::SpriteOptions::default())?;
            }
        }
        let language = first_language(&description, &strings).to_owned();
        check_language(&strings, &language)?;
        let mut context = LayoutContext::new();
        let values: Vec<Value> = description.values.iter().map(|v| v.start.clone()).collect();
        let built = build(
            (&description, &styles, &strings),
            &language,
            atlas,
            &mut context,
        )?;
        check_other_languages((&description, &styles, &strings), &language)?;
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
            handed: values.clone(),
            values,
            rolls: Vec::new(),
            camera: Camera::new(Point::ORIGIN, 1.0),
            has_moved: false,
            flow,
            room: Room {
                rect: Rect::default(),
                window: Rect::default(),
                mapping: Mapping::IDENTITY,
                back: None,
                is_mirrored: false,
            },
            text_scale: 1.0,
            reduces_motion: false,
            context,
            time: 0.0,
            is_loose: true,
            is_changed: true,
            changed_texts: Vec::new(),
            places: Places::new(),
            living: Vec::new(),
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
            for value in node.values() {
                self.users[value].push(index);
            }
        }
        for users in &mut self.users {
            users.dedup();
        }
        // Sprites that are named by a value.
        let sprites = nodes
            .iter()
            .enumerate()
            .filter(|(_, node)| match &node.body {
                Body::Sprite(sprite) => sprite.value.is_some(),
                _ => false,
            });
        self.renamed = sprites.map(|(index, _)| index).collect();
        self.changed_texts.clear();
        let living = nodes
            .iter()
            .enumerate()
            .filter(|(_, node)| node.body.lives());
        self.living = living.map(|(index, _)| index).collect();
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

    /// Says everything in another language, texts shown whole; `en-XA` is English with accents and a third
    /// longer, to try out whether longer languages fit. Languages from right to left mirror the
    /// screen.
    ///
    /// # Errors
    /// [`ScreenError`] for a language without a table, and with the text that is missing.
    pub fn set_language(&mut self, language: &str, atlas: &mut Atlas) -> Result<(), ScreenError> {
        check_language(&self.strings, language)?;
        let parts = (&self.description, &self.styles, &self.strings);
        let built = build(parts, language, atlas, &mut self.context)?;
        let before = std::mem::take(&mut self.nodes);
        self.flow = Flow::new(&built.nodes);
        self.take(built, language.to_owned());
        self.text_scale = 1.0;
        for value in 0..self.values.len() {
            self.spread(value)?;
        }
        // Motions go on: the elements are the same, in the same order.
        for (index, (node, before)) in self.nodes.iter_mut().zip(before).enumerate() {
            node.go_on(before);
            if !node.motions.is_empty() && !node.body.lives() {
                self.living.push(index);
            }
        }
        Ok(())
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
        span!("arrange_screen");
        self.roll()?;
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
            window: view.window_rect(),
            mapping: view.mapping(),
            back: view.mapping().affine().inverse(),
            is_mirrored: self.is_mirrored,
        };
        if self.is_loose || room != self.room {
            self.room = room;
            self.arrange_boxes()?;
            self.measure_hidden_dialogues()?;
            (self.is_loose, self.is_changed) = (false, true);
        } else if self.has_moved {
            follow(&mut self.nodes, room, &self.camera);
            self.is_changed = true;
        }
        self.has_moved = false;
        Ok(())
    }

    /// Finds the boxes of all elements in the room.
    pub(super) fn arrange_boxes(&mut self) -> Result<(), TextError> {
        let (room, nodes) = (self.room, &mut self.nodes);
        self.flow
            .arrange(nodes, (room, &self.camera), &mut self.context)
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
            let painted = self.paint(
                &mut builder.begin_in(atlas, view.mapping(), view.window()),
                &mut places,
            );
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
            // An element that is not there, or not shown, has none.
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

    /// The number of texts that were laid out again since it was asked last.
    pub fn take_laid_out(&mut self) -> usize {
        std::mem::take(&mut self.laid_out)
    }
}

/// Refuses a language that there are no texts in; without any table all is the same.
/// The language that a screen begins in.
fn first_language<'a>(description: &'a ScreenDescription, strings: &'a StringTables) -> &'a str {
    let named = description.language.as_deref();
    named.unwrap_or_else(|| strings.first())
}

/// A screen's file, and the styles and texts that it names.
fn read_files(
    path: &Path,
    files: &FileReader,
) -> Result<(ScreenDescription, StyleFile, StringTables), ScreenError> {
    let description = ScreenDescription::from_file_through(path, files)?;
    let folder = path.parent().unwrap_or(Path::new(""));
    let styles = match &description.styles {
        Some(file) => StyleFile::from_file_through(folder.join(file), |_| None, files)?,
        None => StyleFile::default(),
    };
    let strings = match &description.strings {
        Some(strings) => StringTables::from_folder_through(folder.join(strings), files)?,
        None => StringTables::default(),
    };
    Ok((description, styles, strings))
}

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
