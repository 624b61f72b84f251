//! Texts that are drawn as they were in the frame before.

use super::Vertex;
use super::gathered::Gathered;
use super::text_record::{TextKey, TextRecord};
use crate::atlas::Atlas;
use crate::base::Stamp;

/// The number of texts of the frame before that are looked through for the one at hand:
/// mostly the same ones come in the same order.
const REACH: usize = 16;

/// The frame before, and the texts in it.
#[derive(Clone, Debug, Default)]
pub(super) struct Recall {
    last: Gathered,
    /// The state of the atlas that both frames were gathered with.
    stamp: Option<Stamp>,
    /// The text of the frame before that is expected next.
    next: usize,
}

impl Recall {
    /// Begins a frame: the one that was gathered becomes the one before.
    pub(super) fn begin(&mut self, now: &mut Gathered, stamp: Stamp) {
        std::mem::swap(&mut self.last, now);
        now.clear();
        if self.stamp != Some(stamp) {
            self.last.texts.clear();
        }
        self.stamp = Some(stamp);
        self.next = 0;
    }

    /// Returns whether its frames were gathered with an atlas in some state.
    #[cfg(feature = "screens")]
    pub(super) fn is_of(&self, stamp: Stamp) -> bool {
        self.stamp == Some(stamp)
    }

    /// Copies a text of the frame before, if it is as it was or stands some pixels away, and
    /// returns whether it did.
    pub(super) fn copy(
        &mut self,
        key: &TextKey,
        layer: i32,
        now: &mut Gathered,
        atlas: &mut Atlas,
    ) -> bool {
        if self.stamp != Some(atlas.stamp()) {
            return false;
        }
        let texts = self.last.texts.get(self.next..).unwrap_or_default();
        let ways = texts.iter().take(REACH).map(|text| text.way_to(key));
        let found = ways.enumerate().find_map(|(at, way)| Some((at, way?)));
        let Some((found, way)) = found else {
            return false;
        };
        let quads = texts[found].quads.clone();
        self.next += found + 1;
        let first = now.layers.len();
        let vertices = &self.last.vertices[quads.start * 4..quads.end * 4];
        match way == [0.0; 2] {
            true => now.vertices.extend_from_slice(vertices),
            false => now.vertices.extend(vertices.iter().map(|vertex| {
                let [x, y] = vertex.position;
                Vertex {
                    position: [x + way[0], y + way[1]],
                    ..*vertex
                }
            })),
        }
        let pictures = &self.last.pictures[quads];
        now.pictures.extend_from_slice(pictures);
        atlas.touch(pictures);
        let count = first + pictures.len();
        now.layers.resize(count, layer);
        now.texts.push(TextRecord {
            key: *key,
            is_partial: texts[found].is_partial,
            quads: first..count,
        });
        true
    }

    /// Keeps a text whose quads were gathered from `first` on.
    pub(super) fn keep(key: TextKey, is_partial: bool, first: usize, now: &mut Gathered) {
        now.texts.push(TextRecord {
            key,
            is_partial,
            quads: first..now.layers.len(),
        });
    }
}
