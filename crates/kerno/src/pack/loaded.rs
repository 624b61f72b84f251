//! A pack at run time.

use std::collections::HashSet;
use std::path::Path;
use std::sync::{Arc, OnceLock};

use super::container::{Container, SectionKind};
use super::description::{AnimationRecord, SpritePictureRecord, SpriteRecord};
use super::glyphs::{RECORD, read_glyph, read_pictures};
use super::records::{PackDescription, PackedStrike};
use super::{Fingerprint, PackError};
use crate::atlas::{
    Animation, Atlas, AtlasOptions, Baked, BakedGlyph, BakedPage, BakedSprite, BakedStrike,
    PageKind, Slot, SpriteId, SpritePicture, TexelRect,
};
use crate::base::{FileReader, Limits, SharedBytes, nearest, printable, span};
use crate::font::{Face, FaceParts, GlyphPictures, Synthesis};
use crate::raster::SubpixelPositions;

/// The longest side of a page and of a sprite's picture, in texels.
const LARGEST_SIDE: u16 = 4096;

/// A bake, loaded from a `.kpack`: faces that measure and kern as the
/// fonts they were made of, and an [`Atlas`] with their pictures and the sprites.
/// Pages and fonts are not copied out of the bytes.
///
/// ```no_run
/// use kerno::{Pack, Style, TextLayout};
/// let pack = Pack::from_file("ferry.kpack")?;
/// let mut atlas = pack.atlas();
/// let fares = TextLayout::new("Fares 1,250", &Style::new(&pack.face("text")?, 20.0))?;
/// let lantern = atlas.sprite("lantern")?;
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug)]
pub struct Pack {
    container: Container,
    description: PackDescription,
    /// Opened when they are first asked for.
    faces: Vec<OnceLock<Face>>,
    /// Glyphs that are pictures, under the first face that has them: one face of a font may
    /// stand there under many names.
    pictures: Vec<OnceLock<Arc<GlyphPictures>>>,
    limits: Limits,
    pages: Vec<SharedBytes>,
    strikes: Vec<BakedStrike>,
}

impl Pack {
    /// Reads a pack from its bytes.
    ///
    /// # Errors
    /// [`PackError::NotAPack`], [`PackError::Version`], or [`PackError::Damaged`]
    /// with the byte from which on something is not as it was written. The fonts
    /// are looked at when their faces are first asked for.
    pub fn from_bytes(bytes: impl Into<SharedBytes>) -> Result<Self, PackError> {
        Self::from_bytes_with(bytes, &Limits::default())
    }

    /// As [`Pack::from_bytes`], under other [`Limits`]: `image_pixels` is the most a sprite's
    /// picture may have, with what was trimmed off, and all of them hold for its fonts.
    ///
    /// # Errors
    /// As [`Pack::from_bytes`].
    pub fn from_bytes_with(
        bytes: impl Into<SharedBytes>,
        limits: &Limits,
    ) -> Result<Self, PackError> {
        let bytes = bytes.into();
        span!("load_pack", bytes = bytes.len());
        let container = Container::read(bytes)?;
        let section = container.section(SectionKind::Description, 0)?;
        let description = PackDescription::from_bytes(&section)
            .ok_or_else(|| damaged("the description is no list of records".to_owned()))?;
        let sections: Vec<usize> = container.all(SectionKind::Page).collect();
        if sections.len() != description.pages.len() {
            return Err(damaged("pages are missing or too many".to_owned()));
        }
        let mut pages = Vec::new();
        for (section, page) in sections.iter().zip(&description.pages) {
            let texels = container.section(SectionKind::Page, *section)?;
            let area = usize::from(page.width) * usize::from(page.height);
            if texels.len() != area * page.kind.texel_bytes() || area == 0 {
                return Err(damaged(format!(
                    "a page of {} × {} texels has {} bytes",
                    page.width,
                    page.height,
                    texels.len()
                )));
            }
            pages.push(texels);
        }
        let faces = description.faces.iter().map(|_| OnceLock::new());
        let pictures = description.faces.iter().map(|_| OnceLock::new());
        let mut pack = Self {
            faces: faces.collect(),
            pictures: pictures.collect(),
            limits: limits.clone(),
            container,
            pages,
            strikes: Vec::new(),
            description,
        };
        pack.check()?;
        pack.strikes = pack.read_strikes()?;
        Ok(pack)
    }

