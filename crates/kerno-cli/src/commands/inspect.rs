//! `kerno inspect`.

use std::collections::BTreeSet;
use std::io::Write;

use clap::Args;
use kerno::Face;
use kerno::font::{ColorFormats, GlyphId, NameId};
use kerno::text::unshaped_script;
use serde_json::{Value, json};
use unicode_blocks::{UnicodeBlock, find_unicode_block};

use crate::console::Console;
use crate::error::{CliError, in_font};
use crate::options::FontArgs;
use crate::report::{Section, number};

#[derive(Debug, Args)]
pub(crate) struct InspectArgs {
    #[command(flatten)]
    pub(crate) font: FontArgs,
}

/// Tells what is in a font.
pub(crate) fn inspect(args: &InspectArgs, out: &mut Console) -> Result<(), CliError> {
    let face = args.font.open(out.files())?;
    out.asked();
    writeln!(out, "{}", face.full_name())?;
    out.field("name", face.full_name());
    names(&face, out)?;
    metrics(&face, out)?;
    axes(&face, args, out)?;
    colors(&face, args, out)?;
    tables(&face, out)?;
    repertoire(&face, out)?;
    notes(&face, out)
}

fn names(face: &Face, out: &mut Console) -> Result<(), CliError> {
    let mut section = Section::new("", "names");
    for (label, id) in [
        ("full family", NameId::TYPOGRAPHIC_FAMILY),
        ("full style", NameId::TYPOGRAPHIC_SUBFAMILY),
        ("family", NameId::FAMILY),
        ("style", NameId::SUBFAMILY),
        ("version", NameId::VERSION),
        ("copyright", NameId::COPYRIGHT),
        ("designer", NameId::DESIGNER),
        ("license", NameId::LICENSE),
        ("license url", NameId::LICENSE_URL),
    ] {
        if let Some(text) = face.name(id) {
            let first_line = text.lines().next().unwrap_or_default().trim();
            section.row(label, first_line);
        }
    }
    section.print(out)
}

fn metrics(face: &Face, out: &mut Console) -> Result<(), CliError> {
    let metrics = face.metrics();
    out.field("units_per_em", metrics.units_per_em);
    let heading = format!("Metrics, in font units ({} per em)", metrics.units_per_em);
    let mut section = Section::new(&heading, "metrics");
    section.row("ascender", metrics.ascender);
    section.row("descender", metrics.descender);
    section.row("line gap", metrics.line_gap);
    for (label, height) in [
        ("cap height", metrics.cap_height),
        ("x-height", metrics.x_height),
    ] {
        match height {
            Some(height) => section.row(label, height),
            None => section.row_as(label, Value::Null, "not stated"),
        }
    }
    for (label, line) in [
        ("underline", metrics.underline),
        ("line-through", metrics.strikeout),
    ] {
        if let Some(line) = line {
            let told = format!("at {}, {} thick", line.position, line.thickness);
            let value = json!({ "position": line.position, "thickness": line.thickness });
            section.row_as(label, value, told);
        }
    }
    section.row("weight", metrics.weight);
    section.row_as("width", metrics.width, format!("{} of 9", metrics.width));
    let angle = metrics.italic_angle;
    section.row_as("slant", number(angle), format!("{angle}°"));
    section.row("fixed pitch", metrics.is_fixed_pitch);
    section.row("kerning", face.has_kerning());
    let strikes = face.strike_sizes()?;
    if !strikes.is_empty() {
        let sizes: Vec<String> = strikes.iter().map(u16::to_string).collect();
        section.row_as(
            "bitmap strikes",
            strikes,
            format!("{} px", sizes.join(", ")),
        );
    }
    section.row_as(
        "crisp sizes",
        face.crisp_size(0.0).map(number),
        crisp_sizes(face),
    );
    section.row("glyphs", face.glyph_count());
    let bounds = metrics.bounds;
    let sides = [bounds.x_min, bounds.y_min, bounds.x_max, bounds.y_max];
    let [left, bottom, right, top] = sides;
    section.row_as(
        "bounds",
        json!(sides),
        format!("{left} {bottom} to {right} {top}"),
    );
    section.print(out)
}

/// The axes of a variable font and its named settings.
fn axes(face: &Face, args: &InspectArgs, out: &mut Console) -> Result<(), CliError> {
    let axes = face.axes().map_err(in_font(&args.font.path))?;
    if axes.is_empty() {
        return Ok(());
    }
    let columns = ["axis", "name", "from", "default", "to"];
    let mut section = Section::new("Variation axes", "axes");
    section.columns(&columns, &columns[2..]);
    for axis in axes {
        section.record(vec![
            axis.tag.to_string().into(),
            axis.name.unwrap_or_default().into(),
            number(axis.min),
            number(axis.default),
            number(axis.max),
        ]);
    }
    section.print(out)?;
    let mut named = Section::new("Named settings", "settings");
    for instance in face.named_instances().map_err(in_font(&args.font.path))? {
        let settings = instance.settings.iter();
        let settings: Vec<String> = settings
            .map(|(tag, value)| format!("{tag}={value}"))
            .collect();
        named.row(&instance.name, settings.join(" "));
    }
    named.print(out)
}

