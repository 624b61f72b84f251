//! Marks in faces that do not say where they stand.

use super::characters::is_hangul_tone;
use crate::font::{Attachment, Face, FontError, GlyphRow};
use crate::text::analysis::unicode::{combining_class, is_ignorable, is_mark};

/// Stands each mark on the letter before it by the boxes of their ink: in the middle
/// above, below or through it, as its combining class says; several above each
/// other.
pub(super) fn place(face: &Face, row: &mut GlyphRow) -> Result<(), FontError> {
    if !row.glyphs.iter().any(|glyph| is_mark(glyph.character)) {
        return Ok(());
    }
    let gap = i32::from(face.metrics().units_per_em) / 16;
    let mut base: Option<(usize, [i32; 4])> = None;
    for at in 0..row.glyphs.len() {
        let glyph = row.glyphs[at];
        let bounds = face.bounds(glyph.glyph)?;
        let ink = bounds.map(|b| [b.x_min, b.y_min, b.x_max, b.y_max].map(i32::from));
        if is_ignorable(glyph.character) {
            continue;
        }
        if !is_mark(glyph.character) || is_hangul_tone(glyph.character) {
            base = Some((at, ink.unwrap_or([0, 0, glyph.advance, 0])));
            continue;
        }
        row.glyphs[at].advance = 0;
        let (Some((on, below)), Some(mark)) = (&mut base, ink) else {
            continue;
        };
        let x = (below[0] + below[2] - mark[0] - mark[2]) / 2;
        let y = match combining_class(glyph.character) {
            // Below, and attached below.
            202 | 220 | 233 => {
                let y = below[1] - gap - mark[3];
                below[1] = y + mark[1];
                y
            }
            // Above, and attached above.
            214 | 216 | 230 | 234 => {
                let y = below[3] + gap - mark[1];
                below[3] = y + mark[3];
                y
            }
            _ => 0,
        };
        row.glyphs[at].attachment = Some(Attachment::Mark {
            back: (at - *on) as u32,
            x,
            y,
        });
    }
    Ok(())
}
