//! `kerno completions`, `kerno man-pages`, `kerno schemas`: files for shells, systems and editors.

use std::fs;
use std::path::PathBuf;

use clap::{Args, Command, CommandFactory};
use clap_complete::Shell;
use clap_mangen::Man;

use crate::Arguments;
use crate::console::Console;
use crate::error::CliError;

#[derive(Debug, Args)]
pub(crate) struct CompletionsArgs {
    /// The shell
    #[arg(value_enum, value_name = "SHELL")]
    shell: Shell,
}

#[derive(Debug, Args)]
pub(crate) struct ManPagesArgs {
    /// The folder to write `kerno.1`, `kerno-render.1` and so on into
    #[arg(value_name = "FOLDER")]
    folder: PathBuf,
}

#[derive(Debug, Args)]
pub(crate) struct SchemasArgs {
    /// The folder to write `screen.schema.json` and so on into
    #[arg(value_name = "FOLDER")]
    folder: PathBuf,
}

/// Prints the completions of a shell.
pub(crate) fn completions(args: &CompletionsArgs, out: &mut Console) -> Result<(), CliError> {
    out.asked();
    clap_complete::generate(args.shell, &mut Arguments::command(), "kerno", out);
    Ok(())
}

/// Writes the manual pages of all commands.
pub(crate) fn man_pages(args: &ManPagesArgs, out: &mut Console) -> Result<(), CliError> {
    let folder = &args.folder;
    fs::create_dir_all(folder).map_err(|error| CliError::Write(folder.clone(), error))?;
    let mut whole = Arguments::command();
    whole.build();
    let mut count = 0;
    let mut write = |name: &str, command: Command| -> Result<(), CliError> {
        let mut page = Vec::new();
        Man::new(command.display_name(name.to_owned())).render(&mut page)?;
        count += 1;
        out.files().write(&folder.join(format!("{name}.1")), &page)
    };
    for command in whole
        .get_subcommands()
        .filter(|command| !command.is_hide_set())
    {
        write(&format!("kerno-{}", command.get_name()), command.clone())?;
    }
    write("kerno", whole.clone())?;
    out.wrote(folder, &format!("{count} manual pages"))
}

/// Writes the schemas of all kinds of files.
pub(crate) fn schemas(args: &SchemasArgs, out: &mut Console) -> Result<(), CliError> {
    let folder = &args.folder;
    fs::create_dir_all(folder).map_err(|error| CliError::Write(folder.clone(), error))?;
    let schemas = kerno::schemas::all();
    for schema in &schemas {
        let path = folder.join(format!("{}.schema.json", schema.kind));
        out.files().write(&path, schema.text.as_bytes())?;
    }
    out.wrote(folder, &format!("{} schemas", schemas.len()))
}
