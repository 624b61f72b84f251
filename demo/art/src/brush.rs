//! A sheet to draw on, in design pixels, and the few shapes that we need.

use kerno::Color;
use kerno::base::{Edges, Image, ImageError};
use kerno::outline::{Outline, OutlinePoint};
use kerno::raster::{Placement, Rasterizer};

/// Distance of the control points of a quarter circle from its ends, in radii.
const QUARTER: f32 = 0.552_284_8;

/// Filling of a shape.
#[derive(Clone, Copy)]
pub(crate) enum Paint {
    Plain(Color),
    /// From the first colour at height `.0` to the second at height `.2`.
    Down(f32, Color, f32, Color),
    /// From the first colour at a centre to the second at a radius.
    Round(f32, f32, f32, Color, Color),
}

impl From<Color> for Paint {
    fn from(color: Color) -> Self {
        Self::Plain(color)
    }
}

impl Paint {
    /// The colour at a place: straight alpha, 0 to 1.
    fn at(self, x: f32, y: f32) -> [f32; 4] {
        match self {
            Self::Plain(color) => channels(color),
            Self::Down(top, from, bottom, to) => mix(from, to, (y - top) / (bottom - top)),
            Self::Round(cx, cy, radius, from, to) => mix(from, to, (x - cx).hypot(y - cy) / radius),
        }
    }
}

fn channels(color: Color) -> [f32; 4] {
    [color.red, color.green, color.blue, color.alpha].map(|c| f32::from(c) / 255.0)
}

fn mix(from: Color, to: Color, share: f32) -> [f32; 4] {
    let share = share.clamp(0.0, 1.0);
    let (from, to) = (channels(from), channels(to));
    std::array::from_fn(|channel| from[channel] + (to[channel] - from[channel]) * share)
}

/// An opaque colour from its hexadecimal digits, `0xrrggbb`.
pub(crate) const fn ink(digits: u32) -> Color {
    Color::rgb((digits >> 16) as u8, (digits >> 8) as u8, digits as u8)
}

/// A shape in design pixels, y down.
#[derive(Default)]
pub(crate) struct Shape(Outline);

impl Shape {
    pub(crate) fn start(mut self, x: f32, y: f32) -> Self {
        self.0.move_to(x, -y);
        self
    }

    pub(crate) fn line(mut self, x: f32, y: f32) -> Self {
        self.0.line_to(x, -y);
        self
    }

    /// A quadratic curve by way of `cx`, `cy`.
    pub(crate) fn bend(mut self, cx: f32, cy: f32, x: f32, y: f32) -> Self {
        self.0
            .quad_to(OutlinePoint::new(cx, -cy), OutlinePoint::new(x, -y));
        self
    }

    fn cubic(mut self, a: (f32, f32), b: (f32, f32), to: (f32, f32)) -> Self {
        let [a, b, to] = [a, b, to].map(|(x, y)| OutlinePoint::new(x, -y));
        self.0.curve_to(a, b, to);
        self
    }

    pub(crate) fn polygon(self, points: &[(f32, f32)]) -> Self {
        let mut shape = self;
        for (index, &(x, y)) in points.iter().enumerate() {
            shape = if index == 0 {
                shape.start(x, y)
            } else {
                shape.line(x, y)
            };
        }
        shape
    }

    pub(crate) fn ellipse(self, cx: f32, cy: f32, rx: f32, ry: f32) -> Self {
        let (kx, ky) = (rx * QUARTER, ry * QUARTER);
        self.start(cx + rx, cy)
            .cubic((cx + rx, cy + ky), (cx + kx, cy + ry), (cx, cy + ry))
            .cubic((cx - kx, cy + ry), (cx - rx, cy + ky), (cx - rx, cy))
            .cubic((cx - rx, cy - ky), (cx - kx, cy - ry), (cx, cy - ry))
            .cubic((cx + kx, cy - ry), (cx + rx, cy - ky), (cx + rx, cy))
    }

    pub(crate) fn circle(self, cx: f32, cy: f32, radius: f32) -> Self {
        self.ellipse(cx, cy, radius, radius)
    }

    pub(crate) fn rect(self, x: f32, y: f32, width: f32, height: f32) -> Self {
        let (right, bottom) = (x + width, y + height);
        self.polygon(&[(x, y), (right, y), (right, bottom), (x, bottom)])
    }

    pub(crate) fn rounded(self, x: f32, y: f32, width: f32, height: f32, radius: f32) -> Self {
        let (r, b) = (x + width, y + height);
        let k = radius * (1.0 - QUARTER);
        self.start(x + radius, y)
            .line(r - radius, y)
            .cubic((r - k, y), (r, y + k), (r, y + radius))
            .line(r, b - radius)
            .cubic((r, b - k), (r - k, b), (r - radius, b))
            .line(x + radius, b)
            .cubic((x + k, b), (x, b - k), (x, b - radius))
            .line(x, y + radius)
            .cubic((x, y + k), (x + k, y), (x + radius, y))
    }

