//! A scene with the screen that it is played on.

use std::path::Path;

use kerno::base::Insets;
use kerno::dialogue::{Scene, SceneEvent, ScenePlayer, SpeechEvent};
use kerno::draw::RectStyle;
use kerno::markup::{StringTables, StyleFile, TextSource};
use kerno::screen::{Content, Element, Screen, ScreenDescription, TextContent, Visibility};
use kerno::{Anchor, Atlas, Canvas, Color, DeviceSize, Face, Offset, Rect, Size};

use super::PlayArgs;
use crate::commands::render::{open_screen, typed_value};
use crate::error::CliError;
use crate::files::Files;

/// Seconds that a choice is shown before it is made.
const CHOICE: f64 = 1.5;

/// A scene file with all that it names.
pub(crate) struct OpenScene {
    pub(crate) scene: Scene,
    pub(crate) styles: StyleFile,
    pub(crate) strings: StringTables,
    screen: Screen,
    atlas: Atlas,
    /// The dialogue element of the screen.
    element: String,
    /// The room for lines in a window of the screen's own size.
    pub(crate) room: Size,
}

impl OpenScene {
    /// Opens a scene file.
    pub(crate) fn new(path: &Path, files: &Files) -> Result<Self, CliError> {
        let files = files.of(path)?;
        let scene = Scene::from_file_through(path, &files)?;
        let styles = match scene.style_file() {
            Some(file) => StyleFile::from_file_through(file, |_| None, &files)?,
            None => StyleFile::default(),
        };
        let strings = match scene.string_folder() {
            Some(folder) => StringTables::from_folder_through(folder, &files)?,
            None => StringTables::default(),
        };
        let (mut screen, atlas) = match scene.screen_file() {
            Some(file) => open_screen(&file, &files)?,
            None => plain_screen(&styles, &strings, scene.style())?,
        };
        let elements = &screen.description().elements;
        let dialogue = elements.iter().find(|own| own.content == Content::Dialogue);
        let Some(element) = dialogue.map(|element| element.name.clone()) else {
            return Err(CliError::NoDialogue(
                scene.screen_file().unwrap_or_default(),
            ));
        };
        let design = screen.description().design;
        let window = DeviceSize::new(design.width as u32, design.height as u32);
        let view = screen.viewport(window)?;
        screen.arrange(&view, &atlas)?;
        let room = screen.dialogue_room(&element).unwrap_or_default();
        Ok(Self {
            scene,
            styles,
            strings,
            screen,
            atlas,
            element,
            room,
        })
    }
}

/// A scene at its start, with the screen that it is played on.
pub(crate) struct OnStage {
    pub(crate) screen: Screen,
    pub(crate) atlas: Atlas,
    pub(crate) player: ScenePlayer,
    /// The dialogue element of the screen.
    pub(crate) element: String,
}

impl OpenScene {
    /// The names of the sprites that portraits may be of; none where no screen shows them.
    pub(crate) fn sprites(&self) -> Option<Vec<String>> {
        self.scene.screen_file()?;
        let own = self.styles.pictures().map(|(name, _)| name);
        let names = self.atlas.sprite_names().map(|(name, _)| name).chain(own);
        Some(names.map(str::to_owned).collect())
    }

    /// The number of answers that the screen shows at once: those whose values its elements have;
    /// none where they are shown in another way.
    pub(crate) fn answers(&self) -> Option<usize> {
        let elements = &self.screen.description().elements;
        let is_shown = |number: &usize| {
            let value = format!("{}.choice-{number}", self.element);
            elements.iter().any(|element| {
                let is_said = match &element.content {
                    Content::Text(text) => match &text.source {
                        TextSource::Markup(text) => text.contains(&format!("({value}")),
                        _ => false,
                    },
                    _ => false,
                };
                is_said || element.visible == Visibility::While(value.clone())
            })
        };
        (1..=6).filter(is_shown).max()
    }

    /// Sets a player on the screen, in a window of a size.
    pub(crate) fn on_stage(self, window: DeviceSize) -> Result<OnStage, CliError> {
        let Self {
            scene,
            styles,
            strings,
            mut screen,
            mut atlas,
            element,
            ..
        } = self;
        for (name, image) in styles.pictures() {
            if atlas.sprite(name).is_err() {
                atlas.add_sprite(name, image, kerno::atlas::SpriteOptions::default())?;
            }
        }
        let view = screen.viewport(window)?;
        screen.arrange(&view, &atlas)?;
        let room = screen.dialogue_room(&element).unwrap_or_default();
        let player = ScenePlayer::new(scene, styles, strings, room)?;
        Ok(OnStage {
            screen,
            atlas,
            player,
            element,
        })
    }
}

