//! Glyphs of a face: their characters and names, their measures, their
//! outline.

use std::convert::Infallible;

use super::{Face, Outlines};
use crate::font::extent::Extent;
use crate::font::tables::{GlyphLocations, read_glyph_name};
use crate::font::{FontBounds, FontError, GlyphId};
use crate::outline::Outline;

impl Face {
    /// The glyph for a character, or `None` where the face has none (`cmap`).
    #[inline]
    pub fn glyph(&self, character: char) -> Option<GlyphId> {
        self.0.char_map.as_ref()?.glyph(&self.0.bytes, character)
    }

    /// The name of a glyph in the font (`post`, or the charset of `CFF `), such as
    /// `eacute`; `None` where it has none.
    pub fn glyph_name(&self, glyph: GlyphId) -> Option<String> {
        let data = &**self.0;
        if glyph.0 >= self.glyph_count() {
            return None;
        }
        let own = match &data.outlines {
            Outlines::PostScript(cff) => cff.glyph_name(&data.bytes, glyph),
            Outlines::TrueType(_) => None,
        };
        own.or_else(|| read_glyph_name(&data.directory, &data.bytes, glyph))
    }

    /// Every character of the face with its glyph, in code point order.
    pub fn characters(&self) -> impl Iterator<Item = (char, GlyphId)> + '_ {
        self.0
            .char_map
            .iter()
            .flat_map(|map| map.characters(&self.0.bytes))
    }

    /// The glyph for a character with a variation selector after it, where the
    /// face knows the sequence (`cmap` format 14).
    pub fn variant_glyph(&self, character: char, selector: char) -> Option<GlyphId> {
        let map = self.0.char_map.as_ref()?;
        map.variant(&self.0.bytes, character, selector)
    }

    /// The distance the pen moves after the glyph, in font units (`hmtx`); 0 for a
    /// glyph that the face doesn't have.
    #[inline]
    pub fn advance(&self, glyph: GlyphId) -> u16 {
        let find = |first: usize| self.find_advances(first);
        self.0.advances.get(glyph.0.into(), find).unwrap_or(0)
    }

    /// The advances of as many glyphs as are kept together.
    #[cold]
    fn find_advances<const COUNT: usize>(&self, first: usize) -> [u16; COUNT] {
        let data = &**self.0;
        let is_made = data.variation.is_some() || !data.synthesis.is_none();
        std::array::from_fn(|step| {
            let glyph = GlyphId((first + step) as u16);
            let stated = data.glyph_metrics.advance(&data.bytes, glyph);
            if is_made {
                self.made_advance(glyph, stated)
            } else {
                stated
            }
        })
    }

    /// The advance of a glyph in an instance or a synthetic style.
    fn made_advance(&self, glyph: GlyphId, advance: u16) -> u16 {
        let data = &**self.0;
        let varied = data
            .variation
            .as_ref()
            .filter(|_| glyph.0 < self.glyph_count())
            .map(|variation| self.advance_growth(variation, glyph));
        let advance = f32::from(advance) + varied.and_then(Result::ok).unwrap_or(0.0);
        // A mark that takes no room still takes none when it gets embolden.
        let growth = match advance {
            0.0 => 0.0,
            _ => data.synthesis.widening(data.metrics.units_per_em),
        };
        // Rounded: nothing below 0 is left by the conversion.
        (advance + growth + 0.5) as u16
    }

    /// From the pen to the left edge of the glyph's ink, in font units (`hmtx`;
    /// for an instance of a variable font or a synthetic style from the outline).
    pub fn left_side_bearing(&self, glyph: GlyphId) -> i16 {
        if (self.0.variation.is_some() || !self.0.synthesis.is_none())
            && let Ok(Some(bounds)) = self.bounds(glyph)
        {
            return bounds.x_min;
        }
        self.stated_bearing(glyph)
    }

    fn stated_bearing(&self, glyph: GlyphId) -> i16 {
        self.0.glyph_metrics.side_bearing(&self.0.bytes, glyph)
    }

    /// The distance down that the pen moves after the glyph in an upright line, in font
    /// units (`vmtx`, and `VVAR` for an instance of a variable font); `None` where the
    /// face has no vertical metrics.
    pub fn vertical_advance(&self, glyph: GlyphId) -> Option<u16> {
        let vertical = self.0.vertical.as_ref()?;
        let stated = vertical.advance(&self.0.bytes, glyph);
        let varied = self.0.variation.as_ref();
        let varied = varied.filter(|_| glyph.0 < self.glyph_count());
        let growth = varied.map_or(0.0, |variation| self.height_growth(variation, glyph));
        // Rounded: nothing below 0 is left by the conversion.
        Some((f32::from(stated) + growth + 0.5) as u16)
    }

    /// From the top of its upright advance down to the glyph's ink, in font units
    /// (`vmtx`).
    pub fn top_side_bearing(&self, glyph: GlyphId) -> Option<i16> {
        let vertical = self.0.vertical.as_ref()?;
        Some(vertical.side_bearing(&self.0.bytes, glyph))
    }

    /// Kerning of two neighbours: the distance that is added (negative: taken) to what their
    /// advances say, in font units: by the pair adjustments of `GPOS` that Latin text
    /// goes through where the face has the feature `kern`, else by the table `kern`
    /// (OpenType recommends this order).
    pub fn kerning(&self, left: GlyphId, right: GlyphId) -> i32 {
        let data = &**self.0;
        let by_position = data.layout.pair(&data.bytes, left, right);
        by_position.unwrap_or_else(|| data.kern.pair(&data.bytes, left, right))
    }

    /// Returns whether the face may kern pairs that begin with a glyph: to ask for fewer of
    /// them.
    pub(crate) fn kerns_after(&self, left: GlyphId) -> bool {
        let by_position = self.0.layout.kerns_after(&self.0.bytes, left);
        by_position.unwrap_or(!self.0.kern.is_empty())
    }

    /// Returns whether the face kerns at all.
    pub fn has_kerning(&self) -> bool {
        !self.0.kern.is_empty() || self.0.layout.kerns(&self.0.bytes)
    }

    /// The box of a glyph's ink in font units; `None` for one without ink. For
    /// TrueType outlines what the `glyf` header states, moved so that its left
    /// edge is the left side bearing; for PostScript outlines, which state none,
    /// taken from the outline, outwards to whole units.
    ///
    /// # Errors
    /// [`FontError::NoSuchGlyph`], or [`FontError::Table`] where `loca` or
    /// `glyf` is damaged.
    #[inline]
    pub fn bounds(&self, glyph: GlyphId) -> Result<Option<FontBounds>, FontError> {
        let find = || self.find_bounds(glyph).map(packed);
        self.0.boxes.get(glyph.0, find).map(unpacked)
    }

    /// Returns whether the contours of a glyph overlap, found by `find` the first time.
    #[inline]
    pub(crate) fn overlaps(&self, glyph: GlyphId, find: impl FnOnce() -> bool) -> bool {
        let find = || Ok::<u64, Infallible>(1 + u64::from(find()));
        self.0
            .overlaps
            .get(glyph.0, find)
            .is_ok_and(|known| known == 2)
    }

    #[cold]
    fn find_bounds(&self, glyph: GlyphId) -> Result<Option<FontBounds>, FontError> {
        self.0.usable()?;
        if self.is_color_glyph(glyph)
            && let Some(bounds) = self.color_bounds(glyph)?
        {
            return Ok(Some(bounds));
        }
        let data = &**self.0;
        let stated = match &data.outlines {
            Outlines::TrueType(locations)
                if self.varied_glyphs().is_none() && data.synthesis.is_none() =>
            {
                locations.bounds(&data.bytes, glyph)?
            }
            _ => {
                let mut outline = Outline::new();
                self.outline(glyph, &mut outline)?;
                return Ok(Extent::of(&outline).bounds());
            }
        };
        let Some(stated) = stated else {
            return Ok(None);
        };
        let Outlines::TrueType(locations) = &data.outlines else {
            return Ok(Some(stated));
        };
        let shift = self.shift_of(locations, glyph, stated.x_min);
        Ok(Some(FontBounds {
            x_min: stated.x_min.wrapping_add(shift),
            x_max: stated.x_max.wrapping_add(shift),
            ..stated
        }))
    }

    /// Writes the outline of a glyph into `outline`, in font units; a TrueType one
    /// with its xMin on the left side bearing. A glyph without ink leaves it
    /// empty. Allocates nothing once `outline` has grown to the size of the face's
    /// glyphs.
    ///
    /// # Errors
    /// [`FontError::NoSuchGlyph`]; [`FontError::Table`] where the glyph's data
    /// is damaged; [`FontError::Limit`] where a composite nests too deep (also
    /// when it contains itself) or has too many parts or points.
    pub fn outline(&self, glyph: GlyphId, outline: &mut Outline) -> Result<(), FontError> {
        outline.clear();
        let loaded = self.load_outline(glyph, outline);
        if loaded.is_err() {
            outline.clear();
        } else if !self.0.synthesis.is_none() {
            self.0.synthesis.apply(self.0.metrics.units_per_em, outline);
        }
        loaded
    }

    /// The distance a glyph is moved so that its left side bearing is as `hmtx` states; one that
    /// has the metrics of a component is moved as that one is.
    fn shift_of(&self, locations: &GlyphLocations, glyph: GlyphId, x_min: i16) -> i16 {
        let data = &**self.0;
        let own = locations.metrics_glyph(&data.bytes, glyph, data.limits.composite_depth);
        let x_min = match own {
            _ if own == glyph => x_min,
            other => match locations.bounds(&data.bytes, other) {
                Ok(Some(bounds)) => bounds.x_min,
                _ => return self.stated_bearing(glyph).wrapping_sub(x_min),
            },
        };
        self.stated_bearing(own).wrapping_sub(x_min)
    }

    fn load_outline(&self, glyph: GlyphId, outline: &mut Outline) -> Result<(), FontError> {
        let data = &**self.0;
        if data.fault.is_some() {
            return self.0.usable();
        }
        let Outline {
            contours, memory, ..
        } = outline;
        let locations = match &data.outlines {
            Outlines::TrueType(locations) => locations,
            Outlines::PostScript(cff) => {
                return cff.draw(&data.bytes, glyph, &data.limits, contours);
            }
        };
        let (variations, into) = (self.varied_glyphs(), (memory, &mut *contours));
        let loaded = locations.load(&data.bytes, glyph, &data.limits, variations, into)?;
        if let Some((x_min, phantoms)) = loaded {
            // The pen stands on the first phantom point.
            let shift = f32::from(self.shift_of(locations, glyph, x_min)) - phantoms.origin;
            if shift != 0.0 {
                for point in &mut contours.points {
                    point.x += shift;
                }
            }
        }
        Ok(())
    }
}

/// A box turned inside out, for glyphs without ink.
const NO_INK: u64 = 0x7fff_7fff_8000_8000;

/// A box as one number.
fn packed(bounds: Option<FontBounds>) -> u64 {
    let Some(bounds) = bounds else {
        return NO_INK;
    };
    let sides = [bounds.x_min, bounds.y_min, bounds.x_max, bounds.y_max];
    let join = |packed, side: &i16| packed << 16 | u64::from(*side as u16);
    sides.iter().fold(0, join)
}

#[inline]
fn unpacked(packed: u64) -> Option<FontBounds> {
    let side = |shift: u32| (packed >> shift) as u16 as i16;
    (packed != NO_INK).then(|| FontBounds {
        x_min: side(48),
        y_min: side(32),
        x_max: side(16),
        y_max: side(0),
    })
}
