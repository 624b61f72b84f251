//! `kerno check`.

use std::io::Write;
use std::path::{Path, PathBuf};

use clap::Args;
use kerno::screen::{CheckOptions, Finding, Screen};
use kerno::{Atlas, Canvas, Color, DeviceSize};
use serde_json::json;

use super::render::{open_screen, outline};
use crate::error::CliError;
use crate::options::{WindowSize, parse_number, parse_size};
use crate::output::write_png;

#[derive(Debug, Args)]
pub(crate) struct CheckArgs {
    /// Screen files (docs/screen.md)
    #[arg(value_name = "FILE", required = true)]
    screens: Vec<PathBuf>,
    /// Size of a window in device pixels; may be said several times. By default 14 from
    /// 640x360 to 3840x2160
    #[arg(long = "size", value_name = "WIDTHxHEIGHT")]
    sizes: Vec<WindowSize>,
    /// Language of the texts; may be said several times. By default all, and en-XA may be
    /// added
    #[arg(long = "language", value_name = "TAG")]
    languages: Vec<String>,
    /// The smallest legible size of letters, in device pixels per em
    #[arg(long, value_name = "N", value_parser = parse_size, default_value = "8")]
    legible: f32,
    /// The least contrast of letters against what is behind them (WCAG 2.2)
    #[arg(long, value_name = "N", value_parser = parse_number, default_value = "4.5")]
    contrast: f32,
    /// Draw a PNG of the worst case of each finding into this folder
    #[arg(long, value_name = "FOLDER")]
    pictures: Option<PathBuf>,
    /// Print JSON
    #[arg(long)]
    json: bool,
}

/// Takes screens through windows, languages and values, and tells what a player would see.
/// Where there is something, the exit code is 1.
pub(crate) fn check(args: &CheckArgs, out: &mut dyn Write) -> Result<(), CliError> {
    let mut options = CheckOptions::default()
        .languages(args.languages.clone())
        .legible(args.legible)
        .contrast(args.contrast);
    if !args.sizes.is_empty() {
        options.windows = args.sizes.iter().map(|size| size.0).collect();
    }
    let mut all = Vec::new();
    for path in &args.screens {
        let (mut screen, mut atlas) = open_screen(path)?;
        let findings = screen.check(&mut atlas, &options)?;
        if let Some(folder) = &args.pictures {
            for finding in &findings {
                picture(
                    &mut screen,
                    &mut atlas,
                    finding,
                    &folder.join(file_name(path, finding)),
                )?;
            }
        }
        all.push((path, findings));
    }
    let count: usize = all.iter().map(|(_, findings)| findings.len()).sum();
    if args.json {
        let list: Vec<_> = all
            .iter()
            .flat_map(|(path, findings)| findings.iter().map(|finding| as_json(path, finding)))
            .collect();
        writeln!(out, "{:#}", json!({ "findings": list }))?;
    } else {
        for (path, findings) in &all {
            for finding in findings {
                print(path, finding, out)?;
            }
            let screens = format!("{} windows", options.windows.len());
            match findings.len() {
                0 => writeln!(out, "{}: nothing found in {screens}", path.display())?,
                1 => writeln!(out, "{}: 1 finding", path.display())?,
                count => writeln!(out, "{}: {count} findings", path.display())?,
            }
        }
    }
    match count {
        0 => Ok(()),
        count => {
            out.flush()?;
            Err(CliError::Findings(count))
        }
    }
}

fn place(path: &Path, line: usize) -> String {
    match line {
        0 => path.display().to_string(),
        line => format!("{}, line {line}", path.display()),
    }
}

fn print(path: &Path, finding: &Finding, out: &mut dyn Write) -> Result<(), CliError> {
    let place = place(path, finding.line);
    writeln!(
        out,
        "{place}: {}: “{}”: {}",
        finding.kind, finding.name, finding.problem
    )?;
    if let Some(case) = &finding.case {
        let times = match finding.count {
            1 => "once".to_owned(),
            count => format!("{count} times, worst"),
        };
        writeln!(out, "  {times} in {case}")?;
    }
    Ok(())
}

fn as_json(path: &Path, finding: &Finding) -> serde_json::Value {
    let case = finding.case.as_ref().map(|case| {
        let values: serde_json::Map<String, serde_json::Value> = case
            .values
            .iter()
            .map(|(name, value)| (name.clone(), json!(value)))
            .collect();
        json!({
            "language": case.language,
            "window": [case.window.width, case.window.height],
            "values": values,
        })
    });
    json!({
        "file": path.to_string_lossy(),
        "line": finding.line,
        "finding": finding.kind.name(),
        "name": finding.name,
        "problem": finding.problem,
        "count": finding.count,
        "worst": case,
    })
}

fn file_name(path: &Path, finding: &Finding) -> String {
    let stem = path.file_stem().unwrap_or_default().to_string_lossy();
    let name: String = finding
        .name
        .chars()
        .map(|c| {
            if c.is_alphanumeric() || c == '-' {
                c
            } else {
                '_'
            }
        })
        .collect();
    format!("{stem}.{name}.{}.png", finding.kind)
}

/// Draws the worst case of a finding with the element outlined.
fn picture(
    screen: &mut Screen,
    atlas: &mut Atlas,
    finding: &Finding,
    path: &Path,
) -> Result<(), CliError> {
    let Some(case) = &finding.case else {
        return Ok(());
    };
    screen.set_language(&case.language, atlas)?;
    let started: Vec<_> = screen.description().values.clone();
    for value in started {
        screen.set(&value.name, value.start)?;
    }
    for (name, value) in &case.values {
        screen.set(name, *value)?;
    }
    screen.settle();
    let DeviceSize { width, height } = case.window;
    let view = screen.viewport(DeviceSize::new(width, height))?;
    let mut canvas = Canvas::try_new(case.window)?;
    canvas.clear(Color::rgb(0x16, 0x22, 0x2e));
    canvas.draw(screen.frame(atlas, &view)?, atlas);
    if let Some(rect) = screen.element_rect(&finding.name) {
        outline(&mut canvas, &view, rect);
    }
    write_png(path, &canvas.to_image())
}
