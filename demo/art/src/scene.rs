//! The lake that the HUD is shown over.

use kerno::Color;

use crate::brush::{Paint, Shape, Sheet, ink};

/// The scene is soft and far away: this many image pixels a design pixel will do.
const DENSITY: f32 = 1.5;

const HULL: Color = ink(0x14202b);
const LIT: Color = ink(0xffd58a);

/// 220 × 104: the Lamplight Ferry from her side, waterline at 92.
pub(crate) fn ferry() -> Sheet {
    let mut sheet = Sheet::new(220.0, 104.0, 4.0);
    for (x, y) in [(46.0, 60.0), (84.0, 60.0), (122.0, 60.0), (158.0, 62.0)] {
        sheet.halo(x, y, 30.0, ink(0xffb65c), 0.20);
    }
    funnel_and_mast(&mut sheet);
    house(&mut sheet);
    let hull = Shape::default()
        .start(8.0, 74.0)
        .line(212.0, 74.0)
        .bend(208.0, 86.0, 196.0, 92.0)
        .line(22.0, 92.0)
        .bend(12.0, 86.0, 8.0, 74.0);
    sheet.fill(hull, Paint::Down(74.0, ink(0x223440), 92.0, ink(0x0b141c)));
    sheet.fill(Shape::default().rect(9.0, 76.0, 202.0, 1.6), ink(0xb58a52));
    lamps(&mut sheet);
    sheet
}

/// The funnel with its smoke, mast and stays.
fn funnel_and_mast(sheet: &mut Sheet) {
    sheet.halo(106.0, 9.0, 8.5, ink(0x9fb4b8), 0.30);
    sheet.halo(98.0, 7.0, 6.5, ink(0x9fb4b8), 0.22);
    let funnel =
        Shape::default().polygon(&[(102.0, 14.0), (114.0, 14.0), (116.0, 42.0), (100.0, 42.0)]);
    sheet.fill(
        funnel,
        Paint::Down(14.0, ink(0x8a3a2c), 42.0, ink(0x4d2420)),
    );
    sheet.fill(Shape::default().rect(101.2, 19.0, 13.8, 4.0), ink(0xe6c48a));
    sheet.fill(Shape::default().rect(101.8, 12.6, 12.6, 2.4), HULL);
    sheet.fill(Shape::default().rect(60.0, 10.0, 1.6, 34.0), HULL);
    for end in [(36.0, 46.0), (100.0, 30.0)] {
        sheet.fill(Shape::default().stroke((60.8, 11.0), end, 0.5), HULL);
    }
}

/// Wheelhouse, upper deck, lower deck.
fn house(sheet: &mut Sheet) {
    let wheelhouse =
        Shape::default().polygon(&[(140.0, 26.0), (168.0, 26.0), (171.0, 44.0), (138.0, 44.0)]);
    sheet.fill(
        wheelhouse,
        Paint::Down(26.0, ink(0x35505c), 44.0, ink(0x1f323d)),
    );
    sheet.fill(Shape::default().rect(136.0, 23.5, 37.0, 3.0), HULL);
    let upper = Shape::default().rounded(32.0, 43.0, 146.0, 16.0, 2.0);
    sheet.fill(upper, Paint::Down(43.0, ink(0x3f5b66), 59.0, ink(0x263c47)));
    sheet.fill(Shape::default().rect(28.0, 41.5, 154.0, 2.4), HULL);
    let lower = Shape::default().rect(24.0, 58.0, 166.0, 18.0);
    sheet.fill(lower, Paint::Down(58.0, ink(0x324b57), 76.0, ink(0x1d303b)));
    sheet.fill(Shape::default().rect(20.0, 57.0, 176.0, 2.4), HULL);
    for column in 0..3 {
        window(sheet, 143.0 + column as f32 * 8.6, 30.0, 6.6, 8.0);
    }
    for column in 0..11 {
        window(sheet, 38.0 + column as f32 * 12.4, 47.0, 7.4, 7.6);
    }
    for column in 0..12 {
        window(sheet, 31.0 + column as f32 * 13.0, 62.5, 8.4, 9.0);
    }
}

/// Lamps along the rail, each with its own small halo, and what the water throws back.
fn lamps(sheet: &mut Sheet) {
    for x in [24.0, 62.0, 100.0, 138.0, 178.0, 196.0] {
        sheet.halo(x, 54.0, 9.0, ink(0xffcf70), 0.75);
        sheet.fill(Shape::default().circle(x, 54.0, 1.5), ink(0xfff2cf));
    }
    sheet.halo(174.0, 34.0, 16.0, ink(0xffe2a0), 0.8);
    sheet.fill(Shape::default().circle(174.0, 34.0, 2.0), ink(0xfffae8));
    // Broken reflections below the waterline.
    for (row, strength) in [(93.5, 90), (96.0, 64), (98.6, 42), (101.2, 24)] {
        for column in 0..12 {
            let x = 33.0 + column as f32 * 13.0 + (row * 7.0 + column as f32 * 5.0).sin() * 2.0;
            let line = Shape::default().rounded(x, row, 7.0, 1.1, 0.5);
            sheet.fill(line, LIT.with_alpha(strength));
        }
    }
}

