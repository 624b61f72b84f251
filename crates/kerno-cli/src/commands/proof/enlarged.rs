//! One face as coverage and as distance fields, enlarged and with effects, side by side.

use std::path::Path;

use kerno::base::Edges;
use kerno::text::Effect;
use kerno::{Anchor, Color, Face, Offset, Point, Rect, Style};

use super::column::draw_title;
use super::fitting::text_in_face;
use super::plate::magnified;
use super::{HEIGHT, INK, LAMP, MARGIN, Sheet};
use crate::error::CliError;

/// A row: its size in pixels per em, its text, and its share of the height.
const ROWS: [(f32, &str, f32); 5] = [
    (18.0, "Fog bank ahead, oars in", 0.7),
    (40.0, "Fog bank & oars", 1.0),
    (64.0, "Fog & oars", 1.5),
    (110.0, "Rag & 8", 1.9),
    (300.0, "Rw&", 4.0),
];

/// The row whose letters have an outline and a shadow.
const WITH_EFFECTS: usize = 2;

const GAP: f32 = 10.0;
/// Room for the cost below a plate.
const COST: f32 = 18.0;

const LOOKS: [(&str, Edges); 3] = [
    ("COVERAGE, A PICTURE FOR EACH SIZE", Edges::Smooth),
    ("DISTANCE FIELD OF 40 PX", Edges::DistanceField),
    ("MULTI-CHANNEL DISTANCE FIELD", Edges::MultiChannelField),
];

/// Draws the rows into a room.
pub(super) fn draw_enlarged(
    sheet: &mut Sheet<'_>,
    face: &Face,
    path: &Path,
    room: Rect,
) -> Result<(), CliError> {
    let top = draw_title(sheet, face, path, room)?;
    let label = 48.0;
    let area = Rect::new(room.x + label, top.y, room.width - label, room.height);
    let columns: Vec<Rect> = area.columns(LOOKS.len() as u16, GAP).collect();
    for ((name, _), column) in LOOKS.iter().zip(&columns) {
        sheet.heading(name, Point::new(column.x, top.y))?;
    }
    let first = top.y + 20.0;
    let unit = (HEIGHT - MARGIN * 0.5 - first) / ROWS.iter().map(|row| row.2).sum::<f32>();
    let mut y = first;
    for (index, (size, text, share)) in ROWS.into_iter().enumerate() {
        let height = (unit * share - COST - 4.0).floor();
        let middle = Point::new(room.x, y + height * 0.5);
        sheet.note(&format!("{size} px"), middle, Anchor::LEFT)?;
        let text = text_in_face(face, text);
        for ((_, edges), column) in LOOKS.iter().zip(&columns) {
            let plate = Rect::new(column.x, y, column.width, height);
            let style = Style::new(face, size).color(INK).edges(*edges);
            let style = match index {
                WITH_EFFECTS => style.color(LAMP).effects(effects()),
                _ => style,
            };
            let cost = magnified(sheet, &text, &style, (plate, 1.0))?;
            let note = format!("{} quads, {} bytes of texels", cost.quads, cost.bytes);
            let below = Point::new(plate.x, plate.bottom() + 2.0);
            sheet.note(&note, below, Anchor::TOP_LEFT)?;
        }
        y = (y + unit * share).round();
    }
    Ok(())
}

fn effects() -> Vec<Effect> {
    let dark = Color::rgb(0x05, 0x0a, 0x10);
    vec![
        Effect::shadow(Offset::new(0.0, 2.0), 2.0, dark),
        Effect::outline(2.0, Color::rgb(0x3a, 0x2a, 0x10)),
    ]
}