    /// Reads a pack from a file.
    ///
    /// # Errors
    /// [`PackError::Io`] where the file can't be read, else [`PackError::InFile`]
    /// around what [`Pack::from_bytes`] says.
    pub fn from_file(path: impl AsRef<Path>) -> Result<Self, PackError> {
        let path = path.as_ref();
        let bytes = FileReader::default().read(path);
        let bytes = bytes.map_err(|source| PackError::Io {
            path: path.to_owned(),
            source,
        })?;
        Self::from_bytes(bytes).map_err(|error| PackError::InFile {
            path: path.to_owned(),
            source: Box::new(error),
        })
    }

    /// Identity of the inputs that it was made of.
    pub fn fingerprint(&self) -> Fingerprint {
        self.container.fingerprint
    }

    /// Device pixels per design pixel that it was made for.
    pub fn scales(&self) -> &[f32] {
        &self.description.scales
    }

    /// The names of all faces.
    pub fn face_names(&self) -> impl Iterator<Item = &str> + Clone {
        self.description.faces.iter().map(|face| face.name.as_str())
    }

    /// The face of a name: the same one each time.
    ///
    /// # Errors
    /// [`PackError::NoSuch`] with the nearest name, [`PackError::Damaged`] or
    /// [`PackError::Face`] where its font is damaged.
    pub fn face(&self, name: &str) -> Result<Face, PackError> {
        let index = self.face_names().position(|known| known == name);
        let index = index.ok_or_else(|| no_such("face", name, self.face_names()))?;
        self.open(index)
    }

    /// The faces of a stack, the first to be tried first.
    ///
    /// # Errors
    /// As [`Pack::face`].
    pub fn stack(&self, name: &str) -> Result<Vec<Face>, PackError> {
        let stacks = &self.description.stacks;
        let Some(stack) = stacks.iter().find(|stack| stack.name == name) else {
            let known = stacks.iter().map(|stack| stack.name.as_str());
            return Err(no_such("stack", name, known));
        };
        stack.faces.iter().map(|face| self.open(*face)).collect()
    }

    /// An animation; its sprites are those of [`Pack::atlas`].
    ///
    /// # Errors
    /// [`PackError::NoSuch`] with the nearest name.
    pub fn animation(&self, name: &str) -> Result<Animation, PackError> {
        let animations = &self.description.animations;
        let Some(found) = animations.iter().find(|found| found.name == name) else {
            let known = animations.iter().map(|found| found.name.as_str());
            return Err(no_such("animation", name, known));
        };
        Ok(animation(found)?)
    }

    /// An atlas that has all pictures of the pack. Text nobody foresaw goes to pages
    /// of its own.
    pub fn atlas(&self) -> Atlas {
        self.baked_atlas(AtlasOptions::default())
    }

    /// As [`Pack::atlas`], with options for the pages that are added later; the padding
    /// and the subpixel positions are those of the bake.
    ///
    /// # Errors
    /// As [`Atlas::new`].
    pub fn atlas_with(&self, options: AtlasOptions) -> Result<Atlas, crate::atlas::AtlasError> {
        options.check()?;
        Ok(self.baked_atlas(options))
    }

    fn positions(&self) -> SubpixelPositions {
        SubpixelPositions {
            count: self.description.subpixel_positions,
            text_sizes: self.description.text_sizes,
        }
    }

    fn baked_atlas(&self, options: AtlasOptions) -> Atlas {
        let records = self.description.pages.iter().zip(&self.pages);
        let pages = records.map(|(page, texels)| BakedPage {
            kind: page.kind,
            width: page.width,
            height: page.height,
            texels: texels.clone(),
        });
        let sprites = self.description.sprites.iter().map(|record| BakedSprite {
            sprite: record.sprite(),
            pictures: record
                .pictures
                .iter()
                .map(|picture| SpritePicture {
                    slot: picture.slot.slot(PageKind::Color),
                    whole: (picture.width, picture.height),
                    borders: picture.borders,
                    enlarged: 1.0,
                })
                .collect(),
        });
        let baked = Baked {
            pages: pages.collect(),
            faces: self.description.faces.iter().map(|face| face.id).collect(),
            strikes: self.strikes.clone(),
            sprites: sprites.collect(),
        };
        let options = AtlasOptions {
            padding: self.description.padding,
            subpixel_positions: self.positions(),
            ..options
        };
        Atlas::of_baked(options, baked)
    }

