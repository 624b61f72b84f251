//! Scopes: stretches of drawing that share layer, opacity, transform and clip.

use super::blend::premultiplied;
use super::gathered::Gathered;
use super::group::{Group, GroupNumber, MOST_GROUPS};
use super::quad::Quad;
use super::recall::Recall;
use super::space::Space;
use super::state::State;
use crate::atlas::{Atlas, KeptId};
use crate::base::{Affine, Color, Rect};

/// A stretch of drawing that shares layer, opacity, transform and clip. Scopes nest: what
/// is set for one holds for all within it, and ends with it.
///
/// ```
/// use kerno::{Atlas, Color, FrameBuilder, Point, Rect};
/// use kerno::base::{Affine, Mapping};
/// let mut atlas = Atlas::default();
/// let mut builder = FrameBuilder::new();
/// let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
/// frame.rect(Rect::new(0.0, 0.0, 320.0, 180.0), Color::rgb(12, 18, 30));
/// // A group that is turned, fades as it is said, and stays inside its box.
/// let center = Point::new(160.0, 90.0);
/// let mut group = frame
///     .scope()
///     .clip(Rect::new(40.0, 20.0, 240.0, 140.0))
///     .transform(Affine::rotation(0.2).about(center))
///     .opacity(0.5);
/// group.rect(Rect::new(100.0, 60.0, 120.0, 60.0), Color::WHITE);
/// assert_eq!(builder.finish().batches.len(), 1);
/// ```
#[derive(Debug)]
pub struct Scope<'a> {
    pub(super) now: &'a mut Gathered,
    pub(super) recall: &'a mut Recall,
    pub(super) atlas: &'a mut Atlas,
    pub(super) state: State,
}

impl Scope<'_> {
    /// A scope within this one, as this one is until something else is said.
    pub fn scope(&mut self) -> Scope<'_> {
        Scope {
            now: self.now,
            recall: self.recall,
            atlas: self.atlas,
            state: self.state,
        }
    }

    /// Raises everything in the scope by a number of layers, below the layers around it
    /// where it is negative: what is on a higher layer lies above what is on a lower one,
    /// whatever was drawn first.
    #[must_use]
    pub fn layer(mut self, by: i32) -> Self {
        self.state.layer = self.state.layer.saturating_add(by);
        self
    }

    /// Multiplies the opacity by a number from 0 to 1 (CSS `opacity`, part by part: where
    /// parts overlap, the lower one shows through).
    #[must_use]
    pub fn opacity(mut self, opacity: f32) -> Self {
        self.state.opacity *= opacity.clamp(0.0, 1.0);
        self
    }

    /// A scope within this one whose parts are drawn by themselves, opaque, and laid over
    /// what is below as one, at an opacity from 0 to 1 (CSS `opacity`): where parts overlap,
    /// nothing shows through. It costs a pass of its own, over all of the target, and parts
    /// the frame into batches; at most 1,024 in a frame, of which more than that fade part by
    /// part. Layers within it are its own.
    #[must_use]
    pub fn group(&mut self, opacity: f32) -> Scope<'_> {
        let whole = (self.state.opacity * opacity.clamp(0.0, 1.0) * 255.0).round() as u8;
        let mut scope = self.scope();
        if whole == 255 || scope.now.groups.len() >= MOST_GROUPS {
            return scope.opacity(opacity);
        }
        scope.now.groups.push(Group {
            parent: scope.state.group,
            layer: scope.state.layer,
            opacity: whole,
            first: scope.now.layers.len() as u32,
        });
        scope.state.group = scope.now.groups.len() as GroupNumber;
        scope.state.opacity = if whole == 0 { 0.0 } else { 1.0 };
        scope
    }

    /// Transforms everything in the scope, in its design pixels, before the transforms
    /// around it. Text and sprites that stay upright keep their sharp edges; what is turned,
    /// skewed, mirrored or stretched goes from pixel to pixel smoothly. A transform that
    /// flattens the plane, or with a number that is not finite, draws nothing.
    #[must_use]
    pub fn transform(mut self, transform: Affine) -> Self {
        self.state.way = self.state.way.after(transform, &self.state.mapping);
        self
    }

    /// Says that everything in the scope moves from frame to frame, or that it stands still.
    /// Text that stands still is put on whole pixels, with sharp edges. Text that moves glides between
    /// them: it keeps its inner spacing on the way, and letters come in few sizes, so that a
    /// text that grows does not fill the atlas.
    #[must_use]
    pub fn moving(mut self, is_moving: bool) -> Self {
        self.state.way = self.state.way.moving(is_moving, &self.state.mapping);
        self
    }

    /// Makes light letters heavier and dark ones thinner, or below 0 the other way, from -1
    /// to 1; default 0. Blended as colours are stored, letters at 1 give the light that linear
    /// blending gives; in [linear light](super::Blending::LinearLight), letters at -1 weigh
    /// to the eye the same light on dark and dark on light. It changes the edges of the
    /// letters' fill, by what the vertex says: the same on every renderer.
    #[must_use]
    pub fn text_contrast(mut self, contrast: f32) -> Self {
        let is_number = !contrast.is_nan();
        self.state.contrast = if is_number {
            contrast.clamp(-1.0, 1.0)
        } else {
            0.0
        };
        self
    }

    /// Cuts everything in the scope off at a rectangle of its design pixels, as they are
    /// when this is said: a transform that is said later moves the drawing under it. It
    /// breaks no batch.
    #[must_use]
    pub fn clip(mut self, rect: Rect) -> Self {
        self.state.clip = self.state.clipped(rect, &mut self.now.clips);
        self
    }

    /// Shows what is drawn in the scope, or hides all of it.
    #[must_use]
    pub fn visible(mut self, is_visible: bool) -> Self {
        self.state.opacity *= if is_visible { 1.0 } else { 0.0 };
        self
    }

    /// The atlas that the frame is drawn from.
    pub fn atlas(&mut self) -> &mut Atlas {
        self.atlas
    }

    /// Returns whether nothing in the scope can be seen.
    pub(super) fn is_hidden(&self) -> bool {
        // Not by a comparison that fails for what is no number.
        !matches!(
            self.state.opacity.partial_cmp(&0.0),
            Some(std::cmp::Ordering::Greater)
        )
    }

    /// A colour as a vertex has it.
    pub(super) fn shaded(&self, color: Color) -> [u8; 4] {
        premultiplied(color, self.state.opacity)
    }

    pub(super) fn push(&mut self, quad: Quad, space: &Space, picture: KeptId) {
        let State {
            layer, clip, group, ..
        } = self.state;
        self.now.enter(group);
        self.now.push(quad, space, (layer, clip), picture);
    }
}
