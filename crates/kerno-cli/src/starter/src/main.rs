//! A window with the HUD of `assets/hud.toml` and the scene of `assets/scene.toml`.

use std::error::Error;
use std::num::NonZero;
use std::rc::Rc;
use std::time::Instant;

use kerno::dialogue::{SceneEvent, ScenePlayer};
use kerno::screen::Screen;
use kerno::{Atlas, Canvas, Color, DeviceSize};
use softbuffer::{Context, Surface};
use winit::application::ApplicationHandler;
use winit::event::{ElementState, WindowEvent};
use winit::event_loop::{ActiveEventLoop, ControlFlow, EventLoop};
use winit::keyboard::{Key, NamedKey};
use winit::window::{Window, WindowId};

const ASSETS: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/assets");

fn main() -> Result<(), Box<dyn Error>> {
    let events = EventLoop::new()?;
    events.set_control_flow(ControlFlow::Poll);
    events.run_app(&mut Game::open()?)?;
    Ok(())
}

struct Game {
    atlas: Atlas,
    hud: Screen,
    talk: ScenePlayer,
    score: u32,
    last: Instant,
    shown: Option<Shown>,
}

/// The window, and its pixels in memory: a game has its own renderer here.
struct Shown {
    window: Rc<Window>,
    surface: Surface<Rc<Window>, Rc<Window>>,
}

impl Game {
    fn open() -> Result<Self, Box<dyn Error>> {
        let mut atlas = Atlas::default();
        let mut hud = Screen::from_file(format!("{ASSETS}/hud.toml"), &mut atlas)?;
        // The box says how much of a line fits on a page.
        let view = hud.viewport(DeviceSize::new(1280, 720))?;
        hud.arrange(&view, &atlas)?;
        let room = hud.dialogue_room("line").ok_or("hud.toml has no dialogue")?;
        let talk = ScenePlayer::from_file(format!("{ASSETS}/scene.toml"), room)?;
        let (score, last, shown) = (1284, Instant::now(), None);
        Ok(Self { atlas, hud, talk, score, last, shown })
    }

    fn show(&mut self, events: &ActiveEventLoop) -> Result<(), Box<dyn Error>> {
        let window = events.create_window(Window::default_attributes().with_title("Kerno"))?;
        let window = Rc::new(window);
        let context = Context::new(window.clone())?;
        let surface = Surface::new(&context, window.clone())?;
        self.shown = Some(Shown { window, surface });
        Ok(())
    }

    /// A key was pressed: the values that the HUD shows are the game's.
    fn press(&mut self, key: &Key) -> Result<(), Box<dyn Error>> {
        if *key == Key::Named(NamedKey::Space) {
            self.talk.press(&mut |_: SceneEvent<'_>| {})?;
        } else {
            self.score += 125;
            self.hud.set("score", self.score)?;
            self.hud.set("health", f64::from(self.score % 1000) / 1000.0)?;
        }
        Ok(())
    }

    /// One frame: time goes on, then all is drawn for the window's real pixels.
    fn frame(&mut self) -> Result<(), Box<dyn Error>> {
        let seconds = self.last.elapsed().as_secs_f64();
        self.last = Instant::now();
        self.talk.advance(seconds, &mut |_: SceneEvent<'_>| {})?;
        self.hud.show_dialogue("line", &self.talk)?;
        self.hud.advance(seconds);
        let Some(Shown { window, surface }) = &mut self.shown else {
            return Ok(());
        };
        let size = window.inner_size();
        let (Some(width), Some(height)) = (NonZero::new(size.width), NonZero::new(size.height))
        else {
            return Ok(()); // Minimised.
        };
        let size = DeviceSize::new(size.width, size.height);
        let view = self.hud.viewport(size)?;
        let mut canvas = Canvas::try_new(size)?;
        canvas.clear(Color::rgb(22, 34, 46));
        canvas.draw(self.hud.frame(&mut self.atlas, &view)?, &self.atlas);
        surface.resize(width, height)?;
        let mut pixels = surface.buffer_mut()?;
        for (pixel, [red, green, blue, _]) in pixels.iter_mut().zip(canvas.pixels()) {
            *pixel = u32::from_be_bytes([0, *red, *green, *blue]);
        }
        pixels.present()?;
        Ok(())
    }
}

impl ApplicationHandler for Game {
    fn resumed(&mut self, events: &ActiveEventLoop) {
        stop_at(self.show(events), events);
    }

    fn window_event(&mut self, events: &ActiveEventLoop, _: WindowId, event: WindowEvent) {
        match event {
            WindowEvent::CloseRequested => events.exit(),
            WindowEvent::KeyboardInput { event, .. } if event.state == ElementState::Pressed => {
                stop_at(self.press(&event.logical_key), events);
            }
            WindowEvent::RedrawRequested => stop_at(self.frame(), events),
            _ => {}
        }
    }

    fn about_to_wait(&mut self, _: &ActiveEventLoop) {
        if let Some(shown) = &self.shown {
            shown.window.request_redraw();
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
