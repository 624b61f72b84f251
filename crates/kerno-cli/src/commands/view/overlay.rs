//! The overlay of a shown file: boxes, measures, errors, keys.

use kerno::base::{DeviceRect, Insets, Mapping};
use kerno::draw::{Frame, RectStyle, Scope};
use kerno::screen::FrameTimes;
use kerno::text::{LayoutOptions, Overflow, Span, TextAlign};
use kerno::{
    Anchor, Atlas, Color, DeviceSize, DrawText, Face, FrameBuilder, Offset, Point, Rect, Style,
    TextLayout,
};

use super::subject::Hovered;
use crate::demo::caption_face;
use crate::error::CliError;

const PLATE: Color = Color::rgba(0x0c, 0x14, 0x1c, 0xe6);
const WARNING: Color = Color::rgba(0x5c, 0x16, 0x16, 0xf0);
const INK: Color = Color::rgb(0xf6, 0xea, 0xd0);
const MIST: Color = Color::rgb(0x8f, 0xac, 0xb3);
const LAMP: Color = Color::rgb(0xff, 0xcf, 0x70);
const BOX: Color = Color::rgba(0xff, 0x60, 0xa0, 0xb0);

/// Space between a plate and what it lies by.
const GAP: f32 = 12.0;

/// The keys, with what they do.
const KEYS: &str = "\
Space, Enter\tgoes on in a scene
1 to 6\tchooses an answer
L\tnext language
+ and -\tlarger and smaller text, 0 for its own size
B\tboxes and names of elements
P\tpauses, and goes on
.\tone step of 1/60 s while paused
T\ttimes of frames
R\treads the file again, from the start
Arrows, wheel\tscroll a picture
H\tthis list
Q, Esc\tcloses";

/// Contents of an overlay.
pub(super) struct Shown<'a> {
    pub(super) hovered: Option<Hovered>,
    pub(super) boxes: Vec<(String, DeviceRect)>,
    pub(super) error: Option<&'a str>,
    pub(super) note: Option<&'a str>,
    pub(super) times: bool,
    pub(super) keys: bool,
}

pub(super) struct Overlay {
    face: Face,
    pub(super) atlas: Atlas,
    builder: FrameBuilder,
    pub(super) times: FrameTimes,
}

impl Overlay {
    pub(super) fn new() -> Result<Self, CliError> {
        let face = caption_face()?;
        Ok(Self {
            times: FrameTimes::new(&face, &["frame", "upload", "encode"])?.budget(0.004),
            face,
            atlas: Atlas::default(),
            builder: FrameBuilder::new(),
        })
    }

    /// Gathers the frame over a window. `scale` is that of its monitor.
    pub(super) fn frame(
        &mut self,
        window: DeviceSize,
        scale: f32,
        shown: &Shown<'_>,
    ) -> Result<(Frame<'_>, &Atlas), CliError> {
        let style = |size: f32, color: Color| Style::new(&self.face, size).color(color);
        let room = Rect::new(
            0.0,
            0.0,
            window.width as f32 / scale,
            window.height as f32 / scale,
        );
        let mut scope = self.builder.begin(&mut self.atlas, Mapping::uniform(scale));
        let placed = |rect: DeviceRect| {
            let (width, height) = (rect.right - rect.left, rect.bottom - rect.top);
            Rect::new(
                rect.left / scale,
                rect.top / scale,
                width / scale,
                height / scale,
            )
        };
        for (name, rect) in &shown.boxes {
            draw_box(
                &mut scope,
                &style(9.0, LAMP),
                (name, placed(*rect)),
                1.0 / scale,
            )?;
        }
        if let Some(hovered) = &shown.hovered {
            let rect = placed(hovered.rect);
            let line = RectStyle::outlined(1.0 / scale, LAMP);
            scope.styled_rect(rect.outset(Insets::all(1.0 / scale)), line)?;
            let text = TextLayout::new(&hovered.told, &style(12.0, INK))?;
            tooltip(&mut scope, &text, rect, room)?;
        }
        if let Some(note) = shown.note {
            let text = TextLayout::new(note, &style(13.0, INK))?;
            let at = room.point(Anchor::BOTTOM_LEFT) + Offset::new(GAP, -GAP);
            plate(&mut scope, &text, (at, Anchor::BOTTOM_LEFT), PLATE)?;
        }
        if shown.times {
            let width = 280.0_f32.min(room.width - 2.0 * GAP);
            let rect = Rect::new(
                room.right() - GAP - width,
                room.bottom() - GAP - 120.0,
                width,
                120.0,
            );
            self.times.draw(&mut scope, rect)?;
        }
        if shown.keys {
            draw_keys(&mut scope, &style(13.0, INK), room)?;
        }
        if let Some(error) = shown.error {
            draw_error(&mut scope, &style(14.0, INK), error, room)?;
        }
        Ok((self.builder.finish(), &self.atlas))
    }
}

