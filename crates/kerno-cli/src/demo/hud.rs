//! The HUD: every part placed by an anchor and a measure, none by trial.

use kerno::atlas::SpriteId;
use kerno::base::Edges;
use kerno::dialogue::{Pace, Reveal};
use kerno::draw::DrawSprite;
use kerno::text::LineHeight;
use kerno::{Anchor, Color, DrawText, Face, Offset, Point, Rect, Size, Style, TextLayout};

use super::stage::Stage;
use crate::error::CliError;

const CREAM: Color = Color::rgb(0xf6, 0xea, 0xd0);
const LAMP: Color = Color::rgb(0xff, 0xcf, 0x70);
const MIST: Color = Color::rgb(0xa9, 0xc2, 0xc6);
/// Around the message, which stands before anything the night may show.
const RIM: (f32, Color) = (1.5, Color::rgb(0x0b, 0x17, 0x22));
const SHADOW: Color = Color::rgba(0x04, 0x0a, 0x10, 0xb0);

/// Space between the HUD and the window's edges.
const MARGIN: f32 = 10.0;

/// What the demo's HUD shows.
const FARES: u32 = 1_284;
const LAMP_OIL: f32 = 0.64;
const ABOARD: u32 = 17;

/// Draws the HUD on layers from 0 up.
pub(crate) fn draw(stage: &mut Stage<'_>, time: Option<f64>) -> Result<(), CliError> {
    lamp_oil(stage)?;
    landing(stage)?;
    fares(stage)?;
    pump(stage)?;
    message(stage, time)?;
    dialogue(stage, time)
}

impl Stage<'_> {
    fn lay_out(&mut self, text: &str, style: &Style) -> Result<TextLayout, CliError> {
        let layout = TextLayout::new(text, style)?;
        self.missing += layout.missing().len();
        Ok(layout)
    }

    fn text(&mut self, layout: &TextLayout, at: Point, anchor: Anchor) -> Result<(), CliError> {
        let draw = DrawText::at(at, anchor);
        Ok(self.frame.scope().layer(2).text(layout, draw)?)
    }

    /// A text over the open scene, with a shadow to stand out from it.
    fn shadowed(
        &mut self,
        text: &str,
        style: &Style,
        at: Point,
        anchor: Anchor,
    ) -> Result<Size, CliError> {
        let dark = style.clone().color(SHADOW).effects(Vec::new());
        let shadow = TextLayout::new(text, &dark)?;
        let layout = self.lay_out(text, style)?;
        let below = at + Offset::new(0.0, (style.size / 16.0).max(1.0));
        self.frame
            .scope()
            .layer(1)
            .text(&shadow, DrawText::at(below, anchor))?;
        self.text(&layout, at, anchor)?;
        Ok(layout.size())
    }

    fn panel(&mut self, sprite: SpriteId, rect: Rect) -> Result<(), CliError> {
        Ok(self.frame.panel(sprite, rect)?)
    }

    fn sprite(&mut self, sprite: SpriteId, at: Point, anchor: Anchor) -> Result<(), CliError> {
        Ok(self
            .frame
            .scope()
            .layer(1)
            .sprite(sprite, DrawSprite::at(at, anchor))?)
    }
}

fn style(face: &Face, size: f32, color: Color) -> Style {
    Style::new(face, size).color(color)
}

/// Small capitals in all but name: letter-spaced labels.
fn label(face: &Face) -> Style {
    style(face, 8.5, MIST).letter_spacing(1.2)
}

