//! One face with each kind of edges and some effects, side by side.

use std::path::Path;

use kerno::base::Edges;
use kerno::text::Effect;
use kerno::{Anchor, Color, Face, Offset, Point, Rect, Style};

use super::column::draw_title;
use super::fitting::text_in_face;
use super::plate::magnified;
use super::{HEIGHT, INK, MARGIN, Sheet};
use crate::error::CliError;

/// The sizes of the rows, in pixels per em.
const SIZES: [f32; 5] = [10.0, 12.0, 14.0, 18.0, 24.0];
/// The text of every plate, as much of it as there is room for.
const TEXT: &str = "Hex 8 & fog";
const GAP: f32 = 10.0;
/// Room for the cost below a plate.
const COST: f32 = 18.0;

/// A column: its heading and the style that it shows.
struct Look {
    name: &'static str,
    edges: Edges,
    effects: Vec<Effect>,
}

fn looks() -> [Look; 5] {
    let plain = |name, edges| Look {
        name,
        edges,
        effects: Vec::new(),
    };
    let with = |name, effect| Look {
        name,
        edges: Edges::Smooth,
        effects: vec![effect],
    };
    let dark = Color::rgb(0x05, 0x0a, 0x10);
    let outline = Effect::outline(1.0, dark);
    let shadow = Effect::shadow(Offset::new(1.0, 1.0), 1.5, dark);
    [
        plain("SMOOTH", Edges::Smooth),
        plain("GRID-FITTED", Edges::GridFitted),
        plain("HARD", Edges::Hard),
        with("OUTLINE OF 1 PX", outline),
        with("SHADOW, BLURRED BY 1.5 PX", shadow),
    ]
}

/// Draws the comparison into a room.
pub(super) fn draw_comparison(
    sheet: &mut Sheet<'_>,
    face: &Face,
    path: &Path,
    room: Rect,
) -> Result<(), CliError> {
    let text = text_in_face(face, TEXT);
    let top = draw_title(sheet, face, path, room)?;
    let looks = looks();
    let label = 36.0;
    let area = Rect::new(
        room.x + label,
        top.y + 20.0,
        room.width - label,
        HEIGHT - MARGIN * 0.5 - top.y - 20.0,
    );
    let columns: Vec<Rect> = area.columns(looks.len() as u16, GAP).collect();
    for (look, column) in looks.iter().zip(&columns) {
        sheet.heading(look.name, Point::new(column.x, top.y))?;
    }
    for (wanted, row) in SIZES.into_iter().zip(area.rows(SIZES.len() as u16, 0.0)) {
        let (face, size) = face.for_size(wanted)?;
        let height = row.height - COST - 4.0;
        let at = Point::new(room.x, row.y + height * 0.5);
        sheet.note(&format!("{size} px"), at, Anchor::LEFT)?;
        // Room for a line and what an effect adds to it.
        let zoom = (height / (size * 1.45)).floor().clamp(1.0, 8.0);
        for (look, column) in looks.iter().zip(&columns) {
            let plate = Rect::new(column.x, row.y, column.width, height);
            let style = Style::new(&face, size)
                .color(INK)
                .edges(look.edges)
                .effects(look.effects.clone());
            let cost = magnified(sheet, &text, &style, (plate, zoom))?;
            let note = format!("{} quads, {} bytes of texels", cost.quads, cost.bytes);
            let below = Point::new(plate.x, plate.bottom() + 2.0);
            sheet.note(&note, below, Anchor::TOP_LEFT)?;
        }
    }
    Ok(())
}
