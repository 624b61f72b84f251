//! A score in the top right corner of a window whose pixels are drawn in memory: no GPU.
//!
//!     cargo run --release -p kerno-wgpu --example window_without_gpu

use std::error::Error;
use std::num::NonZero;
use std::rc::Rc;

use kerno::text::{Effect, Fill};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, Fit, FrameBuilder, Offset, Size,
    Style, TextLayout, Viewport,
};
use softbuffer::{Context, Surface};
use winit::application::ApplicationHandler;
use winit::event::{ElementState, WindowEvent};
use winit::event_loop::{ActiveEventLoop, EventLoop};
use winit::window::{Window, WindowId};

const FONT: &str = concat!(
    env!("CARGO_MANIFEST_DIR"),
    "/demo/ferry/fonts/AveriaSerifGWF-Bold.ttf"
);

fn main() -> Result<(), Box<dyn Error>> {
    let face = Face::from_file(FONT)?;
    let style = Style::new(&face, 26.0).effects(vec![
        Effect::outline(2.0, Color::rgb(58, 29, 16)),
        Effect::Fill(Fill::default().color(Color::rgb(255, 207, 112))),
    ]);
    let mut app = App {
        score: TextLayout::new("Fares 0", &style)?,
        fares: 0,
        atlas: Atlas::default(),
        builder: FrameBuilder::new(),
        shown: None,
    };
    EventLoop::new()?.run_app(&mut app)?;
    Ok(())
}

struct App {
    score: TextLayout,
    fares: u32,
    atlas: Atlas,
    builder: FrameBuilder,
    shown: Option<Shown>,
}

/// The window and its pixels.
struct Shown {
    window: Rc<Window>,
    surface: Surface<Rc<Window>, Rc<Window>>,
}

impl App {
    fn open(&mut self, events: &ActiveEventLoop) -> Result<(), Box<dyn Error>> {
        let title = "Press a key: fares come in";
        let window = events.create_window(Window::default_attributes().with_title(title))?;
        let window = Rc::new(window);
        let context = Context::new(window.clone())?;
        let surface = Surface::new(&context, window.clone())?;
        self.shown = Some(Shown { window, surface });
        Ok(())
    }

    fn draw(&mut self) -> Result<(), Box<dyn Error>> {
        let Some(Shown { window, surface }) = &mut self.shown else {
            return Ok(());
        };
        let size = window.inner_size();
        let (Some(width), Some(height)) = (NonZero::new(size.width), NonZero::new(size.height))
        else {
            return Ok(()); // Minimised.
        };
        let size = DeviceSize::new(size.width, size.height);
        let view = Viewport::new(Size::new(640.0, 360.0), size, Fit::Contain)?;
        let mut frame = self.builder.begin(&mut self.atlas, view.mapping());
        let corner = view.place(Anchor::TOP_RIGHT, Offset::new(-12.0, 12.0));
        frame.text(&self.score, DrawText::at(corner, Anchor::TOP_RIGHT))?;
        let mut canvas = Canvas::try_new(size)?;
        canvas.clear(Color::rgb(16, 30, 44));
        canvas.draw(self.builder.finish(), &self.atlas);

        surface.resize(width, height)?;
        let mut pixels = surface.buffer_mut()?;
        for (pixel, [red, green, blue, _]) in pixels.iter_mut().zip(canvas.pixels()) {
            *pixel = u32::from_be_bytes([0, *red, *green, *blue]);
        }
        pixels.present()?;
        Ok(())
    }
}

impl ApplicationHandler for App {
    fn resumed(&mut self, events: &ActiveEventLoop) {
        stop_at(self.open(events), events);
    }

    fn window_event(&mut self, events: &ActiveEventLoop, _: WindowId, event: WindowEvent) {
        match event {
            WindowEvent::CloseRequested => events.exit(),
            WindowEvent::KeyboardInput { event, .. } if event.state == ElementState::Pressed => {
                self.fares += 125;
                let words = format!("Fares {}", self.fares);
                stop_at(self.score.set_text(0, &words).map_err(Into::into), events);
                if let Some(shown) = &self.shown {
                    shown.window.request_redraw();
                }
            }
            WindowEvent::RedrawRequested => stop_at(self.draw(), events),
            _ => {}
        }
    }
}

/// Tells an error and ends the program.
fn stop_at(done: Result<(), Box<dyn Error>>, events: &ActiveEventLoop) {
    if let Err(error) = done {
        eprintln!("{error}");
        events.exit();
    }
}
