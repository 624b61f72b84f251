//! Packing, glyph and sprite pictures on pages.

use kerno::atlas::{AtlasError, AtlasOptions, PageKind, Skyline, SpriteOptions, TexelRect};
use kerno::base::{Image, Insets, Mapping};
use kerno::draw::{DrawSprite, Vertex};
use kerno::font::GlyphId;
use kerno::raster::{GlyphRequest, RasterError, Subpixel};
use kerno::{Anchor, Atlas, FrameBuilder, Point};
use proptest::prelude::*;

use crate::support::{glyph, lato};

fn overlap(a: TexelRect, b: TexelRect) -> bool {
    a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height
}

proptest! {
    #[test]
    fn placed_rectangles_lie_on_the_page_and_apart(
        sizes in prop::collection::vec((1_u16..60, 1_u16..60), 1..120),
    ) {
        let mut page = Skyline::new(200, 160);
        let mut placed: Vec<TexelRect> = Vec::new();
        for (width, height) in sizes {
            let Some(rect) = page.place(width, height) else { continue };
            prop_assert_eq!((rect.width, rect.height), (width, height));
            prop_assert!(rect.x + width <= 200 && rect.y + height <= 160);
            prop_assert!(placed.iter().all(|other| !overlap(rect, *other)));
            placed.push(rect);
        }
        prop_assert!(!placed.is_empty());
    }
}

#[test]
fn equal_squares_fill_a_page_without_a_gap() {
    let mut page = Skyline::new(64, 64);
    let count = std::iter::from_fn(|| page.place(8, 8)).count();
    assert_eq!(count, 64);
    assert_eq!(page.place(1, 1), None);
    assert_eq!(Skyline::new(9, 9).place(0, 4), None);
    assert_eq!(Skyline::new(9, 9).place(10, 1), None);
}

fn request(face: &kerno::Face, character: char, quarter: u8) -> GlyphRequest<'_> {
    GlyphRequest::new(face, glyph(face, character), 24.0).subpixel(Subpixel::new(quarter, 4))
}

#[test]
fn a_glyph_picture_is_made_once() {
    let (face, mut atlas) = (lato(), Atlas::default());
    let first = atlas
        .glyph(&request(&face, 'g', 0))
        .expect("room")
        .expect("ink");
    let again = atlas
        .glyph(&request(&face.clone(), 'g', 0))
        .expect("room")
        .expect("ink");
    assert_eq!(first, again);
    let shifted = atlas
        .glyph(&request(&face, 'g', 2))
        .expect("room")
        .expect("ink");
    assert_ne!(first.texels, shifted.texels);
    assert_eq!(
        atlas
            .glyph(&request(&face, ' ', 0))
            .expect("no ink, no fault"),
        None
    );
    assert_eq!(atlas.usage().glyphs, 2);
    // A face of the same bytes is the same face; one made from it is another.
    let again = atlas.glyph(&request(&lato(), 'g', 0)).expect("room");
    assert_eq!(again, Some(first));
    let bold = face
        .synthesized(kerno::font::Synthesis::BOLD)
        .expect("a face");
    let other = atlas.glyph(&request(&bold, 'g', 0)).expect("room");
    assert_ne!(other.expect("ink").texels, first.texels);
}

#[test]
fn texels_on_the_page_are_the_raster_picture() {
    let (face, mut atlas) = (lato(), Atlas::default());
    let slot = atlas
        .glyph(&request(&face, 'R', 1))
        .expect("room")
        .expect("ink");
    let mut rasterizer = kerno::raster::Rasterizer::new();
    let picture = rasterizer
        .glyph(&GlyphRequest::new(&face, glyph(&face, 'R'), 24.0).subpixel(Subpixel::new(1, 4)))
        .expect("a picture");
    let page = &atlas.pages(PageKind::Mask)[usize::from(slot.page)];
    let side = usize::from(page.width());
    let TexelRect {
        x,
        y,
        width,
        height,
    } = slot.texels;
    let texels: Vec<u8> = (y..y + height)
        .flat_map(|row| &page.texels()[usize::from(row) * side + usize::from(x)..][..width.into()])
        .copied()
        .collect();
    assert_eq!(texels, picture.texels);
    assert_eq!(
        (slot.left, slot.top),
        (picture.left as f32, picture.top as f32)
    );
}

