//! `kerno inspect`.

use std::io::Write;

use clap::Args;
use kerno::Face;
use kerno::font::{ColorFormats, GlyphId, NameId};
use unicode_blocks::{UnicodeBlock, find_unicode_block};

use super::plain_table;
use crate::error::{CliError, in_font};
use crate::options::FontArgs;

#[derive(Debug, Args)]
pub(crate) struct InspectArgs {
    #[command(flatten)]
    pub(crate) font: FontArgs,
}

/// Tells what is in a font.
pub(crate) fn inspect(args: &InspectArgs, out: &mut dyn Write) -> Result<(), CliError> {
    let face = args.font.open()?;
    writeln!(out, "{}", face.full_name())?;
    names(&face, out)?;
    metrics(&face, out)?;
    axes(&face, args, out)?;
    colors(&face, args, out)?;
    tables(&face, out)?;
    repertoire(&face, out)?;
    notes(&face, out)
}

fn names(face: &Face, out: &mut dyn Write) -> Result<(), CliError> {
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
            writeln!(out, "  {label:<14} {first_line}")?;
        }
    }
    Ok(())
}

fn metrics(face: &Face, out: &mut dyn Write) -> Result<(), CliError> {
    let metrics = face.metrics();
    writeln!(
        out,
        "\nMetrics, in font units ({} per em)",
        metrics.units_per_em
    )?;
    let mut row = |label: &str, value: String| writeln!(out, "  {label:<14} {value}");
    row("ascender", metrics.ascender.to_string())?;
    row("descender", metrics.descender.to_string())?;
    row("line gap", metrics.line_gap.to_string())?;
    for (label, height) in [
        ("cap height", metrics.cap_height),
        ("x-height", metrics.x_height),
    ] {
        row(
            label,
            height.map_or_else(|| "not stated".to_owned(), |height| height.to_string()),
        )?;
    }
    for (label, line) in [
        ("underline", metrics.underline),
        ("line-through", metrics.strikeout),
    ] {
        if let Some(line) = line {
            row(
                label,
                format!("at {}, {} thick", line.position, line.thickness),
            )?;
        }
    }
    row("weight", metrics.weight.to_string())?;
    row("width", format!("{} of 9", metrics.width))?;
    row("slant", format!("{}°", metrics.italic_angle))?;
    row(
        "fixed pitch",
        if metrics.is_fixed_pitch { "yes" } else { "no" }.to_owned(),
    )?;
    row(
        "kerning",
        if face.has_kerning() { "yes" } else { "none" }.to_owned(),
    )?;
    let strikes = face.strike_sizes()?;
    if !strikes.is_empty() {
        let sizes: Vec<String> = strikes.iter().map(u16::to_string).collect();
        row("bitmap strikes", format!("{} px", sizes.join(", ")))?;
    }
    row("crisp sizes", crisp_sizes(face))?;
    row("glyphs", face.glyph_count().to_string())?;
    let bounds = metrics.bounds;
    row(
        "bounds",
        format!(
            "{} {} to {} {}",
            bounds.x_min, bounds.y_min, bounds.x_max, bounds.y_max
        ),
    )?;
    Ok(())
}

/// The axes of a variable font and its named settings.
fn axes(face: &Face, args: &InspectArgs, out: &mut dyn Write) -> Result<(), CliError> {
    let axes = face.axes().map_err(in_font(&args.font.path))?;
    if axes.is_empty() {
        return Ok(());
    }
    let columns = ["axis", "name", "from", "default", "to"];
    let mut table = plain_table(&columns, &columns[2..]);
    for axis in axes {
        table.add_row([
            axis.tag.to_string(),
            axis.name.unwrap_or_default(),
            axis.min.to_string(),
            axis.default.to_string(),
            axis.max.to_string(),
        ]);
    }
    writeln!(out, "\nVariation axes\n{}", table.trim_fmt())?;
    for instance in face.named_instances().map_err(in_font(&args.font.path))? {
        let settings = instance.settings.iter();
        let settings: Vec<String> = settings
            .map(|(tag, value)| format!("{tag}={value}"))
            .collect();
        writeln!(out, "  {:<22} {}", instance.name, settings.join(" "))?;
    }
    Ok(())
}

/// The glyphs in colours, and the palettes.
fn colors(face: &Face, args: &InspectArgs, out: &mut dyn Write) -> Result<(), CliError> {
    let formats = face.color_formats().map_err(in_font(&args.font.path))?;
    if formats == ColorFormats::default() {
        return Ok(());
    }
    writeln!(out, "\nColours")?;
    let glyphs = (0..face.glyph_count()).map(GlyphId);
    let count = glyphs.filter(|glyph| face.is_color_glyph(*glyph)).count();
    writeln!(out, "  {:<14} {count}", "colour glyphs")?;
    for (label, count) in [
        ("in layers", formats.layered),
        ("in paints", formats.painted),
    ] {
        if count > 0 {
            writeln!(out, "  {label:<14} {count}")?;
        }
    }
    if let Some((tag, sizes)) = formats.pictures {
        let sizes: Vec<String> = sizes.iter().map(u16::to_string).collect();
        writeln!(out, "  {:<14} '{tag}', {} px", "pictures", sizes.join(", "))?;
    }
    for (index, palette) in face.palettes().into_iter().enumerate() {
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
        writeln!(
            out,
            "  {label:<14} {}{rest}{}{ground}",
            colors.join(" "),
            named.unwrap_or_default()
        )?;
    }
    Ok(())
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

fn tables(face: &Face, out: &mut dyn Write) -> Result<(), CliError> {
    let mut table = plain_table(&["table", "offset", "bytes"], &["offset", "bytes"]);
    for record in face.tables() {
        table.add_row([
            record.tag.to_string(),
            record.offset.to_string(),
            record.length.to_string(),
        ]);
    }
    writeln!(out, "\nTables\n{}", table.trim_fmt())?;
    Ok(())
}

/// The number of characters of each Unicode block the face has.
fn repertoire(face: &Face, out: &mut dyn Write) -> Result<(), CliError> {
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
    let mut table = plain_table(&["block", "from", "has", "of"], &["has", "of"]);
    for (block, count) in blocks {
        let (name, from, of) = match block {
            Some(block) => (
                block.name(),
                format!("U+{:04X}", block.start()),
                (block.end() - block.start() + 1).to_string(),
            ),
            None => ("no block", String::new(), String::new()),
        };
        table.add_row([name.to_owned(), from, count.to_string(), of]);
    }
    writeln!(
        out,
        "\nCharacters: {total}, by Unicode block\n{}",
        table.trim_fmt()
    )?;
    Ok(())
}

fn notes(face: &Face, out: &mut dyn Write) -> Result<(), CliError> {
    if face.notes().is_empty() {
        return Ok(());
    }
    writeln!(out, "\nNot supported in this font")?;
    for note in face.notes() {
        writeln!(out, "  {:<6} {}", note.table, note.text)?;
    }
    Ok(())
}
