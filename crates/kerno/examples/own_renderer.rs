//! A frame drawn by a plain loop that knows nothing but `docs/drawing.md`.
//!
//! Writes `own_renderer.png`: a renderer of one's own draws the same pixels as the canvas.

use std::error::Error;
use std::path::Path;

use kerno::atlas::PageKind;
use kerno::base::{Affine, Image, Mapping};
use kerno::draw::{Frame, Pass, RectStyle, ShadeKind, VEIL_UNITS, Vertex};
use kerno::text::Effect;
use kerno::{
    Anchor, Atlas, Color, DeviceSize, DrawText, Face, FrameBuilder, Offset, Point, Rect, Style,
    TextLayout,
};

fn main() -> Result<(), Box<dyn Error>> {
    let fonts = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/ferry/fonts");
    let face = Face::from_file(fonts.join("AveriaSerifGWF-Bold.ttf"))?;
    let style = Style::new(&face, 40.0).effects(vec![
        Effect::shadow(Offset::new(0.0, 3.0), 6.0, Color::BLACK.with_alpha(200)),
        Effect::outline(2.0, Color::rgb(58, 29, 16)),
        Effect::gradient(Color::rgb(255, 242, 200), Color::rgb(224, 144, 48)),
    ]);
    let title = TextLayout::new("Crossing complete", &style)?;
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let (night, fog) = (Color::rgb(16, 30, 44), Color::rgb(70, 96, 110));
    frame.gradient(Rect::new(0.0, 0.0, 480.0, 270.0), [night, night, fog, fog]);
    let center = Point::new(240.0, 135.0);
    let turn = Affine::rotation(-0.12).about(center);
    let mut sign = frame.scope().transform(turn);
    let board =
        RectStyle::filled(Color::rgba(8, 14, 22, 200)).border(2.0, Color::rgb(214, 168, 80));
    sign.styled_rect(Rect::new(40.0, 85.0, 400.0, 100.0), board.radius(16.0))?;
    sign.text(&title, DrawText::at(center, Anchor::CENTER))?;
    let mut faded = frame.scope().opacity(0.5);
    faded.text(
        &title,
        DrawText::at(Point::new(240.0, 230.0), Anchor::CENTER),
    )?;

    let size = DeviceSize::new(480, 270);
    let pixels = render(&builder.finish(), &atlas, size);
    let bytes = pixels.iter().flat_map(|[r, g, b, a]| {
        let straight = |channel: &f32| (channel / a.max(1e-6) * 255.0).round() as u8;
        [
            straight(r),
            straight(g),
            straight(b),
            (a * 255.0).round() as u8,
        ]
    });
    let image = Image::new(size.width, size.height, bytes.collect())?;
    std::fs::write("own_renderer.png", image.to_png()?)?;
    Ok(())
}

/// Draws a frame on a clear target: premultiplied sRGB, 0 to 1.
pub(crate) fn render(frame: &Frame<'_>, atlas: &Atlas, size: DeviceSize) -> Vec<[f32; 4]> {
    let clear = vec![[0.0_f32; 4]; (size.width * size.height) as usize];
    // The window, and the groups that have begun.
    let mut targets = vec![clear.clone()];
    for batch in frame.batches {
        match batch.pass {
            Pass::Begin => targets.push(clear.clone()),
            Pass::End { opacity } => {
                let above = targets.pop().unwrap_or_default();
                let below = targets.iter_mut().last().into_iter().flatten();
                for (below, above) in below.zip(above) {
                    blend(
                        below,
                        above.map(|channel| channel * f32::from(opacity) / 255.0),
                    );
                }
            }
            _ => {}
        }
        let indices = &frame.indices[batch.indices.start as usize..batch.indices.end as usize];
        let Some(target) = targets.last_mut() else {
            continue;
        };
        for triangle in indices.chunks_exact(3) {
            let corners = [0, 1, 2].map(|corner| frame.vertices[triangle[corner] as usize]);
            draw_triangle(corners, atlas, size, target);
        }
    }
    targets.swap_remove(0)
}

/// Lays a colour over a pixel, both multiplied by their alpha.
fn blend(below: &mut [f32; 4], above: [f32; 4]) {
    for (below, channel) in below.iter_mut().zip(above) {
        *below = channel + *below * (1.0 - above[3]);
    }
}

fn draw_triangle(corners: [Vertex; 3], atlas: &Atlas, size: DeviceSize, target: &mut [[f32; 4]]) {
    let place = |corner: &Vertex| corner.position.map(f64::from);
    let cross = |a: [f64; 2], b: [f64; 2], c: [f64; 2]| {
        (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])
    };
    let [a, b, c] = corners.each_ref().map(place);
    let area = cross(a, b, c);
    if area == 0.0 {
        return;
    }
    // Clockwise on the screen, so that the inside is to the right of every edge.
    let (corners, [a, b, c]) = match area > 0.0 {
        true => (corners, [a, b, c]),
        false => ([corners[0], corners[2], corners[1]], [a, c, b]),
    };
    let bounds = |axis: usize, most: u32| {
        let own = [a[axis], b[axis], c[axis]];
        let low = own.iter().copied().fold(f64::INFINITY, f64::min);
        let high = own.iter().copied().fold(f64::NEG_INFINITY, f64::max);
        let pixel = |at: f64| at.clamp(0.0, f64::from(most)) as u32;
        pixel(low.floor())..pixel(high.ceil())
    };
    let width = texels_per_pixel(&corners);
    for y in bounds(1, size.height) {
        for x in bounds(0, size.width) {
            let center = [f64::from(x) + 0.5, f64::from(y) + 0.5];
            // The weight of each corner is the depth behind the edge opposite to it.
            let edges = [(b, c), (c, a), (a, b)];
            let depths = edges.map(|(from, to)| cross(from, to, center));
            let is_inside = edges.iter().zip(depths).all(|((from, to), depth)| {
                let (across, down) = (to[0] - from[0], to[1] - from[1]);
                depth > 0.0 || (depth == 0.0 && (down < 0.0 || (down == 0.0 && across > 0.0)))
            });
            if !is_inside {
                continue;
            }
            let weights = depths.map(|depth| (depth / area.abs()) as f32);
            let above = shaded(&corners, weights, width, atlas);
            blend(&mut target[(y * size.width + x) as usize], above);
        }
    }
}

