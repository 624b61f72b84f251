//! Sprites from files: a folder of PNGs, and strips of frames.

use std::collections::{BTreeMap, HashSet};
use std::path::{Path, PathBuf};

use super::{Atlas, AtlasError, SpriteId, SpriteOptions};
use crate::base::{FileReader, Image};

impl Atlas {
    /// Reads all PNGs in a folder and in the folders in it, and takes each in as a
    /// sprite named by its path from there, without the ending: `lamps/lit` for
    /// `lamps/lit.png`. In the order of their names. All are read before the first
    /// one is taken in: where one is damaged, none is.
    ///
    /// # Errors
    /// [`AtlasError::Folder`] where a folder can't be read, [`AtlasError::Image`]
    /// with the file that is no PNG, and what [`Atlas::add_sprite`] says.
    #[cfg(feature = "png")]
    pub fn add_sprites_from_folder(
        &mut self,
        folder: impl AsRef<Path>,
        options: &SpriteOptions,
    ) -> Result<Vec<SpriteId>, AtlasError> {
        self.add_sprites_from_folder_through(folder, options, &FileReader::default())
    }

    /// As [`Atlas::add_sprites_from_folder`], where `files` says what may be read.
    ///
    /// # Errors
    /// As there.
    #[cfg(feature = "png")]
    pub fn add_sprites_from_folder_through(
        &mut self,
        folder: impl AsRef<Path>,
        options: &SpriteOptions,
        files: &FileReader,
    ) -> Result<Vec<SpriteId>, AtlasError> {
        let read = |(name, path): (String, PathBuf)| {
            Ok((name, Image::from_png_file_through(path, files)?))
        };
        let images: Vec<(String, Image)> = pictures_in(folder.as_ref(), files)?
            .into_iter()
            .map(read)
            .collect::<Result<_, AtlasError>>()?;
        let mut ids = Vec::new();
        for (name, image) in &images {
            ids.push(self.add_sprite(name, image, *options)?);
        }
        Ok(ids)
    }

    /// Takes in a picture of frames side by side, each `frame_width` pixels wide,
    /// as sprites named `name/0`, `name/1` and so on.
    ///
    /// # Errors
    /// [`AtlasError::BadSprite`] where the picture is not a whole number of frames
    /// wide, and what [`Atlas::add_sprite`] says.
    pub fn add_strip(
        &mut self,
        name: &str,
        image: &Image,
        frame_width: u32,
        options: &SpriteOptions,
    ) -> Result<Vec<SpriteId>, AtlasError> {
        let frames = frames(image, frame_width).ok_or_else(|| AtlasError::BadSprite {
            name: name.to_owned(),
            what: "the strip must be a whole number of frames wide",
        })?;
        let mut ids = Vec::new();
        for (index, frame) in frames.iter().enumerate() {
            ids.push(self.add_sprite(&format!("{name}/{index}"), frame, *options)?);
        }
        Ok(ids)
    }

    /// The sprites whose names are `name` and a number, with or without something
    /// between that is neither letter nor digit, in the order of the numbers:
    /// `bell1`, `bell-2`, `bell/10`.
    pub fn numbered_sprites(&self, name: &str) -> Vec<SpriteId> {
        numbered(name, self.sprite_names())
    }
}

/// Those of some names that are `name` and a number, in the order of the numbers.
pub(crate) fn numbered<'a, T: Ord>(
    name: &str,
    names: impl Iterator<Item = (&'a str, T)>,
) -> Vec<T> {
    let number_of = |full: &str| {
        let rest = full.strip_prefix(name)?;
        let digits = rest.trim_start_matches(|c: char| !c.is_alphanumeric());
        digits.parse::<u32>().ok()
    };
    let mut numbered: Vec<(u32, T)> = names
        .filter_map(|(full, item)| Some((number_of(full)?, item)))
        .collect();
    numbered.sort_unstable();
    numbered.into_iter().map(|(_, item)| item).collect()
}

/// Cuts a picture of frames side by side, each `frame_width` pixels wide; `None`
/// where it is not a whole number of frames wide.
pub(crate) fn frames(image: &Image, frame_width: u32) -> Option<Vec<Image>> {
    if frame_width == 0 || !image.width().is_multiple_of(frame_width) {
        return None;
    }
    let starts = (0..image.width() / frame_width).map(|index| index * frame_width);
    let frame = |x| image.part(x, 0, frame_width, image.height());
    Some(starts.map(frame).collect())
}

/// The PNGs of a folder and of the folders in it, with their names, in the order of
/// these. A folder that links lead to as well counts once, by its own name where it lies
/// in there.
pub(crate) fn pictures_in(
    folder: &Path,
    files: &FileReader,
) -> Result<Vec<(String, PathBuf)>, AtlasError> {
    let mut search = Search::default();
    search.enter(folder.to_owned(), String::new());
    search.run(files)?;
    while let Some((link, prefix)) = search.links.pop_first() {
        search.enter(link, prefix);
        search.run(files)?;
    }
    search.files.sort();
    Ok(search.files)
}

/// A search through folders.
#[derive(Default)]
struct Search {
    /// Those that are still to be read, each with what its pictures are named by.
    folders: Vec<(PathBuf, String)>,
    /// Links to folders: followed when there are no others any more.
    links: BTreeMap<PathBuf, String>,
    /// All that were entered, by their one real path.
    seen: HashSet<PathBuf>,
    files: Vec<(String, PathBuf)>,
}

impl Search {
    fn enter(&mut self, folder: PathBuf, prefix: String) {
        let real = folder.canonicalize().unwrap_or_else(|_| folder.clone());
        if self.seen.insert(real) {
            self.folders.push((folder, prefix));
        }
    }

    fn run(&mut self, reader: &FileReader) -> Result<(), AtlasError> {
        while let Some((folder, prefix)) = self.folders.pop() {
            let failed = |source| AtlasError::Folder {
                path: folder.clone(),
                source,
            };
            reader.check(&folder).map_err(failed)?;
            for entry in std::fs::read_dir(&folder).map_err(failed)? {
                let path = entry.map_err(failed)?.path();
                let stem = path.file_stem().unwrap_or_default().to_string_lossy();
                let is_png = path
                    .extension()
                    .is_some_and(|e| e.eq_ignore_ascii_case("png"));
                if path.is_dir() {
                    let name = path.file_name().unwrap_or_default().to_string_lossy();
                    let prefix = format!("{prefix}{name}/");
                    if path.is_symlink() {
                        self.links.insert(path, prefix);
                    } else {
                        self.enter(path, prefix);
                    }
                } else if is_png {
                    self.files.push((format!("{prefix}{stem}"), path.clone()));
                }
            }
        }
        Ok(())
    }
}
