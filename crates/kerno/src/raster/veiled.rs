//! Pictures that tell what the layers above hide of them.

use super::filler::Filler;
use super::placement::Placement;
use super::treated::Treated;
use super::{Coverage, RasterError, VeilLayer};
use crate::base::Limits;
use crate::outline::Outline;

/// The veil of a picture begins a multiple of this number of rows below it.
pub(crate) const VEIL_ROWS: usize = 4;

/// Memory for veiled pictures.
#[derive(Debug, Default)]
pub(super) struct Veiled {
    picture: Coverage,
    /// The coverage of the layers above, over the pixels of the picture.
    above: Vec<u8>,
}

impl Veiled {
    /// Draws the first of some layers, and below it, over the same pixels, what the others
    /// cover together: at least one empty row lies between.
    pub(super) fn draw(
        &mut self,
        (filler, treated): (&mut Filler, &mut Treated),
        (outline, scale): (&Outline, f32),
        layers: &[VeilLayer],
        limits: &Limits,
    ) -> Result<&Coverage, RasterError> {
        let [own, above @ ..] = layers else {
            self.picture.clear();
            return Ok(&self.picture);
        };
        let mut draw = |layer: &VeilLayer| {
            let placement = Placement {
                scale,
                x: layer.x as f32 / 64.0,
                y: layer.y as f32 / 64.0,
            };
            let picture =
                treated.draw_whole(filler, (outline, placement), &layer.treatment, limits)?;
            Ok::<_, RasterError>(picture.clone())
        };
        self.picture = draw(own)?;
        let (width, height) = (self.picture.width as usize, self.picture.height as usize);
        if self.picture.is_empty() {
            return Ok(&self.picture);
        }
        self.above.clear();
        self.above.resize(width * height, 0);
        for layer in above {
            let picture = draw(layer)?;
            for (row, rest) in self.above.chunks_exact_mut(width).enumerate() {
                for (column, above) in rest.iter_mut().enumerate() {
                    let (x, y) = (column as i32, row as i32);
                    let own = picture.at(self.picture.left + x, self.picture.top + y);
                    *above = joined(*above, own, layer.alpha);
                }
            }
        }
        let half = (height + 1).next_multiple_of(VEIL_ROWS);
        let texels = &mut self.picture.texels;
        texels.resize(width * half, 0);
        texels.extend_from_slice(&self.above);
        texels.resize(width * half * 2, 0);
        Ok(&self.picture)
    }
}

/// The union of two coverages, the second by a layer of an alpha.
fn joined(one: u8, other: u8, alpha: u8) -> u8 {
    let share = |part: u8| f32::from(part) / 255.0;
    let other = share(other) * share(alpha);
    let rest = (1.0 - share(one)) * (1.0 - other);
    ((1.0 - rest) * 255.0).round() as u8
}
