//! The face that a command is about.

use std::path::{Path, PathBuf};

use clap::Args;
use kerno::Face;
use kerno::base::Limits;
use kerno::font::{FontError, Synthesis, Tag};
use kerno::installed::{FaceQuery, InstalledFonts};

use super::parsers::parse_axis;
use crate::error::{CliError, in_font};
use crate::files::Files;
use crate::output::read_input;

/// The face of a command.
#[derive(Debug, Args)]
pub(crate) struct FontArgs {
    /// A font file: TrueType, OpenType, a collection of them, WOFF 1 or 2, BDF, PCF, PSF,
    /// or the .toml of a picture sheet; - for standard input; or the name of an installed family
    #[arg(value_name = "FONT")]
    pub(crate) path: PathBuf,
    /// The face of a collection, counted from 0
    #[arg(long, value_name = "N", default_value = "0")]
    face: u32,
    /// Set an axis of a variable font, such as wght=700; may be given again
    #[arg(long, value_name = "AXIS=VALUE", value_parser = parse_axis)]
    axis: Vec<(Tag, f32)>,
    /// The palette of a colour font, counted from 0
    #[arg(long, value_name = "N", default_value = "0")]
    palette: u16,
    /// Make the face bold from its outlines; a drawn bold is better
    #[arg(long)]
    bold: bool,
    /// Slant the face from its outlines; a drawn italic is better
    #[arg(long)]
    slant: bool,
}

impl FontArgs {
    pub(crate) fn open(&self, files: &Files) -> Result<Face, CliError> {
        let mut face = open_font(&self.path, self.face, files)?;
        if !self.axis.is_empty() {
            face = face.instance(&self.axis).map_err(in_font(&self.path))?;
        }
        if self.palette > 0 {
            let painted = face.with_palette(self.palette);
            face = painted.map_err(in_font(&self.path))?;
        }
        if self.bold || self.slant {
            let pick = |wanted: bool, made: f32| if wanted { made } else { 0.0 };
            let synthesis = Synthesis {
                embolden: pick(self.bold, Synthesis::BOLD.embolden),
                slant: pick(self.slant, Synthesis::OBLIQUE.slant),
            };
            face = face.synthesized(synthesis).map_err(in_font(&self.path))?;
        }
        Ok(face)
    }
}

/// Opens a face by what was typed: a file, `-` for standard input, or an installed family.
pub(crate) fn open_font(path: &Path, index: u32, files: &Files) -> Result<Face, CliError> {
    if path.as_os_str() == "-" {
        let limits = Limits::default();
        let bytes = read_input(limits.file_bytes)?;
        return Face::from_bytes_with(bytes, index, limits).map_err(in_font(path));
    }
    match Face::from_file_through(path, index, &files.of(path)?) {
        Err(error) if is_gone(&error) => open_family(path, error),
        done => Ok(done?),
    }
}

fn is_gone(error: &FontError) -> bool {
    matches!(error, FontError::Io { source, .. } if source.kind() == std::io::ErrorKind::NotFound)
}

/// Opens the installed family of a name that is no file's.
fn open_family(path: &Path, error: FontError) -> Result<Face, CliError> {
    let name = path.to_string_lossy();
    if name.contains(['/', '\\', '.']) {
        return Err(error.into());
    }
    let fonts = InstalledFonts::from_system_folders();
    match fonts.find(&FaceQuery::new(&name)) {
        Ok(face) => Ok(face.open_file()?),
        Err(error) => {
            let near = match error.nearest.is_empty() {
                true => "; `kerno fonts` lists all".to_owned(),
                false => format!("; did you mean “{}”?", error.nearest.join("”, “")),
            };
            Err(CliError::NoFont(name.into_owned(), near))
        }
    }
}
