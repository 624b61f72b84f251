//! From cells of pictures to glyphs.

use std::collections::BTreeMap;
use std::ops::Range;

use super::description::{ColorUse, Description, PageDescription, Widths};
use crate::base::{Image, Spanned, TomlFault, line_of};
use crate::font::bitmap::{Missing, Strike, StrikeGlyph, UNITS};
use crate::font::{GlyphPicture, GlyphPictures};

/// The largest side of a cell and of the em, in pixels.
const LARGEST: u16 = 255;

/// Takes in page after page.
pub(super) struct Reader<'a> {
    text: &'a str,
    description: &'a Description,
    glyphs: Vec<StrikeGlyph>,
    pictures: Vec<Option<GlyphPicture>>,
    numbers: BTreeMap<char, u16>,
    advances: BTreeMap<char, u16>,
    /// Height of the first cell.
    height: Option<u16>,
}

/// The parts of a finished strike: itself, its pictures, and kerning pairs of
/// glyph numbers in font units.
type Finished = (Strike, Option<GlyphPictures>, Vec<(u16, u16, i16)>);

/// Part of a picture: left, top, right, bottom, half-open.
type Box = [u32; 4];

impl<'a> Reader<'a> {
    pub(super) fn new(text: &'a str, description: &'a Description) -> Result<Self, TomlFault> {
        let mut reader = Self {
            text,
            description,
            glyphs: Vec::new(),
            pictures: Vec::new(),
            numbers: BTreeMap::new(),
            advances: BTreeMap::new(),
            height: None,
        };
        for (key, advance) in &description.advances {
            let [character] = reader.characters(key)?;
            reader.advances.insert(character, *advance);
        }
        Ok(reader)
    }

    pub(super) fn line(&self, part: Range<usize>) -> usize {
        line_of(self.text, &part)
    }

    fn bad<T>(&self, part: Range<usize>, problem: String) -> Result<T, TomlFault> {
        let line = self.line(part);
        Err(TomlFault { line, problem })
    }

    /// The characters of a key, exactly `N`.
    fn characters<const N: usize>(&self, key: &Spanned<String>) -> Result<[char; N], TomlFault> {
        let characters: Vec<char> = key.get_ref().chars().collect();
        characters.try_into().or_else(|_| {
            let wanted = if N == 1 {
                "one character"
            } else {
                "two characters"
            };
            let problem = format!("“{}” should be {wanted}", key.get_ref());
            self.bad(key.span(), problem)
        })
    }

    /// Takes in the cells of a picture.
    pub(super) fn page(
        &mut self,
        page: &PageDescription,
        picture: &Image,
    ) -> Result<(), TomlFault> {
        let [width, height] = *page.cell.get_ref();
        if !(1..=LARGEST).contains(&width) || !(1..=LARGEST).contains(&height) {
            let problem =
                format!("a cell of {width} × {height} pixels; each side must be 1 to {LARGEST}");
            return self.bad(page.cell.span(), problem);
        }
        self.height.get_or_insert(height);
        let background = background_of(picture);
        for (row, characters) in page.rows.iter().enumerate() {
            let top = step(page.start[1], row, height, page.gap[1]);
            for (column, character) in characters.get_ref().chars().enumerate() {
                let left = step(page.start[0], column, width, page.gap[0]);
                let cell = [left, top, left + u32::from(width), top + u32::from(height)];
                if cell[2] > picture.width() || cell[3] > picture.height() {
                    let problem = format!(
                        "the cell of '{character}' (row {}, column {}) ends at {}, {}, and the picture has only {} × {} pixels",
                        row + 1,
                        column + 1,
                        cell[2],
                        cell[3],
                        picture.width(),
                        picture.height()
                    );
                    return self.bad(characters.span(), problem);
                }
                // Glyph 0 is the box for missing characters.
                let number = u16::try_from(self.glyphs.len() + 1).unwrap_or(u16::MAX);
                if number >= u16::MAX - 1 {
                    return self.bad(
                        characters.span(),
                        "a font may have at most 65534 glyphs".to_owned(),
                    );
                }
                if self.numbers.insert(character, number).is_some() {
                    let problem = format!(
                        "the character '{character}' (U+{:04X}) stands here a second time",
                        u32::from(character)
                    );
                    return self.bad(characters.span(), problem);
                }
                self.cell(character, picture, cell, background);
            }
        }
        Ok(())
    }