/// A scene with the screen that it is played on.
pub(super) struct Stage {
    screen: Screen,
    atlas: Atlas,
    pub(super) player: ScenePlayer,
    /// The dialogue element of the screen.
    element: String,
    /// Seconds so far.
    pub(super) time: f64,
    /// Seconds that a choice waits already.
    waited: f64,
    answers: std::vec::IntoIter<u16>,
}

/// Something that happened on the stage.
#[derive(Debug)]
pub(super) enum Note {
    Line,
    Page,
    Cue(String),
    /// The page is all there.
    Stop,
    Choices,
    Chosen(String),
    End,
}

impl Note {
    /// The note of an event, if it is one.
    fn of(event: SceneEvent<'_>) -> Option<Self> {
        match event {
            SceneEvent::Line { .. } => Some(Self::Line),
            SceneEvent::Cue(name) | SceneEvent::Speech(SpeechEvent::Cue { name, .. }) => {
                Some(Self::Cue(name.to_owned()))
            }
            SceneEvent::Speech(SpeechEvent::Page(_)) => Some(Self::Page),
            SceneEvent::Speech(SpeechEvent::Stop(_)) => Some(Self::Stop),
            SceneEvent::Choices => Some(Self::Choices),
            SceneEvent::End => Some(Self::End),
            _ => None,
        }
    }
}

impl Stage {
    /// Opens a scene, its texts and its screen.
    pub(super) fn open(args: &PlayArgs) -> Result<Self, CliError> {
        let OnStage {
            mut screen,
            mut atlas,
            mut player,
            element,
        } = OpenScene::new(&args.scene, &args.files)?.on_stage(args.window.0)?;
        screen.reduce_motion(args.reduced_motion);
        for (name, text) in &args.settings {
            let declared = player.scene().values().iter().find(|own| own.name == *name);
            let value = typed_value(declared.map(|own| &own.start), name, text)?;
            player.set(name, value)?;
        }
        if let Some(language) = &args.language {
            player.set_language(language)?;
            if screen.languages().any(|known| known == language) {
                screen.set_language(language, &mut atlas)?;
            }
        }
        player.set_auto_advance(Some(args.reading_speed));
        player.set_at_once(args.at_once);
        Ok(Self {
            screen,
            atlas,
            player,
            element,
            time: 0.0,
            waited: 0.0,
            answers: args.answers.clone().into_iter(),
        })
    }

    /// Moves on by some seconds; what happens is told with its time, which is that of the player
    /// however long the steps are. Choices are made after a while.
    pub(super) fn step(
        &mut self,
        seconds: f64,
        notes: &mut Vec<(f64, Note)>,
    ) -> Result<(), CliError> {
        let mut left = seconds;
        loop {
            let start = self.time;
            let mut note = |past: f64, event: SceneEvent<'_>| {
                notes.extend(Note::of(event).map(|note| (start + past, note)));
            };
            let over = self.player.advance_timed(left, &mut note)?;
            let count = self.player.choices().len();
            let rest = CHOICE - self.waited;
            if count == 0 || over < rest {
                self.waited = if count == 0 { 0.0 } else { self.waited + over };
                self.time += left;
                self.screen.advance(left);
                return Ok(());
            }
            // It waits for an answer since `over` seconds, and has it after the rest of its while.
            let past = left - over + rest;
            self.time += past;
            self.screen.advance(past);
            left = over - rest;
            self.choose(count, notes)?;
        }
    }

    /// Chooses the answer that was asked for, or the first.
    fn choose(&mut self, count: usize, notes: &mut Vec<(f64, Note)>) -> Result<(), CliError> {
        let answer = usize::from(self.answers.next().unwrap_or(1)) - 1;
        let text = self.player.choices().get(answer).map(ToString::to_string);
        let Some(text) = text else {
            return Err(CliError::NoAnswer(answer + 1, count));
        };
        let time = self.time;
        notes.push((time, Note::Chosen(text)));
        self.player.choose(answer, &mut |event| {
            notes.extend(Note::of(event).map(|note| (time, note)));
        })?;
        self.waited = 0.0;
        Ok(())
    }

    /// The faces of the line at hand.
    pub(super) fn faces(&self) -> Vec<Face> {
        let styles = self
            .player
            .speech()
            .map(|speech| speech.speech().layout().styles());
        let style = styles.and_then(<[_]>::first);
        style.map_or_else(Vec::new, |style| {
            let faces = style.fallback.iter().chain([&style.face]);
            faces.cloned().collect()
        })
    }

    /// Draws the scene as it is now.
    pub(super) fn draw(&mut self, args: &PlayArgs) -> Result<Canvas, CliError> {
        let mut canvas = Canvas::try_new(args.window.0)?;
        canvas.clear(args.background);
        self.screen.show_dialogue(&self.element, &self.player)?;
        let view = self.screen.viewport(args.window.0)?;
        canvas.draw(self.screen.frame(&mut self.atlas, &view)?, &self.atlas);
        Ok(canvas)
    }
}

