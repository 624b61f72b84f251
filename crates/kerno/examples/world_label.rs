//! Labels that follow things in the world under a moving camera: the game turns
//! a world position into a design position, the label hangs above it. Three
//! moments of a camera that follows the ferry, one above the other.

use kerno::atlas::SpriteOptions;
use kerno::base::{Image, Insets};
use kerno::screen::Camera;
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, Fit, FrameBuilder, Offset, Point,
    Rect, Size, Style, TextLayout, Viewport,
};

const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/ferry");

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let face = Face::from_file(format!("{FERRY}/fonts/Lato-Medium.ttf"))?;
    let style = Style::new(&face, 12.0);
    let things = [
        ((0.0, 0.0), "Lamplight Ferry"),
        ((40.0, 6.0), "fog bell"),
        ((90.0, -4.0), "Heron Steps"),
    ];
    let mut atlas = Atlas::default();
    let options = SpriteOptions::default()
        .density(4.0)
        .slices(Insets::all(40.0));
    let image = Image::from_png_file(format!("{FERRY}/sprites/nameplate.png"))?;
    let nameplate = atlas.add_sprite("nameplate", &image, options)?;

    let window = DeviceSize::new(1280, 720);
    let view = Viewport::new(Size::new(640.0, 360.0), window, Fit::Contain)?;
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, view.mapping());
    for (moment, zoom) in [(0.0, 3.0), (1.0, 4.0), (2.0, 5.0)] {
        let camera = Camera::new(Point::new(20.0 + moment * 20.0, 0.0), zoom).y_up(true);
        let strip = Rect::new(0.0, moment * 120.0, 640.0, 119.0);
        frame.scope().layer(-2).rect(strip, Color::rgb(24, 44, 56));
        // The camera's place is a little below the middle of the strip.
        let middle = strip.point(Anchor::new(0.5, 0.65));
        let around = Rect::anchored(middle, Anchor::CENTER, Size::default());
        for (place, name) in things {
            let at = camera.design_point(Point::new(place.0, place.1), around);
            frame.scope().layer(-1).rect(
                Rect::anchored(at, Anchor::CENTER, Size::new(5.0, 5.0)),
                Color::rgb(255, 207, 112),
            );
            // Whatever the zoom, letters keep their size; the plate is
            // measured from them and hangs above the place.
            let label = TextLayout::new(name, &style)?;
            let size = Size::new(label.size().width + 20.0, label.size().height + 6.0);
            let plate = Rect::anchored(at + Offset::new(0.0, -6.0), Anchor::BOTTOM, size);
            frame.panel(nameplate, plate)?;
            let middle = plate.point(Anchor::CENTER);
            frame
                .scope()
                .layer(1)
                .text(&label, DrawText::at(middle, Anchor::CENTER))?;
        }
    }

    let mut canvas = Canvas::new(window);
    canvas.clear(Color::rgb(14, 22, 31));
    canvas.draw(builder.finish(), &atlas);
    canvas.to_image().write_png_file("world_label.png")?;
    println!("world_label.png");
    Ok(())
}