    /// A thick line with round ends.
    pub(crate) fn stroke(self, from: (f32, f32), to: (f32, f32), width: f32) -> Self {
        let (dx, dy) = (to.0 - from.0, to.1 - from.1);
        let half = width * 0.5;
        let length = dx.hypot(dy).max(1e-6);
        let (nx, ny) = (-dy / length * half, dx / length * half);
        // In the same sense of turning as the circles, so that windings add up.
        self.polygon(&[
            (from.0 - nx, from.1 - ny),
            (to.0 - nx, to.1 - ny),
            (to.0 + nx, to.1 + ny),
            (from.0 + nx, from.1 + ny),
        ])
        .circle(from.0, from.1, half)
        .circle(to.0, to.1, half)
    }
}

/// A picture under way: design pixels drawn at `density` image pixels each.
pub(crate) struct Sheet {
    width: usize,
    height: usize,
    density: f32,
    /// Premultiplied, 0 to 1.
    pixels: Vec<[f32; 4]>,
    rasterizer: Rasterizer,
}

impl Sheet {
    pub(crate) fn new(width: f32, height: f32, density: f32) -> Self {
        let (width, height) = ((width * density) as usize, (height * density) as usize);
        Self {
            width,
            height,
            density,
            pixels: vec![[0.0; 4]; width * height],
            rasterizer: Rasterizer::new(),
        }
    }

    /// Fills a shape.
    pub(crate) fn fill(&mut self, shape: Shape, paint: impl Into<Paint>) {
        let paint = paint.into();
        let placement = Placement {
            scale: self.density,
            x: 0.0,
            y: 0.0,
        };
        let mut rasterizer = std::mem::take(&mut self.rasterizer);
        let picture = rasterizer
            .fill(&shape.0, placement, Edges::Smooth)
            .expect("sprites are small");
        for (index, coverage) in picture.texels.iter().enumerate() {
            let x = picture.left + (index as u32 % picture.width) as i32;
            let y = picture.top + (index as u32 / picture.width) as i32;
            self.blend(x, y, paint, f32::from(*coverage) / 255.0);
        }
        self.rasterizer = rasterizer;
    }

    /// Covers every pixel by a share that depends on its place.
    pub(crate) fn shade(&mut self, color: Color, share: impl Fn(f32, f32) -> f32) {
        for y in 0..self.height as i32 {
            for x in 0..self.width as i32 {
                let at = |pixel: i32| (pixel as f32 + 0.5) / self.density;
                self.blend(x, y, color.into(), share(at(x), at(y)).clamp(0.0, 1.0));
            }
        }
    }

    /// Light that fades out around a centre.
    pub(crate) fn halo(&mut self, cx: f32, cy: f32, radius: f32, color: Color, strength: f32) {
        self.shade(color, |x, y| {
            let fade = (1.0 - (x - cx).hypot(y - cy) / radius).max(0.0);
            strength * fade * fade * (3.0 - 2.0 * fade)
        });
    }

    /// Takes away what lies outside a shape.
    pub(crate) fn keep_inside(&mut self, shape: Shape) {
        let mut mask = Self::new(
            self.width as f32 / self.density,
            self.height as f32 / self.density,
            self.density,
        );
        mask.fill(shape, Color::WHITE);
        for (pixel, [.., share]) in self.pixels.iter_mut().zip(mask.pixels) {
            *pixel = pixel.map(|channel| channel * share);
        }
    }

    fn blend(&mut self, x: i32, y: i32, paint: Paint, coverage: f32) {
        let (Ok(column), Ok(row)) = (usize::try_from(x), usize::try_from(y)) else {
            return;
        };
        if column >= self.width || row >= self.height || coverage <= 0.0 {
            return;
        }
        let at = |pixel: i32| (pixel as f32 + 0.5) / self.density;
        let [red, green, blue, alpha] = paint.at(at(x), at(y));
        let alpha = alpha * coverage;
        let pixel = &mut self.pixels[row * self.width + column];
        let above = [red * alpha, green * alpha, blue * alpha, alpha];
        for (channel, value) in pixel.iter_mut().zip(above) {
            *channel = value + *channel * (1.0 - alpha);
        }
    }

    pub(crate) fn into_image(self) -> Result<Image, ImageError> {
        let bytes = self.pixels.iter().flat_map(|&[red, green, blue, alpha]| {
            let byte = |value: f32| (value.clamp(0.0, 1.0) * 255.0).round() as u8;
            let straight = |value: f32| if alpha > 0.0 { byte(value / alpha) } else { 0 };
            [straight(red), straight(green), straight(blue), byte(alpha)]
        });
        Image::new(self.width as u32, self.height as u32, bytes.collect())
    }
}
