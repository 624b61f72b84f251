//! The lake at night, behind the HUD.

use kerno::draw::DrawSprite;
use kerno::{Anchor, Color, Offset, Point, Rect};

use super::stage::Stage;
use crate::error::CliError;

const SKY_TOP: Color = Color::rgb(0x0a, 0x13, 0x20);
const SKY_LOW: Color = Color::rgb(0x3d, 0x60, 0x70);
const WATER_FAR: Color = Color::rgb(0x2b, 0x49, 0x58);
const WATER_NEAR: Color = Color::rgb(0x08, 0x11, 0x1a);
const LAMPLIGHT: Color = Color::rgb(0xff, 0xc8, 0x78);

/// Draws the lake on layers below 0.
pub(crate) fn draw(stage: &mut Stage<'_>) -> Result<(), CliError> {
    let window = stage.view.window_rect();
    let horizon = (window.y + window.height * 0.575).round();
    backdrop(stage, window, horizon)?;
    let deck = Point::new(window.x + window.width * 0.44, horizon + 40.0);
    let sprites = stage.sprites;
    stage
        .frame
        .scope()
        .layer(-10)
        .sprite(sprites.ferry, DrawSprite::at(deck, Anchor::new(0.5, 0.88)))?;
    reflections(stage, deck)?;
    fog(stage, window, horizon)
}

fn backdrop(stage: &mut Stage<'_>, window: Rect, horizon: f32) -> Result<(), CliError> {
    let sky = Rect::new(window.x, window.y, window.width, horizon - window.y);
    let water = Rect::new(window.x, horizon, window.width, window.bottom() - horizon);
    let down = |top, bottom| [top, top, bottom, bottom];
    let mut layer = stage.frame.scope().layer(-20);
    layer.gradient(sky, down(SKY_TOP, SKY_LOW));
    layer.gradient(water, down(WATER_FAR, WATER_NEAR));
    stars(stage, sky);
    let sprites = stage.sprites;
    let mut layer = stage.frame.scope().layer(-19);
    let moon = Point::new(
        window.x + window.width * 0.76,
        window.y + window.height * 0.27,
    );
    layer.sprite(sprites.moon, DrawSprite::at(moon, Anchor::CENTER))?;
    layer.panel(
        sprites.hills,
        Rect::new(window.x, horizon - 66.0, window.width, 70.0),
    )?;
    let shore = Rect::new(window.x, horizon - 58.0, window.width, 64.0);
    layer.panel(sprites.pines, shore)?;
    // The moon's path on the water.
    for step in 0..14 {
        let step = step as f32;
        let y = horizon + 7.0 + step * step * 0.62;
        let width = 5.0 + step * 1.6 + 6.0 * (step * 1.7).sin().abs();
        let sway = (step * 2.4).sin() * (2.0 + step * 0.9);
        let glint = Rect::new(moon.x - width * 0.5 + sway, y, width, 0.8);
        let light = Color::rgb(0xc9, 0xdc, 0xd6).with_alpha(120 - step as u8 * 6);
        stage.frame.scope().layer(-18).rect(glint, light);
    }
    Ok(())
}

/// Stars by a fixed rule, fainter towards the mist.
fn stars(stage: &mut Stage<'_>, sky: Rect) {
    for star in 0..70 {
        let place = |factor: f32| (star as f32 * factor + 0.37).fract();
        let (x, y) = (place(0.618_034), place(0.754_877) * 0.8);
        let light = (1.0 - y) * (0.25 + 0.6 * place(0.569_84));
        let at = Rect::new(sky.x + x * sky.width, sky.y + y * sky.height, 0.6, 0.6);
        let color = Color::rgb(0xe8, 0xf0, 0xe6).with_alpha((light * 255.0) as u8);
        stage.frame.scope().layer(-20).rect(at, color);
    }
}

/// The ferry's lamps on the water, in broken strokes.
fn reflections(stage: &mut Stage<'_>, deck: Point) -> Result<(), CliError> {
    let sprites = stage.sprites;
    for lamp in 0..6 {
        let x = deck.x - 86.0 + lamp as f32 * 34.5;
        let light = Rect::new(x - 13.0, deck.y - 4.0, 26.0, 66.0);
        stage
            .frame
            .scope()
            .layer(-9)
            .opacity(0.32)
            .panel(sprites.glow, light)?;
        for stroke in 0..7 {
            let down = stroke as f32;
            let sway = (down * 1.9 + lamp as f32 * 1.3).sin() * (1.5 + down * 0.5);
            let width = 9.0 - down * 0.6;
            let at = Rect::new(
                x - width * 0.5 + sway,
                deck.y + 8.0 + down * 5.5,
                width,
                1.0,
            );
            let fade = 110.0 - down * 14.0;
            stage
                .frame
                .scope()
                .layer(-8)
                .rect(at, LAMPLIGHT.with_alpha(fade as u8));
        }
    }
    Ok(())
}

fn fog(stage: &mut Stage<'_>, window: Rect, horizon: f32) -> Result<(), CliError> {
    let sprites = stage.sprites;
    for (x, y, width, height, opacity) in [
        (-0.15, -26.0, 0.75, 44.0, 0.55),
        (0.45, -18.0, 0.8, 40.0, 0.60),
        (0.10, 10.0, 0.65, 30.0, 0.35),
        (0.55, 34.0, 0.6, 34.0, 0.28),
    ] {
        let at = Rect::new(
            window.x + window.width * x,
            horizon,
            window.width * width,
            height,
        );
        let bank = at.moved(Offset::new(0.0, y));
        stage
            .frame
            .scope()
            .layer(-7)
            .opacity(opacity)
            .panel(sprites.fog, bank)?;
    }
    Ok(())
}
