//! The CPU renderer.

use super::blend::{over, premultiplied, times};
use super::{Frame, ShadeKind, TEXEL_UNITS, Vertex};
use crate::atlas::{Atlas, Page, PageKind};
use crate::base::{Color, DeviceSize, Image, ImageError, Limits, straight};

/// Draws frames into memory: premultiplied sRGB, four bytes a pixel, row by
/// row from the top.
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
            self.quad([corner(0), corner(1), corner(2), corner(5)], atlas);
        }
    }

    fn quad(&mut self, corners: [Vertex; 4], atlas: &Atlas) {
        let [first, right, last, _] = corners;
        let units = TextureSpan::new(first.texel, right.texel, last.texel);
        let span = |axis: usize| {
            let (from, to) = (first.position[axis], last.position[axis]);
            Span::new(from, to, units.first[axis], units.length[axis])
        };
        let (across, down) = (span(0), span(1));
        let colors = Gradient::new(&corners);
        let shade = first.shade;
        let page = |kind| atlas.pages(kind).get(usize::from(shade.page));
        if shade.kind == ShadeKind::Mask as u8 {
            let Some(page) = page(PageKind::Mask) else {
                return;
            };
            self.fill(across, down, |x, y| {
                let [coverage] = sample(page, &units, x.texel, y.texel);
                colors
                    .at(x.share, y.share)
                    .map(|channel| times(channel, coverage))
            });
        } else if shade.kind == ShadeKind::Color as u8 {
            let Some(page) = page(PageKind::Color) else {
                return;
            };
            self.fill(across, down, |x, y| {
                let texel: [u8; 4] = sample(page, &units, x.texel, y.texel);
                let color = colors.at(x.share, y.share);
                std::array::from_fn(|channel| times(texel[channel], color[channel]))
            });
        } else {
            self.fill(across, down, |x, y| colors.at(x.share, y.share));
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

    /// Copies the picture with straight alpha.
    pub fn to_image(&self) -> Image {
        let pixels = self.pixels.iter().copied().flat_map(straight).collect();
        Image::of_size(self.size, pixels)
    }
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
    fn new(from: f32, to: f32, first: u16, length: u16) -> Self {
        let texels = |units: u16| f32::from(units) / f32::from(TEXEL_UNITS);
        Self {
            from,
            to,
            first: texels(first),
            texels_per_pixel: texels(length) / (to - from),
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

/// Where a quad's picture lies on its page. Places in the picture are counted from
/// its own corner, so that a picture comes out the same wherever it was put, turned
/// or not.
struct TextureSpan {
    /// The whole texel of the page that the quad begins in.
    corner: [i32; 2],
    /// From there to where it really begins, across and down, in units.
    first: [u16; 2],
    /// The distance it reaches from there, across and down, in units.
    length: [u16; 2],
    is_rotated: bool,
}

impl TextureSpan {
    fn new(first: [u16; 2], right: [u16; 2], last: [u16; 2]) -> Self {
        // On its side, going right in a picture is going down the page.
        let is_rotated = first[0] == right[0] && first[1] != right[1];
        let [u, v] = first;
        let whole = |units: u16| i32::from(units / TEXEL_UNITS);
        if is_rotated {
            // And going down in it is going left, from its right edge on.
            let edge = u.div_ceil(TEXEL_UNITS);
            return Self {
                corner: [i32::from(edge) - 1, whole(v)],
                first: [v % TEXEL_UNITS, edge * TEXEL_UNITS - u],
                length: [last[1].saturating_sub(v), u.saturating_sub(last[0])],
                is_rotated,
            };
        }
        Self {
            corner: [whole(u), whole(v)],
            first: [u % TEXEL_UNITS, v % TEXEL_UNITS],
            length: [last[0].saturating_sub(u), last[1].saturating_sub(v)],
            is_rotated,
        }
    }

    /// The texel of the page for one of the picture.
    fn on_page(&self, column: i32, row: i32) -> (i32, i32) {
        let [x, y] = self.corner;
        if self.is_rotated {
            (x - row, y + column)
        } else {
            (x + column, y + row)
        }
    }
}

/// A picture's colour at a place, in texels from the corner of its span, with linear
/// filtering; beyond the page's border the border goes on.
fn sample<const N: usize>(page: &Page, span: &TextureSpan, x: f32, y: f32) -> [u8; N] {
    let (texels, _) = page.texels().as_chunks::<N>();
    let (width, height) = (i32::from(page.width()), i32::from(page.height()));
    let (x, y) = (x - 0.5, y - 0.5);
    let (column, row) = (x.floor(), y.floor());
    let (share_x, share_y) = (x - column, y - row);
    let (column, row) = (column as i32, row as i32);
    let texel = |column: i32, row: i32| {
        let (x, y) = span.on_page(column, row);
        texels[(y.clamp(0, height - 1) * width + x.clamp(0, width - 1)) as usize]
    };
    if share_x == 0.0 && share_y == 0.0 {
        return texel(column, row);
    }
    let four = [
        (texel(column, row), (1.0 - share_x) * (1.0 - share_y)),
        (texel(column + 1, row), share_x * (1.0 - share_y)),
        (texel(column, row + 1), (1.0 - share_x) * share_y),
        (texel(column + 1, row + 1), share_x * share_y),
    ];
    std::array::from_fn(|channel| {
        let sum: f32 = four
            .iter()
            .map(|(texel, weight)| f32::from(texel[channel]) * weight)
            .sum();
        (sum + 0.5) as u8
    })
}
