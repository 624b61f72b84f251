//! Which glyphs are kept, and room for new ones in the place of those that were not
//! used for longest.

use rustc_hash::FxHashMap;

use super::pages::Pages;
use super::{AtlasError, PageKind, Slot, TexelRect};
use crate::base::Treatment;

/// What tells one glyph picture from another.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub(super) struct GlyphKey {
    pub(super) face: u32,
    pub(super) size: u32,
    pub(super) glyph: u16,
    pub(super) step: u8,
    pub(super) treatment: Treatment,
}

/// A glyph's picture; none for one without ink.
#[derive(Clone, Copy, Debug)]
pub(super) struct KeptGlyph {
    pub(super) slot: Option<Slot>,
    /// The last frame that used it; [`BAKED`] for one that stays.
    pub(super) frame: u64,
}

/// The frame in which glyphs of a pack are used, so that they are never evicted.
pub(super) const BAKED: u64 = u64::MAX;

/// How much more is freed at once than is needed: the next glyph comes soon.
const ROOM: u32 = 16;

/// Frees glyphs on full pages, those first that were not used for longest, until a
/// picture of `size` may find room; none that this frame uses. `pinned` pictures
/// stay.
pub(super) fn make_room(
    glyphs: &mut FxHashMap<GlyphKey, KeptGlyph>,
    pages: &mut Pages,
    kind: PageKind,
    frame: u64,
    size: (u32, u32),
    pinned: &[Slot],
) -> Result<(), AtlasError> {
    let on_page = |(key, kept): (&GlyphKey, &KeptGlyph)| {
        let slot = kept.slot.filter(|slot| slot.kind == kind)?;
        Some((kept.frame, *key, slot))
    };
    let mut unused: Vec<_> = glyphs.iter().filter_map(on_page).collect();
    unused.retain(|(last, ..)| *last < frame);
    // The key decides among equals, so that the same frames free the same glyphs.
    unused.sort_unstable_by_key(|(last, key, _)| (*last, *key));
    let mut unused = unused.into_iter();
    let mut room = size.0.saturating_mul(size.1).saturating_mul(ROOM);
    loop {
        let mut touched = [false; 256];
        let mut freed = 0_u32;
        for (_, key, slot) in unused.by_ref() {
            glyphs.remove(&key);
            touched[usize::from(slot.page)] = true;
            freed += u32::from(slot.texels.width) * u32::from(slot.texels.height);
            if freed >= room {
                break;
            }
        }
        if freed == 0 {
            return Err(AtlasError::Full(pages.as_slice().len()));
        }
        for (page, _) in touched.iter().enumerate().filter(|(_, touched)| **touched) {
            let slots = glyphs.values().filter_map(|kept| kept.slot);
            let slots = slots.chain(pinned.iter().copied());
            let on_page = slots.filter(|slot| slot.kind == kind && usize::from(slot.page) == page);
            let kept: Vec<TexelRect> = on_page.map(|slot| slot.texels).collect();
            pages.keep_only(page, &kept);
        }
        if pages.has_room(size) {
            return Ok(());
        }
        room = room.saturating_mul(2);
    }
}