    fn cell(&mut self, character: char, picture: &Image, cell: Box, background: Option<[u8; 4]>) {
        let is_kept = self.description.color == ColorUse::Kept;
        let shade = |x, y| {
            let pixel = picture.pixel(x, y).unwrap_or_default();
            match background {
                Some(background) if pixel == background => [0; 4],
                _ if is_kept => pixel,
                _ => [255, 255, 255, pixel[3]],
            }
        };
        let ink = ink_of(cell, |x, y| shade(x, y)[3] != 0);
        let cell_width = (cell[2] - cell[0]) as u16;
        let (found, left) = match (self.description.widths, ink) {
            (Widths::Ink, Some(ink)) => ((ink[2] - ink[0]) as u16, 0),
            (_, Some(ink)) => {
                let left = (ink[0] - cell[0]) as i16;
                (cell_width, left.saturating_sub(self.description.origin))
            }
            (_, None) => (cell_width, 0),
        };
        let spaced = i32::from(found) + i32::from(self.description.spacing);
        let listed = self.advances.get(&character).copied();
        let [x, y, right, bottom] = ink.unwrap_or_default();
        let baseline = *self.description.baseline.get_ref();
        let top = i32::from(baseline) - (y as i32 - cell[1] as i32);
        let mut glyph = StrikeGlyph {
            characters: vec![character],
            advance: listed.unwrap_or(spaced.clamp(0, i32::from(u16::MAX)) as u16),
            left,
            bottom: if ink.is_some() {
                (top - (bottom - y) as i32) as i16
            } else {
                0
            },
            width: (right - x) as u16,
            height: (bottom - y) as u16,
            bits: Vec::new(),
            levels: Vec::new(),
        };
        let row = StrikeGlyph::row_bytes(glyph.width);
        glyph.bits = vec![0; row * usize::from(glyph.height)];
        let (mut pixels, mut is_soft) = (Vec::new(), false);
        for (row, at_y) in (y..bottom).enumerate() {
            for (column, at_x) in (x..right).enumerate() {
                let pixel = shade(at_x, at_y);
                is_soft |= !matches!(pixel[3], 0 | 255);
                if pixel[3] != 0 {
                    glyph.set(column as i32, row as i32);
                }
                pixels.extend(pixel);
            }
        }
        let image = Image::new(right - x, bottom - y, pixels).ok();
        let is_picture = ink.is_some() && (is_kept || is_soft);
        self.pictures
            .push(image.filter(|_| is_picture).map(|image| GlyphPicture {
                left: left.into(),
                top: -top,
                image,
                is_tinted: !is_kept,
            }));
        self.glyphs.push(glyph);
    }

    pub(super) fn finish(mut self) -> Result<Finished, TomlFault> {
        let description = self.description;
        let Some(height) = self.height.filter(|_| !self.glyphs.is_empty()) else {
            let problem = "a sheet needs at least one [[page]] with rows of characters";
            return Err(TomlFault {
                line: 1,
                problem: problem.to_owned(),
            });
        };
        if let Some(advance) = description.space
            && !self.numbers.contains_key(&' ')
        {
            self.numbers.insert(' ', self.glyphs.len() as u16 + 1);
            self.pictures.push(None);
            self.glyphs.push(StrikeGlyph {
                characters: vec![' '],
                ..StrikeGlyph::blank(advance)
            });
        }
        let pixels = description.em.as_ref().map_or(height, |em| *em.get_ref());
        if !(1..=LARGEST).contains(&pixels) {
            let part = description.em.as_ref().map_or(0..0, Spanned::span);
            return self.bad(
                part,
                format!("an em of {pixels} pixels; it must be 1 to {LARGEST}"),
            );
        }
        let baseline = *description.baseline.get_ref();
        if !(-256..=256).contains(&baseline) {
            let problem = format!("a baseline {baseline} pixels down; it must be -256 to 256");
            return self.bad(description.baseline.span(), problem);
        }
        for key in description.advances.keys() {
            let [character] = self.characters(key)?;
            self.number(key, character)?;
        }
        let mut kerning = Vec::new();
        for (key, distance) in &description.kerning {
            let [left, right] = self.characters(key)?;
            let units = i32::from(*distance) * UNITS;
            let Ok(units) = i16::try_from(units) else {
                let problem = format!("{distance} pixels; kerning must be -511 to 511");
                return self.bad(key.span(), problem);
            };
            kerning.push((self.number(key, left)?, self.number(key, right)?, units));
        }
        // The boxes of missing characters come first.
        self.pictures.insert(0, None);
        let has_pictures = self.pictures.iter().any(Option::is_some);
        let strike = Strike {
            family: description.family.clone(),
            is_bold: description.bold,
            is_private: false,
            pixels,
            ascent: description.ascent.unwrap_or(baseline),
            descent: description.descent.unwrap_or(height as i16 - baseline),
            line_gap: description.line_gap,
            glyphs: self.glyphs,
            missing: Missing::Box,
        };
        let pictures = has_pictures.then_some(GlyphPictures(self.pictures));
        Ok((strike, pictures, kerning))
    }

    /// The glyph of a character that an entry speaks of.
    fn number(&self, key: &Spanned<String>, character: char) -> Result<u16, TomlFault> {
        match self.numbers.get(&character) {
            Some(number) => Ok(*number),
            None => self.bad(
                key.span(),
                format!("no row has the character '{character}'"),
            ),
        }
    }
}

/// The pixel at which a cell starts.
fn step(start: u16, index: usize, side: u16, gap: u16) -> u32 {
    let index = u32::try_from(index).unwrap_or(u32::MAX);
    let step = u32::from(side) + u32::from(gap);
    u32::from(start)
        .saturating_add(index.saturating_mul(step))
        .min(u32::MAX / 2)
}

/// The background of a picture without any transparency: the colour of its top
/// left pixel.
fn background_of(picture: &Image) -> Option<[u8; 4]> {
    let is_opaque = picture
        .pixels()
        .as_chunks::<4>()
        .0
        .iter()
        .all(|pixel| pixel[3] == 255);
    picture.pixel(0, 0).filter(|_| is_opaque)
}

/// The smallest box around the ink of a cell.
fn ink_of(cell: Box, is_ink: impl Fn(u32, u32) -> bool) -> Option<Box> {
    let mut found: Option<Box> = None;
    for y in cell[1]..cell[3] {
        for x in (cell[0]..cell[2]).filter(|x| is_ink(*x, y)) {
            let [left, top, right, bottom] = found.unwrap_or([x, y, x + 1, y + 1]);
            found = Some([left.min(x), top.min(y), right.max(x + 1), bottom.max(y + 1)]);
        }
    }
    found
}
