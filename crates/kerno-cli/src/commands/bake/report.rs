//! The report of a bake as a table.

use std::fmt::Write as _;
use std::io::{self, Write};

use kerno::atlas::PageKind;
use kerno::bake::{PictureUse, Report};
use kerno::base::printable;
use serde_json::json;

use crate::commands::plain_table;
use crate::report::number;

/// The first line of a report's file: it tells ours from a stranger's.
pub(super) const MARK: &str = "Costs of a bake, written by kerno bake --report\n\n";

/// Costs in two lines.
pub(super) fn summary(report: &Report, out: &mut dyn Write) -> io::Result<()> {
    let glyphs: usize = report.strikes.iter().map(|strike| strike.count).sum();
    let sprites: usize = report.sprites.iter().map(|group| group.count).sum();
    writeln!(
        out,
        "  {glyphs} glyphs in {} strikes, {sprites} sprites, {} pages, {} of texture",
        report.strikes.len(),
        report.pages.len(),
        size(report.bytes)
    )?;
    for (name, characters) in &report.missing {
        let count = characters.chars().count();
        writeln!(
            out,
            "  {count} characters are not in “{}”: {}",
            printable(name),
            list(characters)
        )?;
    }
    for unused in &report.unused {
        writeln!(out, "  {}", printable(unused))?;
    }
    Ok(())
}

/// All of it as JSON.
pub(super) fn json(report: &Report) -> serde_json::Value {
    let pictures = |list: &[PictureUse]| -> Vec<_> {
        let one = |part: &PictureUse| {
            json!({
                "name": part.name,
                "count": part.count,
                "pictures": part.pictures,
                "texels": part.texels,
                "bytes": part.bytes,
            })
        };
        list.iter().map(one).collect()
    };
    let pages = report.pages.iter().map(|page| {
        let is_mask = page.kind == PageKind::Mask;
        json!({
            "kind": if is_mask { "mask" } else { "color" },
            "width": page.width,
            "height": page.height,
            "bytes": page.bytes,
            "fill": number(page.fill),
        })
    });
    let fonts = report
        .fonts
        .iter()
        .map(|font| json!({ "faces": font.faces, "bytes": font.bytes, "whole": font.whole }));
    let charsets = report.charsets.iter().map(|charset| {
        json!({
            "name": charset.name,
            "characters": charset.characters,
            "saving": charset.saving,
        })
    });
    let missing = report
        .missing
        .iter()
        .map(|(name, characters)| json!({ "name": name, "characters": characters }));
    let features = report.features.iter().map(|feature| {
        json!({
            "face": feature.face,
            "tag": feature.tag,
            "glyphs": feature.glyphs,
            "saving": feature.saving,
        })
    });
    json!({
        "texture_bytes": report.bytes,
        "strikes": pictures(&report.strikes),
        "sprites": pictures(&report.sprites),
        "pages": pages.collect::<Vec<_>>(),
        "fonts": fonts.collect::<Vec<_>>(),
        "charsets": charsets.collect::<Vec<_>>(),
        "features": features.collect::<Vec<_>>(),
        "missing": missing.collect::<Vec<_>>(),
        "unused": report.unused,
    })
}

/// All of it.
pub(super) fn told(report: &Report) -> String {
    let mut text = String::new();
    section(&mut text, "Strikes", "glyphs", &report.strikes);
    section(&mut text, "Sprites", "sprites", &report.sprites);
    pages(&mut text, report);
    fonts(&mut text, report);
    charsets(&mut text, report);
    features(&mut text, report);
    let mut lines = |heading: &str, lines: Vec<String>| {
        if !lines.is_empty() {
            let _ = writeln!(text, "\n{heading}");
        }
        for line in lines {
            let _ = writeln!(text, "  {}", printable(&line));
        }
    };
    let missing = report.missing.iter();
    let missing = missing.map(|(name, characters)| {
        format!(
            "{name}: {} ({})",
            list(characters),
            characters.chars().count()
        )
    });
    lines("Asked for, and in no face", missing.collect());
    lines("Named, and used by nothing", report.unused.clone());
    text
}

