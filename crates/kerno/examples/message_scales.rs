//! One message at five scales: its letters are drawn for each, and its shadow and outline grow
//! with it.
//!
//! Writes `message_scales.png`.

use kerno::base::{Affine, Mapping};
use kerno::text::{Effect, Shadow};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Offset, Point, Rect,
    Style, TextLayout,
};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let fonts = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry/fonts/");
    let display = Face::from_file(format!("{fonts}AveriaSerifGWF-Bold.ttf"))?;
    let text = Face::from_file(format!("{fonts}Lato-Medium.ttf"))?;
    let shadow = Shadow::new(Offset::new(0.0, 1.5), Color::BLACK.with_alpha(190)).blur(3.0);
    let style = Style::new(&display, 34.0).effects(vec![
        Effect::Shadow(shadow),
        Effect::outline(1.2, Color::rgb(0x3a, 0x1d, 0x10)),
        Effect::gradient(Color::rgb(0xff, 0xf2, 0xc8), Color::rgb(0xe0, 0x90, 0x30)),
    ]);
    let message = TextLayout::new("Fog bank ahead", &style)?;
    let note = Style::new(&text, 15.0).color(Color::rgb(0x9f, 0xb4, 0xb8));
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let (high, low) = (Color::rgb(0x24, 0x3c, 0x4c), Color::rgb(0x4a, 0x62, 0x6c));
    frame.gradient(Rect::new(0.0, 0.0, 1280.0, 800.0), [high, high, low, low]);
    for (scale, baseline) in [
        (0.5, 80.0),
        (1.0, 170.0),
        (1.5, 290.0),
        (2.0, 440.0),
        (4.0, 690.0),
    ] {
        let at = Point::new(120.0, baseline);
        let label = TextLayout::new(&format!("{scale}×"), &note)?;
        frame.text(
            &label,
            DrawText::at(Point::new(40.0, baseline), Anchor::LEFT),
        )?;
        let grown = Affine::scaling(scale, scale).about(at);
        let mut scope = frame.scope().transform(grown);
        scope.text(&message, DrawText::at(at, Anchor::LEFT))?;
    }
    let mut canvas = Canvas::new(DeviceSize::new(1280, 800));
    canvas.draw(builder.finish(), &atlas);
    std::fs::write("message_scales.png", canvas.to_image().to_png()?)?;
    Ok(())
}
