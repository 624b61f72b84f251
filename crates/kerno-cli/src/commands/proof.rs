//! `kerno proof`.

use std::io::Write;
use std::path::{Path, PathBuf};

use clap::Args;
use kerno::atlas::{Sampling, SpriteOptions};
use kerno::base::{Edges, Image, Mapping};
use kerno::draw::{DrawSprite, Scope};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Offset, Point, Rect,
    Size, Style, TextLayout,
};

use crate::demo::caption_face;
use crate::error::{CliError, in_font};
use crate::options::PngParser;
use crate::output::write_png;

#[derive(Debug, Args)]
pub(crate) struct ProofArgs {
    /// Font files, side by side; at most six
    #[arg(value_name = "FONT", required = true)]
    pub(crate) fonts: Vec<PathBuf>,
    /// The try-out text
    #[arg(
        long,
        value_name = "TEXT",
        default_value = "The lamplight ferry leaves Heron Steps at 7:45, fog or no fog."
    )]
    pub(crate) text: String,
    /// The PNG to write
    #[arg(short, long, value_name = "FILE", default_value = "proof.png", value_parser = PngParser)]
    pub(crate) output: PathBuf,
}

/// Fonts of a proof, which has room for six side by side.
const MOST_FONTS: usize = 6;

impl ProofArgs {
    /// # Errors
    /// [`CliError::TooManyFonts`].
    pub(crate) fn check(&self) -> Result<(), CliError> {
        match self.fonts.len() {
            count if count > MOST_FONTS => Err(CliError::TooManyFonts(count)),
            _ => Ok(()),
        }
    }
}

const GROUND: Color = Color::rgb(0x0f, 0x1b, 0x26);
const PLATE: Color = Color::rgb(0x17, 0x29, 0x37);
const RULE: Color = Color::rgb(0x2c, 0x46, 0x55);
const INK: Color = Color::rgb(0xf6, 0xea, 0xd0);
const LAMP: Color = Color::rgb(0xff, 0xcf, 0x70);
const MIST: Color = Color::rgb(0x8f, 0xac, 0xb3);

const HEIGHT: f32 = 800.0;
const MARGIN: f32 = 28.0;
/// The sizes that the try-out text is shown at, in pixels per em.
const SIZES: [f32; 7] = [10.0, 12.0, 14.0, 18.0, 24.0, 32.0, 48.0];
/// A crisp size that differs by no more than this share stands in for one of them.
const NEAR: f32 = 0.2;
/// Pairs that most faces kern.
const PAIRS: &str = "AVATAR To Wave Type LYRE P. 11";
/// Letters with all kinds of edges, for the magnified plates.
const EDGES: &str = "Rag 8 & fog, oars";
/// How high these plates are, and how much they are magnified at most.
const PLATE_HEIGHT: f32 = 140.0;
const ZOOM: f32 = 5.0;

/// Draws a picture to judge fonts by, a column for each.
pub(crate) fn proof(args: &ProofArgs, out: &mut dyn Write) -> Result<(), CliError> {
    args.check()?;
    let count = args.fonts.len() as f32;
    let column = (1280.0 / count).max(480.0).floor();
    let window = DeviceSize::new((column * count) as u32, HEIGHT as u32);
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut sheet = Sheet {
        frame: builder.begin(&mut atlas, Mapping::IDENTITY),
        caption: caption_face()?,
    };
    for (index, path) in args.fonts.iter().enumerate() {
        let face = Face::from_file(path)?;
        let left = column * index as f32;
        let room = Rect::new(left + MARGIN, 0.0, column - 2.0 * MARGIN, HEIGHT);
        if index > 0 {
            sheet
                .frame
                .rect(Rect::new(left, MARGIN, 1.0, HEIGHT - 2.0 * MARGIN), RULE);
        }
        draw_column(&mut sheet, &face, path, &args.text, room).map_err(in_font(path))?;
    }
    let mut canvas = Canvas::new(window);
    canvas.clear(GROUND);
    canvas.draw(builder.finish(), &atlas);
    write_png(&args.output, &canvas.to_image())?;
    let (width, height) = (window.width, window.height);
    writeln!(out, "{}: {width} × {height} pixels", args.output.display())?;
    Ok(())
}