/// Top left: the lantern, its gauge, and who is aboard.
fn lamp_oil(stage: &mut Stage<'_>) -> Result<(), CliError> {
    let corner = stage
        .view
        .place(Anchor::TOP_LEFT, Offset::new(MARGIN, MARGIN));
    let plate = Rect::anchored(corner, Anchor::TOP_LEFT, Size::new(168.0, 56.0));
    stage.panel(stage.sprites.panel, plate)?;
    let icon = plate.point(Anchor::LEFT) + Offset::new(8.0, 0.0);
    stage.sprite(stage.sprites.lantern, icon, Anchor::LEFT)?;

    let face = stage.faces.text.clone();
    let title = stage.lay_out(&stage.lines.labels.oil, &label(&face))?;
    let row = Rect::new(plate.x + 40.0, plate.y + 8.0, 118.0, 12.0);
    stage.text(&title, row.point(Anchor::LEFT), Anchor::LEFT)?;
    let percent = format!("{:.0} %", LAMP_OIL * 100.0);
    let share = stage.lay_out(&percent, &style(&face, 10.0, LAMP))?;
    stage.text(&share, row.point(Anchor::RIGHT), Anchor::RIGHT)?;

    let trough = Rect::new(row.x, row.bottom() + 1.0, row.width, 12.0);
    stage.panel(stage.sprites.gauge_back, trough)?;
    let full = Rect::new(trough.x + 2.0, trough.y + 2.0, trough.width - 4.0, 8.0);
    let oil = Rect::new(full.x, full.y, full.width * LAMP_OIL, full.height);
    stage
        .frame
        .scope()
        .layer(1)
        .panel(stage.sprites.gauge_fill, oil)?;
    stage
        .frame
        .scope()
        .layer(2)
        .panel(stage.sprites.gauge_marks, full)?;

    let aboard = format!("{ABOARD} {}", stage.lines.notes.aboard);
    let aboard = stage.lay_out(&aboard, &style(&face, 10.0, CREAM))?;
    let below = Point::new(row.x, trough.bottom() + 3.0);
    stage.text(&aboard, below, Anchor::TOP_LEFT)
}

/// Top middle: the next landing on its board.
fn landing(stage: &mut Stage<'_>) -> Result<(), CliError> {
    let title = stage.lay_out(
        &stage.lines.labels.landing,
        &label(&stage.faces.text.clone()),
    )?;
    let name = stage.lay_out(
        "Heron Steps",
        &style(&stage.faces.display.clone(), 19.0, CREAM),
    )?;
    let width = title.size().width.max(name.size().width) + 52.0;
    let height = title.size().height + name.size().height + 12.0;
    let top = stage
        .view
        .place(Anchor::TOP, Offset::new(0.0, MARGIN - 4.0));
    let board = Rect::anchored(top, Anchor::TOP, Size::new(width, height));
    stage.panel(stage.sprites.signboard, board)?;
    let first = board.point(Anchor::TOP) + Offset::new(0.0, 4.0);
    stage.text(&title, first, Anchor::TOP)?;
    let second = first + Offset::new(0.0, title.size().height);
    stage.text(&name, second, Anchor::TOP)
}

/// Top right: the fares. The plate hangs by its right edge and is as wide as
/// the number asks, so it grows to the left.
fn fares(stage: &mut Stage<'_>) -> Result<(), CliError> {
    let text = stage.faces.text.clone();
    let title = stage.lay_out(&stage.lines.labels.fares, &label(&text))?;
    let number = format!("{},{:03}", FARES / 1000, FARES % 1000);
    let count = stage.lay_out(&number, &style(&stage.faces.display.clone(), 20.0, LAMP))?;
    let icon = stage.frame.atlas().sprite_size(stage.sprites.ticket);
    let inner = title.size().width + 8.0 + count.size().width;
    let corner = stage
        .view
        .place(Anchor::TOP_RIGHT, Offset::new(-MARGIN, MARGIN));
    let size = Size::new(10.0 + icon.width + 8.0 + inner + 12.0, 36.0);
    let plate = Rect::anchored(corner, Anchor::TOP_RIGHT, size);
    stage.panel(stage.sprites.panel, plate)?;
    let from_left = |x: f32| plate.point(Anchor::LEFT) + Offset::new(x, 0.0);
    stage.sprite(stage.sprites.ticket, from_left(10.0), Anchor::LEFT)?;
    stage.text(&title, from_left(18.0 + icon.width), Anchor::LEFT)?;
    let right = plate.point(Anchor::RIGHT) + Offset::new(-12.0, 0.0);
    // By its ink: digits have no descenders, the block has.
    stage.text(
        &count,
        right,
        Anchor::new(1.0, count.ink_anchor(Anchor::CENTER).y),
    )
}

