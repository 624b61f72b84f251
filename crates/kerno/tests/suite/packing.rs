//! The packer for rectangles that are all known.

use kerno::atlas::{Packed, Packing, PackingOptions, Skyline, TexelRect};
use kerno::raster::{GlyphRequest, Rasterizer};
use proptest::prelude::*;

use crate::support::lato;

fn overlap(a: &TexelRect, b: &TexelRect) -> bool {
    a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height
}

/// A place with its padding.
fn padded(place: &Packed, padding: u16) -> TexelRect {
    TexelRect {
        x: place.texels.x - padding,
        y: place.texels.y - padding,
        width: place.texels.width + 2 * padding,
        height: place.texels.height + 2 * padding,
    }
}

proptest! {
    #[test]
    fn nothing_is_lost_overlaps_or_leaves_its_page(
        sizes in prop::collection::vec((1_u16..80, 1_u16..50), 0..120),
        padding in 0_u16..4,
        power_of_two in any::<bool>(),
        may_rotate in any::<bool>(),
        largest_side in 90_u16..300,
    ) {
        let options = PackingOptions::default()
            .largest_side(largest_side)
            .padding(padding)
            .power_of_two(power_of_two)
            .may_rotate(may_rotate);
        let side = if power_of_two { (largest_side + 1).next_power_of_two() / 2 } else { largest_side };
        let packing = Packing::of(&sizes, &options);
        let fits = |length: u16| length + 2 * padding <= side;
        let all_fit = sizes.iter().all(|(width, height)| fits(*width) && fits(*height));
        prop_assert_eq!(packing.is_some(), all_fit);
        let packing = packing.unwrap_or_default();
        for page in &packing.pages {
            prop_assert!(page.0 <= largest_side && page.1 <= largest_side);
            prop_assert!(!power_of_two || (page.0.is_power_of_two() && page.1.is_power_of_two()));
        }
        if all_fit {
            prop_assert_eq!(packing.places.len(), sizes.len());
        }
        for (place, (width, height)) in packing.places.iter().zip(&sizes) {
            let (width, height) = if place.is_rotated { (height, width) } else { (width, height) };
            prop_assert_eq!((place.texels.width, place.texels.height), (*width, *height));
            prop_assert!(may_rotate || !place.is_rotated);
            let outer = padded(place, padding);
            let page = packing.pages[place.page as usize];
            prop_assert!(outer.x + outer.width <= page.0 && outer.y + outer.height <= page.1);
        }
        for (index, place) in packing.places.iter().enumerate() {
            for other in &packing.places[..index] {
                let apart = place.page != other.page
                    || !overlap(&padded(place, padding), &padded(other, padding));
                prop_assert!(apart, "{:?} {:?}", place, other);
            }
        }
    }
}

/// The share of the pages that rectangles take, padding included.
fn fill(sizes: &[(u16, u16)], options: &PackingOptions) -> f64 {
    let packing = Packing::of(sizes, options).expect("room");
    let outer = |length: u16| f64::from(length + 2 * options.padding);
    let area: f64 = sizes.iter().map(|size| outer(size.0) * outer(size.1)).sum();
    area / packing.area() as f64
}

#[test]
fn pages_are_filled() {
    // A thousand glyphs of a text face at 16 to 48 px.
    let (face, mut rasterizer) = (lato(), Rasterizer::new());
    let sizes = (4..=12).map(|quarter| quarter as f32 * 4.0);
    let mut glyphs = Vec::new();
    for size in sizes {
        for (_, glyph) in face.characters().filter(|(character, _)| *character < 'Ā') {
            let picture = rasterizer
                .glyph(&GlyphRequest::new(&face, glyph, size))
                .expect("a picture");
            if !picture.is_empty() {
                glyphs.push((picture.width as u16, picture.height as u16));
            }
        }
    }
    glyphs.truncate(1000);
    assert_eq!(glyphs.len(), 1000);
    let share = fill(&glyphs, &PackingOptions::default());
    assert!(share > 0.92, "glyphs: {share}");
    // The same one by one, as a game meets them: in no order at all.
    let mut state = 0x2545_f491_4f6c_dd1d_u64;
    for last in (1..glyphs.len()).rev() {
        state ^= state << 13;
        state ^= state >> 7;
        state ^= state << 17;
        glyphs.swap(last, (state % (last as u64 + 1)) as usize);
    }
    let padding = 2 * PackingOptions::default().padding;
    let mut page = Skyline::new(1024, 1024);
    let (mut taken, mut bottom) = (0, 0);
    for (width, height) in glyphs {
        let place = page.place(width + padding, height + padding).expect("room");
        taken += u64::from(place.width) * u64::from(place.height);
        bottom = bottom.max(u64::from(place.y + place.height));
    }
    let share = taken as f64 / (1024 * bottom) as f64;
    assert!(share > 0.88, "glyphs one by one: {share}");
    // Interface pictures: icons, buttons, bars, portraits, by a fixed rule.
    let part = |index: u16, step: u16, most: u16| index.wrapping_mul(step) % most;
    let sprites: Vec<(u16, u16)> = (0..500_u16)
        .map(|index| match index % 10 {
            0..4 => (32, 32),
            4 | 5 => (64, 48 + part(index, 7, 32)),
            6 | 7 => (16 + part(index, 37, 240), 20 + part(index, 13, 40)),
            8 => (200 + part(index, 53, 300), 24 + part(index, 29, 90)),
            _ => (8 + part(index, 31, 120), 8 + part(index, 17, 120)),
        })
        .collect();
    let share = fill(&sprites, &PackingOptions::default());
    assert!(share > 0.93, "sprites: {share}");
}

#[test]
fn equal_rectangles_pack_alike_and_on_their_side_where_that_helps() {
    let turned = PackingOptions::default()
        .may_rotate(true)
        .padding(0)
        .largest_side(100);
    let sizes = [(100, 20), (20, 80), (80, 80)];
    let packing = Packing::of(&sizes, &turned).expect("room");
    assert_eq!((packing.pages.len(), packing.area()), (1, 100 * 100));
    assert_eq!(Packing::of(&sizes, &turned), Some(packing));
    let none = Packing::of(&[], &turned).expect("nothing to place");
    assert_eq!((none.pages.len(), none.area()), (0, 0));
    assert_eq!(Packing::of(&[(0, 4)], &turned), None);
    assert_eq!(Packing::of(&[(101, 4)], &turned), None);
}
