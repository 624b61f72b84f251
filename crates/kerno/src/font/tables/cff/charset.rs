//! Charsets: the name of every glyph as a string number (Note 5176, section 13),
//! needed to find the two parts of an accented glyph.

use crate::font::table::Table;
use crate::font::{FontError, GlyphId};

/// The names of the glyphs.
#[derive(Clone, Copy)]
pub(super) enum Charset {
    /// One of the three that the standard lists. For glyphs of the standard
    /// encoding only the first matters: there the number of a glyph is that of
    /// its name.
    Predefined,
    /// A table of names at this place.
    At(usize),
}

/// Runs of the standard encoding: first code, last code, string number of the
/// first (Note 5176, appendix B).
const STANDARD_ENCODING: [(u8, u8, u16); 14] = [
    (32, 126, 1),
    (161, 175, 96),
    (177, 180, 111),
    (182, 189, 115),
    (191, 191, 123),
    (193, 200, 124),
    (202, 203, 132),
    (205, 208, 134),
    (225, 225, 138),
    (227, 227, 139),
    (232, 235, 140),
    (241, 241, 144),
    (245, 245, 145),
    (248, 251, 146),
];

/// The string number of a code of the standard encoding.
fn standard_name(code: u8) -> Option<u16> {
    STANDARD_ENCODING
        .iter()
        .find(|(first, last, _)| (*first..=*last).contains(&code))
        .map(|(first, _, name)| name + u16::from(code - first))
}

impl Charset {
    pub(super) fn at(offset: usize) -> Self {
        match offset {
            0..=2 => Self::Predefined,
            _ => Self::At(offset),
        }
    }

    /// The glyph with the name that the standard encoding gives a code.
    pub(super) fn standard_glyph(
        self,
        cff: &Table<'_>,
        glyphs: usize,
        code: u8,
    ) -> Result<Option<GlyphId>, FontError> {
        let Some(name) = standard_name(code) else {
            return Ok(None);
        };
        match self {
            Self::Predefined => Ok((usize::from(name) < glyphs).then_some(GlyphId(name))),
            Self::At(at) => find(cff, at, glyphs, name),
        }
    }
}

/// Searches a charset table. Glyph 0 is `.notdef` and not listed.
fn find(
    cff: &Table<'_>,
    at: usize,
    glyphs: usize,
    wanted: u16,
) -> Result<Option<GlyphId>, FontError> {
    let format = cff.u8(at)?;
    let (mut glyph, mut at) = (1, at + 1);
    while glyph < glyphs {
        let first = cff.u16(at)?;
        let (more, length) = match format {
            0 => (0, 2),
            1 => (u16::from(cff.u8(at + 2)?), 3),
            2 => (cff.u16(at + 2)?, 4),
            _ => return Err(cff.bad(at, "charset format", format.into(), "it must be 0 to 2")),
        };
        if let Some(step) = wanted.checked_sub(first).filter(|step| *step <= more) {
            return Ok(u16::try_from(glyph + usize::from(step)).ok().map(GlyphId));
        }
        glyph += usize::from(more) + 1;
        at += length;
    }
    Ok(None)
}
