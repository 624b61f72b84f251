//! Charsets: the name of every glyph as a string number (Note 5176, section 13),
//! needed to find the two parts of an accented glyph.

use crate::font::table::Table;
use crate::font::{FontError, GlyphId};

/// The names of the glyphs.
#[derive(Clone, Copy)]
pub(super) enum Charset {
    /// Glyphs have no names (version 2).
    None,
    /// `ISOAdobe`: the number of a glyph is that of its name.
    IsoAdobe,
    /// One of the two for expert fonts, as runs of string numbers.
    Expert(&'static [(u16, u16)]),
    /// A table of names at this place.
    At(usize),
    /// The same with character identifiers for names.
    CidAt(usize),
}

/// The name of a glyph, as a charset gives it.
pub(super) enum GlyphString {
    /// Nothing.
    None,
    /// The number of a string.
    Numbered(u16),
    /// A character identifier.
    Cid(u16),
}

/// Note 5176, appendix C, `Expert`: first and last string number of each run.
const EXPERT: &[(u16, u16)] = &[
    (0, 1),
    (229, 238),
    (13, 15),
    (99, 99),
    (239, 248),
    (27, 28),
    (249, 266),
    (109, 110),
    (267, 318),
    (158, 158),
    (155, 155),
    (163, 163),
    (319, 326),
    (150, 150),
    (164, 164),
    (169, 169),
    (327, 378),
];

/// Note 5176, appendix C, `ExpertSubset`.
const EXPERT_SUBSET: &[(u16, u16)] = &[
    (0, 1),
    (231, 232),
    (235, 238),
    (13, 15),
    (99, 99),
    (239, 248),
    (27, 28),
    (249, 251),
    (253, 266),
    (109, 110),
    (267, 270),
    (272, 272),
    (300, 302),
    (305, 305),
    (314, 315),
    (158, 158),
    (155, 155),
    (163, 163),
    (320, 326),
    (150, 150),
    (164, 164),
    (169, 169),
    (327, 346),
];

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
    pub(super) fn at(offset: usize, is_cid_keyed: bool) -> Self {
        match offset {
            _ if is_cid_keyed && offset > 2 => Self::CidAt(offset),
            0 => Self::IsoAdobe,
            1 => Self::Expert(EXPERT),
            2 => Self::Expert(EXPERT_SUBSET),
            _ => Self::At(offset),
        }
    }

    /// The name of a glyph.
    pub(super) fn string_of(
        self,
        cff: &Table<'_>,
        glyph: GlyphId,
    ) -> Result<GlyphString, FontError> {
        let at = match self {
            Self::None => return Ok(GlyphString::None),
            Self::IsoAdobe if glyph.0 <= 228 => return Ok(GlyphString::Numbered(glyph.0)),
            Self::IsoAdobe => return Ok(GlyphString::None),
            Self::Expert(runs) => {
                let mut numbers = runs.iter().flat_map(|(first, last)| *first..=*last);
                let number = numbers.nth(usize::from(glyph.0));
                return Ok(number.map_or(GlyphString::None, GlyphString::Numbered));
            }
            Self::At(_) if glyph == GlyphId::NOTDEF => return Ok(GlyphString::Numbered(0)),
            Self::CidAt(_) if glyph == GlyphId::NOTDEF => return Ok(GlyphString::Cid(0)),
            Self::At(at) | Self::CidAt(at) => at,
        };
        let found = walk(cff, at, usize::from(glyph.0) + 1, |run| {
            let step = usize::from(glyph.0).checked_sub(run.glyph)?;
            (step <= usize::from(run.more)).then(|| run.string.wrapping_add(step as u16))
        })?;
        Ok(match (self, found) {
            (_, None) => GlyphString::None,
            (Self::CidAt(_), Some(number)) => GlyphString::Cid(number),
            (_, Some(number)) => GlyphString::Numbered(number),
        })
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
            Self::At(at) => walk(cff, at, glyphs, |run| {
                let step = name.checked_sub(run.string)?;
                let glyph = u16::try_from(run.glyph).ok()?.checked_add(step)?;
                (step <= run.more).then_some(GlyphId(glyph))
            }),
            // No name of the standard encoding is in an expert charset.
            _ => Ok((usize::from(name) < glyphs).then_some(GlyphId(name))),
        }
    }
}

/// Glyphs in a row whose names are in a row: the first glyph, the first name, and
/// how many more there are.
struct Run {
    glyph: usize,
    string: u16,
    more: u16,
}

/// Asks every run of a charset table until one answers. Glyph 0 is `.notdef` and
/// not listed.
fn walk<T>(
    cff: &Table<'_>,
    at: usize,
    glyphs: usize,
    mut ask: impl FnMut(&Run) -> Option<T>,
) -> Result<Option<T>, FontError> {
    let format = cff.u8(at)?;
    let (mut glyph, mut at) = (1, at + 1);
    while glyph < glyphs {
        let string = cff.u16(at)?;
        let (more, length) = match format {
            0 => (0, 2),
            1 => (u16::from(cff.u8(at + 2)?), 3),
            2 => (cff.u16(at + 2)?, 4),
            _ => return Err(cff.bad(at, "charset format", format.into(), "it must be 0 to 2")),
        };
        let run = Run {
            glyph,
            string,
            more,
        };
        if let Some(answer) = ask(&run) {
            return Ok(Some(answer));
        }
        glyph += usize::from(more) + 1;
        at += length;
    }
    Ok(None)
}
