//! The demo HUD in a window, drawn on the GPU: it holds its corners while the window is
//! resized, and T shows what its frames take.
//!
//!     cargo run --release -p kerno-wgpu --example window

use std::error::Error;
use std::sync::Arc;
use std::time::Instant;

use kerno::base::Mapping;
use kerno::screen::{FrameTimes, Screen, ScreenDescription};
use kerno::{Atlas, DeviceSize, Face, FrameBuilder, Rect};
use kerno_wgpu::{Renderer, Target, atlas_options};
use wgpu::{CurrentSurfaceTexture, Device, Queue, Surface, SurfaceConfiguration};
use winit::application::ApplicationHandler;
use winit::event::{ElementState, WindowEvent};
use winit::event_loop::{ActiveEventLoop, EventLoop};
use winit::keyboard::Key;
use winit::window::{Window, WindowId};

const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");

fn main() -> Result<(), Box<dyn Error>> {
    EventLoop::new()?.run_app(&mut App(None))?;
    Ok(())
}

struct App(Option<Game>);

impl ApplicationHandler for App {
    fn resumed(&mut self, events: &ActiveEventLoop) {
        match Game::new(events) {
            Ok(game) => self.0 = Some(game),
            Err(error) => {
                eprintln!("{error}");
                events.exit();
            }
        }
    }

    fn window_event(&mut self, events: &ActiveEventLoop, _: WindowId, event: WindowEvent) {
        let Some(game) = &mut self.0 else { return };
        match event {
            WindowEvent::CloseRequested => events.exit(),
            WindowEvent::Resized(size) => game.resize(DeviceSize::new(size.width, size.height)),
            WindowEvent::KeyboardInput { event, .. } if event.state == ElementState::Pressed => {
                game.shows_times ^= event.logical_key == Key::Character("t".into());
            }
            WindowEvent::RedrawRequested => {
                if let Err(error) = game.draw() {
                    eprintln!("{error}");
                    events.exit();
                }
            }
            _ => {}
        }
    }
}

struct Game {
    window: Arc<Window>,
    surface: Surface<'static>,
    config: SurfaceConfiguration,
    device: Device,
    queue: Queue,
    atlas: Atlas,
    screen: Screen,
    renderer: Renderer,
    /// The chart of times, with an atlas and a renderer of its own.
    times: FrameTimes,
    chart: (Atlas, FrameBuilder, Renderer),
    shows_times: bool,
    last: Instant,
    fares: f64,
}

impl Game {
    fn new(events: &ActiveEventLoop) -> Result<Self, Box<dyn Error>> {
        let attributes = Window::default_attributes().with_title("Lamplight Ferry");
        let window = Arc::new(events.create_window(attributes)?);
        let display = Box::new(events.owned_display_handle());
        let instance =
            wgpu::Instance::new(wgpu::InstanceDescriptor::new_with_display_handle(display));
        let surface = instance.create_surface(window.clone())?;
        let options = wgpu::RequestAdapterOptions {
            compatible_surface: Some(&surface),
            ..Default::default()
        };
        let adapter = pollster::block_on(instance.request_adapter(&options))?;
        let limits = wgpu::Limits::downlevel_defaults().using_resolution(adapter.limits());
        let options = wgpu::DeviceDescriptor {
            required_limits: limits.clone(),
            ..Default::default()
        };
        let (device, queue) = pollster::block_on(adapter.request_device(&options))?;
        let size = window.inner_size();
        let config = surface.get_default_config(&adapter, size.width.max(1), size.height.max(1));
        let mut config = config.ok_or("the window can't be drawn on")?;
        // Blending in sRGB as it is stored, if the window offers such a format.
        config.format = config.format.remove_srgb_suffix();
        surface.configure(&device, &config);

        let mut atlas = Atlas::new(atlas_options(&limits))?;
        let hud = format!("{FERRY}/hud.toml");
        let sprites = ScreenDescription::from_file(&hud)?.sprite_source();
        kerno::bake::add_sprites(sprites.ok_or("no sprites")?, &mut atlas)?;
        let screen = Screen::from_file(&hud, &mut atlas)?;
        let target = Target::new(config.format, DeviceSize::new(size.width, size.height));
        let face = Face::from_file(format!("{FERRY}/fonts/Lato-Medium.ttf"))?;
        let chart = (
            Atlas::default(),
            FrameBuilder::new(),
            Renderer::new(&device, target),
        );
        Ok(Self {
            renderer: Renderer::new(&device, target),
            times: FrameTimes::new(&face, &["frame", "upload", "encode"])?.budget(0.002),
            chart,
            shows_times: false,
            last: Instant::now(),
            fares: 1284.0,
            window,
            surface,
            config,
            device,
            queue,
            atlas,
            screen,
        })
    }

