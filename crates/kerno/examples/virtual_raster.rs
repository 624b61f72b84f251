//! A game of 320 × 180 pixels, shown as large as whole numbers allow, with text inside on its
//! pixel grid and text above it at full resolution.
//!
//! Writes `virtual_raster.png`: a chart of the lake, with two framed landings at its sides and
//! the ferry's lamp in its exact centre.

use kerno::base::{Edges, Mapping};
use kerno::draw::{BoxShadow, RectStyle, Scope};
use kerno::text::Effect;
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, Fit, FrameBuilder, Offset, Point,
    Rect, Size, Style, TextLayout, Viewport,
};

const NIGHT: Color = Color::rgb(0x0b, 0x14, 0x1c);
const WATER: Color = Color::rgb(0x1d, 0x3a, 0x4c);
const SHORE: Color = Color::rgb(0x6c, 0x8a, 0x72);
const GOLD: Color = Color::rgb(0xff, 0xcf, 0x70);

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let fonts = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry/fonts/");
    let pixel = Face::from_file(format!("{fonts}misaki_gothic.ttf"))?;
    let display = Face::from_file(format!("{fonts}AveriaSerifGWF-Bold.ttf"))?;
    let window = DeviceSize::new(1280, 800);
    let view = Viewport::new(Size::new(320.0, 180.0), window, Fit::Integer)?;
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());

    // The game, in its own pixels.
    let mut raster = Canvas::new(DeviceSize::new(320, 180));
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    chart(&mut frame, &pixel)?;
    raster.clear(WATER);
    raster.draw(builder.finish(), &atlas);

    // The window: letterbox, the game enlarged, and a title at full resolution.
    let mut canvas = Canvas::new(window);
    canvas.clear(NIGHT);
    let corner = view.mapping().point(Point::new(0.0, 0.0));
    let times = view.mapping().scale() as u32;
    canvas.draw_enlarged(&raster, corner.x as i32, corner.y as i32, times);
    let style = Style::new(&display, 13.0).effects(vec![
        Effect::shadow(Offset::new(0.0, 1.0), 3.0, Color::BLACK),
        Effect::gradient(Color::rgb(255, 242, 200), Color::rgb(224, 144, 48)),
    ]);
    let title = TextLayout::new("The Lower Lake", &style)?;
    let mut frame = builder.begin(&mut atlas, view.mapping());
    let top = Point::new(160.0, 8.0);
    frame.text(&title, DrawText::at(top, Anchor::TOP))?;
    canvas.draw(builder.finish(), &atlas);
    std::fs::write("virtual_raster.png", canvas.to_image().to_png()?)?;
    Ok(())
}

/// The lake: shores, a route, two landings, and the lamp.
fn chart(frame: &mut Scope<'_>, pixel: &Face) -> Result<(), Box<dyn std::error::Error>> {
    let points = |places: &[(f32, f32)]| -> Vec<Point> {
        places.iter().map(|(x, y)| Point::new(*x, *y)).collect()
    };
    let north = [
        (0.0, 34.0),
        (60.0, 26.0),
        (120.0, 38.0),
        (200.0, 30.0),
        (260.0, 40.0),
        (320.0, 28.0),
    ];
    let south = [
        (0.0, 150.0),
        (70.0, 158.0),
        (150.0, 146.0),
        (230.0, 160.0),
        (320.0, 148.0),
    ];
    for shore in [&north[..], &south[..]] {
        frame.polyline(&points(shore), 3.0, SHORE);
    }
    let route = [
        (66.0, 90.0),
        (110.0, 84.0),
        (160.0, 90.0),
        (210.0, 96.0),
        (254.0, 90.0),
    ];
    frame.polyline(&points(&route), 1.0, GOLD.with_alpha(140));
    let label = Style::new(pixel, 8.0).edges(Edges::Hard).color(GOLD);
    for (name, left) in [("Heron Steps", 6.0), ("Tansy Quay", 254.0)] {
        let board = Rect::new(left, 74.0, 60.0, 32.0);
        let shadow = BoxShadow::new(Offset::new(0.0, 2.0), 4.0, Color::BLACK.with_alpha(150));
        frame.box_shadow(board, &shadow)?;
        frame.styled_rect(board, RectStyle::filled(NIGHT).border(1.0, GOLD))?;
        let text = TextLayout::new(name, &label)?;
        frame.text(&text, DrawText::at(board.center(), Anchor::CENTER))?;
    }
    // Light that fades out from the lamp, and the lamp.
    let center = Point::new(160.0, 90.0);
    for (radius, alpha) in [(20.0, 40), (13.0, 70), (7.0, 130)] {
        frame.circle(center, radius, GOLD.with_alpha(alpha));
    }
    frame.circle(center, 3.0, Color::WHITE);
    Ok(())
}
