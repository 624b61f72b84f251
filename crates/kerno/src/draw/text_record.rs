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
    pub(super) quads: Range<usize>,
}

impl TextKey {
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
