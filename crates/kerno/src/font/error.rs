//! Faults of fonts, and their places.

use std::io;
use std::path::PathBuf;
use std::sync::Arc;

use super::{GlyphId, Tag};
use crate::base::ImageError;

/// Why a font could not be read: the file system's fault, the file's, or a cap
/// of [`Limits`](crate::base::Limits).
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum FontError {
    /// The file could not be read from disk.
    #[error("cannot read the font “{}”", path.display())]
    Io {
        /// The file.
        path: PathBuf,
        /// The system's error.
        source: io::Error,
    },
    /// The file was read, but something is wrong with the font in it.
    #[error("the font “{}”", path.display())]
    InFile {
        /// The file.
        path: PathBuf,
        /// The fault.
        source: Box<FontError>,
    },
    /// A later part of opening the font has failed: see
    /// [`Face::prepare`](crate::Face::prepare).
    #[error(transparent)]
    Unusable(Arc<FontError>),
    /// The bytes are no font at all.
    #[error(
        "not a font: {0}; expected TrueType or OpenType (.ttf, .otf, .ttc, .woff, .woff2) or a bitmap font (.bdf, .pcf, .psf)"
    )]
    NotAFont(&'static str),
    /// A font of a kind that this version does not read.
    #[error("{0}; use the .ttf, .otf or .woff form of the font")]
    UnsupportedFormat(&'static str),
    /// A font without outlines, whose glyphs are colour pictures of a kind that is not read.
    #[error(
        "the font has pictures of the table '{0}' only, which are not read; use a form of it with outlines, `COLR`, `CBDT` or `sbix`"
    )]
    ColorOnly(Tag),
    /// The palette asked for is not in the font.
    #[error("there is no palette {index}; the font has {count}, counted from 0")]
    NoSuchPalette {
        /// The palette.
        index: u16,
        /// The number of palettes.
        count: u16,
    },
    /// The entry asked for is not in the palettes of the font.
    #[error("there is no palette entry {entry}; the palettes have {count}, counted from 0")]
    NoSuchPaletteEntry {
        /// The entry.
        entry: u16,
        /// The number of entries of a palette.
        count: u16,
    },
    /// The file lacks a table that every face needs.
    #[error("the table '{0}' is missing; the font cannot be used without it")]
    MissingTable(Tag),
    /// A table is damaged.
    #[error("table '{table}', byte {offset}: {fault}")]
    Table {
        /// The table.
        table: Tag,
        /// Place in the table, in bytes from its start.
        offset: usize,
        /// The fault there.
        fault: TableFault,
    },
    /// A face number that the collection does not have.
    #[error("the file holds {count} faces, counted from 0; there is no face {face}")]
    NoSuchFace {
        /// The number asked for.
        face: u32,
        /// The number of faces.
        count: u32,
    },
    /// A variation axis that the face does not have.
    #[error("the face has no axis '{axis}'; {}", list_axes(known))]
    NoSuchAxis {
        /// The axis asked for.
        axis: Tag,
        /// The axes there are.
        known: Vec<Tag>,
    },
    /// A size of which the font has no bitmap strike.
    #[error(
        "the font has no bitmap strike of {pixels} pixels; {}",
        list_sizes(known)
    )]
    NoSuchStrike {
        /// The size asked for, in pixels per em.
        pixels: u16,
        /// The sizes there are.
        known: Vec<u16>,
    },
    /// A number of a [`Synthesis`](crate::font::Synthesis) is out of range.
    #[error("{what} is {value}, it must be {expected}")]
    Synthesis {
        /// The name of the number.
        what: &'static str,
        /// Its value.
        value: f32,
        /// The values that it may have.
        expected: &'static str,
    },
    /// The file is packed and would pass a cap of [`Limits`](crate::base::Limits) when
    /// unpacked.
    #[error(
        "the font would take {size} bytes unpacked, and at most {limit} are allowed; raise Limits::font_bytes if it is trusted"
    )]
    Unpacked {
        /// The number of bytes it would take.
        size: u64,
        /// The cap in force.
        limit: u64,
    },
    /// A line of a text format is wrong.
    #[error("{format}, line {line}: {problem}")]
    Line {
        /// The format.
        format: &'static str,
        /// The line, counted from 1.
        line: usize,
        /// The fault there, and the right content.
        problem: String,
    },
    /// A picture of a picture sheet could not be read.
    #[error("picture sheet, line {line}")]
    SheetPicture {
        /// The line that names it, counted from 1.
        line: usize,
        /// Its fault.
        source: Box<ImageError>,
    },
    /// A glyph number that the face does not have.
    #[error("the face has {count} glyphs, there is no glyph {}", glyph.0)]
    NoSuchGlyph {
        /// The number asked for.
        glyph: GlyphId,
        /// The number of glyphs.
        count: u16,
    },
    /// The glyph needs more than [`Limits`](crate::base::Limits) allows.
    #[error("glyph {} has more than {limit} {what}; raise Limits if the font is trusted", glyph.0)]
    Limit {
        /// The glyph.
        glyph: GlyphId,
        /// The thing that there is too much of.
        what: &'static str,
        /// The cap in force.
        limit: usize,
    },
}

crate::base::debug_in_full!(FontError);

impl FontError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::Io { .. } => "font-io",
            Self::InFile { source, .. } => source.code(),
            Self::Unusable(error) => error.code(),
            Self::NotAFont { .. } => "font-not-a-font",
            Self::UnsupportedFormat { .. } => "font-unsupported-format",
            Self::ColorOnly { .. } => "font-color-only",
            Self::NoSuchPalette { .. } => "font-no-such-palette",
            Self::NoSuchPaletteEntry { .. } => "font-no-such-palette-entry",
            Self::MissingTable { .. } => "font-missing-table",
            Self::Table { .. } => "font-table",
            Self::NoSuchFace { .. } => "font-no-such-face",
            Self::NoSuchAxis { .. } => "font-no-such-axis",
            Self::NoSuchStrike { .. } => "font-no-such-strike",
            Self::Synthesis { .. } => "font-synthesis",
            Self::Unpacked { .. } => "font-unpacked",
            Self::Line { .. } => "font-line",
            Self::SheetPicture { .. } => "font-sheet-picture",
            Self::NoSuchGlyph { .. } => "font-no-such-glyph",
            Self::Limit { .. } => "font-limit",
        }
    }
}

fn list_sizes(sizes: &[u16]) -> String {
    if sizes.is_empty() {
        return "it has none at all".to_owned();
    }
    let sizes: Vec<String> = sizes.iter().map(u16::to_string).collect();
    format!("it has {}", sizes.join(", "))
}

fn list_axes(axes: &[Tag]) -> String {
    if axes.is_empty() {
        return "it is not a variable font".to_owned();
    }
    let names: Vec<String> = axes.iter().map(|axis| format!("'{axis}'")).collect();
    format!("it has {}", names.join(", "))
}

/// Fault at one place of a table.
#[derive(Clone, Copy, Debug, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum TableFault {
    /// The table reaches past the end of the file.
    #[error(
        "the table should reach to byte {end} of the file, which has only {file}; the file is cut short or damaged"
    )]
    PastEnd {
        /// The end that the table should have.
        end: u64,
        /// Length of the file.
        file: u64,
    },
    /// A value lies past the end of its table.
    #[error("the table ends before the value that should be here")]
    Truncated,
    /// A field holds what the standard forbids.
    #[error("{field} is {value}, {expected}")]
    BadValue {
        /// The field's name in the standard.
        field: &'static str,
        /// Its content.
        value: i64,
        /// Its largest content.
        expected: &'static str,
    },
}
