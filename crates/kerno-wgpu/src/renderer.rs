//! The renderer.

use kerno::Atlas;
use kerno::atlas::PageKind;
use kerno::draw::{Batch, Frame, Pass};
use wgpu::{
    BindGroup, BindGroupDescriptor, BindGroupEntry, BindingResource, Buffer, Color, CommandEncoder,
    Device, FilterMode, LoadOp, Operations, Queue, RenderPass, RenderPassColorAttachment,
    RenderPassDescriptor, RenderPipeline, Sampler, SamplerDescriptor, StoreOp, TextureView,
};

use crate::WorldFrame;
use crate::buffers::{FrameBuffers, Uniform};
use crate::groups::GroupTarget;
use crate::pages::Pages;
use crate::pipeline::Pipelines;
use crate::{RenderError, Target};

/// Draws frames on a GPU. One renderer is for one device and one format of target; it keeps a
/// copy of one atlas.
///
/// A device that is lost takes its renderers with it: calls on them do nothing that can be
/// seen, and do not panic. Make a new renderer with the new device: the atlas stays as it is,
/// and the next frame uploads it whole.
#[derive(Debug)]
pub struct Renderer {
    target: Target,
    pipelines: Pipelines,
    sampler: Sampler,
    masks: Pages,
    colors: Pages,
    /// Goes up whenever there is another texture for the pages.
    generation: u64,
    window: FrameBuffers,
    groups: Vec<GroupTarget>,
    uploaded: u64,
}

impl Renderer {
    /// A renderer for a target. Nothing is uploaded yet.
    pub fn new(device: &Device, target: Target) -> Self {
        let pipelines = Pipelines::new(device, &target);
        let sampler = device.create_sampler(&SamplerDescriptor {
            label: Some("kerno"),
            mag_filter: FilterMode::Linear,
            min_filter: FilterMode::Linear,
            ..SamplerDescriptor::default()
        });
        Self {
            target,
            pipelines,
            sampler,
            masks: Pages::new(device, PageKind::Mask),
            colors: Pages::new(device, PageKind::Color),
            generation: 1,
            window: FrameBuffers::new(device),
            groups: Vec::new(),
            uploaded: 0,
        }
    }

    /// The target that it draws on.
    pub fn target(&self) -> Target {
        self.target
    }

    /// Draws on a target of another size from now on: a window that was resized. One of
    /// another format or number of samples needs a renderer of its own.
    pub fn resize(&mut self, size: kerno::DeviceSize) {
        self.target.size = size;
    }

    /// Forgets what was uploaded: for another atlas.
    pub fn forget(&mut self) {
        self.masks.forget();
        self.colors.forget();
        self.window.forget();
    }

    /// Bytes of vertices and indices that were uploaded since it was asked last. Those of
    /// pages are counted by the atlas.
    pub fn take_uploaded(&mut self) -> u64 {
        std::mem::take(&mut self.uploaded)
    }

    /// Uploads what a frame needs, as far as it changed. Call it after
    /// [`FrameBuilder::finish`](kerno::FrameBuilder::finish), before the pass begins.
    ///
    /// # Errors
    /// [`RenderError`] where pages or buffers are beyond the adapter's limits.
    pub fn prepare(
        &mut self,
        device: &Device,
        queue: &Queue,
        frame: &Frame<'_>,
        atlas: &Atlas,
    ) -> Result<(), RenderError> {
        self.upload_pages(device, queue, atlas)?;
        let uniform = self.uniform(self.target.transform());
        self.uploaded += self.window.write((device, queue), frame, uniform)?;
        if !self.window.is_bound(self.generation) {
            let group = self.bound(device, &self.window.uniform);
            self.window.bind(group, self.generation);
        }
        Ok(())
    }

