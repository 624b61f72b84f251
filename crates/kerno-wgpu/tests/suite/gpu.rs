//! A device without a window, and pixels of its textures.

use kerno::DeviceSize;
use wgpu::{
    BufferDescriptor, BufferUsages, CommandEncoderDescriptor, Device, DeviceDescriptor, Extent3d,
    Instance, InstanceDescriptor, Limits, LoadOp, MapMode, Operations, PollType, Queue,
    RenderPassColorAttachment, RenderPassDescriptor, RequestAdapterOptions, StoreOp,
    TexelCopyBufferInfo, TexelCopyBufferLayout, Texture, TextureDescriptor, TextureDimension,
    TextureFormat, TextureUsages,
};

/// A device without a window: that of the software adapter where there is no other.
pub(crate) fn device() -> (Device, Queue) {
    open(None)
}

/// A device of some limits.
pub(crate) fn device_of(limits: Limits) -> (Device, Queue) {
    open(Some(limits))
}

fn open(limits: Option<Limits>) -> (Device, Queue) {
    let instance = Instance::new(InstanceDescriptor::new_without_display_handle());
    let adapter = pollster::block_on(instance.request_adapter(&RequestAdapterOptions::default()));
    let adapter = adapter.expect(
        "a graphics adapter, without which nothing is tested: install Mesa's software drivers",
    );
    let own = Limits::downlevel_defaults().using_resolution(adapter.limits());
    let options = DeviceDescriptor {
        required_limits: limits.unwrap_or(own),
        ..DeviceDescriptor::default()
    };
    pollster::block_on(adapter.request_device(&options)).expect("a device")
}

pub(crate) const SIZE: DeviceSize = DeviceSize::new(640, 360);

pub(crate) fn target(device: &Device, format: TextureFormat) -> Texture {
    target_of_samples(device, format, 1)
}

pub(crate) fn target_of_samples(device: &Device, format: TextureFormat, samples: u32) -> Texture {
    device.create_texture(&TextureDescriptor {
        label: None,
        size: Extent3d {
            width: SIZE.width,
            height: SIZE.height,
            depth_or_array_layers: 1,
        },
        mip_level_count: 1,
        sample_count: samples,
        dimension: TextureDimension::D2,
        format,
        usage: match samples {
            1 if !format.is_depth_stencil_format() => {
                TextureUsages::RENDER_ATTACHMENT | TextureUsages::COPY_SRC
            }
            _ => TextureUsages::RENDER_ATTACHMENT,
        },
        view_formats: &[],
    })
}

/// The pixels of a texture.
pub(crate) fn read<P: bytemuck::Pod>(device: &Device, queue: &Queue, texture: &Texture) -> Vec<P> {
    // Rows of 2,560 or 5,120 bytes, which are multiples of 256.
    let row = SIZE.width * size_of::<P>() as u32;
    let buffer = device.create_buffer(&BufferDescriptor {
        label: None,
        size: u64::from(row * SIZE.height),
        usage: BufferUsages::COPY_DST | BufferUsages::MAP_READ,
        mapped_at_creation: false,
    });
    let mut encoder = device.create_command_encoder(&CommandEncoderDescriptor::default());
    encoder.copy_texture_to_buffer(
        texture.as_image_copy(),
        TexelCopyBufferInfo {
            buffer: &buffer,
            layout: TexelCopyBufferLayout {
                offset: 0,
                bytes_per_row: Some(row),
                rows_per_image: None,
            },
        },
        texture.size(),
    );
    queue.submit([encoder.finish()]);
    buffer
        .slice(..)
        .map_async(MapMode::Read, |done| done.expect("mapped"));
    let wait = PollType::Wait {
        submission_index: None,
        timeout: None,
    };
    device.poll(wait).expect("done");
    let bytes = buffer
        .slice(..)
        .get_mapped_range()
        .expect("mapped")
        .to_vec();
    bytemuck::cast_slice(&bytes).to_vec()
}

/// Clears a texture to an opaque colour.
pub(crate) fn clear(device: &Device, queue: &Queue, texture: &Texture, color: wgpu::Color) {
    let mut encoder = device.create_command_encoder(&CommandEncoderDescriptor::default());
    let view = texture.create_view(&Default::default());
    encoder.begin_render_pass(&RenderPassDescriptor {
        color_attachments: &[Some(RenderPassColorAttachment {
            view: &view,
            depth_slice: None,
            resolve_target: None,
            ops: Operations {
                load: LoadOp::Clear(color),
                store: StoreOp::Store,
            },
        })],
        ..RenderPassDescriptor::default()
    });
    queue.submit([encoder.finish()]);
}
