//! The window and its keys.

use std::sync::Arc;
use std::time::{Duration, Instant};

use kerno::DeviceSize;
use kerno::base::{DevicePoint, full_message};
use notify::RecommendedWatcher;
use winit::application::ApplicationHandler;
use winit::dpi::PhysicalSize;
use winit::error::EventLoopError;
use winit::event::{ElementState, KeyEvent, MouseScrollDelta, WindowEvent};
use winit::event_loop::{ActiveEventLoop, ControlFlow, EventLoop};
use winit::keyboard::{Key, NamedKey};
use winit::window::{Window, WindowId};

use super::ViewArgs;
use super::gpu::Gpu;
use super::overlay::{Overlay, Shown};
use super::subject::Subject;
use super::watch::{Saved, watch};
use crate::error::CliError;

/// Quiet time after a file was written: an editor writes several times.
const QUIET: Duration = Duration::from_millis(80);

/// Time that a note stays.
const NOTE: Duration = Duration::from_secs(2);

/// A step while time stands still.
const STEP: f64 = 1.0 / 60.0;

/// The longest step: a window that was covered does not catch up.
const LONGEST: f64 = 0.25;

/// Pixels that an arrow key or a notch of the wheel scrolls.
const NOTCH: f32 = 60.0;

/// Opens the window, and stays until it is closed.
pub(super) fn run(args: &ViewArgs) -> Result<(), CliError> {
    // A file that can't be shown at all is told before there is a window.
    let subject = Subject::open(args)?;
    let overlay = Overlay::new()?;
    let events = EventLoop::with_user_event().build();
    let events = events.map_err(|error| event_loop_error(&error))?;
    let watcher = watch(&args.file, events.create_proxy());
    let watcher = watcher
        .inspect_err(|error| {
            eprintln!("kerno: the folder is not watched: {}", full_message(&error));
        })
        .ok();
    let mut app = App {
        args,
        subject,
        overlay,
        place: None,
        failure: None,
        error: None,
        note: None,
        pointer: None,
        saved: None,
        last: Instant::now(),
        text_scale: args.text_scale,
        boxes: false,
        paused: false,
        times: false,
        keys: false,
        _watcher: watcher,
    };
    let done = events.run_app(&mut app);
    match app.failure {
        Some(failure) => Err(failure),
        None => done.map_err(|error| event_loop_error(&error)),
    }
}

/// The window with what draws on it.
struct Place {
    window: Arc<Window>,
    gpu: Gpu,
}

struct App<'a> {
    args: &'a ViewArgs,
    subject: Subject,
    overlay: Overlay,
    place: Option<Place>,
    /// Why the window can't go on.
    failure: Option<CliError>,
    /// The error in the file as it is now; the last good state is shown.
    error: Option<String>,
    note: Option<(String, Instant)>,
    pointer: Option<DevicePoint>,
    /// The time at which a file was written last, until it is read.
    saved: Option<Instant>,
    last: Instant,
    text_scale: f32,
    boxes: bool,
    paused: bool,
    times: bool,
    keys: bool,
    _watcher: Option<RecommendedWatcher>,
}