fn window(sheet: &mut Sheet, x: f32, y: f32, width: f32, height: f32) {
    sheet.fill(
        Shape::default().rounded(x - 0.7, y - 0.7, width + 1.4, height + 1.4, 1.6),
        HULL,
    );
    let pane = Shape::default().rounded(x, y, width, height, 1.0);
    sheet.fill(
        pane,
        Paint::Down(y, ink(0xffe3a3), y + height, ink(0xe08a3a)),
    );
    let middle = x + width * 0.5 - 0.25;
    sheet.fill(
        Shape::default().rect(middle, y, 0.5, height),
        HULL.with_alpha(170),
    );
}

/// 96 × 96: the moon behind mist.
pub(crate) fn moon() -> Sheet {
    let mut sheet = Sheet::new(96.0, 96.0, 3.0);
    sheet.halo(48.0, 48.0, 48.0, ink(0xbcd3d0), 0.55);
    sheet.fill(
        Shape::default().circle(48.0, 48.0, 15.0),
        Paint::Round(43.0, 43.0, 26.0, ink(0xf6f3df), ink(0xb9cdc6)),
    );
    for (x, y, radius) in [
        (44.0, 44.0, 3.4),
        (53.0, 50.0, 4.2),
        (46.0, 55.0, 2.4),
        (54.0, 41.0, 1.8),
    ] {
        sheet.fill(
            Shape::default().circle(x, y, radius),
            ink(0x9fb8b4).with_alpha(90),
        );
    }
    sheet
}

/// 64 × 64: soft warm light.
pub(crate) fn glow() -> Sheet {
    let mut sheet = Sheet::new(64.0, 64.0, 1.0);
    sheet.halo(32.0, 32.0, 32.0, ink(0xffbe66), 0.8);
    sheet
}

/// A skyline from a sum of waves, filled down to the bottom.
fn ridge(width: f32, height: f32, base: f32, waves: &[(f32, f32, f32)]) -> Shape {
    let mut points = vec![(0.0, height)];
    let mut x = 0.0;
    while x <= width {
        let rise: f32 = waves
            .iter()
            .map(|(size, length, phase)| size * (x / length + phase).sin())
            .sum();
        points.push((x, base - rise));
        x += 2.0;
    }
    points.push((width, height));
    Shape::default().polygon(&points)
}

/// 640 × 70: hills on the far shore, two ridges in the mist.
pub(crate) fn hills() -> Sheet {
    let mut sheet = Sheet::new(640.0, 70.0, DENSITY);
    let far = ridge(
        640.0,
        70.0,
        34.0,
        &[(14.0, 92.0, 0.4), (7.0, 37.0, 2.0), (2.5, 13.0, 1.0)],
    );
    sheet.fill(far, Paint::Down(8.0, ink(0x2f4d5e), 70.0, ink(0x3d6070)));
    let near = ridge(
        640.0,
        70.0,
        50.0,
        &[(10.0, 70.0, 2.8), (5.0, 29.0, 0.3), (1.5, 9.0, 0.0)],
    );
    sheet.fill(near, Paint::Down(30.0, ink(0x223c4c), 70.0, ink(0x31515f)));
    sheet
}

/// 640 × 64: pines on both near shores, the lake open between them.
pub(crate) fn pines() -> Sheet {
    let mut sheet = Sheet::new(640.0, 64.0, DENSITY);
    let ground = |x: f32| {
        let from_middle = ((x - 320.0).abs() / 320.0).powi(2);
        62.0 - 16.0 * from_middle - 1.5 * (x * 0.09).sin()
    };
    let mut bank = vec![(0.0, 64.0)];
    bank.extend((0..=160).map(|step| (step as f32 * 4.0, ground(step as f32 * 4.0))));
    bank.push((640.0, 64.0));
    sheet.fill(Shape::default().polygon(&bank), ink(0x101d27));
    for tree in 0..86 {
        let spread = (tree as f32 * 0.618_034).fract();
        let side = if tree % 2 == 0 { 0.0 } else { 640.0 };
        let x = (side - 230.0 * spread * spread.sqrt()).abs();
        let height = 16.0 + 22.0 * (tree as f32 * 0.754_877).fract() * (1.0 - spread * 0.6);
        pine(&mut sheet, x, ground(x) + 2.0, height);
    }
    sheet
}

fn pine(sheet: &mut Sheet, x: f32, foot: f32, height: f32) {
    for tier in 0..4 {
        let from_top = tier as f32 / 4.0;
        let top = foot - height + height * from_top * 0.8;
        let bottom = (top + height * 0.42).min(foot);
        let half = height * (0.09 + 0.055 * tier as f32);
        let branch = Shape::default().polygon(&[(x, top), (x + half, bottom), (x - half, bottom)]);
        sheet.fill(
            branch,
            Paint::Down(foot - height, ink(0x1b2f3b), foot, ink(0x101d27)),
        );
    }
}

/// 256 × 32: a bank of fog, fading out on all sides.
pub(crate) fn fog() -> Sheet {
    let mut sheet = Sheet::new(256.0, 32.0, 1.0);
    sheet.shade(ink(0x9db8bd), |x, y| {
        let across = ((x - 128.0) / 128.0).abs();
        let wave = 16.0 + 2.5 * (x / 21.0).sin() + 1.5 * (x / 9.0 + 1.0).sin();
        let down = ((y - wave) / 13.0).abs();
        let fade = |distance: f32| {
            let rest = (1.0 - distance).max(0.0);
            rest * rest * (3.0 - 2.0 * rest)
        };
        0.62 * fade(across) * fade(down)
    });
    sheet
}