/// The number of texels that a pixel is wide, on average of its two axes.
fn texels_per_pixel(corners: &[Vertex; 3]) -> f32 {
    let way = |corner: &Vertex, of: fn(&Vertex) -> [f32; 2]| {
        [0, 1].map(|axis| of(corner)[axis] - of(&corners[0])[axis])
    };
    let place: fn(&Vertex) -> [f32; 2] = |corner| corner.position;
    let texel: fn(&Vertex) -> [f32; 2] = |corner| corner.texel.map(|at| f32::from(at) / 8.0);
    let ([a, b], [c, d]) = (way(&corners[1], place), way(&corners[2], place));
    let (own, other) = (way(&corners[1], texel), way(&corners[2], texel));
    let area = a * d - b * c;
    let right = [0, 1].map(|axis| (own[axis] * d - other[axis] * b) / area);
    let down = [0, 1].map(|axis| (other[axis] * a - own[axis] * c) / area);
    (right[0].hypot(right[1]) + down[0].hypot(down[1])) * 0.5
}

/// The colour of a triangle where its corners have some weights.
fn shaded(corners: &[Vertex; 3], weights: [f32; 3], width: f32, atlas: &Atlas) -> [f32; 4] {
    let mixed = |value: &dyn Fn(&Vertex) -> f32| {
        let weighed = corners.iter().zip(weights);
        weighed
            .map(|(corner, weight)| value(corner) * weight)
            .sum::<f32>()
    };
    let color: [f32; 4] =
        std::array::from_fn(|channel| mixed(&|corner| f32::from(corner.color[channel]) / 255.0));
    let [u, v] = [0, 1].map(|axis| mixed(&|corner| f32::from(corner.texel[axis]) / 8.0));
    let shade = corners[0].shade;
    let factor = match shade.kind {
        kind if kind == ShadeKind::Mask as u8 => {
            let [mask, ..] = sample(atlas, PageKind::Mask, shade.page, u, v);
            let weight = f32::from(shade.edge as i8) / 64.0;
            [(mask + weight * mask * (1.0 - mask)).clamp(0.0, 1.0); 4]
        }
        kind if kind == ShadeKind::VeiledMask as u8 => {
            let down = f32::from(u16::from(shade.edge) * VEIL_UNITS);
            let [coverage, ..] = sample(atlas, PageKind::Mask, shade.page, u, v);
            let [veil, ..] = sample(atlas, PageKind::Mask, shade.page, u, v + down);
            let opacity = f32::from(shade.softness) / 255.0;
            [coverage * (1.0 - veil) / (1.0 - opacity * veil); 4]
        }
        kind if kind == ShadeKind::Color as u8 => sample(atlas, PageKind::Color, shade.page, u, v),
        33..=63 | 65..=95 => {
            let range = f32::from(shade.kind % 32);
            let value = match (shade.kind < 64, shade.edge, shade.softness) {
                (true, ..) => sample(atlas, PageKind::Mask, shade.page, u, v)[0],
                // The middle one of three channels: edges with sharp corners.
                (false, 0, 0) => {
                    let [a, b, c, _] = sample(atlas, PageKind::Color, shade.page, u, v);
                    a.min(b).max(a.max(b).min(c))
                }
                (false, ..) => sample(atlas, PageKind::Color, shade.page, u, v)[3],
            };
            let outset = f32::from(shade.edge as i8) / 256.0 * range;
            let softness = f32::from(shade.softness) / 255.0 * range;
            let distance = (value - 0.5) * range + outset;
            let share = (distance / width.max(softness) + 0.5).clamp(0.0, 1.0);
            match softness > 0.0 {
                true => [share * share * (3.0 - 2.0 * share); 4],
                false => [share; 4],
            }
        }
        _ => [1.0; 4],
    };
    std::array::from_fn(|channel| color[channel] * factor[channel])
}

/// A page at a place in texels, with linear filtering; beyond its border the border goes on.
fn sample(atlas: &Atlas, kind: PageKind, page: u8, u: f32, v: f32) -> [f32; 4] {
    let page = &atlas.pages(kind)[usize::from(page)];
    let bytes = kind.texel_bytes();
    let texel = |x: f32, y: f32, channel: usize| {
        let x = x.clamp(0.0, f32::from(page.width() - 1)) as usize;
        let y = y.clamp(0.0, f32::from(page.height() - 1)) as usize;
        let at = (y * usize::from(page.width()) + x) * bytes + channel.min(bytes - 1);
        f32::from(page.texels()[at]) / 255.0
    };
    let (u, v) = (u - 0.5, v - 0.5);
    let (left, top) = (u.floor(), v.floor());
    let (right, down) = (u - left, v - top);
    std::array::from_fn(|channel| {
        let row = |y: f32| {
            texel(left, y, channel) * (1.0 - right) + texel(left + 1.0, y, channel) * right
        };
        row(top) * (1.0 - down) + row(top + 1.0) * down
    })
}
