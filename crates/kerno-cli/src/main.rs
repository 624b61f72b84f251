//! The command `kerno`: look into fonts, measure and render text, bake
//! atlases, draw the demo HUD. Exits 0 when done, 1 for bad input, 2 for bad usage.

mod args;
mod commands;
mod demo;
mod error;
mod output;

use std::io::{self, BufWriter, Write};
use std::process::ExitCode;

use clap::Parser;

use args::{Arguments, Command};
use error::CliError;

fn main() -> ExitCode {
    let arguments = Arguments::parse();
    let mut out = BufWriter::new(io::stdout().lock());
    let done = run(&arguments.command, &mut out).and_then(|()| Ok(out.flush()?));
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

fn run(command: &Command, out: &mut dyn Write) -> Result<(), CliError> {
    match command {
        Command::Inspect(args) => commands::inspect(args, out),
        Command::Fonts(args) => commands::fonts(args, out),
        Command::Measure(args) => commands::measure(args, out),
        Command::Render(args) => commands::render(args, out),
        Command::Proof(args) => commands::proof(args, out),
        Command::Convert(args) => commands::convert(args, out),
        Command::Bake(args) => commands::bake(args, out),
        Command::Demo(args) => commands::demo(args, out),
    }
}
