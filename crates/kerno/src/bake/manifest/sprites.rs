//! The sprites and animations of a manifest.

use std::ops::Range;
use std::path::Path;

use super::entries::{AnimationEntry, SecondsEntry, SpriteEntry};
use super::sources::Source;
use super::{AnimationPlan, Manifest, SpritePlan, find};
use crate::atlas::{
    Animation, Atlas, AtlasError, Sprite, SpriteId, SpriteOptions, frames, numbered, pictures_in,
};
use crate::bake::error::BakeError;
use crate::bake::inputs::Inputs;
use crate::base::{Anchor, FileReader, Image, Insets, Spanned};

/// Adds the sprites of a manifest, or of a folder of PNGs, to an atlas.
///
/// # Errors
/// As [`Manifest::from_file`] and [`Atlas::add_sprites_from_folder`].
pub fn add_sprites(source: impl AsRef<Path>, atlas: &mut Atlas) -> Result<(), BakeError> {
    add_sprites_through(source, atlas, &FileReader::default())
}

/// As [`add_sprites`], where `files` says what may be read.
///
/// # Errors
/// As there.
pub fn add_sprites_through(
    source: impl AsRef<Path>,
    atlas: &mut Atlas,
    files: &FileReader,
) -> Result<(), BakeError> {
    let source = source.as_ref();
    let added = match source.is_dir() {
        true => {
            let options = SpriteOptions::default();
            let added = atlas.add_sprites_from_folder_through(source, &options, files);
            added.map(|_| ())
        }
        false => Manifest::from_file_through(source, files)?.add_sprites_to(atlas),
    };
    added.map_err(|error| BakeError::Picture {
        what: format!("the sprites of “{}”", source.display()),
        source: Box::new(error),
    })
}

impl Manifest {
    /// Adds the sprites of the manifest to an atlas, without baking anything.
    ///
    /// # Errors
    /// As [`Atlas::add_sprite`].
    pub fn add_sprites_to(&self, atlas: &mut Atlas) -> Result<(), AtlasError> {
        for sprite in &self.sprites {
            atlas.add_sprite(&sprite.name, &sprite.image, sprite.options)?;
        }
        Ok(())
    }

    pub(super) fn add_sprites(
        &mut self,
        sources: &[Source],
        inputs: &mut Inputs,
    ) -> Result<(), BakeError> {
        for source in sources {
            for entry in &source.entry.sprites {
                let (at, entry) = (entry.span(), entry.get_ref());
                match (&entry.file, &entry.folder) {
                    (Some(file), None) => self.add_file(source, &at, entry, file, inputs)?,
                    (None, Some(folder)) => self.add_folder(source, &at, entry, folder, inputs)?,
                    _ => {
                        let problem = "sprites come from a `file` or from a `folder`".to_owned();
                        return Err(source.error(at, problem));
                    }
                }
            }
        }
        Ok(())
    }

    fn add_file(
        &mut self,
        source: &Source,
        at: &Range<usize>,
        entry: &SpriteEntry,
        file: &str,
        inputs: &mut Inputs,
    ) -> Result<(), BakeError> {
        let image = read(source, at, &source.folder.join(file), inputs)?;
        let stem = file.rsplit_once('.').map_or(file, |(stem, _)| stem);
        let name = entry.name.as_deref().unwrap_or(stem);
        let Some(width) = entry.frame_width else {
            return self.add_sprite(source, at, entry, name.to_owned(), file, image);
        };
        let Some(images) = frames(&image, width) else {
            let problem = format!(
                "“{file}” is {} pixels wide, which is no whole number of frames of {width}",
                image.width()
            );
            return Err(source.error(at.clone(), problem));
        };
        for (index, image) in images.into_iter().enumerate() {
            self.add_sprite(source, at, entry, format!("{name}/{index}"), file, image)?;
        }
        Ok(())
    }

    fn add_folder(
        &mut self,
        source: &Source,
        at: &Range<usize>,
        entry: &SpriteEntry,
        folder: &str,
        inputs: &mut Inputs,
    ) -> Result<(), BakeError> {
        if entry.frame_width.is_some() {
            let problem = "`frame-width` is for a `file`: a folder has a picture for each sprite";
            return Err(source.error(at.clone(), problem.to_owned()));
        }
        let files = pictures_in(&source.folder.join(folder), inputs.reader()).map_err(|error| {
            let problem = format!("cannot use the folder “{folder}”");
            source.error_in(at.clone(), problem, error)
        })?;
        if files.is_empty() {
            let problem = format!("there is no PNG in the folder “{folder}”");
            return Err(source.error(at.clone(), problem));
        }
        let names = files.iter().map(|(name, _)| name.as_str());
        for except in &entry.except {
            find("picture", except, names.clone(), source)?;
        }
        let is_wanted = |name: &String| !entry.except.iter().any(|e| e.get_ref() == name);
        for (name, path) in files.iter().filter(|(name, _)| is_wanted(name)) {
            let image = read(source, at, path, inputs)?;
            let name = match &entry.name {
                Some(prefix) => format!("{prefix}/{name}"),
                None => name.clone(),
            };
            self.add_sprite(source, at, entry, name, folder, image)?;
        }
        Ok(())
    }

