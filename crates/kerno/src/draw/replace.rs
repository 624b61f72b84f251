//! Texts of a frame that are made again in their place.

use std::ops::Range;

use super::scope::Scope;
use super::state::State;
use super::{DrawText, FrameBuilder};
use crate::atlas::{Atlas, AtlasError};
use crate::text::TextLayout;

/// A text in a frame, to be made again in its place.
#[derive(Clone, Debug)]
pub(crate) struct TextPlace {
    state: State,
    quads: Range<usize>,
}

impl Scope<'_> {
    /// Draws a text, and says where in the frame it is.
    pub(crate) fn placed_text(
        &mut self,
        layout: &TextLayout,
        draw: DrawText,
    ) -> Result<TextPlace, AtlasError> {
        let first = self.now.layers.len();
        self.text(layout, draw)?;
        Ok(TextPlace {
            state: self.state,
            quads: first..self.now.layers.len(),
        })
    }
}

impl FrameBuilder {
    /// Begins a frame in the atlas that is the same as the one before; returns false where the
    /// atlas changed, so that it has to be gathered anew.
    pub(crate) fn repeat(&mut self, atlas: &mut Atlas) -> bool {
        if !self.recall.is_of(atlas.stamp()) {
            return false;
        }
        atlas.begin_frame();
        if self.used.is_empty() {
            self.used.clone_from(&self.now.pictures);
            self.used.sort_unstable();
            self.used.dedup();
        }
        atlas.touch(&self.used);
        true
    }

    /// Makes a text of a repeated frame again; returns false where it has more quads or
    /// fewer, or the atlas changed, so that the frame has to be gathered anew.
    pub(crate) fn replace_text(
        &mut self,
        atlas: &mut Atlas,
        place: &TextPlace,
        (layout, draw): (&TextLayout, DrawText),
    ) -> Result<bool, AtlasError> {
        // The quads of groups lie in runs, which what is drawn meanwhile would part.
        if !self.now.groups.is_empty() {
            return Ok(false);
        }
        let first = self.now.layers.len();
        let mut scope = Scope {
            now: &mut self.now,
            recall: &mut self.recall,
            atlas: &mut *atlas,
            state: place.state,
        };
        let done = match scope.is_hidden() {
            true => Ok(()),
            false => scope.lay_out(layout, draw, None).map(|_| ()),
        };
        let now = &mut self.now;
        let is_like =
            now.layers.len() - first == place.quads.len() && self.recall.is_of(atlas.stamp());
        if is_like {
            let start = place.quads.start;
            now.vertices.copy_within(first * 4.., start * 4);
            now.pictures.copy_within(first.., start);
            now.layers.copy_within(first.., start);
        }
        now.vertices.truncate(first * 4);
        now.pictures.truncate(first);
        now.layers.truncate(first);
        self.used.clear();
        done.map(|()| is_like)
    }
}
