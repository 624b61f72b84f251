//! The passengers.

use crate::brush::{Paint, Shape, Sheet, ink};

/// 64 × 64: Odelle Marsh, hooded, lit by her lantern from below left.
pub(crate) fn odelle_marsh() -> Sheet {
    let mut sheet = Sheet::new(64.0, 64.0, 4.0);
    let frame = || Shape::default().rounded(0.0, 0.0, 64.0, 64.0, 5.0);
    sheet.fill(
        frame(),
        Paint::Down(0.0, ink(0x2c4a5c), 64.0, ink(0x12212d)),
    );
    sheet.fill(
        Shape::default().circle(49.0, 13.0, 7.0),
        Paint::Round(49.0, 13.0, 7.0, ink(0xe7edd8), ink(0xb9cdc6)),
    );
    // Shoulders and cloak.
    let cloak = Shape::default()
        .start(4.0, 64.0)
        .bend(6.0, 46.0, 20.0, 42.0)
        .line(44.0, 42.0)
        .bend(58.0, 46.0, 60.0, 64.0);
    sheet.fill(cloak, Paint::Down(40.0, ink(0x7b3a34), 64.0, ink(0x3d1d22)));
    // The hood, from behind the head to the front.
    let hood = Shape::default()
        .start(32.0, 5.0)
        .bend(52.0, 7.0, 51.0, 30.0)
        .bend(51.0, 42.0, 42.0, 49.0)
        .line(22.0, 49.0)
        .bend(13.0, 42.0, 13.0, 30.0)
        .bend(12.0, 7.0, 32.0, 5.0);
    sheet.fill(
        hood,
        Paint::Round(24.0, 34.0, 34.0, ink(0x9d4a3d), ink(0x4a2228)),
    );
    let lining = Shape::default()
        .start(32.0, 11.0)
        .bend(46.0, 12.0, 46.0, 29.0)
        .bend(45.0, 42.0, 32.0, 47.0)
        .bend(19.0, 42.0, 18.0, 29.0)
        .bend(18.0, 12.0, 32.0, 11.0);
    sheet.fill(lining, ink(0x2a1418));
    head(&mut sheet);
    features(&mut sheet);
    // A clasp, and lamplight over all of it.
    sheet.fill(Shape::default().circle(32.0, 50.0, 2.6), ink(0x7a4f2c));
    sheet.fill(
        Shape::default().circle(32.0, 50.0, 1.9),
        Paint::Round(31.2, 49.2, 2.6, ink(0xffe9b0), ink(0xc98a3e)),
    );
    sheet.halo(12.0, 58.0, 44.0, ink(0xffb454), 0.38);
    sheet.keep_inside(frame());
    sheet
}

/// Hair, neck, face.
fn head(sheet: &mut Sheet) {
    let hair = Shape::default()
        .start(32.0, 14.0)
        .bend(44.0, 14.0, 43.5, 29.0)
        .bend(43.5, 38.0, 41.0, 43.0)
        .line(23.0, 43.0)
        .bend(20.5, 38.0, 20.5, 29.0)
        .bend(20.0, 14.0, 32.0, 14.0);
    sheet.fill(hair, Paint::Down(14.0, ink(0xb9b3a6), 44.0, ink(0x7d7a78)));
    sheet.fill(Shape::default().rect(28.0, 38.0, 8.0, 9.0), ink(0xb97a55));
    let face = Shape::default()
        .start(32.0, 18.0)
        .bend(41.0, 18.5, 40.5, 29.0)
        .bend(39.5, 39.5, 32.0, 41.5)
        .bend(24.5, 39.5, 23.5, 29.0)
        .bend(23.0, 18.5, 32.0, 18.0);
    sheet.fill(
        face,
        Paint::Round(27.0, 34.0, 19.0, ink(0xf6c690), ink(0xb57a58)),
    );
    let fringe = Shape::default()
        .start(22.5, 28.0)
        .bend(23.0, 17.0, 33.0, 16.5)
        .bend(42.0, 17.0, 41.5, 27.5)
        .bend(38.0, 22.0, 31.0, 22.0)
        .bend(26.0, 22.5, 22.5, 28.0);
    sheet.fill(
        fringe,
        Paint::Down(16.0, ink(0xd6d0c2), 28.0, ink(0xa19c94)),
    );
}

/// Eyes, brows, nose, mouth, and the lines of a long life.
fn features(sheet: &mut Sheet) {
    for (x, sign) in [(28.0, -1.0), (36.2, 1.0)] {
        let eye = Shape::default()
            .start(x - 2.4, 30.0)
            .bend(x, 27.8, x + 2.4, 30.0)
            .bend(x, 31.6, x - 2.4, 30.0);
        sheet.fill(eye, ink(0xfff4de));
        sheet.fill(Shape::default().circle(x - 0.2, 29.8, 1.15), ink(0x2b4a4c));
        sheet.fill(Shape::default().circle(x - 0.6, 29.4, 0.4), ink(0xffffff));
        let brow = Shape::default()
            .start(x - 2.8, 27.0 + sign * 0.3)
            .bend(x, 25.2, x + 2.8, 27.0 - sign * 0.3)
            .bend(x, 26.4, x - 2.8, 27.0 + sign * 0.3);
        sheet.fill(brow, ink(0x8b857c));
        let fold = Shape::default()
            .start(x - 2.0, 32.4)
            .bend(x, 33.4, x + 2.0, 32.2)
            .bend(x, 33.0, x - 2.0, 32.4);
        sheet.fill(fold, ink(0x9a6146).with_alpha(150));
    }
    let nose = Shape::default()
        .start(32.2, 29.5)
        .bend(33.8, 34.0, 33.6, 34.6)
        .bend(32.0, 35.8, 30.6, 34.8)
        .bend(32.4, 34.6, 32.2, 29.5);
    sheet.fill(nose, ink(0xa8694a).with_alpha(190));
    let mouth = Shape::default()
        .start(28.6, 37.6)
        .bend(32.0, 38.4, 35.4, 37.0)
        .bend(32.2, 39.8, 28.6, 37.6);
    sheet.fill(mouth, ink(0x8f3f37));
}
