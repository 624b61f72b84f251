//! From a manifest to pictures: every glyph and every sprite at every size.

use std::collections::{BTreeMap, BTreeSet};
use std::sync::atomic::{AtomicUsize, Ordering};

use rayon::prelude::*;

use super::error::BakeError;
use super::manifest::{Manifest, StrikePlan};
use crate::atlas::{DrawnSprite, PageKind, Sprite, draw_glyph};
use crate::base::Treatment;
use crate::font::{FRACTION_FEATURES, Face, GlyphId, Tag, USUAL_FEATURES};
use crate::raster::{GlyphRequest, Rasterizer, Subpixel};
use crate::text::{Style, glyph_or_stand_in};

/// The key of a strike: face, device pixels per em (as bits), treatment.
pub(super) type StrikeKey = (usize, u32, Treatment);

/// The charsets that want something.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum WantedBy {
    /// All faces show this where they lack a character.
    All,
    /// It goes if this charset goes.
    One(usize),
    /// It stays if one of them goes.
    Several,
}

impl WantedBy {
    fn and(&mut self, charset: usize) {
        match self {
            Self::One(known) if *known != charset => *self = Self::Several,
            _ => {}
        }
    }
}

/// All glyphs to be drawn, and all that no face has.
#[derive(Debug, Default)]
pub(super) struct Wanted {
    pub(super) strikes: BTreeMap<StrikeKey, BTreeMap<GlyphId, WantedBy>>,
    /// Characters that neither the face nor any of the stack has, by its name.
    pub(super) missing: BTreeMap<String, BTreeSet<char>>,
    /// Members of stacks from which no character is taken: stack and face.
    pub(super) idle: BTreeSet<(String, usize)>,
    /// Of each face that is drawn, what its glyphs come from.
    pub(super) origins: BTreeMap<usize, Origin>,
}

/// The glyphs of characters, and the features that make others of them.
#[derive(Debug, Default)]
pub(super) struct Origin {
    pub(super) glyphs: BTreeSet<GlyphId>,
    pub(super) features: BTreeSet<Tag>,
}

/// Between the numbers of a fraction.
const FRACTION_SLASH: char = '\u{2044}';

impl Wanted {
    pub(super) fn of(manifest: &Manifest) -> Self {
        let mut wanted = Self::default();
        for plan in &manifest.strikes {
            wanted.add(manifest, plan);
        }
        wanted
    }

    fn add(&mut self, manifest: &Manifest, plan: &StrikePlan) {
        // The face of each character is the same at all sizes.
        let mut taken: Vec<BTreeMap<GlyphId, WantedBy>> =
            plan.faces.iter().map(|_| BTreeMap::new()).collect();
        // A character that no face has is shown as that of the first face.
        taken[0].insert(GlyphId::NOTDEF, WantedBy::All);
        for charset in &plan.charsets {
            for character in &manifest.charsets[*charset].1 {
                let faces = plan.faces.iter().map(|face| &manifest.faces[*face].1);
                let faces = faces.enumerate();
                let own = |(at, face): (usize, &Face)| Some((at, face.glyph(*character)?));
                // Spaces and hyphens are made from others where no face has them.
                let made =
                    |(at, face): (usize, &Face)| Some((at, glyph_or_stand_in(face, *character)?));
                let found = faces
                    .clone()
                    .find_map(own)
                    .or_else(|| faces.clone().find_map(made));
                let Some((at, glyph)) = found else {
                    let missing = self.missing.entry(plan.name.clone()).or_default();
                    missing.insert(*character);
                    continue;
                };
                let by = taken[at].entry(glyph).or_insert(WantedBy::One(*charset));
                by.and(*charset);
            }
        }
        for (face, taken) in plan.faces.iter().zip(&mut taken) {
            let font = &manifest.faces[*face].1;
            let has_slash = font.glyph(FRACTION_SLASH);
            let has_slash = has_slash.is_some_and(|glyph| taken.contains_key(&glyph));
            let mut features: BTreeSet<Tag> = USUAL_FEATURES.into_iter().collect();
            features.extend(FRACTION_FEATURES.into_iter().filter(|_| has_slash));
            features.extend(plan.features.iter().copied());
            let origin = self.origins.entry(*face).or_default();
            origin.glyphs.extend(taken.keys().copied());
            origin.features.extend(features.iter().copied());
            close(font, &features, taken);
        }
        for (face, taken) in plan.faces.iter().zip(&taken) {
            if taken.keys().all(|glyph| *glyph == GlyphId::NOTDEF) {
                self.idle.insert((plan.name.clone(), *face));
            }
            if taken.is_empty() {
                continue;
            }
            let font = &manifest.faces[*face].1;
            for (size, treatment) in device_strikes(font, plan, manifest) {
                for (glyph, by) in taken {
                    // The fill of a colour glyph is in its own colours.
                    let is_fill = treatment == plan.edges.into();
                    let treatment = match is_fill && font.is_color_glyph(*glyph) {
                        true => Treatment::in_color(),
                        false => treatment,
                    };
                    let strike = (*face, size.to_bits(), treatment);
                    let glyphs = self.strikes.entry(strike).or_default();
                    let known = glyphs.entry(*glyph).or_insert(*by);
                    if known != by && *known != WantedBy::All {
                        *known = WantedBy::Several;
                    }
                }
            }
        }
    }
}

