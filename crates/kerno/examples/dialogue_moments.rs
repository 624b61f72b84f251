//! A line of dialogue at four moments: the words stand where they will stand
//! when all is typed.

use kerno::dialogue::{Pace, Timetable};
use kerno::text::LineHeight;
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, Fit, FrameBuilder, Offset, Rect,
    Size, Style, TextLayout, Viewport,
};

const FONT: &str = concat!(
    env!("CARGO_MANIFEST_DIR"),
    "/demo/ferry/fonts/Lato-Medium.ttf"
);

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let face = Face::from_file(FONT)?;
    let style = Style::new(&face, 16.0).line_height(LineHeight::Multiple(1.4));
    let small = Style::new(&face, 11.0).color(Color::rgb(255, 207, 112));
    let line =
        "My grandmother rang this bell. So did hers,\nand neither of them ever heard an answer.";
    let layout = TextLayout::new(line, &style)?;
    let timetable = Timetable::new(&layout, &Pace::default())?;

    let window = DeviceSize::new(1280, 720);
    let view = Viewport::new(Size::new(640.0, 360.0), window, Fit::Contain)?;
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, view.mapping());
    for moment in 0..4 {
        let seconds = timetable.duration() * f64::from(moment + 1) / 4.0;
        let visible = timetable.visible_at(seconds);
        let plate = Rect::new(120.0, 14.0 + moment as f32 * 85.0, 400.0, 76.0);
        frame.rect(plate, Color::rgb(32, 52, 68));
        let middle = plate.point(Anchor::CENTER);
        let mut layer = frame.scope().layer(1);
        layer.text(
            &layout,
            DrawText::at(middle, Anchor::CENTER).visible(visible),
        )?;
        let time = TextLayout::new(&format!("{seconds:.2} s"), &small)?;
        let beside = plate.point(Anchor::LEFT) + Offset::new(-10.0, 0.0);
        frame.text(&time, DrawText::at(beside, Anchor::RIGHT))?;
    }

    let mut canvas = Canvas::new(window);
    canvas.clear(Color::rgb(14, 22, 31));
    canvas.draw(builder.finish(), &atlas);
    canvas.to_image().write_png_file("dialogue_moments.png")?;
    println!("dialogue_moments.png");
    Ok(())
}
