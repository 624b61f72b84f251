//! One file a command.

mod bake;
mod convert;
mod demo;
mod fonts;
mod inspect;
mod measure;
mod proof;
mod render;

use std::io::Write;

use clap::Subcommand;
use comfy_table::{CellAlignment, Table, presets};

use bake::{BakeArgs, bake};
use convert::{ConvertArgs, convert};
use demo::{DemoArgs, demo};
use fonts::{FontsArgs, fonts};
use inspect::{InspectArgs, inspect};
use measure::{MeasureArgs, measure};
use proof::{ProofArgs, proof};
use render::{RenderArgs, render};

use crate::error::CliError;

#[derive(Debug, Subcommand)]
pub(crate) enum Command {
    /// Tell what is in a font: names, metrics, tables, characters
    Inspect(InspectArgs),
    /// List the fonts installed on this system
    Fonts(FontsArgs),
    /// Measure a text: where every glyph stands, before anything is drawn
    Measure(MeasureArgs),
    /// Render a text to a PNG
    Render(RenderArgs),
    /// Draw a proof of one or several fonts to a PNG, to judge and choose by
    Proof(ProofArgs),
    /// Write a font at one size as BDF or as a picture sheet, to touch it up
    Convert(ConvertArgs),
    /// Draw the glyphs and sprites that a manifest names onto texture pages
    Bake(BakeArgs),
    /// Draw the demo HUD, the Lamplight Ferry, to a PNG
    Demo(DemoArgs),
}

impl Command {
    /// Runs the command.
    pub(crate) fn run(&self, out: &mut dyn Write) -> Result<(), CliError> {
        match self {
            Self::Inspect(args) => inspect(args, out),
            Self::Fonts(args) => fonts(args, out),
            Self::Measure(args) => measure(args, out),
            Self::Render(args) => render(args, out),
            Self::Proof(args) => proof(args, out),
            Self::Convert(args) => convert(args, out),
            Self::Bake(args) => bake(args, out),
            Self::Demo(args) => demo(args, out),
        }
    }
}

/// A plain table: columns by spaces, no lines; columns named in `right` are
/// set to the right.
fn plain_table(header: &[&str], right: &[&str]) -> Table {
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
