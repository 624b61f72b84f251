//! `kerno measure`.

use std::io::Write;

use clap::Args;
use kerno::base::{Edges, Treatment};
use kerno::font::FontError;
use kerno::raster::GlyphRequest;
use kerno::text::DecorationLine;
use kerno::{Atlas, Color, Rect, Style, TextLayout};
use serde::Serialize;

use super::plain_table;
use crate::console::Console;
use crate::error::{CliError, in_font};
use crate::options::{LaidOut, Look, TextArgs};

#[derive(Debug, Args)]
pub(crate) struct MeasureArgs {
    #[command(flatten)]
    pub(crate) text: TextArgs,
}

/// Prints where every glyph of a text stands.
pub(crate) fn measure(args: &MeasureArgs, out: &mut Console) -> Result<(), CliError> {
    let LaidOut { layout, style, .. } = args.text.layout(&Look::PLAIN, out.files())?;
    let most = if out.is_json() { usize::MAX } else { MOST_ROWS };
    let report = Report::of(&layout, &style, most).map_err(in_font(&args.text.font.path))?;
    out.asked();
    report.print(&layout, out)?;
    if !out.is_json() {
        return Ok(());
    }
    // By its text: numbers keep their few digits.
    let text = serde_json::to_string(&report).map_err(std::io::Error::from)?;
    out.fields(serde_json::from_str(&text).map_err(std::io::Error::from)?);
    Ok(())
}

/// The most lines and glyphs that are told of as text: a table of a million rows is read by nobody,
/// and takes gigabytes.
const MOST_ROWS: usize = 1000;

/// All measures of a text, in design pixels from the block's top left corner,
/// y down.
#[derive(Serialize)]
struct Report {
    text: String,
    face: String,
    size: f32,
    units_per_em: u16,
    width: f32,
    height: f32,
    ink: Option<Box>,
    /// Without wrapping, and where every break that may be is made.
    max_content_width: f32,
    min_content_width: f32,
    /// True if all of it is in its block; else from which byte on it is left out,
    /// if any is.
    fits: bool,
    truncated_at: Option<usize>,
    lines: Vec<Line>,
    clusters: Vec<ClusterBox>,
    glyphs: Vec<Glyph>,
    sprites: Vec<Sprite>,
    /// Grounds behind parts of the text.
    plates: Vec<Painted>,
    underlines: Vec<Painted>,
    line_throughs: Vec<Painted>,
    /// Byte positions of clusters shown as `.notdef`.
    missing: Vec<u32>,
    /// Scripts that are not shaped.
    unshaped: Vec<&'static str>,
    /// Texture memory of its letters at a scale of 1.
    costs: Vec<EdgesCost>,
}

/// The pictures of a text's letters, each counted once, by their edges.
#[derive(Serialize)]
struct EdgesCost {
    edges: String,
    /// Pixels per em that they are made at.
    size: f32,
    pictures: usize,
    bytes: usize,
}

impl EdgesCost {
    /// Coverage at the size of the text, and distance fields that serve every size; those with
    /// a letter that no page holds are left out.
    fn all(layout: &TextLayout) -> Vec<Self> {
        let all = [
            Edges::Smooth,
            Edges::DistanceField,
            Edges::MultiChannelField,
        ];
        let costs = all.into_iter().filter_map(|edges| {
            let mut atlas = Atlas::default();
            let field_size = f32::from(atlas.options().field_size);
            let mut size = 0.0;
            for glyph in layout.glyphs() {
                let style = layout.style(glyph.span);
                let face = style.face_at(glyph.face);
                size = if edges.is_field() {
                    field_size
                } else {
                    style.size
                };
                let treatment = match face.is_color_glyph(glyph.glyph) {
                    true => Treatment::in_color(),
                    false => edges.into(),
                };
                let request = GlyphRequest::new(face, glyph.glyph, size);
                atlas.glyph(&request.treatment(treatment)).ok()?;
            }
            let usage = atlas.usage();
            Some(Self {
                edges: Treatment::from(edges).to_string(),
                size,
                pictures: usage.glyphs,
                bytes: usage.glyph_bytes,
            })
        });
        costs.collect()
    }
}

#[derive(Serialize)]
struct Box {
    x: f32,
    y: f32,
    width: f32,
    height: f32,
}

