//! One screen in three languages, the last from right to left: texts by key, plural forms,
//! the layout mirrored. Nothing of the screen names a language.

use kerno::bake::Manifest;
use kerno::screen::Screen;
use kerno::{Atlas, Canvas, Color, DeviceSize};

const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut atlas = Atlas::default();
    Manifest::from_file(format!("{FERRY}/sprites.toml"))?.add_sprites_to(&mut atlas)?;
    let mut hud = Screen::from_file(format!("{FERRY}/hud.toml"), &mut atlas)?;
    let window = DeviceSize::new(640, 360);
    let view = hud.viewport(window)?;
    let languages: Vec<String> = hud.languages().map(str::to_owned).collect();
    let mut sheet = Canvas::new(DeviceSize::new(640, 360 * languages.len() as u32));
    for (row, language) in languages.iter().enumerate() {
        hud.set_language(language, &mut atlas)?;
        let mut canvas = Canvas::new(window);
        canvas.clear(Color::rgb(0x16, 0x22, 0x2e));
        // One passenger, then two, then seven: each language has its own forms.
        hud.set("aboard", [1, 2, 7][row.min(2)])?;
        canvas.draw(hud.frame(&mut atlas, &view)?, &atlas);
        sheet.draw_enlarged(&canvas, 0, 360 * row as i32, 1);
        let aboard = hud.text("aboard").map_or("", |text| text.text());
        println!("{language}: {aboard}");
    }
    sheet.to_image().write_png_file("three_languages.png")?;
    println!("three_languages.png");
    Ok(())
}