    /// Uploads what a frame in the world needs, as far as it changed. The matrix leads from the
    /// frame's device pixels (x, y, 0, 1) to clip space, column by column: the camera's times
    /// the one that places the frame's picture in the world, y down.
    ///
    /// # Errors
    /// As [`Renderer::prepare`].
    pub fn prepare_world(
        &mut self,
        device: &Device,
        queue: &Queue,
        world: &mut WorldFrame,
        matrix: impl Into<[[f32; 4]; 4]>,
        frame: &Frame<'_>,
        atlas: &Atlas,
    ) -> Result<(), RenderError> {
        self.upload_pages(device, queue, atlas)?;
        let uniform = self.uniform(matrix.into());
        self.uploaded += world.buffers.write((device, queue), frame, uniform)?;
        if !world.buffers.is_bound(self.generation) {
            let group = self.bound(device, &world.buffers.uniform);
            world.buffers.bind(group, self.generation);
        }
        Ok(())
    }

    fn upload_pages(
        &mut self,
        device: &Device,
        queue: &Queue,
        atlas: &Atlas,
    ) -> Result<(), RenderError> {
        #[cfg(feature = "tracing")]
        let _span = tracing::debug_span!("upload_pages").entered();
        let masks = self.masks.upload(device, queue, atlas)?;
        let colors = self.colors.upload(device, queue, atlas)?;
        self.generation += u64::from(masks || colors);
        Ok(())
    }

    fn uniform(&self, transform: [[f32; 4]; 4]) -> Uniform {
        Uniform {
            transform,
            mask_size: self.masks.size(),
            color_size: self.colors.size(),
            white: self.target.white,
            unused: [0.0; 3],
        }
    }

    /// The numbers of a frame and the pages, as the shaders see them.
    fn bound(&self, device: &Device, uniform: &Buffer) -> BindGroup {
        let resources = [
            uniform.as_entire_binding(),
            BindingResource::TextureView(&self.masks.view),
            BindingResource::TextureView(&self.colors.view),
            BindingResource::Sampler(&self.sampler),
        ];
        let mut binding = 0..;
        let entries = resources.map(|resource| BindGroupEntry {
            binding: binding.next().unwrap_or_default(),
            resource,
        });
        device.create_bind_group(&BindGroupDescriptor {
            label: Some("kerno"),
            layout: &self.pipelines.quad_layout,
            entries: &entries,
        })
    }

    /// Draws a prepared frame in the caller's own pass, in one draw call a batch: one, as long
    /// as it has no groups.
    ///
    /// # Errors
    /// [`RenderError::HasGroups`] for a frame with groups.
    pub fn draw_in_pass(
        &self,
        pass: &mut RenderPass<'_>,
        frame: &Frame<'_>,
    ) -> Result<(), RenderError> {
        has_no_groups(frame)?;
        if !self.target.is_empty() {
            draw_batches(pass, &self.pipelines.quads, &self.window, frame.batches);
        }
        Ok(())
    }

    /// Draws a prepared frame in the world, in the caller's own pass, in one draw call a batch.
    /// It is hidden by nearer things, if the [target](Target::depth) has a depth buffer.
    ///
    /// # Errors
    /// [`RenderError::HasGroups`] for a frame with groups.
    pub fn draw_world(
        &self,
        pass: &mut RenderPass<'_>,
        world: &WorldFrame,
        frame: &Frame<'_>,
    ) -> Result<(), RenderError> {
        has_no_groups(frame)?;
        let pipeline = &self.pipelines.quads_in_world;
        draw_batches(pass, pipeline, &world.buffers, frame.batches);
        Ok(())
    }

    /// [Prepares](Renderer::prepare) a frame and [draws](Renderer::draw_prepared) it over what
    /// is on a view, in passes of its own.
    ///
    /// # Errors
    /// As [`Renderer::prepare`].
    pub fn draw(
        &mut self,
        device: &Device,
        queue: &Queue,
        encoder: &mut CommandEncoder,
        view: &TextureView,
        frame: &Frame<'_>,
        atlas: &Atlas,
    ) -> Result<(), RenderError> {
        self.prepare(device, queue, frame, atlas)?;
        self.draw_prepared(device, queue, encoder, view, frame);
        Ok(())
    }

