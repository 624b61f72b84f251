//! Glyphs in colours: questions to a face.

use super::{Face, Setting};
use crate::base::{Affine, Color, Point};
use crate::font::color::{
    ColorGlyph, ColorLayers, ColorStrikes, OuterClip, Paints, Palette, PaletteChoice, Palettes,
    StrikePicture,
};
use crate::font::lazy_cells::LazyCells;
use crate::font::table::Table;
use crate::font::tables::Directory;
use crate::font::{FontBounds, FontError, GlyphId, Tag};
use crate::outline::Outline;

/// The tables of colours, with their headers read, and what is painted with.
#[derive(Debug, Default)]
pub(in crate::font) struct FaceColors {
    pub(super) palette: PaletteChoice,
    layers: Option<ColorLayers>,
    palettes: Option<Palettes>,
    strikes: Option<ColorStrikes>,
    /// The kinds of glyphs that were asked for: 1 no colours, 2 colours, 3 the text's
    /// colour among them.
    kinds: LazyCells,
}

/// The source of a glyph's colours.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum GlyphColors {
    /// It takes the colour of the text.
    None,
    /// It has its own.
    Own,
    /// It has its own, and the text's among them.
    WithForeground,
}

/// The ways in which a font has glyphs in colours.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub struct ColorFormats {
    /// Glyphs in layers of one colour each (`COLR` version 0).
    pub layered: usize,
    /// Glyphs of paints: gradients, transforms, blending (`COLR` version 1).
    pub painted: usize,
    /// Palettes (`CPAL`), and the colours in each.
    pub palettes: (u16, u16),
    /// The table with pictures of glyphs, and their sizes in pixels per em (`CBDT`, `sbix`).
    pub pictures: Option<(Tag, Vec<u16>)>,
}

impl FaceColors {
    pub(super) fn read(
        directory: &Directory,
        bytes: &[u8],
        places: &[f32],
        palette: PaletteChoice,
    ) -> Result<Self, FontError> {
        Ok(Self {
            palette,
            layers: ColorLayers::read(directory, bytes, places)?,
            palettes: Palettes::read(directory, bytes)?,
            strikes: ColorStrikes::find(directory, bytes),
            kinds: LazyCells::default(),
        })
    }

    fn is_none(&self) -> bool {
        self.layers.is_none() && self.strikes.is_none()
    }
}

impl Face {
    /// Returns whether a glyph has colours of its own (`COLR`, `CBDT`, `sbix`): it is painted
    /// in them, whatever the colour of the text.
    pub fn is_color_glyph(&self, glyph: GlyphId) -> bool {
        self.glyph_colors(glyph) != GlyphColors::None
    }

    /// Returns whether the face has any such glyph.
    pub fn has_color_glyphs(&self) -> bool {
        !self.0.colors.is_none()
    }

    #[inline]
    pub(crate) fn glyph_colors(&self, glyph: GlyphId) -> GlyphColors {
        let colors = &self.0.colors;
        if colors.is_none() {
            return GlyphColors::None;
        }
        let kind = colors
            .kinds
            .get(glyph.0, || Ok::<u64, FontError>(self.find_kind(glyph)));
        match kind {
            Ok(2) => GlyphColors::Own,
            Ok(3) => GlyphColors::WithForeground,
            _ => GlyphColors::None,
        }
    }

    #[cold]
    fn find_kind(&self, glyph: GlyphId) -> u64 {
        match self.painted(glyph, Color::BLACK) {
            Ok(Some(painted)) => 2 + u64::from(painted.uses_foreground),
            // A damaged glyph is told by whoever draws it.
            Err(_) => 2,
            Ok(None) => match self.strike_picture(glyph, 0.0) {
                Ok(None) => 1,
                _ => 2,
            },
        }
    }

