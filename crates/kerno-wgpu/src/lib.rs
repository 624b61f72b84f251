//! Draws the frames of Kerno on a GPU, by wgpu: one pipeline for every kind of quad, pages
//! uploaded as far as they changed, vertices in one buffer that is used again.
//!
//! In: the caller's device, queue and render pass, a [frame](kerno::draw::Frame) and the
//! [atlas](kerno::Atlas) it
//! was gathered with. Out: the pixels of the canvas, within 2/255 a channel.
//!
//! ```no_run
//! # fn draw(
//! #     device: &wgpu::Device, queue: &wgpu::Queue, view: &wgpu::TextureView,
//! #     atlas: &mut kerno::Atlas, builder: &mut kerno::FrameBuilder,
//! # ) -> Result<(), kerno_wgpu::RenderError> {
//! use kerno_wgpu::{Renderer, Target};
//! let target = Target::new(wgpu::TextureFormat::Rgba8Unorm, kerno::DeviceSize::new(1280, 720));
//! let mut renderer = Renderer::new(device, target);
//! // Every frame, after `FrameBuilder::finish`:
//! let frame = builder.finish();
//! let mut encoder = device.create_command_encoder(&Default::default());
//! renderer.draw(device, queue, &mut encoder, view, &frame, atlas)?;
//! queue.submit([encoder.finish()]);
//! # Ok(())
//! # }
//! ```
//!
//! Without groups a frame is one draw call in the caller's own pass: [`Renderer::prepare`] and
//! [`Renderer::draw_in_pass`]. A frame that stands in the world is drawn under the caller's own
//! matrix: [`WorldFrame`]. On a small adapter, make the atlas with [`atlas_options`].

#![forbid(unsafe_code)]

mod buffers;
mod error;
mod groups;
mod pages;
mod pipeline;
mod renderer;
mod target;
mod world;

pub use error::RenderError;
pub use renderer::Renderer;
pub use target::{Target, atlas_options};
pub use world::WorldFrame;
