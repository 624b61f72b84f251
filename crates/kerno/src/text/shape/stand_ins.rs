//! Glyphs that a face has for characters that it lacks: spaces of every width, and
//! hyphens. They are never shown as `.notdef`.

use crate::font::{Face, GlyphId, GlyphRow};

/// The glyph of a character, or of one that stands in for it.
pub(crate) fn glyph_or_stand_in(face: &Face, character: char) -> Option<GlyphId> {
    face.glyph(character).or_else(|| match character {
        // Non-breaking hyphen and hyphen (Unicode Standard, 6.2, “Hyphens”).
        '\u{2011}' => face.glyph('\u{2010}').or_else(|| face.glyph('-')),
        '\u{2010}' => face.glyph('-'),
        _ if is_space(character) => face.glyph(' '),
        _ => None,
    })
}

/// The spaces that are made from the face's own (Unicode Standard, 6.2, “Space
/// Characters”).
pub(in crate::text) fn is_space(character: char) -> bool {
    matches!(
        character,
        '\u{a0}' | '\u{2000}'..='\u{200a}' | '\u{202f}' | '\u{205f}' | '\u{3000}'
    )
}

/// The width of a space in font units, as the Unicode Standard has it (6.2, table 6-2):
/// of the em, or of the character that it is as wide as. The no-break space is as wide as
/// the face's own.
fn space_width(face: &Face, character: char) -> Option<i32> {
    let em = i32::from(face.metrics().units_per_em);
    let advance = |other: char| face.glyph(other).map(|glyph| face.advance(glyph).into());
    Some(match character {
        '\u{2000}' | '\u{2002}' => em / 2,
        '\u{2001}' | '\u{2003}' | '\u{3000}' => em,
        '\u{2004}' => em / 3,
        '\u{2005}' => em / 4,
        '\u{2006}' => em / 6,
        '\u{2007}' => advance('0')?,
        '\u{2008}' => advance('.')?,
        '\u{2009}' => em / 5,
        '\u{200a}' => em / 10,
        // Narrower than the space of the text, whatever that is.
        '\u{202f}' => advance(' ')? / 2,
        '\u{205f}' => em * 4 / 18,
        _ => return None,
    })
}

/// Gives the spaces of a row that stand in for others their widths.
pub(super) fn widen_spaces(face: &Face, row: &mut GlyphRow) {
    for glyph in &mut row.glyphs {
        let character = glyph.character;
        if !is_space(character) || face.glyph(character).is_some() {
            continue;
        }
        if let Some(width) = space_width(face, character) {
            glyph.advance += width - i32::from(glyph.stated);
            glyph.stated = width.clamp(0, u16::MAX.into()) as u16;
        }
    }
}
