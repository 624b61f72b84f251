//! A score that grows from the right edge: its digits are all of one width, so that
//! nothing moves but the digits that change.

use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, Fit, FrameBuilder, Offset, Size,
    Style, TextLayout, Viewport,
};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let fonts = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry/fonts/");
    let face = Face::from_file(format!("{fonts}Lato-Medium.ttf"))?;
    let window = DeviceSize::new(960, 540);
    let view = Viewport::new(Size::new(320.0, 180.0), window, Fit::Contain)?;
    let style = Style::new(&face, 18.0)
        .tabular(true)
        .color(Color::rgb(0xff, 0xcf, 0x70));
    let label = Style::new(&face, 18.0).color(Color::rgb(0xa9, 0xc2, 0xc6));
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, view.mapping());
    let mut at = view.place(Anchor::TOP_RIGHT, Offset::new(-14.0, 14.0));
    for score in ["7", "71", "911", "1,284", "10,007", "311,111"] {
        let number = TextLayout::new(score, &style)?;
        frame.text(&number, DrawText::at(at, Anchor::TOP_RIGHT))?;
        // The label stands beside the number, wherever that begins.
        let beside = at + Offset::new(-number.size().width - 8.0, 0.0);
        let fares = TextLayout::new("Fares", &label)?;
        frame.text(&fares, DrawText::at(beside, Anchor::TOP_RIGHT))?;
        at = at + Offset::new(0.0, number.size().height + 4.0);
    }
    let mut canvas = Canvas::new(window);
    canvas.clear(Color::rgb(0x16, 0x22, 0x2e));
    canvas.draw(builder.finish(), &atlas);
    canvas.to_image().write_png_file("growing_score.png")?;
    println!("growing_score.png");
    Ok(())
}
