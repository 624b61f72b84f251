//! Entries of a manifest (`docs/manifest.md`).

use std::collections::BTreeMap;

use serde::Deserialize;
use serde::de::{Deserializer, SeqAccess, Visitor};

use crate::atlas::{Sampling, SliceFill};
use crate::bake::charset::CharsetEntry;
use crate::base::{Edges, EdgesRecord, Spanned};
use crate::markup::EffectRecord;
use crate::pack::{SamplingRecord, SliceFillRecord};

/// Entries by name, with where each name stands.
pub(super) type Named<T> = BTreeMap<Spanned<String>, T>;

/// A whole manifest.
#[derive(Debug, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct ManifestEntry {
    /// Other manifests, whose entries come before these.
    #[serde(default)]
    pub(super) include: Vec<Spanned<String>>,
    /// Device pixels per design pixel, for each of which all is made.
    pub(super) scales: Option<Spanned<Vec<f32>>>,
    /// The file that is written.
    pub(super) output: Option<OutputEntry>,
    /// The pages that pictures are packed on.
    pub(super) pages: Option<PagesEntry>,
    /// The faces, by their names.
    #[serde(default)]
    pub(super) faces: Named<FaceEntry>,
    /// Faces that are tried in order, by names of their own.
    #[serde(default)]
    pub(super) stacks: Named<Vec<Spanned<String>>>,
    /// Sets of characters, by their names.
    #[serde(default)]
    pub(super) charsets: Named<CharsetEntry>,
    /// Faces at sizes, with the characters that are drawn.
    #[serde(default)]
    pub(super) strikes: Vec<StrikeEntry>,
    /// Pictures.
    #[serde(default)]
    pub(super) sprites: Vec<Spanned<SpriteEntry>>,
    /// Sprites that follow one another, by their names.
    #[serde(default)]
    pub(super) animations: Named<AnimationEntry>,
}

#[derive(Debug, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct OutputEntry {
    /// A `.kpack`, or a `.json` with PNGs beside it.
    pub(super) file: Spanned<String>,
    /// The parts of its fonts that a pack carries.
    #[serde(default)]
    pub(super) fonts: FontsEntry,
}

/// The parts of its fonts that a pack carries.
#[derive(Clone, Copy, Debug, Default, Deserialize, PartialEq)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub(super) enum FontsEntry {
    /// The glyphs and rules that the charsets need.
    #[default]
    Needed,
    /// All of them, for text that nobody foresaw.
    Whole,
}

#[derive(Debug, Default, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct PagesEntry {
    /// The largest width and height of a page, in texels.
    pub(super) largest_side: Option<Spanned<u16>>,
    /// Free texels around each picture.
    pub(super) padding: Option<Spanned<u16>>,
    /// True: widths and heights are powers of two.
    #[serde(default)]
    pub(super) power_of_two: bool,
    /// True: pictures may lie on their side.
    #[serde(default)]
    pub(super) may_rotate: bool,
    /// Positions between two pixels that letters are drawn at.
    pub(super) subpixel_positions: Option<Spanned<u8>>,
    /// The largest size in device pixels that has those positions.
    pub(super) text_sizes: Option<Spanned<f32>>,
}

#[derive(Debug, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct FaceEntry {
    /// The font file.
    pub(super) file: Spanned<String>,
    /// The face of a collection.
    #[serde(default)]
    pub(super) face: u32,
    /// Axes of a variable font.
    #[serde(default)]
    pub(super) axes: BTreeMap<Spanned<String>, f32>,
    /// The bitmap strike of the font.
    pub(super) strike: Option<u16>,
    /// True: made bold from its outlines.
    #[serde(default)]
    pub(super) bold: bool,
    /// True: slanted from its outlines.
    #[serde(default)]
    pub(super) slant: bool,
}

