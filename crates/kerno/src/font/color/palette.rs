//! Palettes (`CPAL`).

use crate::base::Color;
use crate::font::table::Table;
use crate::font::tables::Directory;
use crate::font::{FontError, NameId};

/// A palette of a colour font.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Palette {
    /// Its colours, by palette entry.
    pub colors: Vec<Color>,
    /// Its name for people, where the font has one.
    pub name: Option<String>,
    /// True if it is made for a light background.
    pub is_for_light: bool,
    /// True if it is made for a dark background.
    pub is_for_dark: bool,
}

/// The palette that a face is painted with.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub(in crate::font) struct PaletteChoice {
    pub(in crate::font) index: u16,
    /// Entries with another colour than the palette's, in their order.
    pub(in crate::font) changed: Vec<(u16, Color)>,
}

/// The entry that stands for the colour of the text.
pub(super) const FOREGROUND: u16 = 0xffff;

/// The table, with its header read.
#[derive(Debug)]
pub(in crate::font) struct Palettes {
    entries: u16,
    count: u16,
}

impl Palettes {
    /// Reads the header; `None` in a font without palettes.
    pub(in crate::font) fn read(
        directory: &Directory,
        bytes: &[u8],
    ) -> Result<Option<Self>, FontError> {
        let Some(table) = directory.table(bytes, b"CPAL") else {
            return Ok(None);
        };
        let (entries, count) = (table.u16(2)?, table.u16(4)?);
        table.slice(12, usize::from(count) * 2)?;
        Ok(Some(Self { entries, count }))
    }

    pub(in crate::font) fn count(&self) -> u16 {
        self.count
    }

    pub(in crate::font) fn entries(&self) -> u16 {
        self.entries
    }

    /// The colour of an entry; `None` where the palette has no such entry.
    pub(in crate::font) fn color(
        &self,
        table: &Table<'_>,
        palette: u16,
        entry: u16,
    ) -> Option<Color> {
        if entry >= self.entries || palette >= self.count {
            return None;
        }
        let first = table.u16(12 + usize::from(palette) * 2).ok()?;
        let records = table.u32(8).ok()? as usize;
        let at = records + (usize::from(first) + usize::from(entry)) * 4;
        let [blue, green, red, alpha] = [0, 1, 2, 3].map(|byte| table.u8(at + byte));
        Some(Color::rgba(red.ok()?, green.ok()?, blue.ok()?, alpha.ok()?))
    }

    /// All of a palette; `name` finds names.
    pub(in crate::font) fn palette(
        &self,
        table: &Table<'_>,
        palette: u16,
        name: impl Fn(NameId) -> Option<String>,
    ) -> Palette {
        let colors = (0..self.entries).map(|entry| self.color(table, palette, entry));
        let lists = 12 + usize::from(self.count) * 2;
        let is_long = table.u16(0).is_ok_and(|version| version > 0);
        // Version 1 has lists of types and of names after those of the palettes.
        let list = |number: usize| {
            let at = table.u32(lists + number * 4).ok().filter(|_| is_long)?;
            (at > 0).then_some(at as usize)
        };
        let types = list(0).and_then(|at| table.u32(at + usize::from(palette) * 4).ok());
        let types = types.unwrap_or(0);
        let label = list(1).and_then(|at| table.u16(at + usize::from(palette) * 2).ok());
        Palette {
            colors: colors.map(|color| color.unwrap_or(Color::BLACK)).collect(),
            name: label
                .filter(|label| *label != 0xffff)
                .and_then(|label| name(NameId(label))),
            is_for_light: types & 1 != 0,
            is_for_dark: types & 2 != 0,
        }
    }
}

impl PaletteChoice {
    pub(in crate::font) fn parts(&self) -> (u16, Vec<(u16, Color)>) {
        (self.index, self.changed.clone())
    }

    pub(in crate::font) fn of((index, changed): (u16, Vec<(u16, Color)>)) -> Self {
        Self { index, changed }
    }

    /// The colour of an entry, of which the table has one.
    pub(super) fn color(&self, own: Option<Color>, entry: u16) -> Option<Color> {
        let changed = self.changed.iter().find(|(changed, _)| *changed == entry);
        changed.map(|(_, color)| *color).or(own)
    }
}
