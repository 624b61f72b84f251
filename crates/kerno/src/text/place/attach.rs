//! Places of glyphs that stand on others.

use crate::font::Attachment;
use crate::text::PlacedGlyph;

/// The longest chain of letters that join cursively: as long as a word.
const LONGEST_CHAIN: usize = 64;

/// Moves glyphs that stand on others to their places: cursive letters as high as what
/// they follow, then marks onto their bases. `attachments` are in the order of their
/// glyphs, `unit` is the length of a font unit.
pub(in crate::text) fn attach(
    glyphs: &mut [PlacedGlyph],
    attachments: &[(usize, Attachment)],
    unit: f64,
) {
    let parent = |index: usize| {
        let known = attachments
            .binary_search_by_key(&index, |(at, _)| *at)
            .ok()?;
        match attachments[known].1 {
            Attachment::Cursive { on, y } => Some((index.checked_add_signed(on as isize)?, y)),
            Attachment::Mark { .. } => None,
        }
    };
    for (index, _) in attachments {
        let (mut at, mut height) = (*index, 0.0);
        for _ in 0..LONGEST_CHAIN {
            let Some((next, y)) = parent(at) else { break };
            height += f64::from(y) * unit;
            at = next;
        }
        if let Some(glyph) = glyphs.get_mut(*index) {
            glyph.y -= height as f32;
        }
    }
    for (index, attachment) in attachments {
        let Attachment::Mark { back, x, y } = attachment else {
            continue;
        };
        // A base that is on another line leaves its mark where the pen is.
        let base = index.checked_sub(*back as usize);
        let base = base.and_then(|base| glyphs.get(base)).copied();
        if let (Some(base), Some(mark)) = (base, glyphs.get_mut(*index)) {
            mark.x = base.x + (f64::from(*x) * unit) as f32;
            mark.y = base.y - (f64::from(*y) * unit) as f32;
        }
    }
}
