//! Contrast of texts against what is drawn behind them.

use super::finding::{CheckOptions, FindingCase, FindingKind};
use super::findings::Findings;
use crate::atlas::Atlas;
use crate::base::{Color, Rect};
use crate::draw::Canvas;
use crate::screen::node::Body;
use crate::screen::{Screen, ScreenError, Viewport};
use crate::text::{Effect, Style};

/// Text from this size on, in device pixels per em, is large: it needs two thirds of the
/// contrast (WCAG 2.2, 1.4.3).
const LARGE: f32 = 24.0;

/// Shares of a row of pixels behind a text that are looked at.
const SAMPLES: u32 = 24;

/// Draws the screen without its texts, and compares their colours with what is there. Letters
/// that stand out from an outline around them stand out. Texts with nothing drawn behind them
/// are left out.
pub(super) fn look(
    screen: &mut Screen,
    atlas: &mut Atlas,
    options: &CheckOptions,
    case: &FindingCase,
    found: &mut Findings,
) -> Result<(), ScreenError> {
    let view = screen.viewport(case.window)?;
    screen.arrange(&view, atlas)?;
    let canvas = without_texts(screen, atlas, &view, case)?;
    for (index, node) in screen.nodes.iter().enumerate() {
        let Body::Text(text) = &node.body else {
            continue;
        };
        if !screen.is_seen(index) {
            continue;
        }
        for style in text.layout.styles() {
            let lines = text.layout.lines().iter().map(|line| {
                let (x, y) = (node.rect.x + line.x, node.rect.y + line.top);
                Rect::new(x, y, line.width, line.height)
            });
            let grounds = lines.flat_map(|line| behind(&canvas, &view, line));
            let size = style.size * view.mapping().scale();
            let wanted = match size >= LARGE {
                true => options.contrast * 2.0 / 3.0,
                false => options.contrast,
            };
            let worst = worst_contrast(style, grounds);
            if let Some(worst) = worst.filter(|worst| *worst < wanted - 0.005) {
                let problem =
                    format!("its letters stand out by {worst:.1} to 1, and {wanted} are asked for");
                found.add(
                    node,
                    FindingKind::LowContrast,
                    (wanted - worst, problem),
                    Some(case),
                );
            }
        }
    }
    Ok(())
}

/// Draws a screen that is arranged with all its texts hidden.
fn without_texts(
    screen: &mut Screen,
    atlas: &mut Atlas,
    view: &Viewport,
    case: &FindingCase,
) -> Result<Canvas, ScreenError> {
    let mut canvas = Canvas::try_new(case.window).map_err(crate::atlas::AtlasError::from)?;
    let mut hidden = Vec::new();
    for node in &mut screen.nodes {
        if let Body::Text(text) = &mut node.body {
            hidden.push(std::mem::replace(&mut text.visible, 0));
        }
    }
    let drawn = screen
        .fresh_frame(atlas, view)
        .map(|frame| canvas.draw(frame, atlas));
    let mut hidden = hidden.into_iter();
    for node in &mut screen.nodes {
        if let Body::Text(text) = &mut node.body {
            text.visible = hidden.next().unwrap_or(usize::MAX);
        }
    }
    drawn?;
    Ok(canvas)
}

/// The least contrast of letters of a style against their plate or the colours behind them;
/// `None` if nothing is drawn there.
fn worst_contrast(style: &Style, grounds: impl Iterator<Item = Color>) -> Option<f32> {
    let letters = letter_colors(style);
    let against = |ground: Color| {
        let ratios = letters.iter().map(|color| ratio(*color, ground));
        ratios.fold(f32::INFINITY, f32::min)
    };
    let plate = style.plate.map(|plate| plate.color).filter(is_opaque);
    let worst = match plate {
        Some(plate) => Some(against(plate)),
        None => grounds.map(against).reduce(f32::min),
    };
    let around = outline_colors(style).map(against).fold(0.0, f32::max);
    worst.map(|worst| worst.max(around))
}

/// The colours of a style's letters.
fn letter_colors(style: &Style) -> Vec<Color> {
    let fills = style.effects.iter().filter_map(|effect| match effect {
        Effect::Fill(fill) => Some(fill),
        _ => None,
    });
    let colors = fills.flat_map(|fill| [Some(fill.color.unwrap_or(style.color)), fill.bottom]);
    let colors: Vec<Color> = colors.flatten().collect();
    match colors.is_empty() {
        true => vec![style.color],
        false => colors,
    }
}

/// The colours of the lines around a style's letters.
fn outline_colors(style: &Style) -> impl Iterator<Item = Color> {
    let colors = style.effects.iter().filter_map(|effect| match effect {
        Effect::Outline(outline) => Some(outline.color),
        _ => None,
    });
    colors.filter(is_opaque)
}

/// Returns whether nearly nothing is seen through a colour.
fn is_opaque(color: &Color) -> bool {
    color.alpha >= 200
}

/// Colours behind a box: those that are nearly opaque.
fn behind<'a>(canvas: &'a Canvas, view: &Viewport, rect: Rect) -> impl Iterator<Item = Color> + 'a {
    let mapping = view.mapping();
    let start = mapping.point(crate::base::Point::new(rect.x, rect.y));
    let end = mapping.point(crate::base::Point::new(rect.right(), rect.bottom()));
    let size = canvas.size();
    (0..SAMPLES * SAMPLES).filter_map(move |sample| {
        let share = |step: u32| (step as f32 + 0.5) / SAMPLES as f32;
        let x = start.x + (end.x - start.x) * share(sample % SAMPLES);
        let y = start.y + (end.y - start.y) * share(sample / SAMPLES);
        let is_inside = x >= 0.0 && y >= 0.0 && x < size.width as f32 && y < size.height as f32;
        let at = is_inside.then(|| y as usize * size.width as usize + x as usize)?;
        let [red, green, blue, alpha] = crate::base::straight(canvas.pixels()[at]);
        is_opaque(&Color::rgba(red, green, blue, alpha)).then_some(Color::rgb(red, green, blue))
    })
}

/// Contrast of two colours, 1 to 21 (WCAG 2.2, “contrast ratio”).
fn ratio(a: Color, b: Color) -> f32 {
    let (a, b) = (luminance(a), luminance(b));
    (a.max(b) + 0.05) / (a.min(b) + 0.05)
}

/// Relative luminance (WCAG 2.2).
fn luminance(color: Color) -> f32 {
    let [red, green, blue] = [color.red, color.green, color.blue].map(|value| {
        let value = f32::from(value) / 255.0;
        match value <= 0.04045 {
            true => value / 12.92,
            false => ((value + 0.055) / 1.055).powf(2.4),
        }
    });
    0.2126 * red + 0.7152 * green + 0.0722 * blue
}
