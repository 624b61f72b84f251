//! Ink: the extent of what is drawn of a text.

use wide::f32x4;

use super::{DecorationLine, InlineSprite, Line, Style, TextLayout};
use crate::base::{Insets, Rect};
use crate::font::FontBounds;

/// The reach of ink, in design pixels: how far left, up, right and down it goes,
/// so that of several it is the largest of each.
#[derive(Clone, Copy)]
pub(super) struct Ink(f32x4);

impl Ink {
    /// Ink that reaches nowhere.
    pub(super) const NONE: Self = Self(f32x4::new([f32::NEG_INFINITY; 4]));

    /// The distance a glyph reaches from its origin.
    pub(super) fn of(bounds: Option<FontBounds>, unit: f32) -> [f32; 4] {
        let has_ink = |b: &FontBounds| b.x_min < b.x_max && b.y_min < b.y_max;
        let Some(bounds) = bounds.filter(has_ink) else {
            return Self::NONE.0.to_array();
        };
        let length = |units: i16| f32::from(units) * unit;
        [
            -length(bounds.x_min),
            length(bounds.y_max),
            length(bounds.x_max),
            -length(bounds.y_min),
        ]
    }

    /// Adds what a glyph covers that is drawn from a place.
    #[inline]
    pub(super) fn add(&mut self, reach: [f32; 4], x: f32, y: f32) {
        let place = f32x4::new([-x, -y, x, y]);
        self.0 = self.0.fast_max(f32x4::new(reach) + place);
    }

    /// Adds what glyphs of a style cover, and the effects around them.
    pub(super) fn merge(&mut self, glyphs: &Self, style: &Style) {
        self.0 = self.0.fast_max(glyphs.0 + style.reach());
    }

    /// Adds a sprite of a style that begins at `x`.
    pub(super) fn add_sprite(
        &mut self,
        sprite: &InlineSprite,
        x: f32,
        baseline: f32,
        style: &Style,
    ) {
        let (above, below) = sprite.extent(style);
        self.add([0.0, above, sprite.width(), below], x, baseline);
    }

    pub(super) fn rect(&self) -> Rect {
        let [left, up, right, down] = self.0.to_array();
        let (width, height) = (right + left, down + up);
        if width > 0.0 && height > 0.0 {
            Rect::new(-left, -up, width, height)
        } else {
            Rect::default()
        }
    }
}

/// Adds the lines beneath and through letters to the ink of lines that are in their places.
pub(super) fn add_rules(layout: &mut TextLayout) {
    let is_ruled = |style: &Style| style.underline || style.line_through;
    if !layout.styles.iter().any(is_ruled) {
        return;
    }
    for index in 0..layout.lines.len() {
        let Line { clusters, ink, .. } = &layout.lines[index];
        let mut ink = *ink;
        for kind in [DecorationLine::Underline, DecorationLine::LineThrough] {
            for (rule, style) in layout.decorations(kind, clusters.clone()) {
                ink = ink.union(rule.inset(Insets::all(-style.reach())));
            }
        }
        layout.lines[index].ink = ink;
    }
}

/// Finds the ink of all lines, and how far what is drawn on a line reaches out of it.
pub(super) fn sum_up(layout: &mut TextLayout) {
    let mut sum = Rect::default();
    let [mut above, mut below] = [0.0_f32; 2];
    for line in layout.lines.iter().filter(|line| !line.ink.is_empty()) {
        sum = sum.union(line.ink);
        above = above.max(line.top - line.ink.y);
        below = below.max(line.ink.bottom() - (line.top + line.height));
    }
    // Plates lie about as far from the baseline as letters do.
    for style in &layout.styles {
        if let Some(plate) = style.plate {
            let padding = plate.padding.top.max(plate.padding.bottom).max(0.0);
            let (up, down) = style.content_extent();
            above = above.max(up + padding + style.reach());
            below = below.max(down + padding + style.reach());
        }
    }
    layout.ink = sum;
    layout.overhang = [above, below];
}
