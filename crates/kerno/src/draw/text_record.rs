//! Texts of a frame, to be known again in the next one.

use std::ops::Range;

use super::DrawText;
use super::state::State;
use crate::base::Stamp;
use crate::text::TextLayout;

/// Everything that says where the quads of a text are and what they show.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct TextKey {
    layout: Stamp,
    draw: DrawText,
    /// With its layer and its group set aside.
    state: State,
}

/// A text of a frame and its quads.
#[derive(Clone, Debug)]
pub(super) struct TextRecord {
    pub(super) key: TextKey,
    /// True if lines that are not seen are missing.
    pub(super) is_partial: bool,
    pub(super) quads: Range<usize>,
}

impl TextRecord {
    /// The way to a text whose quads are these, moved.
    pub(super) fn way_to(&self, other: &TextKey) -> Option<[f32; 2]> {
        let way = self.key.way_to(other);
        way.filter(|_| !self.is_partial || self.key.draw == other.draw)
    }
}

impl TextKey {
    /// The way to a text that is the same, or the same but for its place, where that is a
    /// whole number of device pixels away and nothing is cut: its quads are the same, moved.
    fn way_to(&self, other: &Self) -> Option<[f32; 2]> {
        if self.layout != other.layout || self.state != other.state {
            return None;
        }
        if self.draw == other.draw {
            return Some([0.0; 2]);
        }
        let at = other.draw.at;
        let draw = DrawText { at, ..self.draw };
        if draw != other.draw || !self.state.keeps_shape_uncut() {
            return None;
        }
        let (from, to) = (self.state.device(self.draw.at), self.state.device(at));
        let way = [to.x - from.x, to.y - from.y];
        let is_whole = way.iter().all(|way| (way - way.round()).abs() < 1e-3);
        is_whole.then(|| way.map(f32::round))
    }

    /// Of a text that is drawn where it may be recalled: turned parts of the window are
    /// numbered anew in every frame.
    pub(super) fn new(layout: &TextLayout, draw: DrawText, state: &State) -> Option<Self> {
        state.clip.turned.is_none().then(|| Self {
            layout: layout.stamp(),
            draw,
            state: State {
                layer: 0,
                group: 0,
                ..*state
            },
        })
    }
}
