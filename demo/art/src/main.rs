//! Draws the sprites of the demo world, the Lamplight Ferry, with Kerno's own
//! rasteriser, and makes its colour font: `cargo run --release -p ferry-art [FOLDER]`. Without a
//! folder they go to `demo/ferry/sprites`.

mod brush;
mod hud;
mod people;
mod scene;
mod signs;

use std::path::PathBuf;

use brush::Sheet;

/// A sprite's file name and what draws it.
type Drawing = (&'static str, fn() -> Sheet);

const DRAWINGS: [Drawing; 17] = [
    ("lantern", hud::lantern),
    ("ticket", hud::ticket),
    ("oar", hud::oar),
    ("bell", hud::bell),
    ("panel", hud::panel),
    ("nameplate", hud::nameplate),
    ("signboard", hud::signboard),
    ("gauge-back", hud::gauge_back),
    ("gauge-fill", hud::gauge_fill),
    ("gauge-marks", hud::gauge_marks),
    ("portrait", people::odelle_marsh),
    ("ferry", scene::ferry),
    ("moon", scene::moon),
    ("glow", scene::glow),
    ("hills", scene::hills),
    ("pines", scene::pines),
    ("fog", scene::fog),
];

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let folder = std::env::args_os().nth(1).map_or_else(
        || PathBuf::from(concat!(env!("CARGO_MANIFEST_DIR"), "/../ferry/sprites")),
        PathBuf::from,
    );
    for (name, draw) in DRAWINGS {
        let path = folder.join(format!("{name}.png"));
        draw().into_image()?.write_png_file(&path)?;
        println!("{name}.png");
    }
    let font = folder.join("FerrySigns.ttf");
    std::fs::write(font, signs::font())?;
    println!("FerrySigns.ttf");
    Ok(())
}
