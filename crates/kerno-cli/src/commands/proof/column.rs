//! A column of a proof: all that one face is judged by.

use std::path::Path;

use kerno::base::Edges;
use kerno::{Anchor, Face, Offset, Point, Rect, Size, Style, TextLayout};

use super::fitting::{crisp, fitted, text_in_face};
use super::plate::magnified;
use super::{HEIGHT, INK, LAMP, MIST, Sheet, colored};
use crate::error::CliError;

/// The sizes that the try-out text is shown at, in pixels per em.
const SIZES: [f32; 7] = [10.0, 12.0, 14.0, 18.0, 24.0, 32.0, 48.0];
/// A crisp size that differs by no more than this share stands in for one of them.
const NEAR: f32 = 0.2;
/// Pairs that most faces kern.
const PAIRS: &str = "AVATAR To Wave Type LYRE P. 11";
/// Letters with all kinds of edges, for the magnified plates.
const EDGES: &str = "Rag 8 & fog, oars";
/// Height of these plates, and their largest magnification.
const PLATE_HEIGHT: f32 = 140.0;
const ZOOM: f32 = 5.0;

pub(super) fn draw_column(
    sheet: &mut Sheet<'_>,
    face: &Face,
    path: &Path,
    text: &str,
    room: Rect,
) -> Result<(), CliError> {
    let text = text_in_face(face, text);
    let at = draw_title(sheet, face, path, room)?;
    let at = draw_sizes(sheet, face, &text, at, room.width)?;
    let at = draw_edges(sheet, face, &text_in_face(face, EDGES), at, room.width)?;
    let at = draw_pairs(sheet, face, at, room.width)?;
    draw_repertoire(sheet, face, at, room)
}

pub(super) fn draw_title(
    sheet: &mut Sheet<'_>,
    face: &Face,
    path: &Path,
    room: Rect,
) -> Result<Point, CliError> {
    let style = colored(&sheet.caption, 22.0, LAMP);
    let name = fitted(&face.full_name(), &style, room.width)?;
    let at = Point::new(room.x, 24.0);
    sheet.text(&name, at, Anchor::TOP_LEFT)?;
    let at = at + Offset::new(0.0, name.size().height);
    let file = path.file_name().unwrap_or_default().to_string_lossy();
    let grid = match face.pixels_per_em() {
        Some(pixels) => format!("pixel face, crisp at {pixels}, {}, … px", pixels * 2.0),
        None => "no pixel grid".to_owned(),
    };
    let kerning = if face.has_kerning() {
        "kerned"
    } else {
        "no kerning"
    };
    let facts = format!("{file}   {} glyphs, {kerning}, {grid}", face.glyph_count());
    sheet.note(&facts, at, Anchor::TOP_LEFT)?;
    Ok(at + Offset::new(0.0, 28.0))
}

/// The text at several sizes; those at which a pixel face is crisp stand out.
fn draw_sizes(
    sheet: &mut Sheet<'_>,
    face: &Face,
    text: &str,
    at: Point,
    width: f32,
) -> Result<Point, CliError> {
    let mut at = sheet.heading("SIZES", at)?;
    let mut shown = 0.0;
    for size in SIZES {
        let (face, size) = face.for_size(size)?;
        let near = |crisp: &f32| (crisp - size).abs() <= size * NEAR;
        let size = face.crisp_size(size).filter(near).unwrap_or(size);
        // A bitmap font has fewer sizes.
        if size <= shown || size > 2.0 * SIZES[SIZES.len() - 1] {
            continue;
        }
        shown = size;
        let style = colored(&face, size, INK);
        let line = fitted(text, &style, width - 34.0)?;
        at = at + Offset::new(0.0, size * 1.2 + 4.0);
        sheet.text(
            &line,
            at + Offset::new(34.0, 0.0),
            line.baseline_anchor(0.0),
        )?;
        let is_crisp = face.crisp_size(size) == Some(size);
        let label = colored(&sheet.caption, 10.0, if is_crisp { LAMP } else { MIST });
        let label = TextLayout::new(&size.to_string(), &label)?;
        sheet.text(
            &label,
            at + Offset::new(20.0, 0.0),
            label.baseline_anchor(1.0),
        )?;
    }
    Ok(at + Offset::new(0.0, 34.0))
}

