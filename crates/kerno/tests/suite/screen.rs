//! From design to window.

use kerno::base::{DevicePoint, Insets};
use kerno::screen::ViewportError;
use kerno::{Anchor, Canvas, Color, DeviceSize, Fit, Offset, Point, Rect, Size, Viewport};
use proptest::prelude::*;

const DESIGN: Size = Size::new(640.0, 360.0);

fn view(width: u32, height: u32, fit: Fit) -> Viewport {
    Viewport::new(DESIGN, DeviceSize::new(width, height), fit).expect("a window")
}

#[test]
fn each_fit_scales_as_css_says() {
    // 1000 × 900 over 640 × 360: 1.5625 across, 2.5 down.
    let corner = |fit, x, y| view(1000, 900, fit).mapping().point(Point::new(x, y));
    let at = DevicePoint::new;
    // Contain: 1.5625, 337.5 px left over above and below, on whole pixels.
    assert_eq!(corner(Fit::Contain, 0.0, 0.0), at(0.0, 169.0));
    assert_eq!(corner(Fit::Contain, 640.0, 360.0), at(1000.0, 731.5));
    // Cover: 2.5, 600 px cut off left and right.
    assert_eq!(corner(Fit::Cover, 0.0, 0.0), at(-300.0, 0.0));
    assert_eq!(corner(Fit::Cover, 640.0, 360.0), at(1300.0, 900.0));
    // Fill: corner on corner, pictures by the smaller factor.
    assert_eq!(corner(Fit::Fill, 0.0, 0.0), at(0.0, 0.0));
    assert_eq!(corner(Fit::Fill, 640.0, 360.0), at(1000.0, 900.0));
    assert_eq!(view(1000, 900, Fit::Fill).mapping().scale(), 1.5625);
    // Whole: 1.
    assert_eq!(corner(Fit::Integer, 0.0, 0.0), at(180.0, 270.0));
    assert_eq!(view(1999, 900, Fit::Integer).mapping().scale(), 2.0);
    assert_eq!(view(320, 180, Fit::Integer).mapping().scale(), 1.0);
    // None: the monitor's scale, (1000 - 960) / 2 and (900 - 540) / 2 px around.
    let own = view(1000, 900, Fit::None).with_monitor_scale(1.5);
    assert_eq!(own.mapping().point(Point::ORIGIN), at(20.0, 180.0));
    assert_eq!(own.mapping().scale(), 1.5);
    assert_eq!(own.with_monitor_scale(f32::NAN).mapping().scale(), 1.0);
    let by_window = view(1000, 900, Fit::Contain);
    assert_eq!(
        by_window.with_monitor_scale(2.0).mapping(),
        by_window.mapping()
    );
    let scales = [0.1, 1.5, 9.0, f32::NAN].map(|scale| own.with_text_scale(scale).text_scale());
    assert_eq!(scales, [0.5, 1.5, 3.0, 1.0]);
}

#[test]
fn what_shows_nothing_is_refused() {
    let error = |design, window| Viewport::new(design, window, Fit::Contain).expect_err("nothing");
    let window = DeviceSize::new(640, 360);
    let minimised = DeviceSize::new(640, 0);
    assert_eq!(error(DESIGN, minimised), ViewportError::Window(minimised));
    for design in [
        Size::new(0.0, 9.0),
        Size::new(9.0, -1.0),
        Size::new(f32::INFINITY, 9.0),
    ] {
        assert_eq!(error(design, window), ViewportError::Design(design));
    }
    assert!(matches!(
        error(Size::new(f32::NAN, 9.0), window),
        ViewportError::Design(_)
    ));
}

fn any_fit() -> impl Strategy<Value = Fit> {
    prop::sample::select(vec![
        Fit::Contain,
        Fit::Cover,
        Fit::Fill,
        Fit::Integer,
        Fit::None,
    ])
}

proptest! {
    #[test]
    fn corners_stay_in_their_corners(
        width in 1_u32..8000,
        height in 1_u32..8000,
        fit in any_fit(),
        (x, y) in (0.0_f32..=1.0, 0.0_f32..=1.0),
    ) {
        let view = view(width, height, fit);
        let anchor = Anchor::new(x, y);
        let at = view.mapping().point(view.place(anchor, Offset::ZERO));
        let tolerance = 0.01 + (width.max(height) as f32) * 1e-5;
        prop_assert!((at.x - x * width as f32).abs() < tolerance, "{at:?}");
        prop_assert!((at.y - y * height as f32).abs() < tolerance, "{at:?}");
    }

    #[test]
    fn the_way_back_leads_back(
        width in 1_u32..8000,
        height in 1_u32..8000,
        fit in any_fit(),
        (x, y) in (-700.0_f32..700.0, -700.0_f32..700.0),
    ) {
        let mapping = view(width, height, fit).mapping();
        let back = mapping.design_point(mapping.point(Point::new(x, y)));
        // A design pixel may be far smaller than a device pixel.
        let tolerance = 1e-3 * (1.0 + 1.0 / mapping.scale());
        prop_assert!((back.x - x).abs() < tolerance && (back.y - y).abs() < tolerance, "{back:?}");
    }
}

