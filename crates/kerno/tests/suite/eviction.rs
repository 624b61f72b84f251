//! An atlas that may not grow: what is not in use makes room.

use kerno::atlas::{AtlasError, AtlasOptions, PageKind, Slot};
use kerno::raster::{GlyphRequest, Rasterizer};
use kerno::{Atlas, Face};
use proptest::prelude::*;

use crate::support::{glyph, lato};

/// One page of 128 × 128 texels.
fn small() -> Atlas {
    Atlas::new(
        AtlasOptions::default()
            .page_side(128)
            .budget(128 * 128)
            .max_pages(1)
            .frames_in_flight(0),
    )
    .expect("a page side in range")
}

fn ask(atlas: &mut Atlas, face: &Face, character: char, size: f32) -> Result<Slot, AtlasError> {
    let request = GlyphRequest::new(face, glyph(face, character), size);
    Ok(atlas.glyph(&request)?.expect("ink"))
}

/// Returns whether a slot still holds the picture of its glyph, and nothing around it.
fn holds(atlas: &Atlas, slot: Slot, face: &Face, character: char, size: f32) -> bool {
    let mut rasterizer = Rasterizer::new();
    let picture = rasterizer
        .glyph(&GlyphRequest::new(face, glyph(face, character), size))
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
        error.to_string().contains("AtlasOptions::max_pages"),
        "{error}"
    );
}

#[test]
fn only_what_changed_is_to_be_uploaded() {
    let (face, mut atlas) = (lato(), small());
    let first = ask(&mut atlas, &face, 'F', 20.0).expect("room");
    let page = |atlas: &Atlas| atlas.pages(PageKind::Mask)[0].clone();
    let whole = page(&atlas).changed_since(0).expect("a new page");
    assert_eq!((whole.width, whole.height), (128, 128));
    let uploaded = page(&atlas).revision();
    assert_eq!(ask(&mut atlas, &face, 'F', 20.0).expect("room"), first);
    assert_eq!(page(&atlas).changed_since(uploaded), None);
    let second = ask(&mut atlas, &face, 'o', 20.0).expect("room").texels;
    let rect = page(&atlas).changed_since(uploaded).expect("a new glyph");
    // The picture and its padding of one.
    assert_eq!((rect.x + 1, rect.y + 1), (second.x, second.y));
    assert_eq!(
        (rect.width - 2, rect.height - 2),
        (second.width, second.height)
    );
    // Who is behind by many changes gets all of them, others only theirs.
    let mut revisions = Vec::new();
    for character in 'a'..='z' {
        revisions.push(page(&atlas).revision());
        ask(&mut atlas, &face, character, 9.0).expect("room");
    }
    let page = page(&atlas);
    let inside = |outer: kerno::atlas::TexelRect, inner: kerno::atlas::TexelRect| {
        outer.x <= inner.x
            && outer.y <= inner.y
            && inner.x + inner.width <= outer.x + outer.width
            && inner.y + inner.height <= outer.y + outer.height
    };
    let late: Vec<_> = revisions
        .iter()
        .filter_map(|at| page.changed_since(*at))
        .collect();
    assert_eq!(late.len(), 26);
    assert!(late.windows(2).all(|pair| inside(pair[0], pair[1])));
    assert!(inside(
        page.changed_since(uploaded).expect("changes"),
        late[0]
    ));
}

#[test]
fn a_window_that_is_dragged_stays_within_the_budget() {
    let face = lato();
    let budget = 512 << 10;
    let options = AtlasOptions::default().page_side(256).budget(budget);
    let mut atlas = Atlas::new(options).expect("options in range");
    let text = kerno::TextLayout::new("Fares 1,284, two bells", &kerno::Style::new(&face, 16.0));
    let text = text.expect("a layout");
    let mut builder = kerno::FrameBuilder::new();
    for step in 0..240_u16 {
        let mapping = kerno::base::Mapping::uniform(0.5 + f32::from(step) * 0.02);
        let mut frame = builder.begin(&mut atlas, mapping);
        let place = kerno::DrawText::at(kerno::Point::ORIGIN, kerno::Anchor::TOP_LEFT);
        frame.text(&text, place).expect("room");
    }
    let taken = atlas.usage().texture_bytes;
    assert!(taken <= budget, "{taken} bytes");
    // A frame gets all that it needs, whatever the budget.
    let options = options.budget(1);
    let mut atlas = Atlas::new(options).expect("options in range");
    for size in 20..60_u8 {
        ask(&mut atlas, &face, 'W', f32::from(size)).expect("room");
    }
    assert!(atlas.usage().mask_pages > 1);
}
