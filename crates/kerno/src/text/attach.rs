//! Where glyphs are drawn that stand on others.

use super::shape::Shaped;
use crate::font::Attachment;

/// Where a glyph is drawn that stands on no other, rightwards and upwards.
pub(super) fn free_origin(glyph: &Shaped, pen: f64, unit: f64) -> (f64, f64) {
    (pen + f64::from(glyph.x) * unit, f64::from(glyph.y) * unit)
}

/// Where each glyph is drawn, rightwards and upwards, by where the pen stands for it:
/// marks on their bases, cursive letters as high as what they follow.
pub(super) fn find_origins(
    glyphs: &[Shaped],
    pens: &[f64],
    unit: f64,
    (origins, heights): (&mut Vec<(f64, f64)>, &mut Vec<f64>),
) {
    origins.clear();
    let mut is_cursive = false;
    for (index, glyph) in glyphs.iter().enumerate() {
        let own = free_origin(glyph, pens[index], unit);
        let place = match glyph.attachment {
            Some(Attachment::Mark { back, x, y }) => {
                let base = index.checked_sub(back as usize).map(|base| origins[base]);
                base.map_or(own, |base| {
                    (base.0 + f64::from(x) * unit, base.1 + f64::from(y) * unit)
                })
            }
            Some(Attachment::Cursive { .. }) => {
                is_cursive = true;
                own
            }
            None => own,
        };
        origins.push(place);
    }
    if is_cursive {
        lift(glyphs, origins, heights, unit);
    }
}

/// Gives glyphs that join cursively the height of those that they follow.
fn lift(glyphs: &[Shaped], origins: &mut [(f64, f64)], heights: &mut Vec<f64>, unit: f64) {
    let parent = |index: usize| match glyphs[index].attachment {
        Some(Attachment::Cursive { on, y }) => {
            let parent = index.checked_add_signed(on as isize)?;
            (parent < glyphs.len()).then_some((parent, y))
        }
        _ => None,
    };
    let height = |index: usize| {
        // Chains lead on; they are as long as a word.
        let (mut at, mut sum) = (index, 0.0);
        for _ in 0..64 {
            let Some((next, y)) = parent(at) else { break };
            sum += f64::from(y) * unit;
            at = next;
        }
        sum
    };
    heights.clear();
    heights.extend((0..glyphs.len()).map(height));
    for (index, glyph) in glyphs.iter().enumerate() {
        let base = match glyph.attachment {
            Some(Attachment::Mark { back, .. }) => index.saturating_sub(back as usize),
            _ => index,
        };
        origins[index].1 += heights[base];
    }
}
