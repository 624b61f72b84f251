//! Pictures of the HUD: icons, panels, the lamp-oil gauge.

use kerno::Color;

use crate::brush::{Paint, Shape, Sheet, ink};

/// Image pixels in a design pixel: sharp up to four times the design's size.
const DENSITY: f32 = 4.0;

const BRASS: Color = ink(0xd9a45a);
const BRASS_LIGHT: Color = ink(0xffd993);
const BRASS_DARK: Color = ink(0x7a4f2c);
const FLAME: Color = ink(0xffe9b0);
const EMBER: Color = ink(0xf08a3c);
const NIGHT: Color = ink(0x0c1823);
const PAPER: Color = ink(0xf1e3c4);
const WOOD: Color = ink(0x9b6a43);
const WOOD_LIGHT: Color = ink(0xc89462);
const WOOD_DARK: Color = ink(0x5d3b26);

/// 24 × 32: a storm lantern, lit.
pub(crate) fn lantern() -> Sheet {
    let mut sheet = Sheet::new(24.0, 32.0, DENSITY);
    sheet.halo(12.0, 18.0, 12.0, EMBER, 0.55);
    // Handle.
    let ring = Shape::default()
        .start(5.0, 12.0)
        .bend(5.0, 1.5, 12.0, 1.5)
        .bend(19.0, 1.5, 19.0, 12.0)
        .line(17.6, 12.0)
        .bend(17.6, 3.0, 12.0, 3.0)
        .bend(6.4, 3.0, 6.4, 12.0);
    sheet.fill(ring, BRASS_DARK);
    // Cap, glass, foot.
    let cap = Shape::default().polygon(&[(9.0, 5.5), (15.0, 5.5), (17.5, 10.5), (6.5, 10.5)]);
    sheet.fill(cap, Paint::Down(5.5, BRASS_LIGHT, 10.5, BRASS_DARK));
    let glass = Shape::default()
        .start(7.5, 11.0)
        .bend(3.8, 17.5, 7.5, 24.5)
        .line(16.5, 24.5)
        .bend(20.2, 17.5, 16.5, 11.0);
    sheet.fill(glass, Paint::Round(12.0, 19.0, 8.5, FLAME, EMBER));
    let flame = Shape::default()
        .start(12.0, 12.5)
        .bend(15.8, 18.0, 14.6, 21.0)
        .bend(13.8, 23.2, 12.0, 23.2)
        .bend(10.2, 23.2, 9.4, 21.0)
        .bend(8.6, 18.0, 12.0, 12.5);
    sheet.fill(flame, Paint::Down(12.5, ink(0xfff6dc), 23.2, ink(0xffc65c)));
    for x in [8.0, 15.2] {
        sheet.fill(Shape::default().rect(x, 10.8, 0.9, 14.0), BRASS_DARK);
    }
    let foot = Shape::default().rounded(6.0, 24.2, 12.0, 2.4, 1.0);
    sheet.fill(foot, Paint::Down(24.2, BRASS_LIGHT, 26.6, BRASS));
    let base = Shape::default().polygon(&[(7.0, 26.4), (17.0, 26.4), (18.6, 30.0), (5.4, 30.0)]);
    sheet.fill(base, Paint::Down(26.4, BRASS, 30.0, BRASS_DARK));
    sheet
}

/// 26 × 16: half of a ferry ticket, torn on the right.
pub(crate) fn ticket() -> Sheet {
    let mut sheet = Sheet::new(26.0, 16.0, DENSITY);
    let mut edge = vec![(1.5, 2.0), (23.2, 2.0)];
    edge.extend((0..7).map(|tooth| {
        let reach = if tooth % 2 == 0 { 24.8 } else { 22.6 };
        (reach, 3.0 + tooth as f32 * 1.65)
    }));
    edge.extend([(23.2, 14.0), (1.5, 14.0)]);
    let shadow: Vec<_> = edge.iter().map(|(x, y)| (x + 0.5, y + 0.8)).collect();
    sheet.fill(Shape::default().polygon(&shadow), NIGHT.with_alpha(120));
    let paper = Shape::default().polygon(&edge);
    sheet.fill(paper, Paint::Down(2.0, PAPER, 14.0, ink(0xd6bd8c)));
    // Punched holes, a printed border, a little ferry, lines of print.
    for y in [4.6, 8.0, 11.4] {
        sheet.fill(Shape::default().circle(4.0, y, 0.8), ink(0x6b4a35));
    }
    sheet.fill(Shape::default().rect(6.4, 3.6, 0.5, 8.8), ink(0xa67c52));
    let hull = Shape::default().polygon(&[(8.6, 8.4), (16.2, 8.4), (15.0, 10.8), (9.8, 10.8)]);
    sheet.fill(hull, ink(0x8c3f2d));
    sheet.fill(Shape::default().rect(10.4, 6.2, 4.0, 2.0), ink(0x8c3f2d));
    sheet.fill(Shape::default().rect(11.8, 4.2, 1.0, 2.0), ink(0x8c3f2d));
    for (y, width) in [(5.4, 4.2), (7.4, 3.2), (9.4, 4.2)] {
        sheet.fill(Shape::default().rect(17.6, y, width, 0.7), ink(0xa67c52));
    }
    sheet
}