/// Under the fares: the frame rate, in the pixel face.
fn pump(stage: &mut Stage<'_>) -> Result<(), CliError> {
    let pixel = style(&stage.faces.pixel.clone(), 8.0, MIST).edges(Edges::Hard);
    let corner = stage
        .view
        .place(Anchor::TOP_RIGHT, Offset::new(-MARGIN - 4.0, MARGIN + 41.0));
    stage.shadowed(&stage.lines.notes.pump, &pixel, corner, Anchor::TOP_RIGHT)?;
    Ok(())
}

/// In the middle: two lines of two sizes, the second under the first by the
/// first one's height.
fn message(stage: &mut Stage<'_>, time: Option<f64>) -> Result<(), CliError> {
    let window = stage.view.window_rect();
    let (display, text) = (stage.faces.display.clone(), stage.faces.text.clone());
    let mut at = Point::new(
        window.x + window.width * 0.5,
        window.y + window.height * 0.21,
    );
    let bell = stage.bell.sprite_at(time.unwrap_or(0.0));
    let held = stage.frame.atlas().sprite_origin(bell);
    stage.sprite(bell, at, held)?;
    at = at + Offset::new(0.0, stage.frame.atlas().sprite_size(bell).height + 1.0);
    let title = stage.shadowed(
        &stage.lines.message.title,
        &style(&display, 34.0, CREAM).outline(RIM.0, RIM.1),
        at,
        Anchor::TOP,
    )?;
    at = at + Offset::new(0.0, title.height);
    stage.shadowed(
        &stage.lines.message.order,
        &style(&text, 13.0, LAMP),
        at,
        Anchor::TOP,
    )?;
    Ok(())
}

/// Bottom: the portrait, the nameplate, and the line as far as it is typed.
fn dialogue(stage: &mut Stage<'_>, time: Option<f64>) -> Result<(), CliError> {
    let bottom = stage.view.place(Anchor::BOTTOM, Offset::new(0.0, -MARGIN));
    let size = Size::new(520.0, 88.0);
    let plate = Rect::anchored(bottom, Anchor::BOTTOM, size);
    stage.panel(stage.sprites.panel, plate)?;
    let portrait = plate.point(Anchor::LEFT) + Offset::new(12.0, 0.0);
    stage.sprite(stage.sprites.portrait, portrait, Anchor::LEFT)?;

    let name = stage.lay_out(
        &stage.lines.dialogue.name,
        &style(&stage.faces.display.clone(), 13.0, CREAM),
    )?;
    let tag = Rect::new(
        plate.x + 88.0,
        plate.y - 11.0,
        name.size().width + 28.0,
        22.0,
    );
    stage
        .frame
        .scope()
        .layer(1)
        .panel(stage.sprites.nameplate, tag)?;
    stage.text(&name, tag.point(Anchor::CENTER), Anchor::CENTER)?;

    let body = style(&stage.faces.text.clone(), 15.0, CREAM).line_height(LineHeight::Multiple(1.5));
    let line = stage.lay_out(&stage.lines.dialogue.line, &body)?;
    let reveal = Reveal::new(&line, &Pace::default())?;
    let visible = time.map_or(usize::MAX, |time| reveal.visible_at(time));
    let room = Rect::new(
        plate.x + 90.0,
        plate.y + 14.0,
        plate.width - 104.0,
        plate.height - 20.0,
    );
    let at = room.point(Anchor::LEFT);
    let mut layer = stage.frame.scope().layer(2);
    layer.text(&line, DrawText::at(at, Anchor::LEFT).visible(visible))?;

    let oar = plate.point(Anchor::BOTTOM_RIGHT) + Offset::new(-6.0, -6.0);
    if visible >= line.clusters().len() {
        stage.sprite(stage.sprites.oar, oar, Anchor::BOTTOM_RIGHT)?;
    }
    Ok(())
}
