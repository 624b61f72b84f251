//! Signs that reach over the letters after them: the Syriac abbreviation mark.

use icu_properties::props::JoiningType;

use crate::font::{Face, FontError, GlyphRow, RowGlyph};
use crate::text::analysis::unicode::{is_mark, joining};

/// SYRIAC ABBREVIATION MARK.
pub(super) const ABBREVIATION: char = '\u{70f}';

/// The most copies of one part between two fixed ones.
const MOST_COPIES: f32 = 64.0;

/// Stretches each sign that the font has taken apart into an odd number of glyphs
/// (OpenType, the feature `stch`) over the rest of its word: the first, the third and so
/// on stand at even distances from its start to its end, those between them are repeated
/// to fill what is left.
pub(super) fn stretch(face: &Face, is_rtl: bool, row: &mut GlyphRow) -> Result<(), FontError> {
    let mut from = 0;
    while let Some(step) = row.glyphs[from..].iter().position(is_sign) {
        let start = from + step;
        let cluster = row.glyphs[start].cluster;
        let own = row.glyphs[start..].iter();
        let count = own
            .take_while(|glyph| is_sign(glyph) && glyph.cluster == cluster)
            .count();
        from = start + count;
        if count < 3 || count % 2 == 0 {
            continue;
        }
        let word = row.glyphs[from..].iter();
        let length = word.take_while(|glyph| belongs(glyph.character)).count();
        let word = &mut row.glyphs[from..from + length];
        word.iter_mut().for_each(|glyph| glyph.is_tied = true);
        let width: i32 = word.iter().map(|glyph| glyph.advance).sum();
        let parts = parts(face, &row.glyphs[start..from])?;
        let mut placed = Vec::new();
        place(&parts, width as f32, |part, distance| {
            let mut glyph = parts[part].glyph;
            let x = if is_rtl {
                -distance - parts[part].width
            } else {
                distance
            };
            glyph.x = (x - parts[part].left).round() as i32;
            glyph.advance = 0;
            glyph.is_tied |= !placed.is_empty();
            placed.push(glyph);
        });
        let grown = start + placed.len();
        row.glyphs.splice(start..from, placed);
        from = grown;
    }
    Ok(())
}

fn is_sign(glyph: &RowGlyph) -> bool {
    glyph.character == ABBREVIATION
}

/// Returns whether a character belongs to the word that is written short.
fn belongs(character: char) -> bool {
    character != ABBREVIATION
        && (is_mark(character) || joining(character) != JoiningType::NonJoining)
}

/// A part of a sign, in font units.
struct SignPart {
    glyph: RowGlyph,
    width: f32,
    /// From its origin to its left edge.
    left: f32,
}

/// The parts of a sign: each as wide as its advance, or as its ink where it takes no
/// room.
fn parts(face: &Face, glyphs: &[RowGlyph]) -> Result<Vec<SignPart>, FontError> {
    let part = |glyph: &RowGlyph| {
        let ink = match glyph.stated {
            0 => face.bounds(glyph.glyph)?,
            _ => None,
        };
        Ok(SignPart {
            glyph: *glyph,
            width: ink.map_or(f32::from(glyph.stated), |ink| {
                f32::from(ink.x_max) - f32::from(ink.x_min)
            }),
            left: ink.map_or(0.0, |ink| ink.x_min.into()),
        })
    };
    glyphs.iter().map(part).collect()
}

/// Hands out every glyph with the distance of its near edge from the start of the word,
/// in the direction of reading.
fn place(parts: &[SignPart], width: f32, mut put: impl FnMut(usize, f32)) {
    let gaps = (parts.len() / 2) as f32;
    let near = |part: usize| (width - parts[part].width) * (part / 2) as f32 / gaps;
    for part in 0..parts.len() {
        if part % 2 == 0 {
            put(part, near(part));
            continue;
        }
        let start = near(part - 1) + parts[part - 1].width;
        let (room, own) = (near(part + 1) - start, parts[part].width);
        if room <= 0.0 || own <= 0.0 {
            continue;
        }
        let copies = (room / own).ceil().min(MOST_COPIES);
        if copies <= 1.0 {
            put(part, start + (room - own) / 2.0);
            continue;
        }
        let step = (room - own) / (copies - 1.0);
        (0..copies as u32).for_each(|copy| put(part, start + step * copy as f32));
    }
}
