//! What is really drawn of a text.

use super::shape::Shaped;
use super::{InlineSprite, RuleKind, Style, TextLayout};
use crate::base::{Insets, Rect};
use crate::font::FontBounds;

/// What the glyphs of a line cover.
pub(super) struct Ink {
    left: f32,
    top: f32,
    right: f32,
    bottom: f32,
}

impl Default for Ink {
    fn default() -> Self {
        Self {
            left: f32::INFINITY,
            top: f32::INFINITY,
            right: f32::NEG_INFINITY,
            bottom: f32::NEG_INFINITY,
        }
    }
}

impl Ink {
    /// Adds what a glyph covers that is drawn from a place.
    pub(super) fn add(&mut self, glyph: &Shaped, x: f32, y: f32, unit: f32) {
        let has_ink = |b: &FontBounds| b.x_min < b.x_max && b.y_min < b.y_max;
        let Some(bounds) = glyph.bounds.filter(has_ink) else {
            return;
        };
        // Plain comparisons: a minimum that minds NaN takes four times as long.
        let least = |a: f32, b: f32| if b < a { b } else { a };
        let most = |a: f32, b: f32| if b > a { b } else { a };
        self.left = least(self.left, x + f32::from(bounds.x_min) * unit);
        self.top = least(self.top, y - f32::from(bounds.y_max) * unit);
        self.right = most(self.right, x + f32::from(bounds.x_max) * unit);
        self.bottom = most(self.bottom, y - f32::from(bounds.y_min) * unit);
    }

    /// Adds what glyphs of a style cover, and the outline around them.
    pub(super) fn merge(&mut self, glyphs: &Self, style: &Style) {
        let around = style.outline.map_or(0.0, |outline| outline.width);
        self.left = self.left.min(glyphs.left - around);
        self.top = self.top.min(glyphs.top - around);
        self.right = self.right.max(glyphs.right + around);
        self.bottom = self.bottom.max(glyphs.bottom + around);
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
        self.left = self.left.min(x);
        self.right = self.right.max(x + sprite.width());
        self.top = self.top.min(baseline - above);
        self.bottom = self.bottom.max(baseline + below);
    }

    pub(super) fn rect(&self) -> Rect {
        let (width, height) = (self.right - self.left, self.bottom - self.top);
        if width > 0.0 && height > 0.0 {
            Rect::new(self.left, self.top, width, height)
        } else {
            Rect::default()
        }
    }
}

/// Adds the lines beneath and through letters to the ink of a text whose lines are in
/// their places.
pub(super) fn add_rules(layout: &mut TextLayout) {
    let mut ink = layout.ink;
    for kind in [RuleKind::Underline, RuleKind::StrikeThrough] {
        for (rule, style) in layout.rules(kind, usize::MAX) {
            let around = style.outline.map_or(0.0, |outline| outline.width);
            ink = ink.union(rule.inset(Insets::all(-around)));
        }
    }
    layout.ink = ink;
}
