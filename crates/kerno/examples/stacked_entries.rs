//! Measure, then place: a list of entries, each below the one before by its
//! own height, on a plate that is as wide as the widest.

use kerno::text::{LayoutOptions, Span, TextAlign};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, Fit, FrameBuilder, Offset, Rect,
    Size, Style, TextLayout, Viewport,
};

const FONTS: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry/fonts");
const GAP: f32 = 6.0;
const PADDING: f32 = 18.0;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let text = Face::from_file(format!("{FONTS}/Lato-Medium.ttf"))?;
    let display = Face::from_file(format!("{FONTS}/AveriaSerifGWF-Bold.ttf"))?;
    let title = Style::new(&display, 30.0).color(Color::rgb(255, 207, 112));
    let entry = Style::new(&text, 18.0);
    let small = Style::new(&text, 12.0).color(Color::rgb(169, 194, 198));
    let centered = LayoutOptions::default().align(TextAlign::Center);
    let entries = [
        ("Landings tonight", &title),
        ("Heron Steps", &entry),
        ("Mill Reach\nby way of the eel weirs", &entry),
        ("Last boat: half past eleven", &small),
    ]
    .map(|(text, style)| TextLayout::with_options(&[Span::new(text, style)], &centered));
    let entries = entries.into_iter().collect::<Result<Vec<_>, _>>()?;
    let width = entries
        .iter()
        .map(|entry| entry.size().width)
        .fold(0.0, f32::max);
    let heights: f32 = entries.iter().map(|entry| entry.size().height + GAP).sum();

    let window = DeviceSize::new(1280, 720);
    let view = Viewport::new(Size::new(640.0, 360.0), window, Fit::Contain)?;
    let size = Size::new(width + 2.0 * PADDING, heights - GAP + 2.0 * PADDING);
    let plate = Rect::anchored(
        view.place(Anchor::CENTER, Offset::ZERO),
        Anchor::CENTER,
        size,
    );
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, view.mapping());
    frame.scope().layer(-1).rect(plate, Color::rgb(32, 52, 68));
    let mut at = plate.point(Anchor::TOP) + Offset::new(0.0, PADDING);
    for entry in &entries {
        frame.text(entry, DrawText::at(at, Anchor::TOP))?;
        at = at + Offset::new(0.0, entry.size().height + GAP);
    }

    let mut canvas = Canvas::new(window);
    canvas.clear(Color::rgb(14, 22, 31));
    canvas.draw(builder.finish(), &atlas);
    canvas.to_image().write_png_file("stacked_entries.png")?;
    println!("stacked_entries.png");
    Ok(())
}
