//! Drawing of rectangles and lines.

use super::quad::Quad;
use super::ring::Ring;
use super::scope::Scope;
use crate::atlas::{AtlasError, KeptId};
use crate::base::{Affine, Color, Corners, DeviceRect, Offset, Point, Rect};

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
    /// Radii of its corners (CSS `border-radius`); made smaller alike where they do not fit.
    pub radii: Corners,
}

impl RectStyle {
    /// A filled rectangle.
    pub const fn filled(color: Color) -> Self {
        Self {
            fill: Some(color),
            border: None,
            radii: Corners::all(0.0),
        }
    }

    /// The border of a rectangle alone, with its width in design pixels.
    pub const fn outlined(width: f32, color: Color) -> Self {
        Self {
            fill: None,
            border: Some((width, color)),
            radii: Corners::all(0.0),
        }
    }

    /// Sets [`RectStyle::border`].
    #[must_use]
    pub const fn border(mut self, width: f32, color: Color) -> Self {
        self.border = Some((width, color));
        self
    }

    /// Sets [`RectStyle::radii`] to one radius.
    #[must_use]
    pub const fn radius(self, radius: f32) -> Self {
        self.radii(Corners::all(radius))
    }

    /// Sets [`RectStyle::radii`].
    #[must_use]
    pub const fn radii(mut self, radii: Corners) -> Self {
        self.radii = radii;
        self
    }
}

impl From<Color> for RectStyle {
    fn from(color: Color) -> Self {
        Self::filled(color)
    }
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
    /// Colours that are no plane are drawn in patches, so that the two triangles of each come
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
        let (across, down) = (at.right - at.left, at.bottom - at.top);
        let radii = style.radii.fitted(space.scale, across, down);
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
                radii: radii.map(|radius| (radius - inset).max(0.0)),
                width: None,
            };
            self.ring(ring, fill, &space)?;
        }
        if let Some((_, color)) = border {
            self.ring(Ring { at, radii, width }, color, &space)?;
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