    /// Draws a prepared frame over what is on a view, in passes of its own: one, and two more
    /// for each group.
    pub fn draw_prepared(
        &mut self,
        device: &Device,
        queue: &Queue,
        encoder: &mut CommandEncoder,
        view: &TextureView,
        frame: &Frame<'_>,
    ) {
        if self.target.is_empty() {
            return;
        }
        self.make_groups(device, frame);
        // The targets from the view up, and what is to be done on the innermost.
        let mut depth = 0;
        let mut rest = frame.batches;
        let mut over: Option<BindGroup> = None;
        let mut is_new = false;
        loop {
            let count = rest
                .iter()
                .take_while(|batch| batch.pass == Pass::Same)
                .count();
            let (own, after) = rest.split_at(count);
            let (view, resolved) = match depth {
                0 => (view, None),
                depth => {
                    let group = &self.groups[depth - 1];
                    (&group.view, group.resolved.as_ref())
                }
            };
            let mut pass = pass(encoder, view, resolved, is_new);
            if let Some(drawn) = over.take() {
                pass.set_pipeline(&self.pipelines.group);
                pass.set_bind_group(0, &drawn, &[]);
                pass.draw(0..3, 0..1);
            }
            draw_batches(&mut pass, &self.pipelines.own_quads, &self.window, own);
            drop(pass);
            let Some((turn, later)) = after.split_first() else {
                return;
            };
            rest = later;
            is_new = false;
            match turn.pass {
                Pass::Begin => {
                    depth += 1;
                    is_new = true;
                }
                Pass::End { opacity } if depth > 0 => {
                    depth -= 1;
                    let group = &self.groups[depth];
                    over = Some(group.drawn((device, queue), &self.pipelines, opacity));
                }
                _ => {}
            }
        }
    }

    /// Makes a target for each group within another.
    fn make_groups(&mut self, device: &Device, frame: &Frame<'_>) {
        let (mut depth, mut deepest) = (0_usize, 0);
        for batch in frame.batches {
            match batch.pass {
                Pass::Begin => depth += 1,
                Pass::End { .. } => depth = depth.saturating_sub(1),
                _ => {}
            }
            deepest = deepest.max(depth);
        }
        self.groups.retain(|group| group.fits(&self.target));
        while self.groups.len() < deepest {
            self.groups.push(GroupTarget::new(device, &self.target));
        }
    }
}

fn has_no_groups(frame: &Frame<'_>) -> Result<(), RenderError> {
    match frame.batches.iter().all(|batch| batch.pass == Pass::Same) {
        true => Ok(()),
        false => Err(RenderError::HasGroups),
    }
}

fn draw_batches(
    pass: &mut RenderPass<'_>,
    pipeline: &RenderPipeline,
    buffers: &FrameBuffers,
    batches: &[Batch],
) {
    if batches.iter().all(|batch| batch.indices.is_empty()) {
        return;
    }
    pass.set_pipeline(pipeline);
    buffers.set(pass);
    for batch in batches {
        pass.draw_indexed(batch.indices.clone(), 0, 0..1);
    }
}

fn pass<'a>(
    encoder: &'a mut CommandEncoder,
    view: &TextureView,
    resolved: Option<&TextureView>,
    is_new: bool,
) -> RenderPass<'a> {
    encoder.begin_render_pass(&RenderPassDescriptor {
        label: Some("kerno"),
        color_attachments: &[Some(RenderPassColorAttachment {
            view,
            depth_slice: None,
            resolve_target: resolved,
            ops: Operations {
                load: match is_new {
                    true => LoadOp::Clear(Color::TRANSPARENT),
                    false => LoadOp::Load,
                },
                store: StoreOp::Store,
            },
        })],
        ..RenderPassDescriptor::default()
    })
}