/// The glyphs in colours, and the palettes.
fn colors(face: &Face, args: &InspectArgs, out: &mut Console) -> Result<(), CliError> {
    let formats = face.color_formats().map_err(in_font(&args.font.path))?;
    if formats == ColorFormats::default() {
        return Ok(());
    }
    let mut section = Section::new("Colours", "colors");
    let glyphs = (0..face.glyph_count()).map(GlyphId);
    let count = glyphs.filter(|glyph| face.is_color_glyph(*glyph)).count();
    section.row("colour glyphs", count);
    for (label, count) in [
        ("in layers", formats.layered),
        ("in paints", formats.painted),
    ] {
        if count > 0 {
            section.row(label, count);
        }
    }
    if let Some((tag, sizes)) = formats.pictures {
        let told: Vec<String> = sizes.iter().map(u16::to_string).collect();
        let told = format!("'{tag}', {} px", told.join(", "));
        let value = json!({ "table": tag.to_string(), "sizes": sizes });
        section.row_as("pictures", value, told);
    }
    for (index, palette) in face.palettes().into_iter().enumerate() {
        let value = json!({
            "name": &palette.name,
            "for_light": palette.is_for_light,
            "for_dark": palette.is_for_dark,
            "colors": palette.colors.iter().map(ToString::to_string).collect::<Vec<_>>(),
        });
        let named = palette.name.map(|name| format!(" “{name}”"));
        let ground = match (palette.is_for_light, palette.is_for_dark) {
            (true, false) => ", for light grounds",
            (false, true) => ", for dark grounds",
            _ => "",
        };
        let colors = palette.colors.iter().take(MOST_COLORS);
        let colors: Vec<String> = colors.map(ToString::to_string).collect();
        let rest = match palette.colors.len().saturating_sub(MOST_COLORS) {
            0 => String::new(),
            more => format!(", and {more} more"),
        };
        let label = format!("palette {index}");
        let (colors, named) = (colors.join(" "), named.unwrap_or_default());
        section.row_as(&label, value, format!("{colors}{rest}{named}{ground}"));
    }
    section.print(out)
}

/// Colours of a palette that are printed.
const MOST_COLORS: usize = 12;

/// The sizes at which every edge falls on a pixel.
fn crisp_sizes(face: &Face) -> String {
    let Some(one) = face.crisp_size(0.0) else {
        return "none in particular: not drawn on a grid of pixels".to_owned();
    };
    let sizes: Vec<String> = (1..=4)
        .map(|times| (one * times as f32).to_string())
        .collect();
    format!(
        "{}, … px: drawn on a grid of {one} pixels to the em; smoothing changes nothing there",
        sizes.join(", ")
    )
}

fn tables(face: &Face, out: &mut Console) -> Result<(), CliError> {
    let mut section = Section::new("Tables", "tables");
    section.columns(&["table", "offset", "bytes"], &["offset", "bytes"]);
    for record in face.tables() {
        section.record(vec![
            record.tag.to_string().into(),
            record.offset.into(),
            record.length.into(),
        ]);
    }
    section.print(out)
}

/// The number of characters of each Unicode block the face has.
fn repertoire(face: &Face, out: &mut Console) -> Result<(), CliError> {
    let mut blocks: Vec<(Option<UnicodeBlock>, usize)> = Vec::new();
    let mut total = 0;
    for (character, _) in face.characters() {
        total += 1;
        let block = find_unicode_block(character);
        match blocks.last_mut() {
            Some((last, count)) if *last == block => *count += 1,
            _ => blocks.push((block, 1)),
        }
    }
    let heading = format!("Characters: {total}, by Unicode block");
    let mut section = Section::new(&heading, "blocks");
    section.columns(&["block", "from", "has", "of"], &["has", "of"]);
    for (block, count) in blocks {
        let (name, from, of) = match block {
            Some(block) => (
                block.name(),
                format!("U+{:04X}", block.start()),
                (block.end() - block.start() + 1).into(),
            ),
            None => ("no block", String::new(), Value::Null),
        };
        section.record(vec![name.into(), from.into(), count.into(), of]);
    }
    out.field("characters", total);
    if total == 0 {
        writeln!(out, "\nCharacters: none")?;
    }
    section.print(out)
}

fn notes(face: &Face, out: &mut Console) -> Result<(), CliError> {
    let mut section = Section::new("Not supported in this font", "not_supported");
    for note in face.notes() {
        section.row(&note.table.to_string(), note.text.to_string());
    }
    let characters = face.characters();
    let scripts: BTreeSet<&str> = characters.filter_map(|(c, _)| unshaped_script(c)).collect();
    for script in scripts {
        section.row(script, "letters are not reordered, stacked or joined");
    }
    section.print(out)
}