/// A screen for scenes that name none: a box at the bottom, in the style of its texts and in its
/// languages.
fn plain_screen(
    styles: &StyleFile,
    strings: &StringTables,
    style: Option<&str>,
) -> Result<(Screen, Atlas), CliError> {
    let dark = RectStyle::filled(Color::rgb(0x10, 0x1a, 0x24)).radius(6.0);
    let plate = RectStyle::filled(Color::rgb(0x24, 0x36, 0x44)).radius(4.0);
    let panel = Element::new("box", Content::Rect(dark))
        .anchor(Anchor::BOTTOM)
        .offset(Offset::new(0.0, -12.0))
        .size(560.0, 92.0)
        .visible(Visibility::While("line.open".to_owned()));
    let name = Element::new("name", Content::Rect(plate))
        .parent("box")
        .anchor(Anchor::TOP_LEFT)
        .origin(Anchor::LEFT)
        .offset(Offset::new(16.0, 0.0))
        .padding(Insets::sides(2.0, 8.0))
        .visible(Visibility::While("line.speaker".to_owned()));
    let said = |value: &str| {
        let mut words = TextContent::markup(&format!("@value({value})"));
        words.style = style.map(str::to_owned);
        words
    };
    let words = said("line.speaker");
    let words = Element::new("speaker", Content::Text(words)).parent("name");
    let line = Element::new("line", Content::Dialogue)
        .parent("box")
        .anchor(Anchor::TOP_LEFT)
        .offset(Offset::new(16.0, 16.0))
        .size(528.0, 68.0);
    let answers = Element::new("answers", Content::None)
        .anchor(Anchor::BOTTOM_RIGHT)
        .offset(Offset::new(-40.0, -112.0))
        .arrangement(kerno::screen::Arrangement::Column)
        .align(kerno::screen::Align::Stretch)
        .gap(3.0);
    let mut screen = ScreenDescription::new(Size::new(640.0, 360.0))
        .element(panel)
        .element(name)
        .element(words)
        .element(line)
        .element(answers);
    for number in 1..=6 {
        let (value, plate_name) = (format!("line.choice-{number}"), format!("answer-{number}"));
        let words = said(&value);
        let answer = Element::new(&plate_name, Content::Rect(plate))
            .parent("answers")
            .padding(Insets::sides(4.0, 10.0))
            .visible(Visibility::While(value));
        let text = Element::new(&format!("words-{number}"), Content::Text(words));
        screen = screen.element(answer).element(text.parent(&plate_name));
    }
    let mut atlas = Atlas::default();
    let screen = Screen::new(screen, styles.clone(), strings.clone(), &mut atlas)?;
    Ok((screen, atlas))
}

/// A look at the stage after a step, with what happened in it.
type Look<'a> = &'a mut dyn FnMut(&mut Stage, &[(f64, Note)]) -> Result<(), CliError>;

/// Plays a scene to its end, or to the time that was asked for, and shows each step. Returns the
/// time of the end.
pub(super) fn run(args: &PlayArgs, step: f64, each: Look<'_>) -> Result<f64, CliError> {
    let mut stage = Stage::open(args)?;
    let mut notes = Vec::new();
    stage.step(0.0, &mut notes)?;
    each(&mut stage, &notes)?;
    let mut end = None;
    while end.is_none() && stage.time < args.to {
        notes.clear();
        stage.step(step, &mut notes)?;
        each(&mut stage, &notes)?;
        let is_end = |(_, note): &&(f64, Note)| matches!(note, Note::End);
        end = notes.iter().find(is_end).map(|(time, _)| *time);
    }
    Ok(end.unwrap_or(stage.time))
}

/// Draws a bar along the lower edge of a picture.
pub(super) fn bar(canvas: &mut Canvas, share: f64) -> Result<(), CliError> {
    let DeviceSize { width, height } = canvas.size();
    let (mut atlas, mut builder) = (Atlas::default(), kerno::FrameBuilder::new());
    let mut frame = builder.begin(&mut atlas, kerno::base::Mapping::IDENTITY);
    let (width, height) = (width as f32, height as f32);
    let thick = (height / 120.0).max(2.0);
    let back = Color::rgba(0xff, 0xff, 0xff, 0x20);
    frame.rect(Rect::new(0.0, height - thick, width, thick), back);
    let done = width * (share as f32).clamp(0.0, 1.0);
    let front = Color::rgb(0xff, 0xcf, 0x70);
    frame.rect(Rect::new(0.0, height - thick, done, thick), front);
    canvas.draw(builder.finish(), &atlas);
    Ok(())
}
