//! Sprites between letters, keys on plates, and a number that changes in place.

use kerno::atlas::SpriteOptions;
use kerno::base::Insets;
use kerno::markup::{Markup, StyleChange};
use kerno::text::{InlineSprite, LayoutOptions, Plate, Span};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, Fit, FrameBuilder, Offset, Size,
    Style, TextLayout, Viewport,
};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let demo = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry/");
    let text = Face::from_file(format!("{demo}fonts/Lato-Medium.ttf"))?;
    let display = Face::from_file(format!("{demo}fonts/AveriaSerifGWF-Bold.ttf"))?;
    let window = DeviceSize::new(960, 450);
    let view = Viewport::new(Size::new(320.0, 150.0), window, Fit::Contain)?;
    let cream = Style::new(&text, 15.0).color(Color::rgb(0xf6, 0xea, 0xd0));
    // Names for the markup: a look for keys, and sprites 15 pixels high.
    let key = StyleChange::default()
        .face(display)
        .color(Color::rgb(0x16, 0x22, 0x2e))
        .scale(0.8)
        .plate(Some(
            Plate::new(Color::rgb(0xff, 0xcf, 0x70), 0.0).padding(Insets::sides(1.5, 5.0)),
        ));
    let mut markup = Markup::new().style("key", key);
    let mut atlas = Atlas::default();
    for name in ["oar", "ticket", "lantern"] {
        let file = format!("{demo}sprites/{name}.png");
        let density = SpriteOptions::default().density(4.0);
        let picture = kerno::base::Image::from_png_file(file)?;
        let sprite = atlas.add_sprite(name, &picture, density)?;
        let natural = atlas.sprite_size(sprite);
        markup = markup.sprite("icon", InlineSprite::new(name, natural, 15.0));
    }
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, view.mapping());
    let mut at = view.place(Anchor::TOP_LEFT, Offset::new(20.0, 20.0));
    for line in [
        "@key{E}  take the oar @icon(oar)",
        "@key{Space}  punch a ticket @icon(ticket)",
        "@icon(lantern) Lamp oil is low, and it is not yet ten.",
    ] {
        let read = markup.read(line, &cream)?;
        let layout = TextLayout::with_options(&read.spans(), &LayoutOptions::default())?;
        frame.text(&layout, DrawText::at(at, Anchor::TOP_LEFT))?;
        at = at + Offset::new(0.0, layout.size().height + 8.0);
    }
    // One layout, drawn as often as its number changes.
    let ticket = InlineSprite::new("ticket", Size::new(24.0, 14.0), 12.0);
    let spans = [Span::sprite(&ticket, &cream), Span::new(" 1", &cream)];
    let options = LayoutOptions::default().plate(Plate::new(Color::rgb(0x2a, 0x3c, 0x4c), 4.0));
    let mut fares = TextLayout::with_options(&spans, &options)?;
    for count in [" 1", " 17", " 284", " 1,284"] {
        fares.set_text(1, count)?;
        frame.text(
            &fares,
            DrawText::at(at + Offset::new(4.0, 8.0), Anchor::TOP_LEFT),
        )?;
        at = at + Offset::new(fares.size().width + 16.0, 0.0);
    }
    let mut canvas = Canvas::new(window);
    canvas.clear(Color::rgb(0x16, 0x22, 0x2e));
    canvas.draw(builder.finish(), &atlas);
    canvas.to_image().write_png_file("between_letters.png")?;
    println!("between_letters.png");
    Ok(())
}
