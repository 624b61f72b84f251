//! Drawing of rectangles and lines.

use super::TEXEL_UNITS;
use super::quad::Quad;
use super::scope::Scope;
use super::space::Space;
use crate::atlas::{AtlasError, KeptId};
use crate::base::{Affine, Color, DeviceRect, Offset, Point, Rect};

/// Fill, border and corners of a rectangle that is drawn.
///
/// ```
/// use kerno::Color;
/// use kerno::draw::RectStyle;
/// let button = RectStyle::filled(Color::rgb(20, 26, 48)).border(1.0, Color::WHITE).radius(6.0);
/// # let _ = button;
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[non_exhaustive]
pub struct RectStyle {
    /// Colour of its inside, if it has one.
    pub fill: Option<Color>,
    /// Width, in design pixels, and colour of a line along its edge, inside of it (CSS
    /// `border`); at least a device pixel where the width is above 0.
    pub border: Option<(f32, Color)>,
    /// Radius of its corners, in design pixels (CSS `border-radius`); at most half of its
    /// shorter side.
    pub radius: f32,
}

impl RectStyle {
    /// A filled rectangle.
    pub const fn filled(color: Color) -> Self {
        Self {
            fill: Some(color),
            border: None,
            radius: 0.0,
        }
    }

    /// The edge of a rectangle alone, so many design pixels wide.
    pub const fn outlined(width: f32, color: Color) -> Self {
        Self {
            fill: None,
            border: Some((width, color)),
            radius: 0.0,
        }
    }

    /// Sets [`RectStyle::border`].
    #[must_use]
    pub const fn border(mut self, width: f32, color: Color) -> Self {
        self.border = Some((width, color));
        self
    }

    /// Sets [`RectStyle::radius`].
    #[must_use]
    pub const fn radius(mut self, radius: f32) -> Self {
        self.radius = radius;
        self
    }
}

impl From<Color> for RectStyle {
    fn from(color: Color) -> Self {
        Self::filled(color)
    }
}

/// A ring or a disc with straight parts between its four corners, in whole pixels.
#[derive(Clone, Copy)]
struct Ring {
    at: DeviceRect,
    radius: f32,
    /// Its width; none where it is filled.
    width: Option<f32>,
}

