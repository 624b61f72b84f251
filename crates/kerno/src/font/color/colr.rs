//! The table of colour glyphs: which glyphs are painted, and by what (`COLR`).

use super::palette::{FOREGROUND, PaletteChoice, Palettes};
use crate::base::{Color, Limits};
use crate::font::table::Table;
use crate::font::tables::{Directory, ItemVariations};
use crate::font::{FontError, GlyphId};

/// The table, with its header read, for one setting of the axes.
#[derive(Debug)]
pub(in crate::font) struct ColorLayers {
    /// Version 0: the number of glyphs, and where they and their layers are.
    flat_count: u16,
    flat_glyphs: usize,
    pub(super) flat_layers: usize,
    pub(super) flat_layer_count: u16,
    /// Version 1, 0 where a list is not there.
    glyphs: usize,
    pub(super) layers: usize,
    clips: usize,
    pub(super) variations: Option<ItemVariations>,
}

/// The parts of a font that paints need beside the table itself.
#[derive(Clone, Copy)]
pub(in crate::font) struct Paints<'a> {
    pub(in crate::font) colr: Table<'a>,
    pub(in crate::font) bytes: &'a [u8],
    pub(in crate::font) palettes: Option<(&'a Palettes, Table<'a>)>,
    pub(in crate::font) choice: &'a PaletteChoice,
    pub(in crate::font) foreground: Color,
    pub(in crate::font) limits: &'a Limits,
}

impl Paints<'_> {
    /// The colour of a palette entry, multiplied by alpha; nothing for one that there is not.
    pub(super) fn color(&self, entry: u16, alpha: f32) -> [f32; 4] {
        let color = match entry {
            FOREGROUND => Some(self.foreground),
            _ => {
                let own = self.palettes.and_then(|(palettes, table)| {
                    // A palette that there is not counts as the first one.
                    let index = self.choice.index;
                    let index = if index < palettes.count() { index } else { 0 };
                    palettes.color(&table, index, entry)
                });
                self.choice.color(own, entry)
            }
        };
        let Some(color) = color else {
            return [0.0; 4];
        };
        let alpha = (f32::from(color.alpha) / 255.0 * alpha).clamp(0.0, 1.0);
        let [red, green, blue] =
            [color.red, color.green, color.blue].map(|part| f32::from(part) / 255.0 * alpha);
        [red, green, blue, alpha]
    }
}

impl ColorLayers {
    /// Reads the header; `None` in a font without the table.
    pub(in crate::font) fn read(
        directory: &Directory,
        bytes: &[u8],
        places: &[f32],
    ) -> Result<Option<Self>, FontError> {
        let Some(table) = directory.table(bytes, b"COLR") else {
            return Ok(None);
        };
        let version = table.u16(0)?;
        let list = |at: usize| match version {
            0 => Ok(0),
            _ => table.u32(at).map(|offset| offset as usize),
        };
        let (flat_count, flat_layer_count) = (table.u16(2)?, table.u16(12)?);
        let (flat_glyphs, flat_layers) = (table.u32(4)? as usize, table.u32(8)? as usize);
        if flat_count > 0 {
            table.slice(flat_glyphs, usize::from(flat_count) * 6)?;
            table.slice(flat_layers, usize::from(flat_layer_count) * 4)?;
        }
        Ok(Some(Self {
            flat_count,
            flat_glyphs,
            flat_layers,
            flat_layer_count,
            glyphs: list(14)?,
            layers: list(18)?,
            clips: list(22)?,
            variations: match version {
                0 => None,
                _ => ItemVariations::read(directory, bytes, b"COLR", places)?,
            },
        }))
    }

    /// The number of glyphs in version 0 and in version 1.
    pub(in crate::font) fn counts(&self, colr: &Table<'_>) -> (usize, usize) {
        let later = match self.glyphs {
            0 => 0,
            list => colr.u32(list).unwrap_or(0) as usize,
        };
        (self.flat_count.into(), later)
    }

