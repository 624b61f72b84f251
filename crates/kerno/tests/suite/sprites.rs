//! Sprites: what is trimmed, shared, repeated, numbered and timed.

use std::fs;

use kerno::atlas::{Animation, AtlasError, PageKind, Sampling, SliceFill, SpriteId, SpriteOptions};
use kerno::base::{Image, Insets, Mapping};
use kerno::draw::{DrawSprite, Scope};
use kerno::{Anchor, Atlas, Canvas, Color, DeviceSize, FrameBuilder, Point, Rect};
use tempfile::TempDir;

/// A picture whose pixels are told by a letter each: `.` clear, `r`, `g`, `b`.
fn picture(rows: &[&str]) -> Image {
    let pixel = |letter| match letter {
        'r' => [255, 0, 0, 255],
        'g' => [0, 255, 0, 255],
        'b' => [0, 0, 255, 255],
        _ => [0; 4],
    };
    let pixels = rows.iter().flat_map(|row| row.chars()).flat_map(pixel);
    Image::new(rows[0].len() as u32, rows.len() as u32, pixels.collect()).expect("a picture")
}

/// The picture drawn on clear ground of 8 × 8, by the same letters.
fn drawn(atlas: &mut Atlas, draw: impl FnOnce(&mut Scope<'_>)) -> Vec<String> {
    let mut builder = FrameBuilder::new();
    draw(&mut builder.begin(atlas, Mapping::IDENTITY));
    let mut canvas = Canvas::new(DeviceSize::new(8, 8));
    canvas.clear(Color::CLEAR);
    canvas.draw(builder.finish(), atlas);
    let image = canvas.to_image();
    let letter = |x, y| match image.pixel(x, y).expect("a pixel") {
        [255, 0, 0, 255] => 'r',
        [0, 255, 0, 255] => 'g',
        [0, 0, 255, 255] => 'b',
        [0, 0, 0, 0] => '.',
        _ => '?',
    };
    (0..8)
        .map(|y| (0..8).map(|x| letter(x, y)).collect())
        .collect()
}

fn pixel_art() -> SpriteOptions {
    SpriteOptions::default().sampling(Sampling::Nearest)
}

#[test]
fn clear_borders_take_no_texels_but_keep_their_room() {
    let rows = [
        ".......", ".......", ".......", "...rg..", ".......", ".......", ".......",
    ];
    let mut atlas = Atlas::default();
    let sprite = atlas
        .add_sprite("spark", &picture(&rows), pixel_art())
        .expect("a sprite");
    let got = drawn(&mut atlas, |frame| {
        let at = Point::new(8.0, 8.0);
        frame
            .sprite(sprite, DrawSprite::at(at, Anchor::BOTTOM_RIGHT))
            .expect("room");
    });
    // The sprite's corner is at 1, 1: its pixels three further on, and down.
    let mut wanted = vec!["........"; 8];
    wanted[4] = "....rg..";
    assert_eq!(got, wanted);
    // As a panel it fills the rectangle with its clear borders.
    let got = drawn(&mut atlas, |frame| {
        let rect = Rect::new(0.0, 0.0, 7.0, 7.0);
        frame.panel(sprite, rect).expect("room");
    });
    wanted = vec!["........"; 8];
    wanted[3] = "...rg...";
    assert_eq!(got, wanted);
    // Two texels and one clear one around them, with a padding of one: the first
    // free texel to the right of that is the seventh.
    let page = &atlas.pages(PageKind::Color)[0];
    let used = (0..64).filter(|x| (0..64).any(|y| page.texels()[(y * 1024 + x) * 4 + 3] != 0));
    assert_eq!(used.count(), 2);
}

#[test]
fn what_looks_the_same_is_kept_once() {
    let mut atlas = Atlas::default();
    let mut places = Vec::new();
    for (name, rows) in [
        ("one", ["rg", "gr"]),
        ("two", ["rg", "gr"]),
        ("three", ["gr", "rg"]),
    ] {
        let sprite = atlas
            .add_sprite(name, &picture(&rows), pixel_art())
            .expect("a sprite");
        let mut builder = FrameBuilder::new();
        let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
        let at = Point::new(0.0, 0.0);
        frame
            .sprite(sprite, DrawSprite::at(at, Anchor::TOP_LEFT))
            .expect("room");
        places.push(builder.finish().vertices[0].texel);
    }
    assert_eq!(places[0], places[1]);
    assert_ne!(places[0], places[2]);
}

#[test]
fn parts_of_a_panel_repeat_where_they_are_told_to() {
    let rows = ["rggr", "grbg", "gbrg", "rggr"];
    let panel = |edges, middle| {
        let mut atlas = Atlas::default();
        let options = pixel_art()
            .slices(Insets::all(1.0))
            .sides(edges)
            .middle(middle);
        let sprite = atlas
            .add_sprite("panel", &picture(&rows), options)
            .expect("a sprite");
        drawn(&mut atlas, |frame| {
            frame
                .panel(sprite, Rect::new(0.0, 0.0, 7.0, 6.0))
                .expect("room");
        })
    };
    let tiled = panel(SliceFill::Tile, SliceFill::Tile);
    // Five by four of the middle: two and a half repeats across, two down.
    let wanted = [
        "rgggggr.", "grbrbrg.", "gbrbrbg.", "grbrbrg.", "gbrbrbg.", "rgggggr.", "........",
        "........",
    ];
    assert_eq!(tiled, wanted);
    let mixed = panel(SliceFill::Stretch, SliceFill::Tile);
    assert_eq!(mixed[1], "grbrbrg.");
}

#[test]
fn a_folder_of_pictures_becomes_named_sprites() {
    let folder = TempDir::new().expect("a folder");
    let path = |name: &str| folder.path().join(name);
    fs::create_dir(path("bells")).expect("a folder");
    let png = picture(&["rg"]).to_png().expect("a PNG");
    for name in [
        "oar.png",
        "bells/fog 10.png",
        "bells/fog 9.png",
        "notes.txt",
    ] {
        fs::write(path(name), &png).expect("a file");
    }
    let mut atlas = Atlas::default();
    let ids = atlas
        .add_sprites_from_folder(folder.path(), &pixel_art())
        .expect("sprites");
    let names: Vec<&str> = atlas.sprite_names().map(|(name, _)| name).collect();
    assert_eq!(names, ["bells/fog 10", "bells/fog 9", "oar"]);
    assert_eq!(atlas.sprite("oar").expect("a sprite"), ids[2]);
    assert_eq!(atlas.numbered_sprites("bells/fog"), [ids[1], ids[0]]);
    let error = atlas.sprite("bells/fog_9").expect_err("a slip");
    assert!(
        error.to_string().contains("did you mean “bells/fog 9”"),
        "{error}"
    );
    // A corrupt one among good ones: named, and none is taken in.
    fs::write(path("bells/rust.png"), &png[..20]).expect("a file");
    let mut atlas = Atlas::default();
    let error = atlas
        .add_sprites_from_folder(folder.path(), &pixel_art())
        .expect_err("damage");
    assert!(
        matches!(error, AtlasError::Image(_)) && error.to_string().contains("rust.png"),
        "{error}"
    );
    assert_eq!(atlas.sprite_names().count(), 0);
    let error = atlas
        .add_sprites_from_folder(path("nowhere"), &pixel_art())
        .expect_err("no folder");
    assert!(matches!(error, AtlasError::Folder { .. }), "{error}");
}

#[test]
fn frames_follow_their_times() {
    let mut atlas = Atlas::default();
    let strip = picture(&["rrggbb"]);
    let ids = atlas
        .add_strip("lamp", &strip, 2, &pixel_art())
        .expect("three frames");
    assert_eq!(atlas.sprite("lamp/2").expect("a frame"), ids[2]);
    let error = atlas
        .add_strip("oar", &strip, 4, &pixel_art())
        .expect_err("one and a half");
    assert!(
        error.to_string().contains("whole number of frames"),
        "{error}"
    );
    let timed = |repeats| {
        let frames = ids.iter().copied().zip([0.5, 0.25, 1.0]);
        Animation::new(frames, repeats).expect("an animation")
    };
    let shown = |animation: &Animation, times: &[f64]| -> Vec<SpriteId> {
        times
            .iter()
            .map(|time| animation.sprite_at(*time))
            .collect()
    };
    let [a, b, c] = ids[..] else {
        panic!("three frames")
    };
    let times = [-1.0, 0.0, 0.49, 0.5, 0.75, 1.74, 1.75, 2.3, f64::INFINITY];
    assert_eq!(shown(&timed(true), &times), [a, a, a, b, c, c, a, b, c]);
    assert_eq!(shown(&timed(false), &times), [a, a, a, b, c, c, c, c, c]);
    for bad in [vec![], vec![(a, 0.0)], vec![(a, f32::NAN)]] {
        let error = Animation::new(bad, true).expect_err("no animation");
        assert!(matches!(error, AtlasError::BadAnimation(_)));
    }
    assert_eq!(atlas.sprite_origin(a), Anchor::CENTER);
}

#[test]
fn sprites_are_flipped_sized_and_tinted() {
    let rows = ["rg..", "b.r.", "...."];
    let mut atlas = Atlas::default();
    let sprite = atlas.add_sprite("oar", &picture(&rows), pixel_art());
    let sprite = sprite.expect("a sprite");
    let at = DrawSprite::at(Point::new(1.0, 1.0), Anchor::TOP_LEFT);
    let mut shown = |draw: DrawSprite| {
        drawn(&mut atlas, |frame| {
            frame.sprite(sprite, draw).expect("room");
        })
    };
    let row = |rows: &[String], y: usize| rows[y].clone();
    let across = shown(at.flip_x());
    assert_eq!(
        (row(&across, 1), row(&across, 2)),
        ("...gr...".into(), "..r.b...".into())
    );
    let down = shown(at.flip_y());
    assert_eq!(
        (row(&down, 3), row(&down, 2)),
        (".rg.....".into(), ".b.r....".into())
    );
    let both = shown(at.flip_x().flip_y());
    assert_eq!(
        (row(&both, 3), row(&both, 2)),
        ("...gr...".into(), "..r.b...".into())
    );
    assert_eq!(shown(at.flip_x().flip_x()), shown(at));
    // Filling a rectangle is the same, sized.
    let wide = shown(DrawSprite::filling(Rect::new(0.0, 0.0, 4.0, 3.0)).flip_x());
    assert_eq!(
        (row(&wide, 0), row(&wide, 1)),
        ("..gr....".into(), ".r.b....".into())
    );
    // Green times red is nothing at full cover.
    let red = shown(at.tint(Color::rgb(255, 0, 0)));
    assert_eq!(row(&red, 1), ".r?.....");
}
