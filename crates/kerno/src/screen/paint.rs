//! A screen drawn into a frame.

use std::f32::consts::PI;

use super::element::GaugeSide;
use super::flow::mirrored;
use super::node::{Body, FillBody, GaugeBody, IconsBody, Node, WorldBody};
use super::text_body::TextBody;
use super::{Screen, ScreenError};
use crate::atlas::{AtlasError, SpriteId};
use crate::base::{Affine, Anchor, Color, Offset, Point, Rect, Size};
use crate::dialogue::SpeechPlayer;
use crate::draw::{DrawSprite, DrawText, Scope, TextPlace};

/// Places of texts in a frame, by the numbers of their elements.
pub(super) type Places = Vec<Option<TextPlace>>;

/// The most pictures that a tiled element is made of: the rest is left out.
const MOST_TILES: f32 = 4096.0;

impl Screen {
    /// Draws all elements; `places` are those of texts, by the numbers of their elements.
    pub(super) fn paint(
        &self,
        scope: &mut Scope<'_>,
        places: &mut Places,
    ) -> Result<(), ScreenError> {
        places.clear();
        places.resize(self.nodes.len(), None);
        for index in &self.roots {
            self.paint_element(*index, scope, places)?;
        }
        Ok(())
    }

    /// The place of a text in its element.
    pub(super) fn text_draw(&self, index: usize, text: &TextBody) -> DrawText {
        let node = &self.nodes[index];
        let inner = node.rect.inset(mirrored(node.element.padding, self.room));
        let at = inner.point(Anchor::TOP_LEFT);
        DrawText::at(at, Anchor::TOP_LEFT).visible(text.visible)
    }

    fn paint_element(
        &self,
        index: usize,
        scope: &mut Scope<'_>,
        places: &mut Places,
    ) -> Result<(), ScreenError> {
        let node = &self.nodes[index];
        let element = &node.element;
        if !node.is_there || element.opacity == 0.0 {
            return Ok(());
        }
        if node
            .world
            .as_ref()
            .is_some_and(|world| !world.label.is_seen)
        {
            return Ok(());
        }
        let pose = node.pose(self.time);
        let opacity = element.opacity * pose.opacity;
        let mut scope = match element.group {
            true => scope.group(opacity),
            false => scope.scope().opacity(opacity),
        };
        if node.moves(self.time, self.time) {
            scope = scope.moving(true);
        }
        let grown = node.world.as_ref().map_or(1.0, |world| world.label.scale);
        let scale = element.scale * pose.scale * grown;
        if element.rotation != 0.0 || scale != 1.0 || pose.offset != Offset::ZERO {
            let usual = match node.world {
                Some(_) => Anchor::BOTTOM,
                None => element.anchor.unwrap_or(Anchor::CENTER),
            };
            let origin = element.origin.unwrap_or(usual);
            let origin = match self.room.is_mirrored && node.world.is_none() {
                true => Anchor::new(1.0 - origin.x, origin.y),
                false => origin,
            };
            let transform = Affine::rotation(element.rotation.to_radians())
                .then(Affine::scaling(scale, scale))
                .about(node.rect.point(origin))
                .then(Affine::translation(pose.offset));
            scope = scope.transform(transform);
        }
        self.paint_body(index, &mut scope, places)?;
        if let Some(world) = &node.world {
            paint_pointer(world, node.rect, &mut scope)?;
        }
        if node.children.is_empty() {
            return Ok(());
        }
        if element.clip {
            scope = scope.clip(node.rect);
        }
        for child in &node.children {
            self.paint_element(*child, &mut scope, places)?;
        }
        Ok(())
    }

