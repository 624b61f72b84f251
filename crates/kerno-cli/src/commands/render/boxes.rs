//! The parts of a layout, drawn over its picture.

use kerno::atlas::AtlasError;
use kerno::draw::{RectStyle, Scope};
use kerno::{Color, Point, Rect, TextLayout};

use crate::error::CliError;

const BLOCK: Color = Color::rgba(0xff, 0xff, 0xff, 0x70);
const BASELINE: Color = Color::rgba(0xe8, 0x5d, 0x4a, 0xd0);
const CLUSTER: Color = Color::rgba(0x6f, 0xc3, 0xdf, 0x90);
const RIGHT_TO_LEFT: Color = Color::rgba(0xc9, 0x8b, 0xe0, 0x90);
const INK: Color = Color::rgba(0x8f, 0xd1, 0x8b, 0x60);
const CARET: Color = Color::rgb(0xf6, 0xea, 0xd0);
const BREAK: Color = Color::rgba(0xff, 0xcf, 0x70, 0xe0);

/// Draws the block, the baselines, a box for each cluster's advance (of another
/// colour where it is read from the right), one for each glyph's ink, a tick at the
/// foot of the line for each caret, and a mark where each line ends. `line` is as wide
/// as a device pixel.
pub(super) fn draw(
    frame: &mut Scope<'_>,
    layout: &TextLayout,
    corner: Point,
    line: f32,
) -> Result<(), CliError> {
    let at = |rect: Rect| {
        Rect::new(
            corner.x + rect.x,
            corner.y + rect.y,
            rect.width,
            rect.height,
        )
    };
    let size = layout.size();
    let block = Rect::new(0.0, 0.0, size.width, size.height);
    outline(frame, at(block), line, BLOCK)?;
    for glyph in layout.glyphs() {
        if let Some(ink) = layout.glyph_ink(glyph)? {
            frame.scope().layer(-1).rect(at(ink), INK);
        }
    }
    for own in layout.lines() {
        for cluster in &layout.clusters()[own.clusters.clone()] {
            let color = if cluster.is_rtl {
                RIGHT_TO_LEFT
            } else {
                CLUSTER
            };
            let room = Rect::new(cluster.x, own.top, cluster.advance, own.height);
            if cluster.advance > 0.0 {
                outline(frame, at(room), line, color)?;
            }
        }
        // The last line's end has a caret of its own; between lines it is the next one's.
        let starts = layout.clusters()[own.clusters.clone()].iter();
        let end = layout.clusters().last().map(|last| last.end);
        let end = end.filter(|_| own.clusters.end == layout.clusters().len());
        for byte in starts.map(|cluster| cluster.start).chain(end) {
            let caret = layout.caret(byte as usize);
            let foot = caret.top + caret.height;
            let tick = Rect::new(caret.x - line, foot - 5.0 * line, 2.0 * line, 5.0 * line);
            frame.scope().layer(3).rect(at(tick), CARET);
        }
        let base = Rect::new(own.x, own.baseline, own.width, line);
        frame.scope().layer(2).rect(at(base), BASELINE);
        let end = if own.is_rtl {
            own.x - 3.0 * line
        } else {
            own.x + own.width
        };
        let mark = Rect::new(end, own.top, 3.0 * line, own.height);
        frame.scope().layer(2).rect(at(mark), BREAK);
    }
    Ok(())
}

fn outline(frame: &mut Scope<'_>, at: Rect, line: f32, color: Color) -> Result<(), AtlasError> {
    let edge = RectStyle::outlined(line, color);
    frame.scope().layer(1).styled_rect(at, edge)
}
