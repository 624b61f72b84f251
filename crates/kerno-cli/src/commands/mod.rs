//! One file a command.

mod bake;
mod check;
mod convert;
mod demo;
mod fonts;
mod inspect;
mod manual;
mod measure;
mod new;
mod play;
mod proof;
mod render;
mod view;

use std::ffi::OsString;
use std::path::Path;

use clap::Subcommand;
use comfy_table::{CellAlignment, Table, presets};

use bake::{BakeArgs, bake};
use check::{CheckArgs, check};
use convert::{ConvertArgs, convert};
use demo::{DemoArgs, demo};
use fonts::{FontsArgs, fonts};
use inspect::{InspectArgs, inspect};
use manual::{CompletionsArgs, ManPagesArgs, SchemasArgs, completions, man_pages, schemas};
use measure::{MeasureArgs, measure};
use new::{NewArgs, new};
use play::{PlayArgs, play};
use proof::{ProofArgs, proof};
use render::{RenderArgs, RenderScreenArgs, is_screen, render, render_screen};
use view::{ViewArgs, view};

use crate::console::Console;
use crate::error::CliError;

#[derive(Debug, Subcommand)]
pub(crate) enum Command {
    /// Tell what is in a font: names, metrics, tables, characters
    Inspect(InspectArgs),
    /// List the fonts installed on this system
    Fonts(FontsArgs),
    /// Measure a text: where every glyph stands, before anything is drawn
    Measure(MeasureArgs),
    /// Render a text, or a screen file, to a PNG
    Render(RenderArgs),
    #[command(
        hide = true,
        display_name = "render",
        override_usage = "kerno render [OPTIONS] --output <FILE> <SCREEN>"
    )]
    RenderScreen(RenderScreenArgs),
    /// Draw a proof of one or several fonts to a PNG, to judge and choose by
    Proof(ProofArgs),
    /// Write a font at one size as BDF or as a picture sheet, to touch it up
    Convert(ConvertArgs),
    /// Draw the glyphs and sprites that a manifest names onto texture pages
    Bake(BakeArgs),
    /// Tell what a player would see of a screen or a scene: text that does not fit, overlaps,
    /// missing letters, at many window sizes, languages and values
    Check(CheckArgs),
    /// Play a scene of dialogue: as an animation, a storyboard, a transcript, subtitles, or in
    /// the terminal
    Play(PlayArgs),
    /// Show a screen, a scene, a font or a manifest in a window, and again whenever it is saved
    /// (of a build with the feature `view`)
    View(ViewArgs),
    /// Make a starter project: a screen, its style, a scene, a manifest, and a program that shows
    /// them in a window
    New(NewArgs),
    /// Draw the demo HUD, the Lamplight Ferry, to a PNG
    Demo(DemoArgs),
    /// Print the completions of a shell
    Completions(CompletionsArgs),
    /// Write the manual pages of all commands into a folder
    ManPages(ManPagesArgs),
    /// Write JSON Schemas of all kinds of files into a folder, for editors
    Schemas(SchemasArgs),
}

impl Command {
    /// Runs the command.
    pub(crate) fn run(&self, out: &mut Console) -> Result<(), CliError> {
        match self {
            Self::Inspect(args) => inspect(args, out),
            Self::Fonts(args) => fonts(args, out),
            Self::Measure(args) => measure(args, out),
            Self::Render(args) => render(args, out),
            Self::RenderScreen(args) => render_screen(args, out),
            Self::Proof(args) => proof(args, out),
            Self::Convert(args) => convert(args, out),
            Self::Bake(args) => bake(args, out),
            Self::Check(args) => check(args, out),
            Self::Play(args) => play(args, out),
            Self::View(args) => view(args, out),
            Self::New(args) => new(args, out),
            Self::Completions(args) => completions(args, out),
            Self::ManPages(args) => man_pages(args, out),
            Self::Schemas(args) => schemas(args, out),
            Self::Demo(args) => demo(args, out),
        }
    }
}

/// The arguments as they are read: `render` of a screen file takes other options than that of
/// a text.
pub(crate) fn spelled(mut arguments: Vec<OsString>) -> Vec<OsString> {
    let is_option = |argument: &OsString| argument.as_encoded_bytes().starts_with(b"-");
    let Some(at) = (1..arguments.len()).find(|at| !is_option(&arguments[*at])) else {
        return arguments;
    };
    let mut rest = arguments[at + 1..].iter();
    if arguments[at] == "render" && rest.any(|argument| is_screen(Path::new(argument))) {
        arguments[at] = OsString::from("render-screen");
    }
    arguments
}

/// A plain table: columns by spaces, no lines; columns named in `right` are
/// set to the right.
pub(crate) fn plain_table(header: &[&str], right: &[&str]) -> Table {
    let mut table = Table::new();
    table.load_style(presets::NOTHING);
    table.set_header(header.iter().copied());
    for (index, name) in header.iter().enumerate() {
        let Some(column) = table.column_mut(index) else {
            continue;
        };
        column.set_padding((if index == 0 { 2 } else { 1 }, 1));
        if right.contains(name) {
            column.set_cell_alignment(CellAlignment::Right);
        }
    }
    table
}