    fn add_sprite(
        &mut self,
        source: &Source,
        at: &Range<usize>,
        entry: &SpriteEntry,
        name: String,
        group: &str,
        image: Image,
    ) -> Result<(), BakeError> {
        let refuse = |problem: String| Err(source.error(at.clone(), problem));
        if self.sprites.iter().any(|known| known.name == name) {
            return refuse(format!(
                "there is a sprite “{name}” already; give this one another `name`"
            ));
        }
        let Some(slices) = borders(&entry.slices) else {
            return refuse("`slices` are 1, 2 or 4 numbers: top, right, bottom, left".to_owned());
        };
        let options = SpriteOptions {
            density: entry.density,
            slices,
            sampling: entry.sampling,
            sides: entry.sides,
            middle: entry.middle,
            origin: entry
                .origin
                .map_or(Anchor::CENTER, |[x, y]| Anchor::new(x, y)),
        };
        Sprite::new(&name, &image, options).map_err(|error| {
            let problem = format!("cannot make a sprite of “{group}”");
            source.error_in(at.clone(), problem, error)
        })?;
        self.sprites.push(SpritePlan {
            name,
            group: group.to_owned(),
            image,
            options,
        });
        Ok(())
    }

    pub(super) fn add_animations(&mut self, sources: &[Source]) -> Result<(), BakeError> {
        for source in sources {
            for (name, entry) in &source.entry.animations {
                let known = self.animations.iter().map(|known| known.name.as_str());
                source.check_new("animation", name, known)?;
                let plan = self.animation(source, name, entry)?;
                self.animations.push(plan);
            }
        }
        Ok(())
    }

    fn animation(
        &self,
        source: &Source,
        name: &Spanned<String>,
        entry: &AnimationEntry,
    ) -> Result<AnimationPlan, BakeError> {
        let refuse = |at: Range<usize>, problem: &str| Err(source.error(at, problem.to_owned()));
        let names = self.sprites.iter().map(|sprite| sprite.name.as_str());
        let sprites: Vec<usize> = match (&entry.numbered, entry.frames.as_slice()) {
            (Some(prefix), []) => {
                let found = numbered(prefix.get_ref(), names.zip(0_usize..));
                if found.is_empty() {
                    let problem = "no sprite has this name and a number after it";
                    return refuse(prefix.span(), problem);
                }
                found
            }
            (None, [_, ..]) => entry
                .frames
                .iter()
                .map(|frame| find("sprite", frame, names.clone(), source))
                .collect::<Result<_, _>>()?,
            _ => {
                let problem = "an animation has `frames`, or the name of `numbered` sprites";
                return refuse(name.span(), problem);
            }
        };
        let seconds = match entry.seconds.get_ref() {
            SecondsEntry::All(seconds) => vec![*seconds; sprites.len()],
            SecondsEntry::Each(each) if each.len() == sprites.len() => each.clone(),
            SecondsEntry::Each(each) => {
                let (times, frames) = (each.len(), sprites.len());
                let problem = format!("there are {times} times for {frames} frames");
                return refuse(entry.seconds.span(), &problem);
            }
        };
        let frames: Vec<(usize, f32)> = sprites.into_iter().zip(seconds).collect();
        let ids = frames
            .iter()
            .map(|(sprite, s)| (SpriteId(*sprite as u32), *s));
        Animation::new(ids, entry.repeats)
            .map_err(|error| source.error(entry.seconds.span(), error.to_string()))?;
        Ok(AnimationPlan {
            name: name.get_ref().clone(),
            frames,
            repeats: entry.repeats,
        })
    }
}

/// Reads a picture that an entry names.
fn read(
    source: &Source,
    at: &Range<usize>,
    path: &Path,
    inputs: &mut Inputs,
) -> Result<Image, BakeError> {
    let limits = inputs.reader().limits().clone();
    let read = Image::from_png_read(path, &limits, |path| inputs.read(path));
    read.map_err(|error| {
        source.error_in(
            at.clone(),
            "cannot use a sprite's picture".to_owned(),
            error,
        )
    })
}

/// Borders as CSS writes them: all; vertical, horizontal; top, right, bottom, left.
fn borders(widths: &[f32]) -> Option<Insets> {
    match *widths {
        [] => Some(Insets::default()),
        [all] => Some(Insets::all(all)),
        [vertical, horizontal] => Some(Insets::sides(vertical, horizontal)),
        [top, right, bottom, left] => Some(Insets {
            top,
            right,
            bottom,
            left,
        }),
        _ => None,
    }
}