    fn paint_body(
        &self,
        index: usize,
        scope: &mut Scope<'_>,
        places: &mut Places,
    ) -> Result<(), ScreenError> {
        let node = &self.nodes[index];
        let rect = node.rect;
        match &node.body {
            Body::None => {}
            Body::Text(text) => {
                let draw = self.text_draw(index, text);
                places[index] = Some(scope.placed_text(&text.layout, draw)?);
            }
            Body::Sprite(sprite) => {
                let shown = match &sprite.animation {
                    Some(animation) => animation.sprite_at(self.time),
                    None => sprite.sprite,
                };
                let draw =
                    match (rect.width, rect.height) == (sprite.size.width, sprite.size.height) {
                        true => DrawSprite::at(rect.point(Anchor::TOP_LEFT), Anchor::TOP_LEFT),
                        false => DrawSprite::filling(rect),
                    };
                scope.sprite(shown, draw)?;
            }
            Body::Panel(sprite) => scope.panel(*sprite, rect)?,
            Body::Tiles(sprite, size) => tiles(scope, *sprite, *size, rect)?,
            Body::Rect(style) => scope.styled_rect(rect, *style)?,
            Body::Gauge(gauge) => self.gauge(gauge, rect, scope)?,
            Body::Icons(icons) => self.icons(icons, rect, scope)?,
            Body::Dialogue(dialogue) => {
                if let Some(player) = &dialogue.player {
                    self.speech(node, player, scope)?;
                }
            }
        }
        Ok(())
    }

    /// Draws what is said of a line so far.
    fn speech(
        &self,
        node: &Node,
        player: &SpeechPlayer,
        scope: &mut Scope<'_>,
    ) -> Result<(), AtlasError> {
        let Some(page) = player.page() else {
            return Ok(());
        };
        let inner = node.rect.inset(mirrored(node.element.padding, self.room));
        let layout = player.speech().layout();
        // A box that is as wide as the text may be narrower than what it was laid out in.
        let left = match self.room.is_mirrored {
            true => inner.right() - layout.size().width,
            false => inner.x,
        };
        let at = Point::new(left, inner.y - page.top);
        let draw = DrawText::at(at, Anchor::TOP_LEFT)
            .first(page.clusters.start)
            .visible(player.visible());
        match player.speech().has_motion() {
            false => scope.text(layout, draw),
            true => {
                let pose = |cluster: usize| player.pose(cluster, self.reduces_motion);
                scope.text_in_motion(layout, draw, &pose)
            }
        }
    }

    fn gauge(
        &self,
        gauge: &GaugeBody,
        rect: Rect,
        scope: &mut Scope<'_>,
    ) -> Result<(), AtlasError> {
        if let Some(back) = gauge.back {
            scope.panel(back, rect)?;
        }
        let inner = rect.inset(mirrored(gauge.gauge.inset, self.room));
        let side = match (gauge.gauge.from, self.room.is_mirrored) {
            (GaugeSide::Left, true) => GaugeSide::Right,
            (GaugeSide::Right, true) => GaugeSide::Left,
            (side, _) => side,
        };
        if let Some(ghost) = gauge.gauge.ghost
            && gauge.ghost > gauge.shown
        {
            scope.rect(filled(inner, side, gauge.ghost), ghost);
        }
        let part = filled(inner, side, gauge.shown);
        if part.width > 0.0 && part.height > 0.0 {
            let tint = gauge.threshold();
            let white = tint.unwrap_or(Color::WHITE);
            match gauge.fill {
                FillBody::Color(color) => scope.rect(part, tint.unwrap_or(color)),
                FillBody::Stretched(sprite) => {
                    scope.sprite(sprite, DrawSprite::filling(part).tint(white))?;
                }
                FillBody::Clipped(sprite) => {
                    let mut scope = scope.scope().clip(part);
                    scope.sprite(sprite, DrawSprite::filling(inner).tint(white))?;
                }
            }
        }
        match gauge.marks {
            Some(marks) => scope.panel(marks, inner),
            None => Ok(()),
        }
    }

    fn icons(
        &self,
        icons: &IconsBody,
        rect: Rect,
        scope: &mut Scope<'_>,
    ) -> Result<(), AtlasError> {
        let halves = 2.0 * self.values()[icons.value].number();
        let halves = match icons.half {
            Some(_) => halves.round(),
            None => (halves * 0.5).round() * 2.0,
        };
        for number in 0..icons.row.count {
            let left = halves - 2.0 * f64::from(number);
            let sprite = if left >= 2.0 {
                Some(icons.full)
            } else if left >= 1.0 {
                icons.half.or(icons.empty)
            } else {
                icons.empty
            };
            let Some(sprite) = sprite else { continue };
            let step = f32::from(number) * (icons.size.width + icons.row.gap);
            let (anchor, step) = match self.room.is_mirrored {
                true => (Anchor::TOP_RIGHT, -step),
                false => (Anchor::TOP_LEFT, step),
            };
            let at = rect.point(anchor) + Offset::new(step, 0.0);
            scope.sprite(sprite, DrawSprite::at(at, anchor))?;
        }
        Ok(())
    }
}

