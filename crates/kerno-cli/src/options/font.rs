//! The face that a command is about.

use std::io::Read;
use std::path::{Path, PathBuf};

use clap::Args;
use kerno::Face;
use kerno::base::Limits;
use kerno::font::{FontError, Synthesis, Tag};
use kerno::installed::{FaceQuery, InstalledFonts};

use super::parsers::parse_axis;
use crate::error::{CliError, in_font};

/// The face of a command.
#[derive(Debug, Args)]
pub(crate) struct FontArgs {
    /// A font file: TrueType, OpenType, a collection of them, WOFF 1 or 2, BDF, PCF, PSF,
    /// or the .toml of a picture sheet; - for standard input
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
    pub(crate) fn open(&self) -> Result<Face, CliError> {
        let mut face = if self.path.as_os_str() == "-" {
            self.open_input()?
        } else {
            Face::from_file_with(&self.path, self.face, Limits::default())
                .map_err(|error| with_families(&self.path, error))?
        };
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

impl FontArgs {
    /// Reads a font from standard input.
    fn open_input(&self) -> Result<Face, CliError> {
        let limits = Limits::default();
        let mut bytes = Vec::new();
        let mut input = std::io::stdin().lock().take(limits.file_bytes + 1);
        input.read_to_end(&mut bytes).map_err(CliError::Input)?;
        if bytes.len() as u64 > limits.file_bytes {
            return Err(CliError::LongInput(limits.file_bytes));
        }
        let face = Face::from_bytes_with(bytes, self.face, limits);
        face.map_err(in_font(&self.path))
    }
}

/// Says which installed family a path may have meant that is no file.
fn with_families(path: &Path, error: FontError) -> CliError {
    let is_gone = matches!(&error, FontError::Io { source, .. }
        if source.kind() == std::io::ErrorKind::NotFound);
    let name = path.to_string_lossy();
    if !is_gone || name.contains(['/', '.']) {
        return error.into();
    }
    let fonts = InstalledFonts::from_system_folders();
    match fonts.find(&FaceQuery::new(&name)) {
        Ok(face) => {
            CliError::FamilyForFile(name.into_owned(), face.family.clone(), face.path.clone())
        }
        Err(_) => error.into(),
    }
}
