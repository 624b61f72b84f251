//! Gathers frames.

use super::arrange::{arrange, corners};
use super::clip::Clip;
use super::gathered::Gathered;

use super::recall::Recall;
use super::scope::Scope;
use super::state::{State, Way};
use super::{Batch, Frame, Pass};
use crate::atlas::Atlas;
#[cfg(feature = "screens")]
use crate::atlas::KeptId;
use crate::base::{Affine, DeviceRect, DeviceSize, Mapping, OpenSpan};

/// Gathers frames, one after another. Keep one: it keeps its memory, so a warm frame
/// allocates nothing, and a text that is drawn as it was in the frame before costs little
/// more than a copy.
///
/// ```no_run
/// use kerno::{Anchor, Atlas, DrawText, Face, FrameBuilder, Point, Style, TextLayout};
/// use kerno::base::Mapping;
/// let face = Face::from_file("fonts/Lato-Medium.ttf")?;
/// let score = TextLayout::new("Fares 1,250", &Style::new(&face, 20.0))?;
/// let mut atlas = Atlas::default();
/// let mut builder = FrameBuilder::new();
/// // Every frame:
/// let mut frame = builder.begin(&mut atlas, Mapping::uniform(2.0));
/// frame.text(&score, DrawText::at(Point::new(308.0, 12.0), Anchor::TOP_RIGHT))?;
/// let frame = builder.finish();
/// println!("{} quads in {} draw calls", frame.quad_count(), frame.batches.len());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Debug, Default)]
pub struct FrameBuilder {
    pub(super) now: Gathered,
    pub(super) recall: Recall,
    /// For every quad its layer and number, where layers are mixed; the number keeps
    /// equals in order.
    order: Vec<(i32, u32)>,
    /// Of quads in the order in which they came.
    plain_indices: Vec<u32>,
    sorted_indices: Vec<u32>,
    batches: Vec<Batch>,
    /// The window of the frame at hand, where it is known.
    window: Option<DeviceRect>,
    /// Pictures of a frame that is repeated, each once.
    #[cfg(feature = "screens")]
    pub(super) used: Vec<KeptId>,
    span: OpenSpan,
}

impl FrameBuilder {
    /// A builder without any memory yet.
    pub fn new() -> Self {
        Self::default()
    }

    /// Begins a frame, in the atlas too: what it has is kept as long as frames use it. The
    /// scope that comes back is all of the window, on layer 0, opaque; `mapping` leads from
    /// design pixels to the window.
    pub fn begin<'a>(&'a mut self, atlas: &'a mut Atlas, mapping: Mapping) -> Scope<'a> {
        self.begin_with(atlas, mapping, None)
    }

    /// As [`FrameBuilder::begin`], for a window of a size: lines of texts that lie outside of it
    /// are not gathered, so that a long text costs what is seen of it.
    pub fn begin_in<'a>(
        &'a mut self,
        atlas: &'a mut Atlas,
        mapping: Mapping,
        window: DeviceSize,
    ) -> Scope<'a> {
        self.begin_with(atlas, mapping, Some(window))
    }

    fn begin_with<'a>(
        &'a mut self,
        atlas: &'a mut Atlas,
        mapping: Mapping,
        window: Option<DeviceSize>,
    ) -> Scope<'a> {
        self.window = window.map(|window| DeviceRect {
            left: 0.0,
            top: 0.0,
            right: window.width as f32,
            bottom: window.height as f32,
        });
        self.span.begin_frame();
        atlas.begin_frame();
        #[cfg(feature = "screens")]
        self.used.clear();
        self.recall.begin(&mut self.now, atlas.stamp());
        self.resume(atlas, mapping)
    }

    /// Goes on with the frame that was begun, with the atlas that it was begun in: for callers
    /// that can't hold a scope from one call to the next.
    pub fn resume<'a>(&'a mut self, atlas: &'a mut Atlas, mapping: Mapping) -> Scope<'a> {
        Scope {
            now: &mut self.now,
            recall: &mut self.recall,
            atlas,
            state: State {
                mapping,
                way: Way::new(&mapping, Affine::IDENTITY, false),
                layer: 0,
                opacity: 1.0,
                clip: Clip::default(),
                window: self.window,
                group: 0,
                contrast: 0.0,
            },
        }
    }

    /// The frame: its quads in painter's order.
    pub fn finish(&mut self) -> Frame<'_> {
        self.span.end();
        if !self.now.groups.is_empty() {
            self.sorted_indices.clear();
            self.batches.clear();
            arrange(&self.now, &mut self.sorted_indices, &mut self.batches);
            return Frame {
                vertices: &self.now.vertices,
                indices: &self.sorted_indices,
                batches: &self.batches,
            };
        }
        let layers = &self.now.layers;
        let count = layers.len();
        let indices = if layers.is_sorted() {
            let first = self.plain_indices.len() / 6;
            self.plain_indices
                .extend((first..count).flat_map(|quad| corners(quad as u32)));
            &self.plain_indices[..count * 6]
        } else {
            self.order.clear();
            self.order.extend(layers.iter().copied().zip(0..));
            self.order.sort_unstable();
            self.sorted_indices.clear();
            self.sorted_indices
                .extend(self.order.iter().flat_map(|(_, quad)| corners(*quad)));
            &self.sorted_indices
        };
        self.batches.clear();
        if count > 0 {
            self.batches.push(Batch {
                indices: 0..indices.len() as u32,
                pass: Pass::Same,
            });
        }
        Frame {
            vertices: &self.now.vertices,
            indices,
            batches: &self.batches,
        }
    }
}
