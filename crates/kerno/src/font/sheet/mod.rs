//! Picture sheets: a PNG of glyphs in cells and a TOML description of them
//! (`docs/picture-sheet.md`).
//!
//! In: the description and its pictures. Out: a strike like
//! that of any bitmap font, and the pictures themselves where their colours or
//! soft edges count.

mod cells;
mod description;

#[cfg(feature = "schemas")]
pub(crate) use description::sheet_schema;

use std::sync::Arc;

use super::FontError;
use super::Tag;
use super::bitmap::{StrikeFont, open_type};
use super::tables::kern_pairs;
use crate::base::{Image, ImageError, TomlFault, parse};

use cells::Reader;
use description::Description;

/// Reads a description; `open` gets the name of each picture it mentions.
pub(super) fn read(
    text: &str,
    open: &mut dyn FnMut(&str) -> Result<Image, ImageError>,
) -> Result<StrikeFont, FontError> {
    let description: Description = parse(text).map_err(bad)?;
    let mut reader = Reader::new(text, &description).map_err(bad)?;
    for page in &description.page {
        let picture = open(page.picture.get_ref()).map_err(|error| FontError::SheetPicture {
            line: reader.line(page.picture.span()),
            source: Box::new(error),
        })?;
        reader.page(page, &picture).map_err(bad)?;
    }
    let (strike, pictures, kerning) = reader.finish().map_err(bad)?;
    let known = if kerning.is_empty() {
        Vec::new()
    } else {
        vec![(Tag::new(b"kern"), kern_pairs(&kerning))]
    };
    Ok(StrikeFont {
        font: open_type(&strike, known)?,
        pixels: strike.pixels,
        pictures: pictures.map(Arc::new),
        note: None,
    })
}

fn bad(TomlFault { line, problem }: TomlFault) -> FontError {
    FontError::Line {
        format: "picture sheet",
        line,
        problem,
    }
}
