//! `kerno play`.

mod animation;
mod live;
mod stage;
mod storyboard;
mod transcript;

use std::io::{IsTerminal, stdin, stdout};
use std::path::{Path, PathBuf};

use clap::Args;
use kerno::Color;

pub(crate) use self::stage::OpenScene;
use super::render::{file_values, parse_setting};
use crate::console::Console;
use crate::error::CliError;
use crate::files::Files;
use crate::options::{PngParser, WindowSize, parse_path, parse_seconds};
use transcript::Transcript;

#[derive(Clone, Debug, Args)]
pub(crate) struct PlayArgs {
    /// The scene file (docs/scene.md)
    #[arg(value_name = "SCENE", value_parser = parse_path)]
    scene: PathBuf,
    /// Write an animated PNG
    #[arg(short, long, value_name = "FILE", value_parser = PngParser)]
    output: Option<PathBuf>,
    /// Write each frame as a PNG into this folder
    #[arg(long, value_name = "FOLDER")]
    frames: Option<PathBuf>,
    /// Write one PNG with a picture of each page, its times beneath
    #[arg(long, value_name = "FILE", value_parser = PngParser)]
    storyboard: Option<PathBuf>,
    /// Write subtitles: `.vtt` (`WebVTT`) or `.srt` (`SubRip`)
    #[arg(long, value_name = "FILE")]
    subtitles: Option<PathBuf>,
    /// Print what is said, with times; the default where there is no terminal to play in
    #[arg(long)]
    transcript: bool,
    /// Language of the texts
    #[arg(long, value_name = "TAG")]
    language: Option<String>,
    /// A value of the scene; may be said several times
    #[arg(long = "set", value_name = "NAME=VALUE", value_parser = parse_setting)]
    settings: Vec<(String, String)>,
    /// A JSON or TOML file of values; - for standard input
    #[arg(long, value_name = "FILE")]
    values: Option<PathBuf>,
    /// The answer to choose, counted from 1; once for each choice, in their order. By default
    /// the first
    #[arg(long = "choose", value_name = "N", value_parser = clap::value_parser!(u16).range(1..=99))]
    answers: Vec<u16>,
    /// Letters a second that the reader reads: by them it goes on where it waits
    #[arg(long, value_name = "N", default_value = "20", value_parser = parse_speed)]
    reading_speed: f64,
    /// Size of the pictures in pixels
    #[arg(long, value_name = "WIDTHxHEIGHT", default_value = "640x360")]
    window: WindowSize,
    /// Pictures a second
    #[arg(long, value_name = "N", default_value = "20", value_parser = clap::value_parser!(u16).range(1..=120))]
    frame_rate: u16,
    /// Begin the pictures at this second
    #[arg(long, value_name = "SECONDS", default_value = "0", value_parser = parse_seconds)]
    from: f64,
    /// End at this second
    #[arg(long, value_name = "SECONDS", default_value = "600", value_parser = parse_seconds)]
    to: f64,
    /// Draw a bar along the lower edge of the pictures that shows the time
    #[arg(long)]
    progress_bar: bool,
    /// Show pages at once, without typing
    #[arg(long)]
    at_once: bool,
    /// Move letters as little as may be
    #[arg(long)]
    reduced_motion: bool,
    /// Colour behind the scene, as in CSS
    #[arg(long, value_name = "COLOR", default_value = "#16222e")]
    background: Color,
    /// The way to files.
    #[arg(skip)]
    files: Files,
}

fn parse_speed(text: &str) -> Result<f64, String> {
    let number = text.parse::<f64>().ok();
    let number = number.filter(|number| *number > 0.0 && *number <= 1000.0);
    number.ok_or_else(|| "write letters a second, above 0 and at most 1000".to_owned())
}

/// Plays a scene: as pictures, as text, or in the terminal.
pub(crate) fn play(args: &PlayArgs, out: &mut Console) -> Result<(), CliError> {
    let mut args = args.clone();
    args.files = out.files().clone();
    let mut settings = file_values(args.values.as_deref(), &args.files)?;
    settings.append(&mut args.settings);
    args.settings = settings;
    let args = &args;
    let mut has_output = false;
    if let Some(path) = &args.output {
        let (bytes, count) = animation::animated_png(args, &out.progress("frames"))?;
        out.write_file(path, &bytes)?;
        out.wrote(path, &format!("{count} pictures"))?;
        has_output = true;
    }
    if let Some(folder) = &args.frames {
        let count = animation::numbered(args, folder, &out.progress("frames"))?;
        out.wrote(folder, &format!("{count} pictures"))?;
        has_output = true;
    }
    if let Some(path) = &args.storyboard {
        out.write_png(path, &storyboard::draw(args)?.to_image())?;
        has_output = true;
    }
    if let Some(path) = &args.subtitles {
        let transcript = Transcript::of(args)?;
        let text = match extension(path) {
            Some("vtt") => transcript.web_vtt(),
            Some("srt") => transcript.sub_rip(),
            _ => return Err(CliError::Subtitles(path.clone())),
        };
        out.write_file(path, text.as_bytes())?;
        out.wrote(path, &format!("{} cues", transcript.pages().count()))?;
        has_output = true;
    }
    if args.transcript || out.is_json() && !has_output {
        return Transcript::of(args)?.print(out);
    }
    match (has_output, stdin().is_terminal() && stdout().is_terminal()) {
        (true, _) => Ok(()),
        (false, true) => live::play(args),
        (false, false) => Transcript::of(args)?.print(out),
    }
}

fn extension(path: &Path) -> Option<&str> {
    path.extension()?.to_str()
}

/// Minutes, seconds and parts of them: `0:03.25`.
fn clock(seconds: f64) -> String {
    let minutes = (seconds / 60.0).floor();
    format!("{minutes}:{:05.2}", seconds - minutes * 60.0)
}