/// 28 × 28: an oar, blade up to the right.
pub(crate) fn oar() -> Sheet {
    let mut sheet = Sheet::new(28.0, 28.0, DENSITY);
    sheet.fill(
        Shape::default().stroke((3.6, 25.4), (18.6, 10.4), 2.2),
        NIGHT.with_alpha(110),
    );
    sheet.fill(Shape::default().stroke((3.0, 24.6), (18.0, 9.6), 2.0), WOOD);
    sheet.fill(
        Shape::default().stroke((3.2, 24.0), (17.8, 9.4), 0.6),
        WOOD_LIGHT,
    );
    let blade = Shape::default()
        .start(16.0, 9.4)
        .bend(17.0, 4.6, 23.0, 2.4)
        .bend(26.6, 1.6, 25.8, 5.2)
        .bend(23.4, 11.2, 18.6, 12.0);
    sheet.fill(blade, Paint::Down(2.0, WOOD_LIGHT, 12.0, WOOD));
    let band = Shape::default().polygon(&[(19.4, 6.2), (20.8, 5.2), (22.8, 7.2), (21.8, 8.6)]);
    sheet.fill(band, ink(0xb5482f));
    sheet.fill(
        Shape::default().stroke((2.6, 25.2), (4.4, 23.4), 2.8),
        WOOD_DARK,
    );
    sheet
}

/// Four frames of 26 × 28: the fog bell on its bracket, its clapper at rest, to the
/// left, at rest, to the right.
pub(crate) fn bell() -> Sheet {
    let mut sheet = Sheet::new(26.0 * 4.0, 28.0, DENSITY);
    for (frame, swing) in [0.0, -3.6, 0.0, 3.6].into_iter().enumerate() {
        bell_at(&mut sheet, frame as f32 * 26.0, swing);
    }
    sheet
}

/// The bell at `x`, its clapper so far from the middle.
fn bell_at(sheet: &mut Sheet, x: f32, swing: f32) {
    sheet.fill(
        Shape::default().rounded(x + 3.0, 1.5, 20.0, 2.6, 1.2),
        WOOD_DARK,
    );
    sheet.fill(Shape::default().rect(x + 4.0, 2.0, 18.0, 0.6), WOOD);
    sheet.fill(Shape::default().rect(x + 12.1, 3.8, 1.8, 3.4), BRASS_DARK);
    let lift = swing.abs() * 0.1;
    sheet.fill(
        Shape::default().circle(x + 13.0 + swing, 24.0 - lift, 2.2),
        BRASS_DARK,
    );
    let body = Shape::default()
        .start(x + 13.0, 6.4)
        .bend(x + 18.6, 6.4, x + 19.2, 13.0)
        .bend(x + 19.6, 19.0, x + 23.0, 21.6)
        .line(x + 23.0, 23.0)
        .line(x + 3.0, 23.0)
        .line(x + 3.0, 21.6)
        .bend(x + 6.4, 19.0, x + 6.8, 13.0)
        .bend(x + 7.4, 6.4, x + 13.0, 6.4);
    sheet.fill(
        body,
        Paint::Round(x + 10.0, 11.0, 14.0, BRASS_LIGHT, ink(0x9a6532)),
    );
    sheet.fill(Shape::default().rect(x + 3.0, 21.6, 20.0, 1.4), BRASS_DARK);
    sheet.fill(
        Shape::default().rect(x + 6.4, 17.6, 13.2, 0.7),
        BRASS_DARK.with_alpha(150),
    );
    let shine = Shape::default()
        .start(x + 9.6, 9.4)
        .bend(x + 8.4, 13.0, x + 8.2, 17.0)
        .line(x + 9.6, 17.0)
        .bend(x + 9.6, 12.4, x + 11.0, 8.8);
    sheet.fill(shine, FLAME.with_alpha(170));
}