    /// Returns whether the picture of a glyph is a PNG of the font.
    pub(crate) fn has_strike_picture(&self, glyph: GlyphId) -> bool {
        let is_painted = || {
            let layers = self.0.colors.layers.as_ref().zip(self.color_table(b"COLR"));
            layers.is_some_and(|(layers, colr)| layers.has(&colr, glyph))
        };
        self.0.colors.strikes.is_some() && self.is_color_glyph(glyph) && !is_painted()
    }

    fn color_table(&self, tag: &'static [u8; 4]) -> Option<Table<'_>> {
        self.0.directory.table(&self.0.bytes, tag)
    }

    /// The steps that paint a glyph, with the colour of the text; nothing for a glyph without paint.
    pub(crate) fn painted(
        &self,
        glyph: GlyphId,
        foreground: Color,
    ) -> Result<Option<ColorGlyph>, FontError> {
        self.0.usable()?;
        let data = &**self.0;
        let (Some(layers), Some(colr)) = (&data.colors.layers, self.color_table(b"COLR")) else {
            return Ok(None);
        };
        let paints = Paints {
            colr,
            bytes: &data.bytes,
            palettes: data.colors.palettes.as_ref().zip(self.color_table(b"CPAL")),
            choice: &data.colors.palette,
            foreground,
            limits: &data.limits,
        };
        layers.glyph(&paints, glyph)
    }

    /// The picture of a glyph that is the nearest to a size in pixels per em.
    pub(crate) fn strike_picture(
        &self,
        glyph: GlyphId,
        size: f32,
    ) -> Result<Option<StrikePicture<'_>>, FontError> {
        self.0.usable()?;
        let data = &**self.0;
        match data.colors.strikes {
            Some(strikes) => strikes.picture(&data.directory, &data.bytes, glyph, size),
            None => Ok(None),
        }
    }

    /// The ways in which the font has glyphs in colours; all empty for one without.
    ///
    /// # Errors
    /// [`FontError::Table`] where a table is damaged.
    pub fn color_formats(&self) -> Result<ColorFormats, FontError> {
        self.0.usable()?;
        let data = &**self.0;
        let colors = &data.colors;
        let (layered, painted) = match (&colors.layers, self.color_table(b"COLR")) {
            (Some(layers), Some(colr)) => layers.counts(&colr),
            _ => (0, 0),
        };
        let palettes = colors.palettes.as_ref();
        let pictures = colors.strikes.map(|strikes| {
            let tag = match strikes {
                ColorStrikes::Bitmaps => Tag::new(b"CBDT"),
                ColorStrikes::Graphics => Tag::new(b"sbix"),
            };
            Ok::<_, FontError>((tag, strikes.sizes(&data.directory, &data.bytes)?))
        });
        Ok(ColorFormats {
            layered,
            painted,
            palettes: palettes.map_or((0, 0), |own| (own.count(), own.entries())),
            pictures: pictures.transpose()?,
        })
    }

    /// The palettes of a colour font (`CPAL`), in their order; none in any other.
    pub fn palettes(&self) -> Vec<Palette> {
        let (Some(palettes), Some(table)) = (&self.0.colors.palettes, self.color_table(b"CPAL"))
        else {
            return Vec::new();
        };
        let palette = |index| palettes.palette(&table, index, |name| self.name(name));
        (0..palettes.count()).map(palette).collect()
    }

    /// The face with another palette of its font: a face of its own, over the same bytes.
    ///
    /// # Errors
    /// [`FontError::NoSuchPalette`], with the number of them.
    pub fn with_palette(&self, index: u16) -> Result<Self, FontError> {
        let count = self.0.colors.palettes.as_ref().map_or(0, Palettes::count);
        if index >= count {
            return Err(FontError::NoSuchPalette { index, count });
        }
        let changed = self.0.colors.palette.changed.clone();
        self.painted_with(PaletteChoice { index, changed })
    }

