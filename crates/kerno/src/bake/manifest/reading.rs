//! A manifest with all that it names.

use super::super::error::BakeError;
use super::super::inputs::Inputs;
use super::entries::{FontsEntry, PagesEntry};
use super::sources::{Source, open_sources};
use crate::atlas::{PackingOptions, SpriteOptions};
use crate::base::{Edges, FileReader, Image, Limits, Spanned, nearest};
use crate::font::{Face, Tag};
use crate::pack::Fingerprint;
use crate::raster::SubpixelPositions;
use crate::text::Effect;
use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

/// A manifest with all that it names: faces opened, pictures decoded, texts read
/// for their characters.
///
/// ```no_run
/// use kerno::bake::Manifest;
/// let manifest = Manifest::from_file("ferry.toml")?;
/// let bake = manifest.bake(&|done, all| eprintln!("{done} of {all}"))?;
/// std::fs::write("ferry.kpack", bake.to_pack()?)?;
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug)]
pub struct Manifest {
    pub(in crate::bake) output: PathBuf,
    pub(in crate::bake) form: OutputForm,
    pub(in crate::bake) packing: PackingOptions,
    pub(in crate::bake) subpixel_positions: SubpixelPositions,
    /// Device pixels per design pixel.
    pub(in crate::bake) scales: Vec<f32>,
    pub(in crate::bake) faces: Vec<(String, Face)>,
    /// Names, and which faces.
    pub(in crate::bake) stacks: Vec<(String, Vec<usize>)>,
    pub(in crate::bake) charsets: Vec<(String, BTreeSet<char>)>,
    pub(in crate::bake) strikes: Vec<StrikePlan>,
    pub(in crate::bake) sprites: Vec<SpritePlan>,
    pub(in crate::bake) animations: Vec<AnimationPlan>,
    pub(in crate::bake) carries_whole_fonts: bool,
    pub(in crate::bake) fingerprint: Fingerprint,
}

/// In which form pages and measures are written.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum OutputForm {
    /// One `.kpack`.
    Pack,
    /// A `.json` and a PNG for each page.
    Json,
}

/// A face or a stack at some sizes.
#[derive(Debug)]
pub(in crate::bake) struct StrikePlan {
    /// The name of the face or stack.
    pub(in crate::bake) name: String,
    /// The face, or the faces of the stack.
    pub(in crate::bake) faces: Vec<usize>,
    /// Design pixels per em.
    pub(in crate::bake) sizes: Vec<f32>,
    pub(in crate::bake) edges: Edges,
    /// Effects whose pictures are baked as well.
    pub(in crate::bake) effects: Vec<Effect>,
    pub(in crate::bake) charsets: Vec<usize>,
    /// Features that texts ask for, beside those that are always on.
    pub(in crate::bake) features: Vec<Tag>,
}

/// A sprite to be made.
#[derive(Debug)]
pub(in crate::bake) struct SpritePlan {
    pub(in crate::bake) name: String,
    /// The file or folder that it comes from, for the report.
    pub(in crate::bake) group: String,
    pub(in crate::bake) image: Image,
    pub(in crate::bake) options: SpriteOptions,
}

/// Sprites one after another.
#[derive(Debug)]
pub(in crate::bake) struct AnimationPlan {
    pub(in crate::bake) name: String,
    /// The frames: index of the sprite, and its time in seconds.
    pub(in crate::bake) frames: Vec<(usize, f32)>,
    pub(in crate::bake) repeats: bool,
}

/// The largest page side: texel coordinates of a vertex reach no further.
pub(super) const LARGEST_SIDE: u16 = 4096;

impl Manifest {
    /// Reads a manifest and all files that it names. Paths in it begin at its
    /// folder.
    ///
    /// # Errors
    /// [`BakeError::File`] where the manifest can't be read, [`BakeError::File`] with
    /// what is wrong in it or in a file that it names.
    pub fn from_file(path: impl AsRef<Path>) -> Result<Self, BakeError> {
        Self::from_file_through(path, &FileReader::default())
    }

