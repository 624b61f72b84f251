//! Labels over a moving boat: the game hands in its camera and the places of its world, and
//! the labels follow. Letters keep their size whatever the zoom; a boat out of sight has its
//! label at the edge of the window, with a sprite that points to it. Three moments, one above
//! the other.

use kerno::atlas::SpriteOptions;
use kerno::base::{Image, Insets};
use kerno::markup::{StringTables, StyleChange, StyleFile, ValueDeclaration};
use kerno::screen::{Camera, Content, Element, Screen, ScreenDescription, TextContent, WorldPlace};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, Face, FrameBuilder, Offset, Point, Rect, Size,
};

const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");

/// Things on the lake, in metres, and the sprites that show them.
const THINGS: [(&str, &str, Point, &str, f32); 3] = [
    (
        "boat",
        "Lamplight Ferry",
        Point::new(0.0, 0.0),
        "ferry",
        9.0,
    ),
    ("oar", "Oar adrift", Point::new(18.0, 8.0), "oar", 4.0),
    (
        "steps",
        "Heron Steps",
        Point::new(96.0, -3.0),
        "lantern",
        4.0,
    ),
];

/// A plate with a name for each thing, over its place of the world.
fn labels() -> ScreenDescription {
    let mut screen = ScreenDescription::new(Size::new(640.0, 180.0));
    for (value, name, at, ..) in THINGS {
        let place = WorldPlace::new(value)
            .kept_inside(Insets::all(18.0))
            .pointer("arrow".to_owned());
        let plate = Element::new(
            &format!("{value}-plate"),
            Content::Panel("nameplate".to_owned()),
        )
        .world(place)
        .offset(Offset::new(0.0, -14.0))
        .padding(Insets::sides(4.0, 12.0));
        let text = Element::new(value, Content::Text(TextContent::markup(name)))
            .parent(&format!("{value}-plate"));
        screen = screen
            .value(ValueDeclaration::new(value, at))
            .element(plate)
            .element(text);
    }
    screen
}

/// A small triangle that points to the right.
fn arrow() -> Image {
    let size = 32;
    let pixels = (0..size * size).flat_map(|at| {
        let (x, y) = ((at % size) as f32, (at / size) as f32 - 15.5);
        let alpha = (2.0 * ((30.0 - x) * 0.5 - y.abs())).clamp(0.0, 1.0) * 255.0;
        [0xff, 0xcf, 0x70, alpha as u8]
    });
    Image::new(size, size, pixels.collect()).expect("as many bytes as pixels")
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut atlas = Atlas::default();
    let nameplate = SpriteOptions::default()
        .density(4.0)
        .slices(Insets::all(40.0));
    let picture = |name: &str| Image::from_png_file(format!("{FERRY}/sprites/{name}.png"));
    atlas.add_sprite("nameplate", &picture("nameplate")?, nameplate)?;
    atlas.add_sprite("arrow", &arrow(), SpriteOptions::default().density(4.0))?;
    for (_, _, _, sprite, _) in THINGS {
        atlas.add_sprite(sprite, &picture(sprite)?, SpriteOptions::default())?;
    }
    let face = Face::from_file(format!("{FERRY}/fonts/Lato-Medium.ttf"))?;
    let styles = StyleFile::default()
        .with_style("name", StyleChange::default().face(face).size(12.0))
        .with_default("text", "name");
    let mut screen = Screen::new(labels(), styles, StringTables::default(), &mut atlas)?;

    let strip = DeviceSize::new(1280, 360);
    let mut canvas = Canvas::new(DeviceSize::new(1280, 1080));
    canvas.clear(Color::rgb(14, 22, 31));
    let mut builder = FrameBuilder::new();
    for (moment, zoom) in [6.0_f32, 4.5, 5.5].into_iter().enumerate() {
        let boat = Point::new(30.0 * moment as f32, 2.0 - 2.0 * moment as f32);
        screen.set("boat", boat)?;
        // The camera goes ahead of the boat.
        let camera = Camera::new(Point::new(boat.x + 22.0, 0.0), zoom).y_up(true);
        screen.set_camera(camera);
        let view = screen.viewport(strip)?;
        let window = view.window_rect();
        let mut frame = builder.begin(&mut atlas, view.mapping());
        frame.rect(window, Color::rgb(24, 44, 56));
        // The game's own sprites, in its own units, and the labels before them.
        for (name, _, at, sprite, height) in THINGS {
            let at = if name == "boat" { boat } else { at };
            let at = camera.design_point(at, window);
            let id = frame.atlas().sprite(sprite)?;
            let natural = frame.atlas().sprite_size(id);
            let height = height * zoom;
            let size = Size::new(height * natural.width / natural.height, height);
            let place = Rect::anchored(at, Anchor::CENTER, size);
            frame.sprite(id, kerno::draw::DrawSprite::filling(place))?;
        }
        screen.draw(&mut frame, &view)?;
        let mut picture = Canvas::new(strip);
        picture.draw(builder.finish(), &atlas);
        canvas.draw_enlarged(&picture, 0, 362 * moment as i32, 1);
    }
    canvas.to_image().write_png_file("world_label.png")?;
    println!("world_label.png");
    Ok(())
}