#[test]
fn missing_characters_are_counted() {
    let (face, mut atlas) = (lato(), Atlas::default());
    let notdef = GlyphRequest::new(&face, GlyphId::NOTDEF, 24.0);
    for _ in 0..3 {
        atlas
            .glyph(&notdef)
            .expect("room")
            .expect("Lato draws a box for .notdef");
    }
    assert_eq!((atlas.usage().missing, atlas.usage().glyphs), (3, 1));
}

#[test]
fn pages_are_added_as_they_fill() {
    let face = lato();
    let mut atlas =
        Atlas::new(AtlasOptions::default().page_side(64).padding(1)).expect("a page side in range");
    let slots: Vec<_> = ('A'..='Z')
        .map(|c| {
            atlas
                .glyph(&request(&face, c, 0))
                .expect("room")
                .expect("ink")
        })
        .collect();
    assert!(atlas.usage().mask_pages > 1);
    for (index, a) in slots.iter().enumerate() {
        for b in &slots[index + 1..] {
            // Padding of one texel around each leaves two between.
            let grown = TexelRect {
                x: a.texels.x - 1,
                y: a.texels.y - 1,
                width: a.texels.width + 2,
                height: a.texels.height + 2,
            };
            assert!(a.page != b.page || !overlap(grown, b.texels));
        }
    }
}

fn image(width: u32, height: u32, pixel: impl Fn(u32, u32) -> [u8; 4]) -> Image {
    let pixels = (0..height).flat_map(|y| (0..width).map(move |x| (x, y)));
    Image::new(
        width,
        height,
        pixels.flat_map(|(x, y)| pixel(x, y)).collect(),
    )
    .expect("a size")
}

/// The pixels of a page from `x`, `y`, around the only sprite on it.
fn page_pixel(atlas: &Atlas, x: usize, y: usize) -> [u8; 4] {
    let page = &atlas.pages(PageKind::Color)[0];
    let at = (y * usize::from(page.width()) + x) * 4;
    page.texels()[at..at + 4].try_into().expect("four bytes")
}

fn draw(atlas: &mut Atlas, name: &str, scale: f32) -> Result<Vec<Vertex>, AtlasError> {
    let sprite = atlas.sprite(name)?;
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(atlas, Mapping::uniform(scale));
    frame.sprite(sprite, DrawSprite::at(Point::ORIGIN, Anchor::TOP_LEFT))?;
    Ok(builder.finish().vertices.to_vec())
}

#[test]
fn a_sprite_is_shrunk_on_the_page_by_exact_shares() {
    // Density 2 at scale 1: each texel is the mean of 2 × 2 pixels,
    // premultiplied. Left half: two opaque reds of 200 and 100 each, so 150;
    // right half: one opaque of 200 and three clear, so 50 at alpha 64.
    let pixels = image(4, 2, |x, y| match (x, y) {
        (0, _) => [200, 0, 0, 255],
        (1, _) => [100, 0, 0, 255],
        (2, 0) => [200, 0, 0, 255],
        _ => [90, 90, 90, 0],
    });
    let options = SpriteOptions::default().density(2.0);
    let mut atlas = Atlas::default();
    atlas.add_sprite("oar", &pixels, options).expect("a sprite");
    let corners = draw(&mut atlas, "oar", 1.0).expect("room");
    assert_eq!(
        (corners[2].position, corners[0].texel),
        ([2.0, 1.0], [8, 8])
    );
    assert_eq!(page_pixel(&atlas, 1, 1), [150, 0, 0, 255]);
    assert_eq!(page_pixel(&atlas, 2, 1), [50, 0, 0, 64]);
    // The border goes on into the padding.
    assert_eq!(page_pixel(&atlas, 0, 0), [150, 0, 0, 255]);
    assert_eq!(page_pixel(&atlas, 3, 2), [50, 0, 0, 64]);
}