    /// As [`Manifest::from_file`], where `files` says what may be read, and where the output
    /// may lie.
    ///
    /// # Errors
    /// As there.
    pub fn from_file_through(
        path: impl AsRef<Path>,
        files: &FileReader,
    ) -> Result<Self, BakeError> {
        let path = path.as_ref();
        let root = path.parent().unwrap_or(Path::new(""));
        let mut inputs = Inputs::new(root, files);
        let sources = open_sources(path, &mut inputs)?;
        let (output, form) = output(path, &sources, files)?;
        let (packing, subpixel_positions) = pages(&sources)?;
        let mut manifest = Self {
            output,
            form,
            packing,
            subpixel_positions,
            scales: scales(&sources)?,
            faces: Vec::new(),
            stacks: Vec::new(),
            charsets: Vec::new(),
            strikes: Vec::new(),
            sprites: Vec::new(),
            animations: Vec::new(),
            carries_whole_fonts: carries_whole_fonts(&sources),
            fingerprint: inputs.fingerprint(),
        };
        manifest.add_faces(&sources, &mut inputs)?;
        manifest.add_charsets(&sources, &mut inputs)?;
        manifest.add_strikes(&sources)?;
        manifest.add_sprites(&sources, &mut inputs)?;
        manifest.add_animations(&sources)?;
        if manifest.strikes.is_empty() && manifest.sprites.is_empty() {
            return Err(BakeError::Nothing(path.to_owned()));
        }
        manifest.fingerprint = inputs.fingerprint();
        Ok(manifest)
    }

    /// The file to write.
    pub fn output(&self) -> &Path {
        &self.output
    }

    /// In which form.
    pub fn form(&self) -> OutputForm {
        self.form
    }

    /// Identity of these inputs.
    pub fn fingerprint(&self) -> Fingerprint {
        self.fingerprint
    }

    pub(super) fn add_charsets(
        &mut self,
        sources: &[Source],
        inputs: &mut Inputs,
    ) -> Result<(), BakeError> {
        for source in sources {
            for (name, entry) in &source.entry.charsets {
                let known = self.charsets.iter().map(|(name, _)| name.as_str());
                source.check_new("charset", name, known)?;
                let characters = entry
                    .characters(&source.folder, inputs)
                    .map_err(|(at, problem)| source.error(at, problem))?;
                if characters.is_empty() {
                    let problem = format!("the charset “{}” matches nothing", name.get_ref());
                    return Err(source.error(name.span(), problem));
                }
                self.charsets.push((name.get_ref().clone(), characters));
            }
        }
        Ok(())
    }
}

/// The place of a name among known ones.
pub(super) fn find<'a>(
    what: &str,
    name: &Spanned<String>,
    known: impl Iterator<Item = &'a str> + Clone,
    source: &Source,
) -> Result<usize, BakeError> {
    let wanted = name.get_ref();
    known
        .clone()
        .position(|known| known == wanted)
        .ok_or_else(|| {
            let hint = match nearest(wanted, known.clone()) {
                Some(near) => format!("; did you mean “{near}”?"),
                None => {
                    let known: Vec<&str> = known.take(12).collect();
                    format!("; there are: {}", known.join(", "))
                }
            };
            source.error(name.span(), format!("there is no {what} “{wanted}”{hint}"))
        })
}

/// Returns whether fonts are carried whole: as the last file says that says where to write.
pub(super) fn carries_whole_fonts(sources: &[Source]) -> bool {
    let mut said = sources
        .iter()
        .rev()
        .filter_map(|source| source.entry.output.as_ref());
    said.next()
        .is_some_and(|output| output.fonts == FontsEntry::Whole)
}

