//! Cameras, labels that follow, motion and menus.

use std::collections::BTreeMap;

use kerno::atlas::SpriteOptions;
use kerno::base::{Image, Insets};
use kerno::draw::RectStyle;
use kerno::markup::{StringTables, StyleFile, Value, ValueDeclaration};
use kerno::screen::{
    Camera, Content, Easing, Element, FocusDirection, Follow, Motion, MotionKind, Pose, Screen,
    ScreenDescription, ScreenError, WorldPlace, next_focus,
};
use kerno::{Anchor, Atlas, Canvas, Color, DeviceSize, Fit, Offset, Point, Rect, Size, Viewport};
use proptest::prelude::*;

fn view() -> Viewport {
    let window = DeviceSize::new(1280, 720);
    Viewport::new(Size::new(640.0, 360.0), window, Fit::Contain).expect("a window")
}

#[test]
fn a_camera_turns_and_zooms_about_the_middle() {
    let window = Rect::new(0.0, 0.0, 640.0, 360.0);
    let camera = Camera::new(Point::new(10.0, 20.0), 3.0);
    assert_eq!(
        camera.design_point(Point::new(10.0, 20.0), window),
        Point::new(320.0, 180.0)
    );
    assert_eq!(
        camera.design_point(Point::new(11.0, 22.0), window),
        Point::new(323.0, 186.0)
    );
    // Turned by a quarter clockwise, what was to the right is above.
    let turned = camera
        .rotation(90.0)
        .design_point(Point::new(11.0, 20.0), window);
    assert!(
        (turned.x - 320.0).abs() < 1e-3 && (turned.y - 177.0).abs() < 1e-3,
        "{turned:?}"
    );
    let up = camera
        .y_up(true)
        .design_point(Point::new(10.0, 21.0), window);
    assert_eq!(up, Point::new(320.0, 177.0));
}

proptest! {
    #[test]
    fn the_way_to_the_world_leads_back(
        (x, y) in (-500.0_f32..500.0, -500.0_f32..500.0),
        (zoom, turn, y_up) in (0.1_f32..20.0, -360.0_f32..360.0, any::<bool>()),
    ) {
        let window = Rect::new(-20.0, 0.0, 680.0, 360.0);
        let camera = Camera::new(Point::new(30.0, -40.0), zoom).rotation(turn).y_up(y_up);
        let back = camera.world_point(camera.design_point(Point::new(x, y), window), window);
        prop_assert!((back.x - x).abs() < 0.1 && (back.y - y).abs() < 0.1, "{back:?}");
    }

    #[test]
    fn labels_that_are_kept_stay_inside(
        (x, y) in (-2000.0_f32..2000.0, -2000.0_f32..2000.0),
        (width, height) in (1.0_f32..200.0, 1.0_f32..60.0),
    ) {
        let camera = Camera::new(Point::ORIGIN, 1.5);
        let follow = Follow::new(Point::new(x, y)).kept_inside(Insets::all(8.0));
        let place = follow.place(&camera, Size::new(width, height), &view());
        let room = Rect::new(8.0, 8.0, 624.0, 344.0);
        prop_assert!(place.rect.x >= room.x - 1e-3 && place.rect.right() <= room.right() + 1e-3);
        prop_assert!(place.rect.y >= room.y - 1e-3 && place.rect.bottom() <= room.bottom() + 1e-3);
        // A pointer leads from the label to its place.
        let free = Follow::new(Point::new(x, y)).place(&camera, Size::new(width, height), &view());
        prop_assert_eq!(place.pointer.is_some(), free.rect != place.rect);
    }
}

#[test]
fn labels_keep_their_size_or_grow() {
    let camera = Camera::new(Point::ORIGIN, 2.0);
    let at = Follow::new(Point::new(10.0, 0.0)).offset(Offset::new(0.0, -6.0));
    let size = Size::new(40.0, 10.0);
    let place = at.place(&camera, size, &view());
    assert_eq!(place.rect, Rect::new(320.0, 164.0, 40.0, 10.0));
    let grown = at.scales(true).place(&camera, size, &view());
    assert_eq!(
        (grown.rect, grown.scale),
        (Rect::new(300.0, 148.0, 80.0, 20.0), 2.0)
    );
    assert!(
        !Follow::new(Point::new(900.0, 0.0))
            .place(&camera, size, &view())
            .is_seen
    );
}

