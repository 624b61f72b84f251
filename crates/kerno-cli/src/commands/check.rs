//! `kerno check`.

use std::io::Write;
use std::path::{Path, PathBuf};

use anstyle::{AnsiColor, Color as Color16, Style};
use clap::Args;
use kerno::base::{full_message, printable};
use kerno::dialogue::{SceneCheck, SceneFinding};
use kerno::screen::{CheckOptions, Finding, Screen};
use kerno::{Atlas, Canvas, Color, DeviceSize};
use serde_json::json;

use super::play::OpenScene;
use super::render::{is_screen, open_screen, outline};
use crate::console::Console;
use crate::error::CliError;
use crate::files::Files;
use crate::options::{WindowSize, parse_number, parse_path, parse_size};

#[derive(Debug, Args)]
pub(crate) struct CheckArgs {
    /// Screen files (docs/screen.md) and scene files (docs/scene.md)
    #[arg(value_name = "FILE", required = true, value_parser = parse_path)]
    files: Vec<PathBuf>,
    /// Size of a window in device pixels; may be said several times. By default 14 from
    /// 640x360 to 3840x2160
    #[arg(long = "window", value_name = "WIDTHxHEIGHT")]
    windows: Vec<WindowSize>,
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
    /// The most pages of a line of a scene
    #[arg(long, value_name = "N", default_value = "3")]
    pages: usize,
    /// Letters a second that a reader reads: lines of a scene that are typed faster are told
    #[arg(long, value_name = "N", default_value = "40", value_parser = parse_number)]
    reading_speed: f32,
    /// Draw a PNG of the worst case of each finding into this folder
    #[arg(long, value_name = "FOLDER")]
    pictures: Option<PathBuf>,
}

/// Takes screens through windows, languages and values, and tells what a player would see.
/// The exit code is 1 if there are findings.
pub(crate) fn check(args: &CheckArgs, out: &mut Console) -> Result<(), CliError> {
    let mut options = CheckOptions::default()
        .languages(args.languages.clone())
        .legible(args.legible)
        .contrast(args.contrast);
    if !args.windows.is_empty() {
        options.windows = args.windows.iter().map(|size| size.0).collect();
    }
    out.asked();
    let mut count = 0;
    let mut list = Vec::new();
    for path in &args.files {
        let findings = match is_screen(path) {
            true => check_screen(path, &options, args.pictures.as_deref(), out),
            false => check_scene(path, args, out),
        };
        // A file that can't be read at all does not hide what is in the others.
        let findings = findings.or_else(|error| match error.exit_code() {
            1 => Ok(vec![Found::Unreadable(full_message(&error))]),
            _ => Err(error),
        })?;
        count += findings.len();
        for finding in &findings {
            finding.print(path, out)?;
            list.push(finding.json(path));
        }
        match findings.len() {
            0 => writeln!(out, "{}: nothing found", path.display())?,
            1 => writeln!(out, "{}: 1 finding", path.display())?,
            count => writeln!(out, "{}: {count} findings", path.display())?,
        }
    }
    out.field("findings", list);
    match count {
        0 => Ok(()),
        count => Err(CliError::Findings(count)),
    }
}

/// The colour of the kinds of findings, on terminals.
const KIND: Style = Style::new()
    .bold()
    .fg_color(Some(Color16::Ansi(AnsiColor::Yellow)));

/// The kind of a file that can't be checked.
const UNREADABLE: &str = "unreadable";

/// A finding of a screen, or of a scene.
enum Found {
    Screen(Finding),
    Scene(SceneFinding),
    /// Something because of which a file could not be checked.
    Unreadable(String),
}