/// The place and the form of the output: by the last file that names them.
pub(super) fn output(
    path: &Path,
    sources: &[Source],
    files: &FileReader,
) -> Result<(PathBuf, OutputForm), BakeError> {
    let said = sources
        .iter()
        .rev()
        .find_map(|source| Some((source, &source.entry.output.as_ref()?.file)));
    let Some((source, file)) = said else {
        return Ok((path.with_extension("kpack"), OutputForm::Pack));
    };
    let path = source.folder.join(file.get_ref());
    files.check(&path).map_err(|error| {
        let problem = format!("cannot write “{}”", file.get_ref());
        source.error_in(file.span(), problem, error)
    })?;
    match path.extension().and_then(|extension| extension.to_str()) {
        Some("kpack") => Ok((path, OutputForm::Pack)),
        Some("json") => Ok((path, OutputForm::Json)),
        _ => {
            let problem = format!(
                "the output “{}” must end in .kpack or .json; its ending says what to write",
                file.get_ref()
            );
            Err(source.error(file.span(), problem))
        }
    }
}

pub(super) fn pages(sources: &[Source]) -> Result<(PackingOptions, SubpixelPositions), BakeError> {
    let usual = PackingOptions::default();
    let said = sources
        .iter()
        .rev()
        .find_map(|source| Some((source, source.entry.pages.as_ref()?)));
    let Some((source, entry)) = said else {
        return Ok((usual, SubpixelPositions::default()));
    };
    let PagesEntry {
        largest_side,
        padding,
        power_of_two,
        may_rotate,
        subpixel_positions,
        text_sizes,
    } = entry;
    let within = |said: &Option<Spanned<u16>>, usual: u16, first: u16, last: u16, what: &str| {
        let Some(said) = said else {
            return Ok(usual);
        };
        let number = *said.get_ref();
        if (first..=last).contains(&number) {
            return Ok(number);
        }
        let problem = format!("{what} is {number}, it must be {first} to {last}");
        Err(source.error(said.span(), problem))
    };
    let positions = subpixel_positions
        .as_ref()
        .map(|count| Spanned::new(count.span(), u16::from(*count.get_ref())));
    let packing = PackingOptions {
        largest_side: within(
            largest_side,
            usual.largest_side,
            16,
            LARGEST_SIDE,
            "largest-side",
        )?,
        padding: within(padding, usual.padding, 0, 64, "padding")?,
        power_of_two: *power_of_two,
        may_rotate: *may_rotate,
        ..usual
    };
    let positions = within(&positions, 4, 1, 16, "subpixel-positions")?;
    let mut positions = SubpixelPositions::new(positions as u8);
    if let Some(text_sizes) = text_sizes {
        positions.text_sizes = *text_sizes.get_ref();
        if !positions.is_sound() {
            let problem = format!(
                "text-sizes is {}, it must be 0 or more",
                positions.text_sizes
            );
            return Err(source.error(text_sizes.span(), problem));
        }
        positions.text_sizes = positions.text_sizes.min(f32::MAX);
    }
    Ok((packing, positions))
}

pub(super) fn scales(sources: &[Source]) -> Result<Vec<f32>, BakeError> {
    let said = sources
        .iter()
        .rev()
        .find_map(|source| Some((source, source.entry.scales.as_ref()?)));
    let Some((source, said)) = said else {
        return Ok(vec![1.0]);
    };
    let mut scales = said.get_ref().clone();
    if scales.is_empty() || !scales.iter().all(|scale| (0.01..=64.0).contains(scale)) {
        let problem = "each scale must be 0.01 to 64, and there must be one".to_owned();
        return Err(source.error(said.span(), problem));
    }
    scales.sort_unstable_by(f32::total_cmp);
    scales.dedup();
    Ok(scales)
}

/// The sizes of a strike, checked.
pub(super) fn sizes(source: &Source, said: &Spanned<Vec<f32>>) -> Result<Vec<f32>, BakeError> {
    let sizes = said.get_ref();
    let largest = Limits::default().picture_side as f32;
    if sizes.is_empty() || !sizes.iter().all(|size| *size > 0.0 && *size <= largest) {
        let problem =
            format!("each size must be above 0 and at most {largest}, and there must be one");
        return Err(source.error(said.span(), problem));
    }
    Ok(sizes.clone())
}