/// A screen with a plate of 40 × 10 that follows a value.
fn followed(place: WorldPlace) -> Result<(Screen, Atlas), ScreenError> {
    let plate = Element::new("plate", Content::Rect(RectStyle::filled(Color::WHITE)))
        .size(40.0, 10.0)
        .offset(Offset::new(0.0, -6.0))
        .world(place);
    let description = ScreenDescription::new(Size::new(640.0, 360.0))
        .value(ValueDeclaration::new("boat", Point::new(10.0, 0.0)))
        .value(ValueDeclaration::new("fares", 3.0))
        .element(plate);
    let written = description.to_toml()?;
    assert_eq!(ScreenDescription::from_toml(&written)?, description);
    let mut atlas = Atlas::default();
    let arrow = Image::new(4, 2, vec![255; 32]).expect("a picture");
    atlas.add_sprite("arrow", &arrow, SpriteOptions::default())?;
    let (styles, strings) = (StyleFile::default(), StringTables::default());
    Ok((
        Screen::new(description, styles, strings, &mut atlas)?,
        atlas,
    ))
}

#[test]
fn elements_follow_values_in_the_world() {
    let place = WorldPlace::new("boat")
        .kept_inside(Insets::all(8.0))
        .pointer("arrow".to_owned());
    let (mut screen, mut atlas) = followed(place).expect("a screen");
    screen.set_camera(Camera::new(Point::ORIGIN, 2.0));
    let mut look = |screen: &mut Screen| {
        let quads = screen
            .frame(&mut atlas, &view())
            .expect("a frame")
            .quad_count();
        (screen.element_rect("plate").expect("a plate"), quads)
    };
    // As `labels_keep_their_size_or_grow`; a quad for the plate.
    let seen = Rect::new(320.0, 164.0, 40.0, 10.0);
    assert_eq!(look(&mut screen), (seen, 1));
    screen.set("boat", Point::new(0.0, 20.0)).expect("a point");
    assert_eq!(look(&mut screen), (Rect::new(300.0, 204.0, 40.0, 10.0), 1));
    // Out of sight it is kept, and the arrow is a sprite more.
    screen.set("boat", Point::new(500.0, 0.0)).expect("a point");
    let (rect, quads) = look(&mut screen);
    assert_eq!(rect, Rect::new(592.0, 164.0, 40.0, 10.0));
    assert!(quads > 1, "{quads}");
    screen.set_camera(Camera::new(Point::new(500.0, 0.0), 3.0));
    assert_eq!(look(&mut screen).1, 1);
    // The same by a map; and what is no place is refused.
    let map = |x: f32| BTreeMap::from([("boat", vec![x, 0.0])]);
    let all = screen.set_all(&map(1.0)).expect_err("fares are missing");
    assert!(all.to_string().contains("“fares” is missing"), "{all}");
    assert_eq!(
        screen.value("boat"),
        Some(&Value::Point(Point::new(1.0, 0.0)))
    );
    assert!(screen.set("boat", Point::new(f32::NAN, 0.0)).is_err());
    assert!(screen.set("boat", 4.0).is_err());
    let refused = followed(WorldPlace::new("fares")).expect_err("no point");
    assert!(
        refused.to_string().contains("is a number and no point"),
        "{refused}"
    );
    // One that is not kept goes out of sight and is not drawn.
    let (mut screen, mut atlas) = followed(WorldPlace::new("boat")).expect("a screen");
    screen.set("boat", Point::new(900.0, 0.0)).expect("a point");
    let frame = screen.frame(&mut atlas, &view()).expect("a frame");
    assert_eq!(frame.quad_count(), 0);
}

#[test]
fn easing_is_that_of_css() {
    // By solving the curves of CSS Easing Functions 1 at the half by hand: for `ease` x(t) =
    // 0.5 at t = 0.7, near enough, and so on.
    let half = |easing: Easing| easing.at(0.5);
    assert!(
        (half(Easing::Ease) - 0.8024).abs() < 1e-3,
        "{}",
        half(Easing::Ease)
    );
    assert!(
        (half(Easing::EaseIn) - 0.3154).abs() < 1e-3,
        "{}",
        half(Easing::EaseIn)
    );
    assert!((half(Easing::EaseOut) - 0.6846).abs() < 1e-3);
    assert!((half(Easing::EaseInOut) - 0.5).abs() < 1e-5);
    assert!((half(Easing::CubicBezier(0.0, 0.0, 1.0, 1.0)) - 0.5).abs() < 1e-4);
    for easing in [Easing::Ease, Easing::CubicBezier(9.0, 2.0, -3.0, f32::MAX)] {
        assert_eq!(
            (
                easing.at(-1.0),
                easing.at(0.0),
                easing.at(1.0),
                easing.at(7.0)
            ),
            (0.0, 0.0, 1.0, 1.0)
        );
        assert_eq!(easing.at(f32::NAN), 0.0);
    }
}

