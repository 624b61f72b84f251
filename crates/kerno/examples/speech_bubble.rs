//! A speech bubble that follows a boat: as large as what is said in the end, with a tail toward
//! whoever speaks, and inside of the window when the boat is not. Three moments.

use kerno::atlas::SpriteOptions;
use kerno::base::{Image, Insets};
use kerno::dialogue::{Scene, ScenePlayer};
use kerno::draw::{DrawSprite, RectStyle};
use kerno::markup::{StringTables, StyleChange, StyleFile, ValueDeclaration};
use kerno::screen::{
    Camera, Content, Element, Length, Screen, ScreenDescription, Visibility, WorldPlace,
};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, Face, FrameBuilder, Offset, Point, Rect, Size,
};

const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");

const SCENE: &str = r#"
    [speakers.bram]
    name = "Bram Tansy"
    [[lines]]
    speaker = "bram"
    text = "Is there room for one more?@pause(0.6) I pay in @wave{eels}."
"#;

const PAPER: Color = Color::rgb(0xf6, 0xea, 0xd0);

/// A bubble over the boat, with the line in it.
fn bubble() -> ScreenDescription {
    let place = WorldPlace::new("boat")
        .kept_inside(Insets::all(14.0))
        .tail("tail".to_owned());
    let paper = RectStyle::filled(PAPER).radius(7.0);
    let bubble = Element::new("bubble", Content::Rect(paper))
        .world(place)
        .offset(Offset::new(0.0, -30.0))
        .padding(Insets::sides(7.0, 11.0))
        .visible(Visibility::While("line.open".to_owned()));
    let line = Element::new("line", Content::Dialogue)
        .parent("bubble")
        .max_width(Length::Px(130.0));
    ScreenDescription::new(Size::new(640.0, 180.0))
        .value(ValueDeclaration::new("boat", Point::ORIGIN))
        .element(bubble)
        .element(line)
}

/// A small triangle that points to the right, in the colour of the bubble.
fn tail() -> Result<Image, kerno::base::ImageError> {
    let size = 40_u32;
    let pixels = (0..size * size).flat_map(|at| {
        let (x, y) = ((at % size) as f32, (at / size) as f32 - 19.5);
        let inside = ((size as f32 - 1.0 - x) * 0.5 - y.abs()).clamp(0.0, 1.0);
        [PAPER.red, PAPER.green, PAPER.blue, (inside * 255.0) as u8]
    });
    Image::new(size, size, pixels.collect())
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut atlas = Atlas::default();
    atlas.add_sprite("tail", &tail()?, SpriteOptions::default().density(4.0))?;
    let ferry = Image::from_png_file(format!("{FERRY}/sprites/ferry.png"))?;
    let ferry = atlas.add_sprite("ferry", &ferry, SpriteOptions::default().density(4.0))?;
    let face = Face::from_file(format!("{FERRY}/fonts/Lato-Medium.ttf"))?;
    let ink = StyleChange::default()
        .face(face)
        .size(12.0)
        .color(Color::rgb(0x2a, 0x1c, 0x12));
    let styles = StyleFile::default()
        .with_style("ink", ink)
        .with_default("text", "ink");
    let strings = StringTables::default();
    let mut screen = Screen::new(bubble(), styles.clone(), strings.clone(), &mut atlas)?;
    let room = screen.dialogue_room("line").ok_or("no dialogue")?;
    let scene = Scene::from_toml(SCENE)?;
    let mut talk = ScenePlayer::new(scene, styles, strings, room)?;

    let strip = DeviceSize::new(1280, 360);
    let mut sheet = Canvas::new(DeviceSize::new(1280, 1084));
    sheet.clear(Color::rgb(14, 22, 31));
    let mut builder = FrameBuilder::new();
    for (moment, x) in [-40.0_f32, 10.0, 95.0].into_iter().enumerate() {
        talk.advance(0.9, &mut |_| {})?;
        screen.show_dialogue("line", &talk)?;
        let boat = Point::new(x, -10.0);
        screen.set("boat", boat)?;
        let camera = Camera::new(Point::ORIGIN, 4.0).y_up(true);
        screen.set_camera(camera);
        let view = screen.viewport(strip)?;
        let mut frame = builder.begin(&mut atlas, view.mapping());
        frame.rect(view.window_rect(), Color::rgb(24, 44, 56));
        let at = camera.design_point(boat, view.window_rect());
        let hull = Rect::anchored(at, Anchor::CENTER, Size::new(90.0, 48.0));
        frame.sprite(ferry, DrawSprite::at(hull.center(), Anchor::CENTER))?;
        screen.draw(&mut frame, &view)?;
        let mut picture = Canvas::new(strip);
        picture.draw(builder.finish(), &atlas);
        sheet.draw_enlarged(&picture, 0, 362 * moment as i32, 1);
    }
    sheet.to_image().write_png_file("speech_bubble.png")?;
    println!("speech_bubble.png");
    Ok(())
}
