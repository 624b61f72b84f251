//! Drawing of texts.

use std::cell::Cell;
use std::ops::Range;
use std::ptr;

use super::DrawText;
use super::quad::{Quad, units};
use super::recall::Recall;
use super::request::{FieldOptions, PlacedRequest};
use super::scope::Scope;
use super::space::Space;
use super::state::State;
use super::text_record::TextKey;
use crate::atlas::{AtlasError, KeptId};
use crate::base::{Affine, Color, DevicePoint, DeviceRect, Edges, Offset, Point, Rect, Treatment};
use crate::font::{Face, GlyphColors};
use crate::raster::{SubpixelPositions, VeilLayer};
use crate::text::{
    Cluster, ClusterPose, DecorationLine, EffectLayer, InlineSprite, PlacedGlyph, Style, TextLayout,
};

/// A text on its way into a frame.
struct Drawing<'a> {
    layout: &'a TextLayout,
    draw: DrawText,
    /// The clusters that are drawn.
    shown: Range<usize>,
    /// The top left corner of its block in the space.
    corner: DevicePoint,
    space: Space,
    positions: SubpixelPositions,
    fields: FieldOptions,
    /// The style and the opacity that [`Drawing::is_field`] was asked of last, and the answer.
    last_field: Cell<Option<((*const Style, u8), bool)>>,
    /// The face of the glyph before, and its number in the atlas.
    face: Option<(&'a Face, u32)>,
    /// Opacity of the whole text, 0 to 255.
    opacity: u8,
    /// Memory for the layers of a letter.
    veil: Vec<VeilLayer>,
    /// Motion of the letters.
    motion: Option<Motion<'a>>,
}

/// Motion of the letters of a text, and the space in which those are drawn that move.
#[derive(Clone, Copy)]
struct Motion<'a> {
    pose: &'a dyn Fn(usize) -> ClusterPose,
    corner: DevicePoint,
    space: Space,
}

impl Motion<'_> {
    /// The space of a cluster in a pose.
    fn posed(&self, layout: &TextLayout, cluster: &Cluster, pose: &ClusterPose) -> Space {
        let Self { corner, space, .. } = *self;
        let line = &layout.lines()[cluster.line as usize];
        let height = (line.baseline - line.top) * 0.5;
        let pivot = Point::new(
            corner.x + (cluster.x + cluster.advance * 0.5) * space.scale,
            corner.y + (line.baseline - height) * space.scale,
        );
        let offset = Offset::new(pose.offset.x * space.scale, pose.offset.y * space.scale);
        let posed = Affine::rotation(pose.rotation.to_radians())
            .then(Affine::scaling(pose.scale, pose.scale))
            .about(pivot)
            .then(Affine::translation(offset));
        Space {
            turn: Some(space.turn.map_or(posed, |turn| posed.then(turn))),
            ..space
        }
    }
}

/// Drawing of a text that is in no pose.
#[derive(Clone, Copy)]
struct Unposed {
    draw: DrawText,
    opacity: u8,
    corner: DevicePoint,
    space: Space,
}

