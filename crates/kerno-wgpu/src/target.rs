//! Targets of drawing.

use kerno::DeviceSize;
use kerno::atlas::AtlasOptions;
use wgpu::{CompareFunction, Limits, TextureFormat};

/// A target of drawing: the format of the view, its size, its samples and the depth buffer
/// beside it.
///
/// Blending is that of the canvas on a format such as `Rgba8Unorm` (in sRGB, as it is stored).
/// On a format that holds light, whether it converts (`Rgba8UnormSrgb`) or not (`Rgba16Float`,
/// for HDR), colours are made light first and blended so, as the canvas does with
/// `Blending::LinearLight`.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Target {
    /// Format of the view.
    pub format: TextureFormat,
    /// Its size in pixels.
    pub size: DeviceSize,
    /// Samples of a pixel (MSAA); 1 for a plain target.
    pub samples: u32,
    /// The depth buffer of the passes that are drawn in, and the test that frames in the world
    /// pass. Kerno writes no depth, and a frame of the window passes always.
    pub depth: Option<(TextureFormat, CompareFunction)>,
    /// Light of a white pixel, on formats that hold light; 1 by default. On HDR targets the
    /// brightness of the interface beside that of the scene.
    pub white: f32,
}

impl Target {
    /// A plain target.
    pub const fn new(format: TextureFormat, size: DeviceSize) -> Self {
        Self {
            format,
            size,
            samples: 1,
            depth: None,
            white: 1.0,
        }
    }

    /// Sets the samples of a pixel.
    #[must_use]
    pub const fn samples(mut self, samples: u32) -> Self {
        self.samples = samples;
        self
    }

    /// Sets the depth buffer of the passes, and the test of frames in the world: for instance
    /// `LessEqual`, or `GreaterEqual` where near is 1.
    #[must_use]
    pub const fn depth(mut self, format: TextureFormat, test: CompareFunction) -> Self {
        self.depth = Some((format, test));
        self
    }

    /// Sets the light of a white pixel, above 0.
    #[must_use]
    pub const fn white(mut self, white: f32) -> Self {
        self.white = white;
        self
    }

    /// Returns whether nothing can be drawn: a window that is minimised.
    pub const fn is_empty(&self) -> bool {
        self.size.width == 0 || self.size.height == 0
    }

    /// Returns whether the format holds light instead of sRGB values.
    pub(crate) fn holds_light(&self) -> bool {
        let is_float = matches!(
            self.format,
            TextureFormat::Rgba16Float | TextureFormat::Rgba32Float | TextureFormat::Rg11b10Ufloat
        );
        self.format.is_srgb() || is_float
    }

    /// Device pixels of the window to clip space, column by column.
    pub(crate) fn transform(&self) -> [[f32; 4]; 4] {
        let (width, height) = (self.size.width as f32, self.size.height as f32);
        [
            [2.0 / width, 0.0, 0.0, 0.0],
            [0.0, -2.0 / height, 0.0, 0.0],
            [0.0, 0.0, 1.0, 0.0],
            [-1.0, 1.0, 0.0, 1.0],
        ]
    }
}

/// Options for an atlas whose pages fit a device with some limits: the defaults, with smaller
/// pages and fewer of them where the device asks for it.
pub fn atlas_options(limits: &Limits) -> AtlasOptions {
    let options = AtlasOptions::default();
    let least = |own: u16, most: u32| own.min(u16::try_from(most).unwrap_or(u16::MAX));
    let side = least(options.page_side, limits.max_texture_dimension_2d);
    let pages = least(options.max_pages, limits.max_texture_array_layers);
    options.page_side(side).max_pages(pages)
}