    /// Opens a face when it is first asked for.
    fn open(&self, index: usize) -> Result<Face, PackError> {
        let slot: &OnceLock<Face> = &self.faces[index];
        if let Some(face) = slot.get() {
            return Ok(face.clone());
        }
        let record = &self.description.faces[index];
        let pictures = record.pictures.map(|section| self.pictures(section));
        let pictures = pictures.transpose()?;
        let parts = FaceParts {
            bytes: self.container.section(SectionKind::Font, record.font)?,
            index: record.index,
            places: record.places.clone(),
            synthesis: Synthesis {
                embolden: record.embolden,
                slant: record.slant,
            },
            palette: record.palette(),
            strike: record.strike,
            pictures,
        };
        let face =
            Face::from_parts(parts, record.id, &self.limits).map_err(|source| PackError::Face {
                name: record.name.clone(),
                source: Box::new(source),
            })?;
        Ok(slot.get_or_init(|| face).clone())
    }

    /// Reads glyphs that are pictures, once for all faces that have them.
    fn pictures(&self, section: usize) -> Result<Arc<GlyphPictures>, PackError> {
        let mut faces = self.description.faces.iter();
        let first = faces.position(|face| face.pictures == Some(section));
        let slot = first.and_then(|face| self.pictures.get(face));
        if let Some(known) = slot.and_then(OnceLock::get) {
            return Ok(known.clone());
        }
        let bytes = self.container.section(SectionKind::Pictures, section)?;
        let bad = || damaged("the pictures of a face are cut short".to_owned());
        let read = Arc::new(read_pictures(&bytes).ok_or_else(bad)?);
        Ok(slot.map_or_else(
            || read.clone(),
            |slot| slot.get_or_init(|| read.clone()).clone(),
        ))
    }

    /// Refuses what names or places something that isn't there.
    fn check(&self) -> Result<(), PackError> {
        let description = &self.description;
        let refuse = |what: &str| Err(damaged(format!("the description: {what}")));
        if !self.positions().is_sound() || description.padding > 64 {
            return refuse("subpixel positions or padding are out of range");
        }
        for kind in [PageKind::Mask, PageKind::Color] {
            let own = description.pages.iter().filter(|page| page.kind == kind);
            let sizes: Vec<(u16, u16)> = own.map(|page| (page.width, page.height)).collect();
            let is_even = sizes.windows(2).all(|pair| pair[0] == pair[1]);
            let is_small = sizes.iter().all(|size| size.0.max(size.1) <= LARGEST_SIDE);
            if sizes.len() > 256 || !is_even || !is_small {
                return refuse("pages of one kind must be at most 256 of one size up to 4096");
            }
        }
        let face_count = description.faces.len();
        let mut members = description.stacks.iter().flat_map(|stack| &stack.faces);
        if members.any(|face| *face >= face_count) {
            return refuse("a stack has a face that isn't there");
        }
        let mut names = HashSet::new();
        for record in &description.sprites {
            record.sprite().check()?;
            if !names.insert(record.name.as_str()) {
                return refuse("two sprites have one name");
            }
            if !self.is_sized(record) {
                return refuse("a sprite's picture has another size than its scales ask for");
            }
            if let Some((width, height)) = self.oversized(record) {
                let (name, most) = (printable(&record.name), self.limits.image_pixels);
                return refuse(&format!(
                    "“{name}” has a picture of {width} × {height} pixels, which may have {most}"
                ));
            }
            if !record.pictures.iter().all(|picture| self.is_whole(picture)) {
                return refuse("a sprite's picture does not lie on its page");
            }
        }
        for found in &description.animations {
            let mut frames = found.frames.iter();
            if frames.any(|frame| frame.sprite >= description.sprites.len()) {
                return refuse("an animation has a sprite that isn't there");
            }
            animation(found)?;
        }
        Ok(())
    }

    /// Returns whether each picture of a sprite has the size that one of the scales asks for, and
    /// has it alone. So no size is believed that no bake would have drawn.
    fn is_sized(&self, record: &SpriteRecord) -> bool {
        let sprite = record.sprite();
        let scales = self.description.scales.iter();
        let asked: HashSet<(u32, u32)> = scales
            .map(|scale| sprite.texels_at(*scale))
            .map(|(width, height, _)| (width, height))
            .collect();
        let mut known = HashSet::new();
        record.pictures.iter().all(|picture| {
            let size = (u32::from(picture.width), u32::from(picture.height));
            let (width, height) = size;
            asked.contains(&size)
                && known.insert(size)
                && width.max(height) <= u32::from(LARGEST_SIDE)
        })
    }

