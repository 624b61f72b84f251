//! A message log: what was said, newest at the bottom, each entry by its measured height, older
//! ones fainter, cut off at the edge of its box.

use kerno::dialogue::{Said, ScenePlayer};
use kerno::text::{LayoutOptions, Span, Wrap};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Point, Rect, Size,
    Style, TextLayout, Viewport,
};

const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");

/// An entry: the name in its own style, then the words.
fn entry(
    said: &Said,
    styles: &[Style; 3],
    width: f32,
) -> Result<TextLayout, kerno::text::TextError> {
    let [name, words, answer] = styles;
    let speaker = said.speaker.as_ref().map(|speaker| format!("{speaker}  "));
    let mut spans = Vec::new();
    spans.extend(speaker.as_ref().map(|speaker| Span::new(speaker, name)));
    let style = if said.is_answer { answer } else { words };
    spans.push(Span::new(&said.text, style));
    let options = LayoutOptions::default().width(width).wrap(Wrap::Greedy);
    TextLayout::with_options(&spans, &options)
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    // A scene played to its end: its history is the log.
    let room = Size::new(404.0, 48.0);
    let mut talk = ScenePlayer::from_file(format!("{FERRY}/crossing.toml"), room)?;
    while !talk.is_over() {
        if talk.choices().is_empty() {
            talk.press(&mut |_| {})?;
        } else {
            talk.choose(1, &mut |_| {})?;
        }
    }

    let face = Face::from_file(format!("{FERRY}/fonts/Lato-Medium.ttf"))?;
    let words = Style::new(&face, 12.5).color(Color::rgb(0xf6, 0xea, 0xd0));
    let gold = Color::rgb(0xff, 0xcf, 0x70);
    let answer = Style::new(&face, 12.5).color(Color::rgb(0x8f, 0xd0, 0xc0));
    let styles = [words.clone().color(gold), words, answer];
    let window = DeviceSize::new(1280, 800);
    let view = Viewport::new(Size::new(640.0, 400.0), window, kerno::Fit::Contain)?;
    let panel = Rect::new(130.0, 90.0, 380.0, 220.0);
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, view.mapping());
    frame.rect(panel, Color::rgb(20, 34, 46));
    let mut inside = frame.scope().clip(panel);
    let mut bottom = panel.bottom() - 10.0;
    let entries: Vec<&Said> = talk.history().collect();
    for (age, said) in entries.into_iter().rev().enumerate() {
        let layout = entry(said, &styles, panel.width - 24.0)?;
        let at = Point::new(panel.x + 12.0, bottom);
        let opacity = (1.0 - 0.13 * age as f32).max(0.25);
        let mut faded = inside.scope().opacity(opacity);
        faded.text(&layout, DrawText::at(at, Anchor::BOTTOM_LEFT))?;
        bottom -= layout.size().height + 6.0;
        if bottom < panel.y {
            break;
        }
    }
    let mut canvas = Canvas::new(window);
    canvas.clear(Color::rgb(14, 22, 31));
    canvas.draw(builder.finish(), &atlas);
    canvas.to_image().write_png_file("message_log.png")?;
    println!("message_log.png");
    Ok(())
}