/// Adds the ligatures and joined forms of what is taken from a face. They go with the
/// charset where there is only one.
fn close(face: &Face, features: &BTreeSet<Tag>, taken: &mut BTreeMap<GlyphId, WantedBy>) {
    let mut glyphs: BTreeSet<GlyphId> = taken.keys().copied().collect();
    face.close_glyphs(features, &mut glyphs);
    let mut by = taken.values().filter(|by| **by != WantedBy::All);
    let first = by.next().copied().unwrap_or(WantedBy::Several);
    let by = if by.all(|other| *other == first) {
        first
    } else {
        WantedBy::Several
    };
    for glyph in glyphs {
        taken.entry(glyph).or_insert(by);
    }
}

/// The sizes of a strike in device pixels with what is made of its shapes, as text is
/// drawn: hard edges at whole scales, bitmap faces at whole multiples of their pixels,
/// effects as pictures of their own.
fn device_strikes(face: &Face, plan: &StrikePlan, manifest: &Manifest) -> Vec<(f32, Treatment)> {
    let set_at = |size: f32| match face.strike_size() {
        Some(_) => face.crisp_size(size).unwrap_or(size),
        None => size,
    };
    if plan.edges.is_field() {
        // One picture serves every scale, and effects come from it.
        let sizes = plan.sizes.iter().map(|size| (*size, plan.edges.into()));
        return sizes.collect();
    }
    let mut strikes = Vec::new();
    for scale in manifest
        .scales
        .iter()
        .map(|scale| plan.edges.drawn_scale(*scale))
    {
        let style = Style::new(face, 1.0)
            .edges(plan.edges)
            .effects(plan.effects.clone());
        let own = style.layers().filter_map(|layer| style.layer(layer, scale));
        let mut treatments: BTreeSet<Treatment> = own.map(|layer| layer.treatment).collect();
        treatments.insert(plan.edges.into());
        for size in &plan.sizes {
            let size = set_at(*size) * scale;
            strikes.extend(treatments.iter().map(|treatment| (size, *treatment)));
        }
    }
    strikes
}

/// A picture to find a place for.
pub(super) struct Picture {
    pub(super) kind: PageKind,
    pub(super) width: u16,
    pub(super) height: u16,
    pub(super) texels: Vec<u8>,
    /// True if it is a distance field.
    pub(super) is_field: bool,
}

/// A glyph's picture.
pub(super) struct MadeGlyph {
    pub(super) strike: StrikeKey,
    pub(super) glyph: GlyphId,
    pub(super) subpixel: u8,
    pub(super) left: i32,
    pub(super) top: i32,
    /// Device pixels that a texel is wide; the lengths are in texels.
    pub(super) reduction: u32,
    pub(super) picture: Picture,
}

/// A sprite's picture at one scale.
pub(super) struct MadeSprite {
    /// The index of the sprite in the manifest.
    pub(super) sprite: usize,
    pub(super) drawn: DrawnSprite,
    pub(super) picture: Picture,
}

/// Counts what is done, for whoever watches.
pub(super) struct Watched<'a> {
    pub(super) done: AtomicUsize,
    pub(super) total: usize,
    pub(super) watch: &'a (dyn Fn(usize, usize) + Sync),
}

