//! The costs of a bake, in bytes of texture memory.

use std::collections::BTreeMap;

use super::pages::MadePage;
use super::pictures::WantedBy;
use super::{Bake, Owner, Share};
use crate::atlas::PageKind;

/// Cost of a bake, and what it lacks.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Report {
    /// Every strike, in the order of the faces and sizes.
    pub strikes: Vec<PictureUse>,
    /// Every file or folder of sprites, in the order of the manifest.
    pub sprites: Vec<PictureUse>,
    /// Every page.
    pub pages: Vec<PageUse>,
    /// Every font that a pack carries.
    pub fonts: Vec<FontUse>,
    /// Every charset, in the order of their names in each file.
    pub charsets: Vec<CharsetUse>,
    /// Every OpenType feature that adds glyphs to those of the characters, face by face.
    pub features: Vec<FeatureUse>,
    /// Characters that were asked for and that no face has, by the name of the face
    /// or the stack.
    pub missing: Vec<(String, String)>,
    /// Entries of the manifest that nothing uses, in sentences.
    pub unused: Vec<String>,
    /// Bytes of all pages.
    pub bytes: u64,
}

/// Cost of the pictures of a strike or of a group of sprites.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct PictureUse {
    /// Name of the strike or the group.
    pub name: String,
    /// The number of glyphs or sprites.
    pub count: usize,
    /// The number of pictures, those that look like others not counted.
    pub pictures: usize,
    /// Texels, padding included.
    pub texels: u64,
    /// Bytes of them.
    pub bytes: u64,
    /// Of all bytes that pictures take, 0 to 1.
    pub share: f32,
}

/// Bytes that a font takes in a pack, beside its pictures.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct FontUse {
    /// The faces that are of it.
    pub faces: Vec<String>,
    /// Bytes of what is carried.
    pub bytes: u64,
    /// Bytes of the whole font.
    pub whole: u64,
}

/// Use of a page.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct PageUse {
    /// Mask or colour.
    pub kind: PageKind,
    /// Width in texels.
    pub width: u16,
    /// Height in texels.
    pub height: u16,
    /// Bytes.
    pub bytes: u64,
    /// Share of its texels that pictures and their padding take, 0 to 1.
    pub fill: f32,
}

/// Cost of a charset.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct CharsetUse {
    /// Its name in the manifest.
    pub name: String,
    /// The number of characters it has.
    pub characters: usize,
    /// Bytes that go if it goes: of glyphs that no other charset asks for.
    pub saving: u64,
}

/// Cost of an OpenType feature.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct FeatureUse {
    /// The face, by its name in the manifest.
    pub face: String,
    /// The tag of the feature: `liga`.
    pub tag: String,
    /// The number of glyphs that it alone adds.
    pub glyphs: usize,
    /// Bytes of their pictures.
    pub saving: u64,
}

/// Sums up pictures.
#[derive(Default)]
struct Sum {
    pictures: usize,
    texels: u64,
    bytes: u64,
}

/// Sums of all pictures by their owners.
struct Sums<'a> {
    /// One for each strike of the bake.
    strikes: Vec<Sum>,
    /// By the name of the file or folder of sprites.
    groups: BTreeMap<&'a str, Sum>,
    /// For each charset the bytes of glyphs that no other asks for.
    savings: Vec<u64>,
}

impl Sums<'_> {
    fn picture_use(&self, name: String, count: usize, sum: &Sum) -> PictureUse {
        let all = self.strikes.iter().chain(self.groups.values());
        let total: u64 = all.map(|sum| sum.bytes).sum();
        PictureUse {
            name,
            count,
            pictures: sum.pictures,
            texels: sum.texels,
            bytes: sum.bytes,
            share: sum.bytes as f32 / total.max(1) as f32,
        }
    }
}

impl PageUse {
    fn of(page: &MadePage) -> Self {
        let texels = u64::from(page.width) * u64::from(page.height);
        Self {
            kind: page.kind,
            width: page.width,
            height: page.height,
            bytes: page.texels.len() as u64,
            fill: page.used as f32 / texels as f32,
        }
    }
}