fn check_screen(
    path: &Path,
    options: &CheckOptions,
    pictures: Option<&Path>,
    out: &mut Console,
) -> Result<Vec<Found>, CliError> {
    let files = out.files().of(path)?;
    let (mut screen, mut atlas) = match open_screen(path, &files) {
        Ok(opened) => opened,
        // One text that can't be read does not hide the others, nor what else is wrong.
        Err(error) if error.exit_code() == 1 => {
            let texts = Screen::unreadable_texts(path, &files).unwrap_or_default();
            let mut messages: Vec<String> = texts.iter().map(|error| full_message(error)).collect();
            let first = full_message(&error);
            if !messages.contains(&first) {
                messages.insert(0, first);
            }
            return Ok(messages.into_iter().map(Found::Unreadable).collect());
        }
        Err(error) => return Err(error),
    };
    let progress = out.progress("cases");
    let findings = screen.check_with(&mut atlas, options, &mut |done, all| {
        progress.set(done, all);
    });
    drop(progress);
    let findings = findings?;
    if let Some(folder) = pictures {
        for finding in &findings {
            let file = folder.join(file_name(path, finding));
            picture(&mut screen, &mut atlas, finding, &file, out.files())?;
        }
    }
    Ok(findings.into_iter().map(Found::Screen).collect())
}

fn check_scene(path: &Path, args: &CheckArgs, out: &Console) -> Result<Vec<Found>, CliError> {
    let opened = OpenScene::new(path, out.files())?;
    let check = SceneCheck::new(opened.room)
        .most_pages(args.pages)
        .reading_speed(f64::from(args.reading_speed))
        .sprites(opened.sprites())
        .most_choices(opened.answers().unwrap_or(6))
        .languages(args.languages.clone());
    let OpenScene {
        scene,
        styles,
        strings,
        ..
    } = &opened;
    let progress = out.progress("lines");
    let found = check.run_with(scene, (styles, strings), &mut |done, all| {
        progress.set(done, all);
    });
    drop(progress);
    let found = found?;
    Ok(found.into_iter().map(Found::Scene).collect())
}

impl Found {
    fn print(&self, path: &Path, out: &mut Console) -> Result<(), CliError> {
        match self {
            Self::Screen(finding) => print(path, finding, out),
            Self::Unreadable(problem) => {
                write!(out, "{}: ", place(path, 0))?;
                out.styled(KIND, UNREADABLE);
                writeln!(out, ": {}", printable(problem))?;
                Ok(())
            }
            Self::Scene(finding) => {
                let place = place(path, finding.line);
                let (kind, language) = (finding.kind.name(), &finding.language);
                write!(out, "{place}: ")?;
                out.styled(KIND, kind);
                let problem = printable(&finding.problem);
                writeln!(out, ": {problem}, in {}", printable(language))?;
                Ok(())
            }
        }
    }

    fn json(&self, path: &Path) -> serde_json::Value {
        match self {
            Self::Screen(finding) => as_json(path, finding),
            Self::Unreadable(problem) => json!({
                "file": path.to_string_lossy(),
                "finding": UNREADABLE,
                "problem": problem,
            }),
            Self::Scene(finding) => json!({
                "file": path.to_string_lossy(),
                "line": finding.line,
                "finding": finding.kind.name(),
                "problem": finding.problem,
                "language": finding.language,
            }),
        }
    }
}

fn place(path: &Path, line: usize) -> String {
    match line {
        0 => printable(&path.display().to_string()).into_owned(),
        line => format!("{}, line {line}", printable(&path.display().to_string())),
    }
}

fn print(path: &Path, finding: &Finding, out: &mut Console) -> Result<(), CliError> {
    let place = place(path, finding.line);
    write!(out, "{place}: ")?;
    out.styled(KIND, &finding.kind.to_string());
    let (name, problem) = (printable(&finding.name), printable(&finding.problem));
    writeln!(out, ": “{name}”: {problem}")?;
    if let Some(case) = &finding.case {
        let times = match finding.count {
            1 => "once".to_owned(),
            count => format!("{count} times, worst"),
        };
        writeln!(out, "  {times} in {}", printable(&case.to_string()))?;
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
    files: &Files,
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
    files.write(path, &canvas.to_image().to_png()?)
}