/// Draws the sprite that points to the place: outside of the element's box, on the way there,
/// and away from the corners.
fn paint_pointer(world: &WorldBody, rect: Rect, scope: &mut Scope<'_>) -> Result<(), AtlasError> {
    let pointer = world.pointer.filter(|_| world.label.pointer.is_some());
    let Some(sprite) = pointer.or(world.tail) else {
        return Ok(());
    };
    let (middle, target) = (rect.center(), world.target);
    let (x, y) = (target.x - middle.x, target.y - middle.y);
    // The way leaves the box by its sides, or by its top or bottom.
    let half = 0.5 * scope.atlas().sprite_size(sprite).height;
    let room = half + CORNER;
    let held = |at: f32, start: f32, end: f32| match end - start > 2.0 * room {
        true => at.clamp(start + room, end - room),
        false => (start + end) * 0.5,
    };
    let is_beside = x.abs() * rect.height > y.abs() * rect.width;
    let at = match is_beside {
        true => {
            let edge = if x > 0.0 { rect.right() } else { rect.x };
            let along = middle.y + y * (rect.width * 0.5 / x.abs());
            Point::new(edge, held(along, rect.y, rect.bottom()))
        }
        false => {
            let edge = if y > 0.0 { rect.bottom() } else { rect.y };
            let along = middle.x + x * (rect.height * 0.5 / y.abs().max(1e-6));
            Point::new(held(along, rect.x, rect.right()), edge)
        }
    };
    let straight = match (is_beside, x > 0.0, y > 0.0) {
        (true, true, _) => 0.0,
        (true, false, _) => PI,
        (false, _, true) => PI * 0.5,
        (false, _, false) => -PI * 0.5,
    };
    let turn = (target.y - at.y).atan2(target.x - at.x);
    let askew = (turn - straight + PI).rem_euclid(2.0 * PI) - PI;
    let (turn, at) = match pointer {
        Some(_) => (turn, at),
        // Askew, one corner of a tail's base would stand off the edge: it begins within the
        // box, and leans no further than it can.
        None => {
            let askew = askew.clamp(-LEANING, LEANING);
            let back = half * askew.tan().abs();
            let (sine, cosine) = (straight + askew).sin_cos();
            (
                straight + askew,
                at + Offset::new(-cosine * back, -sine * back),
            )
        }
    };
    let mut scope = scope.scope().transform(Affine::rotation(turn).about(at));
    scope.sprite(sprite, DrawSprite::at(at, Anchor::LEFT))
}

/// The farthest that a tail leans, in radians.
const LEANING: f32 = 0.6;

/// Space to the corners of a box that what points from it keeps, in design pixels.
const CORNER: f32 = 6.0;

/// The part of a gauge that a share of it fills.
fn filled(inner: Rect, side: GaugeSide, share: f32) -> Rect {
    let (width, height) = (inner.width * share, inner.height * share);
    match side {
        GaugeSide::Left => Rect::new(inner.x, inner.y, width, inner.height),
        GaugeSide::Right => Rect::new(inner.right() - width, inner.y, width, inner.height),
        GaugeSide::Top => Rect::new(inner.x, inner.y, inner.width, height),
        GaugeSide::Bottom => Rect::new(inner.x, inner.bottom() - height, inner.width, height),
    }
}

/// Repeats a sprite over a rectangle, from its top left corner.
fn tiles(
    scope: &mut Scope<'_>,
    sprite: SpriteId,
    size: Size,
    rect: Rect,
) -> Result<(), AtlasError> {
    let columns = (rect.width / size.width).ceil();
    let rows = (rect.height / size.height).ceil();
    if !(columns * rows > 0.0 && columns * rows <= MOST_TILES) {
        return Ok(());
    }
    let mut scope = scope.scope().clip(rect);
    for row in 0..rows as u16 {
        for column in 0..columns as u16 {
            let at = Point::new(
                rect.x + f32::from(column) * size.width,
                rect.y + f32::from(row) * size.height,
            );
            scope.sprite(sprite, DrawSprite::at(at, Anchor::TOP_LEFT))?;
        }
    }
    Ok(())
}
