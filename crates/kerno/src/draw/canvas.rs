//! The CPU renderer.

use std::num::NonZero;
use std::sync::Arc;
use std::thread;

use super::blend::premultiplied;
use super::paint::{LinearLight, Painter, Target};
use super::{Blending, Frame};
use crate::atlas::Atlas;
use crate::base::{Color, DeviceSize, Image, ImageError, Limits, span, straight};

/// Draws frames into memory: premultiplied sRGB, four bytes a pixel, row by
/// row from the top.
///
/// ```
/// use kerno::base::Mapping;
/// use kerno::{Atlas, Canvas, Color, DeviceSize, FrameBuilder, Rect};
/// let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
/// let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
/// frame.rect(Rect::new(1.0, 0.0, 1.0, 1.0), Color::rgb(255, 207, 112));
/// let mut canvas = Canvas::new(DeviceSize::new(2, 1));
/// canvas.clear(Color::BLACK);
/// canvas.draw(builder.finish(), &atlas);
/// assert_eq!(canvas.pixels(), [[0, 0, 0, 255], [255, 207, 112, 255]]);
/// ```
#[derive(Clone, Debug)]
pub struct Canvas {
    size: DeviceSize,
    pixels: Vec<[u8; 4]>,
    painter: Painter,
}

impl Canvas {
    /// A clear canvas.
    ///
    /// # Panics
    /// When [`Canvas::try_new`] returns an error, with its text.
    pub fn new(size: DeviceSize) -> Self {
        match Self::try_new(size) {
            Ok(canvas) => canvas,
            Err(error) => panic!("{error}"),
        }
    }

    /// A clear canvas of a size that may come from outside.
    ///
    /// # Errors
    /// [`ImageError::TooLarge`] over the default [`Limits::image_pixels`].
    pub fn try_new(size: DeviceSize) -> Result<Self, ImageError> {
        let (width, height) = (size.width, size.height);
        let limit = Limits::default().image_pixels;
        if u64::from(width) * u64::from(height) > limit {
            return Err(ImageError::TooLarge {
                width,
                height,
                limit,
            });
        }
        Ok(Self {
            size,
            pixels: vec![[0; 4]; width as usize * height as usize],
            painter: Painter::default(),
        })
    }

    /// The same canvas, on which colours are blended in another space. Default: perceptual,
    /// several times as fast.
    #[must_use]
    pub fn blending(mut self, blending: Blending) -> Self {
        let light = match blending {
            Blending::Perceptual => None,
            Blending::LinearLight => Some(Arc::new(LinearLight::new())),
        };
        self.painter = Painter::new(light);
        self
    }

    /// Its size in pixels.
    pub fn size(&self) -> DeviceSize {
        self.size
    }

    /// Fills all of it with one colour.
    pub fn clear(&mut self, color: Color) {
        self.pixels.fill(premultiplied(color, 1.0));
    }

    /// Every pixel, premultiplied.
    pub fn pixels(&self) -> &[[u8; 4]] {
        &self.pixels
    }

    /// Draws a frame above what is there. `atlas` is the one that the frame was
    /// gathered with.
    ///
    /// A pixel is drawn where its centre lies in a quad; textures are sampled
    /// there with linear filtering, as a GPU does.
    pub fn draw(&mut self, frame: Frame<'_>, atlas: &Atlas) {
        span!("draw_on_canvas", quads = frame.quad_count());
        let width = self.size.width as usize;
        let mut target = Target::new(&mut self.pixels, width, 0);
        self.painter.draw(frame, atlas, &mut target);
    }

    /// As [`Canvas::draw`], the rows shared out among a number of threads: the same bytes.
    pub fn draw_on(&mut self, threads: NonZero<usize>, frame: Frame<'_>, atlas: &Atlas) {
        let (width, height) = (self.size.width as usize, self.size.height as usize);
        let rows = height.div_ceil(threads.get()).max(1);
        let light = self.painter.light();
        let parts = self.pixels.chunks_mut((rows * width).max(1));
        thread::scope(|scope| {
            for (index, pixels) in parts.enumerate() {
                scope.spawn(move || {
                    let mut target = Target::new(pixels, width, index * rows);
                    Painter::new(light.cloned()).draw(frame, atlas, &mut target);
                });
            }
        });
    }

    /// Draws another canvas over this one, each of its pixels as a square of `times` by
    /// `times` whole pixels, its top left corner `x` pixels to the right and `y` down: a
    /// virtual raster on a window ([`Fit::Integer`](crate::Fit::Integer)). What lies outside
    /// is left out.
    pub fn draw_enlarged(&mut self, picture: &Self, x: i32, y: i32, times: u32) {
        let width = self.size.width as usize;
        let times = times.max(1);
        let mut target = Target::new(&mut self.pixels, width, 0);
        let own = picture.size;
        let rows = picture.pixels.chunks_exact((own.width as usize).max(1));
        // The pixels of the window that a pixel of the picture is seen on.
        let seen = |index: usize, start: i32, most: u32| {
            let from = i64::from(start) + index as i64 * i64::from(times);
            let within = |at: i64| at.clamp(0, i64::from(most)) as usize;
            within(from)..within(from + i64::from(times))
        };
        for (row, pixels) in rows.enumerate() {
            for line in seen(row, y, self.size.height) {
                for (column, pixel) in pixels.iter().enumerate() {
                    target.blend(line, seen(column, x, self.size.width), *pixel);
                }
            }
        }
    }

    /// Copies the picture with straight alpha.
    pub fn to_image(&self) -> Image {
        let pixels = self.pixels.iter().copied().flat_map(straight).collect();
        Image::of_size(self.size, pixels)
    }
}
