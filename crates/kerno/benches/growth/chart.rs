//! The curves as a picture.

use kerno::base::{Image, Mapping};
use kerno::draw::Scope;
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Offset, Point, Rect,
    Style, TextLayout,
};

use super::Curve;

type Done<T> = Result<T, Box<dyn std::error::Error>>;

const GROUND: Color = Color::rgb(0x0f, 0x1b, 0x26);
const PLATE: Color = Color::rgb(0x17, 0x29, 0x37);
const RULE: Color = Color::rgb(0x2c, 0x46, 0x55);
const INK: Color = Color::rgb(0xf6, 0xea, 0xd0);
const LAMP: Color = Color::rgb(0xff, 0xcf, 0x70);
const MIST: Color = Color::rgb(0x8f, 0xac, 0xb3);

/// Decades of time, from a nanosecond.
const DECADES: std::ops::RangeInclusive<i32> = -8..=0;

/// A time with its unit.
pub(super) fn time(seconds: f64) -> String {
    let (factor, unit) = match seconds {
        seconds if seconds < 1e-6 => (1e9, "ns"),
        seconds if seconds < 1e-3 => (1e6, "µs"),
        seconds if seconds < 1.0 => (1e3, "ms"),
        _ => (1.0, "s"),
    };
    let number = seconds * factor;
    match number < 10.0 {
        true => format!("{number:.1} {unit}"),
        false => format!("{number:.0} {unit}"),
    }
}

pub(super) fn draw(curves: &[Curve]) -> Done<Image> {
    let sans = Face::from_bytes(include_bytes!("../../demo/ferry/fonts/Lato-Medium.ttf"))?;
    let serif = Face::from_bytes(include_bytes!(
        "../../demo/ferry/fonts/AveriaSerifGWF-Bold.ttf"
    ))?;
    let window = DeviceSize::new(1280, 800);
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut page = Page {
        frame: builder.begin(&mut atlas, Mapping::IDENTITY),
        sans,
    };
    let title = TextLayout::new("What grows tenfold", &Style::new(&serif, 26.0).color(INK))?;
    page.frame.text(
        &title,
        DrawText::at(Point::new(32.0, 24.0), Anchor::TOP_LEFT),
    )?;
    page.note(
        "one core; time by size, both in tens",
        13.0,
        MIST,
        (Point::new(32.0, 60.0), Anchor::TOP_LEFT),
    )?;
    page.key(Point::new(1248.0, 40.0))?;
    for (index, curve) in curves.iter().enumerate() {
        let (column, row) = ((index % 3) as f32, (index / 3) as f32);
        let plate = Rect::new(32.0 + column * 411.0, 92.0 + row * 346.0, 394.0, 330.0);
        page.curve(curve, plate)?;
    }
    let mut canvas = Canvas::new(window);
    canvas.clear(GROUND);
    canvas.draw(builder.finish(), &atlas);
    Ok(canvas.to_image())
}

struct Page<'a> {
    frame: Scope<'a>,
    sans: Face,
}

impl Page<'_> {
    fn note(&mut self, text: &str, size: f32, color: Color, at: (Point, Anchor)) -> Done<()> {
        let style = Style::new(&self.sans, size).color(color).tabular(true);
        let layout = TextLayout::new(text, &style)?;
        Ok(self.frame.text(&layout, DrawText::at(at.0, at.1))?)
    }

    /// The meaning of the two lines.
    fn key(&mut self, right: Point) -> Done<()> {
        for (index, (text, color)) in [("Kerno", LAMP), ("the limit", MIST)]
            .into_iter()
            .enumerate()
        {
            let y = right.y + index as f32 * 20.0;
            self.note(
                text,
                13.0,
                color,
                (Point::new(right.x - 40.0, y), Anchor::RIGHT),
            )?;
            let from = Point::new(right.x - 30.0, y);
            self.frame
                .line(from, from + Offset::new(30.0, 0.0), 2.0, color);
        }
        Ok(())
    }

    fn curve(&mut self, curve: &Curve, plate: Rect) -> Done<()> {
        self.frame.rect(plate, PLATE);
        let corner = plate.point(Anchor::TOP_LEFT) + Offset::new(16.0, 12.0);
        self.note(curve.title, 15.0, INK, (corner, Anchor::TOP_LEFT))?;
        let told = format!("beside {}", curve.limit);
        self.note(
            &told,
            11.0,
            MIST,
            (corner + Offset::new(0.0, 20.0), Anchor::TOP_LEFT),
        )?;
        let graph = Rect::new(
            plate.x + 62.0,
            plate.y + 62.0,
            plate.width - 120.0,
            plate.height - 112.0,
        );
        let (first, last) = (*DECADES.start() as f32, *DECADES.end() as f32);
        let y = |seconds: f64| {
            let share = (seconds.log10() as f32 - first) / (last - first);
            graph.y + graph.height * (1.0 - share)
        };
        for decade in DECADES.step_by(2) {
            let seconds = 10_f64.powi(decade);
            let left = Point::new(graph.x, y(seconds).round());
            self.frame
                .rect(Rect::new(graph.x, left.y, graph.width, 1.0), RULE);
            self.note(
                &time(seconds).replace(".0", ""),
                11.0,
                MIST,
                (left + Offset::new(-8.0, 0.0), Anchor::RIGHT),
            )?;
        }
        let count = curve.points.len();
        let x = |index: usize| graph.x + graph.width * index as f32 / (count - 1) as f32;
        let ends = curve
            .points
            .last()
            .map(|point| y(point.limit) - y(point.seconds));
        // The two times at the ends of the lines stand apart.
        let apart = (14.0 - ends.unwrap_or(0.0)).max(0.0) / 2.0;
        for (color, is_limit, apart) in [(MIST, true, apart), (LAMP, false, -apart)] {
            let value = |index: usize| {
                let point = &curve.points[index];
                if is_limit { point.limit } else { point.seconds }
            };
            let line: Vec<Point> = (0..count)
                .map(|index| Point::new(x(index), y(value(index))))
                .collect();
            self.frame.polyline(&line, 2.0, color);
            for place in &line {
                self.frame.circle(*place, 3.0, color);
            }
            let end = line[count - 1] + Offset::new(8.0, apart);
            let told = time(value(count - 1));
            self.note(&told, 11.0, color, (end, Anchor::LEFT))?;
        }
        for (index, point) in curve.points.iter().enumerate() {
            let below = Point::new(x(index), plate.bottom() - 42.0);
            self.note(&grouped(point.size), 11.0, MIST, (below, Anchor::TOP))?;
        }
        let least = curve
            .points
            .iter()
            .map(|point| point.allocations)
            .min()
            .unwrap_or(0);
        let most = curve
            .points
            .iter()
            .map(|point| point.allocations)
            .max()
            .unwrap_or(0);
        let memory = match (least, most) {
            (_, 0) => "no allocation".to_owned(),
            (least, most) if least == most => format!("{most} allocations"),
            (least, most) => format!("{least} to {most} allocations"),
        };
        let middle = Point::new(graph.x + graph.width / 2.0, plate.bottom() - 24.0);
        self.note(
            &format!("{}; warm, {memory}", curve.unit),
            11.0,
            INK,
            (middle, Anchor::TOP),
        )
    }
}

/// A number with its thousands apart.
fn grouped(number: usize) -> String {
    match number {
        number if number >= 1_000_000 => format!("{} million", number / 1_000_000),
        number if number >= 1_000 => format!("{},{:03}", number / 1_000, number % 1_000),
        number => number.to_string(),
    }
}
