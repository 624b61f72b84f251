//! The one pipeline for every kind of quad, and the one that lays groups over what is below.

use wgpu::{
    BindGroupLayout, BindGroupLayoutDescriptor, BindGroupLayoutEntry, BindingType, BlendComponent,
    BlendFactor, BlendOperation, BlendState, BufferBindingType, ColorTargetState, ColorWrites,
    CompareFunction, DepthStencilState, Device, FragmentState, MultisampleState,
    PipelineLayoutDescriptor, PrimitiveState, RenderPipeline, RenderPipelineDescriptor,
    SamplerBindingType, ShaderModule, ShaderModuleDescriptor, ShaderSource, ShaderStages,
    TextureFormat, TextureSampleType, TextureViewDimension, VertexAttribute, VertexBufferLayout,
    VertexState, VertexStepMode,
};

use crate::Target;

/// Layouts and pipelines for a target.
#[derive(Debug)]
pub(crate) struct Pipelines {
    /// Quads of the window, in the caller's pass.
    pub(crate) quads: RenderPipeline,
    /// Quads in the world, in the caller's pass.
    pub(crate) quads_in_world: RenderPipeline,
    /// Quads in a pass of the renderer's own, which has no depth buffer.
    pub(crate) own_quads: RenderPipeline,
    pub(crate) quad_layout: BindGroupLayout,
    pub(crate) group: RenderPipeline,
    pub(crate) group_layout: BindGroupLayout,
}

/// Premultiplied “over”.
const OVER: BlendComponent = BlendComponent {
    src_factor: BlendFactor::One,
    dst_factor: BlendFactor::OneMinusSrcAlpha,
    operation: BlendOperation::Add,
};

/// A vertex as `docs/drawing.md` has it.
const ATTRIBUTES: [VertexAttribute; 4] = wgpu::vertex_attr_array![
    0 => Float32x2, 1 => Uint16x2, 2 => Unorm8x4, 3 => Uint8x4
];

impl Pipelines {
    pub(crate) fn new(device: &Device, target: &Target) -> Self {
        let [quad_layout, group_layout] = layouts(device);
        let quads = [include_str!("frame.wgsl"), include_str!("light.wgsl")].join("\n");
        let quads = module(device, &quads);
        let group = module(device, include_str!("group.wgsl"));
        let corners = VertexBufferLayout {
            array_stride: size_of::<kerno::draw::Vertex>() as u64,
            step_mode: VertexStepMode::Vertex,
            attributes: &ATTRIBUTES,
        };
        let fragment = match target.holds_light() {
            true => "pixel_in_light",
            false => "pixel",
        };
        let quads = |depth| {
            let stages = (&quads, fragment);
            pipeline(
                (device, target),
                &quad_layout,
                stages,
                &[Some(corners.clone())],
                depth,
            )
        };
        let always = |(format, _)| (format, CompareFunction::Always);
        Self {
            quads: quads(target.depth.map(always)),
            quads_in_world: quads(target.depth),
            own_quads: quads(None),
            group: pipeline(
                (device, target),
                &group_layout,
                (&group, "pixel"),
                &[],
                None,
            ),
            quad_layout,
            group_layout,
        }
    }
}

/// The resources of quads, and those of groups.
fn layouts(device: &Device) -> [BindGroupLayout; 2] {
    let uniform = entry(
        0,
        BindingType::Buffer {
            ty: BufferBindingType::Uniform,
            has_dynamic_offset: false,
            min_binding_size: None,
        },
    );
    let sampler = entry(3, BindingType::Sampler(SamplerBindingType::Filtering));
    let quads = device.create_bind_group_layout(&BindGroupLayoutDescriptor {
        label: Some("kerno quads"),
        entries: &[
            uniform,
            entry(1, texture(TextureViewDimension::D2Array)),
            entry(2, texture(TextureViewDimension::D2Array)),
            sampler,
        ],
    });
    let group = device.create_bind_group_layout(&BindGroupLayoutDescriptor {
        label: Some("kerno group"),
        entries: &[uniform, entry(1, texture(TextureViewDimension::D2))],
    });
    [quads, group]
}

fn module(device: &Device, source: &str) -> ShaderModule {
    device.create_shader_module(ShaderModuleDescriptor {
        label: Some("kerno"),
        source: ShaderSource::Wgsl(source.into()),
    })
}

fn entry(binding: u32, ty: BindingType) -> BindGroupLayoutEntry {
    BindGroupLayoutEntry {
        binding,
        visibility: ShaderStages::VERTEX_FRAGMENT,
        ty,
        count: None,
    }
}

fn texture(view_dimension: TextureViewDimension) -> BindingType {
    BindingType::Texture {
        sample_type: TextureSampleType::Float { filterable: true },
        view_dimension,
        multisampled: false,
    }
}

fn pipeline(
    (device, target): (&Device, &Target),
    layout: &BindGroupLayout,
    (module, fragment): (&ShaderModule, &str),
    buffers: &[Option<VertexBufferLayout<'_>>],
    depth: Option<(TextureFormat, CompareFunction)>,
) -> RenderPipeline {
    let layout = device.create_pipeline_layout(&PipelineLayoutDescriptor {
        label: Some("kerno"),
        bind_group_layouts: &[Some(layout)],
        immediate_size: 0,
    });
    device.create_render_pipeline(&RenderPipelineDescriptor {
        label: Some("kerno"),
        layout: Some(&layout),
        vertex: VertexState {
            module,
            entry_point: Some("corner"),
            compilation_options: Default::default(),
            buffers,
        },
        primitive: PrimitiveState::default(),
        depth_stencil: depth.map(|(format, test)| DepthStencilState {
            format,
            depth_write_enabled: Some(false),
            depth_compare: Some(test),
            stencil: Default::default(),
            bias: Default::default(),
        }),
        multisample: MultisampleState {
            count: target.samples,
            ..MultisampleState::default()
        },
        fragment: Some(FragmentState {
            module,
            entry_point: Some(fragment),
            compilation_options: Default::default(),
            targets: &[Some(ColorTargetState {
                format: target.format,
                blend: Some(BlendState {
                    color: OVER,
                    alpha: OVER,
                }),
                write_mask: ColorWrites::ALL,
            })],
        }),
        multiview_mask: None,
        cache: None,
    })
}
