//! Marks in faces that do not say where they stand.

use super::characters::is_hangul_tone;
use crate::font::{Attachment, Face, FontError, GlyphRow};
use crate::text::analysis::unicode::{combining_class, is_ignorable, is_mark};

/// Stands each mark on the letter before it by the boxes of their ink: in the middle
/// above, below or through it, as its combining class says; several above each
/// other. Where the font draws a mark in its place by its own bearings, it stays there.
pub(super) fn place(face: &Face, row: &mut GlyphRow, runs_left: bool) -> Result<(), FontError> {
    if !row.glyphs.iter().any(|glyph| is_mark(glyph.character)) {
        return Ok(());
    }
    let gap = i32::from(face.metrics().units_per_em) / 16;
    // The letter that marks stand on, with the box of its ink and of theirs; and their own.
    let mut base: Option<(usize, [i32; 4])> = None;
    let mut marks: Vec<[i32; 4]> = Vec::new();
    for at in 0..row.glyphs.len() {
        let glyph = row.glyphs[at];
        let bounds = face.bounds(glyph.glyph)?;
        let ink = bounds.map(|b| [b.x_min, b.y_min, b.x_max, b.y_max].map(i32::from));
        if is_ignorable(glyph.character) {
            continue;
        }
        if !is_mark(glyph.character) || is_hangul_tone(glyph.character) {
            base = Some((at, ink.unwrap_or([0, 0, glyph.advance, 0])));
            marks.clear();
            continue;
        }
        row.glyphs[at].advance = 0;
        let (Some((on, below)), Some(mark)) = (&mut base, ink) else {
            continue;
        };
        // A mark without an advance whose ink lies before the pen is drawn where it belongs, after
        // any letter: it stays there, unless it would lie on another mark.
        let is_placed = glyph.advance == 0 && mark[0] + mark[2] < 0 && !runs_left;
        if is_placed {
            let x = row.glyphs[*on].advance;
            let own = [mark[0] + x, mark[1], mark[2] + x, mark[3]];
            if !marks.iter().any(|other| overlap(*other, own)) {
                below[1] = below[1].min(own[1]);
                below[3] = below[3].max(own[3]);
                marks.push(own);
                let back = (at - *on) as u32;
                row.glyphs[at].attachment = Some(Attachment::Mark { back, x, y: 0 });
                continue;
            }
        }
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
        marks.push([mark[0] + x, mark[1] + y, mark[2] + x, mark[3] + y]);
        row.glyphs[at].attachment = Some(Attachment::Mark {
            back: (at - *on) as u32,
            x,
            y,
        });
    }
    Ok(())
}

/// Returns whether two boxes (left, bottom, right, top) have some area in common.
fn overlap(a: [i32; 4], b: [i32; 4]) -> bool {
    a[0] < b[2] && b[0] < a[2] && a[1] < b[3] && b[1] < a[3]
}
