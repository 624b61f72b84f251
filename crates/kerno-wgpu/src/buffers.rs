//! Buffers of a frame: its vertices, its indices and the numbers that the shaders read.

use kerno::draw::Frame;
use wgpu::{
    BindGroup, Buffer, BufferDescriptor, BufferUsages, Device, IndexFormat, Queue, RenderPass,
};

use crate::RenderError;

/// A buffer with a copy of its content, so that the same is not uploaded twice.
#[derive(Debug)]
struct CachedBuffer {
    buffer: Buffer,
    bytes: Vec<u8>,
    usage: BufferUsages,
}

impl CachedBuffer {
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

/// The uniform of `frame.wgsl`.
#[repr(C)]
#[derive(Clone, Copy, Debug, PartialEq, bytemuck::Pod, bytemuck::Zeroable)]
pub(crate) struct Uniform {
    /// Device pixels to clip space, column by column.
    pub(crate) transform: [[f32; 4]; 4],
    /// Size of a mask page, in texels.
    pub(crate) mask_size: [f32; 2],
    /// Size of a colour page, in texels.
    pub(crate) color_size: [f32; 2],
    /// Light of a white pixel, on targets that hold light.
    pub(crate) white: f32,
    pub(crate) unused: [f32; 3],
}

/// Buffers of one frame.
#[derive(Debug)]
pub(crate) struct FrameBuffers {
    vertices: CachedBuffer,
    indices: CachedBuffer,
    pub(crate) uniform: Buffer,
    written: Option<Uniform>,
    /// The buffers and pages as the shaders see them, and the pages' generation.
    bound: Option<(BindGroup, u64)>,
}

impl FrameBuffers {
    pub(crate) fn new(device: &Device) -> Self {
        Self {
            vertices: CachedBuffer::new(device, BufferUsages::VERTEX),
            indices: CachedBuffer::new(device, BufferUsages::INDEX),
            uniform: buffer(device, size_of::<Uniform>() as u64, BufferUsages::UNIFORM),
            written: None,
            bound: None,
        }
    }

    /// Uploads a frame as far as it changed; returns the number of bytes.
    pub(crate) fn write(
        &mut self,
        (device, queue): (&Device, &Queue),
        frame: &Frame<'_>,
        uniform: Uniform,
    ) -> Result<u64, RenderError> {
        let vertices = bytemuck::cast_slice(frame.vertices);
        let indices = bytemuck::cast_slice(frame.indices);
        let written = self.vertices.write(device, queue, vertices)?
            + self.indices.write(device, queue, indices)?;
        if self.written != Some(uniform) {
            queue.write_buffer(&self.uniform, 0, bytemuck::bytes_of(&uniform));
            self.written = Some(uniform);
        }
        Ok(written)
    }

    /// Returns whether the shaders see the pages of a generation.
    pub(crate) fn is_bound(&self, generation: u64) -> bool {
        self.bound
            .as_ref()
            .is_some_and(|bound| bound.1 == generation)
    }

    pub(crate) fn bind(&mut self, group: BindGroup, generation: u64) {
        self.bound = Some((group, generation));
    }

    /// Makes the buffers those of a pass; does nothing before anything was written.
    pub(crate) fn set(&self, pass: &mut RenderPass<'_>) {
        let Some((bound, _)) = &self.bound else {
            return;
        };
        pass.set_bind_group(0, bound, &[]);
        pass.set_vertex_buffer(0, self.vertices.buffer.slice(..));
        pass.set_index_buffer(self.indices.buffer.slice(..), IndexFormat::Uint32);
    }

    /// Forgets what was uploaded: all is uploaded again.
    pub(crate) fn forget(&mut self) {
        self.vertices.bytes.clear();
        self.indices.bytes.clear();
    }
}