    fn resize(&mut self, size: DeviceSize) {
        self.renderer.resize(size);
        self.chart.2.resize(size);
        // A window that is minimised has no size; its surface stays as it is.
        if size.width > 0 && size.height > 0 {
            (self.config.width, self.config.height) = (size.width, size.height);
            self.surface.configure(&self.device, &self.config);
        }
        self.window.request_redraw();
    }

    fn draw(&mut self) -> Result<(), Box<dyn Error>> {
        self.window.request_redraw();
        let texture = match self.surface.get_current_texture() {
            CurrentSurfaceTexture::Success(texture)
            | CurrentSurfaceTexture::Suboptimal(texture) => texture,
            CurrentSurfaceTexture::Outdated | CurrentSurfaceTexture::Lost => {
                self.surface.configure(&self.device, &self.config);
                return Ok(());
            }
            _ => return Ok(()),
        };
        let start = Instant::now();
        let seconds = start.duration_since(self.last).as_secs_f64();
        self.last = start;
        self.fares += seconds * 3.0;
        self.screen.set("fares", self.fares.floor())?;
        self.screen.advance(seconds);

        let (device, queue) = (&self.device, &self.queue);
        let view = self.screen.viewport(self.renderer.target().size)?;
        let frame = self.screen.frame(&mut self.atlas, &view)?;
        let built = Instant::now();
        self.renderer.prepare(device, queue, &frame, &self.atlas)?;
        let uploaded = Instant::now();
        let mut encoder = device.create_command_encoder(&Default::default());
        let target = texture.texture.create_view(&Default::default());
        let mut pass = encoder.begin_render_pass(&wgpu::RenderPassDescriptor {
            color_attachments: &[Some(wgpu::RenderPassColorAttachment {
                view: &target,
                depth_slice: None,
                resolve_target: None,
                ops: wgpu::Operations {
                    load: wgpu::LoadOp::Clear(wgpu::Color {
                        r: 0.06,
                        g: 0.12,
                        b: 0.17,
                        a: 1.0,
                    }),
                    store: wgpu::StoreOp::Store,
                },
            })],
            ..Default::default()
        });
        self.renderer.draw_in_pass(&mut pass, &frame)?;
        drop(pass);
        let encoded = Instant::now();
        let since = |from: Instant, to: Instant| to.duration_since(from).as_secs_f32();
        self.times.record(&[
            since(start, built),
            since(built, uploaded),
            since(uploaded, encoded),
        ]);

        if self.shows_times {
            self.draw_times(&mut encoder, &target)?;
        }
        self.queue.submit([encoder.finish()]);
        self.window.pre_present_notify();
        self.queue.present(texture);
        Ok(())
    }

    fn draw_times(
        &mut self,
        encoder: &mut wgpu::CommandEncoder,
        target: &wgpu::TextureView,
    ) -> Result<(), Box<dyn Error>> {
        let (atlas, builder, renderer) = &mut self.chart;
        let scale = self.window.scale_factor() as f32;
        let mut scope = builder.begin(atlas, Mapping::uniform(scale));
        self.times
            .draw(&mut scope, Rect::new(12.0, 120.0, 230.0, 110.0))?;
        let frame = builder.finish();
        renderer.draw(&self.device, &self.queue, encoder, target, &frame, atlas)?;
        Ok(())
    }
}
