//! `kerno convert`.

use std::io::Write;
use std::path::{Path, PathBuf};

use clap::Args;
use kerno::convert::Strike;

use crate::console::Console;
use crate::error::{CliError, in_font};
use crate::options::FontArgs;
use crate::report::number;

#[derive(Debug, Args)]
pub(crate) struct ConvertArgs {
    #[command(flatten)]
    pub(crate) font: FontArgs,
    /// Pixels per em, 1 to 255; by default the size of a bitmap font
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u16).range(1..=255))]
    pub(crate) size: Option<u16>,
    /// Only these characters; by default all that the font has
    #[arg(long, value_name = "TEXT")]
    pub(crate) characters: Option<String>,
    /// The file to write: .bdf, or .toml for a picture sheet with a .png beside it
    #[arg(short, long, value_name = "FILE")]
    pub(crate) output: PathBuf,
}

/// Draws a face at one size and writes it as BDF or as a picture sheet.
pub(crate) fn convert(args: &ConvertArgs, out: &mut Console) -> Result<(), CliError> {
    let face = args.font.open(out.files())?;
    let Some(size) = args.size.or(face.strike_size()) else {
        return Err(CliError::NoSize);
    };
    let (face, fitted) = face
        .for_size(size.into())
        .map_err(in_font(&args.font.path))?;
    if fitted != f32::from(size) {
        writeln!(
            out,
            "The font has no strike of {size} px; the nearest is {fitted} px."
        )?;
    }
    let wanted: Vec<char> = match &args.characters {
        Some(characters) => characters.chars().collect(),
        None => face.characters().map(|(character, _)| character).collect(),
    };
    let strike = Strike::draw(&face, fitted as u16, wanted).map_err(in_font(&args.font.path))?;
    if strike.is_empty() {
        return Err(CliError::NoCharacters);
    }
    match extension(&args.output) {
        "bdf" => out.write_file(
            &args.output,
            strike
                .to_bdf()
                .map_err(in_font(&args.font.path))?
                .as_bytes(),
        )?,
        "toml" => {
            let picture = args.output.with_extension("png");
            let name = picture.file_name().unwrap_or_default().to_string_lossy();
            let sheet = strike.to_sheet(&name).map_err(in_font(&args.font.path))?;
            let (description, image) = sheet;
            out.write_png(&picture, &image)?;
            out.write_file(&args.output, description.as_bytes())?;
        }
        _ => return Err(CliError::UnknownForm(args.output.clone())),
    }
    let count = strike.len();
    out.field("characters", count);
    out.field("size", number(fitted));
    out.wrote(&args.output, &format!("{count} characters at {fitted} px"))
}

fn extension(path: &Path) -> &str {
    path.extension()
        .and_then(|extension| extension.to_str())
        .unwrap_or_default()
}