    /// The face with another colour in the place of an entry of its palette: a face of its
    /// own, over the same bytes.
    ///
    /// # Errors
    /// [`FontError::NoSuchPaletteEntry`], with the number of them.
    pub fn with_palette_color(&self, entry: u16, color: Color) -> Result<Self, FontError> {
        let count = self.0.colors.palettes.as_ref().map_or(0, Palettes::entries);
        if entry >= count {
            return Err(FontError::NoSuchPaletteEntry { entry, count });
        }
        let mut palette = self.0.colors.palette.clone();
        palette.changed.retain(|(changed, _)| *changed != entry);
        palette.changed.push((entry, color));
        palette.changed.sort_by_key(|(entry, _)| *entry);
        self.painted_with(palette)
    }

    fn painted_with(&self, palette: PaletteChoice) -> Result<Self, FontError> {
        let data = &**self.0;
        self.reopened_with(Setting {
            places: data.places.clone(),
            synthesis: data.synthesis,
            palette,
        })
    }

    /// The box of a glyph in colours, in font units; `None` where nothing says one.
    pub(super) fn color_bounds(&self, glyph: GlyphId) -> Result<Option<FontBounds>, FontError> {
        let whole = |sides: [f32; 4]| {
            let [left, bottom, right, top] = sides;
            FontBounds {
                x_min: left.floor() as i16,
                y_min: bottom.floor() as i16,
                x_max: right.ceil() as i16,
                y_max: top.ceil() as i16,
            }
        };
        if let Some(painted) = self.painted(glyph, Color::BLACK)? {
            return Ok(match painted.clip {
                Some(sides) => Some(whole(sides)),
                None => self.union_of_clips(&painted)?.map(whole),
            });
        }
        let Some(picture) = self.strike_picture(glyph, f32::INFINITY)? else {
            return Ok(None);
        };
        // Width and height are at fixed places of a PNG (its `IHDR`).
        let side = |at: usize| {
            let bytes = picture.png.get(at..)?.first_chunk::<4>()?;
            Some(u32::from_be_bytes(*bytes).min(u16::MAX.into()) as f32)
        };
        let (Some(width), Some(height)) = (side(16), side(20)) else {
            return Ok(None);
        };
        let unit = f32::from(self.0.metrics.units_per_em) / f32::from(picture.size);
        let (left, up) = (f32::from(picture.left), f32::from(picture.up));
        let bottom = if picture.is_top { up - height } else { up };
        let sides = [left, bottom, left + width, bottom + height];
        Ok(Some(whole(sides.map(|side| side * unit))))
    }

    /// The outline of a clip, placed.
    pub(crate) fn clip_outline(
        &self,
        clip: OuterClip,
        outline: &mut Outline,
    ) -> Result<(), FontError> {
        let place = match clip {
            OuterClip::Glyph(glyph, place) => {
                self.outline(glyph, outline)?;
                place
            }
            OuterClip::Box([left, bottom, right, top], place) => {
                outline.clear();
                outline.move_to(left, bottom);
                for (x, y) in [(right, bottom), (right, top), (left, top)] {
                    outline.line_to(x, y);
                }
                outline.close();
                place
            }
        };
        if place != Affine::IDENTITY {
            for point in &mut outline.contours.points {
                let placed = place.point(Point::new(point.x, point.y));
                (point.x, point.y) = (placed.x, placed.y);
            }
        }
        Ok(())
    }

    /// The box around the glyphs that the paints of another one are seen in.
    fn union_of_clips(&self, painted: &ColorGlyph) -> Result<Option<[f32; 4]>, FontError> {
        let mut sides: Option<[f32; 4]> = None;
        let mut outline = Outline::new();
        for clip in painted.outer_clips() {
            self.clip_outline(clip, &mut outline)?;
            for point in &outline.contours.points {
                let [left, bottom, right, top] =
                    sides.unwrap_or([point.x, point.y, point.x, point.y]);
                sides = Some([
                    left.min(point.x),
                    bottom.min(point.y),
                    right.max(point.x),
                    top.max(point.y),
                ]);
            }
        }
        Ok(sides)
    }
}
