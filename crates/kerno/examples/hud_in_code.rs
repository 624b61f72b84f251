//! The ferry's HUD built in code: the same tree as `demo/ferry/hud.toml`, which is compared
//! with it. Written to a file again, it is that file.

use kerno::bake::Manifest;
use kerno::base::Insets;
use kerno::markup::{StringTables, StyleFile, ValueDeclaration};
use kerno::screen::{
    Align, AllowedFinding, Arrangement, Content, Element, Gauge, GaugeFill, Justify, Length,
    Screen, ScreenDescription, SpriteContent, TextContent, Visibility,
};
use kerno::text::Wrap;
use kerno::{Anchor, Atlas, Canvas, Color, DeviceSize, Offset, Size};

const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");

fn panel(name: &str, sprite: &str) -> Element {
    Element::new(name, Content::Panel(sprite.to_owned()))
}

fn sprite(name: &str, sprite: &str) -> Element {
    Element::new(name, Content::Sprite(SpriteContent::new(sprite)))
}

fn string(name: &str, key: &str, style: &str) -> Element {
    Element::new(
        name,
        Content::Text(TextContent::key(key).style(style.to_owned())),
    )
}

fn text(name: &str, text: &str, style: &str) -> Element {
    Element::new(
        name,
        Content::Text(TextContent::markup(text).style(style.to_owned())),
    )
}

/// Values that the game hands in, with their ranges.
fn values(hud: ScreenDescription) -> ScreenDescription {
    hud.value(ValueDeclaration::new("aboard", 17.0).range(0.0, 60.0))
        .value(
            ValueDeclaration::new("fares", 1284.0)
                .range(0.0, 99999.0)
                .roll_seconds(0.6),
        )
        .value(ValueDeclaration::new("foggy", true))
        .value(ValueDeclaration::new("landing", "Heron Steps"))
        .value(ValueDeclaration::new("oil", 0.64).range(0.0, 1.0))
        .value(ValueDeclaration::new("speaking", true))
        .value(ValueDeclaration::new("strokes", 60.0).range(0.0, 99.0))
        .value(ValueDeclaration::new("waiting", true))
}

/// Top left: the lantern, its gauge, and who is aboard.
fn oil() -> Vec<Element> {
    let gauge = Gauge::new("oil", GaugeFill::Stretched("gauge-fill".to_owned()))
        .back("gauge-back".to_owned())
        .marks("gauge-marks".to_owned())
        .inset(Insets::all(2.0))
        .follow_seconds(0.3);
    let aboard = Content::Text(TextContent::key("aboard"));
    vec![
        panel("oil", "panel")
            .anchor(Anchor::TOP_LEFT)
            .offset(Offset::new(10.0, 10.0))
            .size(168.0, 56.0),
        sprite("oil-lantern", "lantern")
            .parent("oil")
            .anchor(Anchor::LEFT)
            .offset(Offset::new(8.0, 0.0)),
        Element::group("oil-heading")
            .parent("oil")
            .anchor(Anchor::TOP_LEFT)
            .offset(Offset::new(40.0, 8.0))
            .width(Length::Px(118.0))
            .arrangement(Arrangement::Row)
            .justify(Justify::SpaceBetween)
            .align(Align::Baseline),
        string("oil-title", "oil", "label").parent("oil-heading"),
        text("oil-share", "@value(oil, times=100) %", "share").parent("oil-heading"),
        Element::new("oil-gauge", Content::Gauge(gauge))
            .parent("oil")
            .anchor(Anchor::TOP_LEFT)
            .offset(Offset::new(40.0, 21.0))
            .size(118.0, 12.0),
        Element::new("aboard", aboard)
            .parent("oil")
            .anchor(Anchor::TOP_LEFT)
            .offset(Offset::new(40.0, 36.0)),
    ]
}

/// Top middle: the next landing on its board.
fn landing() -> Vec<Element> {
    let padding = Insets {
        top: 4.0,
        right: 26.0,
        bottom: 8.0,
        left: 26.0,
    };
    vec![
        panel("landing", "signboard")
            .anchor(Anchor::TOP)
            .offset(Offset::new(0.0, 6.0))
            .arrangement(Arrangement::Column)
            .align(Align::Center)
            .padding(padding),
        string("landing-title", "landing", "label").parent("landing"),
        text("landing-name", "@value(landing)", "landing").parent("landing"),
    ]
}