impl Watched<'_> {
    fn one_more(&self) {
        let done = self.done.fetch_add(1, Ordering::Relaxed) + 1;
        (self.watch)(done, self.total);
    }
}

/// Draws every glyph, in the order of strikes, glyphs and subpixel positions.
pub(super) fn draw_glyphs(
    manifest: &Manifest,
    wanted: &Wanted,
    watched: &Watched<'_>,
) -> Result<Vec<MadeGlyph>, BakeError> {
    let glyphs: Vec<(StrikeKey, GlyphId)> = wanted
        .strikes
        .iter()
        .flat_map(|(strike, glyphs)| glyphs.keys().map(|glyph| (*strike, *glyph)))
        .collect();
    // All are made before any error counts: the first one, on any number of threads.
    let drawn: Vec<Result<Vec<MadeGlyph>, BakeError>> = glyphs
        .into_par_iter()
        .map_init(Rasterizer::new, |rasterizer, (strike, glyph)| {
            let pictures = drawn(manifest, strike, glyph, rasterizer);
            watched.one_more();
            pictures
        })
        .collect();
    let drawn: Vec<Vec<MadeGlyph>> = drawn.into_iter().collect::<Result<_, _>>()?;
    Ok(drawn.into_iter().flatten().collect())
}

/// The pictures of one glyph, one for each subpixel position.
fn drawn(
    manifest: &Manifest,
    strike: StrikeKey,
    glyph: GlyphId,
    rasterizer: &mut Rasterizer,
) -> Result<Vec<MadeGlyph>, BakeError> {
    let (face, size, treatment) = (strike.0, f32::from_bits(strike.1), strike.2);
    let (name, face) = &manifest.faces[face];
    let count = Subpixel::positions(face, glyph, size, treatment, manifest.subpixel_positions);
    let what = || format!("glyph {} of the face “{name}” at {size} px", glyph.0);
    let mut pictures = Vec::new();
    for index in 0..count {
        let request = GlyphRequest::new(face, glyph, size)
            .subpixel(Subpixel::new(index, count))
            .treatment(treatment);
        let most = manifest.largest_picture();
        let drawn = draw_glyph(rasterizer, &request, most);
        let drawn = drawn.map_err(|source| BakeError::Picture {
            what: what(),
            source: Box::new(source),
        })?;
        let Some(drawn) = drawn else {
            break;
        };
        manifest.check_size(drawn.width, drawn.height, what)?;
        pictures.push(MadeGlyph {
            strike,
            glyph,
            subpixel: index,
            left: drawn.left,
            top: drawn.top,
            reduction: drawn.reduction,
            picture: Picture {
                kind: drawn.kind,
                width: drawn.width as u16,
                height: drawn.height as u16,
                texels: drawn.texels.into_owned(),
                is_field: treatment.range() > 0,
            },
        });
    }
    Ok(pictures)
}

/// Makes every sprite at every scale, in the order of the manifest.
pub(super) fn draw_sprites(
    manifest: &Manifest,
    sprites: &[Sprite],
    watched: &Watched<'_>,
) -> Result<Vec<MadeSprite>, BakeError> {
    let sized: BTreeSet<(usize, u32, u32)> = sprites
        .iter()
        .enumerate()
        .flat_map(|(index, sprite)| {
            manifest.scales.iter().map(move |scale| {
                let (width, height, _) = sprite.texels_at(*scale);
                (index, width, height)
            })
        })
        .collect();
    let sized: Vec<_> = sized.into_iter().collect();
    let drawn: Vec<Result<Option<MadeSprite>, BakeError>> = sized
        .into_par_iter()
        .map(|(index, width, height)| {
            let sprite = &sprites[index];
            manifest.check_size(width, height, || {
                format!("sprite “{}” at {width} × {height} texels", sprite.name)
            })?;
            let mut drawn = match &sprite.source {
                Some(source) => sprite.drawn(source, width, height),
                None => return Ok(None),
            };
            watched.one_more();
            let texels = std::mem::take(&mut drawn.texels);
            Ok(Some(MadeSprite {
                sprite: index,
                picture: Picture {
                    kind: PageKind::Color,
                    width: drawn.part[2] as u16,
                    height: drawn.part[3] as u16,
                    texels,
                    is_field: false,
                },
                drawn,
            }))
        })
        .collect();
    drawn.into_iter().filter_map(Result::transpose).collect()
}