impl Drawing<'_> {
    fn restore(&mut self, before: Unposed) {
        self.draw = before.draw;
        self.opacity = before.opacity;
        self.corner = before.corner;
        self.space = before.space;
    }

    fn placed(&self, glyph: &PlacedGlyph, layer: &EffectLayer) -> PlacedRequest<'_> {
        let Drawing {
            layout,
            corner,
            space,
            positions,
            fields,
            ..
        } = *self;
        let style = layout.style(glyph.span);
        let is_color = style.face_at(glyph.face).is_color_glyph(glyph.glyph);
        if !is_color && self.is_field(style) {
            let part = space.scale / fields.picture_scale(style);
            return PlacedRequest::of_field(layout, glyph, layer, corner, (&space, part, fields));
        }
        let layer = &EffectLayer {
            treatment: layer.treatment.without_field(),
            ..*layer
        };
        match space.detail {
            Some(detail) => {
                PlacedRequest::between(layout, glyph, layer, corner, (space.scale, detail))
            }
            None => PlacedRequest::new(layout, glyph, layer, corner, space.scale, positions),
        }
    }

    /// Returns whether letters of a style are drawn from distance fields: whether all their
    /// layers are within the range, and none fades above another one.
    fn is_field(&self, style: &Style) -> bool {
        if !style.edges.is_field() {
            return false;
        }
        let key = (ptr::from_ref(style), self.opacity);
        if let Some((known, is_field)) = self.last_field.get()
            && known == key
        {
            return is_field;
        }
        let is_field = self.fits_field(style);
        self.last_field.set(Some((key, is_field)));
        is_field
    }

    fn fits_field(&self, style: &Style) -> bool {
        let mut layers = style.layers();
        (self.opacity == 255 || layers.clone().count() == 1)
            && style.face.strike_size().is_none()
            && layers.all(|number| {
                let scale = self.fields.picture_scale(style);
                let layer = style.layer(number, scale);
                layer.is_none_or(|layer| {
                    self.fields.hold(&layer.treatment, scale / self.space.scale)
                })
            })
    }

    /// Pixels of letters' pictures in a design pixel.
    fn picture_scale(&self, style: &Style) -> f32 {
        if self.is_field(style) {
            return self.fields.picture_scale(style);
        }
        self.own_scale(style)
    }

    /// The same for letters that are drawn without fields.
    fn own_scale(&self, style: &Style) -> f32 {
        let Space { scale, detail, .. } = self.space;
        detail.map_or(scale, |detail| detail.picture_scale(style.size, scale))
    }

    /// A layer of a colour glyph: its fill is the glyph in its own colours, all else is made of
    /// its shape.
    fn color_layer(&self, style: &Style, number: i32, layer: &EffectLayer) -> EffectLayer {
        let own = style.layer(number, self.own_scale(style)).unwrap_or(*layer);
        EffectLayer {
            treatment: match number {
                0 => Treatment::in_color(),
                _ => own.treatment.without_field(),
            },
            ..own
        }
    }

    /// Pixels of letters' pictures in one of the space.
    fn detail(&self, style: &Style) -> f32 {
        self.picture_scale(style) / self.space.scale
    }

    /// Finds the layers of a letter from one on, as they are placed about the pixel of its
    /// pen; which pixel that is.
    fn find_veil(&mut self, glyph: &PlacedGlyph, number: i32) -> DevicePoint {
        let mut veil = std::mem::take(&mut self.veil);
        veil.clear();
        let style = self.layout.style(glyph.span);
        let letter = EffectLayer::letter(style);
        let pen = self.placed(glyph, &letter).pen;
        for number in number..=*style.layers().end() {
            let Some(layer) = style.layer(number, self.picture_scale(style)) else {
                continue;
            };
            let PlacedRequest { request, pen: own } = self.placed(glyph, &layer);
            veil.push(VeilLayer::new(
                request.treatment,
                (own.x - pen.x) * self.detail(style) + request.subpixel.shift(),
                (own.y - pen.y) * self.detail(style),
                layer.color.alpha,
            ));
        }
        self.veil = veil;
        pen
    }
}

/// Letters larger than this, in device pixels, fade layer by layer: the distance to a veil
/// has to fit its byte.
const LARGEST_VEILED: f32 = 640.0;

/// A gradient from the ascender of a line to its descender.
struct Shades {
    colors: [Color; 2],
    /// In pixels of the space.
    top: f32,
    height: f32,
}

impl Shades {
    fn new(glyph: &PlacedGlyph, drawing: &Drawing<'_>, colors: [Color; 2]) -> Self {
        let Drawing {
            layout,
            corner,
            space,
            ..
        } = drawing;
        let line = layout.clusters()[glyph.cluster as usize].line as usize;
        let baseline = corner.y + layout.lines()[line].baseline * space.scale;
        let (above, below) = layout.style(glyph.span).content_extent();
        Self {
            colors,
            top: baseline.round() - above * space.scale,
            height: (above + below) * space.scale,
        }
    }

