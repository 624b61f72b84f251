//! Blending in linear light.

/// Tables from sRGB to linear light and back (IEC 61966-2-1).
#[derive(Debug)]
pub(in crate::draw) struct LinearLight {
    to_linear: [f32; 256],
    /// By the square root of the light, so that dark colours are told apart as well.
    to_srgb: Vec<u8>,
}

/// Steps of the way back: none is wider than a third of a step of sRGB.
const STEPS: usize = 4096;

fn linear(value: f32) -> f32 {
    match value <= 0.04045 {
        true => value / 12.92,
        false => ((value + 0.055) / 1.055).powf(2.4),
    }
}

fn srgb(light: f32) -> f32 {
    match light <= 0.003_130_8 {
        true => light * 12.92,
        false => 1.055 * light.powf(1.0 / 2.4) - 0.055,
    }
}

impl LinearLight {
    pub(in crate::draw) fn new() -> Self {
        let share = |step: usize| step as f32 / (STEPS - 1) as f32;
        Self {
            to_linear: std::array::from_fn(|value| linear(value as f32 / 255.0)),
            to_srgb: (0..STEPS)
                .map(|step| (srgb(share(step) * share(step)) * 255.0 + 0.5) as u8)
                .collect(),
        }
    }

    /// The light of a premultiplied sRGB colour, multiplied by its alpha.
    pub(super) fn light(&self, color: [u8; 4]) -> [f32; 4] {
        let alpha = color[3];
        let part = f32::from(alpha) / 255.0;
        let channel = |value: u8| match alpha {
            0 => 0.0,
            255 => self.to_linear[usize::from(value)],
            _ => {
                let straight = f32::from(value) * 255.0 / f32::from(alpha);
                self.to_linear[(straight + 0.5).min(255.0) as usize] * part
            }
        };
        let [red, green, blue, _] = color;
        [channel(red), channel(green), channel(blue), part]
    }

    /// Lays light over a pixel, as far as something covers it.
    pub(super) fn over(&self, pixel: &mut [u8; 4], above: [f32; 4], coverage: f32) {
        if coverage <= 0.0 || above[3] <= 0.0 {
            return;
        }
        let rest = 1.0 - above[3] * coverage;
        let below = self.light(*pixel);
        let mixed: [f32; 4] =
            std::array::from_fn(|channel| above[channel] * coverage + below[channel] * rest);
        let alpha = mixed[3].min(1.0);
        let channel = |light: f32| {
            let root = (light / alpha).clamp(0.0, 1.0).sqrt();
            let value = self.to_srgb[(root * (STEPS - 1) as f32 + 0.5) as usize];
            (f32::from(value) * alpha + 0.5) as u8
        };
        let [red, green, blue, _] = mixed;
        *pixel = [
            channel(red),
            channel(green),
            channel(blue),
            (alpha * 255.0 + 0.5) as u8,
        ];
    }

    /// Lays a row over another.
    pub(super) fn blend_colors(&self, row: &mut [[u8; 4]], colors: &[[u8; 4]]) {
        for (pixel, color) in row.iter_mut().zip(colors) {
            self.over(pixel, self.light(*color), 1.0);
        }
    }
}
