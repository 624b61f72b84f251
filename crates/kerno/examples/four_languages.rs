//! A paragraph in a box, in four languages: lines break as each of them does, and
//! what one face lacks comes from another.

use kerno::base::Mapping;
use kerno::text::{LayoutOptions, Span, TextAlign, Wrap};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Point, Rect, Style,
    TextLayout,
};

const TEXTS: [(&str, &str); 4] = [
    (
        "English",
        "The night ferry crosses a chain of foggy lakes. Keep the lamp lit, and nobody is lost.",
    ),
    (
        "Polski",
        "Nocny prom przepływa przez łańcuch zamglonych jezior. Póki lampa świeci, nikt nie zginie.",
    ),
    (
        "Deutsch",
        "Die Nachtfähre quert eine Kette nebliger Seen. Solange die Laterne brennt, geht niemand verloren.",
    ),
    (
        "日本語",
        "夜の渡し船は、霧の深い湖をいくつも渡っていく。灯りが消えないかぎり、だれも迷わない。",
    ),
];

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let fonts = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry/fonts/");
    let text = Face::from_file(format!("{fonts}Lato-Medium.ttf"))?;
    let pixel = Face::from_file(format!("{fonts}misaki_gothic.ttf"))?;
    let style = Style::new(&text, 16.0)
        .fallback(vec![pixel])
        .color(Color::rgb(0xf6, 0xea, 0xd0));
    let heading = style.clone().color(Color::rgb(0xff, 0xcf, 0x70));
    let options = LayoutOptions::default()
        .width(220.0)
        .align(TextAlign::Justify)
        .wrap(Wrap::Optimal)
        .paragraph_spacing(4.0);
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::uniform(2.0));
    for (index, (name, words)) in TEXTS.iter().enumerate() {
        let (column, row) = ((index % 2) as f32, (index / 2) as f32);
        let corner = Point::new(20.0 + column * 260.0, 16.0 + row * 170.0);
        let name = format!("{name}\n");
        let spans = [Span::new(&name, &heading), Span::new(words, &style)];
        let layout = TextLayout::with_options(&spans, &options)?;
        let plate = Rect::new(corner.x - 10.0, corner.y - 8.0, 240.0, 154.0);
        frame
            .scope()
            .layer(-1)
            .rect(plate, Color::rgb(0x1d, 0x2c, 0x3a));
        frame.text(&layout, DrawText::at(corner, Anchor::TOP_LEFT))?;
    }
    let mut canvas = Canvas::new(DeviceSize::new(1040, 680));
    canvas.clear(Color::rgb(0x0e, 0x18, 0x22));
    canvas.draw(builder.finish(), &atlas);
    canvas.to_image().write_png_file("four_languages.png")?;
    println!("four_languages.png");
    Ok(())
}
