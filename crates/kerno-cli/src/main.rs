//! The command `kerno`: look into fonts, measure and render text, bake
//! atlases, draw the demo HUD. Exits 0 when done, 1 for bad input, 2 for bad usage.

mod commands;
mod console;
mod demo;
mod error;
mod files;
mod options;
mod output;
mod report;

use std::io::{self, Write};
use std::process::ExitCode;

use anstyle::{AnsiColor, Style};
use clap::Parser;

use commands::Command;
use console::{Console, Manners};
use error::CliError;
use files::{FileManners, Files};

/// Text and interface pictures for a game's screen: look into fonts, measure and
/// render text, bake glyphs and sprites, draw a whole HUD
#[derive(Debug, Parser)]
#[command(name = "kerno", version, max_term_width = 100)]
pub(crate) struct Arguments {
    #[command(subcommand)]
    pub(crate) command: Command,
    #[command(flatten)]
    pub(crate) manners: Manners,
    #[command(flatten)]
    pub(crate) files: FileManners,
}

fn main() -> ExitCode {
    let arguments = Arguments::parse_from(commands::spelled(std::env::args_os().collect()));
    arguments.manners.start();
    let mut console = Console::new(arguments.manners, Files::new(arguments.files));
    let done = arguments.command.run(&mut console);
    let done = console.finish().and(done);
    match done {
        Ok(()) => ExitCode::SUCCESS,
        // The reader has seen enough, as `head` does.
        Err(CliError::Output(error)) if error.kind() == io::ErrorKind::BrokenPipe => {
            ExitCode::SUCCESS
        }
        Err(error) => {
            let style = Style::new().bold().fg_color(Some(AnsiColor::Red.into()));
            let message = kerno::base::full_message(&error);
            // Nobody can be told where this fails.
            let _ = writeln!(anstream::stderr(), "{style}kerno:{style:#} {message}");
            ExitCode::from(error.exit_code())
        }
    }
}
