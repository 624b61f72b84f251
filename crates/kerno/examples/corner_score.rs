//! A score that stays in the top right corner and grows to the left.

use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, Fit, FrameBuilder, Offset, Size,
    Style, TextLayout, Viewport,
};

const FONT: &str = concat!(
    env!("CARGO_MANIFEST_DIR"),
    "/demo/ferry/fonts/Lato-Medium.ttf"
);

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let window = DeviceSize::new(1280, 720);
    let mut canvas = Canvas::new(window);
    canvas.clear(Color::rgb(22, 34, 46));

    // The ten lines.
    let face = Face::from_file(FONT)?;
    let view = Viewport::new(Size::new(640.0, 360.0), window, Fit::Contain)?;
    let score = TextLayout::new("Fares 1,284", &Style::new(&face, 24.0))?;
    let corner = view.place(Anchor::TOP_RIGHT, Offset::new(-12.0, 12.0));
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, view.mapping());
    frame.text(&score, DrawText::at(corner, Anchor::TOP_RIGHT))?;
    canvas.draw(builder.finish(), &atlas);
    canvas.to_image().write_png_file("corner_score.png")?;
    println!("corner_score.png");
    Ok(())
}
