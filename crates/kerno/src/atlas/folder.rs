//! Sprites from files: a folder of PNGs, and strips of frames.

use std::path::{Path, PathBuf};

use super::{Atlas, AtlasError, SpriteId, SpriteOptions};
use crate::base::Image;

impl Atlas {
    /// Reads all PNGs in a folder and in the folders in it, and takes each in as a
    /// sprite named by its path from there, without the ending: `lamps/lit` for
    /// `lamps/lit.png`. In the order of their names. All are read before the first
    /// one is taken in: where one is damaged, none is.
    ///
    /// # Errors
    /// [`AtlasError::Folder`] where a folder can't be read, [`AtlasError::Image`]
    /// with the file that is no PNG, and what [`Atlas::add_sprite`] says.
    pub fn add_sprites_from_folder(
        &mut self,
        folder: impl AsRef<Path>,
        options: &SpriteOptions,
    ) -> Result<Vec<SpriteId>, AtlasError> {
        let folder = folder.as_ref();
        let files = pictures_in(folder)?;
        let read = |(name, path): (String, PathBuf)| Ok((name, Image::from_png_file(path)?));
        let images: Vec<(String, Image)> = files
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

/// How deep folders are searched: deeper there is a circle of links.
const DEEPEST: usize = 32;

/// The PNGs of a folder and of the folders in it, with their names, in the order of
/// these.
pub(crate) fn pictures_in(folder: &Path) -> Result<Vec<(String, PathBuf)>, AtlasError> {
    let mut files = Vec::new();
    list_pictures(folder, String::new(), &mut files)?;
    files.sort();
    Ok(files)
}

/// Lists the PNGs of a folder.
fn list_pictures(
    folder: &Path,
    prefix: String,
    into: &mut Vec<(String, PathBuf)>,
) -> Result<(), AtlasError> {
    let failed = |source| AtlasError::Folder {
        path: folder.to_owned(),
        source,
    };
    for entry in std::fs::read_dir(folder).map_err(failed)? {
        let path = entry.map_err(failed)?.path();
        let stem = path.file_stem().unwrap_or_default().to_string_lossy();
        let is_png = path
            .extension()
            .is_some_and(|e| e.eq_ignore_ascii_case("png"));
        if path.is_dir() && prefix.matches('/').count() < DEEPEST {
            let name = path.file_name().unwrap_or_default().to_string_lossy();
            list_pictures(&path, format!("{prefix}{name}/"), into)?;
        } else if is_png {
            into.push((format!("{prefix}{stem}"), path.clone()));
        }
    }
    Ok(())
}