#[derive(Serialize)]
struct Line {
    start: u32,
    end: u32,
    x: f32,
    top: f32,
    baseline: f32,
    width: f32,
    height: f32,
    right_to_left: bool,
}

/// A sprite between letters.
#[derive(Serialize)]
struct Sprite {
    name: String,
    #[serde(flatten)]
    place: Box,
}

/// A rectangle of one colour.
#[derive(Serialize)]
struct Painted {
    #[serde(flatten)]
    place: Box,
    color: String,
}

impl Painted {
    fn new((place, color): (Rect, Color)) -> Self {
        Self {
            place: place.into(),
            color: color.to_string(),
        }
    }
}

/// A character as a reader takes it, and the carets before and after it.
#[derive(Serialize)]
struct ClusterBox {
    start: u32,
    end: u32,
    line: u32,
    x: f32,
    advance: f32,
    right_to_left: bool,
    caret: f32,
}

#[derive(Serialize)]
struct Glyph {
    id: u16,
    /// 0 for the font, else the fallback that it is from, counted from 1.
    face: u16,
    /// Design pixels per em: a named style may have its own.
    size: f32,
    /// Start of the cluster's bytes in the text.
    cluster: u32,
    x: f32,
    y: f32,
    advance: f32,
    /// Addition of the font's tables to that, for its place in the text.
    kerning: f32,
    ink: Option<Box>,
}

impl From<Rect> for Box {
    fn from(rect: Rect) -> Self {
        Self {
            x: rect.x,
            y: rect.y,
            width: rect.width,
            height: rect.height,
        }
    }
}

impl Line {
    fn first(layout: &TextLayout, most: usize) -> Vec<Self> {
        let lines = layout.lines().iter().take(most).map(|line| {
            let text = &layout.clusters()[line.clusters.clone()];
            let end_of_text = layout.text().len() as u32;
            Self {
                start: text.first().map_or(end_of_text, |cluster| cluster.start),
                end: text.last().map_or(end_of_text, |cluster| cluster.end),
                x: line.x,
                top: line.top,
                baseline: line.baseline,
                width: line.width,
                height: line.height,
                right_to_left: line.is_rtl,
            }
        });
        lines.collect()
    }
}

impl ClusterBox {
    fn first(layout: &TextLayout, most: usize) -> Vec<Self> {
        let clusters = layout.clusters().iter().take(most).map(|cluster| Self {
            start: cluster.start,
            end: cluster.end,
            line: cluster.line,
            x: cluster.x,
            advance: cluster.advance,
            right_to_left: cluster.is_rtl,
            caret: layout.caret(cluster.start as usize).x,
        });
        clusters.collect()
    }
}

impl Glyph {
    fn first(layout: &TextLayout, most: usize) -> Result<Vec<Self>, FontError> {
        let glyphs = layout.glyphs().iter().take(most).map(|glyph| {
            Ok(Self {
                id: glyph.glyph.0,
                face: glyph.face,
                size: layout.style(glyph.span).size,
                cluster: layout.clusters()[glyph.cluster as usize].start,
                x: glyph.x,
                y: glyph.y,
                advance: glyph.advance,
                kerning: glyph.kerning,
                ink: layout.glyph_ink(glyph)?.map(Box::from),
            })
        });
        glyphs.collect()
    }
}

impl Report {
    /// The measures, with no more lines, clusters and glyphs than so many.
    fn of(layout: &TextLayout, style: &Style, most: usize) -> Result<Self, FontError> {
        let sprites = layout.sprites(0..usize::MAX).map(|(sprite, place)| Sprite {
            name: sprite.name.clone(),
            place: place.into(),
        });
        let rules = |kind| {
            let rules = layout.decorations(kind, 0..usize::MAX);
            rules
                .map(|(place, style)| Painted::new((place, style.color)))
                .collect()
        };
        let ink = layout.ink();
        Ok(Self {
            text: layout.text().to_owned(),
            face: style.face.full_name(),
            size: style.size,
            units_per_em: style.face.metrics().units_per_em,
            width: layout.size().width,
            height: layout.size().height,
            ink: (!ink.is_empty()).then(|| ink.into()),
            max_content_width: layout.max_content_width(),
            min_content_width: layout.min_content_width(),
            fits: layout.fits(),
            truncated_at: layout.truncated_at(),
            lines: Line::first(layout, most),
            clusters: ClusterBox::first(layout, most),
            glyphs: Glyph::first(layout, most)?,
            sprites: sprites.collect(),
            plates: layout.plates(0..usize::MAX).map(Painted::new).collect(),
            underlines: rules(DecorationLine::Underline),
            line_throughs: rules(DecorationLine::LineThrough),
            missing: layout.missing().to_vec(),
            unshaped: layout.unshaped_scripts(),
            costs: EdgesCost::all(layout),
        })
    }

