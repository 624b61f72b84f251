//! The schema of a sheet's description. Lengths are pixels of the picture.

use std::collections::BTreeMap;

use serde::Deserialize;
use toml::Spanned;

/// The whole file.
#[derive(Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct Description {
    pub(super) family: String,
    #[serde(default)]
    pub(super) bold: bool,
    /// Pixels in the em; by default the height of a cell.
    pub(super) em: Option<Spanned<u16>>,
    /// From the top of a cell down to the baseline.
    pub(super) baseline: Spanned<i16>,
    /// Above and below the baseline, for the height of lines; by default what a
    /// cell has there.
    pub(super) ascent: Option<i16>,
    pub(super) descent: Option<i16>,
    /// From the left edge of a cell to the pen, for widths of cells.
    #[serde(default)]
    pub(super) origin: i16,
    #[serde(default)]
    pub(super) line_gap: u16,
    #[serde(default)]
    pub(super) widths: Widths,
    /// Pixels added to each width that is not listed.
    #[serde(default)]
    pub(super) spacing: i16,
    /// The advance of U+0020.
    pub(super) space: Option<u16>,
    #[serde(default)]
    pub(super) color: ColorUse,
    #[serde(default)]
    pub(super) page: Vec<PageDescription>,
    /// Advances of single characters.
    #[serde(default)]
    pub(super) advances: BTreeMap<Spanned<String>, u16>,
    /// Pairs that stand closer or farther.
    #[serde(default)]
    pub(super) kerning: BTreeMap<Spanned<String>, i16>,
}

/// The source of the advances that are not listed.
#[derive(Clone, Copy, Default, Deserialize, PartialEq)]
#[serde(rename_all = "kebab-case")]
pub(super) enum Widths {
    /// As wide as the pixels of the glyph.
    #[default]
    Ink,
    /// As wide as the cell.
    Cell,
}

/// The meaning of the colours of the picture.
#[derive(Clone, Copy, Default, Deserialize, PartialEq)]
#[serde(rename_all = "kebab-case")]
pub(super) enum ColorUse {
    /// Only to tell what is ink: text takes the colour of its style.
    #[default]
    Mask,
    /// To be seen.
    Kept,
}

/// A picture with cells in rows.
#[derive(Deserialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct PageDescription {
    pub(super) picture: Spanned<String>,
    /// Width and height of a cell.
    pub(super) cell: Spanned<[u16; 2]>,
    /// The top left corner of the first cell.
    #[serde(default)]
    pub(super) start: [u16; 2],
    /// Free pixels between cells, across and down.
    #[serde(default)]
    pub(super) gap: [u16; 2],
    /// The characters, a string for each row of cells.
    pub(super) rows: Vec<Spanned<String>>,
}
