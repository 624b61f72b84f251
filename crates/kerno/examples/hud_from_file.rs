//! The ferry's HUD from its file: opened, handed the game's values, drawn in one call.

use kerno::bake::Manifest;
use kerno::screen::Screen;
use kerno::{Atlas, Canvas, Color, DeviceSize};

const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut atlas = Atlas::default();
    Manifest::from_file(format!("{FERRY}/sprites.toml"))?.add_sprites_to(&mut atlas)?;
    let mut hud = Screen::from_file(format!("{FERRY}/hud.toml"), &mut atlas)?;

    // Three moments: the fares roll to what the game says, the gauge follows the oil.
    let window = DeviceSize::new(1280, 720);
    for moment in 1..=3 {
        hud.set("fares", 1284 + 250 * moment)?;
        hud.set("oil", 0.7 - 0.2 * f64::from(moment))?;
        hud.advance(0.25);
        let view = hud.viewport(window)?;
        let before = atlas.usage().changed_bytes;
        let frame = hud.frame(&mut atlas, &view)?;
        let (quads, calls, bytes) = (frame.quad_count(), frame.batches.len(), frame.byte_count());
        let pictures = atlas.usage().changed_bytes - before;
        let texts = hud.take_laid_out();
        println!(
            "{quads} quads, {calls} draw call, {bytes} bytes of quads and {pictures} of pictures to upload, {texts} texts laid out"
        );
    }
    let view = hud.viewport(window)?;
    let mut canvas = Canvas::new(window);
    canvas.clear(Color::rgb(0x16, 0x22, 0x2e));
    canvas.draw(hud.frame(&mut atlas, &view)?, &atlas);
    canvas.to_image().write_png_file("hud_from_file.png")?;
    println!("hud_from_file.png");
    Ok(())
}
