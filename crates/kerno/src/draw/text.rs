//! Drawing of texts.

use super::DrawText;
use super::quad::{Quad, units};
use super::recall::Recall;
use super::request::PlacedRequest;
use super::scope::Scope;
use super::space::Space;
use super::text_record::TextKey;
use crate::atlas::{AtlasError, KeptId};
use crate::base::{Color, DevicePoint, DeviceRect, Edges, Rect};
use crate::font::Face;
use crate::text::{DecorationLine, EffectLayer, InlineSprite, PlacedGlyph, Style, TextLayout};

/// A text on its way into a frame.
struct Drawing<'a> {
    layout: &'a TextLayout,
    draw: DrawText,
    /// The top left corner of its block in the space.
    corner: DevicePoint,
    space: Space,
    positions: u8,
    /// The face of the glyph before, and its number in the atlas.
    face: Option<(&'a Face, u32)>,
}

impl Scope<'_> {
    /// Draws a text.
    ///
    /// Letters are drawn at their size in device pixels, never stretched, with
    /// baselines on whole pixels; those of a pixel face at a crisp size on whole
    /// pixels both ways. A text all in [`Edges::Hard`] styles is drawn
    /// at [`Mapping::whole_scale`](crate::base::Mapping::whole_scale), about the place it hangs
    /// from. In a scope that is turned or stretched, they are drawn at about the size that
    /// they have on the window.
    ///
    /// # Errors
    /// [`AtlasError`] where a glyph is damaged or finds no room on a page.
    pub fn text(&mut self, layout: &TextLayout, draw: DrawText) -> Result<(), AtlasError> {
        if self.is_hidden() {
            return Ok(());
        }
        let key = TextKey::new(layout, draw, &self.state);
        let layer = self.state.layer;
        if let Some(key) = &key
            && self.recall.copy(key, layer, self.now, self.atlas)
        {
            return Ok(());
        }
        let first = self.now.layers.len();
        self.lay_out(layout, draw)?;
        if let Some(key) = key {
            Recall::keep(key, first, self.now);
        }
        Ok(())
    }

    fn lay_out(&mut self, layout: &TextLayout, draw: DrawText) -> Result<(), AtlasError> {
        let styles = layout.styles();
        let is_hard = styles.iter().all(|style| style.edges == Edges::Hard);
        let edges = if is_hard { Edges::Hard } else { Edges::Smooth };
        let held = self.state.held(draw.at, draw.anchor, layout.size(), edges);
        let Some((mut corner, mut space)) = held else {
            return Ok(());
        };
        if is_hard {
            corner = DevicePoint::new(corner.x.round(), corner.y.round());
        }
        let block = Rect::new(0.0, 0.0, layout.size().width, layout.size().height);
        let clip = layout.is_clipped().then(|| space.device(block, corner));
        space.clip = clip.map(DeviceRect::snapped);
        let mut drawing = Drawing {
            layout,
            draw,
            corner,
            space,
            positions: self.atlas.options().subpixel_positions,
            face: None,
        };
        for (plate, color) in layout.plates(draw.visible) {
            let at = space.device(plate, corner).snapped();
            self.tinted(at, color, &drawing);
        }
        for (sprite, at) in layout.sprites(draw.visible) {
            self.inline_sprite(sprite, at, &drawing)?;
        }
        // The layers below the fill of all letters lie beneath all letters: none covers its
        // neighbour. A line beneath letters is beneath them, one through them above (CSS
        // Text Decoration, “Painting Order”).
        let layers = styles.iter().map(Style::layers);
        let lowest = layers.clone().map(|own| *own.start()).min().unwrap_or(0);
        let highest = layers.map(|own| *own.end()).max().unwrap_or(0);
        for number in lowest..=highest {
            self.lines(DecorationLine::Underline, number, &drawing);
            self.letters(number, &mut drawing)?;
            self.lines(DecorationLine::LineThrough, number, &drawing);
        }
        Ok(())
    }

    /// Fills a rectangle of a text's space.
    fn tinted(&mut self, at: DeviceRect, color: Color, drawing: &Drawing<'_>) {
        let color = self.shaded(color.multiplied(drawing.draw.tint));
        self.push(Quad::solid(at, [color; 4]), &drawing.space, KeptId::NONE);
    }

    /// Draws a sprite between letters, on whole pixels.
    fn inline_sprite(
        &mut self,
        sprite: &InlineSprite,
        at: Rect,
        drawing: &Drawing<'_>,
    ) -> Result<(), AtlasError> {
        let Drawing { space, corner, .. } = drawing;
        let id = self.atlas.sprite(&sprite.name)?;
        let intrinsic = self.atlas.sprite_size(id);
        let scale = space.scale * at.height / intrinsic.height;
        let picture = self.atlas.sprite_picture(id, scale)?;
        let at = space.device(at, *corner);
        let color = self.shaded(drawing.draw.tint);
        let quad = picture.whole_at(at.left.round(), at.top.round());
        self.push(
            Quad::picture(quad, &picture.slot, units(&picture.slot), color),
            space,
            KeptId::NONE,
        );
        Ok(())
    }

    /// Draws one layer of the lines along letters: on whole pixels, at least one thick.
    fn lines(&mut self, kind: DecorationLine, number: i32, drawing: &Drawing<'_>) {
        let Drawing { space, corner, .. } = drawing;
        for (line, style) in drawing.layout.decorations(kind, drawing.draw.visible) {
            let Some(layer) = style.layer(number, space.scale) else {
                continue;
            };
            let outset = layer.treatment.outset_px().round();
            let line = space.device(line, *corner);
            let top = line.top.round();
            let height = (line.bottom - line.top).round().max(1.0);
            let at = DeviceRect {
                left: line.left.round() - outset,
                top: top - outset,
                right: line.right.round() + outset,
                bottom: top + height + outset,
            };
            self.tinted(at, layer.color, drawing);
        }
    }

    /// Draws one layer of all letters.
    fn letters<'a>(&mut self, number: i32, drawing: &mut Drawing<'a>) -> Result<(), AtlasError> {
        let layout = drawing.layout;
        let mut span = None;
        for glyph in layout.glyphs() {
            if glyph.cluster as usize >= drawing.draw.visible {
                continue;
            }
            let layer = match span {
                Some((known, layer)) if known == glyph.span => layer,
                _ => layout.style(glyph.span).layer(number, drawing.space.scale),
            };
            span = Some((glyph.span, layer));
            if let Some(layer) = layer {
                self.letter(glyph, &layer, drawing)?;
            }
        }
        Ok(())
    }

    fn letter<'a>(
        &mut self,
        glyph: &PlacedGlyph,
        layer: &EffectLayer,
        drawing: &mut Drawing<'a>,
    ) -> Result<(), AtlasError> {
        let Drawing {
            layout,
            corner,
            space,
            positions,
            ..
        } = *drawing;
        let PlacedRequest { request, pen } =
            PlacedRequest::new(layout, glyph, layer, corner, space.scale, positions);
        let number = match drawing.face {
            Some((face, number)) if std::ptr::eq(face, request.face) => number,
            _ => self.atlas.face_number(request.face),
        };
        drawing.face = Some((request.face, number));
        let (Some(slot), picture) = self.atlas.kept_glyph(number, &request)? else {
            return Ok(());
        };
        let at = DeviceRect {
            left: pen.x + slot.left,
            top: pen.y + slot.top,
            right: pen.x + slot.left + slot.width,
            bottom: pen.y + slot.top + slot.height,
        };
        let own = request.face.picture(glyph.glyph);
        let color = match own {
            Some(picture) if !picture.is_tinted => Color::WHITE.with_alpha(layer.color.alpha),
            _ => layer.color,
        };
        let color = self.shaded(color.multiplied(drawing.draw.tint));
        let quad = Quad::picture(at, &slot, units(&slot), color);
        self.push(quad, &space, picture);
        Ok(())
    }
}
