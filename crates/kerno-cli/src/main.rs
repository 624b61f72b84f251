//! The command `kerno`: look into fonts, measure and render text, bake
//! atlases, draw the demo HUD. Exits 0 when done, 1 for bad input, 2 for bad usage.

mod commands;
mod demo;
mod error;
mod options;
mod output;

use std::io::{self, BufWriter, Write};
use std::process::ExitCode;

use clap::Parser;

use commands::Command;
use error::CliError;

/// Text and interface pictures for a game's screen: look into fonts, measure and
/// render text, bake glyphs and sprites, draw a whole HUD
#[derive(Debug, Parser)]
#[command(name = "kerno", version, max_term_width = 100)]
pub(crate) struct Arguments {
    #[command(subcommand)]
    pub(crate) command: Command,
}

fn main() -> ExitCode {
    let arguments = Arguments::parse_from(commands::spelled(std::env::args_os().collect()));
    let mut out = BufWriter::new(io::stdout().lock());
    let done = arguments
        .command
        .run(&mut out)
        .and_then(|()| Ok(out.flush()?));
    match done {
        Ok(()) => ExitCode::SUCCESS,
        // The reader has seen enough, as `head` does.
        Err(CliError::Output(error)) if error.kind() == io::ErrorKind::BrokenPipe => {
            ExitCode::SUCCESS
        }
        Err(error) => {
            eprintln!("kerno: {}", kerno::base::full_message(&error));
            ExitCode::from(error.exit_code())
        }
    }
}