    fn print(&self, layout: &TextLayout, out: &mut dyn Write) -> Result<(), CliError> {
        let lines = match layout.lines().len() {
            1 => "1 line".to_owned(),
            count => format!("{count} lines"),
        };
        writeln!(out, "{} at {} px, {lines}", self.face, self.size)?;
        writeln!(out, "  block  {:.3} × {:.3}", self.width, self.height)?;
        match &self.ink {
            Some(ink) => writeln!(
                out,
                "  ink    {:.3} × {:.3} at {:.3}, {:.3}",
                ink.width, ink.height, ink.x, ink.y
            )?,
            None => writeln!(out, "  ink    none")?,
        }
        writeln!(
            out,
            "  width  {:.3} unwrapped, {:.3} at the least",
            self.max_content_width, self.min_content_width
        )?;
        if let Some(byte) = self.truncated_at {
            writeln!(out, "  cut    from byte {byte} on it does not fit")?;
        } else if !self.fits {
            writeln!(out, "  it does not fit its block")?;
        }
        writeln!(out, "\n{}", self.line_table())?;
        rest(layout.lines().len(), "lines", out)?;
        writeln!(out, "\n{}", self.glyph_table(layout))?;
        rest(layout.glyphs().len(), "glyphs", out)?;
        writeln!(
            out,
            "\nTexture memory of the letters, by their edges\n{}",
            self.cost_table()
        )?;
        if !self.missing.is_empty() {
            let shown = self.missing.iter().take(MOST_ROWS);
            let bytes: Vec<_> = shown.map(u32::to_string).collect();
            writeln!(
                out,
                "\nThe face has no glyph for the text at byte {}; .notdef is shown.",
                bytes.join(", ")
            )?;
            rest(self.missing.len(), "bytes", out)?;
        }
        for script in &self.unshaped {
            writeln!(
                out,
                "\nLetters of {script} are not reordered, stacked or joined."
            )?;
        }
        Ok(())
    }

    fn line_table(&self) -> String {
        let columns = ["line", "x", "top", "baseline", "width", "height"];
        let mut table = plain_table(&columns, &columns);
        for (index, line) in self.lines.iter().enumerate() {
            let mut row = vec![(index + 1).to_string()];
            row.extend([line.x, line.top, line.baseline, line.width, line.height].map(number));
            table.add_row(row);
        }
        table.trim_fmt()
    }

    fn glyph_table(&self, layout: &TextLayout) -> String {
        let columns = ["text", "byte", "glyph", "x", "y", "advance", "kerning"];
        let mut table = plain_table(&columns, &columns[1..]);
        for (glyph, placed) in self.glyphs.iter().zip(layout.glyphs()) {
            let cluster = layout.clusters()[placed.cluster as usize];
            let text = &self.text[cluster.start as usize..cluster.end as usize];
            let mut row = vec![
                if text == " " {
                    "space".to_owned()
                } else {
                    text.to_owned()
                },
                glyph.cluster.to_string(),
                glyph.id.to_string(),
            ];
            row.extend([glyph.x, glyph.y, glyph.advance, glyph.kerning].map(number));
            table.add_row(row);
        }
        table.trim_fmt()
    }

    fn cost_table(&self) -> String {
        let columns = ["edges", "pictures", "of px", "bytes"];
        let mut table = plain_table(&columns, &columns[1..]);
        for cost in &self.costs {
            table.add_row([
                cost.edges.clone(),
                cost.pictures.to_string(),
                cost.size.to_string(),
                cost.bytes.to_string(),
            ]);
        }
        table.trim_fmt()
    }
}

/// Tells of rows that are not shown.
fn rest(count: usize, things: &str, out: &mut dyn Write) -> std::io::Result<()> {
    match count.saturating_sub(MOST_ROWS) {
        0 => Ok(()),
        more => writeln!(out, "and {more} more {things}; --json has all"),
    }
}

fn number(value: f32) -> String {
    format!("{value:.3}")
}
