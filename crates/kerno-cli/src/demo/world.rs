//! Fonts and sprites of the demo, and a frame gathered from them.

use kerno::{
    Atlas, DeviceSize, Face, Fit, Frame, FrameBuilder, Image, Insets, Size, SpriteId,
    SpriteOptions, Viewport,
};

use super::{hud, scene};
use crate::error::CliError;

/// The size that the HUD was designed for.
const DESIGN: Size = Size::new(640.0, 360.0);

/// The faces of the demo.
pub(crate) struct Faces {
    pub(crate) text: Face,
    pub(crate) display: Face,
    pub(crate) pixel: Face,
}

macro_rules! demo_file {
    ($($path:literal),+) => {
        include_bytes!(concat!("../../../../demo/ferry/", $($path),+)).as_slice()
    };
}

/// A sprite: image pixels per design pixel, nine-slice borders in design
/// pixels (top and bottom, left and right), and the PNG.
type SpriteFile = (&'static str, f32, (f32, f32), &'static [u8]);

/// Every sprite of the demo. Their names are what [`Sprites`] is made from.
macro_rules! sprites {
    ($($field:ident: $name:literal, $density:literal, $borders:expr;)*) => {
        /// The sprites of the demo.
        pub(crate) struct Sprites {
            $(pub(crate) $field: SpriteId,)*
        }

        impl Sprites {
            fn add_to(atlas: &mut Atlas) -> Result<Self, CliError> {
                Ok(Self {
                    $($field: add_sprite(atlas, (
                        $name,
                        $density,
                        $borders,
                        demo_file!("sprites/", $name, ".png"),
                    ))?,)*
                })
            }
        }
    };
}

sprites! {
    lantern: "lantern", 4.0, (0.0, 0.0);
    ticket: "ticket", 4.0, (0.0, 0.0);
    oar: "oar", 4.0, (0.0, 0.0);
    bell: "bell", 4.0, (0.0, 0.0);
    portrait: "portrait", 4.0, (0.0, 0.0);
    panel: "panel", 4.0, (12.0, 12.0);
    nameplate: "nameplate", 4.0, (10.0, 10.0);
    signboard: "signboard", 4.0, (10.0, 11.0);
    gauge_back: "gauge-back", 4.0, (0.0, 5.0);
    gauge_fill: "gauge-fill", 4.0, (0.0, 3.0);
    ferry: "ferry", 4.0, (0.0, 0.0);
    moon: "moon", 3.0, (0.0, 0.0);
    glow: "glow", 1.0, (0.0, 0.0);
    hills: "hills", 1.5, (0.0, 0.0);
    pines: "pines", 1.5, (0.0, 0.0);
    fog: "fog", 1.0, (0.0, 0.0);
}

fn add_sprite(
    atlas: &mut Atlas,
    (name, density, borders, png): SpriteFile,
) -> Result<SpriteId, CliError> {
    let image = Image::from_png(png).map_err(|error| CliError::Sprite(name, error))?;
    let options = SpriteOptions {
        density,
        slices: Insets::sides(borders.0 * density, borders.1 * density),
        ..SpriteOptions::default()
    };
    Ok(atlas.add_sprite(name, &image, options)?)
}

/// The demo's files, opened, and its frame.
pub(crate) struct World {
    view: Viewport,
    faces: Faces,
    sprites: Sprites,
    atlas: Atlas,
    frame: FrameBuilder,
}

impl World {
    /// Opens the fonts and sprites for a window.
    pub(crate) fn open(window: DeviceSize) -> Result<Self, CliError> {
        let view = Viewport::new(DESIGN, window, Fit::Contain)?;
        let mut atlas = Atlas::default();
        Ok(Self {
            view,
            faces: Faces {
                text: Face::from_bytes(demo_file!("fonts/Lato-Medium.ttf"))?,
                display: Face::from_bytes(demo_file!("fonts/AveriaSerifGWF-Bold.ttf"))?,
                pixel: Face::from_bytes(demo_file!("fonts/misaki_gothic.ttf"))?,
            },
            sprites: Sprites::add_to(&mut atlas)?,
            atlas,
            frame: FrameBuilder::new(view.mapping()),
        })
    }

    /// Gathers a frame whose dialogue has run for `time` seconds (or is all
    /// there). Returns how many characters no face had.
    pub(crate) fn gather(&mut self, time: Option<f64>) -> Result<usize, CliError> {
        self.frame.restart(self.view.mapping());
        let mut stage = Stage {
            view: &self.view,
            faces: &self.faces,
            sprites: &self.sprites,
            atlas: &mut self.atlas,
            frame: &mut self.frame,
            missing: 0,
        };
        scene::draw(&mut stage)?;
        hud::draw(&mut stage, time)?;
        Ok(stage.missing)
    }

    /// The frame last gathered, and the atlas it draws from.
    pub(crate) fn frame(&mut self) -> (Frame<'_>, &Atlas) {
        (self.frame.finish(), &self.atlas)
    }
}

/// All that a part of the demo draws with.
pub(crate) struct Stage<'a> {
    pub(crate) view: &'a Viewport,
    pub(crate) faces: &'a Faces,
    pub(crate) sprites: &'a Sprites,
    pub(crate) atlas: &'a mut Atlas,
    pub(crate) frame: &'a mut FrameBuilder,
    /// Characters that no face had.
    pub(crate) missing: usize,
}
