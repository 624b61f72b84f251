//! `kerno view`.

#[cfg(feature = "view")]
mod app;
#[cfg(feature = "view")]
mod gpu;
#[cfg(feature = "view")]
mod live;
#[cfg(feature = "view")]
mod overlay;
#[cfg(feature = "view")]
mod picture;
#[cfg(feature = "view")]
mod subject;
#[cfg(feature = "view")]
mod watch;

use std::path::PathBuf;

use clap::Args;
use kerno::Color;

use crate::console::Console;
use crate::error::CliError;
use crate::files::Files;
use crate::options::{WindowSize, parse_number, parse_path};

#[derive(Clone, Debug, Args)]
pub(crate) struct ViewArgs {
    /// A screen (docs/screen.md), a scene (docs/scene.md), a font, or a manifest
    /// (docs/manifest.md)
    #[arg(value_name = "FILE", value_parser = parse_path)]
    file: PathBuf,
    /// Size of the window in device pixels
    #[arg(long, value_name = "WIDTHxHEIGHT", default_value = "1280x800")]
    window: WindowSize,
    /// Language of the texts
    #[arg(long, value_name = "TAG")]
    language: Option<String>,
    /// A value of the screen or the scene; may be said several times
    #[arg(long = "set", value_name = "NAME=VALUE", value_parser = super::render::parse_setting)]
    settings: Vec<(String, String)>,
    /// A JSON or TOML file of values
    #[arg(long, value_name = "FILE", value_parser = parse_path)]
    values: Option<PathBuf>,
    /// Scale of the texts that a reader asks for, 0.5 to 3
    #[arg(long, value_name = "N", default_value = "1", value_parser = parse_number)]
    text_scale: f32,
    /// Colour behind the screen, as in CSS
    #[arg(long, value_name = "COLOR", default_value = "#16222e")]
    background: Color,
    /// The way to files.
    #[arg(skip)]
    #[cfg_attr(
        not(feature = "view"),
        expect(dead_code, reason = "there are no windows")
    )]
    files: Files,
}

/// Shows a file in a window, and again whenever it is saved.
#[cfg(feature = "view")]
pub(crate) fn view(args: &ViewArgs, out: &Console) -> Result<(), CliError> {
    app::run(&ViewArgs {
        files: out.files().clone(),
        ..args.clone()
    })
}

/// This build has no windows.
#[cfg(not(feature = "view"))]
pub(crate) fn view(_: &ViewArgs, _: &Console) -> Result<(), CliError> {
    Err(CliError::NoWindows)
}