#[derive(Debug, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct StrikeEntry {
    /// The face.
    pub(super) face: Option<Spanned<String>>,
    /// The stack, in place of a face.
    pub(super) stack: Option<Spanned<String>>,
    /// Design pixels per em.
    pub(super) sizes: Spanned<Vec<f32>>,
    /// The edges of the letters.
    #[serde(default, with = "EdgesRecord")]
    pub(super) edges: Edges,
    /// Effects whose pictures are baked as well.
    #[serde(default)]
    pub(super) effects: Vec<Spanned<EffectRecord>>,
    /// The charsets that are drawn.
    pub(super) charsets: Spanned<Vec<Spanned<String>>>,
    /// OpenType features that texts ask for, whose glyphs are drawn as well.
    #[serde(default)]
    pub(super) features: Vec<Spanned<String>>,
}

#[derive(Debug, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct SpriteEntry {
    /// One picture …
    pub(super) file: Option<String>,
    /// … or all in a folder.
    pub(super) folder: Option<String>,
    /// Names of a folder to pass over.
    #[serde(default)]
    pub(super) except: Vec<Spanned<String>>,
    /// Its name; by default its path without the ending.
    pub(super) name: Option<String>,
    /// For a strip of frames: the width of one, in image pixels.
    pub(super) frame_width: Option<u32>,
    /// Image pixels per design pixel.
    #[serde(default = "one")]
    pub(super) density: f32,
    /// Nine-slice borders in image pixels, 1, 2 or 4 of them as in CSS.
    #[serde(default, deserialize_with = "one_or_more")]
    #[cfg_attr(feature = "schemas", schemars(with = "SecondsEntry"))]
    pub(super) slices: Vec<f32>,
    /// The way in which it is enlarged.
    #[serde(default, with = "SamplingRecord")]
    pub(super) sampling: Sampling,
    /// The filling of the sides of a nine-slice.
    #[serde(default, with = "SliceFillRecord")]
    pub(super) sides: SliceFill,
    /// The filling of its middle.
    #[serde(default, with = "SliceFillRecord")]
    pub(super) middle: SliceFill,
    /// The point it is held by, from `[0, 0]` to `[1, 1]`.
    pub(super) origin: Option<[f32; 2]>,
}

/// A number, or a list of them.
fn one_or_more<'de, D: Deserializer<'de>>(from: D) -> Result<Vec<f32>, D::Error> {
    struct Numbers;

    impl<'de> Visitor<'de> for Numbers {
        type Value = Vec<f32>;

        fn expecting(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
            f.write_str("a number, or a list of 2 or 4: top, right, bottom, left")
        }

        fn visit_i64<E>(self, number: i64) -> Result<Vec<f32>, E> {
            Ok(vec![number as f32])
        }

        fn visit_f64<E>(self, number: f64) -> Result<Vec<f32>, E> {
            Ok(vec![number as f32])
        }

        fn visit_seq<A: SeqAccess<'de>>(self, mut list: A) -> Result<Vec<f32>, A::Error> {
            let mut numbers = Vec::new();
            while let Some(number) = list.next_element()? {
                numbers.push(number);
            }
            Ok(numbers)
        }
    }

    from.deserialize_any(Numbers)
}

fn one() -> f32 {
    1.0
}

#[derive(Debug, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct AnimationEntry {
    /// Sprites called this and a number, in the order of the numbers …
    pub(super) numbered: Option<Spanned<String>>,
    /// … or these sprites, in this order.
    #[serde(default)]
    pub(super) frames: Vec<Spanned<String>>,
    /// The time that each frame is shown; one number for all, or one for each.
    pub(super) seconds: Spanned<SecondsEntry>,
    /// True: it begins again at its end.
    #[serde(default)]
    pub(super) repeats: bool,
}

#[derive(Debug, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(untagged)]
pub(super) enum SecondsEntry {
    All(f32),
    Each(Vec<f32>),
}

/// The schema of manifests.
#[cfg(feature = "schemas")]
pub(crate) fn file_schema() -> schemars::Schema {
    schemars::schema_for!(ManifestEntry)
}
