//! What every part of the demo draws with: faces, sprites, the frame at hand.

use kerno::atlas::{Animation, SliceFill, SpriteId, SpriteOptions};
use kerno::base::{Image, Insets};
use kerno::draw::Scope;
use kerno::{Anchor, Atlas, Face, Pack, Viewport};

use super::lines::Lines;
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

/// The pixel face of the demo, for labels.
pub(crate) fn label_face() -> Result<Face, CliError> {
    Ok(Face::from_bytes(demo_file!("fonts/misaki_gothic.ttf"))?)
}

impl Faces {
    pub(crate) fn open() -> Result<Self, CliError> {
        Ok(Self {
            text: caption_face()?,
            display: Face::from_bytes(demo_file!("fonts/AveriaSerifGWF-Bold.ttf"))?,
            pixel: label_face()?,
        })
    }

    pub(crate) fn of_pack(pack: &Pack) -> Result<Self, CliError> {
        Ok(Self {
            text: pack.face("text")?,
            display: pack.face("display")?,
            pixel: pack.face("pixel")?,
        })
    }
}

/// A sprite: image pixels per design pixel, nine-slice borders in design
/// pixels (top and bottom, left and right), how its middle fills its room, and
/// the PNG.
type SpriteFile = (&'static str, f32, (f32, f32), SliceFill, &'static [u8]);

/// Every sprite of the demo. Their names are what [`Sprites`] is made from.
macro_rules! sprites {
    ($($field:ident: $name:literal, $density:literal, $borders:expr, $middle:ident;)*) => {
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
                        SliceFill::$middle,
                        demo_file!("sprites/", $name, ".png"),
                    ))?,)*
                })
            }

            /// Those that a pack has brought along.
            pub(crate) fn of_pack(atlas: &Atlas) -> Result<Self, CliError> {
                Ok(Self {
                    $($field: atlas.sprite($name)?,)*
                })
            }
        }
    };
}

sprites! {
    lantern: "lantern", 4.0, (0.0, 0.0), Stretch;
    ticket: "ticket", 4.0, (0.0, 0.0), Stretch;
    oar: "oar", 4.0, (0.0, 0.0), Stretch;
    portrait: "portrait", 4.0, (0.0, 0.0), Stretch;
    panel: "panel", 4.0, (12.0, 12.0), Stretch;
    nameplate: "nameplate", 4.0, (10.0, 10.0), Stretch;
    signboard: "signboard", 4.0, (10.0, 11.0), Stretch;
    gauge_back: "gauge-back", 4.0, (0.0, 5.0), Stretch;
    gauge_fill: "gauge-fill", 4.0, (0.0, 3.0), Stretch;
    gauge_marks: "gauge-marks", 4.0, (0.0, 0.0), Tile;
    ferry: "ferry", 4.0, (0.0, 0.0), Stretch;
    moon: "moon", 3.0, (0.0, 0.0), Stretch;
    glow: "glow", 1.0, (0.0, 0.0), Stretch;
    hills: "hills", 1.5, (0.0, 0.0), Stretch;
    pines: "pines", 1.5, (0.0, 0.0), Stretch;
    fog: "fog", 1.0, (0.0, 0.0), Stretch;
}

fn add_sprite(
    atlas: &mut Atlas,
    (name, density, borders, middle, png): SpriteFile,
) -> Result<SpriteId, CliError> {
    let image = Image::from_png(png).map_err(|error| CliError::Sprite(name, error))?;
    let options = SpriteOptions::default()
        .density(density)
        .slices(Insets::sides(borders.0 * density, borders.1 * density))
        .middle(middle);
    Ok(atlas.add_sprite(name, &image, options)?)
}

/// The fog bell: four frames in a strip.
pub(crate) fn add_bell(atlas: &mut Atlas) -> Result<Animation, CliError> {
    let image = Image::from_png(demo_file!("sprites/bell.png"))
        .map_err(|error| CliError::Sprite("bell", error))?;
    let options = SpriteOptions::default().density(4.0).origin(Anchor::TOP);
    let frames = atlas.add_strip("bell", &image, image.width() / 4, &options)?;
    let seconds = [0.4, 0.25, 0.4, 0.25];
    Ok(Animation::new(frames.into_iter().zip(seconds), true)?)
}

/// All that a part of the demo draws with.
pub(crate) struct Stage<'a> {
    pub(crate) view: &'a Viewport,
    pub(crate) faces: &'a Faces,
    pub(crate) sprites: &'a Sprites,
    pub(crate) bell: &'a Animation,
    pub(crate) lines: &'a Lines,
    pub(crate) frame: Scope<'a>,
    /// Characters that no face had.
    pub(crate) missing: usize,
}