    /// The colour at a height.
    fn at(&self, y: f32) -> Color {
        let share = ((y - self.top) / self.height).clamp(0.0, 1.0);
        self.colors[0].mixed(self.colors[1], share)
    }
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
        self.now.enter(self.state.group);
        if let Some(key) = &key
            && self.recall.copy(key, layer, self.now, self.atlas)
        {
            return Ok(());
        }
        let first = self.now.layers.len();
        let is_partial = self.lay_out(layout, draw, None)?;
        if let Some(key) = key {
            Recall::keep(key, is_partial, first, self.now);
        }
        Ok(())
    }

    /// Draws a text whose clusters move: `pose` says how each one is drawn other than it
    /// stands. Clusters that are still have sharp edges on whole pixels; those in motion
    /// glide between them. Plates and lines along letters stay in their places.
    ///
    /// # Errors
    /// As [`Scope::text`].
    pub fn text_in_motion(
        &mut self,
        layout: &TextLayout,
        draw: DrawText,
        pose: &dyn Fn(usize) -> ClusterPose,
    ) -> Result<(), AtlasError> {
        if self.is_hidden() {
            return Ok(());
        }
        self.now.enter(self.state.group);
        self.lay_out(layout, draw, Some(pose)).map(|_| ())
    }

    /// Draws a text; returns whether lines of it were left out that are not seen.
    pub(super) fn lay_out(
        &mut self,
        layout: &TextLayout,
        draw: DrawText,
        pose: Option<&dyn Fn(usize) -> ClusterPose>,
    ) -> Result<bool, AtlasError> {
        let styles = layout.styles();
        let is_hard = styles.iter().all(|style| style.edges == Edges::Hard);
        let edges = if is_hard { Edges::Hard } else { Edges::Smooth };
        let held = self.state.held(draw.at, draw.anchor, layout.size(), edges);
        let Some((mut corner, mut space)) = held else {
            return Ok(false);
        };
        if is_hard {
            corner = DevicePoint::new(corner.x.round(), corner.y.round());
        }
        let block = Rect::new(0.0, 0.0, layout.size().width, layout.size().height);
        let clip = layout.is_clipped().then(|| space.device(block, corner));
        space.clip = clip.map(DeviceRect::snapped);
        let mut shown = draw.shown();
        // What moves may be anywhere.
        if pose.is_none()
            && let Some([top, bottom]) = self.state.seen_heights(corner, &space)
        {
            let seen = layout.clusters_between(top, bottom);
            shown = shown.start.max(seen.start)..shown.end.min(seen.end);
        }
        let is_partial =
            shown.start > draw.first || shown.end < draw.visible.min(layout.clusters().len());
        let motion = pose.and_then(|pose| {
            let way = self.state.way.moving(true, &self.state.mapping);
            let state = State { way, ..self.state };
            let (corner, space) = state.held(draw.at, draw.anchor, layout.size(), edges)?;
            Some(Motion {
                pose,
                corner,
                space,
            })
        });
        let mut drawing = Drawing {
            motion,
            layout,
            draw,
            shown,
            corner,
            space,
            positions: self.atlas.options().subpixel_positions,
            fields: FieldOptions::of(self.atlas.options()),
            last_field: Cell::new(None),
            face: None,
            opacity: opacity(&self.state, &draw),
            veil: std::mem::take(&mut self.now.veil),
        };
        let done = self.paint(&mut drawing);
        self.now.veil = drawing.veil;
        done.map(|()| is_partial)
    }

    /// Draws all that a text is made of, from the lowest layer to the highest.
    fn paint(&mut self, drawing: &mut Drawing<'_>) -> Result<(), AtlasError> {
        let Drawing {
            layout,
            corner,
            space,
            ..
        } = *drawing;
        let shown = drawing.shown.clone();
        for (plate, color) in layout.plates(shown.clone()) {
            let at = space.snapped(space.device(plate, corner));
            self.tinted(at, color, drawing);
        }
        for (cluster, sprite, at) in layout.placed_sprites(shown) {
            let pose = drawing.motion.map(|motion| (motion.pose)(cluster));
            let pose = pose.unwrap_or(ClusterPose::STILL);
            if pose.is_seen() {
                let before = self.pose(cluster, drawing, &pose);
                self.inline_sprite(sprite, at, drawing)?;
                drawing.restore(before);
            }
        }
        // The layers below the fill of all letters lie beneath all letters: none covers its
        // neighbour. A line beneath letters is beneath them, one through them above (CSS
        // Text Decoration, “Painting Order”).
        let layers = layout.styles().iter().map(Style::layers);
        let lowest = layers.clone().map(|own| *own.start()).min().unwrap_or(0);
        let highest = layers.map(|own| *own.end()).max().unwrap_or(0);
        for number in lowest..=highest {
            self.lines(DecorationLine::Underline, number, drawing)?;
            self.letters(number, drawing)?;
            self.lines(DecorationLine::LineThrough, number, drawing)?;
        }
        Ok(())
    }

    /// Fills a rectangle of a text's space.
    fn tinted(&mut self, at: DeviceRect, color: Color, drawing: &Drawing<'_>) {
        let color = self.shaded(color.multiplied(drawing.draw.tint));
        let quad = Quad::solid(at, [color; 4]).soft();
        self.push(quad, &drawing.space, KeptId::NONE);
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
        let (left, top) = match space.turn {
            Some(_) => (at.left, at.top),
            None => (at.left.round(), at.top.round()),
        };
        let quad = picture.whole_at(left, top);
        self.push(
            Quad::picture(quad, &picture.slot, units(&picture.slot), color).soft(),
            space,
            KeptId::NONE,
        );
        Ok(())
    }

    /// Draws one layer of the lines along letters: on whole pixels, at least one thick.
    fn lines(
        &mut self,
        kind: DecorationLine,
        number: i32,
        drawing: &Drawing<'_>,
    ) -> Result<(), AtlasError> {
        for (line, style) in drawing.layout.decorations(kind, drawing.shown.clone()) {
            let Some(layer) = style.layer(number, drawing.picture_scale(style)) else {
                continue;
            };
            let Some(at) = line_at((line, style), &layer, drawing) else {
                continue;
            };
            let blur = layer.treatment.blur_px() / drawing.detail(style);
            if blur > 0.0 {
                let color = self.shaded(layer.color.multiplied(drawing.draw.tint));
                self.soft_box(at, (0.0, blur), color, &drawing.space)?;
                continue;
            }
            if drawing.opacity == 255 {
                self.tinted(at, layer.color, drawing);
                continue;
            }
            // Parts that the layers above hide do not show through them.
            let mut parts = vec![at];
            for above in number + 1..=*style.layers().end() {
                let above = style.layer(above, drawing.picture_scale(style));
                let above = above.filter(|layer| layer.color.alpha == 255);
                if let Some(above) = above.and_then(|layer| line_at((line, style), &layer, drawing))
                {
                    let rest = parts.iter().flat_map(|part| part.without(above));
                    parts = rest.collect();
                }
            }
            for part in parts {
                self.tinted(part, layer.color, drawing);
            }
        }
        Ok(())
    }

    /// Draws one layer of all letters.
    fn letters<'a>(&mut self, number: i32, drawing: &mut Drawing<'a>) -> Result<(), AtlasError> {
        let layout = drawing.layout;
        let shown = drawing.shown.clone();
        let mut span = None;
        for glyph in layout.glyphs_with(&shown) {
            if !shown.contains(&(glyph.cluster as usize)) {
                continue;
            }
            let layer = match span {
                Some((known, layer)) if known == glyph.span => layer,
                _ => {
                    let style = layout.style(glyph.span);
                    style.layer(number, drawing.picture_scale(style))
                }
            };
            span = Some((glyph.span, layer));
            let Some(layer) = layer else { continue };
            match drawing.motion {
                None => self.letter(glyph, (number, &layer), drawing)?,
                Some(motion) => {
                    let pose = (motion.pose)(glyph.cluster as usize);
                    self.posed_letter(glyph, (number, &layer), drawing, &pose)?;
                }
            }
        }
        Ok(())
    }

    /// Draws a layer of a letter in a pose.
    fn posed_letter<'a>(
        &mut self,
        glyph: &PlacedGlyph,
        layer: (i32, &EffectLayer),
        drawing: &mut Drawing<'a>,
        pose: &ClusterPose,
    ) -> Result<(), AtlasError> {
        if !pose.is_seen() {
            return Ok(());
        }
        let before = self.pose(glyph.cluster as usize, drawing, pose);
        let done = self.letter(glyph, layer, drawing);
        drawing.restore(before);
        done
    }

    /// Poses what is drawn next for a cluster; returns how it was.
    fn pose(&self, cluster: usize, drawing: &mut Drawing<'_>, pose: &ClusterPose) -> Unposed {
        let before = Unposed {
            draw: drawing.draw,
            opacity: drawing.opacity,
            corner: drawing.corner,
            space: drawing.space,
        };
        drawing.draw.tint = drawing.draw.tint.multiplied(pose.tint);
        drawing.opacity = opacity(&self.state, &drawing.draw);
        if let Some(motion) = drawing.motion.filter(|_| !pose.is_in_place()) {
            let cluster = &drawing.layout.clusters()[cluster];
            drawing.space = motion.posed(drawing.layout, cluster, pose);
            drawing.corner = motion.corner;
        }
        before
    }

    fn letter<'a>(
        &mut self,
        glyph: &PlacedGlyph,
        (number, layer): (i32, &EffectLayer),
        drawing: &mut Drawing<'a>,
    ) -> Result<(), AtlasError> {
        let layout = drawing.layout;
        let style = layout.style(glyph.span);
        let face: &'a Face = style.face_at(glyph.face);
        let colors = face.glyph_colors(glyph.glyph);
        let is_color = colors != GlyphColors::None;
        let color_layer = is_color.then(|| drawing.color_layer(style, number, layer));
        let layer = color_layer.as_ref().unwrap_or(layer);
        let side = (style.size + 2.0 * style.reach()) * drawing.picture_scale(style);
        let is_veiled = drawing.opacity < 255
            && number < *style.layers().end()
            && side <= LARGEST_VEILED
            && !is_color;
        let veiled = is_veiled.then(|| drawing.find_veil(glyph, number));
        let face_number = match drawing.face {
            Some((known, number)) if ptr::eq(known, face) => number,
            _ => self.atlas.face_number(face),
        };
        drawing.face = Some((face, face_number));
        let PlacedRequest { request, pen } = drawing.placed(glyph, layer);
        let (request, pen) = match veiled {
            Some(pen) => (request.veil(&drawing.veil), pen),
            None if colors == GlyphColors::WithForeground => {
                (request.foreground(layer.color.with_alpha(255)), pen)
            }
            None => (request, pen),
        };
        let (Some(slot), picture) = self.atlas.kept_glyph(face_number, &request)? else {
            return Ok(());
        };
        let space = &drawing.space;
        let part = match is_color {
            true => space.scale / drawing.own_scale(style),
            false => 1.0 / drawing.detail(style),
        };
        let (left, top) = (pen.x + slot.left * part, pen.y + slot.top * part);
        let at = DeviceRect {
            left,
            top,
            right: left + slot.width * part,
            bottom: top + slot.height * part,
        };
        let quad = Quad::picture(at, &slot, units(&slot), [0; 4]);
        let quad = self.colored(quad, glyph, layer, drawing);
        let range = request.treatment.range();
        let quad = match veiled {
            _ if range > 0 => quad.field(range, &layer.treatment),
            Some(_) => quad.veiled(&slot, drawing.opacity),
            None if number == 0 => quad.contrasted(self.state.contrast),
            None => quad,
        };
        let quad = match space.turn {
            Some(_) if self.atlas.options().padding > 0 && range == 0 => {
                let texel = slot.width * part / f32::from(slot.picture_size().0.max(1));
                quad.soft().with_margin(texel)
            }
            _ => quad,
        };
        self.push(quad, space, picture);
        Ok(())
    }

    /// A letter's quad in the colours of a layer; pictures that have their own keep them.
    fn colored(
        &self,
        quad: Quad,
        glyph: &PlacedGlyph,
        layer: &EffectLayer,
        drawing: &Drawing<'_>,
    ) -> Quad {
        let face = drawing.layout.style(glyph.span).face_at(glyph.face);
        let own = face.picture(glyph.glyph);
        let is_colored =
            own.is_some_and(|picture| !picture.is_tinted) || layer.treatment.is_in_color();
        let color = |color: Color| {
            let color = match is_colored {
                true => Color::WHITE.with_alpha(color.alpha),
                false => color,
            };
            self.shaded(color.multiplied(drawing.draw.tint))
        };
        let Some(bottom) = layer.bottom else {
            let color = color(layer.color);
            return quad.shaded(color, color);
        };
        let colors = Shades::new(glyph, drawing, [layer.color, bottom]);
        quad.shaded(
            color(colors.at(quad.at.top)),
            color(colors.at(quad.at.bottom)),
        )
    }
}

