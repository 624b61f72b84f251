//! The CPU renderer.

use super::blend::{over, premultiplied, times};
use super::sample::{TextureSpan, sample};
use super::triangle::Triangle;
use super::{Frame, Shade, ShadeKind, VEIL_UNITS, Vertex};
use crate::atlas::{Atlas, Page, PageKind};
use crate::base::{Color, DeviceSize, Image, ImageError, Limits, straight};

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
        })
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
        for quad in frame.indices.as_chunks::<6>().0 {
            let corner = |index: usize| frame.vertices[quad[index] as usize];
            let corners = [corner(0), corner(1), corner(2), corner(5)];
            match TextureSpan::of(&corners).filter(|_| is_upright(&corners)) {
                Some(texture) => self.upright_quad(&corners, &texture, atlas),
                None => self.quad(&corners, atlas),
            }
        }
    }

    /// Draws a quad whose edges go along the axes.
    fn upright_quad(&mut self, corners: &[Vertex; 4], texture: &TextureSpan, atlas: &Atlas) {
        let [first, _, last, _] = corners;
        let span = |axis: usize| {
            let (from, to) = (first.position[axis], last.position[axis]);
            Span::new(from, to, texture.along(axis))
        };
        let (across, down) = (span(0), span(1));
        let colors = Gradient::new(corners);
        match Texture::of(first.shade, atlas) {
            Some(Texture::Mask(page)) => self.fill(across, down, |x, y| {
                let [coverage] = texture.sample(page, x.texel, y.texel);
                masked(colors.at(x.share, y.share), coverage)
            }),
            Some(Texture::Veiled(page, veil)) => self.fill(across, down, |x, y| {
                let [coverage] = texture.sample(page, x.texel, y.texel);
                let [above] = texture.sample(page, x.texel, y.texel + veil.rows);
                veil.masked(colors.at(x.share, y.share), coverage, above)
            }),
            Some(Texture::Color(page)) => self.fill(across, down, |x, y| {
                let texel = texture.sample(page, x.texel, y.texel);
                tinted(texel, colors.at(x.share, y.share))
            }),
            Some(Texture::Solid) => self.fill(across, down, |x, y| colors.at(x.share, y.share)),
            None => {}
        }
    }

    fn fill(&mut self, across: Span, down: Span, color: impl Fn(Sample, Sample) -> [u8; 4]) {
        let (width, height) = (self.size.width as usize, self.size.height as usize);
        let columns = across.pixels(width);
        for y in down.pixels(height) {
            let row = &mut self.pixels[y * width..][..width];
            let y = down.sample(y);
            for (x, pixel) in columns.clone().zip(&mut row[columns.clone()]) {
                let above = color(across.sample(x), y);
                *pixel = over(above, *pixel);
            }
        }
    }

    /// Draws any convex quad: its two triangles.
    fn quad(&mut self, corners: &[Vertex; 4], atlas: &Atlas) {
        let [a, b, c, d] = *corners;
        let Some(texture) = Texture::of(a.shade, atlas) else {
            return;
        };
        let width = self.size.width as usize;
        for triangle in [[a, b, c], [a, c, d]].into_iter().filter_map(Triangle::new) {
            triangle.each(self.size, |x, y, point| {
                let [u, v] = point.texel;
                let above = match texture {
                    Texture::Mask(page) => {
                        let [coverage] = sample(page, u, v);
                        masked(point.color, coverage)
                    }
                    Texture::Veiled(page, veil) => {
                        let [coverage] = sample(page, u, v);
                        let [above] = sample(page, u, v + veil.rows);
                        veil.masked(point.color, coverage, above)
                    }
                    Texture::Color(page) => tinted(sample(page, u, v), point.color),
                    Texture::Solid => point.color,
                };
                let pixel = &mut self.pixels[y * width + x];
                *pixel = over(above, *pixel);
            });
        }
    }

    /// Copies the picture with straight alpha.
    pub fn to_image(&self) -> Image {
        let pixels = self.pixels.iter().copied().flat_map(straight).collect();
        Image::of_size(self.size, pixels)
    }
}

