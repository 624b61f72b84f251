//! A message of two sizes, centred as a whole: one block, whatever its lines are.

use kerno::text::{LayoutOptions, Span, TextAlign, Wrap};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, Fit, FrameBuilder, Size, Style,
    TextLayout, Viewport,
};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let fonts = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry/fonts/");
    let display = Face::from_file(format!("{fonts}AveriaSerifGWF-Bold.ttf"))?;
    let text = Face::from_file(format!("{fonts}Lato-Medium.ttf"))?;
    let window = DeviceSize::new(960, 540);
    let view = Viewport::new(Size::new(320.0, 180.0), window, Fit::Contain)?;
    let title = Style::new(&display, 26.0).color(Color::rgb(0xf6, 0xea, 0xd0));
    let order = Style::new(&text, 11.0).color(Color::rgb(0xff, 0xcf, 0x70));
    let spans = [
        Span::new("Crossing complete\n", &title),
        Span::new(
            "Seventeen passengers went ashore at Heron Steps, and two bells were rung for the fog",
            &order,
        ),
    ];
    let options = LayoutOptions::default()
        .align(TextAlign::Center)
        .width(240.0)
        .wrap(Wrap::Balanced);
    let message = TextLayout::with_options(&spans, &options)?;
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, view.mapping());
    let middle = view.window_rect().point(Anchor::CENTER);
    frame.text(&message, DrawText::at(middle, Anchor::CENTER))?;
    let mut canvas = Canvas::new(window);
    canvas.clear(Color::rgb(0x16, 0x22, 0x2e));
    canvas.draw(builder.finish(), &atlas);
    canvas.to_image().write_png_file("centred_message.png")?;
    println!("centred_message.png");
    Ok(())
}
