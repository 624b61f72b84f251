//! Quads, drawn row by row.

use std::sync::Arc;

use super::super::{Frame, Pass, ShadeKind, Vertex};
use super::curve::Curve;
use super::field::{FieldChannel, FieldEdge, FieldRows, value};
use super::gradient::{Gradient, RowColors};
use super::texture::{RowPlace, TexelRows, TextureSpan, sample};
use super::triangle::Triangle;
use super::veil::Veil;
use super::{LinearLight, Target};
use crate::atlas::{Atlas, Page, PageKind};
use crate::base::rows::{self, MaskedColor, over, times};

/// Draws frames; keeps its memory between them.
#[derive(Clone, Debug, Default)]
pub(in crate::draw) struct Painter {
    masks: TexelRows<1>,
    veils: TexelRows<1>,
    fields: FieldRows,
    texels: TexelRows<4>,
    colors: Vec<[u8; 4]>,
    spare: Vec<[u8; 4]>,
    curved: Vec<u8>,
    /// Tables where colours are blended in linear light.
    light: Option<Arc<LinearLight>>,
}

/// The page that a quad shows.
#[derive(Clone, Copy)]
enum Texture<'a> {
    Solid,
    Mask(&'a Page, Curve),
    Veiled(&'a Page, Veil),
    Color(&'a Page),
    Field(&'a Page, FieldEdge, FieldChannel),
}

impl<'a> Texture<'a> {
    /// None where the page is not there.
    fn of(corners: &[Vertex; 4], atlas: &'a Atlas) -> Option<Self> {
        let shade = corners[0].shade;
        let page = |kind| atlas.pages(kind).get(usize::from(shade.page));
        match shade.kind {
            kind if kind == ShadeKind::Mask as u8 => {
                let curve = Curve::new(shade.edge);
                page(PageKind::Mask).map(|page| Self::Mask(page, curve))
            }
            kind if kind == ShadeKind::VeiledMask as u8 => {
                page(PageKind::Mask).map(|page| Self::Veiled(page, Veil::of(shade)))
            }
            kind if kind == ShadeKind::Color as u8 => page(PageKind::Color).map(Self::Color),
            _ => match shade.field_range() {
                Some(range) => {
                    let [first, second, third, _] = corners;
                    let edge = FieldEdge::new(shade, range, [first, second, third]);
                    let channel = FieldChannel::of(shade);
                    page(shade.field_page()).map(|page| Self::Field(page, edge, channel))
                }
                None => Some(Self::Solid),
            },
        }
    }
}

impl Painter {
    /// A painter that blends in linear light where it has the tables for it.
    pub(in crate::draw) fn new(light: Option<Arc<LinearLight>>) -> Self {
        Self {
            light,
            ..Self::default()
        }
    }

    /// The tables of one that blends in linear light.
    pub(in crate::draw) fn light(&self) -> Option<&Arc<LinearLight>> {
        self.light.as_ref()
    }

    /// Draws a frame above what is there.
    ///
    /// A pixel is drawn where its centre lies in a quad; textures are sampled
    /// there with linear filtering, as a GPU does.
    pub(in crate::draw) fn draw(
        &mut self,
        frame: Frame<'_>,
        atlas: &Atlas,
        target: &mut Target<'_>,
    ) {
        // The pictures of the groups that have begun.
        let mut groups: Vec<Vec<[u8; 4]>> = Vec::new();
        for batch in frame.batches {
            match batch.pass {
                Pass::Same => {}
                Pass::Begin => groups.push(target.like()),
                Pass::End { opacity } => {
                    if let Some(mut pixels) = groups.pop() {
                        let light = self.light.as_deref();
                        match groups.last_mut() {
                            Some(below) => target.of(below).lay_over(&mut pixels, opacity, light),
                            None => target.lay_over(&mut pixels, opacity, light),
                        }
                    }
                }
            }
            let range = batch.indices.start as usize..batch.indices.end as usize;
            let indices = frame.indices.get(range).unwrap_or_default();
            match groups.last_mut() {
                Some(pixels) => {
                    let mut target = target.of(pixels);
                    self.quads(&frame, indices, atlas, &mut target);
                }
                None => self.quads(&frame, indices, atlas, target),
            }
        }
    }

    fn quads(
        &mut self,
        frame: &Frame<'_>,
        indices: &[u32],
        atlas: &Atlas,
        target: &mut Target<'_>,
    ) {
        for quad in indices.as_chunks::<6>().0 {
            let corner = |index: usize| frame.vertices[quad[index] as usize];
            let corners = [corner(0), corner(1), corner(2), corner(5)];
            let Some(texture) = Texture::of(&corners, atlas) else {
                continue;
            };
            match TextureSpan::of(&corners).filter(|_| is_upright(&corners)) {
                Some(span) => self.upright(&corners, (texture, span), target),
                None => turned(&corners, texture, target, self.light.as_deref()),
            }
        }
    }

    /// Draws a quad whose edges go along the axes.
    fn upright(
        &mut self,
        corners: &[Vertex; 4],
        (texture, picture): (Texture<'_>, TextureSpan),
        target: &mut Target<'_>,
    ) {
        let [first, _, last, _] = corners;
        let span = |axis: usize| {
            let (from, to) = (first.position[axis], last.position[axis]);
            Span::new(from, to, picture.along(axis))
        };
        let (across, down) = (span(0), span(1));
        let columns = across.pixels(0..target.width());
        if columns.is_empty() {
            return;
        }
        let gradient = Gradient::new(corners);
        if let (Texture::Mask(page, curve), Some(color)) = (texture, gradient.plain())
            && self.light.is_none()
            && curve.is_straight()
            && let Some(texels) = picture.whole_rows(page, [across.texels(), down.texels()])
        {
            let color = MaskedColor::new(color);
            for y in down.pixels(target.rows()) {
                let row = target.row(y, columns.clone());
                color.blend(row, texels.row(columns.start, y, row.len()));
            }
            return;
        }
        let (start, count) = (across.sample(columns.start), columns.len());
        for y in down.pixels(target.rows()) {
            let row = target.row(y, columns.clone());
            let y = down.sample(y);
            let place = RowPlace {
                x: start.texel,
                step: across.texels_per_pixel,
                y: y.texel,
                count,
            };
            let plain = match gradient.row(y.share) {
                RowColors::Plain(color) => Some(color),
                RowColors::Mixed(from, to) => {
                    self.colors.resize(count, [0; 4]);
                    rows::fill(
                        &mut self.colors,
                        [from, to],
                        start.share,
                        across.share_step(),
                    );
                    None
                }
            };
            self.row(row, plain, (texture, &picture), place);
        }
    }

    /// Draws one row of a quad, in one colour or in those that were made for it.
    fn row(
        &mut self,
        row: &mut [[u8; 4]],
        plain: Option<[u8; 4]>,
        (texture, picture): (Texture<'_>, &TextureSpan),
        place: RowPlace,
    ) {
        let light = self.light.clone();
        let light = light.as_deref();
        match texture {
            Texture::Solid => match (light, plain) {
                (None, Some(color)) => rows::blend(row, color),
                (None, None) => rows::blend_colors(row, &self.colors),
                (Some(light), _) => {
                    let color = |index: usize| plain.unwrap_or_else(|| self.colors[index]);
                    for (index, pixel) in row.iter_mut().enumerate() {
                        light.over(pixel, light.light(color(index)), 1.0);
                    }
                }
            },
            Texture::Mask(page, curve) => {
                let mask = self.masks.sampled(picture, page, place).as_flattened();
                let mask = match curve.is_straight() {
                    true => mask,
                    false => {
                        self.curved.clear();
                        self.curved.extend_from_slice(mask);
                        curve.apply(&mut self.curved);
                        &self.curved
                    }
                };
                masked(row, (plain, &mut self.colors), mask, light);
            }
            Texture::Field(page, edge, channel) => {
                let mask = self.fields.covered(picture, page, place, (edge, channel));
                masked(row, (plain, &mut self.colors), mask, light);
            }
            Texture::Veiled(page, veil) => {
                let below = picture.moved_down(veil.rows);
                let masks = self.masks.sampled(picture, page, place);
                let veils = self.veils.sampled(&below, page, place);
                let pairs = masks.iter().zip(veils);
                let seen = pairs.map(|([mask], [above])| veil.seen(*mask, *above));
                covered(row, (plain, &self.colors), seen, light);
            }
            Texture::Color(page) => {
                let texels = self.texels.sampled(picture, page, place);
                if plain == Some([255; 4]) && light.is_none() {
                    return rows::blend_colors(row, texels);
                }
                self.spare.clear();
                self.spare.extend_from_slice(texels);
                match plain {
                    Some(color) => rows::tint(&mut self.spare, color),
                    None => rows::tint_each(&mut self.spare, &self.colors),
                }
                match light {
                    Some(light) => light.blend_colors(row, &self.spare),
                    None => rows::blend_colors(row, &self.spare),
                }
            }
        }
    }
}

/// Draws a row, in one colour or in one each, through a mask.
fn masked(
    row: &mut [[u8; 4]],
    (plain, colors): (Option<[u8; 4]>, &mut [[u8; 4]]),
    mask: &[u8],
    light: Option<&LinearLight>,
) {
    match (light, plain) {
        (None, Some(color)) => MaskedColor::new(color).blend(row, mask),
        (None, None) => {
            rows::mask(colors, mask);
            rows::blend_colors(row, colors);
        }
        (Some(_), _) => {
            let seen = mask.iter().map(|mask| f32::from(*mask) / 255.0);
            covered(row, (plain, colors), seen, light);
        }
    }
}

/// Draws a row, in one colour or in one each, of which shares from 0 to 1 are seen.
fn covered(
    row: &mut [[u8; 4]],
    (plain, colors): (Option<[u8; 4]>, &[[u8; 4]]),
    seen: impl Iterator<Item = f32>,
    light: Option<&LinearLight>,
) {
    for (index, (pixel, seen)) in row.iter_mut().zip(seen).enumerate() {
        blend(pixel, plain.unwrap_or_else(|| colors[index]), seen, light);
    }
}

/// Lays a colour over a pixel, of which a share from 0 to 1 is seen.
fn blend(pixel: &mut [u8; 4], color: [u8; 4], seen: f32, light: Option<&LinearLight>) {
    match light {
        Some(light) => light.over(pixel, light.light(color), seen),
        None => {
            let above = color.map(|channel| (f32::from(channel) * seen + 0.5) as u8);
            *pixel = over(above, *pixel);
        }
    }
}

/// Draws any convex quad: its two triangles.
fn turned(
    corners: &[Vertex; 4],
    texture: Texture<'_>,
    target: &mut Target<'_>,
    light: Option<&LinearLight>,
) {
    let [a, b, c, d] = *corners;
    for triangle in [[a, b, c], [a, c, d]].into_iter().filter_map(Triangle::new) {
        triangle.each(target, |pixel, point| {
            let [u, v] = point.texel;
            let mut color = point.color;
            let seen = match texture {
                Texture::Mask(page, curve) => {
                    let [mask] = sample(page, u, v);
                    f32::from(curve.at(mask)) / 255.0
                }
                Texture::Veiled(page, veil) => {
                    let [mask] = sample(page, u, v);
                    let [above] = sample(page, u, v + veil.rows as f32);
                    veil.seen(mask, above)
                }
                Texture::Color(page) => {
                    let texel: [u8; 4] = sample(page, u, v);
                    color = std::array::from_fn(|channel| times(texel[channel], color[channel]));
                    1.0
                }
                Texture::Field(page, edge, channel) => edge.seen(value(page, channel, u, v)),
                Texture::Solid => 1.0,
            };
            blend(pixel, color, seen, light);
        });
    }
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

/// Place of a pixel's centre along one axis of a quad.
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

    /// The pixels whose centres lie in the span, of those that there are.
    fn pixels(self, all: std::ops::Range<usize>) -> std::ops::Range<usize> {
        let edge = |at: f32| ((at - 0.5).ceil().max(0.0) as usize).clamp(all.start, all.end);
        edge(self.from)..edge(self.to).max(edge(self.from))
    }

    fn sample(self, pixel: usize) -> Sample {
        let way = pixel as f32 + 0.5 - self.from;
        Sample {
            texel: self.first + way * self.texels_per_pixel,
            share: way / (self.to - self.from),
        }
    }

    /// The first pixel of the span and the texel that it shows, where both are whole and
    /// each pixel shows another.
    fn texels(self) -> Option<(usize, i32)> {
        let is_whole = self.texels_per_pixel == 1.0
            && self.from >= 0.0
            && (self.from.fract() == 0.0 && self.first.fract() == 0.0);
        is_whole.then_some((self.from as usize, self.first as i32))
    }

    fn share_step(self) -> f32 {
        1.0 / (self.to - self.from)
    }
}
