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
        let mut files = Vec::new();
        list_pictures(folder, String::new(), &mut files)?;
        files.sort();
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
        if frame_width == 0 || !image.width().is_multiple_of(frame_width) {
            return Err(AtlasError::BadSprite {
                name: name.to_owned(),
                what: "the strip must be a whole number of frames wide",
            });
        }
        let mut ids = Vec::new();
        for index in 0..image.width() / frame_width {
            let frame = image.part(index * frame_width, 0, frame_width, image.height());
            ids.push(self.add_sprite(&format!("{name}/{index}"), &frame, *options)?);
        }
        Ok(ids)
    }

    /// The sprites whose names are `name` and a number, with or without something
    /// between that is neither letter nor digit, in the order of the numbers:
    /// `bell1`, `bell-2`, `bell/10`.
    pub fn numbered_sprites(&self, name: &str) -> Vec<SpriteId> {
        let number_of = |full: &str| {
            let rest = full.strip_prefix(name)?;
            let digits = rest.trim_start_matches(|c: char| !c.is_alphanumeric());
            digits.parse::<u32>().ok()
        };
        let mut numbered: Vec<(u32, SpriteId)> = self
            .sprite_names()
            .filter_map(|(full, id)| Some((number_of(full)?, id)))
            .collect();
        numbered.sort_unstable();
        numbered.into_iter().map(|(_, id)| id).collect()
    }
}

/// How deep folders are searched: deeper there is a circle of links.
const DEEPEST: usize = 32;

/// Lists the PNGs of a folder with their names.
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