/// The box of an element with its name; `pixel` is the width of its line.
fn draw_box(
    scope: &mut Scope<'_>,
    style: &Style,
    (name, rect): (&str, Rect),
    pixel: f32,
) -> Result<(), CliError> {
    scope.styled_rect(rect, RectStyle::outlined(pixel, BOX))?;
    let label = TextLayout::new(name, style)?;
    let at = rect.point(Anchor::TOP_LEFT) + Offset::new(2.0, 1.0);
    Ok(scope.text(&label, DrawText::at(at, Anchor::TOP_LEFT))?)
}

/// An error at the lower edge of the window.
fn draw_error(
    scope: &mut Scope<'_>,
    style: &Style,
    error: &str,
    room: Rect,
) -> Result<(), CliError> {
    let options = LayoutOptions::default()
        .width((room.width - 4.0 * GAP).max(40.0))
        .max_lines(8)
        .overflow(Overflow::Ellipsis);
    let text = TextLayout::with_options(&[Span::new(error, style)], &options)?;
    let at = room.point(Anchor::BOTTOM) + Offset::new(0.0, -GAP);
    plate(scope, &text, (at, Anchor::BOTTOM), WARNING)
}

/// A text on a plate around it.
fn plate(
    scope: &mut Scope<'_>,
    text: &TextLayout,
    (at, anchor): (Point, Anchor),
    color: Color,
) -> Result<(), CliError> {
    let (size, padding) = (text.size(), Insets::sides(6.0, 10.0));
    let (width, height) = (size.width + 20.0, size.height + 12.0);
    let rect = Rect::new(
        at.x - anchor.x * width,
        at.y - anchor.y * height,
        width,
        height,
    );
    scope.styled_rect(rect, RectStyle::filled(color).radius(5.0))?;
    let corner = rect.inset(padding).point(Anchor::TOP_LEFT);
    Ok(scope.text(text, DrawText::at(corner, Anchor::TOP_LEFT))?)
}

/// Measures beneath an element, or above it where there is no room, within the window.
fn tooltip(scope: &mut Scope<'_>, text: &TextLayout, by: Rect, room: Rect) -> Result<(), CliError> {
    let (width, height) = (text.size().width + 20.0, text.size().height + 12.0);
    let x = by.x.min(room.right() - width).max(0.0);
    let below = by.bottom() + 6.0;
    let y = match below + height <= room.bottom() {
        true => below,
        false => (by.y - 6.0 - height).max(0.0),
    };
    plate(scope, text, (Point::new(x, y), Anchor::TOP_LEFT), PLATE)
}

/// The list of keys, in two columns.
fn draw_keys(scope: &mut Scope<'_>, style: &Style, room: Rect) -> Result<(), CliError> {
    let column = |take: fn(&str) -> Option<&str>, style: &Style, align| {
        let lines: Vec<&str> = KEYS.lines().filter_map(take).collect();
        let options = LayoutOptions::default().align(align);
        TextLayout::with_options(&[Span::new(&lines.join("\n"), style)], &options)
    };
    let names = style.clone().color(LAMP);
    let names = column(|line| line.split('\t').next(), &names, TextAlign::End)?;
    let words = column(|line| line.split('\t').nth(1), style, TextAlign::Start)?;
    let (width, height) = (
        names.size().width + words.size().width + 16.0,
        names.size().height,
    );
    let rect = Rect::new(
        (room.width - width) / 2.0,
        (room.height - height) / 2.0,
        width,
        height,
    );
    let around = rect.outset(Insets::all(16.0));
    let look = RectStyle::filled(PLATE).border(1.0, MIST).radius(8.0);
    scope.styled_rect(around, look)?;
    let corner = rect.point(Anchor::TOP_LEFT);
    scope.text(&names, DrawText::at(corner, Anchor::TOP_LEFT))?;
    let corner = rect.point(Anchor::TOP_RIGHT);
    Ok(scope.text(&words, DrawText::at(corner, Anchor::TOP_RIGHT))?)
}
