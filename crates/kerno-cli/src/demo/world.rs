//! The demo's files, opened, and a frame gathered from them.

use kerno::draw::Frame;
use kerno::screen::Screen;
use kerno::{Atlas, DeviceSize, Face, FrameBuilder, Pack, Viewport};

use super::stage::{Sprites, Stage, add_sprites, faces};
use super::{hud, scene};
use crate::error::CliError;

/// The demo's files, opened, and its frame.
pub(crate) struct World {
    view: Viewport,
    sprites: Sprites,
    screen: Screen,
    /// Seconds that the screen has run.
    time: f64,
    atlas: Atlas,
    builder: FrameBuilder,
}

impl World {
    /// Opens the fonts and sprites for a window.
    pub(crate) fn open(window: DeviceSize) -> Result<Self, CliError> {
        let mut atlas = Atlas::default();
        add_sprites(&mut atlas)?;
        let faces = faces()?;
        let face = |name: &str| {
            let found = faces.iter().find(|(known, _)| *known == name);
            found.map(|(_, face)| face.clone())
        };
        Self::of(window, face, atlas)
    }

    /// Takes faces and pictures from a pack.
    pub(crate) fn of_pack(window: DeviceSize, pack: &Pack) -> Result<Self, CliError> {
        Self::of(window, |name| pack.face(name).ok(), pack.atlas())
    }

    fn of(
        window: DeviceSize,
        faces: impl Fn(&str) -> Option<Face>,
        mut atlas: Atlas,
    ) -> Result<Self, CliError> {
        let screen = hud::open(faces, &mut atlas)?;
        Ok(Self {
            view: screen.viewport(window)?,
            sprites: Sprites::of(&atlas)?,
            screen,
            time: 0.0,
            atlas,
            builder: FrameBuilder::new(),
        })
    }

    /// Says everything in another language.
    pub(crate) fn speak(&mut self, language: &str) -> Result<(), CliError> {
        Ok(self.screen.set_language(language, &mut self.atlas)?)
    }

    /// Gathers a frame whose dialogue has run for `time` seconds (or is all
    /// there). Returns how many characters no face had.
    pub(crate) fn gather(&mut self, time: Option<f64>) -> Result<usize, CliError> {
        let mut stage = Stage {
            view: &self.view,
            sprites: &self.sprites,
            frame: self.builder.begin(&mut self.atlas, self.view.mapping()),
        };
        scene::draw(&mut stage)?;
        let now = time.unwrap_or(0.0);
        self.screen.advance(now - self.time);
        self.time = now;
        hud::draw(&mut self.screen, &mut stage.frame, (&self.view, time))?;
        Ok(self.screen.missing())
    }

    /// The frame last gathered, and the atlas it draws from.
    pub(crate) fn frame(&mut self) -> (Frame<'_>, &Atlas) {
        (self.builder.finish(), &self.atlas)
    }
}
