//! `kerno fonts`.

use std::io::Write;
use std::path::PathBuf;

use clap::Args;
use kerno::base::full_message;
use kerno::installed::{FaceQuery, InstalledFace, InstalledFonts, Slant};

use crate::console::Console;
use crate::error::CliError;
use crate::report::Section;

#[derive(Debug, Args)]
pub(crate) struct FontsArgs {
    /// List only families whose name holds this; upper and lower case are the same
    #[arg(value_name = "PATTERN")]
    pub(crate) pattern: Option<String>,
    /// Look through this folder instead of the system's; may be given again
    #[arg(long, value_name = "FOLDER")]
    pub(crate) folder: Vec<PathBuf>,
}

/// Lists installed fonts.
pub(crate) fn fonts(args: &FontsArgs, out: &mut Console) -> Result<(), CliError> {
    if let Some(folder) = args.folder.iter().find(|folder| !folder.is_dir()) {
        return Err(CliError::NoSuchFolder(folder.clone()));
    }
    let fonts = if args.folder.is_empty() {
        InstalledFonts::from_system_folders()
    } else {
        InstalledFonts::from_folders(&args.folder)
    };
    let pattern = args.pattern.as_deref().unwrap_or_default();
    let lower = pattern.to_lowercase();
    let holds = |family: &str| family.to_lowercase().contains(&lower);
    let is_listed = |face: &&InstalledFace| {
        holds(&face.family) || face.narrow_family.as_deref().is_some_and(holds)
    };
    let listed: Vec<&InstalledFace> = fonts.faces().iter().filter(is_listed).collect();
    if listed.is_empty() && !pattern.is_empty() {
        return Err(not_found(&fonts, pattern));
    }
    out.asked();
    let columns = [
        "family", "style", "weight", "width", "slant", "face", "file",
    ];
    let mut section = Section::new("", "fonts");
    section.columns(&columns, &["weight", "width", "face"]);
    for face in &listed {
        section.record(vec![
            face.family.clone().into(),
            face.style.clone().into(),
            face.weight.into(),
            face.width.into(),
            slant_name(face.slant).into(),
            face.index.into(),
            face.path.to_string_lossy().into(),
        ]);
    }
    section.print(out)?;
    let count = match listed.len() {
        1 => "1 face".to_owned(),
        count => format!("{count} faces"),
    };
    writeln!(out, "\n{count} of {}", fonts.faces().len())?;
    let mut damaged = Vec::new();
    for error in fonts.damaged() {
        writeln!(out, "passed over: {}", full_message(error))?;
        damaged.push(full_message(error));
    }
    out.field("damaged", damaged);
    Ok(())
}

/// The error for a pattern that nothing matches, with names that are near.
fn not_found(fonts: &InstalledFonts, pattern: &str) -> CliError {
    let near = match fonts.find(&FaceQuery::new(pattern)) {
        Err(error) if !error.nearest.is_empty() => {
            format!("; did you mean “{}”?", error.nearest.join("”, “"))
        }
        _ => String::new(),
    };
    CliError::NoSuchFont(pattern.to_owned(), near)
}

fn slant_name(slant: Slant) -> &'static str {
    match slant {
        Slant::Normal => "normal",
        Slant::Italic => "italic",
        Slant::Oblique => "oblique",
    }
}