    /// The size of a sprite's picture that has more pixels than it may.
    fn oversized(&self, record: &SpriteRecord) -> Option<(u32, u32)> {
        let sizes = record.pictures.iter().map(|picture| {
            let size = (picture.width, picture.height);
            (u32::from(size.0), u32::from(size.1))
        });
        let pixels = |(width, height): &(u32, u32)| u64::from(*width) * u64::from(*height);
        sizes
            .max_by_key(pixels)
            .filter(|size| pixels(size) > self.limits.image_pixels)
    }

    /// Returns whether what was not trimmed off a sprite's picture lies on its page, and within
    /// the picture.
    fn is_whole(&self, picture: &SpritePictureRecord) -> bool {
        let slot = picture.slot.slot(PageKind::Color);
        let (width, height) = slot.picture_size();
        let fits = |start: f32, part: u16, whole: u16| {
            start >= 0.0 && start.fract() == 0.0 && start + f32::from(part) <= f32::from(whole)
        };
        let [left, top, right, bottom] = picture.borders.map(u32::from);
        fits(slot.left, width, picture.width)
            && fits(slot.top, height, picture.height)
            && picture.slot.reduction == 1
            && left + right <= u32::from(picture.width)
            && top + bottom <= u32::from(picture.height)
            && self.is_on_page(&slot)
    }

    fn is_on_page(&self, slot: &Slot) -> bool {
        let mut pages = self.description.pages.iter();
        let page = pages.rfind(|page| page.kind == slot.kind);
        let count = self
            .description
            .pages
            .iter()
            .filter(|page| page.kind == slot.kind)
            .count();
        let fits = |start: u16, length: u16, side: u16| {
            length > 0 && u32::from(start) + u32::from(length) <= u32::from(side)
        };
        let TexelRect {
            x,
            y,
            width,
            height,
        } = slot.texels;
        usize::from(slot.page) < count
            && page.is_some_and(|page| fits(x, width, page.width) && fits(y, height, page.height))
    }

    /// Reads where the glyphs are.
    fn read_strikes(&self) -> Result<Vec<BakedStrike>, PackError> {
        let Some(section) = self.container.all(SectionKind::Glyphs).next() else {
            return Ok(Vec::new());
        };
        let bytes = self.container.section(SectionKind::Glyphs, section)?;
        let (records, rest) = bytes.as_chunks::<RECORD>();
        // Each record is of one strike: they stand in the order of the strikes.
        let mut next = 0;
        let mut strike = |strike: &PackedStrike| {
            let end = strike.first.checked_add(strike.count)?;
            let records = records.get(strike.first..end)?;
            let is_next = strike.first == std::mem::replace(&mut next, end);
            let glyphs: Arc<[BakedGlyph]> = records.iter().map(read_glyph).collect();
            let is_sorted = glyphs.is_sorted_by_key(|glyph| (glyph.glyph, glyph.subpixel));
            let is_known = (strike.face as usize) < self.faces.len();
            let is_placed = glyphs.iter().all(|glyph| {
                let slot = &glyph.slot;
                slot.left.is_finite() && slot.top.is_finite() && self.is_on_page(slot)
            });
            let is_sound = is_next && is_sorted && is_known && is_placed && strike.size > 0.0;
            is_sound.then_some(BakedStrike {
                face: strike.face,
                size: strike.size,
                treatment: strike.treatment,
                glyphs,
            })
        };
        let strikes = self.description.strikes.iter().map(|packed| {
            strike(packed).ok_or_else(|| {
                damaged(format!(
                    "the glyphs at {} px are not all on their pages",
                    packed.size
                ))
            })
        });
        let strikes = strikes.collect::<Result<_, _>>()?;
        if next != records.len() || !rest.is_empty() {
            return Err(damaged("glyphs are of no strike".to_owned()));
        }
        Ok(strikes)
    }
}

fn damaged(what: String) -> PackError {
    PackError::Damaged { offset: 0, what }
}

fn no_such<'a>(what: &'static str, name: &str, known: impl Iterator<Item = &'a str>) -> PackError {
    PackError::NoSuch {
        what,
        name: name.to_owned(),
        nearest: nearest(name, known).map(str::to_owned),
    }
}

fn animation(record: &AnimationRecord) -> Result<Animation, crate::atlas::AtlasError> {
    let frames = record.frames.iter();
    Animation::new(
        frames.map(|frame| (SpriteId(frame.sprite as u32), frame.seconds)),
        record.repeats,
    )
}
