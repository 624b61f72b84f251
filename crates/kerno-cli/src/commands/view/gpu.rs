//! A window's surface, and the device that draws on it.

use std::error::Error;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::Instant;

use kerno::draw::Frame;
use kerno::{Atlas, Color, DeviceSize};
use kerno_wgpu::{Renderer, Target};
use wgpu::{
    CurrentSurfaceTexture, Device, DeviceDescriptor, Instance, InstanceDescriptor, Limits, LoadOp,
    Operations, Queue, RenderPassColorAttachment, RenderPassDescriptor, RequestAdapterOptions,
    StoreOp, Surface, SurfaceConfiguration, SurfaceTexture, TextureView,
};
use winit::event_loop::OwnedDisplayHandle;
use winit::window::Window;

type Failure = Box<dyn Error + Send + Sync>;

/// The surface of a window, with two renderers: for what is shown, and for what lies over it.
pub(super) struct Gpu {
    surface: Surface<'static>,
    config: SurfaceConfiguration,
    device: Device,
    queue: Queue,
    shown: Renderer,
    over: Renderer,
    size: DeviceSize,
    is_lost: Arc<AtomicBool>,
}

/// Seconds that the parts of a frame took: uploading and encoding.
#[derive(Clone, Copy, Default)]
pub(super) struct Took {
    pub(super) upload: f32,
    pub(super) encode: f32,
}

impl Gpu {
    pub(super) fn new(window: &Arc<Window>, display: OwnedDisplayHandle) -> Result<Self, Failure> {
        let instance = Instance::new(InstanceDescriptor::new_with_display_handle(Box::new(
            display,
        )));
        let surface = instance.create_surface(window.clone())?;
        let options = RequestAdapterOptions {
            compatible_surface: Some(&surface),
            ..RequestAdapterOptions::default()
        };
        let adapter = pollster::block_on(instance.request_adapter(&options))?;
        let options = DeviceDescriptor {
            required_limits: Limits::downlevel_defaults().using_resolution(adapter.limits()),
            ..DeviceDescriptor::default()
        };
        let (device, queue) = pollster::block_on(adapter.request_device(&options))?;
        let is_lost = Arc::new(AtomicBool::new(false));
        let told = is_lost.clone();
        device.set_device_lost_callback(move |_, _| told.store(true, Ordering::Relaxed));
        let size = window.inner_size();
        let size = DeviceSize::new(size.width, size.height);
        let config = surface.get_default_config(&adapter, size.width.max(1), size.height.max(1));
        let mut config = config.ok_or("the adapter can't draw on windows")?;
        config.format = config.format.remove_srgb_suffix();
        surface.configure(&device, &config);
        let target = Target::new(config.format, size);
        Ok(Self {
            shown: Renderer::new(&device, target),
            over: Renderer::new(&device, target),
            surface,
            config,
            device,
            queue,
            size,
            is_lost,
        })
    }

    pub(super) fn size(&self) -> DeviceSize {
        self.size
    }

    /// Returns whether the device was lost: all is to be made anew then.
    pub(super) fn is_lost(&self) -> bool {
        self.is_lost.load(Ordering::Relaxed)
    }

    /// Another atlas from now on.
    pub(super) fn forget(&mut self) {
        self.shown.forget();
    }

    pub(super) fn resize(&mut self, size: DeviceSize) {
        self.size = size;
        self.shown.resize(size);
        self.over.resize(size);
        if size.width > 0 && size.height > 0 {
            (self.config.width, self.config.height) = (size.width, size.height);
            self.surface.configure(&self.device, &self.config);
        }
    }

    /// The next picture of the window; none where it is minimised, or was changed just now.
    pub(super) fn begin(&mut self) -> Option<SurfaceTexture> {
        if self.size.width == 0 || self.size.height == 0 {
            return None;
        }
        match self.surface.get_current_texture() {
            CurrentSurfaceTexture::Success(texture)
            | CurrentSurfaceTexture::Suboptimal(texture) => Some(texture),
            CurrentSurfaceTexture::Outdated | CurrentSurfaceTexture::Lost => {
                self.surface.configure(&self.device, &self.config);
                None
            }
            _ => None,
        }
    }

    /// Draws what is shown and what lies over it.
    pub(super) fn draw(
        &mut self,
        texture: SurfaceTexture,
        background: Color,
        shown: Option<(Frame<'_>, &Atlas)>,
        (over, over_atlas): (Frame<'_>, &Atlas),
    ) -> Result<Took, Failure> {
        let (device, queue) = (&self.device, &self.queue);
        let view = texture.texture.create_view(&Default::default());
        let mut encoder = device.create_command_encoder(&Default::default());
        clear(&mut encoder, &view, background);
        let mut took = Took::default();
        if let Some((frame, atlas)) = shown {
            let start = Instant::now();
            self.shown.prepare(device, queue, &frame, atlas)?;
            let uploaded = Instant::now();
            self.shown
                .draw_prepared(device, queue, &mut encoder, &view, &frame);
            took.upload = uploaded.duration_since(start).as_secs_f32();
            took.encode = uploaded.elapsed().as_secs_f32();
        }
        self.over
            .draw(device, queue, &mut encoder, &view, &over, over_atlas)?;
        queue.submit([encoder.finish()]);
        queue.present(texture);
        Ok(took)
    }
}

fn clear(encoder: &mut wgpu::CommandEncoder, view: &TextureView, color: Color) {
    let channel = |value: u8| f64::from(value) / 255.0;
    let color = wgpu::Color {
        r: channel(color.red),
        g: channel(color.green),
        b: channel(color.blue),
        a: 1.0,
    };
    encoder.begin_render_pass(&RenderPassDescriptor {
        color_attachments: &[Some(RenderPassColorAttachment {
            view,
            depth_slice: None,
            resolve_target: None,
            ops: Operations {
                load: LoadOp::Clear(color),
                store: StoreOp::Store,
            },
        })],
        ..RenderPassDescriptor::default()
    });
}
