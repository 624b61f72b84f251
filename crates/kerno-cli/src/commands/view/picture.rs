//! A picture in a window, in tiles.

use kerno::atlas::{AtlasOptions, SpriteId, SpriteOptions};
use kerno::base::{DevicePoint, DeviceRect, Image, Mapping};
use kerno::draw::{DrawSprite, Frame};
use kerno::{Anchor, Atlas, DeviceSize, FrameBuilder, Point};

use super::subject::Hovered;
use crate::error::CliError;

/// The side of a tile: with its padding, a page holds one.
const TILE: u32 = 1000;

/// A picture that is shown pixel for pixel, and scrolled where it is larger than the window.
pub(super) struct Picture {
    image: Image,
    tiles: Vec<(Point, SpriteId)>,
    atlas: Atlas,
    builder: FrameBuilder,
    /// Pixels of the picture to the left and above of the window.
    scrolled: (f32, f32),
    /// The picture's top left in the window, when it was drawn last.
    origin: Point,
}

impl Picture {
    pub(super) fn new(image: &Image) -> Result<Self, CliError> {
        let pages = (image.width().div_ceil(TILE) * image.height().div_ceil(TILE)).min(256);
        let bytes = (pages as usize * 4) << 20;
        let options = AtlasOptions::default().budget(bytes.max(16 << 20));
        let mut atlas = Atlas::new(options)?;
        let mut tiles = Vec::new();
        for y in (0..image.height()).step_by(TILE as usize) {
            for x in (0..image.width()).step_by(TILE as usize) {
                let (width, height) = (
                    (image.width() - x).min(TILE),
                    (image.height() - y).min(TILE),
                );
                let tile = image.part(x, y, width, height);
                let sprite =
                    atlas.add_sprite(&format!("{x},{y}"), &tile, SpriteOptions::default())?;
                tiles.push((Point::new(x as f32, y as f32), sprite));
            }
        }
        Ok(Self {
            image: image.clone(),
            tiles,
            atlas,
            builder: FrameBuilder::new(),
            scrolled: (0.0, 0.0),
            origin: Point::new(0.0, 0.0),
        })
    }

    pub(super) fn frame(&mut self, window: DeviceSize) -> Result<(Frame<'_>, &Atlas), CliError> {
        // In the middle where the window is larger, else as far as it is scrolled.
        let place = |picture: u32, window: u32, scrolled: &mut f32| {
            let room = window as f32 - picture as f32;
            *scrolled = scrolled.clamp(0.0, (-room).max(0.0)).round();
            if room > 0.0 {
                (room / 2.0).floor()
            } else {
                -*scrolled
            }
        };
        let x = place(self.image.width(), window.width, &mut self.scrolled.0);
        let y = place(self.image.height(), window.height, &mut self.scrolled.1);
        self.origin = Point::new(x, y);
        let mut scope = self.builder.begin(&mut self.atlas, Mapping::IDENTITY);
        for (at, sprite) in &self.tiles {
            let at = Point::new(x + at.x, y + at.y);
            scope.sprite(*sprite, DrawSprite::at(at, Anchor::TOP_LEFT))?;
        }
        Ok((self.builder.finish(), &self.atlas))
    }

    /// The pixel at a place of the window.
    pub(super) fn hovered(&self, at: DevicePoint) -> Option<Hovered> {
        let (x, y) = (at.x - self.origin.x, at.y - self.origin.y);
        if x < 0.0 || y < 0.0 {
            return None;
        }
        let (x, y) = (x as u32, y as u32);
        let [red, green, blue, alpha] = self.image.pixel(x, y)?;
        let (left, top) = (self.origin.x + x as f32, self.origin.y + y as f32);
        Some(Hovered {
            rect: DeviceRect {
                left,
                top,
                right: left + 1.0,
                bottom: top + 1.0,
            },
            told: format!("{x}, {y}: #{red:02x}{green:02x}{blue:02x}{alpha:02x}"),
        })
    }

    pub(super) fn scroll(&mut self, across: f32, down: f32) {
        self.scrolled.0 += across;
        self.scrolled.1 += down;
    }

    pub(super) fn keep_place(&mut self, before: &Self) {
        self.scrolled = before.scrolled;
    }
}
