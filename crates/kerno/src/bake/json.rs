//! The form for engines that bring their own loader: JSON and PNGs
//! (`docs/atlas-json.md`).

use std::collections::{BTreeMap, BTreeSet};
use std::error::Error;

use rayon::prelude::*;
use serde::{Deserialize, Serialize};
use xxhash_rust::xxh3::xxh3_64;

use super::Bake;
use super::error::BakeError;
use super::pages::MadePage;
use crate::atlas::{BakedGlyph, PageKind};
use crate::base::{Image, ImageError};
use crate::font::{Face, GlyphId};
use crate::pack::{Description, Fingerprint, PageKindRecord, SlotRecord, TreatmentRecord};

/// The files of a bake, to be written beside each other.
#[derive(Debug)]
pub struct JsonFiles {
    /// The text of the `.json`.
    pub json: String,
    /// A PNG for each page, with its file name.
    pub pictures: Vec<(String, Vec<u8>)>,
}

/// The whole file.
#[derive(Debug, Serialize)]
struct JsonFile {
    /// The version of this form.
    version: u32,
    /// A digest that tells the inputs from others.
    inputs: String,
    #[serde(flatten)]
    description: Description<ListedFace, ListedStrike>,
}

/// A face with all measures of the glyphs that were baked.
#[derive(Debug, Serialize)]
struct ListedFace {
    name: String,
    full_name: String,
    units_per_em: u16,
    ascender: i16,
    descender: i16,
    line_gap: i16,
    /// Glyphs by character.
    characters: BTreeMap<char, u16>,
    /// Advances by glyph, in font units.
    advances: BTreeMap<u16, u16>,
    /// Left glyph, right glyph, and how much closer (negative) they stand.
    kerning: Vec<(u16, u16, i32)>,
}

#[derive(Debug, Serialize)]
struct ListedStrike {
    face: usize,
    size: f32,
    #[serde(flatten)]
    treatment: TreatmentRecord,
    glyphs: Vec<ListedGlyph>,
}

#[derive(Debug, Serialize)]
struct ListedGlyph {
    glyph: u16,
    subpixel: u8,
    #[serde(with = "PageKindRecord")]
    kind: PageKind,
    #[serde(flatten)]
    slot: SlotRecord,
}

impl ListedFace {
    fn of(
        name: &str,
        face: &Face,
        characters: &BTreeSet<char>,
        glyphs: &BTreeSet<GlyphId>,
    ) -> Self {
        let metrics = face.metrics();
        let characters = characters.iter().filter_map(|character| {
            let glyph = face.glyph(*character)?;
            glyphs.contains(&glyph).then_some((*character, glyph.0))
        });
        let lefts: Vec<GlyphId> = glyphs.iter().copied().collect();
        let kerning = lefts.par_iter().flat_map_iter(|left| {
            let kerns = face.kerns_after(*left);
            let rights = lefts.iter().filter(move |_| kerns);
            rights.filter_map(move |right| match face.kerning(*left, *right) {
                0 => None,
                units => Some((left.0, right.0, units)),
            })
        });
        Self {
            name: name.to_owned(),
            full_name: face.full_name(),
            units_per_em: metrics.units_per_em,
            ascender: metrics.ascender,
            descender: metrics.descender,
            line_gap: metrics.line_gap,
            characters: characters.collect(),
            advances: glyphs
                .iter()
                .map(|glyph| (glyph.0, face.advance(*glyph)))
                .collect(),
            kerning: kerning.collect(),
        }
    }
}

impl ListedGlyph {
    fn of(glyph: &BakedGlyph) -> Self {
        Self {
            glyph: glyph.glyph.0,
            subpixel: glyph.subpixel,
            kind: glyph.slot.kind,
            slot: SlotRecord::of(&glyph.slot),
        }
    }
}

