//! Pictures blurred by a Gaussian.

use super::{Coverage, RasterError};

/// Of the Gaussian this many standard deviations to each side count: what lies beyond is
/// 0.27 % of it, less than 1/255 of an edge on either side.
const REACH: f32 = 3.0;

/// Memory for blurring.
#[derive(Debug, Default)]
pub(super) struct Blur {
    weights: Vec<f32>,
    /// The picture as it is, and blurred across.
    plain: Vec<f32>,
    across: Vec<f32>,
    row: Vec<f32>,
}

impl Blur {
    /// Blurs a picture by a Gaussian with a standard deviation in its pixels; it becomes
    /// larger by three of them on all sides.
    pub(super) fn apply(
        &mut self,
        picture: &mut Coverage,
        deviation: f32,
        limit: u32,
    ) -> Result<(), RasterError> {
        if picture.is_empty() || deviation <= 0.0 {
            return Ok(());
        }
        let reach = Self::reach(deviation);
        let (width, height) = (picture.width as usize, picture.height as usize);
        let (wide, high) = (width + 2 * reach, height + 2 * reach);
        if wide.max(high) > limit as usize {
            return Err(RasterError::TooLarge {
                width: wide as u64,
                height: high as u64,
                limit,
            });
        }
        self.weigh(deviation, reach);
        self.plain.clear();
        self.plain
            .extend(picture.texels.iter().map(|texel| f32::from(*texel)));
        self.across.clear();
        self.across.resize(wide * height, 0.0);
        let rows = self.across.chunks_exact_mut(wide);
        for (row, plain) in rows.zip(self.plain.chunks_exact(width)) {
            for (shift, weight) in self.weights.iter().enumerate() {
                add(&mut row[shift..shift + width], plain, *weight);
            }
        }
        picture.texels.clear();
        for y in 0..high {
            self.row.clear();
            self.row.resize(wide, 0.0);
            for (shift, weight) in self.weights.iter().enumerate() {
                // The row of the picture that reaches this one from as far away.
                let Some(from) = y.checked_sub(shift).filter(|from| *from < height) else {
                    continue;
                };
                add(&mut self.row, &self.across[from * wide..][..wide], *weight);
            }
            let texels = self.row.iter().map(|sum| (sum + 0.5) as u8);
            picture.texels.extend(texels);
        }
        picture.left -= reach as i32;
        picture.top -= reach as i32;
        picture.width = wide as u32;
        picture.height = high as u32;
        Ok(())
    }

    /// The pixels that a blur reaches to each side.
    pub(super) fn reach(deviation: f32) -> usize {
        (deviation * REACH).ceil().max(1.0) as usize
    }

    /// The weights of the pixels around one, together 1.
    fn weigh(&mut self, deviation: f32, reach: usize) {
        self.weights.clear();
        let weight = |step: usize| {
            let away = (step as f32 - reach as f32) / deviation;
            (-0.5 * away * away).exp()
        };
        self.weights.extend((0..=2 * reach).map(weight));
        let sum: f32 = self.weights.iter().sum();
        for weight in &mut self.weights {
            *weight /= sum;
        }
    }
}

fn add(to: &mut [f32], from: &[f32], weight: f32) {
    for (to, from) in to.iter_mut().zip(from) {
        *to += from * weight;
    }
}