impl Scope<'_> {
    /// Fills a rectangle, its edges on whole device pixels.
    pub fn rect(&mut self, rect: Rect, color: Color) {
        if self.is_hidden() {
            return;
        }
        if let Some((at, space)) = self.state.rect(rect) {
            let color = self.shaded(color);
            self.push(Quad::solid(at, [color; 4]).soft(), &space, KeptId::NONE);
        }
    }

    /// Fills a rectangle with colours that run from corner to corner: top left,
    /// top right, bottom right, bottom left; in between they are mixed across and then down.
    /// Where that is no plane it is drawn in patches, so that the two triangles of each come
    /// out alike on every renderer, within 2/255.
    pub fn gradient(&mut self, rect: Rect, colors: [Color; 4]) {
        if self.is_hidden() {
            return;
        }
        if let Some((at, space)) = self.state.rect(rect) {
            let colors = colors.map(|color| self.shaded(color));
            for patch in patches(at, colors) {
                self.push(patch.part_of(at, None), &space, KeptId::NONE);
            }
        }
    }

    /// Draws a rectangle with a fill, a border and rounded corners, as its style has them;
    /// its edges are on whole device pixels.
    ///
    /// # Errors
    /// [`AtlasError`] where the picture of a rounded corner finds no room on a page.
    pub fn styled_rect(
        &mut self,
        rect: Rect,
        style: impl Into<RectStyle>,
    ) -> Result<(), AtlasError> {
        let style = style.into();
        if self.is_hidden() {
            return Ok(());
        }
        let Some((at, space)) = self.state.rect(rect) else {
            return Ok(());
        };
        let half = (at.right - at.left).min(at.bottom - at.top) * 0.5;
        let radius = (style.radius * space.scale)
            .clamp(0.0, half.floor())
            .round();
        let border = style.border.filter(|(width, _)| *width > 0.0);
        let width = border.map(|(width, _)| (width * space.scale).round().clamp(1.0, half.ceil()));
        if let Some(fill) = style.fill {
            // Beneath a border that hides it, it ends half-way: no rim of it is seen outside.
            let is_hidden = border.is_some_and(|(_, color)| color.alpha == 255);
            let inset = width
                .filter(|_| is_hidden)
                .map_or(0.0, |width| (width * 0.5).floor());
            let ring = Ring {
                at: at.inset(inset),
                radius: (radius - inset).max(0.0),
                width: None,
            };
            self.ring(ring, fill, &space)?;
        }
        if let Some((_, color)) = border {
            self.ring(Ring { at, radius, width }, color, &space)?;
        }
        Ok(())
    }

    /// Draws a straight line of a width, in design pixels, with flat ends. One that runs
    /// along an axis is on whole device pixels, at least one of them wide.
    pub fn line(&mut self, from: Point, to: Point, width: f32, color: Color) {
        if self.is_hidden() {
            return;
        }
        let half = width * 0.5;
        let (across, down) = (to.x - from.x, to.y - from.y);
        if across == 0.0 || down == 0.0 {
            let (x, y) = (from.x.min(to.x), from.y.min(to.y));
            let rect = match down == 0.0 {
                true => Rect::new(x, y - half, across.abs(), width),
                false => Rect::new(x - half, y, width, down.abs()),
            };
            self.rect(rect, color);
            return;
        }
        let length = across.hypot(down);
        let turned = Affine::rotation(down.atan2(across))
            .then(Affine::translation(Offset::new(from.x, from.y)));
        let mut along = self.scope().transform(turned);
        along.rect(Rect::new(0.0, -half, length, width), color);
    }

    fn ring(&mut self, ring: Ring, color: Color, space: &Space) -> Result<(), AtlasError> {
        let color = self.shaded(color);
        let Ring { at, radius, width } = ring;
        let hole = width.map(|width| at.inset(width));
        let mut solid = |left: f32, top: f32, right: f32, bottom: f32| {
            let part = DeviceRect {
                left,
                top,
                right,
                bottom,
            };
            if left < right && top < bottom {
                let quad = Quad::solid(part, [color; 4]).part_of(at, hole);
                self.push(quad, space, KeptId::NONE);
            }
        };
        match width {
            None => {
                solid(at.left + radius, at.top, at.right - radius, at.top + radius);
                solid(at.left, at.top + radius, at.right, at.bottom - radius);
                solid(
                    at.left + radius,
                    at.bottom - radius,
                    at.right - radius,
                    at.bottom,
                );
            }
            Some(width) => {
                // Between the corners, each as large as the wider of radius and width.
                let corner = radius.max(width);
                let (left, right) = (at.left + radius, at.right - radius);
                solid(left, at.top, right, at.top + width);
                let low = (at.bottom - width).max(at.top + width);
                solid(left, low, right, at.bottom);
                let (top, bottom) = (at.top + corner, at.bottom - corner);
                solid(at.left, top, at.left + width, bottom);
                let far = (at.right - width).max(at.left + width);
                solid(far, top, at.right, bottom);
                // A border wider than the radius fills what is beside and below the corner.
                for top in [at.top + radius, at.bottom - corner] {
                    let bottom = top + corner - radius;
                    solid(at.left, top, at.left + radius.min(width), bottom);
                    solid(at.right - radius.min(width), top, at.right, bottom);
                }
            }
        }
        if radius < 1.0 {
            return Ok(());
        }
        let inner = width.map_or(0.0, |width| (radius - width).max(0.0));
        let Some(slot) = self.atlas.corner(radius as u16, inner as u16)? else {
            return Ok(());
        };
        for (flip_x, flip_y) in [(false, false), (true, false), (true, true), (false, true)] {
            let left = if flip_x { at.right - radius } else { at.left };
            let top = if flip_y { at.bottom - radius } else { at.top };
            let part = DeviceRect {
                left,
                top,
                right: left + radius,
                bottom: top + radius,
            };
            let side = radius as u16 * TEXEL_UNITS;
            let quad = Quad::picture(part, &slot, [0, 0, side, side], color);
            let quad = quad.mirrored(flip_x, flip_y).part_of(at, None);
            let quad = match space.turn {
                Some(_) => quad.with_margin(1.0),
                None => quad,
            };
            self.push(quad, space, KeptId::NONE);
        }
        Ok(())
    }
}

/// The most patches that a gradient takes on a side: enough for the greatest difference.
const MOST_PATCHES: f32 = 9.0;

/// Cuts a rectangle with four colours into patches, in each of which two triangles differ
/// from the mixture across and down by less than 1.8/255.
fn patches(at: DeviceRect, colors: [[u8; 4]; 4]) -> impl Iterator<Item = Quad> {
    let bend = (0..4).map(|channel| {
        let [a, b, c, d] = colors.map(|color| f32::from(color[channel]));
        (a - b + c - d).abs()
    });
    // In a patch with that bend the diagonal is off by a quarter of it at most.
    let bend = bend.fold(0.0, f32::max);
    let count = (bend * 0.25 / 1.8).sqrt().ceil().clamp(1.0, MOST_PATCHES);
    let whole = Quad::solid(at, colors);
    let edge = move |from: f32, to: f32, step: f32| match step == count {
        true => to,
        false => (from + (to - from) * step / count).round(),
    };
    let steps = count as u16;
    (0..steps * steps).filter_map(move |index| {
        let (column, row) = (f32::from(index % steps), f32::from(index / steps));
        whole.cut(DeviceRect {
            left: edge(at.left, at.right, column),
            top: edge(at.top, at.bottom, row),
            right: edge(at.left, at.right, column + 1.0),
            bottom: edge(at.top, at.bottom, row + 1.0),
        })
    })
}
