//! Frames that stand in the world.

use wgpu::Device;

use crate::buffers::FrameBuffers;

/// Buffers of a frame that stands in the world, under the caller's own matrix: a sign, a name
/// above a head, a screen on a wall. One is for one frame in a pass;
/// [`Renderer::prepare_world`](crate::Renderer::prepare_world) fills it and
/// [`Renderer::draw_world`](crate::Renderer::draw_world) draws it.
///
/// All frames of a renderer are gathered with its one atlas, each by a
/// [`FrameBuilder`](kerno::FrameBuilder) of its own.
#[derive(Debug)]
pub struct WorldFrame {
    pub(crate) buffers: FrameBuffers,
}

impl WorldFrame {
    /// Buffers with nothing in them.
    pub fn new(device: &Device) -> Self {
        Self {
            buffers: FrameBuffers::new(device),
        }
    }
}