impl ApplicationHandler<Saved> for App<'_> {
    fn resumed(&mut self, events: &ActiveEventLoop) {
        let made = self.open(events);
        self.stop_at(made, events);
    }

    fn user_event(&mut self, _: &ActiveEventLoop, _: Saved) {
        self.saved = Some(Instant::now());
    }

    fn window_event(&mut self, events: &ActiveEventLoop, _: WindowId, event: WindowEvent) {
        match event {
            WindowEvent::CloseRequested => events.exit(),
            WindowEvent::Resized(size) => {
                if let Some(place) = &mut self.place {
                    place.gpu.resize(DeviceSize::new(size.width, size.height));
                }
            }
            WindowEvent::CursorMoved { position, .. } => {
                self.pointer = Some(DevicePoint::new(position.x as f32, position.y as f32));
            }
            WindowEvent::CursorLeft { .. } => self.pointer = None,
            WindowEvent::MouseWheel { delta, .. } => {
                let (across, down) = match delta {
                    MouseScrollDelta::LineDelta(x, y) => (x * NOTCH, y * NOTCH),
                    MouseScrollDelta::PixelDelta(by) => (by.x as f32, by.y as f32),
                };
                self.subject.scroll(-across, -down);
            }
            WindowEvent::KeyboardInput { event, .. } if event.state == ElementState::Pressed => {
                if is_close(&event) {
                    events.exit();
                } else if let Err(error) = self.press(&event) {
                    tell_error(&mut self.error, &error);
                }
            }
            WindowEvent::RedrawRequested => {
                let drawn = self.draw(events);
                self.stop_at(drawn, events);
            }
            _ => {}
        }
    }

    fn about_to_wait(&mut self, events: &ActiveEventLoop) {
        if self.saved.is_some_and(|saved| saved.elapsed() >= QUIET) {
            self.saved = None;
            self.reload(true);
        }
        events.set_control_flow(ControlFlow::WaitUntil(
            Instant::now() + Duration::from_millis(8),
        ));
        if let Some(place) = &self.place {
            place.window.request_redraw();
        }
    }
}

/// Keeps an error to be shown in the window, and tells it in the terminal once.
fn tell_error(kept: &mut Option<String>, error: &CliError) {
    let message = full_message(error);
    if kept.as_ref() != Some(&message) {
        eprintln!("kerno: {message}");
        *kept = Some(message);
    }
}

/// Why the system gives no window, without the place in the source of its library.
fn event_loop_error(error: &EventLoopError) -> CliError {
    let text = error.to_string();
    let reason = text
        .rsplit_once(": ")
        .map_or(text.as_str(), |(_, reason)| reason);
    CliError::Window(reason.into())
}

fn is_close(event: &KeyEvent) -> bool {
    matches!(&event.logical_key, Key::Named(NamedKey::Escape))
        || matches!(&event.logical_key, Key::Character(key) if key.eq_ignore_ascii_case("q"))
}