fn colored(face: &Face, size: f32, color: Color) -> Style {
    Style::new(face, size).color(color)
}

/// What the proof is drawn with.
struct Sheet<'a> {
    frame: Scope<'a>,
    caption: Face,
}

impl Sheet<'_> {
    fn text(&mut self, layout: &TextLayout, at: Point, anchor: Anchor) -> Result<(), CliError> {
        Ok(self.frame.text(layout, DrawText::at(at, anchor))?)
    }

    /// A small heading; returns the place below it.
    fn heading(&mut self, text: &str, at: Point) -> Result<Point, CliError> {
        let style = Style::new(&self.caption, 10.0)
            .color(MIST)
            .letter_spacing(1.2);
        let layout = TextLayout::new(text, &style)?;
        self.text(&layout, at, Anchor::TOP_LEFT)?;
        Ok(at + Offset::new(0.0, layout.size().height + 4.0))
    }

    fn note(&mut self, text: &str, at: Point, anchor: Anchor) -> Result<(), CliError> {
        let style = colored(&self.caption, 11.0, MIST);
        self.text(&TextLayout::new(text, &style)?, at, anchor)
    }
}

fn draw_column(
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

/// The strike and size nearest to a wanted one at which the face is crisp; the
/// wanted one for a face that has none.
fn crisp(face: &Face, wanted: f32) -> Result<(Face, f32), CliError> {
    let (face, size) = face.for_size(wanted)?;
    let size = face.crisp_size(size).unwrap_or(size);
    Ok((face, size))
}

/// The wanted text, or letters of the face where it lacks half of that.
fn text_in_face(face: &Face, text: &str) -> String {
    let letters = || text.chars().filter(|character| !character.is_whitespace());
    let known = letters()
        .filter(|character| face.glyph(*character).is_some())
        .count();
    if known * 2 >= letters().count() {
        return text.to_owned();
    }
    let own = face.characters().map(|(character, _)| character);
    own.filter(|character| character.is_alphabetic())
        .take(60)
        .collect()
}

/// The start of a text that fits a width, whole words where it has any.
fn fitted(text: &str, style: &Style, width: f32) -> Result<TextLayout, CliError> {
    let whole = TextLayout::new(text, style)?;
    let fits = |end: &&kerno::text::Cluster| end.x + end.advance <= width;
    let Some(last) = whole.clusters().iter().take_while(fits).last() else {
        return Ok(TextLayout::new("", style)?);
    };
    let end = last.end as usize;
    if end == text.len() {
        return Ok(whole);
    }
    let cut = text[..end].rfind(' ').unwrap_or(end);
    Ok(TextLayout::new(&text[..cut], style)?)
}

fn draw_title(
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
        let image = small_text(text, &style, rect, zoom)?;
        let name = format!("{size} {edges:?} {}", rect.x);
        let options = SpriteOptions::default()
            .density(1.0 / zoom)
            .sampling(Sampling::Nearest);
        let sprite = sheet.frame.atlas().add_sprite(&name, &image, options)?;
        let corner = rect.point(Anchor::TOP_LEFT);
        let draw = DrawSprite::at(corner, Anchor::TOP_LEFT);
        sheet.frame.sprite(sprite, draw)?;
    }
    Ok(below + Offset::new(0.0, plate.height + 18.0))
}

/// A plate with small text in its middle, before it is magnified.
fn small_text(text: &str, style: &Style, plate: Rect, zoom: f32) -> Result<Image, CliError> {
    let size = Size::new((plate.width / zoom).floor(), (plate.height / zoom).floor());
    let line = fitted(text, style, size.width - 4.0)?;
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    // On one baseline, whatever the edges.
    let at = Point::new((size.width / 2.0).floor(), (size.height * 0.64).floor());
    frame.text(&line, DrawText::at(at, line.baseline_anchor(0.5)))?;
    let mut canvas = Canvas::new(DeviceSize::new(size.width as u32, size.height as u32));
    canvas.clear(PLATE);
    canvas.draw(builder.finish(), &atlas);
    Ok(canvas.to_image())
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
