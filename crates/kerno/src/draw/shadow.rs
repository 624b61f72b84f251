//! Shadows of boxes.

use super::TEXEL_UNITS;
use super::quad::Quad;
use super::scope::Scope;
use super::space::Space;
use crate::atlas::{AtlasError, BoxPicture, KeptId};
use crate::base::{Color, DeviceRect, Insets, Offset, Rect, Treatment};

/// The shadow of a box (CSS `box-shadow`).
///
/// ```
/// use kerno::{Color, Offset};
/// use kerno::draw::BoxShadow;
/// let soft = BoxShadow::new(Offset::new(0.0, 4.0), 12.0, Color::BLACK.with_alpha(140)).radius(6.0);
/// # let _ = soft;
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct BoxShadow {
    /// From the box to its shadow, in design pixels.
    pub offset: Offset,
    /// Blur radius in design pixels, 0 to [`Treatment::LARGEST_BLUR`]: twice the standard
    /// deviation of the Gaussian.
    pub blur: f32,
    /// Outset of the box before it is blurred, in design pixels.
    pub spread: f32,
    /// Radius of its corners, in design pixels.
    pub radius: f32,
    /// Its colour.
    pub color: Color,
}

crate::base::setters! {
    BoxShadow {
        spread: f32,
        radius: f32,
    }
}

impl BoxShadow {
    /// The shadow of a box with sharp corners.
    pub const fn new(offset: Offset, blur: f32, color: Color) -> Self {
        Self {
            offset,
            blur,
            spread: 0.0,
            radius: 0.0,
            color,
        }
    }
}

impl Scope<'_> {
    /// Draws the shadow of a box. Numbers out of range are cut to it; one that is no number
    /// draws nothing.
    ///
    /// # Errors
    /// [`AtlasError`] where its picture finds no room on a page.
    pub fn box_shadow(&mut self, rect: Rect, shadow: &BoxShadow) -> Result<(), AtlasError> {
        let BoxShadow {
            offset,
            blur,
            spread,
            radius,
            color,
        } = *shadow;
        if self.is_hidden() {
            return Ok(());
        }
        let at = Rect::new(
            rect.x + offset.x,
            rect.y + offset.y,
            rect.width,
            rect.height,
        );
        let at = at.outset(Insets::all(spread));
        let Some((at, space)) = self.state.rect(at) else {
            return Ok(());
        };
        let blur = blur.clamp(0.0, Treatment::LARGEST_BLUR) * 0.5 * space.scale;
        let color = self.shaded(color);
        self.soft_box(at, (radius * space.scale, blur), color, &space)
    }

    /// Fills a box with round corners, blurred by a standard deviation in pixels of the
    /// space.
    pub(super) fn soft_box(
        &mut self,
        at: DeviceRect,
        (radius, deviation): (f32, f32),
        color: [u8; 4],
        space: &Space,
    ) -> Result<(), AtlasError> {
        let (width, height) = (at.right - at.left, at.bottom - at.top);
        if !(width.is_finite() && height.is_finite() && deviation.is_finite()) {
            return Ok(());
        }
        let Some(picture) = BoxPicture::of(width, height, radius, deviation) else {
            return Ok(());
        };
        let Some(slot) = self.atlas.box_picture(&picture)? else {
            return Ok(());
        };
        let reach = picture.reach();
        let outer = at.inset(-reach);
        // Cut in the middle of its picture: there it goes on as it is.
        let (texels_across, texels_down) = slot.picture_size();
        let texel = slot.reduction() as f32;
        let cuts = |from: f32, to: f32, texels: u16| {
            let middle = texels / 2 * TEXEL_UNITS + TEXEL_UNITS / 2;
            let before = f32::from(middle) / f32::from(TEXEL_UNITS) * texel;
            let after = f32::from(texels) * texel - before;
            let first = from + before;
            // A box that is as small as its picture ends where that does.
            let last = (to - after).max(first);
            let end = texels * TEXEL_UNITS;
            [
                (from, first, 0, middle),
                (first, last, middle, middle),
                (last, last + after, middle, end),
            ]
        };
        for (top, bottom, up, down) in cuts(outer.top, outer.bottom, texels_down) {
            for (left, right, first, last) in cuts(outer.left, outer.right, texels_across) {
                if left < right && top < bottom {
                    let part = DeviceRect {
                        left,
                        top,
                        right,
                        bottom,
                    };
                    let quad = Quad::picture(part, &slot, [first, up, last, down], color);
                    self.push(quad, space, KeptId::NONE);
                }
            }
        }
        Ok(())
    }
}
