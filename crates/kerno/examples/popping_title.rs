//! A title that pops up, turns and comes to rest, at six moments.
//!
//! Writes `popping_title.png`.

use kerno::atlas::AtlasOptions;
use kerno::base::{Affine, Edges, Mapping};
use kerno::draw::{BoxShadow, RectStyle};
use kerno::text::Effect;
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Offset, Point, Rect,
    Style, TextLayout,
};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let fonts = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry/fonts/");
    let display = Face::from_file(format!("{fonts}AveriaSerifGWF-Bold.ttf"))?;
    let text = Face::from_file(format!("{fonts}Lato-Medium.ttf"))?;
    // One field for all sizes and turns, with a range that the glow keeps within.
    let options = AtlasOptions::default().field_range(31);
    let style = Style::new(&display, 38.0)
        .edges(Edges::DistanceField)
        .effects(vec![
            Effect::glow(10.0, Color::rgb(0xff, 0xb4, 0x54).with_alpha(120)),
            Effect::outline(2.0, Color::rgb(0x3a, 0x1d, 0x10)),
            Effect::gradient(Color::rgb(0xff, 0xf2, 0xc8), Color::rgb(0xe0, 0x90, 0x30)),
        ]);
    let title = TextLayout::new("Crossing complete", &style)?;
    let note = Style::new(&text, 15.0).color(Color::rgb(0x9f, 0xb4, 0xb8));
    let (mut atlas, mut builder) = (Atlas::new(options)?, FrameBuilder::new());
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let (high, low) = (Color::rgb(0x16, 0x26, 0x34), Color::rgb(0x2c, 0x44, 0x52));
    frame.gradient(Rect::new(0.0, 0.0, 1280.0, 800.0), [high, high, low, low]);
    for index in 0..6_u8 {
        let seconds = f32::from(index) * 0.12;
        let center = Point::new(
            226.0 + f32::from(index % 3) * 414.0,
            210.0 + f32::from(index / 3) * 370.0,
        );
        let label = TextLayout::new(&format!("{seconds:.2} s"), &note)?;
        let below = center + Offset::new(0.0, 130.0);
        frame.text(&label, DrawText::at(below, Anchor::CENTER))?;
        // It swings to its size and its place, and overshoots a little.
        let swing = (-7.0 * seconds).exp() * (14.0 * seconds).cos();
        let scale = 1.0 - 0.7 * swing;
        let way = Affine::scaling(scale, scale).then(Affine::rotation(-0.5 * swing));
        let mut pop = frame
            .scope()
            .transform(way.about(center))
            .opacity((0.2 + seconds * 5.0).min(1.0))
            .moving(true);
        let board = Rect::new(center.x - 186.0, center.y - 44.0, 372.0, 88.0);
        let shadow = BoxShadow::new(Offset::new(0.0, 6.0), 18.0, Color::BLACK.with_alpha(170));
        pop.box_shadow(board, &shadow.radius(14.0))?;
        let plate = RectStyle::filled(Color::rgb(0x12, 0x1c, 0x28));
        let plate = plate.border(2.0, Color::rgb(0xd6, 0xa8, 0x50)).radius(14.0);
        pop.styled_rect(board, plate)?;
        pop.text(&title, DrawText::at(center, Anchor::CENTER))?;
    }
    let mut canvas = Canvas::new(DeviceSize::new(1280, 800));
    canvas.draw(builder.finish(), &atlas);
    std::fs::write("popping_title.png", canvas.to_image().to_png()?)?;
    Ok(())
}