#[test]
fn a_smooth_sprite_is_enlarged_by_the_renderer() {
    let mut atlas = Atlas::default();
    let dot = image(2, 2, |_, _| [9, 9, 9, 255]);
    atlas
        .add_sprite("dot", &dot, SpriteOptions::default())
        .expect("a sprite");
    let corners = draw(&mut atlas, "dot", 3.0).expect("room");
    assert_eq!(
        (corners[2].position, corners[2].texel),
        ([6.0, 6.0], [24, 24])
    );
    let pixel_art = SpriteOptions::default().sampling(kerno::atlas::Sampling::Nearest);
    atlas.add_sprite("art", &dot, pixel_art).expect("a sprite");
    let corners = draw(&mut atlas, "art", 3.0).expect("room");
    let texels = corners[2].texel[0] - corners[0].texel[0];
    assert_eq!((corners[2].position, texels), ([6.0, 6.0], 48));
}

#[test]
fn what_cannot_be_stored_is_refused() {
    let mut atlas =
        Atlas::new(AtlasOptions::default().page_side(32).padding(1)).expect("a page side in range");
    let wide = image(31, 1, |_, _| [1; 4]);
    let small = image(2, 2, |_, _| [1; 4]);
    atlas
        .add_sprite("lantern", &wide, SpriteOptions::default())
        .expect("a sprite");
    assert!(matches!(
        draw(&mut atlas, "lantern", 1.0),
        Err(AtlasError::TooLarge {
            width: 31,
            height: 1,
            page: (32, 32)
        })
    ));
    assert!(matches!(
        atlas.add_sprite("lantern", &small, SpriteOptions::default()),
        Err(AtlasError::DuplicateSprite(_))
    ));
    let error = atlas.sprite("lantren").expect_err("a slip");
    assert_eq!(
        error.to_string(),
        "there is no sprite “lantren”; did you mean “lantern”?"
    );
    assert_eq!(
        atlas.sprite("oar").expect_err("none").to_string(),
        "there is no sprite “oar”"
    );
    for (density, slices) in [(0.0, 0.0), (f32::NAN, 0.0), (1.0, 1.5), (1.0, -1.0)] {
        let options = SpriteOptions::default()
            .density(density)
            .slices(Insets::all(slices));
        assert!(matches!(
            atlas.add_sprite("plate", &small, options),
            Err(AtlasError::BadSprite { .. })
        ));
    }
    assert!(matches!(
        Atlas::new(AtlasOptions::default().page_side(8).padding(1)),
        Err(AtlasError::PageSide(8))
    ));
    let face = lato();
    let huge = GlyphRequest::new(&face, glyph(&face, 'W'), 100.0);
    assert!(matches!(
        atlas.glyph(&huge),
        Err(AtlasError::TooLarge { .. })
    ));
    let none = GlyphRequest::new(&face, glyph(&face, 'W'), 0.0);
    assert!(matches!(
        atlas.glyph(&none),
        Err(AtlasError::Raster(RasterError::Size(_)))
    ));
}

#[test]
fn the_vertex_can_number_256_pages() {
    // Pages of 16 texels with a border of one hold one picture of 14 each.
    let mut atlas =
        Atlas::new(AtlasOptions::default().page_side(16).padding(1)).expect("a page side in range");
    for number in 0..=256_usize {
        // Each another one: what looks the same would be kept once.
        let square = image(14, 14, |_, _| [number as u8, (number >> 8) as u8, 1, 255]);
        let name = format!("sprite {number}");
        atlas
            .add_sprite(&name, &square, SpriteOptions::default())
            .expect("a sprite");
        match draw(&mut atlas, &name, 1.0) {
            Ok(corners) => assert_eq!(usize::from(corners[0].shade.page), number),
            Err(error) => assert!(
                matches!(error, AtlasError::Full(256)) && number == 256,
                "{error}"
            ),
        }
    }
    assert_eq!(atlas.usage().color_pages, 256);
}
