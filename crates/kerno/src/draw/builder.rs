//! Gathers a frame: texts, sprites, panels and plain rectangles.

use super::vertex::{self, Shade, TexelCorners, Vertex};
use super::{Batch, Frame, panel};
use crate::atlas::{Atlas, AtlasError, GlyphSpec, SpriteId, SpritePicture, steps_of};
use crate::base::{
    Anchor, Color, DevicePoint, DeviceRect, Edges, Mapping, Point, Rect, Size, Treatment,
};
use crate::text::{DecorationLine, InlineSprite, PlacedGlyph, Style, TextLayout};

/// Gathers a frame. Keep one and [`restart`](FrameBuilder::restart) it for
/// every frame: it keeps its memory, so a warm frame allocates nothing.
///
/// Things are drawn in the order in which they come, those of a higher
/// [`layer`](FrameBuilder::layer) above those of a lower one.
#[derive(Clone, Debug)]
pub struct FrameBuilder {
    mapping: Mapping,
    vertices: Vec<Vertex>,
    /// For every quad its layer and number; the number keeps equals in order.
    order: Vec<(i32, u32)>,
    indices: Vec<u32>,
    batches: Vec<Batch>,
}

impl FrameBuilder {
    /// An empty frame for a way from design pixels to device pixels.
    pub fn new(mapping: Mapping) -> Self {
        Self {
            mapping,
            vertices: Vec::new(),
            order: Vec::new(),
            indices: Vec::new(),
            batches: Vec::new(),
        }
    }

    /// Clears the frame and keeps its allocations.
    pub fn restart(&mut self, mapping: Mapping) {
        self.mapping = mapping;
        self.vertices.clear();
        self.order.clear();
    }

    /// A layer to draw on: higher `z` lies above lower, whatever was called
    /// first. The plain methods of the builder draw on layer 0.
    pub fn layer(&mut self, z: i32) -> Layer<'_> {
        Layer {
            frame: self,
            z,
            opacity: 1.0,
        }
    }

    /// [`Layer::text`] on layer 0.
    ///
    /// # Errors
    /// As there.
    pub fn text(
        &mut self,
        atlas: &mut Atlas,
        layout: &TextLayout,
        at: Point,
        anchor: Anchor,
    ) -> Result<(), AtlasError> {
        self.layer(0).text(atlas, layout, at, anchor)
    }

    /// [`Layer::rect`] on layer 0.
    pub fn rect(&mut self, rect: Rect, color: Color) {
        self.layer(0).rect(rect, color);
    }

    /// [`Layer::sprite`] on layer 0.
    ///
    /// # Errors
    /// As there.
    pub fn sprite(
        &mut self,
        atlas: &mut Atlas,
        sprite: SpriteId,
        at: Point,
        anchor: Anchor,
    ) -> Result<(), AtlasError> {
        self.layer(0).sprite(atlas, sprite, at, anchor)
    }

    /// [`Layer::panel`] on layer 0.
    ///
    /// # Errors
    /// As there.
    pub fn panel(
        &mut self,
        atlas: &mut Atlas,
        sprite: SpriteId,
        rect: Rect,
    ) -> Result<(), AtlasError> {
        self.layer(0).panel(atlas, sprite, rect)
    }

    /// Puts the quads in painter's order.
    pub fn finish(&mut self) -> Frame<'_> {
        self.order.sort_unstable();
        self.indices.clear();
        for (_, quad) in &self.order {
            let first = quad * 4;
            let corners = [0, 1, 2, 0, 2, 3];
            self.indices.extend(corners.map(|corner| first + corner));
        }
        self.batches.clear();
        if !self.indices.is_empty() {
            self.batches.push(Batch {
                indices: 0..self.indices.len() as u32,
            });
        }
        Frame {
            vertices: &self.vertices,
            indices: &self.indices,
            batches: &self.batches,
        }
    }

    /// Adds a quad; what lies nowhere, by a place or a size that is no number, is not drawn.
    fn push(&mut self, z: i32, quad: [Vertex; 4]) {
        let places = quad.iter().flat_map(|corner| corner.position);
        if !places.into_iter().all(f32::is_finite) {
            return;
        }
        self.order.push((z, (self.vertices.len() / 4) as u32));
        self.vertices.extend(quad);
    }
}