impl App<'_> {
    fn open(&mut self, events: &ActiveEventLoop) -> Result<(), CliError> {
        let wrong = |error: Box<dyn std::error::Error + Send + Sync>| CliError::Window(error);
        let size = self.args.window.0;
        let attributes = Window::default_attributes()
            .with_title(self.title())
            .with_inner_size(PhysicalSize::new(size.width, size.height));
        let window = events.create_window(attributes);
        let window = Arc::new(window.map_err(|error| wrong(error.into()))?);
        let gpu = Gpu::new(&window, events.owned_display_handle()).map_err(wrong)?;
        self.place = Some(Place { window, gpu });
        self.last = Instant::now();
        self.tell("H lists the keys");
        Ok(())
    }

    fn stop_at(&mut self, done: Result<(), CliError>, events: &ActiveEventLoop) {
        if let Err(error) = done {
            self.failure = Some(error);
            events.exit();
        }
    }

    fn title(&self) -> String {
        let name = self.args.file.file_name().unwrap_or_default();
        format!("{} - kerno view", name.to_string_lossy())
    }

    /// Shows a note for a while.
    fn tell(&mut self, note: &str) {
        self.note = Some((note.to_owned(), Instant::now()));
    }

    /// Reads the file again. Where it is wrong, what was shown stays, and the error is told.
    fn reload(&mut self, keeps_place: bool) {
        match Subject::open(self.args) {
            Ok(mut subject) => {
                if keeps_place {
                    subject.keep_place(&self.subject);
                }
                self.subject = subject;
                self.error = None;
                self.tell("read again");
                if let Some(place) = &mut self.place {
                    place.gpu.forget();
                }
            }
            Err(error) => tell_error(&mut self.error, &error),
        }
    }

    fn press(&mut self, event: &KeyEvent) -> Result<(), CliError> {
        match &event.logical_key {
            Key::Named(NamedKey::Space | NamedKey::Enter) => {
                if let Some(live) = self.subject.live() {
                    live.press()?;
                }
            }
            Key::Named(NamedKey::ArrowLeft) => self.subject.scroll(-NOTCH, 0.0),
            Key::Named(NamedKey::ArrowRight) => self.subject.scroll(NOTCH, 0.0),
            Key::Named(NamedKey::ArrowUp) => self.subject.scroll(0.0, -NOTCH),
            Key::Named(NamedKey::ArrowDown) => self.subject.scroll(0.0, NOTCH),
            Key::Named(NamedKey::F1) => self.keys = !self.keys,
            Key::Character(key) => {
                let key = key.to_lowercase();
                self.press_character(&key)?;
            }
            _ => {}
        }
        Ok(())
    }

    fn press_character(&mut self, key: &str) -> Result<(), CliError> {
        match key {
            "l" => {
                if let Some(live) = self.subject.live() {
                    live.next_language()?;
                    let language = live.language().to_owned();
                    self.tell(&format!("language {language}"));
                }
            }
            "+" | "=" => self.scale_text(self.text_scale + 0.25),
            "-" => self.scale_text(self.text_scale - 0.25),
            "0" => self.scale_text(1.0),
            "b" => self.boxes = !self.boxes,
            "h" => self.keys = !self.keys,
            "t" => self.times = !self.times,
            "r" => self.reload(false),
            "p" => {
                self.paused = !self.paused;
                self.tell(if self.paused { "paused" } else { "goes on" });
            }
            "." if self.paused => {
                self.subject.advance(STEP)?;
                self.tell("one step of 1/60 s");
            }
            digit => {
                let answer = digit
                    .parse::<usize>()
                    .ok()
                    .and_then(|number| number.checked_sub(1));
                if let (Some(answer), Some(live)) = (answer, self.subject.live()) {
                    live.choose(answer)?;
                }
            }
        }
        Ok(())
    }

    fn scale_text(&mut self, scale: f32) {
        self.text_scale = scale.clamp(0.5, 3.0);
        self.tell(&format!("text scale {}", self.text_scale));
    }

    fn draw(&mut self, events: &ActiveEventLoop) -> Result<(), CliError> {
        let now = Instant::now();
        let seconds = now.duration_since(self.last).as_secs_f64().min(LONGEST);
        self.last = now;
        if !self.paused
            && let Err(error) = self.subject.advance(seconds)
        {
            tell_error(&mut self.error, &error);
        }
        let Some(place) = &mut self.place else {
            return Ok(());
        };
        if place.gpu.is_lost() {
            place.gpu =
                Gpu::new(&place.window, events.owned_display_handle()).map_err(CliError::Window)?;
        }
        let Some(texture) = place.gpu.begin() else {
            return Ok(());
        };
        let window = place.gpu.size();
        let start = Instant::now();
        let hovered = self.pointer.and_then(|at| self.subject.hovered(at));
        let boxes = if self.boxes {
            self.subject.boxes()
        } else {
            Vec::new()
        };
        let shown = match self.subject.frame(window, self.text_scale) {
            Ok(shown) => Some(shown),
            Err(error) => {
                tell_error(&mut self.error, &error);
                None
            }
        };
        let gathered = start.elapsed().as_secs_f32();
        self.note.take_if(|(_, since)| since.elapsed() > NOTE);
        let over = Shown {
            hovered,
            boxes,
            error: self.error.as_deref(),
            note: match &self.note {
                Some((note, _)) => Some(note),
                None => self.paused.then_some("paused"),
            },
            times: self.times,
            keys: self.keys,
        };
        let scale = place.window.scale_factor() as f32;
        let over = self.overlay.frame(window, scale, &over)?;
        let took = place.gpu.draw(texture, self.args.background, shown, over);
        let took = took.map_err(CliError::Window)?;
        self.overlay
            .times
            .record(&[gathered, took.upload, took.encode]);
        Ok(())
    }
}
