//! What is drawn on.

use kerno::DeviceSize;
use wgpu::TextureFormat;

/// What is drawn on: the format of the view and its size.
///
/// Blending is that of the canvas on a linear format such as `Rgba8Unorm` (in sRGB, as it is
/// stored); a format that converts (`Rgba8UnormSrgb`) blends in linear light, as the canvas does
/// with `Blending::LinearLight`.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Target {
    /// Format of the view.
    pub format: TextureFormat,
    /// Its size in pixels.
    pub size: DeviceSize,
    /// Samples of a pixel (MSAA); 1 for a plain target.
    pub samples: u32,
}

impl Target {
    /// A plain target.
    pub const fn new(format: TextureFormat, size: DeviceSize) -> Self {
        Self {
            format,
            size,
            samples: 1,
        }
    }

    /// Sets the samples of a pixel.
    #[must_use]
    pub const fn samples(mut self, samples: u32) -> Self {
        self.samples = samples;
        self
    }

    /// Returns whether nothing can be drawn: a window that is minimised.
    pub const fn is_empty(&self) -> bool {
        self.size.width == 0 || self.size.height == 0
    }
}
