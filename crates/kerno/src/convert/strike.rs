//! A face drawn at one size, to be written to a file and touched up by hand.

use crate::base::Edges;
use crate::font::{Face, GlyphId, GlyphPicture, NameId};
use crate::raster::{Coverage, GlyphRequest, RasterError, Rasterizer};

/// A face drawn at one size with hard edges: every character that it has, or some.
/// Glyphs that are pictures keep their colours, for the form that has room for them.
#[derive(Clone, Debug)]
pub struct Strike {
    pub(super) family: String,
    pub(super) is_bold: bool,
    /// Pixels per em.
    pub(super) pixels: u16,
    pub(super) ascent: i32,
    pub(super) descent: i32,
    pub(super) line_gap: i32,
    pub(super) glyphs: Vec<StrikeGlyph>,
    /// Pairs of characters that stand closer or farther, in pixels.
    pub(super) kerning: Vec<(char, char, i32)>,
    /// The character that looks like the face's `.notdef`.
    pub(super) default: Option<char>,
    /// True if the colours of glyphs are to be seen.
    pub(super) keeps_color: bool,
}

#[derive(Clone, Debug)]
pub(super) struct StrikeGlyph {
    pub(super) character: char,
    pub(super) glyph: GlyphId,
    pub(super) advance: i32,
    pub(super) picture: Coverage,
    /// The same in colour or with soft edges, where the face has it at this size.
    pub(super) colors: Option<GlyphPicture>,
}

impl Strike {
    /// The largest size, in pixels per em: what the formats hold.
    pub const LARGEST: u16 = 255;

    /// The most characters whose pairs are all asked for their kerning.
    const MOST_KERNED: usize = 600;

    /// Draws the characters of `wanted` that the face has, at `pixels` to the em,
    /// each once, in code point order. Measures are rounded to whole pixels.
    ///
    /// # Errors
    /// [`RasterError::Size`] for a size above [`Strike::LARGEST`] or 0;
    /// [`RasterError::Font`] where a glyph is damaged.
    pub fn draw(
        face: &Face,
        pixels: u16,
        wanted: impl IntoIterator<Item = char>,
    ) -> Result<Self, RasterError> {
        if !(1..=Self::LARGEST).contains(&pixels) {
            return Err(RasterError::Size(pixels.into()));
        }
        let mut characters: Vec<char> = wanted.into_iter().collect();
        characters.sort_unstable();
        characters.dedup();
        let metrics = face.metrics();
        let unit = f32::from(pixels) / f32::from(metrics.units_per_em);
        let rounded = |length: i32| (length as f32 * unit).round() as i32;
        let mut rasterizer = Rasterizer::new();
        let mut picture_of = |glyph| {
            let request = GlyphRequest::new(face, glyph, pixels.into()).treatment(Edges::Hard);
            Ok::<_, RasterError>(trimmed(rasterizer.glyph(&request)?))
        };
        let mut glyphs = Vec::new();
        for character in characters {
            if let Some(glyph) = face.glyph(character) {
                glyphs.push(StrikeGlyph {
                    character,
                    glyph,
                    advance: rounded(face.advance(glyph).into()),
                    picture: picture_of(glyph)?,
                    colors: face
                        .picture(glyph)
                        .filter(|_| face.strike_size() == Some(pixels))
                        .cloned(),
                });
            }
        }
        let missing = picture_of(GlyphId::NOTDEF)?;
        let missing_advance = rounded(face.advance(GlyphId::NOTDEF).into());
        let default = glyphs
            .iter()
            .find(|glyph| glyph.picture == missing && glyph.advance == missing_advance);
        let mut strike = Self {
            family: face
                .name(NameId::FAMILY)
                .unwrap_or_else(|| "Unnamed".to_owned()),
            is_bold: metrics.weight >= 600,
            pixels,
            ascent: rounded(metrics.ascender.into()),
            descent: rounded(-i32::from(metrics.descender)),
            line_gap: rounded(metrics.line_gap.into()),
            default: default.map(|glyph| glyph.character),
            glyphs,
            kerning: Vec::new(),
            keeps_color: false,
        };
        let pictures = strike
            .glyphs
            .iter()
            .filter_map(|glyph| face.picture(glyph.glyph));
        strike.keeps_color = pictures.into_iter().any(|picture| !picture.is_tinted);
        if face.has_kerning() && strike.glyphs.len() <= Self::MOST_KERNED {
            strike.kerning = strike.pairs(|left, right| rounded(face.kerning(left, right)));
        }
        Ok(strike)
    }

    fn pairs(&self, kerning: impl Fn(GlyphId, GlyphId) -> i32) -> Vec<(char, char, i32)> {
        let mut pairs = Vec::new();
        for left in &self.glyphs {
            for right in &self.glyphs {
                let distance = kerning(left.glyph, right.glyph);
                if distance != 0 {
                    pairs.push((left.character, right.character, distance));
                }
            }
        }
        pairs
    }

    /// Refuses what the readers of bitmap fonts refuse.
    pub(super) fn check_sides(&self) -> Result<(), RasterError> {
        let most = i64::from(Self::LARGEST);
        let check = |what, value: i64, least: i64| match value {
            value if value >= least && value <= most => Ok(()),
            value => Err(RasterError::NotReadable { what, value, most }),
        };
        check("the ascent of the font", self.ascent.into(), -most)?;
        check("the descent of the font", self.descent.into(), -most)?;
        for glyph in &self.glyphs {
            let ink = &glyph.picture;
            check("the advance of a glyph", glyph.advance.into(), 0)?;
            check("the width of a glyph", ink.width.into(), 0)?;
            check("the height of a glyph", ink.height.into(), 0)?;
            check("the place of a glyph", ink.left.into(), -most)?;
            check("the place of a glyph", ink.top.into(), -most)?;
        }
        Ok(())
    }

    /// The number of characters it has.
    pub fn len(&self) -> usize {
        self.glyphs.len()
    }

    /// Returns whether it has none.
    pub fn is_empty(&self) -> bool {
        self.glyphs.is_empty()
    }
}

/// The picture without empty rows and columns around it: nothing is left of one
/// without ink.
fn trimmed(picture: &Coverage) -> Coverage {
    let (width, height) = (picture.width as usize, picture.height as usize);
    let is_ink = |x: usize, y: usize| picture.texels[y * width + x] != 0;
    let rows: Vec<usize> = (0..height)
        .filter(|y| (0..width).any(|x| is_ink(x, *y)))
        .collect();
    let columns: Vec<usize> = (0..width)
        .filter(|x| (0..height).any(|y| is_ink(*x, y)))
        .collect();
    let (Some(top), Some(bottom)) = (rows.first(), rows.last()) else {
        return Coverage::default();
    };
    let (left, right) = (columns[0], columns[columns.len() - 1]);
    let texels =
        (*top..=*bottom).flat_map(|y| &picture.texels[y * width + left..=y * width + right]);
    Coverage {
        left: picture.left + left as i32,
        top: picture.top + *top as i32,
        width: (right - left + 1) as u32,
        height: (bottom - top + 1) as u32,
        texels: texels.copied().collect(),
        channels: 1,
        reduction: 1,
        is_coarse: picture.is_coarse,
    }
}
