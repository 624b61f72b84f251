//! Drawing of sprites and panels.

use super::panel;
use super::quad::{Quad, units};
use super::scope::Scope;
use super::space::Space;
use crate::atlas::{AtlasError, KeptId, SpriteId, SpritePicture};
use crate::base::{Anchor, Color, DeviceRect, Edges, Point, Rect, Size};

/// Place, size, tint and flips of a sprite that is drawn.
///
/// ```
/// use kerno::{Anchor, Point, Size};
/// use kerno::draw::DrawSprite;
/// let oar = DrawSprite::at(Point::new(40.0, 90.0), Anchor::CENTER).flip_x();
/// let stretched = oar.size(Size::new(64.0, 12.0));
/// # let _ = stretched;
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct DrawSprite {
    /// The place that the sprite is held on, in design pixels.
    pub at: Point,
    /// The point of it that is there.
    pub anchor: Anchor,
    /// Its size, in design pixels. A nine-slice keeps the shape of its corners, and its
    /// edges and middle are stretched or repeated ([`SliceFill`](crate::atlas::SliceFill)); a sprite
    /// without [`slices`](crate::atlas::SpriteOptions::slices) is all middle. Default: its own
    /// size.
    pub size: Option<Size>,
    /// A colour that its own are multiplied by. Default: white, which changes nothing.
    pub tint: Color,
    /// True if left and right are swapped.
    pub flip_x: bool,
    /// True if top and bottom are swapped.
    pub flip_y: bool,
}

impl DrawSprite {
    /// A sprite in its own size, held on a place by its anchor.
    pub const fn at(at: Point, anchor: Anchor) -> Self {
        Self {
            at,
            anchor,
            size: None,
            tint: Color::WHITE,
            flip_x: false,
            flip_y: false,
        }
    }

    /// A sprite that fills a rectangle.
    pub const fn filling(rect: Rect) -> Self {
        Self::at(Point::new(rect.x, rect.y), Anchor::TOP_LEFT)
            .size(Size::new(rect.width, rect.height))
    }

    /// Sets [`DrawSprite::size`].
    #[must_use]
    pub const fn size(mut self, size: Size) -> Self {
        self.size = Some(size);
        self
    }

    /// Sets [`DrawSprite::tint`].
    #[must_use]
    pub const fn tint(mut self, tint: Color) -> Self {
        self.tint = tint;
        self
    }

    /// Swaps left and right.
    #[must_use]
    pub const fn flip_x(mut self) -> Self {
        self.flip_x = !self.flip_x;
        self
    }

    /// Swaps top and bottom.
    #[must_use]
    pub const fn flip_y(mut self) -> Self {
        self.flip_y = !self.flip_y;
        self
    }

    /// The part of a rectangle that shows a part of the sprite in it.
    fn flipped(&self, part: DeviceRect, whole: DeviceRect) -> DeviceRect {
        let mut at = part;
        if self.flip_x {
            at.left = whole.left + whole.right - part.right;
            at.right = whole.left + whole.right - part.left;
        }
        if self.flip_y {
            at.top = whole.top + whole.bottom - part.bottom;
            at.bottom = whole.top + whole.bottom - part.top;
        }
        at
    }
}

impl Scope<'_> {
    /// Draws a sprite, on whole pixels as long as its scope is upright.
    ///
    /// # Errors
    /// [`AtlasError`] where it finds no room on a page, or is of another atlas.
    pub fn sprite(&mut self, sprite: SpriteId, draw: DrawSprite) -> Result<(), AtlasError> {
        if self.is_hidden() {
            return Ok(());
        }
        if let Some(size) = draw.size {
            return self.sized_sprite(sprite, size, &draw);
        }
        let none = Size::default();
        let held = self
            .state
            .held(draw.at, Anchor::TOP_LEFT, none, Edges::Smooth);
        let Some((corner, space)) = held else {
            return Ok(());
        };
        let picture = self.atlas.sprite_picture(sprite, space.scale)?;
        let size = picture.device_size();
        let mut left = corner.x - draw.anchor.x * size.width;
        let mut top = corner.y - draw.anchor.y * size.height;
        if space.turn.is_none() {
            (left, top) = (left.round(), top.round());
        }
        let whole = DeviceRect {
            left,
            top,
            right: left + size.width,
            bottom: top + size.height,
        };
        // Borders that were trimmed off keep their room.
        let at = draw.flipped(picture.shown_part(whole), whole);
        let color = self.shaded(draw.tint);
        let quad = Quad::picture(at, &picture.slot, units(&picture.slot), color);
        self.push(
            quad.mirrored(draw.flip_x, draw.flip_y).soft(),
            &space,
            KeptId::NONE,
        );
        Ok(())
    }

    /// Fills a rectangle with a sprite, mostly a nine-slice: short for
    /// [`Scope::sprite`] with [`DrawSprite::filling`].
    ///
    /// # Errors
    /// As there.
    pub fn panel(&mut self, sprite: SpriteId, rect: Rect) -> Result<(), AtlasError> {
        self.sprite(sprite, DrawSprite::filling(rect))
    }

    fn sized_sprite(
        &mut self,
        sprite: SpriteId,
        size: Size,
        draw: &DrawSprite,
    ) -> Result<(), AtlasError> {
        let rect = Rect::anchored(draw.at, draw.anchor, size);
        let Some((whole, space)) = self.state.rect(rect) else {
            return Ok(());
        };
        let picture = self.atlas.sprite_picture(sprite, space.scale)?;
        let (edges, middle) = self.atlas.slice_fills(sprite);
        let fills = panel::Fills { edges, middle };
        self.parts(&picture, fills, whole, &space, draw);
        Ok(())
    }

    fn parts(
        &mut self,
        picture: &SpritePicture,
        fills: panel::Fills,
        whole: DeviceRect,
        space: &Space,
        draw: &DrawSprite,
    ) {
        let at = picture.shown_part(whole);
        let (size, borders) = (picture.slot.picture_size(), picture.borders);
        let color = self.shaded(draw.tint);
        let shown = draw.flipped(at, whole);
        for (at, texels) in panel::nine_parts(at, size, borders, picture.enlarged, fills) {
            let quad = Quad::picture(draw.flipped(at, whole), &picture.slot, texels, color);
            let quad = quad.mirrored(draw.flip_x, draw.flip_y);
            self.push(quad.part_of(shown, None), space, KeptId::NONE);
        }
    }
}
