//! The demo's files, opened, and a frame gathered from them.

use kerno::atlas::Animation;
use kerno::draw::Frame;
use kerno::{Atlas, DeviceSize, Fit, FrameBuilder, Pack, Size, Viewport};

use super::lines::Lines;
use super::stage::{Faces, Sprites, Stage, add_bell};
use super::{hud, scene};
use crate::error::CliError;

/// The size that the HUD was designed for.
const DESIGN: Size = Size::new(640.0, 360.0);

/// The demo's files, opened, and its frame.
pub(crate) struct World {
    view: Viewport,
    faces: Faces,
    sprites: Sprites,
    bell: Animation,
    lines: Lines,
    atlas: Atlas,
    builder: FrameBuilder,
}

impl World {
    /// Opens the fonts and sprites for a window.
    pub(crate) fn open(window: DeviceSize) -> Result<Self, CliError> {
        let mut atlas = Atlas::default();
        let sprites = Sprites::add_to(&mut atlas)?;
        let bell = add_bell(&mut atlas)?;
        Self::of(window, Faces::open()?, sprites, bell, atlas)
    }

    /// Takes faces and pictures from a pack.
    pub(crate) fn of_pack(window: DeviceSize, pack: &Pack) -> Result<Self, CliError> {
        let atlas = pack.atlas();
        let sprites = Sprites::of_pack(&atlas)?;
        let bell = pack.animation("bell")?;
        Self::of(window, Faces::of_pack(pack)?, sprites, bell, atlas)
    }

    fn of(
        window: DeviceSize,
        faces: Faces,
        sprites: Sprites,
        bell: Animation,
        atlas: Atlas,
    ) -> Result<Self, CliError> {
        let view = Viewport::new(DESIGN, window, Fit::Contain)?;
        Ok(Self {
            view,
            faces,
            sprites,
            bell,
            lines: Lines::open()?,
            atlas,
            builder: FrameBuilder::new(),
        })
    }

    /// Gathers a frame whose dialogue has run for `time` seconds (or is all
    /// there). Returns how many characters no face had.
    pub(crate) fn gather(&mut self, time: Option<f64>) -> Result<usize, CliError> {
        let mut stage = Stage {
            view: &self.view,
            faces: &self.faces,
            sprites: &self.sprites,
            bell: &self.bell,
            lines: &self.lines,
            frame: self.builder.begin(&mut self.atlas, self.view.mapping()),
            missing: 0,
        };
        scene::draw(&mut stage)?;
        hud::draw(&mut stage, time)?;
        Ok(stage.missing)
    }

    /// The frame last gathered, and the atlas it draws from.
    pub(crate) fn frame(&mut self) -> (Frame<'_>, &Atlas) {
        (self.builder.finish(), &self.atlas)
    }
}