/// Opacity of a whole text, 0 to 255.
fn opacity(state: &State, draw: &DrawText) -> u8 {
    (state.opacity * f32::from(draw.tint.alpha) + 0.5) as u8
}

/// Place of a layer of a line along letters: on whole pixels, at least one thick. None for
/// a band along its edge.
fn line_at(
    (line, style): (Rect, &Style),
    layer: &EffectLayer,
    drawing: &Drawing<'_>,
) -> Option<DeviceRect> {
    if layer.treatment.band().is_some() {
        return None;
    }
    let part = 1.0 / drawing.detail(style);
    let space = &drawing.space;
    let at = space.device(line, drawing.corner);
    let (x, y) = (layer.offset.x * part, layer.offset.y * part);
    let outset = layer.treatment.outset_px() * part;
    let thick = (at.bottom - at.top).max(1.0);
    if space.turn.is_some() {
        return Some(DeviceRect {
            left: at.left - outset + x,
            top: at.top - outset + y,
            right: at.right + outset + x,
            bottom: at.top + thick + outset + y,
        });
    }
    let (outset, top) = (outset.round(), at.top.round() + y.round());
    Some(DeviceRect {
        left: at.left.round() - outset + x.round(),
        top: top - outset,
        right: at.right.round() + outset + x.round(),
        bottom: top + thick.round() + outset,
    })
}
