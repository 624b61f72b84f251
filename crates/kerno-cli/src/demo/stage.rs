//! The means of every part of the demo: faces, sprites, the frame at hand.

use kerno::atlas::{SliceFill, SpriteId, SpriteOptions};
use kerno::base::{Image, Insets};
use kerno::draw::Scope;
use kerno::{Anchor, Atlas, Face, Viewport};

use crate::error::CliError;

macro_rules! demo_file {
    ($($path:literal),+) => {
        include_bytes!(concat!("../../demo/ferry/", $($path),+)).as_slice()
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

/// The faces of the demo by their names.
pub(crate) fn faces() -> Result<[(&'static str, Face); 4], CliError> {
    Ok([
        ("text", caption_face()?),
        (
            "display",
            Face::from_bytes(demo_file!("fonts/AveriaSerifGWF-Bold.ttf"))?,
        ),
        ("pixel", label_face()?),
        (
            "hebrew",
            Face::from_bytes(demo_file!("fonts/NotoSansHebrew-Regular.ttf"))?,
        ),
    ])
}

/// The picture of a sprite of the demo.
pub(super) fn picture(name: &str) -> Option<Image> {
    let (.., png) = SPRITES.iter().find(|(known, ..)| *known == name)?;
    Image::from_png(png).ok()
}

/// A sprite: image pixels per design pixel, nine-slice borders in design
/// pixels (top and bottom, left and right), how its middle fills its room, and
/// the PNG.
type SpriteFile = (&'static str, f32, (f32, f32), SliceFill, &'static [u8]);

/// Every sprite of the demo.
const SPRITES: [SpriteFile; 16] = [
    (
        "lantern",
        4.0,
        (0.0, 0.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "lantern", ".png"),
    ),
    (
        "ticket",
        4.0,
        (0.0, 0.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "ticket", ".png"),
    ),
    (
        "oar",
        4.0,
        (0.0, 0.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "oar", ".png"),
    ),
    (
        "portrait",
        4.0,
        (0.0, 0.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "portrait", ".png"),
    ),
    (
        "panel",
        4.0,
        (12.0, 12.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "panel", ".png"),
    ),
    (
        "nameplate",
        4.0,
        (10.0, 10.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "nameplate", ".png"),
    ),
    (
        "signboard",
        4.0,
        (10.0, 11.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "signboard", ".png"),
    ),
    (
        "gauge-back",
        4.0,
        (0.0, 5.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "gauge-back", ".png"),
    ),
    (
        "gauge-fill",
        4.0,
        (0.0, 3.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "gauge-fill", ".png"),
    ),
    (
        "gauge-marks",
        4.0,
        (0.0, 0.0),
        SliceFill::Tile,
        demo_file!("sprites/", "gauge-marks", ".png"),
    ),
    (
        "ferry",
        4.0,
        (0.0, 0.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "ferry", ".png"),
    ),
    (
        "moon",
        3.0,
        (0.0, 0.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "moon", ".png"),
    ),
    (
        "glow",
        1.0,
        (0.0, 0.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "glow", ".png"),
    ),
    (
        "hills",
        1.5,
        (0.0, 0.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "hills", ".png"),
    ),
    (
        "pines",
        1.5,
        (0.0, 0.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "pines", ".png"),
    ),
    (
        "fog",
        1.0,
        (0.0, 0.0),
        SliceFill::Stretch,
        demo_file!("sprites/", "fog", ".png"),
    ),
];

/// Adds the sprites of the demo to an atlas.
pub(crate) fn add_sprites(atlas: &mut Atlas) -> Result<(), CliError> {
    for file in SPRITES {
        add_sprite(atlas, file)?;
    }
    add_bell(atlas)
}

/// The sprites of the scene behind the HUD.
pub(crate) struct Sprites {
    pub(crate) ferry: SpriteId,
    pub(crate) moon: SpriteId,
    pub(crate) glow: SpriteId,
    pub(crate) hills: SpriteId,
    pub(crate) pines: SpriteId,
    pub(crate) fog: SpriteId,
}

impl Sprites {
    pub(crate) fn of(atlas: &Atlas) -> Result<Self, CliError> {
        Ok(Self {
            ferry: atlas.sprite("ferry")?,
            moon: atlas.sprite("moon")?,
            glow: atlas.sprite("glow")?,
            hills: atlas.sprite("hills")?,
            pines: atlas.sprite("pines")?,
            fog: atlas.sprite("fog")?,
        })
    }
}

fn add_sprite(
    atlas: &mut Atlas,
    (name, density, borders, middle, png): SpriteFile,
) -> Result<(), CliError> {
    let image = Image::from_png(png).map_err(|error| CliError::Sprite(name, error))?;
    let options = SpriteOptions::default()
        .density(density)
        .slices(Insets::sides(borders.0 * density, borders.1 * density))
        .middle(middle);
    atlas.add_sprite(name, &image, options)?;
    Ok(())
}

/// The fog bell: four frames in a strip.
fn add_bell(atlas: &mut Atlas) -> Result<(), CliError> {
    let image = Image::from_png(demo_file!("sprites/bell.png"))
        .map_err(|error| CliError::Sprite("bell", error))?;
    let options = SpriteOptions::default().density(4.0).origin(Anchor::TOP);
    atlas.add_strip("bell", &image, image.width() / 4, &options)?;
    Ok(())
}

/// All that the scene draws with.
pub(crate) struct Stage<'a> {
    pub(crate) view: &'a Viewport,
    pub(crate) sprites: &'a Sprites,
    pub(crate) frame: Scope<'a>,
}
