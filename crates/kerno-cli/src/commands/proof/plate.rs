//! Small text on a plate, magnified.

use kerno::atlas::{Sampling, SpriteOptions};
use kerno::base::{Image, Mapping};
use kerno::draw::DrawSprite;
use kerno::{Anchor, Atlas, Canvas, DeviceSize, DrawText, FrameBuilder, Point, Rect, Size, Style};

use super::fitting::fitted;
use super::{PLATE, Sheet};
use crate::error::CliError;

/// Cost of drawing a text.
#[derive(Clone, Copy, Debug)]
pub(super) struct Cost {
    pub(super) quads: usize,
    /// Bytes of the pictures of its letters.
    pub(super) bytes: usize,
}

/// Draws the start of a text on a plate, each of its pixels as a square of some pixels.
pub(super) fn magnified(
    sheet: &mut Sheet<'_>,
    text: &str,
    style: &Style,
    (plate, zoom): (Rect, f32),
) -> Result<Cost, CliError> {
    let (image, cost) = small_text(text, style, plate, zoom)?;
    let name = format!("plate at {} {}", plate.x, plate.y);
    let options = SpriteOptions::default()
        .density(1.0 / zoom)
        .sampling(Sampling::Nearest);
    let sprite = sheet.frame.atlas().add_sprite(&name, &image, options)?;
    let draw = DrawSprite::at(plate.point(Anchor::TOP_LEFT), Anchor::TOP_LEFT);
    sheet.frame.sprite(sprite, draw)?;
    Ok(cost)
}

/// A plate with small text in its middle, before it is magnified.
fn small_text(
    text: &str,
    style: &Style,
    plate: Rect,
    zoom: f32,
) -> Result<(Image, Cost), CliError> {
    let size = Size::new((plate.width / zoom).floor(), (plate.height / zoom).floor());
    let line = fitted(text, style, size.width - 4.0)?;
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    // On one baseline, whatever the edges, with capitals in the middle.
    let baseline = ((size.height + 0.7 * style.size) / 2.0).round();
    let at = Point::new((size.width / 2.0).floor(), baseline);
    frame.text(&line, DrawText::at(at, line.baseline_anchor(0.5)))?;
    let mut canvas = Canvas::new(DeviceSize::new(size.width as u32, size.height as u32));
    canvas.clear(PLATE);
    let frame = builder.finish();
    canvas.draw(frame, &atlas);
    let cost = Cost {
        quads: frame.quad_count(),
        bytes: atlas.usage().glyph_bytes,
    };
    Ok((canvas.to_image(), cost))
}