fn section(text: &mut String, heading: &str, counted: &str, uses: &[PictureUse]) {
    if uses.is_empty() {
        return;
    }
    let header = [heading, counted, "pictures", "texels", "bytes", "share"];
    let mut table = plain_table(&header, &header[1..]);
    for taken in uses {
        table.add_row([
            printable(&taken.name).into_owned(),
            taken.count.to_string(),
            taken.pictures.to_string(),
            taken.texels.to_string(),
            size(taken.bytes),
            percent(taken.share),
        ]);
    }
    let _ = writeln!(text, "{}\n", trimmed(&table.to_string()));
}

fn fonts(text: &mut String, report: &Report) {
    if report.fonts.is_empty() {
        return;
    }
    let header = ["Fonts", "bytes", "of"];
    let mut table = plain_table(&header, &header[1..]);
    for font in &report.fonts {
        table.add_row([
            printable(&font.faces.join(", ")).into_owned(),
            size(font.bytes),
            size(font.whole),
        ]);
    }
    let _ = writeln!(text, "{}\n", trimmed(&table.to_string()));
}

fn pages(text: &mut String, report: &Report) {
    let header = ["Pages", "size", "bytes", "fill"];
    let mut table = plain_table(&header, &header[1..]);
    for kind in [PageKind::Mask, PageKind::Color] {
        let own = report.pages.iter().filter(|page| page.kind == kind);
        for (number, page) in own.enumerate() {
            let kind = match kind {
                PageKind::Mask => "mask",
                PageKind::Color => "colour",
            };
            table.add_row([
                format!("{kind} {number}"),
                format!("{} × {}", page.width, page.height),
                size(page.bytes),
                percent(page.fill),
            ]);
        }
    }
    table.add_row([
        "all".to_owned(),
        String::new(),
        size(report.bytes),
        String::new(),
    ]);
    let _ = writeln!(text, "{}\n", trimmed(&table.to_string()));
}

fn charsets(text: &mut String, report: &Report) {
    if report.charsets.is_empty() {
        return;
    }
    let header = ["Charsets", "characters", "saved without it"];
    let mut table = plain_table(&header, &header[1..]);
    for charset in &report.charsets {
        table.add_row([
            printable(&charset.name).into_owned(),
            charset.characters.to_string(),
            size(charset.saving),
        ]);
    }
    let _ = writeln!(text, "{}", trimmed(&table.to_string()));
}

fn features(text: &mut String, report: &Report) {
    if report.features.is_empty() {
        return;
    }
    let header = ["Features", "face", "glyphs", "saved without it"];
    let mut table = plain_table(&header, &header[2..]);
    for feature in &report.features {
        table.add_row([
            printable(&feature.tag).into_owned(),
            printable(&feature.face).into_owned(),
            feature.glyphs.to_string(),
            size(feature.saving),
        ]);
    }
    let _ = writeln!(text, "\n{}", trimmed(&table.to_string()));
}

/// The lines of a table without the spaces at their ends.
fn trimmed(table: &str) -> String {
    let lines: Vec<&str> = table.lines().map(str::trim_end).collect();
    lines.join("\n")
}

fn percent(share: f32) -> String {
    format!("{:.1} %", share * 100.0)
}

/// Bytes, in kilobytes from one on: 1 KB is 1024 bytes.
fn size(bytes: u64) -> String {
    match bytes {
        0..1024 => format!("{bytes} B"),
        1024..1_048_576 => format!("{:.1} KB", bytes as f64 / 1024.0),
        _ => format!("{:.2} MB", bytes as f64 / 1_048_576.0),
    }
}

/// The most characters that are listed one by one.
const LISTED: usize = 24;

/// The first characters by their code points, those that can be seen as they are
/// too.
fn list(characters: &str) -> String {
    let told = characters.chars().take(LISTED).map(|character| {
        let code = format!("U+{:04X}", u32::from(character));
        if character.is_alphanumeric() || character.is_ascii_graphic() {
            format!("{character} {code}")
        } else {
            code
        }
    });
    let mut list = told.collect::<Vec<_>>().join(", ");
    if characters.chars().count() > LISTED {
        list += ", …";
    }
    list
}