    /// Returns whether a glyph is painted in colours.
    pub(in crate::font) fn has(&self, colr: &Table<'_>, glyph: GlyphId) -> bool {
        self.paint_of(colr, glyph).is_some() || self.flat_of(colr, glyph).is_some()
    }

    /// The first layer of a glyph of version 0, and the number of them.
    pub(super) fn flat_of(&self, colr: &Table<'_>, glyph: GlyphId) -> Option<(u16, u16)> {
        let record = |index: usize| self.flat_glyphs + index * 6;
        let key = |index: usize| colr.u16(record(index)).ok();
        let index = find(usize::from(self.flat_count), glyph, key)?;
        let at = record(index);
        Some((colr.u16(at + 2).ok()?, colr.u16(at + 4).ok()?))
    }

    /// The place of the paint of a glyph of version 1.
    pub(super) fn paint_of(&self, colr: &Table<'_>, glyph: GlyphId) -> Option<usize> {
        if self.glyphs == 0 {
            return None;
        }
        let count = colr.u32(self.glyphs).ok()? as usize;
        let record = |index: usize| self.glyphs + 4 + index * 6;
        let key = |index: usize| colr.u16(record(index)).ok();
        let index = find(count.min(usize::from(u16::MAX) + 1), glyph, key)?;
        let offset = colr.u32(record(index) + 2).ok()? as usize;
        self.glyphs.checked_add(offset)
    }

    /// The box of a glyph of version 1: left, bottom, right, top.
    pub(super) fn clip_of(
        &self,
        paints: &Paints<'_>,
        glyph: GlyphId,
    ) -> Result<Option<[f32; 4]>, FontError> {
        if self.clips == 0 {
            return Ok(None);
        }
        let colr = &paints.colr;
        let count = colr.u32(self.clips + 1)? as usize;
        let count = count.min(usize::from(u16::MAX) + 1);
        let record = |index: usize| self.clips + 5 + index * 7;
        // The last one that begins at the glyph or before.
        let (mut low, mut high) = (0, count);
        while low < high {
            let middle = (low + high) / 2;
            match colr.u16(record(middle))? <= glyph.0 {
                true => low = middle + 1,
                false => high = middle,
            }
        }
        let Some(at) = low.checked_sub(1).map(record) else {
            return Ok(None);
        };
        if colr.u16(at + 2)? < glyph.0 {
            return Ok(None);
        }
        let clip = self.clips + offset24(colr, at + 4)?;
        let format = colr.u8(clip)?;
        let varied = match format {
            2 => Some(colr.u32(clip + 9)?),
            _ => None,
        };
        let mut sides = [0.0; 4];
        for (index, side) in sides.iter_mut().enumerate() {
            let growth = varied.map_or(0.0, |base| self.growth(paints.bytes, base, index));
            *side = f32::from(colr.i16(clip + 1 + index * 2)?) + growth;
        }
        Ok(Some(sides))
    }

    /// The change of a number of a paint along the axes, in its own units.
    pub(super) fn growth(&self, bytes: &[u8], base: u32, index: usize) -> f32 {
        let variations = self.variations.as_ref().filter(|_| base != u32::MAX);
        variations.map_or(0.0, |variations| {
            variations.listed(bytes, base.wrapping_add(index as u32))
        })
    }
}

/// A number of three bytes.
pub(super) fn offset24(table: &Table<'_>, at: usize) -> Result<usize, FontError> {
    Ok(usize::from(table.u8(at)?) << 16 | usize::from(table.u16(at + 1)?))
}

/// The record of a glyph in a list in the order of glyphs.
fn find(count: usize, glyph: GlyphId, key: impl Fn(usize) -> Option<u16>) -> Option<usize> {
    let (mut low, mut high) = (0, count);
    while low < high {
        let middle = (low + high) / 2;
        match key(middle)? {
            own if own == glyph.0 => return Some(middle),
            own if own < glyph.0 => low = middle + 1,
            _ => high = middle,
        }
    }
    None
}