#[test]
fn motions_are_pure_in_time_and_end_where_they_should() {
    let kinds = [
        MotionKind::FadeIn,
        MotionKind::SlideIn(Offset::new(20.0, 0.0)),
        MotionKind::Pop,
        MotionKind::Pulse(0.2),
        MotionKind::Shake(4.0),
    ];
    for kind in kinds {
        let motion = Motion::new(kind, 0.4).delay(0.1);
        assert_eq!(motion.pose(motion.end()), Pose::STILL, "{kind:?}");
        assert_eq!(motion.pose(f32::INFINITY), Pose::STILL, "{kind:?}");
        for step in 0..20 {
            let pose = motion.pose(step as f32 * 0.03);
            assert_eq!(pose, motion.pose(step as f32 * 0.03));
            let reduced = motion.reduced().pose(step as f32 * 0.03);
            assert_eq!(
                (reduced.offset, reduced.scale),
                (Offset::ZERO, 1.0),
                "{kind:?}"
            );
        }
    }
    let slide =
        Motion::new(MotionKind::SlideIn(Offset::new(20.0, 0.0)), 1.0).easing(Easing::Linear);
    assert_eq!(slide.pose(0.25).offset, Offset::new(15.0, 0.0));
    assert_eq!(Motion::new(MotionKind::FadeOut, 0.5).pose(9.0).opacity, 0.0);
    assert_eq!(Motion::new(MotionKind::Pop, 0.0).pose(0.0), Pose::STILL);
}

#[test]
fn a_screen_plays_motions() {
    let block = Content::Rect(RectStyle::filled(Color::WHITE));
    let plate = Element::new("plate", block)
        .size(40.0, 20.0)
        .anchor(Anchor::CENTER);
    let description = ScreenDescription::new(Size::new(100.0, 100.0)).element(plate);
    let mut atlas = Atlas::default();
    let (styles, strings) = (StyleFile::default(), StringTables::default());
    let made = Screen::new(description, styles, strings, &mut atlas);
    let mut screen = made.expect("a screen");
    let view = screen
        .viewport(DeviceSize::new(100, 100))
        .expect("a window");
    let mut light = |screen: &mut Screen| {
        let mut canvas = Canvas::new(DeviceSize::new(100, 100));
        canvas.draw(screen.frame(&mut atlas, &view).expect("a frame"), &atlas);
        let sum: u32 = canvas
            .pixels()
            .iter()
            .map(|pixel| u32::from(pixel[3]))
            .sum();
        sum as f32 / 255.0
    };
    assert_eq!(light(&mut screen), 800.0);
    screen
        .play(
            "plate",
            Motion::new(MotionKind::FadeOut, 1.0).easing(Easing::Linear),
        )
        .expect("played");
    screen.advance(0.25);
    assert!((light(&mut screen) - 600.0).abs() < 5.0);
    screen.advance(2.0);
    assert_eq!(light(&mut screen), 0.0);
    screen.stop("plate").expect("stopped");
    assert_eq!(light(&mut screen), 800.0);
    // Twice as large is four times the area, about its middle.
    screen
        .play(
            "plate",
            Motion::new(MotionKind::Pulse(1.0), 1.0).easing(Easing::Linear),
        )
        .expect("played");
    screen.advance(0.5);
    assert!((light(&mut screen) - 3200.0).abs() < 130.0);
    assert!(
        screen
            .play("plat", Motion::new(MotionKind::Pop, 1.0))
            .is_err()
    );
}

#[test]
fn direction_keys_lead_to_the_nearest_entry() {
    let grid: Vec<Rect> = Rect::new(0.0, 0.0, 90.0, 60.0)
        .rows(2, 0.0)
        .flat_map(|row| row.columns(3, 0.0).collect::<Vec<_>>())
        .collect();
    let next = |from, direction| next_focus(&grid, from, direction);
    assert_eq!(next(0, FocusDirection::Right), Some(1));
    assert_eq!(next(0, FocusDirection::Down), Some(3));
    assert_eq!(next(4, FocusDirection::Up), Some(1));
    assert_eq!(next(5, FocusDirection::Left), Some(4));
    assert_eq!(
        next(2, FocusDirection::Right),
        Some(0),
        "round again, in its row"
    );
    assert_eq!(next(9, FocusDirection::Right), None);
    assert_eq!(next_focus(&grid[..1], 0, FocusDirection::Up), None);
}
