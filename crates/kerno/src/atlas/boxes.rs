//! Pictures of blurred boxes.

use super::AtlasError;
use super::drawn::{DrawnPicture, QUARTER};
use crate::base::{Edges, Treatment};
use crate::outline::{Outline, OutlinePoint};
use crate::raster::{Placement, Rasterizer};

/// A box with round corners that is blurred: as large as it has to be for its edges to be
/// as those of any larger one.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub(crate) struct BoxPicture {
    /// In device pixels.
    width: u16,
    height: u16,
    radius: u16,
    /// Standard deviation in 1/64 device pixel.
    blur: u32,
}

/// Beyond this many standard deviations a blurred edge is as if it were not there.
const REACH: f32 = 3.0;

impl BoxPicture {
    /// The picture for a box of a size, in device pixels; none where there is no area.
    pub(crate) fn of(width: f32, height: f32, radius: f32, deviation: f32) -> Option<Self> {
        let blur = Treatment::from(Edges::Smooth).with_blur(deviation).blur;
        let most = width.min(height) * 0.5;
        let radius = radius.clamp(0.0, most.clamp(0.0, 4096.0)).round();
        let reach = (blur as f32 / 64.0 * REACH).ceil();
        let mut picture = Self {
            width: 1,
            height: 1,
            radius: radius as u16,
            blur,
        };
        // As long as the box, or as long as its edges and a whole number of texels.
        let texel = picture.treatment().reduction() as f32;
        let most = ((2.0 * (radius + reach) + 3.0) / texel).ceil() * texel;
        let side = |length: f32| length.round().min(most) as u16;
        (picture.width, picture.height) = (side(width), side(height));
        (picture.width > 0 && picture.height > 0).then_some(picture)
    }

    fn treatment(&self) -> Treatment {
        Treatment::from(Edges::Smooth).with_blur(self.blur as f32 / 64.0)
    }

    /// The distance that the picture reaches beyond the box, in device pixels.
    pub(crate) fn reach(&self) -> f32 {
        let reduction = self.treatment().reduction() as f32;
        match self.blur {
            0 => 0.0,
            _ => Rasterizer::blur_reach(&self.treatment()) as f32 * reduction,
        }
    }

    fn outline(&self) -> Outline {
        let (right, bottom) = (f32::from(self.width), -f32::from(self.height));
        let radius = f32::from(self.radius);
        let bend = radius * (1.0 - QUARTER);
        let point = OutlinePoint::new;
        let mut outline = Outline::new();
        outline.move_to(radius, 0.0);
        outline.line_to(right - radius, 0.0);
        outline.curve_to(
            point(right - bend, 0.0),
            point(right, -bend),
            point(right, -radius),
        );
        outline.line_to(right, bottom + radius);
        outline.curve_to(
            point(right, bottom + bend),
            point(right - bend, bottom),
            point(right - radius, bottom),
        );
        outline.line_to(radius, bottom);
        outline.curve_to(
            point(bend, bottom),
            point(0.0, bottom + bend),
            point(0.0, bottom + radius),
        );
        outline.line_to(0.0, -radius);
        outline.curve_to(point(0.0, -bend), point(bend, 0.0), point(radius, 0.0));
        outline.close();
        outline
    }

    /// Draws it, from its top left corner on.
    pub(super) fn draw<'a>(
        &self,
        rasterizer: &'a mut Rasterizer,
    ) -> Result<Option<DrawnPicture<'a>>, AtlasError> {
        let placement = Placement {
            scale: 1.0,
            x: 0.0,
            y: 0.0,
        };
        let picture = rasterizer.fill_treated(&self.outline(), placement, &self.treatment())?;
        Ok(DrawnPicture::of_coverage(picture))
    }
}
