//! Room for new pictures in the place of those that were not used for longest.

use super::kept::KeptPictures;
use super::pages::Pages;
use super::{AtlasError, PageKind, Slot, TexelRect};

/// The number of times what is needed that is freed at once: the next glyph comes soon.
const ROOM: u32 = 16;

/// Frees pictures on full pages, those first that were not used for longest, until one of
/// `size` may find room; none that was used in the frame `since` or later. `pinned`
/// pictures stay.
pub(super) fn make_room(
    pictures: &mut KeptPictures,
    pages: &mut Pages,
    kind: PageKind,
    since: u64,
    size: (u32, u32),
    pinned: &[Slot],
) -> Result<(), AtlasError> {
    let own = pictures.placed();
    let unused = own.filter(|(_, slot, last)| slot.kind == kind && *last < since);
    let mut unused: Vec<_> = unused.collect();
    // The key decides among equals, so that the same frames free the same pictures.
    unused.sort_unstable_by_key(|(key, _, last)| (*last, *key));
    let mut unused = unused.into_iter();
    let mut room = size.0.saturating_mul(size.1).saturating_mul(ROOM);
    loop {
        let mut touched = [false; 256];
        let mut freed = 0_u32;
        for (key, slot, _) in unused.by_ref() {
            pictures.remove(&key);
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
            let slots = pictures.placed().map(|(_, slot, _)| slot);
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
