//! Where glyphs are drawn that stand on others.

use super::shape::Shaped;
use crate::font::Attachment;

/// Where each glyph is drawn, rightwards and upwards, by where the pen stands for it:
/// marks on their bases, cursive letters as high as what they follow.
pub(super) fn origins(glyphs: &[Shaped], pens: &[f64], unit: f64) -> Vec<(f64, f64)> {
    let mut origins: Vec<(f64, f64)> = Vec::with_capacity(glyphs.len());
    for (index, glyph) in glyphs.iter().enumerate() {
        let own = (
            pens[index] + f64::from(glyph.x) * unit,
            f64::from(glyph.y) * unit,
        );
        let place = match glyph.attachment {
            Some(Attachment::Mark { back, x, y }) => {
                let base = index.checked_sub(back as usize).map(|base| origins[base]);
                base.map_or(own, |base| {
                    (base.0 + f64::from(x) * unit, base.1 + f64::from(y) * unit)
                })
            }
            _ => own,
        };
        origins.push(place);
    }
    lift(glyphs, &mut origins, unit);
    origins
}

/// Gives glyphs that join cursively the height of those that they follow.
fn lift(glyphs: &[Shaped], origins: &mut [(f64, f64)], unit: f64) {
    let parent = |index: usize| match glyphs[index].attachment {
        Some(Attachment::Cursive { on, y }) => {
            let parent = index.checked_add_signed(on as isize)?;
            (parent < glyphs.len()).then_some((parent, y))
        }
        _ => None,
    };
    if !glyphs
        .iter()
        .any(|glyph| matches!(glyph.attachment, Some(Attachment::Cursive { .. })))
    {
        return;
    }
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
    let lifted: Vec<f64> = (0..glyphs.len()).map(height).collect();
    for (index, glyph) in glyphs.iter().enumerate() {
        let base = match glyph.attachment {
            Some(Attachment::Mark { back, .. }) => index.saturating_sub(back as usize),
            _ => index,
        };
        origins[index].1 += lifted[base];
    }
}
