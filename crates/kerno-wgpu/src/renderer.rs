//! The renderer.

use kerno::Atlas;
use kerno::atlas::PageKind;
use kerno::draw::{Frame, Pass};
use wgpu::{
    BindGroup, BindGroupDescriptor, BindGroupEntry, BindingResource, Buffer, BufferDescriptor,
    BufferUsages, Color, CommandEncoder, Device, FilterMode, IndexFormat, LoadOp, Operations,
    Queue, RenderPass, RenderPassColorAttachment, RenderPassDescriptor, Sampler, SamplerDescriptor,
    StoreOp, TextureView,
};

use crate::groups::GroupTarget;
use crate::pages::Pages;
use crate::pipeline::Pipelines;
use crate::{RenderError, Target};

/// Draws frames on a GPU. One renderer is for one device and one format of target; it keeps a
/// copy of one atlas.
#[derive(Debug)]
pub struct Renderer {
    target: Target,
    pipelines: Pipelines,
    sampler: Sampler,
    /// Sizes of the window and of the pages.
    uniform: Buffer,
    sizes: [f32; 8],
    masks: Pages,
    colors: Pages,
    bound: BindGroup,
    vertices: Kept,
    indices: Kept,
    groups: Vec<GroupTarget>,
    uploaded: u64,
}

/// A buffer with what is in it, so that the same is not uploaded twice.
#[derive(Debug)]
struct Kept {
    buffer: Buffer,
    bytes: Vec<u8>,
    usage: BufferUsages,
}

impl Kept {
    fn new(device: &Device, usage: BufferUsages) -> Self {
        Self {
            buffer: buffer(device, 4096, usage),
            bytes: Vec::new(),
            usage,
        }
    }

    /// Uploads what is other than before; returns the number of bytes.
    fn write(&mut self, device: &Device, queue: &Queue, bytes: &[u8]) -> Result<u64, RenderError> {
        if self.bytes == bytes {
            return Ok(0);
        }
        let wanted = bytes.len() as u64;
        let most = device.limits().max_buffer_size;
        if wanted > most {
            return Err(RenderError::TooManyQuads {
                bytes: wanted,
                most,
            });
        }
        if wanted > self.buffer.size() {
            let size = wanted.next_power_of_two().min(most);
            self.buffer = buffer(device, size, self.usage);
        }
        queue.write_buffer(&self.buffer, 0, bytes);
        self.bytes.clear();
        self.bytes.extend_from_slice(bytes);
        Ok(wanted)
    }
}

fn buffer(device: &Device, size: u64, usage: BufferUsages) -> Buffer {
    device.create_buffer(&BufferDescriptor {
        label: Some("kerno"),
        size,
        usage: usage | BufferUsages::COPY_DST,
        mapped_at_creation: false,
    })
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
        let uniform = buffer(device, 32, BufferUsages::UNIFORM);
        let masks = Pages::new(device, PageKind::Mask);
        let colors = Pages::new(device, PageKind::Color);
        let bound = bind(device, &pipelines, (&uniform, &sampler), [&masks, &colors]);
        Self {
            target,
            pipelines,
            sampler,
            uniform,
            sizes: [0.0; 8],
            masks,
            colors,
            bound,
            vertices: Kept::new(device, BufferUsages::VERTEX),
            indices: Kept::new(device, BufferUsages::INDEX),
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

    /// Forgets what was uploaded: after the device was lost, or for another atlas.
    pub fn forget(&mut self) {
        self.masks.forget();
        self.colors.forget();
        self.vertices.bytes.clear();
        self.indices.bytes.clear();
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
        let masks = self.masks.upload(device, queue, atlas)?;
        let colors = self.colors.upload(device, queue, atlas)?;
        if masks || colors {
            let pages = [&self.masks, &self.colors];
            let shared = (&self.uniform, &self.sampler);
            self.bound = bind(device, &self.pipelines, shared, pages);
        }
        let vertices = bytemuck::cast_slice(frame.vertices);
        self.uploaded += self.vertices.write(device, queue, vertices)?;
        let indices = bytemuck::cast_slice(frame.indices);
        self.uploaded += self.indices.write(device, queue, indices)?;
        let size = self.target.size;
        let [mask_width, mask_height] = self.masks.size();
        let [color_width, color_height] = self.colors.size();
        let sizes = [
            size.width as f32,
            size.height as f32,
            mask_width,
            mask_height,
            color_width,
            color_height,
            0.0,
            0.0,
        ];
        if sizes != self.sizes {
            queue.write_buffer(&self.uniform, 0, bytemuck::bytes_of(&sizes));
            self.sizes = sizes;
        }
        Ok(())
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
        if frame.batches.iter().any(|batch| batch.pass != Pass::Same) {
            return Err(RenderError::HasGroups);
        }
        if self.target.is_empty() || frame.indices.is_empty() {
            return Ok(());
        }
        self.bind_quads(pass);
        for batch in frame.batches {
            pass.draw_indexed(batch.indices.clone(), 0, 0..1);
        }
        Ok(())
    }

    fn bind_quads(&self, pass: &mut RenderPass<'_>) {
        pass.set_pipeline(&self.pipelines.quads);
        pass.set_bind_group(0, &self.bound, &[]);
        pass.set_vertex_buffer(0, self.vertices.buffer.slice(..));
        pass.set_index_buffer(self.indices.buffer.slice(..), IndexFormat::Uint32);
    }

    /// Prepares a frame and draws it over what is on a view, in passes of its own: one, and two
    /// more for each group.
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
        if self.target.is_empty() {
            return Ok(());
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
            if !own.is_empty() {
                self.bind_quads(&mut pass);
                for batch in own {
                    pass.draw_indexed(batch.indices.clone(), 0, 0..1);
                }
            }
            drop(pass);
            let Some((turn, later)) = after.split_first() else {
                return Ok(());
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

fn bind(
    device: &Device,
    pipelines: &Pipelines,
    (uniform, sampler): (&Buffer, &Sampler),
    [masks, colors]: [&Pages; 2],
) -> BindGroup {
    device.create_bind_group(&BindGroupDescriptor {
        label: Some("kerno"),
        layout: &pipelines.quad_layout,
        entries: &[
            BindGroupEntry {
                binding: 0,
                resource: uniform.as_entire_binding(),
            },
            BindGroupEntry {
                binding: 1,
                resource: BindingResource::TextureView(&masks.view),
            },
            BindGroupEntry {
                binding: 2,
                resource: BindingResource::TextureView(&colors.view),
            },
            BindGroupEntry {
                binding: 3,
                resource: BindingResource::Sampler(sampler),
            },
        ],
    })
}
