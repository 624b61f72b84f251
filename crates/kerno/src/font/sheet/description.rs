//! The schema of a sheet's description. Lengths are pixels of the picture.

use std::collections::BTreeMap;

use crate::base::Spanned;
use serde::Deserialize;

/// The whole file.
#[derive(Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct Description {
    /// The name of the family.
    pub(super) family: String,
    /// True: it is a bold face.
    #[serde(default)]
    pub(super) bold: bool,
    /// Pixels in the em; by default the height of a cell.
    pub(super) em: Option<Spanned<u16>>,
    /// From the top of a cell down to the baseline.
    pub(super) baseline: Spanned<i16>,
    /// Above and below the baseline, for the height of lines; by default what a
    /// cell has there.
    pub(super) ascent: Option<i16>,
    /// Below the baseline, for the height of lines.
    pub(super) descent: Option<i16>,
    /// From the left edge of a cell to the pen, for widths of cells.
    #[serde(default)]
    pub(super) origin: i16,
    /// Pixels between lines.
    #[serde(default)]
    pub(super) line_gap: u16,
    /// The source of the advances that are not listed.
    #[serde(default)]
    pub(super) widths: Widths,
    /// Pixels added to each width that is not listed.
    #[serde(default)]
    pub(super) spacing: i16,
    /// The advance of U+0020.
    pub(super) space: Option<u16>,
    /// The meaning of the colours.
    #[serde(default)]
    pub(super) color: ColorUse,
    /// The pictures.
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
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
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
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
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
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct PageDescription {
    /// The PNG.
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

/// The schema of picture sheets.
#[cfg(feature = "schemas")]
pub(crate) fn sheet_schema() -> schemars::Schema {
    schemars::schema_for!(Description)
}