/// Smooth beside hard edges, magnified.
fn draw_edges(
    sheet: &mut Sheet<'_>,
    face: &Face,
    text: &str,
    at: Point,
    width: f32,
) -> Result<Point, CliError> {
    let (face, size) = &crisp(face, 14.0)?;
    let half = (width - 16.0) / 2.0;
    let zoom = (PLATE_HEIGHT / (size * 1.5)).floor().clamp(1.0, ZOOM);
    let plate = Size::new(half, PLATE_HEIGHT);
    let below = sheet.heading(&format!("SMOOTH AND HARD EDGES AT {size} PX"), at)?;
    for (side, edges) in [Edges::Smooth, Edges::Hard].into_iter().enumerate() {
        let left = below.x + (half + 16.0) * side as f32;
        let rect = Rect::new(left, below.y, plate.width, plate.height);
        let style = Style::new(face, *size).color(INK).edges(edges);
        magnified(sheet, text, &style, (rect, zoom))?;
    }
    Ok(below + Offset::new(0.0, plate.height + 18.0))
}

/// The same words with and without kerning.
fn draw_pairs(
    sheet: &mut Sheet<'_>,
    face: &Face,
    at: Point,
    width: f32,
) -> Result<Point, CliError> {
    let mut at = sheet.heading("KERNED, AND NOT", at)?;
    let (face, size) = &crisp(face, 26.0)?;
    let style = colored(face, *size, INK);
    let line = fitted(&text_in_face(face, PAIRS), &style, width * 0.94)?;
    sheet.text(&line, at, Anchor::TOP_LEFT)?;
    at = at + Offset::new(0.0, line.size().height);
    let plain = style.color(MIST);
    let unit = size / f32::from(face.metrics().units_per_em);
    let mut pen = at;
    for cluster in line.clusters() {
        let text = &line.text()[cluster.start as usize..cluster.end as usize];
        let letter = TextLayout::new(text, &plain)?;
        sheet.text(&letter, pen, Anchor::TOP_LEFT)?;
        let glyph = text
            .chars()
            .next()
            .and_then(|character| face.glyph(character));
        let advance = face.advance(glyph.unwrap_or_default());
        pen = pen + Offset::new(f32::from(advance) * unit, 0.0);
    }
    Ok(at + Offset::new(0.0, line.size().height + 12.0))
}

/// As many characters of the face as there is room for.
fn draw_repertoire(
    sheet: &mut Sheet<'_>,
    face: &Face,
    at: Point,
    room: Rect,
) -> Result<(), CliError> {
    let shown: Vec<char> = face
        .characters()
        .map(|(character, _)| character)
        .filter(|character| !character.is_whitespace() && !character.is_control())
        .collect();
    let at = sheet.heading(&format!("REPERTOIRE: {} CHARACTERS", shown.len()), at)?;
    let (face, size) = crisp(face, 15.0)?;
    let cell = (size * 1.6).max(24.0);
    let columns = (room.width / cell).floor();
    let rows = ((HEIGHT - 20.0 - at.y) / cell).floor().max(0.0);
    let style = colored(&face, size, INK);
    for (index, character) in shown.iter().take((columns * rows) as usize).enumerate() {
        let (column, row) = (index as f32 % columns, (index as f32 / columns).floor());
        let middle = Point::new(at.x + (column + 0.5) * cell, at.y + (row + 0.7) * cell);
        let letter = TextLayout::new(&character.to_string(), &style)?;
        sheet.text(&letter, middle, letter.baseline_anchor(0.5))?;
    }
    Ok(())
}
