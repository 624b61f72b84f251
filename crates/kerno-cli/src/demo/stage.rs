//! What every part of the demo draws with: faces, sprites, the frame at hand.

use kerno::{Atlas, Face, FrameBuilder, Image, Insets, SpriteId, SpriteOptions, Viewport};

use crate::error::CliError;

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

/// The text face of the demo, which other commands write their captions in.
pub(crate) fn caption_face() -> Result<Face, CliError> {
    Ok(Face::from_bytes(demo_file!("fonts/Lato-Medium.ttf"))?)
}

impl Faces {
    pub(crate) fn open() -> Result<Self, CliError> {
        Ok(Self {
            text: caption_face()?,
            display: Face::from_bytes(demo_file!("fonts/AveriaSerifGWF-Bold.ttf"))?,
            pixel: Face::from_bytes(demo_file!("fonts/misaki_gothic.ttf"))?,
        })
    }
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
            pub(crate) fn add_to(atlas: &mut Atlas) -> Result<Self, CliError> {
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