impl Bake<'_> {
    /// The files of the form for other loaders, where the names of pictures begin
    /// with `stem`. They end with what is in them, so that a page that has changed
    /// never takes the place of one that an earlier file names.
    ///
    /// # Errors
    /// [`BakeError::Encode`] where a PNG or the text can't be made.
    pub fn to_json(&self, stem: &str) -> Result<JsonFiles, BakeError> {
        let mut numbers = [0; 2];
        let named = self.pages.iter().map(|page| {
            let (kind, number) = match page.kind {
                PageKind::Mask => ("mask", &mut numbers[0]),
                PageKind::Color => ("color", &mut numbers[1]),
            };
            *number += 1;
            (page, format!("{stem}-{kind}-{}", *number - 1))
        });
        let named: Vec<(&MadePage, String)> = named.collect();
        let pictures: Vec<(String, Vec<u8>)> = named
            .into_par_iter()
            .map(|(page, name)| {
                let png = page.to_png()?;
                Ok((format!("{name}-{:016x}.png", xxh3_64(&png)), png))
            })
            .collect::<Result<_, ImageError>>()
            .map_err(|error| encode("the pictures of the pages", error))?;
        let faces = self
            .manifest
            .faces
            .iter()
            .enumerate()
            .map(|(index, (name, face))| {
                let strikes = self.wanted.strikes.iter();
                let glyphs = strikes.filter(|((face, ..), _)| *face == index);
                let glyphs: BTreeSet<GlyphId> = glyphs
                    .flat_map(|(_, glyphs)| glyphs.keys().copied())
                    .collect();
                ListedFace::of(name, face, &self.characters_of(index), &glyphs)
            });
        let strikes = self
            .strikes
            .iter()
            .map(|((face, size, treatment), glyphs)| ListedStrike {
                face: *face,
                size: f32::from_bits(*size),
                treatment: TreatmentRecord(*treatment),
                glyphs: glyphs.iter().map(ListedGlyph::of).collect(),
            });
        let mut description = Description::of(self, faces.collect(), strikes.collect());
        let made = description.pages.iter_mut().zip(&self.pages);
        for ((page, made), (name, _)) in made.zip(&pictures) {
            page.picture = Some(name.clone());
            page.is_premultiplied = made.is_premultiplied();
        }
        let file = JsonFile {
            version: 1,
            inputs: self.manifest.fingerprint.to_string(),
            description,
        };
        Ok(JsonFiles {
            json: serde_json::to_string_pretty(&file)
                .map_err(|error| encode("the description of the pages", error))?
                + "\n",
            pictures,
        })
    }

    /// All characters that are asked for of a face or of a stack with it.
    pub(super) fn characters_of(&self, face: usize) -> BTreeSet<char> {
        let plans = self.manifest.strikes.iter();
        let own = plans.filter(|plan| plan.faces.contains(&face));
        let charsets: BTreeSet<usize> =
            own.flat_map(|plan| plan.charsets.iter().copied()).collect();
        let characters = charsets
            .iter()
            .map(|charset| &self.manifest.charsets[*charset].1);
        characters.flatten().copied().collect()
    }
}

fn encode(what: &'static str, error: impl Error + Send + Sync + 'static) -> BakeError {
    BakeError::Encode {
        what,
        source: Box::new(error),
    }
}

impl JsonFiles {
    /// The fingerprint of an earlier file, and the names that it has for pictures; `None` where it is no such file.
    pub fn read_names(json: &str) -> Option<(String, Vec<String>)> {
        #[derive(Deserialize)]
        struct Names {
            inputs: String,
            pages: Vec<Picture>,
        }
        #[derive(Deserialize)]
        struct Picture {
            picture: Option<String>,
        }
        let names: Names = serde_json::from_str(json).ok()?;
        let pictures = names.pages.into_iter().filter_map(|page| page.picture);
        Some((names.inputs, pictures.collect()))
    }

    /// Returns whether a name is one that [`Bake::to_json`] gives to pictures of a `stem`:
    /// `stem-mask-0-0123456789abcdef.png`.
    pub fn is_named(stem: &str, name: &str) -> bool {
        let parts = name.strip_prefix(stem).map(|rest| rest.split('-'));
        let parts: Vec<&str> = parts.into_iter().flatten().collect();
        let ["", "mask" | "color", number, end] = parts[..] else {
            return false;
        };
        let digest = end.strip_suffix(".png").unwrap_or_default();
        let is_hex = |byte: u8| byte.is_ascii_digit() || (b'a'..=b'f').contains(&byte);
        !number.is_empty()
            && number.bytes().all(|byte| byte.is_ascii_digit())
            && digest.len() == 16
            && digest.bytes().all(is_hex)
    }

    /// Returns whether a file was made by [`Bake::to_json`] for a `stem` and is whole: its name
    /// says so, with a digest of its bytes.
    pub fn is_own(stem: &str, name: &str, png: &[u8]) -> bool {
        Self::is_named(stem, name) && name.ends_with(&format!("-{:016x}.png", xxh3_64(png)))
    }
}

impl Fingerprint {
    /// Returns whether this is what [`JsonFiles::read_names`] found.
    pub fn is(&self, text: &str) -> bool {
        self.to_string() == text
    }
}

impl MadePage {
    /// Returns whether its picture is as the page is, not with straight alpha.
    fn is_premultiplied(&self) -> bool {
        self.kind == PageKind::Color && self.has_fields
    }

    /// The page as a PNG: masks in grey, colours with straight alpha, as PNG has it, but for
    /// fields.
    fn to_png(&self) -> Result<Vec<u8>, ImageError> {
        let pixels = match self.kind {
            PageKind::Mask => {
                return Image::grey_png(self.width.into(), self.height.into(), &self.texels);
            }
            PageKind::Color if self.has_fields => self.texels.clone(),
            PageKind::Color => {
                let (texels, _) = self.texels.as_chunks::<4>();
                let straight = texels.iter().copied().flat_map(crate::base::straight);
                straight.collect()
            }
        };
        Image::new(self.width.into(), self.height.into(), pixels)?.to_png()
    }
}