/// The page that a quad shows.
#[derive(Clone, Copy)]
enum Texture<'a> {
    Solid,
    Mask(&'a Page),
    Veiled(&'a Page, Veil),
    Color(&'a Page),
}

impl<'a> Texture<'a> {
    /// None where the page is not there.
    fn of(shade: Shade, atlas: &'a Atlas) -> Option<Self> {
        let page = |kind| atlas.pages(kind).get(usize::from(shade.page));
        match shade.kind {
            kind if kind == ShadeKind::Mask as u8 => page(PageKind::Mask).map(Self::Mask),
            kind if kind == ShadeKind::VeiledMask as u8 => {
                page(PageKind::Mask).map(|page| Self::Veiled(page, Veil::of(shade)))
            }
            kind if kind == ShadeKind::Color as u8 => page(PageKind::Color).map(Self::Color),
            _ => Some(Self::Solid),
        }
    }
}

/// What hides a mask.
#[derive(Clone, Copy)]
struct Veil {
    /// Rows of the page down to it.
    rows: f32,
    /// Opacity of the whole letter, 0 to 1.
    opacity: f32,
}

impl Veil {
    fn of(shade: Shade) -> Self {
        Self {
            rows: f32::from(u16::from(shade.edge) * VEIL_UNITS),
            opacity: f32::from(shade.softness) / 255.0,
        }
    }

    /// A colour where a mask has a coverage and the layers above have another.
    fn masked(&self, color: [u8; 4], coverage: u8, above: u8) -> [u8; 4] {
        let (coverage, above) = (f32::from(coverage) / 255.0, f32::from(above) / 255.0);
        let seen = coverage * (1.0 - above) / (1.0 - self.opacity * above);
        color.map(|channel| (f32::from(channel) * seen + 0.5) as u8)
    }
}

/// A colour where a mask has some coverage.
fn masked(color: [u8; 4], coverage: u8) -> [u8; 4] {
    color.map(|channel| times(channel, coverage))
}

/// A colour of a picture, times that of the quad.
fn tinted(texel: [u8; 4], color: [u8; 4]) -> [u8; 4] {
    std::array::from_fn(|channel| times(texel[channel], color[channel]))
}

/// Returns whether a quad is a rectangle that stands as it was laid out.
fn is_upright(corners: &[Vertex; 4]) -> bool {
    let [first, right, last, left] = corners.map(|corner| corner.position);
    first[0] == left[0]
        && right[0] == last[0]
        && first[1] == right[1]
        && left[1] == last[1]
        && first[0] <= last[0]
        && first[1] <= last[1]
}

/// One axis of a quad.
#[derive(Clone, Copy)]
struct Span {
    from: f32,
    to: f32,
    /// In texels, from the whole texel that the quad begins in: 0 to 1.
    first: f32,
    texels_per_pixel: f32,
}

/// Where a pixel's centre lies along one axis of a quad.
#[derive(Clone, Copy)]
struct Sample {
    /// In texels, from the whole texel that the quad begins in.
    texel: f32,
    /// 0 at the quad's start, 1 at its end.
    share: f32,
}

impl Span {
    fn new(from: f32, to: f32, (first, length): (f32, f32)) -> Self {
        Self {
            from,
            to,
            first,
            texels_per_pixel: length / (to - from),
        }
    }

    /// The pixels whose centres lie in the span, within the canvas.
    fn pixels(self, most: usize) -> std::ops::Range<usize> {
        let edge = |at: f32| ((at - 0.5).ceil().max(0.0) as usize).min(most);
        edge(self.from)..edge(self.to).max(edge(self.from))
    }

    fn sample(self, pixel: usize) -> Sample {
        let way = pixel as f32 + 0.5 - self.from;
        Sample {
            texel: self.first + way * self.texels_per_pixel,
            share: way / (self.to - self.from),
        }
    }
}

/// The colours of a quad's corners.
struct Gradient {
    corners: [[f32; 4]; 4],
    /// Where all corners agree.
    plain: Option<[u8; 4]>,
}

impl Gradient {
    fn new(corners: &[Vertex; 4]) -> Self {
        let first = corners[0].color;
        Self {
            corners: corners.map(|corner| corner.color.map(f32::from)),
            plain: corners
                .iter()
                .all(|corner| corner.color == first)
                .then_some(first),
        }
    }

    fn at(&self, x: f32, y: f32) -> [u8; 4] {
        if let Some(color) = self.plain {
            return color;
        }
        let [top_left, top_right, bottom_right, bottom_left] = self.corners;
        std::array::from_fn(|channel| {
            let mix = |from: f32, to: f32, share: f32| from + (to - from) * share;
            let top = mix(top_left[channel], top_right[channel], x);
            let bottom = mix(bottom_left[channel], bottom_right[channel], x);
            (mix(top, bottom, y) + 0.5) as u8
        })
    }
}
