//! Targets of groups, which fade as one.

use kerno::DeviceSize;
use wgpu::{
    BindGroup, BindGroupDescriptor, BindGroupEntry, BindingResource, BufferDescriptor,
    BufferUsages, Device, Extent3d, Queue, TextureDescriptor, TextureDimension, TextureUsages,
    TextureView, TextureViewDescriptor,
};

use crate::Target;
use crate::pipeline::Pipelines;

/// A target of a group, of the size of the window.
#[derive(Debug)]
pub(crate) struct GroupTarget {
    pub(crate) view: TextureView,
    /// The picture that several samples are resolved to.
    pub(crate) resolved: Option<TextureView>,
    size: DeviceSize,
}

impl GroupTarget {
    pub(crate) fn new(device: &Device, target: &Target) -> Self {
        let make = |samples| {
            let texture = device.create_texture(&TextureDescriptor {
                label: Some("kerno group"),
                size: Extent3d {
                    width: target.size.width,
                    height: target.size.height,
                    depth_or_array_layers: 1,
                },
                mip_level_count: 1,
                sample_count: samples,
                dimension: TextureDimension::D2,
                format: target.format,
                // Only what is resolved is read: a texture of several samples that could be
                // read stays empty on OpenGL.
                usage: match samples {
                    1 => TextureUsages::RENDER_ATTACHMENT | TextureUsages::TEXTURE_BINDING,
                    _ => TextureUsages::RENDER_ATTACHMENT,
                },
                view_formats: &[],
            });
            texture.create_view(&TextureViewDescriptor::default())
        };
        Self {
            view: make(target.samples),
            resolved: (target.samples > 1).then(|| make(1)),
            size: target.size,
        }
    }

    /// Returns whether it has the size of a target.
    pub(crate) fn fits(&self, target: &Target) -> bool {
        self.size == target.size
    }

    /// The resources that draw it over the target below, at an opacity from 0 to 255.
    pub(crate) fn drawn(
        &self,
        (device, queue): (&Device, &Queue),
        pipelines: &Pipelines,
        opacity: u8,
    ) -> BindGroup {
        let share = f32::from(opacity) / 255.0;
        let uniform = device.create_buffer(&BufferDescriptor {
            label: Some("kerno group"),
            size: 16,
            usage: BufferUsages::UNIFORM | BufferUsages::COPY_DST,
            mapped_at_creation: false,
        });
        queue.write_buffer(&uniform, 0, bytemuck::bytes_of(&[share, 0.0, 0.0, 0.0]));
        let view = self.resolved.as_ref().unwrap_or(&self.view);
        device.create_bind_group(&BindGroupDescriptor {
            label: Some("kerno group"),
            layout: &pipelines.group_layout,
            entries: &[
                BindGroupEntry {
                    binding: 0,
                    resource: uniform.as_entire_binding(),
                },
                BindGroupEntry {
                    binding: 1,
                    resource: BindingResource::TextureView(view),
                },
            ],
        })
    }
}
