//! A list of landings to choose from: a screen built in code, its entries stacked by their
//! measured heights, one marked as chosen. Direction keys lead from box to box. The same menu
//! in three windows.

use kerno::base::Insets;
use kerno::draw::RectStyle;
use kerno::markup::{StringTables, StyleChange, StyleFile, ValueDeclaration};
use kerno::screen::{
    Align, Arrangement, Content, Element, FocusDirection, Length, Screen, ScreenDescription,
    TextContent, Visibility, next_focus,
};
use kerno::text::Wrap;
use kerno::{Anchor, Atlas, Canvas, Color, DeviceSize, Face, Offset, Rect, Size};

const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");

const LANDINGS: [(&str, &str); 4] = [
    (
        "Heron Steps",
        "One bell. The lamp at its head is never out.",
    ),
    ("Reed Quay", "Two bells, and mind the eels."),
    (
        "Lantern Isle",
        "Three bells; nobody boards there after midnight but the Heron Sisters.",
    ),
    ("Marsh End", "No bell."),
];

/// The entries, each a plate with a name and a note, which is marked while it is chosen.
fn menu() -> ScreenDescription {
    let list = Element::group("list")
        .anchor(Anchor::CENTER)
        .arrangement(Arrangement::Column)
        .align(Align::Stretch)
        .gap(5.0)
        .width(Length::Percent(62.0));
    let mut screen = ScreenDescription::new(Size::new(400.0, 300.0)).element(list);
    for (index, (name, note)) in LANDINGS.into_iter().enumerate() {
        let entry = format!("entry-{index}");
        let chosen = format!("chosen-{index}");
        let plate = RectStyle::filled(Color::rgb(0x17, 0x29, 0x37)).radius(4.0);
        let mark = RectStyle::outlined(1.5, Color::rgb(0xff, 0xcf, 0x70)).radius(4.0);
        let text = |name: &str, text: &str, style: &str| {
            let content = TextContent::markup(text)
                .style(style.to_owned())
                .wrap(Wrap::Greedy);
            Element::new(name, Content::Text(content)).parent(&entry)
        };
        screen = screen
            .value(ValueDeclaration::new(&chosen, false))
            .element(
                Element::new(&entry, Content::Rect(plate))
                    .parent("list")
                    .arrangement(Arrangement::Column)
                    .padding(Insets::sides(5.0, 10.0)),
            )
            .element(text(&format!("name-{index}"), name, "name"))
            .element(text(&format!("note-{index}"), note, "note"))
            .element(
                Element::new(&format!("mark-{index}"), Content::Rect(mark))
                    .parent(&entry)
                    .anchor(Anchor::TOP_LEFT)
                    .offset(Offset::new(-10.0, -5.0))
                    .width(Length::Percent(100.0))
                    .height(Length::Percent(100.0))
                    .visible(Visibility::While(chosen)),
            );
    }
    screen
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let display = Face::from_file(format!("{FERRY}/fonts/AveriaSerifGWF-Bold.ttf"))?;
    let text = Face::from_file(format!("{FERRY}/fonts/Lato-Medium.ttf"))?;
    let name = StyleChange::default().face(display).size(15.0);
    let note = StyleChange::default().face(text).size(10.0);
    let styles = StyleFile::default()
        .with_style("name", name.color(Color::rgb(0xf6, 0xea, 0xd0)))
        .with_style("note", note.color(Color::rgb(0x8f, 0xac, 0xb3)));
    let mut atlas = Atlas::default();
    let mut screen = Screen::new(menu(), styles, StringTables::default(), &mut atlas)?;

    let mut sheet = Canvas::new(DeviceSize::new(1280, 620));
    sheet.clear(Color::rgb(0x0c, 0x12, 0x18));
    let windows = [(520, 390), (300, 560), (380, 285)];
    let mut left = 20;
    for (width, height) in windows {
        let view = screen.viewport(DeviceSize::new(width, height))?;
        screen.arrange(&view, &atlas)?;
        // Two presses of the key downwards, from the first.
        let boxes: Vec<Rect> = (0..LANDINGS.len())
            .filter_map(|index| screen.element_rect(&format!("entry-{index}")))
            .collect();
        let mut chosen = 0;
        for _ in 0..2 {
            chosen = next_focus(&boxes, chosen, FocusDirection::Down).unwrap_or(chosen);
        }
        for index in 0..LANDINGS.len() {
            screen.set(&format!("chosen-{index}"), index == chosen)?;
        }
        let mut canvas = Canvas::new(DeviceSize::new(width, height));
        canvas.clear(Color::rgb(0x0f, 0x1b, 0x26));
        canvas.draw(screen.frame(&mut atlas, &view)?, &atlas);
        sheet.draw_enlarged(&canvas, left, 20, 1);
        left += width as i32 + 20;
    }
    sheet.to_image().write_png_file("landing_menu.png")?;
    println!("landing_menu.png: a list of landings in three windows, the third chosen");
    Ok(())
}