/// Which quad of a glyph.
#[derive(Clone, Copy, Debug)]
enum GlyphLayer {
    Outline,
    Letter,
}

/// Draws on one layer of a frame, at one opacity. A value for the moment: what
/// is set here ends with it.
#[derive(Debug)]
pub struct Layer<'a> {
    frame: &'a mut FrameBuilder,
    z: i32,
    opacity: f32,
}

impl Layer<'_> {
    /// The same layer at an opacity of 0 to 1 (CSS `opacity`, part by part).
    #[must_use]
    pub fn opacity(self, opacity: f32) -> Self {
        Self {
            opacity: opacity.clamp(0.0, 1.0),
            ..self
        }
    }

    /// Fills a rectangle, its edges on whole device pixels.
    pub fn rect(&mut self, rect: Rect, color: Color) {
        self.gradient(rect, [color; 4]);
    }

    /// Fills a rectangle with colours that run from corner to corner: top left,
    /// top right, bottom right, bottom left.
    pub fn gradient(&mut self, rect: Rect, colors: [Color; 4]) {
        let at = self.frame.mapping.rect(rect).snapped();
        if at.left < at.right && at.top < at.bottom {
            self.quad(at, TexelCorners::default(), colors, Shade::SOLID);
        }
    }

    /// Draws a text with its `anchor` on the place `at`: `Anchor::TOP_RIGHT`
    /// hangs it by its top right corner, so it grows to the left.
    ///
    /// Letters are drawn at their size in device pixels, never stretched, with
    /// baselines on whole pixels; those of a pixel face at a crisp size on whole
    /// pixels both ways. A text all in [`Edges::Hard`] styles is drawn
    /// at [`Mapping::whole_scale`], about the place it hangs from.
    ///
    /// # Errors
    /// [`AtlasError`] where a glyph is damaged or finds no room on a page.
    pub fn text(
        &mut self,
        atlas: &mut Atlas,
        layout: &TextLayout,
        at: Point,
        anchor: Anchor,
    ) -> Result<(), AtlasError> {
        self.text_part(atlas, layout, at, anchor, usize::MAX)
    }

    /// As [`Layer::text`], of which only the first `visible` clusters show; the
    /// rest keep their places.
    ///
    /// # Errors
    /// As [`Layer::text`].
    pub fn text_part(
        &mut self,
        atlas: &mut Atlas,
        layout: &TextLayout,
        at: Point,
        anchor: Anchor,
        visible: usize,
    ) -> Result<(), AtlasError> {
        let is_hard = layout
            .styles()
            .iter()
            .all(|style| style.edges == Edges::Hard);
        let mapping = self.frame.mapping;
        let scale = if is_hard {
            mapping.whole_scale()
        } else {
            mapping.scale()
        };
        let corner = held_corner(mapping.point(at), anchor, layout.size(), scale);
        let corner = if is_hard {
            DevicePoint::new(corner.x.round(), corner.y.round())
        } else {
            corner
        };
        let clip = layout.is_clipped().then(|| DeviceRect {
            left: corner.x,
            top: corner.y,
            right: corner.x + layout.size().width * scale,
            bottom: corner.y + layout.size().height * scale,
        });
        for (plate, color) in layout.plates(visible) {
            let at = device(plate, (corner, scale)).snapped();
            if let Some((at, _)) = vertex::clipped(at, [0; 4], clip) {
                self.quad(at, TexelCorners::default(), [color; 4], Shade::SOLID);
            }
        }
        for (sprite, at) in layout.sprites(visible) {
            self.inline_sprite(atlas, (sprite, at), (corner, scale), clip)?;
        }
        let is_outlined = layout.styles().iter().any(|style| style.outline.is_some());
        let parts: &[GlyphLayer] = if is_outlined {
            &[GlyphLayer::Outline, GlyphLayer::Letter]
        } else {
            &[GlyphLayer::Letter]
        };
        // All outlines lie beneath all letters: none covers its neighbour. A line
        // beneath letters is beneath them, one through them above (CSS Text
        // Decoration, “Painting Order”).
        for part in parts {
            let rules = |layer: &mut Self, kind| {
                for (rule, style) in layout.decorations(kind, visible) {
                    layer.rule((rule, *part, style), (corner, scale), clip);
                }
            };
            rules(self, DecorationLine::Underline);
            for glyph in layout.glyphs() {
                if (glyph.cluster as usize) < visible {
                    self.glyph(atlas, layout, (glyph, *part), (corner, scale), clip)?;
                }
            }
            rules(self, DecorationLine::LineThrough);
        }
        Ok(())
    }

    /// Draws a sprite between letters, on whole pixels.
    fn inline_sprite(
        &mut self,
        atlas: &mut Atlas,
        (sprite, at): (&InlineSprite, Rect),
        (corner, scale): (DevicePoint, f32),
        clip: Option<DeviceRect>,
    ) -> Result<(), AtlasError> {
        let id = atlas.sprite(&sprite.name)?;
        let intrinsic = atlas.sprite_size(id);
        let picture = atlas.sprite_picture(id, scale * at.height / intrinsic.height)?;
        let at = device(at, (corner, scale));
        self.whole_sprite(&picture, (at.left.round(), at.top.round()), clip);
        Ok(())
    }

    /// Draws a picture of a sprite at its own size, from a place of whole pixels on.
    fn whole_sprite(
        &mut self,
        picture: &SpritePicture,
        (left, top): (f32, f32),
        clip: Option<DeviceRect>,
    ) {
        let size = picture.device_size();
        // What was trimmed off keeps its room.
        let at = picture.shown_part(DeviceRect {
            left,
            top,
            right: left + size.width,
            bottom: top + size.height,
        });
        let shade = Shade::of_page(picture.slot.kind, picture.slot.page);
        if let Some((at, units)) = vertex::clipped(at, vertex::units(&picture.slot), clip) {
            let texels = vertex::on_page(&picture.slot, units);
            self.quad(at, texels, [Color::WHITE; 4], shade);
        }
    }

    /// Draws a line along letters: on whole pixels, at least one thick.
    fn rule(
        &mut self,
        (rule, part, style): (Rect, GlyphLayer, &Style),
        (corner, scale): (DevicePoint, f32),
        clip: Option<DeviceRect>,
    ) {
        let (grown, color) = match (part, style.outline) {
            (GlyphLayer::Letter, _) => (0.0, style.color),
            (GlyphLayer::Outline, Some(outline)) => {
                ((outline.width * scale).round(), outline.color)
            }
            (GlyphLayer::Outline, None) => return,
        };
        let top = (corner.y + rule.y * scale).round();
        let at = DeviceRect {
            left: (corner.x + rule.x * scale).round() - grown,
            top: top - grown,
            right: (corner.x + rule.right() * scale).round() + grown,
            bottom: top + (rule.height * scale).round().max(1.0) + grown,
        };
        if let Some((at, _)) = vertex::clipped(at, [0; 4], clip) {
            self.quad(at, TexelCorners::default(), [color; 4], Shade::SOLID);
        }
    }

    fn glyph(
        &mut self,
        atlas: &mut Atlas,
        layout: &TextLayout,
        (glyph, part): (&PlacedGlyph, GlyphLayer),
        (corner, scale): (DevicePoint, f32),
        clip: Option<DeviceRect>,
    ) -> Result<(), AtlasError> {
        let style = layout.style(glyph.span);
        let letter = Treatment::from(style.edges);
        let (treatment, mut color) = match (part, style.outline) {
            (GlyphLayer::Letter, _) => (letter, style.color),
            (GlyphLayer::Outline, Some(outline)) => {
                (letter.grown_by(outline.width * scale), outline.color)
            }
            (GlyphLayer::Outline, None) => return Ok(()),
        };
        let size = style.size * scale;
        let face = style.face_at(glyph.face);
        let most = atlas.steps();
        let steps = f32::from(steps_of(face, glyph.glyph, size, style.edges, most));
        // The pen on the nearest step of a pixel, the baseline on a whole one.
        let pen = ((corner.x + glyph.x * scale) * steps).round();
        let pixel = (pen / steps).floor();
        let spec = GlyphSpec {
            face,
            glyph: glyph.glyph,
            size,
            step: (pen - pixel * steps) as u8,
            treatment,
        };
        let Some(slot) = atlas.glyph(&spec)? else {
            return Ok(());
        };
        let left = pixel + slot.left as f32;
        let top = (corner.y + glyph.y * scale).round() + slot.top as f32;
        let at = DeviceRect {
            left,
            top,
            right: left + f32::from(slot.picture_size().0),
            bottom: top + f32::from(slot.picture_size().1),
        };
        let shade = Shade::of_page(slot.kind, slot.page);
        if let Some(picture) = face.picture(glyph.glyph)
            && !picture.is_tinted
        {
            color = Color::WHITE.with_alpha(color.alpha);
        }
        let Some((at, units)) = vertex::clipped(at, vertex::units(&slot), clip) else {
            return Ok(());
        };
        let texels = vertex::on_page(&slot, units);
        self.quad(at, texels, [color; 4], shade);
        Ok(())
    }

    /// Draws a sprite at its own size with its `anchor` on the place `at`.
    ///
    /// # Errors
    /// [`AtlasError`] where it finds no room on a page.
    pub fn sprite(
        &mut self,
        atlas: &mut Atlas,
        sprite: SpriteId,
        at: Point,
        anchor: Anchor,
    ) -> Result<(), AtlasError> {
        let mapping = self.frame.mapping;
        let picture = atlas.sprite_picture(sprite, mapping.scale())?;
        let corner = held_corner(mapping.point(at), anchor, picture.device_size(), 1.0);
        self.whole_sprite(&picture, (corner.x.round(), corner.y.round()), None);
        Ok(())
    }

    /// Fills a rectangle with a nine-slice sprite: its corners keep their
    /// shape, its edges and its middle are stretched or repeated
    /// ([`SliceFill`](crate::SliceFill)). A sprite without
    /// [`slices`](crate::SpriteOptions::slices) is all middle.
    ///
    /// # Errors
    /// [`AtlasError`] where it finds no room on a page.
    pub fn panel(
        &mut self,
        atlas: &mut Atlas,
        sprite: SpriteId,
        rect: Rect,
    ) -> Result<(), AtlasError> {
        let mapping = self.frame.mapping;
        let picture = atlas.sprite_picture(sprite, mapping.scale())?;
        let at = picture.shown_part(mapping.rect(rect).snapped());
        let shade = Shade::of_page(picture.slot.kind, picture.slot.page);
        let (size, borders) = (picture.slot.picture_size(), picture.borders);
        let (edges, middle) = atlas.slice_fills(sprite);
        let fills = panel::Fills { edges, middle };
        for (at, texels) in panel::nine_parts(at, size, borders, picture.enlarged, fills) {
            let texels = vertex::on_page(&picture.slot, texels);
            self.quad(at, texels, [Color::WHITE; 4], shade);
        }
        Ok(())
    }

    fn quad(&mut self, at: DeviceRect, texels: TexelCorners, colors: [Color; 4], shade: Shade) {
        let quad = vertex::quad(at, texels, colors, self.opacity, shade);
        self.frame.push(self.z, quad);
    }
}

/// A box of a text in device pixels, by the text's corner there.
fn device(rect: Rect, (corner, scale): (DevicePoint, f32)) -> DeviceRect {
    DeviceRect {
        left: corner.x + rect.x * scale,
        top: corner.y + rect.y * scale,
        right: corner.x + rect.right() * scale,
        bottom: corner.y + rect.bottom() * scale,
    }
}

/// The top left corner of a box that is held by its anchor.
fn held_corner(at: DevicePoint, anchor: Anchor, size: Size, scale: f32) -> DevicePoint {
    DevicePoint::new(
        at.x - anchor.x * size.width * scale,
        at.y - anchor.y * size.height * scale,
    )
}