#[test]
fn rectangles_do_what_they_say() {
    let rect = Rect::new(10.0, 20.0, 40.0, 30.0);
    assert_eq!(rect.point(Anchor::BOTTOM_RIGHT), Point::new(50.0, 50.0));
    assert_eq!(rect.point(Anchor::new(0.25, 0.5)), Point::new(20.0, 35.0));
    assert_eq!(
        rect.inset(Insets::sides(5.0, 10.0)),
        Rect::new(20.0, 25.0, 20.0, 20.0)
    );
    // A border wider than the box meets in its middle.
    assert_eq!(
        rect.inset(Insets::all(60.0)),
        Rect::new(30.0, 35.0, 0.0, 0.0)
    );
    assert_eq!(
        rect.moved(-Offset::new(10.0, 20.0)).point(Anchor::TOP_LEFT),
        Point::ORIGIN
    );
    let beside = Rect::new(50.0, 20.0, 5.0, 5.0);
    assert!(!rect.overlaps(beside), "half-open");
    assert!(rect.overlaps(beside.moved(Offset::new(-0.5, 0.0))));
    assert_eq!(rect.union(beside), Rect::new(10.0, 20.0, 45.0, 30.0));
    assert_eq!(rect.union(Rect::default()), rect);
}

#[test]
fn anchors_keep_off_what_may_not_be_seen() {
    let window = DeviceSize::new(1280, 720);
    let view = Viewport::new(Size::new(640.0, 360.0), window, Fit::Contain).expect("a view");
    // A television's edge of a twentieth, and a notch of 40 pixels on the left.
    let notch = Insets {
        left: 40.0,
        ..Insets::all(0.0)
    };
    let safe = view.safe_area(Insets::all(0.05), notch);
    // 64 + 40 pixels from the left, 64 from the right, 36 above and below, two a design pixel.
    assert_eq!(safe.safe_rect(), Rect::new(52.0, 18.0, 556.0, 324.0));
    let corner = safe.place(Anchor::TOP_RIGHT, Offset::new(-10.0, 4.0));
    assert_eq!(corner, Point::new(598.0, 22.0));
    assert_eq!(view.safe_rect(), view.window_rect());
    // Numbers out of range are cut to it.
    let wild = view.safe_area(Insets::all(f32::INFINITY), Insets::all(-9.0));
    assert_eq!(wild.safe_rect().width, 0.0);
    // One that is no number counts for nothing.
    let odd = Insets {
        left: f32::NAN,
        ..Insets::all(0.05)
    };
    let safe = view.safe_area(odd, Insets::all(f32::NAN));
    assert_eq!(safe.safe_rect(), Rect::new(0.0, 18.0, 608.0, 324.0));
    // Both ways, and from the bottom up.
    let at = view.design_point(DevicePoint::new(200.0, 100.0));
    assert_eq!(at, Point::new(100.0, 50.0));
    assert_eq!(view.to_y_up(at), (100.0, 310.0));
    assert_eq!(view.from_y_up(100.0, 310.0), at);
}

#[test]
fn a_virtual_raster_is_shown_in_whole_squares() {
    let mut raster = Canvas::new(DeviceSize::new(2, 1));
    raster.clear(Color::WHITE);
    let mut window = Canvas::new(DeviceSize::new(8, 5));
    window.clear(Color::BLACK);
    window.draw_enlarged(&raster, 1, 1, 3);
    for (index, pixel) in window.pixels().iter().enumerate() {
        let (x, y) = (index % 8, index / 8);
        let is_inside = (1..7).contains(&x) && (1..4).contains(&y);
        assert_eq!(pixel[0] == 255, is_inside, "{x}, {y}");
    }
    // Parts outside are left out.
    window.clear(Color::BLACK);
    window.draw_enlarged(&raster, -4, -1, 3);
    let lit = window.pixels().iter().filter(|pixel| pixel[0] == 255);
    assert_eq!(lit.count(), 2 * 2);
}
