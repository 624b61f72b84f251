//! Installed faces, and finding one of them.

use super::{FaceQuery, LookupError};
use super::{folders, query, skim};
use crate::base::Limits;
use crate::font::{Face, FontError, Synthesis};
use std::path::{Path, PathBuf};

/// Slant of a face.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Slant {
    /// Upright.
    #[default]
    Normal,
    /// Drawn slanted, with letter shapes of its own.
    Italic,
    /// The upright shapes, slanted.
    Oblique,
}

/// A face in an installed file.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct InstalledFace {
    /// The family with all its weights and widths.
    pub family: String,
    /// The face's name within the family, such as “Medium Italic”.
    pub style: String,
    /// The family of at most four styles that older programs know, where it is
    /// another: “Lato Medium” for the medium of “Lato”.
    pub narrow_family: Option<String>,
    /// 1 to 1000; 400 is regular, 700 bold.
    pub weight: u16,
    /// 1 (ultra-condensed) to 9 (ultra-expanded); 5 is normal.
    pub width: u16,
    /// Slant of its letters.
    pub slant: Slant,
    /// The file.
    pub path: PathBuf,
    /// Index of the face in the file, from 0.
    pub index: u32,
}

impl InstalledFace {
    /// Reads the file and opens the face.
    ///
    /// # Errors
    /// As [`Face::from_file`].
    pub fn open_file(&self) -> Result<Face, FontError> {
        Face::from_file_with(&self.path, self.index, Limits::default())
    }

    /// As [`InstalledFace::open_file`], and makes from the outlines what the face
    /// lacks of a wish (CSS Fonts 4, `font-synthesis`): bold where 600 or more
    /// was asked for and the face has less, slanted where it stands upright.
    /// [`Face::synthesis`] says what was made.
    ///
    /// # Errors
    /// As [`Face::from_file`].
    pub fn open_file_for(&self, query: &FaceQuery<'_>) -> Result<Face, FontError> {
        let face = self.open_file()?;
        let lacks_bold = query.weight >= 600 && self.weight < 600;
        let lacks_slant = query.slant != Slant::Normal && self.slant == Slant::Normal;
        if !lacks_bold && !lacks_slant {
            return Ok(face);
        }
        let pick = |lacks: bool, made: f32| if lacks { made } else { 0.0 };
        face.synthesized(Synthesis {
            embolden: pick(lacks_bold, Synthesis::BOLD.embolden),
            slant: pick(lacks_slant, Synthesis::OBLIQUE.slant),
        })
    }
}

/// The faces in some folders, in the order of family, width, weight and slant.
///
/// ```no_run
/// use kerno::installed::{FaceQuery, InstalledFonts};
/// let fonts = InstalledFonts::from_system_folders();
/// let bold = fonts.find(&FaceQuery::new("DejaVu Sans").weight(700))?;
/// println!("{}", bold.path.display());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug, Default)]
pub struct InstalledFonts {
    pub(super) faces: Vec<InstalledFace>,
    pub(super) damaged: Vec<FontError>,
}

impl InstalledFonts {
    /// Looks through the folders where this system keeps its fonts.
    pub fn from_system_folders() -> Self {
        Self::from_folders(&folders::of_system())
    }

    /// Looks through folders and those in them, for `.ttf`, `.otf`, `.ttc` and
    /// `.otc` files. Of each it reads names and style only. A folder that can't be
    /// read counts as empty.
    pub fn from_folders(folders: &[impl AsRef<Path>]) -> Self {
        let mut fonts = Self::default();
        for path in folders::font_files(folders) {
            match skim::skim(&path) {
                Ok(faces) => fonts.faces.extend(faces),
                Err(error) => fonts.damaged.push(error),
            }
        }
        fonts.faces.sort_by(|a, b| a.sort_key().cmp(&b.sort_key()));
        fonts
    }

    /// Every face.
    pub fn faces(&self) -> &[InstalledFace] {
        &self.faces
    }

    /// Why files that should be fonts could not be read.
    pub fn damaged(&self) -> &[FontError] {
        &self.damaged
    }

    /// The face that comes closest to a wish, as CSS Fonts 4 chooses (section
    /// 5.2): the family has to be there; of its faces width decides, then slant,
    /// then weight.
    ///
    /// # Errors
    /// [`LookupError`] where no face has the family, with families of nearly that
    /// name.
    pub fn find(&self, query: &FaceQuery<'_>) -> Result<&InstalledFace, LookupError> {
        query::find(&self.faces, query)
    }
}

impl InstalledFace {
    pub(super) fn sort_key(&self) -> impl Ord + '_ {
        let family = self.family.to_lowercase();
        let look = (self.width, self.weight, self.slant);
        (family, look, &self.path, self.index)
    }
}