/// A dark plate with a thin brass rim, for nine-slices.
fn plate(side: f32, radius: f32, top: Color, bottom: Color, rim: Color) -> Sheet {
    let mut sheet = Sheet::new(side, side, DENSITY);
    let shape = |inset: f32| {
        let length = side - inset * 2.0;
        Shape::default().rounded(inset, inset, length, length, radius - inset)
    };
    sheet.fill(shape(0.0), NIGHT.with_alpha(150));
    sheet.fill(shape(0.75), rim);
    sheet.fill(shape(1.75), NIGHT);
    sheet.fill(shape(2.25), Paint::Down(2.0, top, side - 2.0, bottom));
    sheet
}

/// 32 × 32, borders of 12: for dialogue and counters.
pub(crate) fn panel() -> Sheet {
    plate(32.0, 7.0, ink(0x172b3a), ink(0x0f1e2b), ink(0xb58a52))
}

/// 24 × 24, borders of 10: for a speaker's name.
pub(crate) fn nameplate() -> Sheet {
    plate(24.0, 8.0, ink(0x6a4328), ink(0x472a1b), BRASS_LIGHT)
}

/// 48 × 24, borders of 10 left and right: the board of the next landing, cut
/// at its corners.
pub(crate) fn signboard() -> Sheet {
    let mut sheet = Sheet::new(48.0, 24.0, DENSITY);
    let board = |inset: f32| {
        let (left, right) = (inset, 48.0 - inset);
        let (top, bottom) = (inset, 24.0 - inset);
        let cut = 8.0 - inset * 0.4;
        Shape::default().polygon(&[
            (left, top),
            (right, top),
            (right, bottom - cut),
            (right - cut, bottom),
            (left + cut, bottom),
            (left, bottom - cut),
        ])
    };
    sheet.fill(board(0.0), NIGHT.with_alpha(150));
    sheet.fill(board(0.75), ink(0xb58a52));
    sheet.fill(board(1.75), NIGHT);
    sheet.fill(
        board(2.25),
        Paint::Down(2.0, ink(0x1a3141), 22.0, ink(0x0f1e2b)),
    );
    sheet
}

/// 16 × 12, borders of 5: the trough of the gauge.
pub(crate) fn gauge_back() -> Sheet {
    let mut sheet = Sheet::new(16.0, 12.0, DENSITY);
    sheet.fill(
        Shape::default().rounded(0.0, 0.0, 16.0, 12.0, 5.0),
        ink(0xb58a52),
    );
    sheet.fill(Shape::default().rounded(1.0, 1.0, 14.0, 10.0, 4.0), NIGHT);
    let trough = Shape::default().rounded(1.5, 1.5, 13.0, 9.0, 3.5);
    sheet.fill(trough, Paint::Down(1.5, ink(0x060d14), 10.5, ink(0x1c2f3c)));
    sheet
}

/// 12 × 8, borders of 3: the oil in it.
pub(crate) fn gauge_fill() -> Sheet {
    let mut sheet = Sheet::new(12.0, 8.0, DENSITY);
    let oil = Shape::default().rounded(0.0, 0.0, 12.0, 8.0, 3.0);
    sheet.fill(oil, Paint::Down(0.0, ink(0xffd272), 8.0, ink(0xd97a2b)));
    let shine = Shape::default().rounded(1.5, 1.0, 9.0, 2.0, 1.0);
    sheet.fill(shine, FLAME.with_alpha(150));
    sheet
}

/// 19 × 8, repeated from left to right: a mark of the gauge.
pub(crate) fn gauge_marks() -> Sheet {
    let mut sheet = Sheet::new(19.0, 8.0, DENSITY);
    for (y, height) in [(0.0, 2.0), (6.0, 2.0)] {
        let mark = Shape::default().rect(9.0, y, 1.0, height);
        sheet.fill(mark, NIGHT.with_alpha(170));
    }
    sheet
}