/// Top right: the fares on a plate that grows to the left, and the pump under them.
fn fares() -> Vec<Element> {
    let padding = Insets {
        top: 0.0,
        right: 12.0,
        bottom: 0.0,
        left: 10.0,
    };
    vec![
        panel("fares", "panel")
            .anchor(Anchor::TOP_RIGHT)
            .offset(Offset::new(-10.0, 10.0))
            .height(Length::Px(36.0))
            .arrangement(Arrangement::Row)
            .align(Align::Center)
            .gap(8.0)
            .padding(padding),
        sprite("fares-ticket", "ticket").parent("fares"),
        Element::group("fares-words")
            .parent("fares")
            .arrangement(Arrangement::Row)
            .align(Align::Baseline)
            .gap(8.0),
        string("fares-title", "fares", "label").parent("fares-words"),
        text("fares-number", "@value(fares)", "fares").parent("fares-words"),
        string("pump", "pump", "readout")
            .anchor(Anchor::TOP_RIGHT)
            .offset(Offset::new(-14.0, 51.0)),
    ]
}

/// In the middle: two lines of two sizes under the bell.
fn message() -> Vec<Element> {
    let bell = Content::Sprite(SpriteContent::new("bell").frame_seconds(0.3));
    let beneath = Insets {
        bottom: 1.0,
        ..Insets::default()
    };
    vec![
        Element::group("message")
            .anchor(Anchor::new(0.5, 0.21))
            .origin(Anchor::TOP)
            .arrangement(Arrangement::Column)
            .align(Align::Center)
            .visible(Visibility::While("foggy".to_owned())),
        Element::new("bell", bell).parent("message").margin(beneath),
        string("message-title", "title", "title").parent("message"),
        string("message-order", "order", "order").parent("message"),
    ]
}

/// Bottom: who speaks, and the line.
fn dialogue() -> Vec<Element> {
    let line = TextContent::key("line")
        .style("line".to_owned())
        .wrap(Wrap::Greedy);
    vec![
        panel("dialogue", "panel")
            .anchor(Anchor::BOTTOM)
            .offset(Offset::new(0.0, -10.0))
            .size(520.0, 88.0)
            .visible(Visibility::While("speaking".to_owned())),
        sprite("portrait", "portrait")
            .parent("dialogue")
            .anchor(Anchor::LEFT)
            .offset(Offset::new(12.0, 0.0)),
        panel("nameplate", "nameplate")
            .parent("dialogue")
            .anchor(Anchor::TOP_LEFT)
            .origin(Anchor::LEFT)
            .offset(Offset::new(88.0, 0.0))
            .height(Length::Px(22.0))
            .arrangement(Arrangement::Row)
            .align(Align::Center)
            .padding(Insets::sides(0.0, 14.0)),
        string("speaker", "speaker", "name").parent("nameplate"),
        Element::new("line", Content::Text(line))
            .parent("dialogue")
            .anchor(Anchor::LEFT)
            .offset(Offset::new(90.0, 4.0))
            .width(Length::Px(416.0)),
        sprite("oar", "oar")
            .parent("dialogue")
            .anchor(Anchor::BOTTOM_RIGHT)
            .offset(Offset::new(-6.0, -6.0))
            .visible(Visibility::While("waiting".to_owned())),
    ]
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut hud = values(ScreenDescription::new(Size::new(640.0, 360.0)));
    hud.styles = Some("hud_styles.toml".to_owned());
    hud.sprites = Some("sprites.toml".to_owned());
    hud.strings = Some("strings".to_owned());
    hud.language = Some("en".to_owned());
    let reason = "the scenery is the game's own: it draws that itself";
    hud.allowed
        .push(AllowedFinding::new("unused-sprite", reason));
    let parts = [oil(), landing(), fares(), message(), dialogue()];
    hud = parts
        .into_iter()
        .flatten()
        .fold(hud, ScreenDescription::element);

    let file = ScreenDescription::from_file(format!("{FERRY}/hud.toml"))?;
    assert_eq!(hud, file, "the file describes the same");
    assert_eq!(ScreenDescription::from_toml(&hud.to_toml()?)?, file);

    let mut atlas = Atlas::default();
    Manifest::from_file(format!("{FERRY}/sprites.toml"))?.add_sprites_to(&mut atlas)?;
    let styles = StyleFile::from_file(format!("{FERRY}/hud_styles.toml"))?;
    let strings = StringTables::from_folder(format!("{FERRY}/strings"))?;
    let mut screen = Screen::new(hud, styles, strings, &mut atlas)?;
    let window = DeviceSize::new(1280, 720);
    let view = screen.viewport(window)?;
    let mut canvas = Canvas::new(window);
    canvas.clear(Color::rgb(0x16, 0x22, 0x2e));
    canvas.draw(screen.frame(&mut atlas, &view)?, &atlas);
    canvas.to_image().write_png_file("hud_in_code.png")?;
    println!("hud_in_code.png");
    Ok(())
}