impl Bake<'_> {
    /// Report of what it costs.
    pub fn report(&self) -> Report {
        let sums = self.sums();
        let charsets = self.manifest.charsets.iter().zip(&sums.savings);
        let charsets = charsets.map(|((name, characters), saving)| CharsetUse {
            name: name.clone(),
            characters: characters.len(),
            saving: *saving,
        });
        let missing = self.wanted.missing.iter();
        let missing = missing.map(|(name, characters)| (name.clone(), characters.iter().collect()));
        Report {
            strikes: self.strike_uses(&sums),
            sprites: self.sprite_uses(&sums),
            charsets: charsets.collect(),
            features: self.feature_uses(),
            fonts: self.font_uses(),
            missing: missing.collect(),
            unused: self.unused(),
            bytes: self.pages.iter().map(|page| page.texels.len() as u64).sum(),
            pages: self.pages.iter().map(PageUse::of).collect(),
        }
    }

    /// Counts what every picture takes, by its owner.
    fn sums(&self) -> Sums<'_> {
        let mut sums = Sums {
            strikes: self.strikes.iter().map(|_| Sum::default()).collect(),
            groups: BTreeMap::new(),
            savings: vec![0; self.manifest.charsets.len()],
        };
        for share in &self.shares {
            let (texels, bytes) = self.takes(share);
            let sum = match share.owner {
                Owner::Glyph(strike, glyph) => {
                    let key = self.strikes[strike].0;
                    if let Some(WantedBy::One(charset)) = self.wanted.strikes[&key].get(&glyph) {
                        sums.savings[*charset] += bytes;
                    }
                    &mut sums.strikes[strike]
                }
                Owner::Sprite(sprite) => {
                    let group = self.manifest.sprites[sprite].group.as_str();
                    sums.groups.entry(group).or_default()
                }
            };
            sum.pictures += 1;
            sum.texels += texels;
            sum.bytes += bytes;
        }
        sums
    }

    fn strike_uses(&self, sums: &Sums<'_>) -> Vec<PictureUse> {
        let strikes = self.strikes.iter().zip(&sums.strikes);
        let uses = strikes.map(|((key, _), sum)| {
            let (face, size, treatment) = key;
            let name = &self.manifest.faces[*face].0;
            let name = format!("{name} {} px {treatment}", f32::from_bits(*size));
            sums.picture_use(name, self.wanted.strikes[key].len(), sum)
        });
        uses.collect()
    }

    /// The groups that have pictures, in the order of the manifest.
    fn sprite_uses(&self, sums: &Sums<'_>) -> Vec<PictureUse> {
        let mut counts: BTreeMap<&str, usize> = BTreeMap::new();
        let mut groups = Vec::new();
        for plan in &self.manifest.sprites {
            let count = counts.entry(&plan.group).or_default();
            *count += 1;
            if *count == 1 {
                groups.push(plan.group.as_str());
            }
        }
        let known = groups.into_iter().filter_map(|group| {
            let sum = sums.groups.get(group)?;
            Some(sums.picture_use(group.to_owned(), counts[group], sum))
        });
        known.collect()
    }

    /// The features that add glyphs, each by what would go without it.
    fn feature_uses(&self) -> Vec<FeatureUse> {
        let mut uses = Vec::new();
        for (number, origin) in &self.wanted.origins {
            let (name, face) = &self.manifest.faces[*number];
            let there = face.substitution_features();
            let mut all = origin.glyphs.clone();
            face.close_glyphs(&origin.features, &mut all);
            for tag in origin.features.iter().filter(|tag| there.contains(tag)) {
                let mut others = origin.features.clone();
                others.remove(tag);
                let mut without = origin.glyphs.clone();
                face.close_glyphs(&others, &mut without);
                let lost = all.iter().filter(|glyph| !without.contains(glyph)).count();
                let is_lost = |share: &&Share| match share.owner {
                    Owner::Glyph(strike, glyph) => {
                        self.strikes[strike].0.0 == *number
                            && all.contains(&glyph)
                            && !without.contains(&glyph)
                    }
                    Owner::Sprite(_) => false,
                };
                let shares = self.shares.iter().filter(is_lost);
                if lost > 0 {
                    uses.push(FeatureUse {
                        face: name.clone(),
                        tag: tag.to_string(),
                        glyphs: lost,
                        saving: shares.map(|share| self.takes(share).1).sum(),
                    });
                }
            }
        }
        uses
    }

    fn font_uses(&self) -> Vec<FontUse> {
        let uses = self.fonts.iter().map(|font| FontUse {
            faces: font
                .faces
                .iter()
                .map(|face| self.manifest.faces[*face].0.clone())
                .collect(),
            bytes: font.bytes.len() as u64,
            whole: font.whole as u64,
        });
        uses.collect()
    }

    /// Texels and bytes of a picture with its padding.
    fn takes(&self, share: &Share) -> (u64, u64) {
        let sides = match share.slot.kind {
            PageKind::Mask => 1,
            PageKind::Color => 2,
        };
        let padding = sides * u64::from(self.manifest.packing.padding);
        let texels = share.slot.texels;
        let area = (u64::from(texels.width) + padding) * (u64::from(texels.height) + padding);
        (area, area * share.slot.kind.texel_bytes() as u64)
    }

    /// The entries that nothing uses.
    fn unused(&self) -> Vec<String> {
        let manifest = self.manifest;
        let mut unused = Vec::new();
        for (index, (name, _)) in manifest.faces.iter().enumerate() {
            let in_strike = manifest
                .strikes
                .iter()
                .any(|plan| plan.faces.contains(&index));
            if !in_strike {
                unused.push(format!("the face “{name}” is in no strike"));
            }
        }
        for (name, _) in &manifest.stacks {
            if !manifest.strikes.iter().any(|plan| plan.name == *name) {
                unused.push(format!("the stack “{name}” is in no strike"));
            }
        }
        for (index, (name, _)) in manifest.charsets.iter().enumerate() {
            if !manifest
                .strikes
                .iter()
                .any(|plan| plan.charsets.contains(&index))
            {
                unused.push(format!("the charset “{name}” is in no strike"));
            }
        }
        for (strike, face) in &self.wanted.idle {
            let face = &manifest.faces[*face].0;
            unused.push(if strike == face {
                format!("a strike of “{face}” has none of its characters")
            } else {
                format!("the stack “{strike}” takes no character from its face “{face}”")
            });
        }
        unused
    }
}
