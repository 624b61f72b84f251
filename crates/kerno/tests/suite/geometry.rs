//! Rectangles and colours.

use kerno::base::Insets;
use kerno::{Color, Point, Rect};
use proptest::prelude::*;

#[test]
fn named_colours_are_those_of_css() {
    // Read a second time by the parser of CSS colours.
    for (name, color) in Color::NAMED {
        assert_eq!(name.parse(), Ok(*color), "{name}");
    }
    assert_eq!(
        Color::NAMED.len(),
        141,
        "148 names, seven of which spell grey again"
    );
    assert_eq!(
        (Color::GOLDENROD, Color::BLACK),
        (Color::from_hex(0xdaa520), Color::from_hex(0))
    );
}

proptest! {
    #[test]
    fn parts_of_a_rectangle_fill_it_and_nothing_leaves_the_window(
        x in -50.0_f32..50.0, width in 1.0_f32..200.0, count in 1_u16..9, gap in 0.0_f32..8.0,
    ) {
        let whole = Rect::new(x, 3.0, width + gap * f32::from(count), 40.0);
        let columns: Vec<Rect> = whole.columns(count, gap).collect();
        prop_assert_eq!(columns.len(), usize::from(count));
        prop_assert!((columns[columns.len() - 1].right() - whole.right()).abs() < 1e-3);
        for pair in columns.windows(2) {
            prop_assert!((pair[1].x - pair[0].right() - gap).abs() < 1e-3);
            prop_assert!((pair[1].width - pair[0].width).abs() < 1e-3);
        }
        let window = Rect::new(0.0, 0.0, 100.0, 50.0);
        let kept = whole.kept_inside(window);
        prop_assert!(kept.x >= 0.0 && (kept.right() <= 100.001 || kept.x == 0.0));
        prop_assert_eq!(kept.size(), whole.size());
        let around = whole.outset(Insets::all(2.0));
        prop_assert!(around.contains(Point::new(x - 1.0, 2.0)) && around.contains(whole.center()));
        prop_assert!(!whole.contains(Point::new(whole.right(), 10.0)), "half-open");
        prop_assert!((around.inset(Insets::all(2.0)).width - whole.width).abs() < 1e-3);
    }
}
