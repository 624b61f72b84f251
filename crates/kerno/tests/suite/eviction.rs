//! An atlas that may not grow: what is not in use makes room.

use kerno::{
    Atlas, AtlasError, AtlasOptions, Edges, Face, GlyphShape, GlyphSpec, PageKind, Rasterizer, Slot,
};
use proptest::prelude::*;

use crate::support::{glyph, lato};

/// One page of 128 × 128 texels.
fn small() -> Atlas {
    Atlas::new(AtlasOptions {
        page_side: 128,
        budget: Some(128 * 128),
        ..AtlasOptions::default()
    })
    .expect("a page side in range")
}

fn ask(atlas: &mut Atlas, face: &Face, character: char, size: f32) -> Result<Slot, AtlasError> {
    let spec = GlyphSpec {
        face,
        glyph: glyph(face, character),
        size,
        step: 0,
        treatment: Edges::Smooth.into(),
    };
    Ok(atlas.glyph(&spec)?.expect("ink"))
}

/// Whether a slot still holds the picture of its glyph, and nothing around it.
fn holds(atlas: &Atlas, slot: Slot, face: &Face, character: char, size: f32) -> bool {
    let mut rasterizer = Rasterizer::new();
    let shape = GlyphShape {
        size,
        shift_x: 0.0,
        treatment: Edges::Smooth.into(),
    };
    let picture = rasterizer
        .glyph(face, glyph(face, character), shape)
        .expect("a picture");
    let page = &atlas.pages(PageKind::Mask)[usize::from(slot.page)];
    let texel =
        |x: u16, y: u16| page.texels()[usize::from(y) * usize::from(page.width()) + usize::from(x)];
    let at = slot.texels;
    let rows = (at.y..at.y + at.height).zip(picture.texels.chunks(usize::from(at.width)));
    let same = rows
        .into_iter()
        .all(|(y, row)| (at.x..).zip(row).all(|(x, own)| texel(x, y) == *own));
    let beside = (at.y - 1..=at.y + at.height)
        .all(|y| texel(at.x - 1, y) == 0 && texel(at.x + at.width, y) == 0);
    same && beside
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    /// Frame after frame of other letters at other sizes: every glyph that a frame
    /// was given is there, whole, until the frame ends.
    #[test]
    fn what_a_frame_uses_stays(
        frames in prop::collection::vec(prop::collection::vec((0x21_u8..0x7f, 10_u8..30), 1..20), 1..30),
    ) {
        let (face, mut atlas) = (lato(), small());
        for frame in frames {
            atlas.begin_frame();
            let mut used = Vec::new();
            for (character, size) in frame {
                let (character, size) = (char::from(character), f32::from(size));
                match ask(&mut atlas, &face, character, size) {
                    Ok(slot) => used.push((slot, character, size)),
                    // Too much for one page: said, and what is there stays.
                    Err(error) => prop_assert!(matches!(error, AtlasError::Full(1)), "{error}"),
                }
            }
            for (slot, character, size) in &used {
                prop_assert!(holds(&atlas, *slot, &face, *character, *size), "{character} at {size}");
            }
        }
        prop_assert_eq!(atlas.pages(PageKind::Mask).len(), 1);
    }
}

#[test]
fn what_was_not_used_for_longest_goes_first() {
    let (face, mut atlas) = (lato(), small());
    // Fill the page over many frames; `A` is asked for in each of them.
    let mut last = Vec::new();
    for size in 12..80_u8 {
        atlas.begin_frame();
        last.push(ask(&mut atlas, &face, 'A', 12.0).expect("room"));
        ask(&mut atlas, &face, 'M', f32::from(size)).expect("room");
    }
    assert!(last.iter().all(|slot| *slot == last[0]), "never moved");
    assert!(holds(&atlas, last[0], &face, 'A', 12.0));
}

#[test]
fn without_frames_nothing_is_given_up() {
    let (face, mut atlas) = (lato(), small());
    let full = (20..90_u8).find_map(|size| ask(&mut atlas, &face, 'W', f32::from(size)).err());
    let error = full.expect("a full page");
    assert!(matches!(error, AtlasError::Full(1)), "{error}");
    assert!(
        error.to_string().contains("AtlasOptions::budget"),
        "{error}"
    );
}

#[test]
fn only_what_changed_is_to_be_uploaded() {
    let (face, mut atlas) = (lato(), small());
    let first = ask(&mut atlas, &face, 'F', 20.0).expect("room");
    let changed = |atlas: &Atlas| atlas.pages(PageKind::Mask)[0].changed();
    let whole = changed(&atlas).expect("a new page");
    assert_eq!((whole.width, whole.height), (128, 128));
    atlas.mark_uploaded();
    assert_eq!(ask(&mut atlas, &face, 'F', 20.0).expect("room"), first);
    assert_eq!(changed(&atlas), None);
    let second = ask(&mut atlas, &face, 'o', 20.0).expect("room").texels;
    let rect = changed(&atlas).expect("a new glyph");
    // The picture and its padding of one.
    assert_eq!((rect.x + 1, rect.y + 1), (second.x, second.y));
    assert_eq!(
        (rect.width - 2, rect.height - 2),
        (second.width, second.height)
    );
}
